package plan

import (
	"bytes"
	"fmt"
	"image"
	"image/png"
	"slices"

	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/look"
	"cinderpath/core/measure"
	"cinderpath/core/relief"
	"cinderpath/core/zone"
)

// PictureQuestion asks for a picture of a view as it is after a step.
type PictureQuestion struct {
	Look  string    // as the step names it
	Side  form.Side // or Worn
	Box   form.Box  // of the view, model mm; all of it when empty
	Pixel float64   // model mm
	Lines bool
	Only  []string // places in colour, the rest grey; all when empty

	small bool // with the small relief, where the other lines are drawn over it
}

// named finds what a look names, and how many coats are on in it.
func (d *Deriver) named(name string) (*dressing, int, error) {
	whole, _ := got[string](d, "part of", name)
	all, ok := got[*dressing](d, "dressing", whole)
	if !ok {
		return nil, 0, ErrForgotten
	}
	return all, slices.IndexFunc(all.keys, func(k string) bool { return nameOf(k) == name }), nil
}

// seen gives the frame that a look names, with the surface that it is of.
func (d *Deriver) seen(all *dressing, n int) (surface, look.Frame, error) {
	s, err := d.surface(all.build)
	if err != nil {
		return s, nil, err
	}
	laid, err := d.scheme(all.build, s)
	if err != nil {
		return s, nil, err
	}
	f, err := d.frame(all.build, s, laid, all.coats, all.keys, n)
	return s, f, err
}

// Picture gives a picture as PNG. What it shows is named by its question alone.
func (d *Deriver) Picture(q PictureQuestion) ([]byte, error) {
	all, n, err := d.named(q.Look)
	if err != nil {
		return nil, err
	}
	return stage(d, "picture", []any{all.keys[n], q}, func() ([]byte, error) {
		img, err := d.taken(all, n, q)
		if err != nil {
			return nil, err
		}
		var out bytes.Buffer
		err = (&png.Encoder{CompressionLevel: png.BestSpeed}).Encode(&out, img)
		return out.Bytes(), err
	})
}

// taken is a picture of so many coats, finer than the surface's own texels where it is near.
func (d *Deriver) taken(all *dressing, n int, q PictureQuestion) (image.Image, error) {
	if near, err := d.nearby(all, n, q); near != nil || err != nil {
		return near, err
	}
	s, f, err := d.seen(all, n)
	if err != nil {
		return nil, err
	}
	return d.painted(all.build, s, f, q)
}

// painted is a picture before it is packed.
func (d *Deriver) painted(b document.Build, s surface, f look.Frame, q PictureQuestion) (image.Image, error) {
	g, err := d.grid(b, s)
	if err != nil {
		return nil, err
	}
	if q.Side == Worn {
		return look.NewSheet(g).Paint(g, f), nil
	}
	sights, err := d.sights(b, s)
	if err != nil {
		return nil, err
	}
	return d.shot(b, s, g, sights, f, q)
}

// shot is a picture of what is seen on a grid.
func (d *Deriver) shot(
	b document.Build, s surface, g *form.Grid, sights []form.Sight, f look.Frame, q PictureQuestion,
) (image.Image, error) {
	i := slices.IndexFunc(sights, func(x form.Sight) bool { return x.Side == q.Side })
	if i < 0 {
		return nil, measure.Refuse("side", fmt.Sprintf("%q is no view", q.Side), "use left, right, top, front, rear or worn")
	}
	sight := &sights[i]
	box := q.Box
	if box == (form.Box{}) {
		box = sight.Whole()
	}
	size := box.Width / q.Pixel * box.Height / q.Pixel
	if !(q.Pixel > 0 && box.Width > 0 && box.Height > 0 && size <= mostPixels) {
		return nil, measure.Refuse(
			"pixel",
			fmt.Sprintf("a picture of %.0f points", size),
			fmt.Sprintf("ask for a part of the view, or larger points; at most %d", mostPixels),
		)
	}
	var only []bool
	if len(q.Only) > 0 {
		only = make([]bool, len(s.panels))
		for i, p := range s.panels {
			only[i] = zone.Among(p.Zone, q.Only)
		}
	}
	shot := look.Picture{Box: box, Pixel: q.Pixel, Lines: q.Lines, Only: only}
	if q.Lines || q.small {
		shot.Small = relief.Lay(b.Raised(), s.panels)
	}
	return look.Paint(sight, g, f, shot), nil
}
