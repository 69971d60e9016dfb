package document

import (
	"fmt"
	"slices"
	"strings"

	"cinderpath/core/base"
	"cinderpath/core/form"
	"cinderpath/core/gear"
	"cinderpath/core/kit"
	"cinderpath/core/length"
	"cinderpath/core/measure"
	"cinderpath/core/paint"
	"cinderpath/core/relief"
	"cinderpath/core/scheme"
	"cinderpath/core/strata"
)

// Item is a build with its log.
type Item struct {
	Build Build   `json:"build"`
	Log   []Entry `json:"log"`
	Host  *Host   `json:"-"` // on whose base it stands, found among the others
	Key   string  `json:"-"` // names build and log where whoever read them knows; none is as good
}

// With is an item with another build.
func (i Item) With(b Build) Item {
	i.Build, i.Key = b, ""
	return i
}

// Files are the hashes of the photographs and meshes that the build and its log name, each
// once.
func (i Item) Files() []string {
	var out []string
	name := func(hash string) {
		if hash != "" && !slices.Contains(out, hash) {
			out = append(out, hash)
		}
	}
	for _, p := range i.Build.Photos {
		name(p.Hash)
	}
	for _, p := range i.Build.Parts {
		name(p.Hash)
	}
	for _, t := range i.Build.Scheme.Traces {
		name(t.Photo)
	}
	for _, e := range i.Log {
		name(e.Photo)
	}
	return out
}

// WheelName names a wheel by its kind and its place among those, from the front.
func WheelName(b Build, wheel int) string {
	names := map[gear.Kind]string{
		gear.Sprocket: "sprocket",
		gear.Idler:    "idler",
		gear.Road:     "road wheel",
		gear.Return:   "return roller",
		gear.Tyre:     "wheel",
	}
	w := b.Wheels[wheel]
	before, all := 1, 0
	for _, o := range b.Wheels {
		if o.Kind == w.Kind {
			all++
			if o.X > w.X {
				before++
			}
		}
	}
	if all == 1 {
		return names[w.Kind]
	}
	return fmt.Sprintf("%s %d", names[w.Kind], before)
}

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

	Life strata.Life `json:"life,omitempty"` // from which the amounts of its layers are argued

	// Supplies are the jars that steps take of besides those of layers, by family: cement, filler,
	// decal fluids.
	Supplies map[string]string `json:"supplies,omitempty"`
	// Relief is how the surface is, by zone or part: cast, ribbed, rolled; smooth where nothing is said.
	Relief map[string]string `json:"relief,omitempty"`
	// Small is the small relief: bolts, welds, joints; what comes with every body where nothing is said.
	Small *[]relief.Detail `json:"small,omitempty"`

	// Base is what it stands on; a usual one where nothing is said, and none on a shelf.
	Base *base.Base `json:"base,omitempty"`

	Order Rework `json:"order,omitzero"`
}

// Limits that keep one document in one request and one plan in a blink.
const (
	mostLayers   = 80
	MostWheels   = 40
	mostPriority = 1000
	longName     = 120
	longText     = 4000
)

// Check reports the first fault of a build.
func (b Build) Check() error {
	switch {
	case b.ID == "":
		return measure.Refuse("id", "a build needs an identity", "give it a UUID")
	case strings.TrimSpace(b.Name) == "":
		return measure.Refuse("name", "nothing is written", "give the build a name, such as its vehicle")
	case len(b.Name) > longName:
		return measure.Refuse("name", fmt.Sprintf("longer than %d characters", longName), "shorten it")
	case len(b.Subject) > longText || len(b.Story) > longText:
		return measure.Refuse("story", fmt.Sprintf("longer than %d characters", longText), "shorten it")
	case !(b.Scale >= length.FinestScale && b.Scale <= length.CoarsestScale):
		return measure.Refuse("scale", fmt.Sprintf("%s is not a scale of a kit", b.Scale), "give 1:1 to 1:1000")
	case !slices.Contains(form.Kinds, b.Outline):
		return measure.Refuse("outline", fmt.Sprintf("%q is not known", b.Outline), "use "+form.KindNames())
	case b.Priority < -mostPriority || b.Priority > mostPriority:
		return measure.Refuse(
			"priority",
			fmt.Sprintf("a priority of %d", b.Priority),
			fmt.Sprintf("give -%d to %d; lower goes first", mostPriority, mostPriority),
		)
	case len(b.Layers) > mostLayers || len(b.Wheels) > MostWheels:
		return measure.Refuse(
			"build",
			"more parts than one vehicle has",
			fmt.Sprintf("at most %d layers and %d wheels a side", mostLayers, MostWheels),
		)
	}
	for _, s := range []struct {
		name string
		size Overall
	}{{"length", b.Sizes.Length}, {"width", b.Sizes.Width}, {"height", b.Sizes.Height}} {
		if !(s.size.MM > 0 && s.size.MM <= length.Longest) {
			return measure.Refuse(
				"sizes."+s.name,
				"it must lie above zero and below one kilometre",
				"type the real size of the vehicle",
			)
		}
		if err := measure.CheckKit(s.size.Kit, s.size.Decision); err != nil {
			return measure.At("sizes."+s.name, err)
		}
	}
	if err := Sensible(b); err != nil {
		return err
	}
	if err := b.Body.Check(); err != nil {
		return measure.At("body", err)
	}
	if err := b.CheckGear(); err != nil {
		return err
	}
	if err := b.Scheme.Check(); err != nil {
		return measure.At("scheme", err)
	}
	if err := b.checkMeasures(); err != nil {
		return err
	}
	if err := b.Kit.Check(); err != nil {
		return measure.At("kit", err)
	}
	if err := b.Life.Check(); err != nil {
		return measure.Refuse("life", err.Error(), "choose one of those shown")
	}
	if err := b.checkRelief(); err != nil {
		return err
	}
	if err := relief.Check(b.Details()); err != nil {
		return err
	}
	for family, jar := range b.Supplies {
		if paint.KindName(family) == family || len(jar) > 64 {
			return measure.Refuse("supplies", fmt.Sprintf("%q is no kind of product", family), "choose one of the table")
		}
	}
	if b.Base != nil {
		if err := b.Base.Check(); err != nil {
			return measure.At("base", err)
		}
		if b.Base.Of == b.ID {
			return measure.Refuse("base.of", "it is the build itself", "choose another build, or give it a base of its own")
		}
	}
	if err := checkSchools(b.Schools); err != nil {
		return err
	}
	if err := b.Order.Check(); err != nil {
		return err
	}
	seen := map[string]bool{}
	for i, l := range b.Layers {
		if err := l.Check(); err != nil {
			return measure.At(fmt.Sprintf("layers[%d]", i), err)
		}
		if seen[l.ID] {
			return measure.Refuse(fmt.Sprintf("layers[%d]", i), "two layers have the same id", "give each its own")
		}
		seen[l.ID] = true
	}
	return nil
}

// CheckGear reports the first fault of the running gear, also where it meets the body.
func (b Build) CheckGear() error {
	if b.Outline.HasTrack() {
		if err := gear.Check(b.Wheels, b.Link); err != nil {
			return measure.At("gear", err)
		}
		if err := b.Link.Sensible(); err != nil {
			return measure.At("link", err)
		}
	}
	for i, w := range b.Wheels {
		if err := w.Sensible(i + 1); err != nil {
			return measure.At(fmt.Sprintf("wheels[%d]", i), err)
		}
		if w.Hub < 0 || w.Hub >= w.Radius {
			return measure.Refuse(
				fmt.Sprintf("wheels[%d].hub", i),
				fmt.Sprintf("its hub (radius %.0f mm) is not smaller than the wheel (%.0f mm)", w.Hub, w.Radius),
				"measure where the rubber begins",
			)
		}
	}
	if err := b.Ground.Check(); err != nil {
		return measure.At("ground", err)
	}
	return measure.At(
		"wheels",
		form.Clash(b.Body, b.Wheels, b.Face(), b.Link.Width, func(i int) string { return WheelName(b, i) }),
	)
}

// Face is the distance of the wheels' outer faces from the middle, real mm.
func (b Build) Face() float64 { return b.Sizes.Width.MM/2 - 20 }

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
		return measure.Refuse("dimensions", fmt.Sprintf("more than %d", measure.MostDimensions), "take some out")
	case len(b.Cables) > mostCables || len(b.Photos) > mostPhotos || len(b.Parts) > mostParts:
		return measure.Refuse(
			"build",
			fmt.Sprintf("more than %d cables, photographs or own parts", mostParts),
			"take some out",
		)
	case b.Fit != "" && b.Fit != measure.FitKit && b.Fit != measure.FitBox:
		return measure.Refuse("fit", fmt.Sprintf("%q is nothing to fit", b.Fit), "use kit or box")
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
			return measure.At(fmt.Sprintf("%s[%d]", field, i), err)
		}
		if seen[id(x)] {
			return measure.Refuse(fmt.Sprintf("%s[%d]", field, i), "two have the same id", "give each its own")
		}
		seen[id(x)] = true
	}
	return nil
}

// farthest is how far from its origin a part of a vehicle may lie, real mm.
const farthest = 100 * length.Metre
