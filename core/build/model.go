package build

import (
	"fmt"
	"slices"
	"strings"

	"cinderpath/core/form"
	"cinderpath/core/gear"
	"cinderpath/core/kit"
	"cinderpath/core/length"
	"cinderpath/core/measure"
	"cinderpath/core/path"
	"cinderpath/core/scheme"
	"cinderpath/core/strata"
)

// Fault says which field cannot stand, why, and what would be right.
type Fault = measure.Fault

// Why is the answer to "why this number?".
type Why = measure.Why

func refuse(field, reason, remedy string) error {
	return &Fault{Field: field, Reason: reason, Remedy: remedy}
}

func because(formula string, inputs []string) Why { return Why{Formula: formula, Inputs: inputs} }

// fault names the field of an error from a lower floor.
func fault(field string, err error) error { return measure.At(field, err) }

// Overall is an overall size of the vehicle with what the kit gives for it.
type Overall struct {
	measure.Size
	Kit      *measure.Reading  `json:"kit,omitempty"`
	Decision *measure.Decision `json:"decision,omitempty"`
}

// Sizes are the overall sizes of the vehicle.
type Sizes struct {
	Length Overall `json:"length"` // of the hull, without the gun
	Width  Overall `json:"width"`
	Height Overall `json:"height"`
}

// Build is what the modeller edits. Body and gear are in real mm.
type Build struct {
	ID       string         `json:"id"`
	Name     string         `json:"name"`
	Subject  string         `json:"subject,omitempty"`
	Story    string         `json:"story,omitempty"`
	Scale    length.Scale   `json:"scale"`
	Outline  form.Kind      `json:"outline"`
	Sizes    Sizes          `json:"sizes"`
	Body     form.Body      `json:"body"`
	Wheels   []gear.Wheel   `json:"wheels"`
	Link     gear.Link      `json:"link"`
	Ground   gear.Terrain   `json:"ground,omitempty"` // under each track; level when empty
	Scheme   scheme.Pattern `json:"scheme"`
	Layers   []strata.Layer `json:"layers"`
	Priority int            `json:"priority"` // lower goes first

	Dimensions []measure.Dimension `json:"dimensions,omitempty"`
	Fit        string              `json:"fit,omitempty"` // what outliers are made to fit; measure.FitKit when empty
	Cables     []measure.Cable     `json:"cables,omitempty"`
	Photos     []measure.Photo     `json:"photos,omitempty"`
	Parts      []measure.Part      `json:"parts,omitempty"` // own parts

	Kit     kit.Kit           `json:"kit,omitzero"`
	Schools map[string]string `json:"schools,omitempty"` // answers that are not the default
	Order   Rework            `json:"order,omitzero"`
}

// Workshop is what all builds share.
type Workshop struct {
	Name     string        `json:"name"`
	Zone     string        `json:"zone"` // IANA name
	Calendar path.Calendar `json:"calendar"`

	Stock    measure.Shelf     `json:"stock,omitzero"`
	Printers []measure.Printer `json:"printers,omitempty"`

	Airbrushes []path.Airbrush `json:"airbrushes,omitempty"`
}

// Limits that keep one document in one request and one plan in a blink.
const (
	mostLayers = 80
	mostWheels = 40
	longName   = 120
	longText   = 4000
)

// Check reports the first fault of a build.
func (b Build) Check() error {
	switch {
	case b.ID == "":
		return refuse("id", "a build needs an identity", "give it a UUID")
	case strings.TrimSpace(b.Name) == "":
		return refuse("name", "nothing is written", "give the build a name, such as its vehicle")
	case len(b.Name) > longName:
		return refuse("name", fmt.Sprintf("longer than %d characters", longName), "shorten it")
	case len(b.Subject) > longText || len(b.Story) > longText:
		return refuse("story", fmt.Sprintf("longer than %d characters", longText), "shorten it")
	case !(b.Scale >= length.FinestScale && b.Scale <= length.CoarsestScale):
		return refuse("scale", fmt.Sprintf("%s is not a scale of a kit", b.Scale), "give 1:1 to 1:1000")
	case !slices.Contains(form.Kinds, b.Outline):
		return refuse("outline", fmt.Sprintf("%q is not known", b.Outline), "use "+kindList())
	case len(b.Layers) > mostLayers || len(b.Wheels) > mostWheels:
		return refuse("build", "more parts than one vehicle has", fmt.Sprintf("at most %d layers and %d wheels a side", mostLayers, mostWheels))
	}
	for _, s := range []struct {
		name string
		size Overall
	}{{"length", b.Sizes.Length}, {"width", b.Sizes.Width}, {"height", b.Sizes.Height}} {
		if !(s.size.MM > 0 && s.size.MM <= length.Longest) {
			return refuse("sizes."+s.name, "it must lie above zero and below one kilometre", "type the real size of the vehicle")
		}
		if err := measure.CheckKit(s.size.Kit, s.size.Decision); err != nil {
			return fault("sizes."+s.name, err)
		}
	}
	if !b.withinReach() {
		return refuse("body", "a part of the body or the running gear lies more than 100 m away", "check the unit: positions are in real millimetres")
	}
	if err := b.Body.Check(); err != nil {
		return fault("body", err)
	}
	if err := b.checkGear(); err != nil {
		return err
	}
	if err := b.Scheme.Check(); err != nil {
		return fault("scheme", err)
	}
	if err := b.checkMeasures(); err != nil {
		return err
	}
	if err := b.Kit.Check(); err != nil {
		return fault("kit", err)
	}
	if err := checkSchools(b.Schools); err != nil {
		return err
	}
	if err := b.Order.check(); err != nil {
		return err
	}
	seen := map[string]bool{}
	for i, l := range b.Layers {
		if err := l.Check(); err != nil {
			return fault(fmt.Sprintf("layers[%d]", i), err)
		}
		if seen[l.ID] {
			return refuse(fmt.Sprintf("layers[%d]", i), "two layers have the same id", "give each its own")
		}
		seen[l.ID] = true
	}
	return nil
}

func kindList() string {
	names := make([]string, len(form.Kinds))
	for i, k := range form.Kinds {
		names[i] = string(k)
	}
	return strings.Join(names, ", ")
}

// checkGear reports the first fault of the running gear, also where it meets the body.
func (b Build) checkGear() error {
	if b.Outline.HasTrack() {
		if err := gear.Check(b.Wheels, b.Link); err != nil {
			return fault("gear", err)
		}
	}
	for i, w := range b.Wheels {
		if !(w.Radius > 0) {
			return refuse(fmt.Sprintf("wheels[%d]", i), "it has no radius", "half its diameter is needed")
		}
		if w.Hub < 0 || w.Hub >= w.Radius {
			return refuse(fmt.Sprintf("wheels[%d].hub", i), fmt.Sprintf("its hub (radius %.0f mm) is not smaller than the wheel (%.0f mm)", w.Hub, w.Radius), "measure where the rubber begins")
		}
		if a := w.Arm; a != nil && !(a.Up >= 0 && a.Up <= 90 && a.Down >= 0 && a.Down <= 90) {
			return refuse(fmt.Sprintf("wheels[%d].arm", i), "an arm swings 0 to 90 degrees up and down from rest", "give both as positive angles")
		}
	}
	if err := b.Ground.Check(); err != nil {
		return fault("ground", err)
	}
	return fault("wheels", form.Clash(b.Body, b.Wheels, b.face(), b.Link.Width, func(i int) string { return wheelName(b, i) }))
}

// face is the distance of the wheels' outer faces from the middle, real mm.
func (b Build) face() float64 { return b.Sizes.Width.MM/2 - 20 }

// Limits of what is measured.
const (
	mostCables = 60
	mostPhotos = 60
	mostParts  = 60
)

// checkMeasures reports the first fault of size sheet, cables, photographs and parts.
func (b Build) checkMeasures() error {
	switch {
	case len(b.Dimensions) > measure.MostDimensions:
		return refuse("dimensions", fmt.Sprintf("more than %d", measure.MostDimensions), "take some out")
	case len(b.Cables) > mostCables || len(b.Photos) > mostPhotos || len(b.Parts) > mostParts:
		return refuse("build", fmt.Sprintf("more than %d cables, photographs or own parts", mostParts), "take some out")
	case b.Fit != "" && b.Fit != measure.FitKit && b.Fit != measure.FitBox:
		return refuse("fit", fmt.Sprintf("%q is nothing to fit", b.Fit), "use kit or box")
	}
	if err := checkAll("dimensions", b.Dimensions, func(d measure.Dimension) string { return d.ID }); err != nil {
		return err
	}
	if err := checkAll("cables", b.Cables, func(c measure.Cable) string { return c.ID }); err != nil {
		return err
	}
	if err := checkAll("photos", b.Photos, func(p measure.Photo) string { return p.ID }); err != nil {
		return err
	}
	return checkAll("parts", b.Parts, func(p measure.Part) string { return p.ID })
}

// checkAll checks a list of named things and that no two have one id.
func checkAll[T interface{ Check() error }](field string, list []T, id func(T) string) error {
	seen := map[string]bool{}
	for i, x := range list {
		if err := x.Check(); err != nil {
			return fault(fmt.Sprintf("%s[%d]", field, i), err)
		}
		if seen[id(x)] {
			return refuse(fmt.Sprintf("%s[%d]", field, i), "two have the same id", "give each its own")
		}
		seen[id(x)] = true
	}
	return nil
}

// farthest is how far from its origin a part of a vehicle may lie, real mm.
const farthest = 100 * length.Metre

// withinReach guards what is computed from positions against slips of the unit.
func (b Build) withinReach() bool {
	ok := true
	near := func(values ...float64) {
		for _, v := range values {
			ok = ok && v >= -farthest && v <= farthest
		}
	}
	b.Body.Numbers(near)
	for _, w := range b.Wheels {
		near(w.X, w.Z, w.Radius, w.Hub, float64(w.Teeth))
		if w.Arm != nil {
			near(w.Arm.X, w.Arm.Z, w.Arm.Up, w.Arm.Down)
		}
	}
	for _, p := range b.Ground {
		near(p[0], p[1])
	}
	near(b.Link.Pitch, b.Link.Surface, b.Link.Ground, b.Link.Width)
	return ok
}

// Check reports the first fault of a workshop.
func (w Workshop) Check() error {
	if w.Zone == "" {
		return refuse("zone", "no time zone is given", `write it like "Europe/Lisbon"`)
	}
	if err := w.Stock.Check(); err != nil {
		return err
	}
	if err := checkAll("printers", w.Printers, func(p measure.Printer) string { return p.ID }); err != nil {
		return err
	}
	if err := w.checkAirbrushes(); err != nil {
		return err
	}
	return fault("calendar", w.Calendar.Check())
}

func (w Workshop) checkAirbrushes() error {
	seen := map[string]bool{}
	for i, a := range w.Airbrushes {
		field := fmt.Sprintf("airbrushes[%d]", i)
		switch {
		case a.ID == "" || strings.TrimSpace(a.Name) == "" || seen[a.ID]:
			return refuse(field, "it has no name, or one that is taken", "give each airbrush its own")
		case !(a.Nozzle >= 0.1 && a.Nozzle <= 1.5):
			return refuse(field, fmt.Sprintf("a nozzle of %.2f mm", a.Nozzle), "give its bore, 0.1 to 1.5 mm")
		case a.Changes < 0 || a.Changes > 50 || a.Flush < 0 || a.Flush > 120 || a.Strip < 0 || a.Strip > 240:
			return refuse(field, "its changes or minutes are out of reach", "give 0 to 50 changes, 0 to 120 min to flush, 0 to 240 min to strip")
		}
		seen[a.ID] = true
	}
	return nil
}

// Printer finds a printer by its id; an empty id means the first.
func (w Workshop) Printer(id string) (measure.Printer, error) {
	for _, p := range w.Printers {
		if id == "" || p.ID == id {
			return p, nil
		}
	}
	return measure.Printer{}, refuse("printer", "the workshop has no such printer", "add one under own parts")
}

// Start is what is asked of someone who begins a build.
type Start struct {
	Name    string    `json:"name"`
	Outline form.Kind `json:"outline"`
	Scale   string    `json:"scale"`
	Length  string    `json:"length"`
	Width   string    `json:"width"`
	Height  string    `json:"height"`
}

// New begins a build: an outline fitted to the sizes, one colour, and a stack of
// layers. A bare number is read as metres.
func New(s Start, newID func() string) (Build, error) {
	b := Build{ID: newID(), Name: strings.TrimSpace(s.Name), Outline: s.Outline, Priority: 100}
	scale, err := length.ParseScale(s.Scale)
	if err != nil {
		return Build{}, fault("scale", err)
	}
	b.Scale = scale
	for _, f := range []struct {
		field, text string
		to          *Overall
	}{{"length", s.Length, &b.Sizes.Length}, {"width", s.Width, &b.Sizes.Width}, {"height", s.Height, &b.Sizes.Height}} {
		r, err := length.ParseReal(f.text, length.Metre)
		if err != nil {
			return Build{}, fault(f.field, err)
		}
		f.to.Size = measure.Size{MM: float64(r), Typed: strings.TrimSpace(f.text)}
	}
	l, w, h := b.Sizes.Length.MM, b.Sizes.Width.MM, b.Sizes.Height.MM
	b.Body = form.NewBody(s.Outline, l, w, h)
	b.Wheels, b.Link = form.NewWheels(s.Outline, l, w, h)
	b.Scheme = scheme.Pattern{Colours: []scheme.Colour{{Name: "lichen green", Hex: "#66704f"}}, Width: l / 9, Feather: l / 110, Seed: 1}
	b.Layers = Stack(newID)
	return b, b.Check()
}

// Stack is a working order for a vehicle in service that has no finding: a start
// to change from.
func Stack(newID func() string) []strata.Layer {
	const brushed, misted = strata.Brushed, strata.Misted
	stack := []strata.Layer{
		{Name: "Primer", Kind: strata.Prime, Family: "primer_acrylic", Applied: misted, Coats: 1, Hex: "#6b6b6b"},
		{Name: "Camouflage", Kind: strata.Colour, Family: "waterborne_acrylic", Applied: misted, Coats: 2},
		{Name: "Gloss coat", Kind: strata.Clear, Family: "clear_acrylic", Applied: misted, Coats: 1, Sheen: strata.Gloss},
		{Name: "Decals", Kind: strata.Decals, Family: "decal", Applied: brushed, Coats: 1, Zones: []string{"hull", "turret"}, Softener: true},
		{Name: "Satin seal", Kind: strata.Clear, Family: "clear_acrylic", Applied: misted, Coats: 1, Sheen: strata.Satin},
		{Name: "Pin wash", Kind: strata.Wash, Family: "enamel_effect", Applied: brushed, Coats: 1, Hex: "#3b2f25"},
		{Name: "Chips", Kind: strata.Chips, Family: "waterborne_acrylic", Applied: brushed, Coats: 1, Hex: "#8a8f7c", Zones: []string{"hull", "turret", "cupola"}},
		{Name: "Undo coat", Kind: strata.Clear, Family: "clear_acrylic", Applied: misted, Coats: 1, Sheen: strata.Satin},
		{Name: "Rust streaks", Kind: strata.Rust, Family: "oil_thin", Applied: brushed, Coats: 1, Hex: "#7a4a2c", Zones: []string{"hull", "turret"}},
		{Name: "Dust", Kind: strata.Dust, Family: "enamel_effect", Applied: brushed, Coats: 1, Hex: "#a39a86", Zones: []string{"lower", "gear"}},
		{Name: "Mud", Kind: strata.Mud, Family: "mud_paste", Applied: brushed, Coats: 1, Hex: "#6d5b43", Zones: []string{"lower", "gear"}, DepthMM: 1},
	}
	for i := range stack {
		stack[i].ID = newID()
	}
	return stack
}
