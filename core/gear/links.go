package gear

import "math"

// Choice is a number of links with what it does to the track.
type Choice struct {
	Links  int
	Slack  float64 // real mm; below zero is what is missing to close
	Sag    float64 // of the deepest span, real mm; 0 where it does not close
	TakeUp float64 // how far the idler must move outward for the track to lie taut, real mm; inward below zero
	// CanMove: there is an idler, and it need not go farther than its travel, or its own radius where that is not known
	CanMove bool
}

// Choices gives a number of links fewer than the taut loop needs, the least that
// closes it, and one and two more.
func Choices(wheels []Wheel, l Link, loop Loop) []Choice {
	var out []Choice
	for n := loop.Links - 1; n <= loop.Links+2; n++ {
		c := Choice{Links: n, Slack: float64(n)*l.Pitch - loop.Length}
		if c.Slack < 0 && c.Slack >= -hair*l.Pitch {
			c.Slack = 0
		}
		if c.Slack >= 0 {
			if run, err := Hang(wheels, l, loop, c.Slack); err == nil {
				for _, s := range run.Spans {
					c.Sag = max(c.Sag, s.Sag)
				}
			}
		}
		c.TakeUp, c.CanMove = takeUp(wheels, l, float64(n)*l.Pitch)
		out = append(out, c)
	}
	return out
}

// takeUp finds how far the idler must move along x, away from the middle of the gear,
// for the taut loop to have a length. The loop grows with it all the way.
func takeUp(wheels []Wheel, l Link, length float64) (shift float64, ok bool) {
	idler, middle := -1, 0.0
	for i, w := range wheels {
		middle += w.X / float64(len(wheels))
		if w.Kind == Idler {
			idler = i
		}
	}
	if idler < 0 {
		return 0, false
	}
	outward := math.Copysign(1, wheels[idler].X-middle)
	moved := append([]Wheel(nil), wheels...)
	miss := func(by float64) float64 {
		moved[idler].X = wheels[idler].X + outward*by
		loop, err := Taut(moved, l)
		if err != nil {
			return -length
		}
		return loop.Length - length
	}
	most := wheels[idler].Radius
	if l.Travel > 0 {
		most = l.Travel
	}
	low := miss(-most)
	if low > 0 || miss(most) < 0 {
		return 0, false
	}
	return root(-most, most, low, miss), true
}
