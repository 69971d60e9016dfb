package scheme

import (
	"math"

	"cinderpath/core/form"
)

// leastGap between two spots, of their width.
const leastGap = 0.4

// spots are separate discs, each on one panel and whole: darts that keep their distance from each
// other, thrown until their area is the part that is wanted or no more find room.
type spots struct {
	width, rough float64
	seed         uint64
	cell         float64
	by           []map[[2]int][]disc // by panel and cell of the flat frame
}

type disc struct{ x, y, r float64 }

// most darts that are thrown at a panel for each place a spot could have.
const throws = 40

// mostThrown at one panel: spots far smaller than a texel are seen by nobody.
const mostThrown = 100_000

func newSpots(m making) field {
	f := &spots{
		width: m.width, rough: 0.5 * (1 - m.bend) * m.width / 2, seed: m.seed,
		cell: (1 + leastGap) * m.width, by: make([]map[[2]int][]disc, len(m.grid.Texels)),
	}
	each := math.Pi / 4 * m.width * m.width
	form.Each(len(m.panels), func(n int) {
		i := m.panels[n]
		t := m.grid.Texels[i]
		area := 0.0
		for _, a := range t.Area {
			area += float64(a)
		}
		here := map[[2]int][]disc{}
		wanted, laid := float64(m.part)*area, 0.0
		h := form.Hash(f.seed ^ form.Hash(uint64(i)))
		// The last of a panel's spots is thrown by chance, so that many small panels together get
		// their part.
		for k := 0.0; k < min(60+throws*area/(f.cell*f.cell), mostThrown) && laid < wanted; k++ {
			h = form.Hash(h)
			x := t.X0 + form.Unit(h)*float64(t.NX)*t.Step
			h = form.Hash(h)
			y := t.Y0 + form.Unit(h)*float64(t.NY)*t.Step
			h = form.Hash(h)
			d := disc{x, y, f.width / 2 * (0.94 + 0.12*form.Unit(h))}
			if wanted-laid < each/2 && form.Unit(form.Hash(h+9)) > (wanted-laid)/each {
				break
			}
			if f.room(here, d) && whole(t, d) {
				c := f.key(x, y)
				here[c] = append(here[c], d)
				laid += math.Pi * d.r * d.r
			}
		}
		f.by[i] = here
	})
	return f
}

func (f *spots) key(x, y float64) [2]int {
	return [2]int{int(math.Floor(x / f.cell)), int(math.Floor(y / f.cell))}
}

// room tells whether a disc keeps its distance from all others.
func (f *spots) room(here map[[2]int][]disc, d disc) bool {
	c := f.key(d.x, d.y)
	for j := -1; j <= 1; j++ {
		for i := -1; i <= 1; i++ {
			for _, o := range here[[2]int{c[0] + i, c[1] + j}] {
				if math.Hypot(o.x-d.x, o.y-d.y) < o.r+d.r+leastGap*f.width {
					return false
				}
			}
		}
	}
	return true
}

// whole tells whether a disc lies on its panel altogether.
func whole(t *form.Texels, d disc) bool {
	on := func(x, y float64) bool {
		i, j := int(math.Floor((x-t.X0)/t.Step)), int(math.Floor((y-t.Y0)/t.Step))
		return i >= 0 && j >= 0 && i < t.NX && j < t.NY && t.Area[j*t.NX+i] > 0
	}
	const around = 24
	for k := range around {
		sin, cos := math.Sincos(2 * math.Pi * float64(k) / around)
		if !on(d.x+1.1*d.r*cos, d.y+1.1*d.r*sin) || !on(d.x+0.5*d.r*cos, d.y+0.5*d.r*sin) {
			return false
		}
	}
	return on(d.x, d.y)
}

func (f *spots) at(p place) float64 {
	c := f.key(p.x, p.y)
	best := -f.cell
	for j := -1; j <= 1; j++ {
		for i := -1; i <= 1; i++ {
			for _, d := range f.by[p.panel][[2]int{c[0] + i, c[1] + j}] {
				best = max(best, d.r-math.Hypot(p.x-d.x, p.y-d.y))
			}
		}
	}
	if f.rough > 0 && best > -f.cell {
		k := 2.2 / f.width
		best += f.rough * p.near.Noise(f.seed+3, p.at[0]*k, p.at[1]*k, p.at[2]*k)
	}
	return best
}

// pin puts a spot at a place, or takes away those that cover it.
func (f *spots) pin(p place, inside bool) {
	here := f.by[p.panel]
	c := f.key(p.x, p.y)
	for j := -1; j <= 1; j++ {
		for i := -1; i <= 1; i++ {
			at := [2]int{c[0] + i, c[1] + j}
			var keep []disc
			for _, d := range here[at] {
				away := math.Hypot(d.x-p.x, d.y-p.y)
				if inside && away >= d.r+f.width/2+leastGap*f.width || !inside && away > 1.15*d.r {
					keep = append(keep, d)
				}
			}
			here[at] = keep
		}
	}
	if inside {
		here[c] = append(here[c], disc{p.x, p.y, f.width / 2})
	}
}

// least is the level below which spots would grow into the distance that they keep.
func (f *spots) least() float64 { return -0.05 * f.width }
