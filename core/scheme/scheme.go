package scheme

import (
	"fmt"
	"math"
	"slices"
	"strings"

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

// line is a soft edge too small to be drawn soft.
var line = []struct{ offset, opacity float64 }{{0, 1}}

// bare tells whether a zone takes no scheme: tracks are metal, tyres are rubber.
func bare(zone string) bool {
	return strings.HasSuffix(zone, ".track") || strings.HasSuffix(zone, ".rubber")
}

// texel is a place of the surface that takes the scheme.
type texel struct {
	point form.Vec
	area  float64
	zone  int32
	taken int32 // its colour, 0 while free
}

// chunk is how many texels are worked on at a time.
const chunk = 4096

// Lay finds the thresholds that give each colour its share, over the texels of the
// surface, and the regions that follow, over the lattices of the same panels. Nothing
// here depends on the order of panels, so the same surface and seed give the same layout.
func Lay(p Pattern, g *form.Grid, lattices []*form.Lattice) (*Layout, error) {
	if err := p.Check(); err != nil {
		return nil, err
	}
	n := len(p.Colours)
	out := &Layout{Shares: make([]float64, n), Zones: map[string][]float64{}, paint: map[*form.Panel][]form.Painted{}}
	all, zones, whole, total := p.texels(g)
	for _, z := range zones {
		out.Zones[z] = make([]float64, n)
	}
	fields, level := make([]field, n), make([]float64, n)
	values := make([]float64, len(all))
	free := whole
	for c := n - 1; c > 0; c-- {
		want := p.Colours[c].Share * whole
		f := newField(p.Seed, c, p.Width, want/free)
		form.Each((len(all)+chunk-1)/chunk, func(i int) {
			for k := i * chunk; k < min((i+1)*chunk, len(all)); k++ {
				values[k] = f.at(all[k].point)
			}
		})
		fields[c], level[c] = f, threshold(all, values, want)
		for k := range all {
			if all[k].taken == 0 && values[k] > level[c] {
				all[k].taken = int32(c)
			}
		}
		free -= want
	}
	areas := make([]float64, n)
	for _, t := range all {
		out.Zones[zones[t.zone]][t.taken] += t.area
		areas[t.taken] += t.area
	}
	areas[0] += whole - total
	for c := range areas {
		out.Shares[c] = areas[c] / whole
	}
	for zone := range g.Area {
		if out.Zones[zone] == nil && !bare(zone) {
			out.Zones[zone] = make([]float64, n)
		}
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
	painted := make([][]form.Painted, len(lattices))
	form.Each(len(lattices), func(i int) {
		if l := lattices[i]; !bare(l.Panel.Zone) && !p.leavesOut(l.Panel.Zone) {
			painted[i] = regions(p, l, fields, level)
		}
	})
	for i, l := range lattices {
		if painted[i] != nil {
			out.paint[l.Panel] = painted[i]
		}
	}
	return out, nil
}

// mostTexels is how many texels a scheme is weighed on: of more, every so many-th of a
// panel stands for its neighbours. Shares err by less than a thousandth.
const mostTexels = 120_000

// texels lists the places that take the scheme and the zones they lie in, with the area
// of all that is painted, and of what takes the scheme.
func (p Pattern) texels(g *form.Grid) (all []texel, zones []string, whole, total float64) {
	number := map[string]int32{}
	n := 0
	for _, t := range g.Texels {
		if !bare(t.Panel.Zone) && !p.leavesOut(t.Panel.Zone) {
			n += len(t.Area)
		}
	}
	every := max(1, n/mostTexels)
	for _, t := range g.Texels {
		zone := t.Panel.Zone
		if bare(zone) {
			continue
		}
		out := p.leavesOut(zone)
		if _, known := number[zone]; !known && !out {
			number[zone] = int32(len(zones))
			zones = append(zones, zone)
		}
		// The last of a run stands for all of it; runs go along rows, whose ends fall
		// differently from row to row, so that the places do not line up.
		pending, count := 0.0, 0
		for k, area := range t.Area {
			if area == 0 {
				continue
			}
			whole += float64(area)
			if out {
				continue
			}
			total += float64(area)
			pending += float64(area)
			if count++; count == every {
				all = append(all, texel{point: t.Point(k), area: pending, zone: number[zone]})
				pending, count = 0, 0
			}
		}
		if pending > 0 {
			all = append(all, texel{point: t.Point(lastCovered(t.Area)), area: pending, zone: number[zone]})
		}
	}
	return all, zones, whole, total
}

func lastCovered(area []float32) int {
	for k := len(area) - 1; k > 0; k-- {
		if area[k] > 0 {
			return k
		}
	}
	return 0
}

// regions finds where each colour lies on a panel. What is covered wholly needs nothing
// beneath it; on a face narrower than the soft edge the edge is drawn as a line.
func regions(p Pattern, l *form.Lattice, fields []field, level []float64) []form.Painted {
	out := []form.Painted{}
	values := make([]float64, len(l.Points))
	narrow := min(l.DX*float64(l.NX-1), l.DY*float64(l.NY-1)) < 2*p.Feather
	for c := 1; c < len(p.Colours); c++ {
		lowest := math.Inf(1)
		for k, point := range l.Points {
			values[k] = fields[c].at(point)
			lowest = min(lowest, values[k])
		}
		steps := softness
		switch {
		case p.Feather == 0:
			steps = softness[2:]
		case narrow:
			steps = line
		}
		for i, s := range steps {
			if i+1 < len(steps) && lowest > level[c]+steps[i+1].offset*p.Feather {
				continue // the next step covers all of it, too
			}
			if s.opacity == 1 && lowest > level[c]+s.offset*p.Feather {
				out = out[:0]
			}
			if rings := l.Regions(values, level[c]+s.offset*p.Feather); len(rings) > 0 {
				out = append(out, form.Painted{Colour: c, Opacity: s.opacity, Rings: rings})
			}
		}
	}
	return out
}

// threshold is the value above which free texels of the wanted area lie, found by
// sorting into ever finer drawers until one holds a hundred-thousandth of the area.
func threshold(all []texel, values []float64, want float64) float64 {
	low, high := math.Inf(1), math.Inf(-1)
	for k, t := range all {
		if t.taken == 0 {
			low, high = min(low, values[k]), max(high, values[k])
		}
	}
	const drawers = 2048
	for range 4 {
		var area [drawers]float64
		above := 0.0
		width := (high - low) / drawers
		if !(width > 0) {
			break
		}
		for k, t := range all {
			if t.taken != 0 {
				continue
			}
			switch v := values[k]; {
			case v > high:
				above += t.area
			case v > low:
				area[min(int((v-low)/width), drawers-1)] += t.area
			}
		}
		for d := drawers - 1; d >= 0; d-- {
			if above+area[d] >= want || d == 0 {
				low, high = low+float64(d)*width, low+float64(d+1)*width
				break
			}
			above += area[d]
		}
	}
	return low
}

func sum(x []float64) float64 {
	total := 0.0
	for _, v := range x {
		total += v
	}
	return total
}
