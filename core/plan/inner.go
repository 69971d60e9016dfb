package plan

import (
	"bytes"
	"fmt"
	"image/png"
	"slices"

	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/kit"
	"cinderpath/core/landing"
	"cinderpath/core/look"
	"cinderpath/core/measure"
	"cinderpath/core/strata"
	"cinderpath/core/zone"
)

// InsideQuestion asks how the inside of a part looks before it is closed.
type InsideQuestion struct {
	Part  string
	Side  form.Side // from which one looks in, the wall on that side taken off
	Pixel float64   // model mm
}

// dark is the swatch of an inside that is only glimpsed.
const dark = "#232324"

// trodden is where the paint of an inside wears: on what is stood on, in patches.
const trodden = "up(1)*noise(90;3)"

// InsidePicture is the inside of a part with what is done to it, as PNG: primed, painted, chipped where
// one stands, washed into its corners; or darkened.
func (d *Deriver) InsidePicture(b document.Build, q InsideQuestion) ([]byte, error) {
	in := b.Kit.InsideOf(q.Part)
	if in.State == kit.Shut {
		return nil, measure.Refuse(
			"part",
			"the inside of the "+q.Part+" is closed",
			"say that it is glimpsed or detailed first",
		)
	}
	return stage(d, "inside", []any{b.Body, b.Scale, in, q}, func() ([]byte, error) {
		panels, err := innerPanels(b, q.Part)
		if err != nil {
			return nil, err
		}
		sights := form.Sights(panels, b.Scale)
		i := slices.IndexFunc(sights, func(s form.Sight) bool { return s.Side == q.Side })
		if i < 0 {
			return nil, measure.Refuse("side", fmt.Sprintf("%q is no view", q.Side), "use left, right, top, front or rear")
		}
		box := sights[i].Whole()
		if !(q.Pixel > 0) || box.Width/q.Pixel*box.Height/q.Pixel > mostPixels {
			return nil, measure.Refuse("pixel", "a picture of too many points", "ask for larger points")
		}
		g := form.NewGrid(panels, step(panels, b.Scale))
		site := landing.NewSite(panels, g, nil, landing.Running{}, float64(b.Scale.ToReal(1)))
		state := look.Bare(g)
		for _, l := range innerLayers(in) {
			material, ok := l.Material()
			state.Lay(look.Coat{Deposit: l.Deposit(site), Effect: l.Effect(), Paint: material, Clear: !ok})
		}
		shot := look.Picture{Box: box, Pixel: q.Pixel, Lines: true}
		var out bytes.Buffer
		err = (&png.Encoder{CompressionLevel: png.BestSpeed}).Encode(&out, look.Paint(&sights[i], g, state.Frame(), shot))
		return out.Bytes(), err
	})
}

// innerPanels are the walls, floor and roof about a part's inside. The hull's floor is that of the lower
// hull, where that is a part of its own.
func innerPanels(b document.Build, part string) ([]*form.Panel, error) {
	panels, err := form.Inside(b.Body, func(name string) bool {
		of := zone.Part(name)
		return of == part || part == "hull" && of == "lower"
	})
	if err != nil {
		return nil, measure.At("body", err)
	}
	if len(panels) == 0 {
		return nil, measure.Refuse("part", fmt.Sprintf("%q is no part of the body", part), "use hull, or a turret")
	}
	return panels, nil
}

// innerLayers are what an inside gets, as coats on its faces.
func innerLayers(in kit.Inside) (out []strata.Layer) {
	if in.State == kit.Glimpsed {
		l := strata.Colour.Fresh()
		l.ID, l.Hex = "dark", dark
		return []strata.Layer{l}
	}
	for _, work := range in.Does() {
		kind, found := map[string]strata.Kind{
			"prime": strata.Prime, "paint": strata.Colour, "chips": strata.Chips, "wash": strata.Wash,
		}[work]
		if !found {
			continue // seats, levers and the like are no faces
		}
		l := kind.Fresh()
		l.ID = work
		switch kind {
		case strata.Colour:
			l.Hex = in.Paint()
		case strata.Chips:
			l.By, l.Hex = trodden, "#6b675c"
		}
		out = append(out, l)
	}
	return out
}
