package colour

import "math"

// degrees of an angle as CIEDE2000 counts it, 0 to 360.
func hue(a, b float64) float64 {
	if a == 0 && b == 0 {
		return 0
	}
	h := math.Atan2(b, a) * 180 / math.Pi
	if h < 0 {
		h += 360
	}
	return h
}

// opposite is how near to 180° two hues lie to count as opposite: rounding must not decide
// on which side their mean lies.
const opposite = 1e-9

// Difference is CIEDE2000 between two colours; under 1 is not seen side by side.
func Difference(p, q Lab) float64 {
	const pow25 = 25.0 * 25 * 25 * 25 * 25 * 25 * 25
	c7 := math.Pow((math.Hypot(p[1], p[2])+math.Hypot(q[1], q[2]))/2, 7)
	g := 0.5 * (1 - math.Sqrt(c7/(c7+pow25)))
	a1, a2 := (1+g)*p[1], (1+g)*q[1]
	c1, c2 := math.Hypot(a1, p[2]), math.Hypot(a2, q[2])
	h1, h2 := hue(a1, p[2]), hue(a2, q[2])
	turn, mean := 0.0, h1+h2
	if c1*c2 != 0 {
		turn = h2 - h1
		apart := math.Abs(turn)
		switch {
		case apart <= 180+opposite:
			mean = (h1 + h2) / 2
		case h1+h2 < 360:
			mean = (h1 + h2 + 360) / 2
		default:
			mean = (h1 + h2 - 360) / 2
		}
		if apart > 180+opposite {
			turn -= math.Copysign(360, turn)
		}
	}
	rad := func(deg float64) float64 { return deg * math.Pi / 180 }
	dL, dC := q[0]-p[0], c2-c1
	dH := 2 * math.Sqrt(c1*c2) * math.Sin(rad(turn)/2)
	l, c := (p[0]+q[0])/2, (c1+c2)/2
	t := 1 - 0.17*math.Cos(
		rad(mean-30),
	) + 0.24*math.Cos(
		rad(2*mean),
	) + 0.32*math.Cos(
		rad(3*mean+6),
	) - 0.2*math.Cos(
		rad(4*mean-63),
	)
	around := math.Exp(-((mean - 275) / 25) * ((mean - 275) / 25))
	m7 := math.Pow(c, 7)
	square := (l - 50) * (l - 50)
	sL := 1 + 0.015*square/math.Sqrt(20+square)
	sC, sH := 1+0.045*c, 1+0.015*c*t
	rT := -2 * math.Sqrt(m7/(m7+pow25)) * math.Sin(rad(60*around))
	x, y, z := dL/sL, dC/sC, dH/sH
	return math.Sqrt(max(x*x+y*y+z*z+rT*y*z, 0))
}
