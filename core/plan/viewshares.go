package plan

import (
	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/unit"
	"cinderpath/core/zone"
)

// ViewShares is how much of what takes a scheme is of each colour, as it is seen from a side.
type ViewShares struct {
	Side   form.Side    `json:"side"`
	Shares []unit.Share `json:"shares"`
}

// seenStep is how fine a view is looked at for its shares, mm on the model.
const seenStep = 0.4

// viewShares looks at a scheme from all sides.
func (d *Deriver) viewShares(b document.Build) ([]ViewShares, error) {
	s, laid, err := d.wearing(b)
	if err != nil {
		return nil, err
	}
	return stage(d, "view shares", []any{s.drawing, laid.key}, func() ([]ViewShares, error) {
		sights, err := d.sights(b, s)
		if err != nil {
			return nil, err
		}
		g, err := d.grid(b, s)
		if err != nil {
			return nil, err
		}
		out := make([]ViewShares, len(sights))
		form.Each(len(sights), func(i int) {
			count, all := make([]float64, len(b.Scheme.Colours)), 0.0
			r := sights[i].Raster(sights[i].Whole(), seenStep)
			for k, panel := range r.Panel {
				if panel < 0 || zone.Bare(g.Texels[panel].Zone) {
					continue
				}
				x, y := r.X+float64(k%r.NX)*r.Step, r.Y+float64(k/r.NX)*r.Step
				u, v := sights[i].Flats[panel].At(x, y)
				t := g.Texels[panel]
				if at, ok := t.At(u, v); ok && t.Area[at] > 0 {
					count[min(int(laid.Taken[t.First+at]), len(count)-1)]++
					all++
				}
			}
			out[i] = ViewShares{sights[i].Side, make([]unit.Share, len(count))}
			for c, n := range count {
				out[i].Shares[c] = unit.Share(n / max(all, 1))
			}
		})
		return out, nil
	})
}
