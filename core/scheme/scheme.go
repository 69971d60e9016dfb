package scheme

import (
	"cmp"
	"fmt"
	"math"
	"runtime"
	"slices"
	"strings"
	"sync"
	"sync/atomic"

	"cinderpath/core/form"
)

// Colour is one colour of a scheme, in spraying order.
type Colour struct {
	Name  string  `json:"name"`
	Hex   string  `json:"hex"`   // as the eye sees it, #rrggbb
	Share float64 `json:"share"` // wanted part of the painted surface, 0 to 1; the first colour takes what is left
}

// Pattern is the rule that a scheme follows.
type Pattern struct {
	Colours []Colour `json:"colours"`
	Width   float64  `json:"width"`   // of a band, real mm
	Feather float64  `json:"feather"` // width of the soft edge, real mm; 0 is hard
	Seed    uint64   `json:"seed"`
	Without []string `json:"without,omitempty"` // zones, or first halves of zones, that stay in the first colour
}

// MostColours is what a band pattern can carry.
const MostColours = 3

// Check reports the first thing that makes a pattern impossible.
func (p Pattern) Check() error {
	if len(p.Colours) == 0 || len(p.Colours) > MostColours {
		return fmt.Errorf("a scheme has one to %d colours, this one has %d", MostColours, len(p.Colours))
	}
	sum := 0.0
	for i, c := range p.Colours {
		if c.Name == "" {
			return fmt.Errorf("colour %d has no name", i+1)
		}
		if !hex(c.Hex) {
			return fmt.Errorf("colour %s: %q is not a swatch; write it like #5f6b4e", c.Name, c.Hex)
		}
		if i > 0 {
			if !(c.Share > 0 && c.Share < 1) {
				return fmt.Errorf("colour %s: its share must lie between 0 and 100 %%", c.Name)
			}
			sum += c.Share
		}
	}
	switch {
	case sum > 0.95:
		return fmt.Errorf("the colours above %s take %.0f %% together; leave it at least 5 %%", p.Colours[0].Name, 100*sum)
	case len(p.Colours) > 1 && !(p.Width >= 50 && p.Width <= 5000):
		return fmt.Errorf("band width %.0f mm: give 50 to 5000 mm at full size", p.Width)
	case !(p.Feather >= 0 && p.Feather <= p.Width):
		return fmt.Errorf("soft edge %.0f mm: give 0 to the width of a band", p.Feather)
	}
	return nil
}

func hex(s string) bool {
	return len(s) == 7 && s[0] == '#' && strings.Trim(strings.ToLower(s[1:]), "0123456789abcdef") == ""
}

func (p Pattern) leavesOut(zone string) bool {
	return slices.ContainsFunc(p.Without, func(w string) bool { return zone == w || strings.HasPrefix(zone, w+".") })
}

// Layout is a pattern laid over a surface.
type Layout struct {
	Shares []float64            // of each colour on the whole painted surface
	Zones  map[string][]float64 // of each colour by zone
	paint  map[*form.Panel][]form.Painted
}

// Painted gives the colour regions of a panel above the first colour.
func (l *Layout) Painted(p *form.Panel) []form.Painted { return l.paint[p] }

// softness steps of a feathered edge: how far each outline lies from the middle
// of the edge, in widths of the edge, and how much the colour covers there.
var softness = []struct{ offset, opacity float64 }{{-0.4, 0.3}, {0, 0.5}, {0.4, 1}}

// Lay finds the thresholds that give each colour its share and the regions that
// follow. Tracks are metal and take no scheme. Nothing here depends on the order
// of panels, so the same surface and seed give the same layout.
func Lay(p Pattern, g *form.Grid) (*Layout, error) {
	if err := p.Check(); err != nil {
		return nil, err
	}
	n := len(p.Colours)
	out := &Layout{Shares: make([]float64, n), Zones: map[string][]float64{}, paint: map[*form.Panel][]form.Painted{}}
	var covered []*form.Lattice
	total, whole := 0.0, 0.0
	for _, l := range g.Lattices {
		if strings.HasSuffix(l.Panel.Zone, ".track") {
			continue
		}
		whole += sum(l.Share)
		if !p.leavesOut(l.Panel.Zone) {
			covered = append(covered, l)
			total += sum(l.Share)
		}
	}
	taken := make([][]int, len(covered)) // colour of each node, 0 while free
	values := make([][][]float64, n)     // by colour, lattice, node
	level := make([]float64, n)
	nodes := 0
	for i, l := range covered {
		taken[i] = make([]int, len(l.Points))
		nodes += len(l.Points)
	}
	free := whole
	for c := n - 1; c > 0; c-- {
		want := p.Colours[c].Share * whole
		f := newField(p.Seed, c, p.Width, want/free)
		values[c] = make([][]float64, len(covered))
		each(len(covered), func(i int) {
			v := make([]float64, len(covered[i].Points))
			for k, point := range covered[i].Points {
				v[k] = f.at(point)
			}
			values[c][i] = v
		})
		samples := make([]sample, 0, nodes)
		for i, l := range covered {
			for k, share := range l.Share {
				if share > 0 && taken[i][k] == 0 {
					samples = append(samples, sample{values[c][i][k], share})
				}
			}
		}
		level[c] = threshold(samples, want)
		for i, l := range covered {
			for k := range l.Points {
				if taken[i][k] == 0 && values[c][i][k] > level[c] {
					taken[i][k] = c
				}
			}
		}
		free -= want
	}
	for _, l := range g.Lattices {
		if z := l.Panel.Zone; !strings.HasSuffix(z, ".track") && out.Zones[z] == nil {
			out.Zones[z] = make([]float64, n)
		}
	}
	areas := make([]float64, n)
	for i, l := range covered {
		for k, share := range l.Share {
			out.Zones[l.Panel.Zone][taken[i][k]] += share
			areas[taken[i][k]] += share
		}
	}
	areas[0] += whole - total
	for c := range areas {
		out.Shares[c] = areas[c] / whole
	}
	for _, shares := range out.Zones {
		if area := sum(shares); area > 0 {
			for c := range shares {
				shares[c] /= area
			}
		} else {
			shares[0] = 1
		}
	}
	painted := make([][]form.Painted, len(covered))
	each(len(covered), func(i int) { painted[i] = regions(p, covered[i], values, level, i) })
	for i, l := range covered {
		out.paint[l.Panel] = painted[i]
	}
	return out, nil
}

// each runs f for 0 to n-1 on all cores. Every f writes to its own place, so the
// result does not depend on who came first.
func each(n int, f func(i int)) {
	var next atomic.Int64
	var wg sync.WaitGroup
	for range min(n, runtime.GOMAXPROCS(0)) {
		wg.Go(func() {
			for i := int(next.Add(1)) - 1; i < n; i = int(next.Add(1)) - 1 {
				f(i)
			}
		})
	}
	wg.Wait()
}

func regions(p Pattern, l *form.Lattice, values [][][]float64, level []float64, i int) []form.Painted {
	var out []form.Painted
	for c := 1; c < len(p.Colours); c++ {
		steps := softness
		if p.Feather == 0 {
			steps = softness[2:]
		}
		for _, s := range steps {
			offset := s.offset * p.Feather
			if rings := l.Regions(values[c][i], level[c]+offset); len(rings) > 0 {
				out = append(out, form.Painted{Colour: c, Opacity: s.opacity, Rings: rings})
			}
		}
	}
	return out
}

type sample struct{ value, area float64 }

// threshold is the value above which samples of the wanted area lie.
func threshold(samples []sample, want float64) float64 {
	slices.SortFunc(samples, func(a, b sample) int { return cmp.Compare(b.value, a.value) })
	got := 0.0
	for _, s := range samples {
		if got += s.area; got >= want {
			return s.value
		}
	}
	return math.Inf(-1)
}

func sum(x []float64) float64 {
	total := 0.0
	for _, v := range x {
		total += v
	}
	return total
}
