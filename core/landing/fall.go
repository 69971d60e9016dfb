package landing

import (
	"math"

	"cinderpath/core/form"
)

// What runs down.
const (
	level   = 0.2   // sine of the slope below which water stands
	hangs   = -0.05 // height of a normal below which a face hangs over, and what runs there drips
	dripped = 300.0 // how far a drop falls to the next face, real mm
)

// run is a piece of a streak on a panel: straight down its flat frame from y to y − long.
type run struct {
	panel      int
	x, y, long float64
	done       float64 // of the streak's length above it
	thin       float64 // what is left of its film: a half after each drop
}

// mark is the piece as a mark of a streak that is so wide, and so long in all.
func (r run) mark(seed uint64, wide, long float64) Mark {
	return Mark{
		Panel: r.panel, X: r.x, Y: r.y, Wide: wide, Long: r.long, Seed: seed, Film: r.thin, Runs: true,
		Fade: r.done / long, Gone: (r.done + r.long) / long,
	}
}

// start is a place from which something may run down: along a line of a panel.
type start struct {
	panel int
	a, b  [2]float64
}

// stands tells of a face on which water stands.
func stands(p *form.Panel) bool { return math.Hypot(p.Normal[0], p.Normal[1]) < level }

// from are where streaks begin on some panels: along their upper edges, where water comes over
// them from a flatter face.
func (s *Site) from(panels map[int]bool) (out []start) {
	for i, p := range s.Panels {
		if !panels[i] || stands(p) || p.Normal[2] < hangs {
			continue
		}
		for _, l := range p.Lines {
			if l.Smooth || l.Hollow {
				continue
			}
			a, b := p.Flat(l.A), p.Flat(l.B)
			if math.Abs(a[1]-b[1]) > math.Abs(a[0]-b[0]) || l.Beyond[2] < p.Normal[2]+0.1 {
				continue // it runs down itself, or what is beyond is no flatter
			}
			out = append(out, start{i, a, b})
		}
	}
	return out
}

// trail follows what runs down from a place of a panel, so far at most.
func (s *Site) trail(panel int, x, y, reach float64) (out []run) {
	done, thin := 0.0, 1.0
	for range 12 {
		t := s.Grid.Texels[panel]
		long := 0.0
		for covered(t, x, y-long-t.Step/2) && done+long < reach {
			long += t.Step / 2
		}
		if long > 0 {
			out = append(out, run{panel, x, y, min(long, reach-done), done, thin})
		}
		done += long
		if done >= reach {
			return out
		}
		end := t.Space(x, y-long)
		next, at, drop := s.below(panel, end)
		if next < 0 {
			return out
		}
		if drop {
			thin /= 2
		}
		panel, x, y = next, at[0], at[1]
	}
	return out
}

// covered tells whether a place of a panel's flat frame is on it.
func covered(t *form.Texels, x, y float64) bool {
	k, ok := t.At(x, y)
	return ok && t.Area[k] > 0.3*float32(t.Step*t.Step)
}

// below is the panel that what runs over the end of another comes to: the one that its edge joins, or
// the one onto which it drips; −1 where it comes to rest.
func (s *Site) below(panel int, end form.Vec) (next int, at [2]float64, drop bool) {
	if next, at = s.joined(panel, end); next >= 0 {
		if stands(s.Panels[next]) {
			return -1, at, false
		}
		if s.Panels[next].Normal[2] >= hangs {
			return next, at, false
		}
	}
	p := s.Panels[panel]
	over := end.Plus(p.Normal.Times(s.Grid.Step)) // a little off the face
	down := form.Vec{0, 0, -1}
	next, d := s.caster().first(over, down, dripped)
	if next < 0 || stands(s.Panels[next]) || s.Panels[next].Normal[2] <= 0 {
		return -1, at, false
	}
	return next, s.Panels[next].Flat(over.Plus(down.Times(d))), true
}

// joined is the panel whose edge lies at the end of another, within what the texels blur; −1 for none.
func (s *Site) joined(panel int, end form.Vec) (next int, at [2]float64) {
	return s.nearest(panel, end, 1.4*s.Grid.Step)
}

// nearest is the panel whose face is nearest to a place, of those within a reach that go on below it;
// −1 for none.
func (s *Site) nearest(but int, end form.Vec, reach float64) (next int, at [2]float64) {
	next = -1
	s.caster().about(end, reach+s.Grid.Step, func(i int) {
		q := s.Panels[i]
		off := math.Abs(q.Normal.Dot(end.Sub(q.Origin)))
		if i == but || off > reach || off == reach && i >= next && next >= 0 {
			return
		}
		flat := q.Flat(end)
		if t := s.Grid.Texels[i]; covered(t, flat[0], flat[1]-t.Step) {
			next, at, reach = i, [2]float64{flat[0], flat[1] - t.Step/2}, off
		}
	})
	return next, at
}
