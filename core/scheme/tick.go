package scheme

import (
	"cinderpath/core/form"
	"cinderpath/core/zone"
	"fmt"
	"math"
	"slices"
)

// Tick is a mark on an edge that two panels share: the same on both.
type Tick struct {
	At    [2]float64
	Along [2]float64 // unit, into the panel
	Name  string
	Zone  string // beyond it
}

// Edges with room for one tick and for two, mm on the model.
const (
	oneTick  = 2.0
	twoTicks = 6.0
)

// ticks are marks at a third and two thirds of the edges that a panel of a net shares with others, in the
// middle of short ones; none at its folds. What is drawn as a chord of an arc has one at its end, which lies
// on the arc as well. beyond tells what lies on the other side of each line.
func ticks(panels []*form.Panel, m *form.Member, beyond [][]form.Other, scale float64) (out []Tick) {
	i, p := m.Panel, panels[m.Panel]
	for n, line := range p.Lines {
		o := beyond[i][n].Panel
		if o < 0 || zone.Bare(panels[o].Zone) || slices.Contains(m.Folds, n) {
			continue
		}
		a, b := p.Flat(line.A), p.Flat(line.B)
		long := math.Hypot(b[0]-a[0], b[1]-a[1])
		parts := []float64{1.0 / 3, 2.0 / 3}
		switch {
		case long < oneTick*scale:
			continue
		case p.Arc(n) || panels[o].Arc(beyond[i][n].Line):
			parts = []float64{0}
			if i > o {
				parts[0] = 1
			}
		case long < twoTicks*scale:
			parts = []float64{0.5}
		}
		// The panel lies on the left of its own edges.
		into := m.Along([2]float64{-(b[1] - a[1]) / long, (b[0] - a[0]) / long})
		// The lower panel names the edge, so that both say the same.
		low, high := min(i, o), max(i, o)
		for k, part := range parts {
			if i > o { // it runs the other way
				k = len(parts) - 1 - k
			}
			there := line.A.Plus(line.B.Sub(line.A).Times(part))
			if !shows(p, n, there) || !shows(panels[o], beyond[i][n].Line, there) {
				continue // another part stands there
			}
			out = append(out, Tick{
				At:    m.Flat(p.Flat(there)),
				Along: into,
				Name:  fmt.Sprintf("%d.%d%c", low, high, 'a'+k),
				Zone:  panels[o].Zone,
			})
		}
	}
	return out
}

// shows tells whether a panel is seen beside a place on one of its lines.
func shows(p *form.Panel, line int, at form.Vec) bool {
	a, b, q := p.Flat(p.Lines[line].A), p.Flat(p.Lines[line].B), p.Flat(at)
	middle := [2]float64{(a[0] + b[0]) / 2, (a[1] + b[1]) / 2}
	long := math.Hypot(b[0]-a[0], b[1]-a[1])
	// Inward, and from a corner a little along the line.
	dx, dy := (b[0]-a[0])/long, (b[1]-a[1])/long
	s := math.Copysign(min(2*inward, math.Hypot(middle[0]-q[0], middle[1]-q[1])), dx*(middle[0]-q[0])+dy*(middle[1]-q[1]))
	return p.Holds([2]float64{q[0] + s*dx - inward*dy, q[1] + s*dy + inward*dx})
}
