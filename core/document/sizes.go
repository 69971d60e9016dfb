package document

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"cinderpath/core/length"
	"cinderpath/core/measure"
)

// Overall gives the overall size that an id names; nil for other ids.
func (s *Sizes) Overall(id string) *Overall {
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

// Typed is the sizes without what the kit gives for them.
func (s Sizes) Typed() [3]measure.Size {
	return [3]measure.Size{s.Length.Size, s.Width.Size, s.Height.Size}
}

// Overalls are the dimensions that every vehicle has.
var Overalls = []struct{ id, name, along string }{
	{
		SetLength,
		"Hull length",
		measure.AlongLength,
	},
	{SetWidth, "Width", measure.AlongWidth},
	{SetHeight, "Height", measure.AlongHeight},
}

// AllDimensions lists all dimensions of a build, the overall ones first, then by group.
func (b Build) AllDimensions() []measure.Dimension {
	var out []measure.Dimension
	for _, o := range Overalls {
		size := b.Sizes.Overall(o.id)
		out = append(
			out,
			measure.Dimension{
				ID:       o.id,
				Group:    "hull",
				Name:     o.name,
				Real:     size.Size,
				Along:    o.along,
				Kit:      size.Kit,
				Decision: size.Decision,
			},
		)
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

// KitCheck finds the scale that the kit really has; nil while nothing was measured.
// Thicknesses stay out: kits make them thick on purpose.
func KitCheck(b Build) *measure.KitReport {
	var pairs []measure.Pair
	for _, d := range b.AllDimensions() {
		if d.Kit != nil && d.Along != measure.Thickness {
			pairs = append(
				pairs,
				measure.Pair{
					ID:       d.ID,
					Name:     d.Name,
					Real:     length.Real(d.Real.MM),
					RealPlus: d.RealPlus,
					Kit:      *d.Kit,
					Decision: d.Decision,
				},
			)
		}
	}
	if r, ok := measure.CheckKitScale(pairs, b.Scale, b.Fit); ok {
		return &r
	}
	return nil
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

// runs are words that tell how a dimension runs; the first that is met counts.
var runs = []struct {
	along string
	words []string
}{
	{measure.Thickness, []string{"thick"}},
	{measure.AlongWidth, []string{"width", "wide", "breadth", "track gauge"}},
	{measure.AlongHeight, []string{"height", "high", "depth", "diameter", "clearance"}},
	{measure.AlongLength, []string{"length", "long", "barrel", "base"}},
}

// alongOf guesses how a dimension runs from its name.
func alongOf(name string) string {
	name = strings.ToLower(name)
	for _, w := range runs {
		if slices.ContainsFunc(w.words, func(word string) bool { return strings.Contains(name, word) }) {
			return w.along
		}
	}
	return ""
}

func setDimension(b Build, e DimensionEdit, newID func() string) (Build, error) {
	if e.ByName && e.ID == "" && e.Name != nil {
		for _, d := range b.AllDimensions() {
			if strings.EqualFold(d.Name, strings.TrimSpace(*e.Name)) && (e.Group == nil || *e.Group == d.Group) {
				e.ID = d.ID
			}
		}
	}
	if b.Sizes.Overall(e.ID) != nil {
		err := setOverall(&b, e)
		return b, err
	}
	d := measure.Dimension{Group: "hull"}
	i := slices.IndexFunc(b.Dimensions, func(d measure.Dimension) bool { return d.ID == e.ID })
	switch {
	case i >= 0:
		d = b.Dimensions[i]
	case e.ID != "":
		return b, measure.Refuse("id", fmt.Sprintf("%q is not on the size sheet", e.ID), "look at the newer state")
	default:
		d.ID = newID()
	}
	if err := setFields(&d, e, b); err != nil {
		return b, err
	}
	return b, put(&b.Dimensions, d, func(d *measure.Dimension) *string { return &d.ID }, newID)
}

// setOverall sets an overall size, which all of the build is fitted to.
func setOverall(b *Build, e DimensionEdit) error {
	o := b.Sizes.Overall(e.ID)
	if e.Real != nil && strings.TrimSpace(*e.Real) != o.Typed {
		// A row of a table says its unit, or means mm; the field of the sheet means metres.
		text := *e.Real
		if e.ByName {
			r, err := length.ParseReal(text, length.Millimetre)
			if err != nil {
				return measure.At("real", err)
			}
			text = fmt.Sprintf("%g mm", float64(r))
		}
		if err := resize(b, Edit{Op: e.ID, Text: text}, means{}); err != nil {
			return measure.At("real", err)
		}
	}
	return setKit(*b, e, &o.Kit, &o.Decision, o.MM)
}

// setFields sets those fields of a dimension that the edit gives.
func setFields(d *measure.Dimension, e DimensionEdit, b Build) error {
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
			return measure.At("real", err)
		}
		d.Real = measure.Size{MM: float64(r), Typed: strings.TrimSpace(*e.Real)}
	}
	if err := setPlus(&d.RealPlus, e.RealPlus, "realPlusMinus"); err != nil {
		return err
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
		return err
	}
	return d.Check()
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
		return measure.At(field, err)
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
				return measure.At("kit", err)
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
			return measure.Refuse("kit", "there is no size of the kit yet", "measure the part first")
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
			if r := KitCheck(b); r != nil && r.Fit == measure.FitKit {
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
			return b, measure.At("diameter", err)
		}
		c.Diameter = &measure.Size{MM: float64(r), Typed: text}
	}
	return b, put(&b.Cables, c, func(c *measure.Cable) *string { return &c.ID }, newID)
}
