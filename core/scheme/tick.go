package scheme

import (
	"cinderpath/core/form"
	"cinderpath/core/zone"
	"fmt"
	"math"
)

// Tick is a mark on an edge that two panels share: the same on both.
type Tick struct {
	At    [2]float64
	Along [2]float64 // unit, into the panel
	Name  string
	Zone  string // beyond it
}

// ticks are marks at a third and two thirds of the edges that a panel shares with another.
func ticks(panels []*form.Panel, i int) (out []Tick) {
	p := panels[i]
	for _, line := range p.Lines {
		if line.Joint || line.Smooth {
			continue
		}
		o := beyond(panels, i, line)
		if o < 0 || zone.Bare(panels[o].Zone) {
			continue
		}
		a, b := p.Flat(line.A), p.Flat(line.B)
		long := math.Hypot(b[0]-a[0], b[1]-a[1])
		if long < 1 {
			continue
		}
		// The panel lies on the left of its own edges.
		into := [2]float64{-(b[1] - a[1]) / long, (b[0] - a[0]) / long}
		// The lower panel names the edge, so that both say the same.
		low, high := min(i, o), max(i, o)
		for k, part := range [2]float64{1.0 / 3, 2.0 / 3} {
			if i > o { // it runs the other way
				k = 1 - k
			}
			out = append(out, Tick{
				At:    [2]float64{a[0] + part*(b[0]-a[0]), a[1] + part*(b[1]-a[1])},
				Along: into,
				Name:  fmt.Sprintf("%d.%d%c", low, high, 'a'+k),
				Zone:  panels[o].Zone,
			})
		}
	}
	return out
}

// beyond is the panel on the other side of a panel's edge; below 0: none.
func beyond(panels []*form.Panel, i int, line form.Line) int {
	for o, q := range panels {
		if o == i {
			continue
		}
		for _, other := range q.Lines {
			if distance(other.A, line.B) < 0.01 && distance(other.B, line.A) < 0.01 {
				return o
			}
		}
	}
	return -1
}
