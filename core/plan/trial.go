package plan

import (
	"fmt"
	"image"
	"image/color"
	"slices"

	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/landing"
	"cinderpath/core/look"
	"cinderpath/core/measure"
	"cinderpath/core/strata"
)

// Trial is a layer on a card as it should be, beside too little and too much of it, at the model's size.
type Trial struct {
	Name, Scale, Layer string
	Cards              []TrialCard
	Look               []string // what to look at
	Wide, High         float64  // of a card, mm
}

// TrialCard is one of them.
type TrialCard struct {
	Words string
	Image image.Image
}

// A card, mm, and how fine it is printed.
const (
	cardWide  = 52.0
	cardHigh  = 70.0
	cardFine  = 0.2
	cardTimes = 2.5 // too much is so many times what is right, and too little so many times less
)

// TrialOf draws the card of a layer of a build in a workshop.
func (d *Deriver) TrialOf(w document.Workshop, b document.Build, id string) (Trial, error) {
	b = w.Filled(b)
	i := slices.IndexFunc(b.Layers, func(l strata.Layer) bool { return l.ID == id })
	if i < 0 {
		return Trial{}, measure.Refuse("layer", "there is none of that id", "look at the newer state")
	}
	l := b.Layers[i]
	if !l.Tried() {
		return Trial{}, measure.Refuse("layer", l.Name+" needs no trial", "choose one of marks, streaks, washes or mists")
	}
	out := Trial{Name: b.Name, Scale: b.Scale.String(), Layer: l.Name, Wide: cardWide, High: cardHigh}
	if t, ok := l.Worked(); ok {
		out.Look = append(out.Look, t.Check)
	}
	real := float64(b.Scale.ToReal(1))
	panel := card(cardWide*real, cardHigh*real)
	site := landing.NewSite(
		[]*form.Panel{panel},
		form.NewGrid([]*form.Panel{panel}, cardFine*real),
		nil,
		landing.Running{},
		real,
	)
	for _, c := range []struct {
		words string
		times float64
	}{{"too little", 1 / cardTimes}, {"right", 1}, {"too much", cardTimes}} {
		state := look.Bare(site.Grid)
		ground := strata.Colour.Fresh()
		ground.Hex, ground.Coats = b.Scheme.Colours[0].Hex, 3
		for _, x := range []struct {
			l strata.Layer
			d strata.Deposit
		}{{ground, ground.Trial(site, 1)}, {l, l.Trial(site, c.times)}} {
			material, ok := x.l.Material()
			state.Lay(look.Coat{Deposit: x.d, Effect: x.l.Effect(), Paint: material, Clear: !ok})
		}
		out.Cards = append(out.Cards, TrialCard{
			Words: fmt.Sprintf("%s, %s", c.words, dosed(c.times)), Image: faceOf(site.Grid.Texels[0], state.Frame()),
		})
	}
	return out, nil
}

func dosed(times float64) string {
	if times == 1 {
		return "as it is planned"
	}
	return fmt.Sprintf("%.2g × of it", times)
}

// card is an upright plate whose upper edge water runs over.
func card(wide, high float64) *form.Panel {
	p := &form.Panel{Zone: "card.front", Name: "card.front/0", Plane: form.Plane{
		Normal: form.Vec{0, 1, 0}, Origin: form.Vec{0, 0, 0}, U: form.Vec{-1, 0, 0}, V: form.Vec{0, 0, 1},
	}}
	corners := []form.Vec{p.Space(0, 0), p.Space(wide, 0), p.Space(wide, high), p.Space(0, high)}
	p.Pieces = [][]form.Vec{corners}
	for i, beyond := range []form.Vec{{0, 0, -1}, {-1, 0, 0}, {0, 0, 1}, {1, 0, 0}} {
		p.Lines = append(p.Lines, form.Line{A: corners[i], B: corners[(i+1)%4], Beyond: beyond})
	}
	return p
}

// faceOf is a frame of one panel as an image, its upper edge on top.
func faceOf(t *form.Texels, f look.Frame) image.Image {
	nx, ny := t.NX-1, t.NY-1 // the last squares lie beside the card
	out := image.NewNRGBA(image.Rect(0, 0, nx, ny))
	for j := range ny {
		for i := range nx {
			px := f[4*(t.First+j*t.NX+i):]
			if px[3] > 0 {
				out.SetNRGBA(i, ny-1-j, color.NRGBA{px[0], px[1], px[2], 255})
			}
		}
	}
	return out
}
