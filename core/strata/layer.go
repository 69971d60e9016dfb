package strata

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"cinderpath/core/colour"
	"cinderpath/core/marking"
	"cinderpath/core/paint"
	"cinderpath/core/rule"
	"cinderpath/core/unit"
	"cinderpath/core/zone"
)

// Application is how a layer is put on.
type Application string

// The two ways the attack table knows.
const (
	Brushed Application = "brushed"
	Misted  Application = "misted"
)

// Kind says what a layer is for.
type Kind string

// The kinds of layer.
const (
	Prime        Kind = "prime"
	Undertone    Kind = "undertone" // shading below the colour that is to show through it
	Colour       Kind = "colour"    // the scheme, or a single colour
	Clear        Kind = "clear"
	Decals       Kind = "decals"
	ChippingCoat Kind = "chipping_coat"
	ChippingWork Kind = "chipping_work" // waking the chipping coat with water
	Lighter      Kind = "lighter"       // panels lightened over the colour
	Highlight    Kind = "highlight"     // of detail
	DryBrush     Kind = "dry_brush"
	Rubbed       Kind = "wear_rub" // paint rubbed thin
	Chips        Kind = "chips"
	Filter       Kind = "filter"
	Wash         Kind = "wash"
	Streaks      Kind = "streaks"
	Dots         Kind = "dots" // of oil, blended downwards on sides and in circles on flats
	Rust         Kind = "rust"
	Dust         Kind = "dust"
	Mud          Kind = "mud"
	Splash       Kind = "splash" // thrown up by wheels and tracks
	Wet          Kind = "wet"    // damp and wet spots
	Grease       Kind = "grease" // at hubs; fuel and oil at fillers and on the engine deck
	Soot         Kind = "soot"
	Pigment      Kind = "pigment"
	Fix          Kind = "fix"
	RubClean     Kind = "rub_clean" // earth rubbed off
	Metal        Kind = "metal"
)

// Layer is one thing laid on some zones, in working order.
type Layer struct {
	ID        string        `json:"id"`
	Name      string        `json:"name"`
	Kind      Kind          `json:"kind"`
	Family    string        `json:"family"`
	Zones     []string      `json:"zones,omitempty"` // zones or first halves of zones; none means everywhere
	Applied   Application   `json:"applied"`
	Coats     int           `json:"coats"`
	Hex       string        `json:"hex,omitempty"`       // as the eye sees it
	Jar       string        `json:"jar,omitempty"`       // jar or mix that it is laid from; its family and swatch rule
	Sheen     colour.Sheen  `json:"sheen,omitempty"`     // where the family leaves it open
	Carrier   string        `json:"carrier,omitempty"`   // where the family leaves it to the product
	Softener  bool          `json:"softener,omitempty"`  // decals: worked with softener
	DepthMM   float64       `json:"depthMm,omitempty"`   // pastes: depth on the model
	Together  string        `json:"together,omitempty"`  // wet group: worked into each other while wet
	Technique string        `json:"technique,omitempty"` // how it is worked; as its kind usually is where empty
	Amount    *float64      `json:"amount,omitempty"`    // in place of the technique's: µm of a film, or a share of 1
	SizeMM    []float64     `json:"sizeMm,omitempty"`    // in place of the technique's: smallest and largest mark, real mm
	Touches   []Touch       `json:"touches,omitempty"`   // more, none or only here
	Meant     []string      `json:"meant,omitempty"`     // rules the modeller overrules for this layer
	WaitMin   *unit.Minutes `json:"waitMin,omitempty"`   // wait after the layer below, pinned by the modeller, minutes

	Pot   paint.Pot `json:"-"` // what is known of the jar that it names
	Lived Lived     `json:"-"` // what its vehicle's life does to it
	Under Under     `json:"-"` // what of the stack matters to it

	Drawn  []marking.Drawn `json:"-"` // decals: the markings of the version that is built
	Spares Spares          `json:"-"` // markings that a temporary paint leaves
	By     string          `json:"-"` // the formula by which it lands, in place of its technique's
	Rubber string          `json:"-"` // schemes: the swatch of rubber beside it, in place of the usual one
}

// AsTyped is the layer without what was filled in from shelf, life and stack.
func (l Layer) AsTyped() Layer {
	l.Pot, l.Lived, l.Under = paint.Pot{}, Lived{}, Under{}
	l.Drawn, l.Spares, l.By, l.Rubber = nil, Spares{}, "", ""
	return l
}

// Covers tells whether the layer lies on a zone.
func (l Layer) Covers(name string) bool {
	return zone.Among(name, l.Zones)
}

// Without is the layer left out on some of all zones.
func (l Layer) Without(out, all []string) Layer {
	return l.on(all, func(z string) bool { return l.Covers(z) && !zone.Among(z, out) })
}

// And is the layer laid on some more of all zones.
func (l Layer) And(more, all []string) Layer {
	return l.on(all, func(z string) bool { return l.Covers(z) || zone.Among(z, more) })
}

// on is the layer on those of all zones that are wanted.
func (l Layer) on(all []string, wanted func(string) bool) Layer {
	some := slices.DeleteFunc(slices.Clone(all), func(z string) bool { return !wanted(z) })
	l.Zones = zone.Gathered(some, all)
	return l
}

// Brings is the carrier that the layer brings onto what lies below.
func (l Layer) Brings() string {
	if l.Kind == ChippingWork {
		return "water"
	}
	if l.Kind == Decals && l.Softener {
		return "decal_softener"
	}
	f := familyOf(l.Family)
	if f.Brings != "carrier" && f.Brings != "same" {
		return f.Brings
	}
	if l.Carrier != "" {
		return l.Carrier
	}
	if l.Kind == Mud {
		return "water"
	}
	return "white_spirit"
}

// Dry is how long a layer takes, at 20 °C and 50 % humidity, to bear what comes next.
type Dry struct{ Touch, NextCoat, Handle, Cured unit.Minutes }

// Until is the time to one of them; nothing else is about drying and takes none.
func (d Dry) Until(n rule.Need) unit.Minutes {
	switch n {
	case rule.Touch:
		return d.Touch
	case rule.NextCoat:
		return d.NextCoat
	case rule.Handle:
		return d.Handle
	case rule.Cured:
		return d.Cured
	}
	return 0
}

// Dries gives a layer's drying times with the depth of pastes worked in: fillers grow
// with the depth, textures and mud beyond 1 mm with its square.
func (l Layer) Dries() Dry {
	f := familyOf(l.Family)
	k := unit.Minutes(1)
	if f.PerMM && l.DepthMM > 0 {
		switch {
		case strings.HasPrefix(f.ID, "putty"):
			k = unit.Minutes(l.DepthMM)
		case l.DepthMM > 1:
			k = unit.Minutes(l.DepthMM * l.DepthMM)
		}
	}
	return Dry{f.Touch * k, f.NextCoat * k, f.Handle * k, f.Cured * k}
}

// Water tells whether the layer dries by losing water, so that damp air slows it.
func (l Layer) Water() bool { return l.Brings() == "water" || l.Brings() == "decal_softener" }

// Check reports the first thing that makes a layer unusable.
func (l Layer) Check() error {
	if l.ID == "" || l.Name == "" {
		return errors.New("a layer needs an id and a name; give both")
	}
	if !l.Kind.known() {
		return fmt.Errorf("layer %s: %q is not a kind of layer", l.Name, l.Kind)
	}
	if _, ok := paint.FamilyOf(l.Family); !ok {
		return fmt.Errorf("layer %s: %q is not a family of products; choose one of the table", l.Name, l.Family)
	}
	switch {
	case l.Applied != Brushed && l.Applied != Misted:
		return fmt.Errorf("layer %s: applied must be brushed or misted, not %q", l.Name, l.Applied)
	case l.Coats < 1 || l.Coats > 20:
		return fmt.Errorf("layer %s: %d coats; give 1 to 20", l.Name, l.Coats)
	case l.DepthMM < 0 || l.DepthMM > 20:
		return fmt.Errorf("layer %s: depth %.1f mm; give 0 to 20 mm on the model", l.Name, l.DepthMM)
	case l.WaitMin != nil && !(*l.WaitMin >= 0 && *l.WaitMin <= 60*24*60):
		return fmt.Errorf("layer %s: a pinned wait lies between 0 and 60 days", l.Name)
	case len(l.Jar) > 64:
		return fmt.Errorf("layer %s: %q is not the id of a jar; choose one of the shelf", l.Name, l.Jar[:64]+"…")
	case l.Sheen != "" && l.Sheen != colour.Gloss && l.Sheen != colour.Satin && l.Sheen != colour.Matt:
		return fmt.Errorf("layer %s: sheen must be gloss, satin or matt, not %q", l.Name, l.Sheen)
	}
	if l.IsScheme() && len(l.Touches) > 0 {
		return fmt.Errorf("layer %s: a scheme takes no marks; set pins in it", l.Name)
	}
	if len(l.Touches) > mostTouches {
		return fmt.Errorf("layer %s: %d marks; give %d at most", l.Name, len(l.Touches), mostTouches)
	}
	for i, t := range l.Touches {
		if err := t.check(); err != nil {
			return fmt.Errorf("layer %s, mark %d: %w", l.Name, i+1, err)
		}
	}
	return l.checkTechnique()
}

func (l Layer) isClear() bool { return l.Kind == Clear }
func (l Layer) isOily() bool {
	return strings.HasPrefix(l.Family, "enamel") || strings.HasPrefix(l.Family, "oil")
}
func (l Layer) isAcrylic() bool { return slices.Contains(acrylics, l.Family) }

var acrylics = []string{"waterborne_acrylic", "alcohol_acrylic", "acrylic_wash"}

// AsMeant is the mend by which a modeller overrules a rule for this layer.
func (l Layer) AsMeant(rule, label string) Mend {
	l.Meant = append(slices.Clone(l.Meant), rule)
	return Mend{ID: "meant", Label: label, Edits: []Edit{{Op: "change", Layer: &l}}}
}

// MeansRule tells whether the modeller overrules a rule for this layer.
func (l Layer) MeansRule(rule string) bool { return slices.Contains(l.Meant, rule) }
