package marking

import (
	"cmp"
	"slices"

	"cinderpath/core/form"
)

// above is how far over a marking something still hides it, real mm.
const above = 600.0

// Over names the zones of what stands over a marking, seen straight onto it, and how much of it each
// hides, the most first.
func (d Drawn) Over(g *form.Grid, panels []*form.Panel) (out []Hidden) {
	figure := d.Drawing.Figure(d.Wide)
	const n = 12
	total := 0
	hides := map[string]int{}
	for _, p := range d.Places {
		normal, ok := faceOf(p, g)
		if !ok {
			continue
		}
		f := newFrame(p, normal)
		for i := range n * n {
			q := Point{
				figure.Wide * ((float64(i%n)+0.5)/n - 0.5),
				figure.High * ((float64(i/n)+0.5)/n - 0.5),
			}
			if figure.Beyond(q) > d.Drawing.EdgeMM {
				continue
			}
			total++
			at := f.at.Plus(f.right.Times(q[0])).Plus(f.up.Times(q[1]))
			seen := map[string]bool{}
			for _, panel := range panels {
				facing := panel.Normal.Dot(f.out)
				if panel.Zone == p.Zone || facing < 1e-6 || seen[panel.Zone] {
					continue
				}
				off := panel.Origin.Sub(at).Dot(panel.Normal) / facing
				if off > 1 && off < above && panel.Holds(panel.Flat(at.Plus(f.out.Times(off)))) {
					seen[panel.Zone] = true
					hides[panel.Zone]++
				}
			}
		}
	}
	for z, count := range hides {
		out = append(out, Hidden{z, float64(count) / float64(total)})
	}
	slices.SortFunc(out, func(a, b Hidden) int {
		return cmp.Or(cmp.Compare(b.Share, a.Share), cmp.Compare(a.Zone, b.Zone))
	})
	return out
}

// Hidden is how much of a marking something hides, 0 to 1.
type Hidden struct {
	Zone  string  `json:"zone"`
	Share float64 `json:"share"`
}
