package document

import (
	"strings"

	"cinderpath/core/colour"
	"cinderpath/core/form"
	"cinderpath/core/length"
	"cinderpath/core/measure"
	"cinderpath/core/scheme"
	"cinderpath/core/strata"
)

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
		return Build{}, measure.At("scale", err)
	}
	b.Scale = scale
	for _, f := range []struct {
		field, text string
		to          *Overall
	}{{"length", s.Length, &b.Sizes.Length}, {"width", s.Width, &b.Sizes.Width}, {"height", s.Height, &b.Sizes.Height}} {
		r, err := length.ParseReal(f.text, length.Metre)
		if err != nil {
			return Build{}, measure.At(f.field, err)
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
		{Name: "Gloss coat", Kind: strata.Clear, Family: "clear_acrylic", Applied: misted, Coats: 1, Sheen: colour.Gloss},
		{Name: "Decals", Kind: strata.Decals, Family: "decal", Applied: brushed, Coats: 1, Zones: []string{"hull", "turret"}, Softener: true},
		{Name: "Satin seal", Kind: strata.Clear, Family: "clear_acrylic", Applied: misted, Coats: 1, Sheen: colour.Satin},
		{Name: "Pin wash", Kind: strata.Wash, Family: "enamel_effect", Applied: brushed, Coats: 1, Hex: "#3b2f25"},
		{Name: "Chips", Kind: strata.Chips, Family: "waterborne_acrylic", Applied: brushed, Coats: 1, Hex: "#8a8f7c", Zones: []string{"hull", "turret", "cupola"}},
		{Name: "Undo coat", Kind: strata.Clear, Family: "clear_acrylic", Applied: misted, Coats: 1, Sheen: colour.Satin},
		{Name: "Rust streaks", Kind: strata.Rust, Family: "oil_thin", Applied: brushed, Coats: 1, Hex: "#7a4a2c", Zones: []string{"hull", "turret"}},
		{Name: "Dust", Kind: strata.Dust, Family: "enamel_effect", Applied: brushed, Coats: 1, Hex: "#a39a86", Zones: []string{"lower", "gear"}},
		{Name: "Mud", Kind: strata.Mud, Family: "mud_paste", Applied: brushed, Coats: 1, Hex: "#6d5b43", Zones: []string{"lower", "gear"}, DepthMM: 1},
	}
	for i := range stack {
		stack[i].ID = newID()
	}
	return stack
}
