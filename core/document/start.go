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
	b.Scheme = scheme.New(l)
	b.Layers = Stack(newID)
	return b, b.Check()
}

// Stack is a working order for a vehicle in service that has no finding: a start
// to change from.
func Stack(newID func() string) []strata.Layer {
	var stack []strata.Layer
	add := func(k strata.Kind, name string, zones ...string) *strata.Layer {
		l := k.Fresh()
		l.ID, l.Name, l.Zones = newID(), name, zones
		stack = append(stack, l)
		return &stack[len(stack)-1]
	}
	add(strata.Prime, "Primer")
	camouflage := add(strata.Colour, "Camouflage")
	camouflage.Coats, camouflage.Hex = 2, ""
	add(strata.Clear, "Gloss coat").Sheen = colour.Gloss
	add(strata.Decals, "Decals", "hull", "turret").Softener = true
	add(strata.Clear, "Satin seal").Sheen = colour.Satin
	add(strata.Wash, "Pin wash")
	add(strata.Chips, "Chips", "hull", "turret", "cupola")
	add(strata.Clear, "Undo coat").Sheen = colour.Satin
	add(strata.Rust, "Rust streaks", "hull", "turret")
	add(strata.Dust, "Dust", "lower", "gear")
	add(strata.Mud, "Mud", "lower", "gear").DepthMM = 1
	return stack
}
