package gear

import (
	"errors"
	"math"
	"slices"
)

// Span is a stretch of the upper run that hangs free between two wheels.
type Span struct {
	Left, Right int        // wheels that carry it, by rising x
	From, To    [2]float64 // where it leaves the one and meets the other, on the pin line, real mm
	Sag         float64    // largest distance from the chord, real mm
	Length      float64    // along the chain, real mm
	c, x, z     float64    // catenary z + c cosh((· − x)/c); straight when c is infinite
	leave, meet float64    // angles from the tops of the wheels, rad, positive towards the span
}

// Run is the upper run of a track with its slack in it.
type Run struct {
	Spans    []Span
	Supports []int // wheels it lies on, by rising x
}

// reference is how far from the top of the end wheels the upper run is counted, rad.
const reference = math.Pi / 4

// Hang lays a slack (real mm) into the upper run of a taut loop. Over frictionless
// supports the tension in a hanging chain depends on its height alone, so that all
// spans are catenaries over one directrix (Routh, Analytical Statics, vol. 1, ch. X);
// its level is the one at which the lengths add up. Where the chain would cut a
// wheel's disc it lies on it, and where it would have to be held down to a wheel it
// leaves it; then all is solved again. A loop without an upper run has no spans.
func Hang(wheels []Wheel, l Link, loop Loop, slack float64) (Run, error) {
	if !(slack >= -hair*l.Pitch) || math.IsInf(slack, 0) {
		return Run{}, errors.New("the links are too few to close the track; add one")
	}
	supports := upperRun(loop)
	if len(supports) < 2 {
		return Run{}, nil
	}
	h := hanging{wheels, l}
	// Both are counted alike, taut and hanging, so that without slack nothing hangs.
	run := h.lay(supports, 0)
	path := h.path(run) + slack
	for range 2*len(wheels) + 2 {
		run = h.lay(supports, path)
		next := h.contacts(run)
		if slices.Equal(next, supports) {
			return run, nil
		}
		supports = next
	}
	return run, nil // two states that differ by nothing one sees
}

// upperRun finds the wheels that carry the upper run of a taut loop, by rising x.
func upperRun(loop Loop) (supports []int) {
	at := 0.0 // normal of the chain, from forward, turning up
	for _, p := range loop.Pieces {
		from := max(at, math.Pi/2-reference)
		at += p.Angle
		if to := min(at, math.Pi/2+reference); p.Wheel >= 0 && to > from {
			supports = append(supports, p.Wheel)
		}
	}
	slices.Reverse(supports)
	return supports
}

type hanging struct {
	wheels []Wheel
	link   Link
}

// lay hangs the chain over supports so that its path has a length. The deflection of
// the longest span drives: it fixes the level, and the level fixes the other spans.
func (h hanging) lay(supports []int, path float64) Run {
	driver := 0
	for i := range len(supports) - 1 {
		if h.apart(supports, i) > h.apart(supports, driver) {
			driver = i
		}
	}
	first := h.between(supports[driver], supports[driver+1])
	least := first.taut()
	at := func(deflection float64) (Run, float64) {
		span, level := first.deflected(least + deflection)
		run := Run{Supports: supports}
		for i := range len(supports) - 1 {
			s := span
			if i != driver {
				s = h.between(supports[i], supports[i+1]).at(level)
			}
			s.Left, s.Right = supports[i], supports[i+1]
			run.Spans = append(run.Spans, s)
		}
		return run, h.path(run)
	}
	run, straight := at(0)
	if path-straight < 1e-9 {
		return run
	}
	// The length grows with the square of a small deflection: its root is the smoother unknown.
	low, high := 0.0, math.Sqrt(1.5-least)
	deep := root(low, high, straight-path, func(x float64) float64 {
		_, long := at(x * x)
		return long - path
	})
	run, _ = at(deep * deep)
	return run
}

// root finds where f, which rises or falls through nought between low and high, is
// nought; atLow is f(low), which may be a limit. Regula falsi after Anderson and Björck
// (BIT 13, 1973), with bisection where it does not halve the bracket.
func root(low, high, atLow float64, f func(float64) float64) float64 {
	atHigh := f(high)
	for range 80 {
		middle := low + (high-low)*atLow/(atLow-atHigh)
		if !(middle > low && middle < high) || math.IsInf(atLow, 0) {
			middle = (low + high) / 2
		}
		before := high - low
		atMiddle := f(middle)
		switch {
		case atMiddle == 0 || before <= 4e-16*math.Abs(high):
			return middle
		case (atMiddle > 0) == (atHigh > 0):
			k := 1 - atMiddle/atHigh
			if k <= 0 {
				k = 0.5
			}
			high, atHigh, atLow = middle, atMiddle, atLow*k
		default:
			k := 1 - atMiddle/atLow
			if k <= 0 {
				k = 0.5
			}
			low, atLow, atHigh = middle, atMiddle, atHigh*k
		}
		if high-low > before/2 {
			// Once more by halves, so that the bracket shrinks whatever f does.
			if middle = (low + high) / 2; (f(middle) > 0) == (atHigh > 0) {
				high = middle
				atHigh = f(high)
			} else {
				low = middle
				atLow = f(low)
			}
		}
		if high-low <= 1e-14*max(1, math.Abs(high)) {
			break
		}
	}
	return (low + high) / 2
}

func (h hanging) apart(supports []int, i int) float64 {
	return h.wheels[supports[i+1]].X - h.wheels[supports[i]].X
}

// path is the length of a run between the references on its end wheels.
func (h hanging) path(r Run) float64 {
	lambda := func(wheel int) float64 { return chordal(h.link.Pitch, h.wheels[wheel].Apothem(h.link)) }
	n := len(r.Spans)
	sum := (reference+r.Spans[0].leave)*lambda(r.Spans[0].Left) + (reference+r.Spans[n-1].meet)*lambda(r.Spans[n-1].Right)
	for i, s := range r.Spans {
		sum += s.Length
		if i > 0 {
			sum += (r.Spans[i-1].meet + s.leave) * lambda(s.Left)
		}
	}
	return sum
}

// contacts gives the supports that the run asks for: without those it would have to
// be held down to, with those it would cut.
func (h hanging) contacts(r Run) []int {
	var out []int
	for i, s := range r.Spans {
		if i == 0 || r.Spans[i-1].meet+s.leave > -1e-9 {
			out = append(out, s.Left)
		}
		deepest, most := -1, 1e-6
		for w := range h.wheels {
			if w == s.Left || w == s.Right || !h.wheels[w].Carries() || slices.Contains(r.Supports, w) {
				continue
			}
			if cut := h.cut(s, w); cut > most {
				deepest, most = w, cut
			}
		}
		if deepest >= 0 {
			out = append(out, deepest)
		}
	}
	return append(out, r.Spans[len(r.Spans)-1].Right)
}

// cut is how deep a span runs into a wheel's disc from above, mm.
func (h hanging) cut(s Span, wheel int) float64 {
	w := h.wheels[wheel]
	a := w.Apothem(h.link)
	deepest := 0.0
	const steps = 64
	for k := 1; k < steps; k++ {
		x := w.X - a + 2*a*float64(k)/steps
		if x <= s.From[0] || x >= s.To[0] {
			continue
		}
		top := w.Z + math.Sqrt(a*a-(x-w.X)*(x-w.X))
		deepest = max(deepest, top-s.Height(x))
	}
	return deepest
}

// Height is the height of the pin line over x between the ends of a span.
func (s Span) Height(x float64) float64 {
	if math.IsInf(s.c, 1) {
		return s.From[1] + (s.To[1]-s.From[1])*(x-s.From[0])/(s.To[0]-s.From[0])
	}
	return s.z + s.c*math.Cosh((x-s.x)/s.c)
}

// Points samples a span from left to right, ends included.
func (s Span) Points(n int) [][2]float64 {
	out := make([][2]float64, n+1)
	for i := range out {
		x := s.From[0] + (s.To[0]-s.From[0])*float64(i)/float64(n)
		out[i] = [2]float64{x, s.Height(x)}
	}
	out[0], out[n] = s.From, s.To
	return out
}

// Under samples what the run lies on, its running surface, from left to right: the pin
// line moved by the link's height toward the wheels, ends included.
func (r Run) Under(wheels []Wheel, l Link) [][2]float64 {
	var out [][2]float64
	for i, s := range r.Spans {
		if i > 0 && r.Spans[i-1].meet+s.leave > 0 {
			w := wheels[s.Left]
			from, to := math.Pi/2+r.Spans[i-1].meet, math.Pi/2-s.leave
			for k := range 9 {
				out = append(out, onDisc(w, w.Apothem(l)-l.Surface, from+(to-from)*float64(k)/8))
			}
		}
		points := s.Points(48)
		for k, p := range points {
			a, b := points[max(k-1, 0)], points[min(k+1, len(points)-1)]
			long := math.Hypot(b[0]-a[0], b[1]-a[1])
			out = append(out, [2]float64{p[0] + l.Surface*(b[1]-a[1])/long, p[1] - l.Surface*(b[0]-a[0])/long})
		}
	}
	return out
}

// Outline samples the closed pin line of a loop with its upper run hanging, as points
// [x, z], counter-clockwise, arcs in steps of at most 10°.
func (r Run) Outline(loop Loop, wheels []Wheel, l Link) [][2]float64 {
	if len(r.Spans) == 0 {
		return loop.Outline(wheels, l)
	}
	n := len(r.Spans)
	first, last := r.Spans[0], r.Spans[n-1]
	var out [][2]float64
	arc := func(wheel int, from, to float64) {
		w := wheels[wheel]
		steps := max(1, int(math.Ceil(math.Abs(to-from)/(math.Pi/18))))
		for k := 0; k <= steps; k++ {
			out = append(out, onDisc(w, w.Apothem(l), from+(to-from)*float64(k)/float64(steps)))
		}
	}
	hang := func(s Span) {
		points := s.Points(12)
		for i := len(points) - 2; i > 0; i-- {
			out = append(out, points[i])
		}
	}
	at := 0.0
	for _, p := range loop.Pieces {
		from := at
		at += p.Angle
		if p.Wheel < 0 {
			continue
		}
		switch {
		case from < math.Pi/2-reference && at >= math.Pi/2-reference: // the right end wheel, and the run after it
			arc(last.Right, from, math.Pi/2+last.meet)
			for i := n - 1; i >= 0; i-- {
				hang(r.Spans[i])
				if i > 0 {
					arc(r.Spans[i].Left, math.Pi/2-r.Spans[i].leave, math.Pi/2+r.Spans[i-1].meet)
				}
			}
		case from > math.Pi/2-reference && at < math.Pi/2+reference: // carried by the run already
			continue
		default:
			if p.Wheel == first.Left && from < math.Pi/2+reference && at > math.Pi/2 {
				from = math.Pi/2 - first.leave
			}
			arc(p.Wheel, from, at)
			continue
		}
		if at >= math.Pi/2+reference { // one wheel is both ends: no run
			return loop.Outline(wheels, l)
		}
	}
	return out
}
