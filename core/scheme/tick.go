package scheme

import (
	"cinderpath/core/form"
	"cinderpath/core/zone"
	"cmp"
	"fmt"
	"math"
	"slices"
)

// Tick is a mark on an edge that two panels share: the same on both.
type Tick struct {
	At    [2]float64
	Along [2]float64 // unit, into the panel
	Name  string     // the same on both masks that meet there; nothing where the other has none
	Zone  string     // beyond it

	panels [2]int // that share the edge, the lower one first
	part   int    // which of the marks on that edge
}

// numbered gives masks their numbers, from 1, and the ticks on edges that two of them share the names of both:
// 3.7a is the first where number 3 and number 7 meet.
func numbered(masks []PanelMask) []PanelMask {
	out := slices.Clone(masks)
	number := map[int]int{} // of the mask that a panel lies on
	for i := range out {
		out[i].Number = i + 1
		for _, m := range out[i].Net.Members {
			number[m.Panel] = i + 1
		}
	}
	type mark struct {
		between, panels [2]int
		part            int
	}
	of := func(t Tick) (m mark, ok bool) {
		a, b := number[t.panels[0]], number[t.panels[1]]
		return mark{[2]int{min(a, b), max(a, b)}, t.panels, t.part}, a > 0 && b > 0
	}
	var marks []mark
	for _, m := range out {
		for _, t := range m.Ticks {
			if k, ok := of(t); ok && !slices.Contains(marks, k) {
				marks = append(marks, k)
			}
		}
	}
	slices.SortFunc(marks, func(a, b mark) int {
		return cmp.Or(slices.Compare(a.between[:], b.between[:]), slices.Compare(a.panels[:], b.panels[:]), a.part-b.part)
	})
	names, counts := map[mark]string{}, map[[2]int]int{}
	for _, k := range marks {
		n := counts[k.between]
		counts[k.between]++
		letters := string(rune('a' + n%26))
		if n >= 26 {
			letters = string(rune('a'+n/26-1)) + letters
		}
		names[k] = fmt.Sprintf("%d.%d%s", k.between[0], k.between[1], letters)
	}
	for i := range out {
		out[i].Ticks = slices.Clone(out[i].Ticks)
		for n := range out[i].Ticks {
			k, _ := of(out[i].Ticks[n])
			out[i].Ticks[n].Name = names[k]
		}
	}
	return out
}

// Kept are the masks that are wanted, numbered anew.
func Kept(masks []PanelMask, wanted func(PanelMask) bool) []PanelMask {
	return numbered(slices.DeleteFunc(slices.Clone(masks), func(m PanelMask) bool { return !wanted(m) }))
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
				At: m.Flat(p.Flat(there)), Along: into, Zone: panels[o].Zone, panels: [2]int{low, high}, part: k,
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
