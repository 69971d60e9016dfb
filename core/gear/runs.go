package gear

import "math"

// Stretch is a part of the closed track: a free or straight run between two wheels, or
// the wrap about one.
type Stretch struct {
	Kind  string // ground, front rise, rear rise, wrap or upper
	From  int    // wheel it leaves
	To    int    // wheel it meets; the same for wraps
	Chain float64
	Links float64 // with fractions
}

// Stretches divides the track into runs, from the front wheel over the top to the rear
// and back along the ground. Their lengths add up to the links laid in: on uneven ground
// what the ground adds is counted to the run on the ground.
func Stretches(wheels []Wheel, l Link, loop Loop, run Run) []Stretch {
	var out []Stretch
	add := func(kind string, from, to int, chain float64) {
		out = append(out, Stretch{Kind: kind, From: from, To: to, Chain: chain, Links: chain / l.Pitch})
	}
	n := len(run.Spans)
	at, ground := 0.0, -1
	left, right := ends(wheels, l)
	begin := 0.0 // what the first wheel's wrap has before the walk begins is added at its end
	for i, p := range loop.Pieces {
		from := at
		at += p.Angle
		if p.Wheel >= 0 {
			lambda := chordal(l.Pitch, wheels[p.Wheel].Apothem(l))
			a, b := from, at
			if n > 0 {
				switch p.Wheel {
				case run.Spans[n-1].Right:
					if from < math.Pi/2 {
						b = math.Pi/2 + run.Spans[n-1].meet
					}
				case run.Spans[0].Left:
					if at > math.Pi/2 {
						a = math.Pi/2 - run.Spans[0].leave
					}
				}
				if a > 0 && p.Wheel != run.Spans[n-1].Right && p.Wheel != run.Spans[0].Left && from < math.Pi/2+reference &&
					at > math.Pi/2-reference {
					continue // carried by the upper run
				}
			}
			switch {
			case i == 0:
				begin = (b - a) * lambda
			case p.Wheel == loop.Pieces[0].Wheel && i == len(loop.Pieces)-1:
				add("wrap", p.Wheel, p.Wheel, (b-a)*lambda+begin)
				begin = 0
			default:
				add("wrap", p.Wheel, p.Wheel, (b-a)*lambda)
			}
			if n > 0 && p.Wheel == run.Spans[n-1].Right && from < math.Pi/2 {
				for k := n - 1; k >= 0; k-- {
					s := run.Spans[k]
					add("upper", s.Right, s.Left, s.Length)
					if k > 0 {
						add("wrap", s.Left, s.Left, (run.Spans[k-1].meet+s.leave)*chordal(l.Pitch, wheels[s.Left].Apothem(l)))
					}
				}
			}
			continue
		}
		if n > 0 && at > math.Pi/2-reference && at < math.Pi/2+reference {
			continue // the taut upper run, which hangs instead
		}
		before, after := loop.Pieces[i-1].Wheel, loop.Pieces[(i+1)%len(loop.Pieces)].Wheel
		kind := "ground"
		switch {
		case before == left || after == left:
			kind = "rear rise"
		case before == right || after == right:
			kind = "front rise"
		}
		if wheels[before].Kind == Road && wheels[after].Kind == Road {
			kind = "ground"
			if ground < 0 || p.Length > out[ground].Chain {
				ground = len(out)
			}
		}
		add(kind, before, after, p.Length)
	}
	if begin > 0 {
		w := loop.Pieces[0].Wheel
		add("wrap", w, w, begin)
	}
	if ground >= 0 {
		out[ground].Chain += loop.Extra
		out[ground].Links += loop.Extra / l.Pitch
	}
	return out
}
