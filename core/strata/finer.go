package strata

import (
	"math"

	"cinderpath/core/form"
	"cinderpath/core/landing"
	"cinderpath/core/marking"
)

// Finer is a deposit on a finer grid of a part of the surface: marks and markings drawn anew, with the
// outlines that they have, all else between the texels of the coarse grid that it was laid on.
func (d Deposit) Finer(l Layer, coarse, fine *form.Grid) Deposit {
	if d.Film == nil {
		return d
	}
	out := Deposit{Full: d.Full, Cover: d.Cover, Marks: d.Marks, Film: make([]uint8, fine.Count)}
	for _, p := range d.Panels {
		if len(fine.Texels[p].Area) > 0 {
			out.Panels = append(out.Panels, p)
		}
	}
	untouched := len(l.Touches) == 0 && len(l.Spares.Drawn) == 0
	switch {
	case l.Kind == Decals:
		cover, panels := marking.CoverPart(l.Drawn, coarse, fine)
		if cover == nil {
			return Deposit{}
		}
		return covered(fine, panels, cover, d.Full, nil)
	case len(d.Marks) > 0 && d.Cover && untouched:
		for at, c := range landing.Drawn(d.Marks, fine) {
			out.Film[at] = uint8(c*Steps + 0.5)
		}
		return out
	}
	form.Each(len(out.Panels), func(n int) {
		from, t := coarse.Texels[out.Panels[n]], fine.Texels[out.Panels[n]]
		for k := range t.Area {
			x := t.X0 + (float64(k%t.NX)+0.5)*t.Step
			y := t.Y0 + (float64(k/t.NX)+0.5)*t.Step
			out.Film[t.First+k] = d.between(from, (x-from.X0)/from.Step-0.5, (y-from.Y0)/from.Step-0.5)
		}
	})
	return out
}

// between is how thick a deposit is at a place between the middles of texels.
func (d Deposit) between(t *form.Texels, x, y float64) uint8 {
	i, j := int(math.Floor(x)), int(math.Floor(y))
	dx, dy := x-float64(i), y-float64(j)
	sum, all := 0.0, 0.0
	for b := range 2 {
		for a := range 2 {
			ii, jj := min(max(i+a, 0), t.NX-1), min(max(j+b, 0), t.NY-1)
			k := jj*t.NX + ii
			if t.Area[k] == 0 {
				continue
			}
			w := (dx*float64(a) + (1-dx)*float64(1-a)) * (dy*float64(b) + (1-dy)*float64(1-b))
			sum += w * float64(d.Film[t.First+k])
			all += w
		}
	}
	if all < 1e-9 {
		return 0
	}
	return uint8(sum/all + 0.5)
}
