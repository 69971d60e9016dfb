package gear

import (
	"cmp"
	"errors"
	"fmt"
	"math"
	"slices"
)

// Arm carries a wheel that follows the ground. It goes where its wheel is put.
type Arm struct {
	X    float64 `json:"x"` // of the pivot, from the wheel's centre at rest, real mm
	Z    float64 `json:"z"`
	Up   float64 `json:"up"`   // how far it swings up from rest, degrees
	Down float64 `json:"down"` // and down
}

// CommonArm is an arm as such wheels have it: trailing, a little below the pivot.
func CommonArm(w Wheel) *Arm { return &Arm{X: 0.9 * w.Radius, Z: 0.42 * w.Radius, Up: 25, Down: 20} }

// Pivot is where a wheel's arm is hung, real mm; the wheel must have one.
func (w Wheel) Pivot() [2]float64 { return [2]float64{w.X + w.Arm.X, w.Z + w.Arm.Z} }

// Row puts so many road wheels of a diameter in the place of those that are there, so far
// apart, about the same middle and on the same ground; the rest of each is kept.
func Row(wheels []Wheel, count int, spacing, diameter float64) ([]Wheel, error) {
	var road, out []Wheel
	at := -1
	for _, w := range wheels {
		if w.Kind != Road {
			out = append(out, w)
			continue
		}
		if at < 0 {
			at = len(out)
		}
		road = append(road, w)
	}
	switch {
	case len(road) == 0:
		return nil, errors.New("there is no road wheel to begin from; add one")
	case count < 1 || count > 20:
		return nil, fmt.Errorf("a row of %d wheels; give 1 to 20", count)
	case !(spacing > 0 && diameter > 0):
		return nil, errors.New("spacing and diameter must lie above zero; measure them between the axles and over the wheel")
	}
	slices.SortStableFunc(road, func(a, b Wheel) int { return cmp.Compare(b.X, a.X) })
	middle := (road[0].X + road[len(road)-1].X) / 2
	made := make([]Wheel, count)
	for i := range made {
		w := road[min(i, len(road)-1)]
		k := diameter / 2 / w.Radius
		w.X, w.Z = middle+spacing*(float64(count-1)/2-float64(i)), w.Z-w.Radius+diameter/2
		w.Radius, w.Hub = diameter/2, w.Hub*k
		made[i] = w
	}
	return slices.Insert(out, at, made...), nil
}

// Swing is what an arm does on a ground.
type Swing struct {
	Wheel  int
	Angle  float64 // up from rest, degrees
	Lift   float64 // of the wheel's centre, real mm
	Hangs  bool    // the arm is down at its limit and the wheel above the ground
	Buried float64 // how deep the ground would lie within the wheel at the arm's upper limit, real mm
}

// Terrain is a ground profile under one track: x and z of its bends, by rising x; level
// beyond both ends, and at 0 where nothing is given. Real mm.
type Terrain [][2]float64

// Height is the ground's height at a place.
func (t Terrain) Height(x float64) float64 {
	if len(t) == 0 {
		return 0
	}
	for i, p := range t {
		if x <= p[0] {
			if i == 0 {
				return p[1]
			}
			q := t[i-1]
			if p[0] == q[0] {
				return math.Max(p[1], q[1])
			}
			return q[1] + (p[1]-q[1])*(x-q[0])/(p[0]-q[0])
		}
	}
	return t[len(t)-1][1]
}

// Uneven is a ground to begin from: a hump and a hollow of a third of the smallest wheel
// that runs on it, under the wheels.
func Uneven(wheels []Wheel) Terrain {
	low, high, deep := math.Inf(1), math.Inf(-1), math.Inf(1)
	for _, w := range wheels {
		low, high = math.Min(low, w.X), math.Max(high, w.X)
		if w.Kind == Road || w.Kind == Tyre {
			deep = math.Min(deep, w.Radius/3)
		}
	}
	if math.IsInf(deep, 1) {
		return nil
	}
	at := func(share, height float64) [2]float64 {
		return [2]float64{math.Round((low+share*(high-low))/10) * 10, math.Round(height*deep/10) * 10}
	}
	return Terrain{at(0, 0), at(0.4, 0.9), at(0.6, -0.5), at(1, 0.3)}
}

// Check reports what makes a ground impossible.
func (t Terrain) Check() error {
	if len(t) > 60 {
		return errors.New("a ground of more than 60 bends; leave some out")
	}
	for i, p := range t {
		if i > 0 && p[0] < t[i-1][0] {
			return fmt.Errorf("bend %d of the ground lies behind the one before; order them by rising x", i+1)
		}
		if !(math.Abs(p[1]) < 5000) {
			return fmt.Errorf("bend %d of the ground lies %.0f mm high; give up to 5 m", i+1, p[1])
		}
	}
	return nil
}

// rest is the least height of a disc's centre over x that keeps it out of the ground.
func (t Terrain) rest(x, radius float64) float64 {
	z := math.Inf(-1)
	at := func(u float64) {
		if d := u - x; math.Abs(d) < radius {
			z = math.Max(z, t.Height(u)+math.Sqrt(radius*radius-d*d))
		}
	}
	at(x)
	for i, p := range t {
		at(p[0])
		if i == 0 {
			continue
		}
		// On a straight stretch the disc rests where its radius stands square to it.
		q := t[i-1]
		long := math.Hypot(p[0]-q[0], p[1]-q[1])
		if long == 0 {
			continue
		}
		if u := x + radius*(p[1]-q[1])/long; u > q[0] && u < p[0] {
			at(u)
		}
	}
	return z
}

// Follow lets the wheels that stand on arms follow the ground, each with a link under
// it; the others stay where they are. Wheels in the air on level ground stay at rest.
func Follow(wheels []Wheel, l Link, ground Terrain) ([]Wheel, []Swing) {
	out := slices.Clone(wheels)
	var swings []Swing
	for i, w := range wheels {
		radius := w.Radius + l.Surface + l.Ground
		if !w.Carries() {
			radius = w.Radius
		}
		if w.Arm == nil || w.Kind == Return {
			continue
		}
		arm, pivot := *w.Arm, w.Pivot()
		long, rest := math.Hypot(arm.X, arm.Z), math.Atan2(-arm.Z, -arm.X)
		raise := 1.0 // the way of turning that lifts the wheel
		if math.Cos(rest) < 0 {
			raise = -1
		}
		place := func(degrees float64) (x, z float64) {
			sin, cos := math.Sincos(rest + raise*degrees*math.Pi/180)
			return pivot[0] + long*cos, pivot[1] + long*sin
		}
		over := func(degrees float64) float64 {
			x, z := place(degrees)
			return z - ground.rest(x, radius)
		}
		s := Swing{Wheel: i}
		switch {
		case long == 0:
		case over(-arm.Down) > 0:
			s.Angle, s.Hangs = -arm.Down, over(-arm.Down) > 0.5
		case over(arm.Up) < 0:
			s.Angle, s.Buried = arm.Up, -over(arm.Up)
		default:
			s.Angle = root(-arm.Down, arm.Up, over(-arm.Down), over)
		}
		out[i].X, out[i].Z = place(s.Angle)
		s.Lift = out[i].Z - w.Z
		swings = append(swings, s)
	}
	return out, swings
}

// gates is in how many places the lower run is looked at.
const gates = 1500

// OnGround is the taut loop of wheels that stand on a ground: between the end wheels the
// lower run is the shortest line below all wheels and above the ground. Wraps that the
// ground bends the wrong way are counted by their arc, without their chords. The line is
// on the pin line, from the rear.
func OnGround(wheels []Wheel, l Link, ground Terrain) (loop Loop, lower [][2]float64, err error) {
	loop, err = Taut(wheels, l)
	if err != nil || len(ground) == 0 {
		return loop, nil, err
	}
	left, right := ends(wheels, l)
	from := onDisc(wheels[left], wheels[left].Apothem(l), -0.75*math.Pi)
	to := onDisc(wheels[right], wheels[right].Apothem(l), -0.25*math.Pi)
	if to[0] <= from[0] {
		return loop, nil, nil
	}
	x, low, high := make([]float64, gates+1), make([]float64, gates+1), make([]float64, gates+1)
	none := make([]float64, gates+1)
	for i := range x {
		x[i] = from[0] + (to[0]-from[0])*float64(i)/gates
		low[i], high[i], none[i] = ground.rest(x[i], math.Max(l.Ground, 1e-3)), math.Inf(1), math.Inf(-1)
		for _, w := range wheels {
			if a := w.Apothem(l); w.Carries() && w.Kind != Return && math.Abs(x[i]-w.X) < a {
				high[i] = math.Min(high[i], w.Z-math.Sqrt(a*a-(x[i]-w.X)*(x[i]-w.X)))
			}
		}
		low[i] = math.Min(low[i], high[i])
	}
	lower = pulled(x, low, high, from, to)
	loop.Extra = along(lower) - along(pulled(x, none, high, from, to))
	loop.Length += loop.Extra
	loop.count(l)
	return loop, lower, nil
}

// ends are the wheels at both ends of the track.
func ends(wheels []Wheel, l Link) (left, right int) {
	left, right = -1, -1
	for i, w := range wheels {
		if !w.Carries() {
			continue
		}
		if left < 0 || w.X-w.Apothem(l) < wheels[left].X-wheels[left].Apothem(l) {
			left = i
		}
		if right < 0 || w.X+w.Apothem(l) > wheels[right].X+wheels[right].Apothem(l) {
			right = i
		}
	}
	return left, right
}

func along(line [][2]float64) (sum float64) {
	for i := 1; i < len(line); i++ {
		sum += math.Hypot(line[i][0]-line[i-1][0], line[i][1]-line[i-1][1])
	}
	return sum
}

// pulled is the shortest line from one point to another through upright gates: from
// each corner the funnel of what can be seen is narrowed gate by gate; where it closes,
// the line bends (Lee and Preparata, 1984).
func pulled(x, low, high []float64, from, to [2]float64) [][2]float64 {
	n := len(x)
	out := [][2]float64{from}
	apex := from
	for start := 0; ; {
		least, most := math.Inf(-1), math.Inf(1)
		atLeast, atMost := start, start
		bend := -1
		for i := start + 1; i < n && bend < 0; i++ {
			lo, hi := low[i], high[i]
			if i == n-1 {
				lo, hi = to[1], to[1]
			}
			d := x[i] - apex[0]
			l, h := (lo-apex[1])/d, (hi-apex[1])/d
			switch {
			case l > most: // the floor rises above what can be seen: round the ceiling's corner
				bend = atMost
				apex = [2]float64{x[bend], high[bend]}
			case h < least:
				bend = atLeast
				apex = [2]float64{x[bend], low[bend]}
			default:
				if l >= least {
					least, atLeast = l, i
				}
				if h <= most {
					most, atMost = h, i
				}
			}
		}
		if bend < 0 || bend >= n-1 {
			return append(out, to)
		}
		out = append(out, apex)
		start = bend
	}
}

// Bed puts the lower run of a track on uneven ground in the place of the straight one
// in a closed pin line.
func Bed(outline, lower [][2]float64) [][2]float64 {
	if len(lower) < 2 || len(outline) == 0 {
		return outline
	}
	nearest := func(q [2]float64) int {
		best := 0
		for i, p := range outline {
			if math.Hypot(p[0]-q[0], p[1]-q[1]) < math.Hypot(outline[best][0]-q[0], outline[best][1]-q[1]) {
				best = i
			}
		}
		return best
	}
	// Counter-clockwise the lower run goes forward.
	begin, end := nearest(lower[0]), nearest(lower[len(lower)-1])
	out := slices.Clone(lower)
	n := len(outline)
	for i := (end + 1) % n; i != begin; i = (i + 1) % n {
		out = append(out, outline[i])
	}
	return out
}

// Chain lays n links along a closed pin line: their pins, equally far apart along it.
func Chain(outline [][2]float64, n int) [][2]float64 {
	total := along(
		outline,
	) + math.Hypot(
		outline[0][0]-outline[len(outline)-1][0],
		outline[0][1]-outline[len(outline)-1][1],
	)
	out := make([][2]float64, 0, n)
	walked, next := 0.0, 0.0
	for i, p := range outline {
		q := outline[(i+1)%len(outline)]
		long := math.Hypot(q[0]-p[0], q[1]-p[1])
		for next <= walked+long && len(out) < n {
			t := 0.0
			if long > 0 {
				t = (next - walked) / long
			}
			out = append(out, [2]float64{p[0] + t*(q[0]-p[0]), p[1] + t*(q[1]-p[1])})
			next = total * float64(len(out)) / float64(n)
		}
		walked += long
	}
	return out
}
