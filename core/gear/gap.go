package gear

import (
	"math"
)

// gapSpan is the gap between two discs, seen so that the disc with the lower top is
// at the right: the chain falls away from the left one, and the angle at which it
// meets the right one tells how deep it hangs.
type gapSpan struct {
	x, zA, zB, a, b float64 // distance of the centres, their heights, radii
	origin          float64 // x of the left centre as seen
	mirrored        bool
}

func (h hanging) between(left, right int) gapSpan {
	p, q := h.wheels[left], h.wheels[right]
	a, b := p.Apothem(h.link), q.Apothem(h.link)
	if q.Z+b <= p.Z+a {
		return gapSpan{q.X - p.X, p.Z, q.Z, a, b, p.X, false}
	}
	return gapSpan{q.X - p.X, q.Z, p.Z, b, a, -q.X, true}
}

// taut is the angle at which a straight chain meets the right disc.
func (g gapSpan) taut() float64 {
	dz := g.zB - g.zA
	return math.Atan2(dz, g.x) - math.Asin((g.a-g.b)/math.Hypot(g.x, dz))
}

// miss tells by how much the catenary of parameter c that meets the right disc at an
// angle fails to be the one that leaves the left disc, and the angle it leaves at.
func (g gapSpan) miss(angle, c float64) (miss, leave float64) {
	level := g.zB + g.b*math.Cos(angle) - c/math.Cos(angle)
	height := g.zA - level
	cos := 2 * c / (height + math.Sqrt(height*height+4*g.a*c)) // of c = (height + a cos) cos
	leave = math.Acos(min(cos, 1))
	gap := g.x - g.b*math.Sin(angle) - g.a*math.Sin(leave)
	return gap - c*(math.Asinh(math.Tan(angle))+math.Asinh(math.Tan(leave))), leave
}

// deflected is the span that meets the right disc at an angle, and its level.
func (g gapSpan) deflected(angle float64) (s Span, level float64) {
	if angle <= g.taut()+1e-12 {
		return g.straight(), math.Inf(-1)
	}
	// By 1/c, in which the miss is nearly straight where the chain is nearly so.
	flat := root(1e-13, 1e3, -1, func(k float64) float64 {
		m, _ := g.miss(angle, 1/k)
		return m * k
	})
	c := 1 / flat
	return g.span(angle, c), g.zB + g.b*math.Cos(angle) - c/math.Cos(angle)
}

// at is the span that hangs over a level: of the two there may be, the flatter one,
// since the other is not stable beside it. Where the level is too high for any, it is
// the last that would hold.
func (g gapSpan) at(level float64) Span {
	if math.IsInf(level, -1) {
		return g.straight()
	}
	miss := func(angle float64) float64 {
		m, _ := g.miss(angle, (g.zB+g.b*math.Cos(angle)-level)*math.Cos(angle))
		return m
	}
	taut := g.taut()
	// A shallow span of width ℓ turns by about ℓ / 2c at its end: mostly the root lies near.
	near := g.x / (2 * (g.zB + g.b*math.Cos(taut) - level) * math.Cos(taut))
	if low, high := taut+0.7*near, taut+1.3*near; near > 0 && high < 1.4 {
		if atLow := miss(low); atLow > 0 && miss(high) < 0 {
			angle := root(low, high, atLow, miss)
			return g.span(angle, (g.zB+g.b*math.Cos(angle)-level)*math.Cos(angle))
		}
	}
	var high float64
	low, best, least := taut, taut, math.Inf(1)
	for step := 1e-7; ; step *= 1.3 {
		if taut+step > 1.5 {
			low, high = best, best // no level fits: the nearest miss
			break
		}
		high = taut + step
		m := miss(high)
		if m < 0 {
			break
		}
		if m < least {
			best, least = high, m
		}
		low = high
	}
	angle := high
	if low < high {
		angle = root(low, high, max(miss(low), 0), miss)
	}
	return g.span(angle, (g.zB+g.b*math.Cos(angle)-level)*math.Cos(angle))
}

func (g gapSpan) straight() Span {
	angle := g.taut()
	sin, cos := math.Sincos(angle)
	return g.place(Span{From: [2]float64{-g.a * sin, g.zA + g.a*cos}, To: [2]float64{g.x - g.b*sin, g.zB + g.b*cos},
		Length: (g.x - (g.b-g.a)*sin) / cos, c: math.Inf(1), leave: -angle, meet: angle})
}

func (g gapSpan) span(angle, c float64) Span {
	_, leave := g.miss(angle, c)
	s := Span{
		From:   [2]float64{g.a * math.Sin(leave), g.zA + g.a*math.Cos(leave)},
		To:     [2]float64{g.x - g.b*math.Sin(angle), g.zB + g.b*math.Cos(angle)},
		Length: c * (math.Tan(angle) + math.Tan(leave)),
		c:      c,
		leave:  leave,
		meet:   angle,
	}
	s.x = s.To[0] - c*math.Asinh(math.Tan(angle))
	s.z = s.To[1] - c/math.Cos(angle)
	// Farthest from the chord where the chain runs along it.
	dx, dz := s.To[0]-s.From[0], s.To[1]-s.From[1]
	x := s.x + c*math.Asinh(dz/dx)
	s.Sag = max(0, (s.From[1]+dz/dx*(x-s.From[0])-s.Height(x))*dx/math.Hypot(dx, dz))
	return g.place(s)
}

// place puts a span back to where its wheels stand.
func (g gapSpan) place(s Span) Span {
	s.From[0] += g.origin
	s.To[0] += g.origin
	s.x += g.origin
	if g.mirrored {
		s.From, s.To = [2]float64{-s.To[0], s.To[1]}, [2]float64{-s.From[0], s.From[1]}
		s.x, s.leave, s.meet = -s.x, s.meet, s.leave
	}
	return s
}
