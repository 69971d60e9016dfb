package build

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"cinderpath/core/form"
	"cinderpath/core/length"
	"cinderpath/core/measure"
)

// overall gives the overall size that an id names; nil for other ids.
func (s *Sizes) overall(id string) *Overall {
	switch id {
	case SetLength:
		return &s.Length
	case SetWidth:
		return &s.Width
	case SetHeight:
		return &s.Height
	}
	return nil
}

// typed is the sizes without what the kit gives for them.
func (s Sizes) typed() [3]measure.Size {
	return [3]measure.Size{s.Length.Size, s.Width.Size, s.Height.Size}
}

// overalls are the dimensions that every vehicle has.
var overalls = []struct{ id, name, along string }{
	{SetLength, "Hull length", measure.AlongLength}, {SetWidth, "Width", measure.AlongWidth}, {SetHeight, "Height", measure.AlongHeight},
}

// sheet lists all dimensions of a build, the overall ones first, then by group.
func (b Build) sheet() []measure.Dimension {
	var out []measure.Dimension
	for _, o := range overalls {
		size := b.Sizes.overall(o.id)
		out = append(out, measure.Dimension{ID: o.id, Group: "hull", Name: o.name, Real: size.Size, Along: o.along, Kit: size.Kit, Decision: size.Decision})
	}
	for _, group := range measure.Groups {
		for _, d := range b.Dimensions {
			if d.Group == group {
				out = append(out, d)
			}
		}
	}
	return out
}

// SizeLine is one dimension: real, on the model, and what the kit gives for it.
type SizeLine struct {
	Key      string             `json:"key"`
	Group    string             `json:"group"`
	Name     string             `json:"name"`
	Fixed    bool               `json:"fixed"` // an overall size: it cannot be renamed or dropped
	Typed    string             `json:"typed"`
	RealMM   float64            `json:"realMm"`
	RealPlus float64            `json:"realPlusMinusMm"`
	Real     string             `json:"real"`
	Imperial string             `json:"imperial"`
	Model    string             `json:"model"`
	ModelMM  float64            `json:"modelMm"`
	Along    string             `json:"along"`
	Seen     string             `json:"seen"`
	Source   string             `json:"source"`
	Kit      *measure.Deviation `json:"kit,omitempty"`
	Thick    *measure.Thick     `json:"thick,omitempty"`
	Decision *measure.Decision  `json:"decision,omitempty"`
	Drawn    *DrawnSize         `json:"drawn,omitempty"`
	Why      Why                `json:"why"`
}

// DrawnSize is where a dimension is drawn on a view, model mm in the view's frame.
type DrawnSize struct {
	Side form.Side  `json:"side"`
	From [2]float64 `json:"from"`
	To   [2]float64 `json:"to"`
}

func sizeLines(b Build, panels []*form.Panel) []SizeLine {
	out := []SizeLine{}
	for i, d := range b.sheet() {
		real := length.Real(d.Real.MM)
		model := b.Scale.ToModel(real)
		inputs := []string{"real " + real.String() + ", typed as “" + d.Real.Typed + "”", "N = " + strings.TrimPrefix(b.Scale.String(), "1:")}
		if d.Source != "" {
			inputs = append(inputs, "source: "+d.Source)
		}
		l := SizeLine{Key: d.ID, Group: d.Group, Name: d.Name, Fixed: i < len(overalls), Typed: d.Real.Typed, RealMM: d.Real.MM, RealPlus: d.RealPlus,
			Real: real.String(), Imperial: real.Imperial(), Model: model.String(), ModelMM: float64(model), Along: d.Along, Seen: d.Seen, Source: d.Source,
			Decision: d.Decision, Drawn: drawn(d, b.Scale, panels), Why: Why{Formula: "model = real / N", Inputs: inputs}}
		if d.Kit != nil {
			k := measure.Deviate(real, d.RealPlus, *d.Kit, b.Scale)
			l.Kit = &k
			if d.Along == measure.Thickness {
				t := measure.OverScale(real, length.Model(d.Kit.MM), b.Scale, d.Seen)
				l.Thick = &t
			}
		}
		out = append(out, l)
	}
	return out
}

// zonesOf are the zones that a group's dimensions are drawn at.
var zonesOf = map[string][]string{
	"hull": {"hull", "lower"}, "turret": {"turret", "cupola"}, "gun": {"gun"}, "running gear": {"gear"},
}

// drawn finds where a dimension is drawn: where it was placed, else along its part.
func drawn(d measure.Dimension, scale length.Scale, panels []*form.Panel) *DrawnSize {
	if d.At != nil {
		at := func(p [2]float64) [2]float64 {
			return [2]float64{float64(scale.ToModel(length.Real(p[0]))), float64(scale.ToModel(length.Real(p[1])))}
		}
		return &DrawnSize{form.Side(d.At.Side), at(d.At.From), at(d.At.To)}
	}
	if d.Along == "" || d.Along == measure.Thickness {
		return nil
	}
	low, high, ok := form.Extent(panels, func(zone string) bool {
		return slices.ContainsFunc(zonesOf[d.Group], func(p string) bool { return zone == p || strings.HasPrefix(zone, p+".") })
	})
	if !ok {
		low, high, _ = form.Extent(panels, func(string) bool { return true })
	}
	size := d.Real.MM
	side, from, to := form.Left, form.Vec{high[0], 0, low[2]}, form.Vec{high[0] - size, 0, low[2]}
	switch d.Along {
	case measure.AlongWidth:
		middle := (low[1] + high[1]) / 2
		side, from, to = form.Front, form.Vec{0, middle - size/2, low[2]}, form.Vec{0, middle + size/2, low[2]}
	case measure.AlongHeight:
		from, to = form.Vec{low[0], 0, low[2]}, form.Vec{low[0], 0, low[2] + size}
	}
	f := form.NewFrame(side, panels, scale)
	return &DrawnSize{side, f.Flat(from), f.Flat(to)}
}

// kitCheck finds the scale that the kit really has; nil while nothing was measured.
// Thicknesses stay out: kits make them thick on purpose.
func kitCheck(b Build) *measure.KitReport {
	var pairs []measure.Pair
	for _, d := range b.sheet() {
		if d.Kit != nil && d.Along != measure.Thickness {
			pairs = append(pairs, measure.Pair{ID: d.ID, Name: d.Name, Real: length.Real(d.Real.MM), RealPlus: d.RealPlus, Kit: *d.Kit, Decision: d.Decision})
		}
	}
	if r, ok := measure.CheckKitScale(pairs, b.Scale, b.Fit); ok {
		return &r
	}
	return nil
}

// CableLine is a cable with how it lies on the views.
type CableLine struct {
	measure.CableLine
	Drawn []CableDrawn `json:"drawn"`
}

// CableDrawn is a cable's path on a view, model mm in the view's frame.
type CableDrawn struct {
	Side   form.Side `json:"side"`
	Points form.Ring `json:"points"`
	Hidden bool      `json:"hidden"` // most of it runs behind the vehicle there
}

// hidden is how far behind a face a point must lie not to be seen: a rope lies on
// the face, and calipers err.
const hidden length.Model = 2

func cableLines(b Build, shelf measure.Shelf, panels []*form.Panel) []CableLine {
	out := []CableLine{}
	for _, c := range b.Cables {
		l := CableLine{CableLine: c.Lay(b.Scale, shelf), Drawn: []CableDrawn{}}
		for _, side := range form.Sides {
			f := form.NewFrame(side, panels, b.Scale)
			ring, behind := form.Ring{}, 0
			for _, p := range c.Points {
				var v form.Vec
				for k := range 3 {
					v[k] = float64(b.Scale.ToReal(length.Model(p[k])))
				}
				at := f.Flat(v)
				ring = append(ring, at)
				if front, _, ok := form.Pick(side, panels, b.Scale, at); ok && f.Nearer(front, v) > float64(b.Scale.ToReal(hidden)) {
					behind++
				}
			}
			l.Drawn = append(l.Drawn, CableDrawn{side, ring, 2*behind > len(c.Points)})
		}
		out = append(out, l)
	}
	return out
}

// DimensionEdit sets the fields that are given and leaves the others. Texts are as
// typed; a bare number is in mm, for an overall size in metres.
type DimensionEdit struct {
	ID        string        `json:"id,omitempty"`
	ByName    bool          `json:"byName,omitempty"` // change the one of that group and name, if there is one
	Group     *string       `json:"group,omitempty"`
	Name      *string       `json:"name,omitempty"`
	Real      *string       `json:"real,omitempty"`
	RealPlus  *string       `json:"realPlusMinus,omitempty"`
	Kit       *string       `json:"kit,omitempty"` // empty takes it away
	PlusMinus *string       `json:"plusMinus,omitempty"`
	From      *string       `json:"from,omitempty"`
	Along     *string       `json:"along,omitempty"`
	Seen      *string       `json:"seen,omitempty"`
	Source    *string       `json:"source,omitempty"`
	Act       *string       `json:"act,omitempty"` // what is done about it; empty takes it back
	At        *measure.Span `json:"at,omitempty"`  // model mm in the view's frame
	Unplaced  bool          `json:"unplaced,omitempty"`
}

// alongOf guesses how a dimension runs from its name.
func alongOf(name string) string {
	name = strings.ToLower(name)
	for _, w := range []struct{ word, along string }{
		{"thick", measure.Thickness}, {"width", measure.AlongWidth}, {"wide", measure.AlongWidth}, {"breadth", measure.AlongWidth}, {"track gauge", measure.AlongWidth},
		{"height", measure.AlongHeight}, {"high", measure.AlongHeight}, {"depth", measure.AlongHeight}, {"diameter", measure.AlongHeight}, {"clearance", measure.AlongHeight},
		{"length", measure.AlongLength}, {"long", measure.AlongLength}, {"barrel", measure.AlongLength}, {"base", measure.AlongLength},
	} {
		if strings.Contains(name, w.word) {
			return w.along
		}
	}
	return ""
}

func setDimension(b Build, e DimensionEdit, newID func() string) (Build, error) {
	if e.ByName && e.ID == "" && e.Name != nil {
		for _, d := range b.sheet() {
			if strings.EqualFold(d.Name, strings.TrimSpace(*e.Name)) && (e.Group == nil || *e.Group == d.Group) {
				e.ID = d.ID
			}
		}
	}
	if o := b.Sizes.overall(e.ID); o != nil {
		if e.Real != nil && strings.TrimSpace(*e.Real) != o.Typed {
			// A row of a table says its unit, or means mm; the field of the sheet means metres.
			text := *e.Real
			if e.ByName {
				r, err := length.ParseReal(text, length.Millimetre)
				if err != nil {
					return b, fault("real", err)
				}
				text = fmt.Sprintf("%g mm", float64(r))
			}
			var err error
			if b, err = resize(b, Edit{Op: e.ID, Text: text}); err != nil {
				return b, fault("real", err)
			}
			o = b.Sizes.overall(e.ID)
		}
		err := setKit(b, e, &o.Kit, &o.Decision, o.MM)
		return b, err
	}
	d := measure.Dimension{Group: "hull"}
	i := slices.IndexFunc(b.Dimensions, func(d measure.Dimension) bool { return d.ID == e.ID })
	switch {
	case i >= 0:
		d = b.Dimensions[i]
	case e.ID != "":
		return b, refuse("id", fmt.Sprintf("%q is not on the size sheet", e.ID), "look at the newer state")
	default:
		d.ID = newID()
	}
	set := func(to *string, from *string) {
		if from != nil {
			*to = strings.TrimSpace(*from)
		}
	}
	set(&d.Group, e.Group)
	set(&d.Name, e.Name)
	set(&d.Seen, e.Seen)
	set(&d.Source, e.Source)
	if e.Name != nil && e.Along == nil && d.Along == "" {
		d.Along = alongOf(d.Name)
	}
	set(&d.Along, e.Along)
	if e.Real != nil {
		r, err := length.ParseReal(*e.Real, length.Millimetre)
		if err != nil {
			return b, fault("real", err)
		}
		d.Real = measure.Size{MM: float64(r), Typed: strings.TrimSpace(*e.Real)}
	}
	if err := setPlus(&d.RealPlus, e.RealPlus, "realPlusMinus"); err != nil {
		return b, err
	}
	if e.At != nil {
		at := *e.At
		for _, p := range []*[2]float64{&at.From, &at.To} {
			p[0], p[1] = float64(b.Scale.ToReal(length.Model(p[0]))), float64(b.Scale.ToReal(length.Model(p[1])))
		}
		d.At = &at
	}
	if e.Unplaced {
		d.At = nil
	}
	if err := setKit(b, e, &d.Kit, &d.Decision, d.Real.MM); err != nil {
		return b, err
	}
	if err := d.Check(); err != nil {
		return b, err
	}
	put(&b.Dimensions, d, func(d measure.Dimension) string { return d.ID })
	return b, nil
}

// setPlus reads an uncertainty in mm; empty means none is given.
func setPlus(to *float64, text *string, field string) error {
	if text == nil {
		return nil
	}
	if strings.Trim(strings.TrimSpace(*text), "0.,") == "" {
		*to = 0
		return nil
	}
	m, err := length.ParseModel(*text, length.Millimetre)
	if err != nil {
		return fault(field, err)
	}
	*to = float64(m)
	return nil
}

// setKit sets what the kit gives and what was decided on it.
func setKit(b Build, e DimensionEdit, kit **measure.Reading, decision **measure.Decision, realMM float64) error {
	if e.Kit != nil {
		text := strings.TrimSpace(*e.Kit)
		if text == "" {
			*kit, *decision = nil, nil
		} else {
			m, err := length.ParseModel(text, length.Millimetre)
			if err != nil {
				return fault("kit", err)
			}
			next := measure.Reading{MM: float64(m), Typed: text}
			if *kit != nil {
				next.Plus, next.From = (*kit).Plus, (*kit).From
				if math.Abs((*kit).MM-next.MM) > 1e-9 {
					*decision = nil // it was decided on another size
				}
			}
			*kit = &next
		}
	}
	if *kit == nil {
		if e.PlusMinus != nil && strings.TrimSpace(*e.PlusMinus) != "" || e.Act != nil && *e.Act != "" {
			return refuse("kit", "there is no size of the kit yet", "measure the part first")
		}
		return nil
	}
	k := **kit
	if err := setPlus(&k.Plus, e.PlusMinus, "plusMinus"); err != nil {
		return err
	}
	if e.From != nil {
		k.From = *e.From
	}
	*kit = &k
	if e.Act != nil {
		*decision = nil
		if *e.Act != "" {
			n := float64(b.Scale)
			if r := kitCheck(b); r != nil && r.Fit == measure.FitKit {
				n = r.N
			}
			*decision = &measure.Decision{Act: *e.Act, Factor: k.MM * n / realMM}
		}
	}
	return measure.CheckKit(*kit, *decision)
}

// CableEdit is a cable as it was typed.
type CableEdit struct {
	ID       string       `json:"id,omitempty"`
	Name     string       `json:"name"`
	Points   [][3]float64 `json:"points"`
	Start    string       `json:"start"`
	End      string       `json:"end"`
	Leaflet  string       `json:"leaflet"`
	Diameter string       `json:"diameter"` // real
}

func setCable(b Build, e CableEdit, newID func() string) (Build, error) {
	c := measure.Cable{ID: e.ID, Name: strings.TrimSpace(e.Name), Points: e.Points}
	if c.ID == "" {
		c.ID = newID()
	}
	if c.Points == nil {
		c.Points = [][3]float64{}
	}
	for _, f := range []struct {
		field, text string
		to          *float64
	}{{"start", e.Start, &c.Start}, {"end", e.End, &c.End}, {"leaflet", e.Leaflet, &c.Leaflet}} {
		if err := setPlus(f.to, &f.text, f.field); err != nil {
			return b, err
		}
	}
	if text := strings.TrimSpace(e.Diameter); text != "" {
		r, err := length.ParseReal(text, length.Millimetre)
		if err != nil {
			return b, fault("diameter", err)
		}
		c.Diameter = &measure.Size{MM: float64(r), Typed: text}
	}
	put(&b.Cables, c, func(c measure.Cable) string { return c.ID })
	return b, nil
}

// PickQuestion asks which point of the model lies at a place of a view.
type PickQuestion struct {
	Side form.Side `json:"side"`
	X    float64   `json:"x"` // model mm in the view's frame
	Y    float64   `json:"y"`
}

// PickAnswer is a point of the model, model mm, and its zone.
type PickAnswer struct {
	Point [3]float64 `json:"point"`
	Zone  string     `json:"zone"`
}

// Pick finds the point of the model seen at a place of a view.
func (d *Deriver) Pick(b Build, q PickQuestion) (PickAnswer, error) {
	body, err := d.surface(b)
	if err != nil {
		return PickAnswer{}, err
	}
	p, zone, ok := form.Pick(q.Side, body.panels, b.Scale, [2]float64{q.X, q.Y})
	if !ok {
		return PickAnswer{}, refuse("x", "there is nothing of the vehicle at that place", "click on the vehicle")
	}
	out := PickAnswer{Zone: zone}
	for k := range 3 {
		out.Point[k] = math.Round(float64(b.Scale.ToModel(length.Real(p[k])))*100) / 100
	}
	return out, nil
}
