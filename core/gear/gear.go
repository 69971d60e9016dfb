package gear

import (
	"errors"
	"fmt"
	"math"
	"slices"

	"cinderpath/core/unit"
	"cinderpath/core/zone"
)

// Kind says what a wheel does for the track.
type Kind string

// The kinds of wheel.
const (
	Sprocket Kind = "sprocket"
	Idler    Kind = "idler"
	Road     Kind = "road"
	Return   Kind = "return"
	Tyre     Kind = "tyre" // runs on the road itself: no track lies on it
)

// Wheel is one station of the running gear, seen from the side, in real mm.
type Wheel struct {
	Kind   Kind    `json:"kind"`
	X      float64 `json:"x"`
	Z      float64 `json:"z"`
	Radius float64 `json:"radius"`          // of the running surface
	Teeth  int     `json:"teeth,omitempty"` // sprockets only
	Hub    float64 `json:"hub,omitempty"`   // radius within the rubber, for the mask; 0 when not measured
	Steel  bool    `json:"steel,omitempty"` // rims of steel, without rubber
	Arm    *Arm    `json:"arm,omitempty"`   // none: fixed
	Apart  string  `json:"apart,omitempty"` // the side, left, right or both, on which it came from another vehicle
}

// HubShare is the radius of what lies within the rim as a share of the whole: as
// measured, or a common one.
func (w Wheel) HubShare() float64 {
	if w.Hub > 0 {
		return math.Min(w.Hub/w.Radius, 0.97)
	}
	if w.Kind == Tyre {
		return 0.56
	}
	return 0.78
}

// Rubber tells whether the wheel's rim is of rubber.
func (w Wheel) Rubber() bool { return !w.Steel && (w.Kind == Road || w.Kind == Tyre) }

// Carries tells whether the track runs on the wheel.
func (w Wheel) Carries() bool { return w.Kind != Tyre }

// Link describes one track link, in real mm.
type Link struct {
	Pitch    float64      `json:"pitch"`              // pin to pin
	Surface  float64      `json:"surface"`            // running surface to pin line
	Ground   float64      `json:"ground"`             // pin line to ground face
	Width    float64      `json:"width"`              // across the track
	Supplied int          `json:"supplied,omitempty"` // links in the kit for each side, 0 when unknown
	Make     Make         `json:"make,omitempty"`     // Single when empty
	Band     float64      `json:"bandMm,omitempty"`   // a band's length when joined, model mm
	Pin      float64      `json:"pinMm,omitempty"`    // diameter of the pins, model mm
	Travel   float64      `json:"travel,omitempty"`   // how far the idler moves each way, real mm; 0 when not known
	Minutes  unit.Minutes `json:"minutes,omitempty"`  // of work at a link; 0 for what is common
}

// Make is how a kit's track is made.
type Make string

// The makes of track.
const (
	Band   Make = "band"   // one-piece and flexible
	Runs   Make = "runs"   // straight runs, with single links round the ends
	Single Make = "single" // workable links that clip together
	Pinned Make = "pinned" // cast metal links on wire pins, whose holes are drilled
)

// Work is the common time for a link, minutes: cleaned up, drilled where it must be, joined.
func (l Link) Work() unit.Minutes {
	if l.Minutes > 0 {
		return l.Minutes
	}
	switch l.Make {
	case Band:
		return 0.1
	case Runs:
		return 0.4
	case Pinned:
		return 2
	}
	return 0.8
}

// Piece is a stretch of the loop: a straight run when Wheel is -1, else the wrap
// around that wheel. Points along it are on the pin line, counter-clockwise.
type Piece struct {
	Wheel  int
	Length float64 // along the chain, mm
	Angle  float64 // wrap angle, rad; 0 for straight runs
	From   [2]float64
	To     [2]float64
}

// Loop is the taut run of a track.
type Loop struct {
	Length   float64 // real mm
	Links    int     // least whole number of links
	Slack    float64 // Links * pitch - Length
	Exact    float64 // Length / pitch
	Pieces   []Piece
	Touching []int   // wheels that carry the hull, in order
	Extra    float64 // of Length, what uneven ground adds
}

// Apothem is the distance from the wheel's centre to the pin line of a link that lies on it.
func (w Wheel) Apothem(l Link) float64 {
	if w.Kind == Sprocket && w.Teeth >= 3 {
		return l.Pitch / (2 * math.Tan(math.Pi/float64(w.Teeth)))
	}
	return w.Radius + l.Surface
}

// chordal is the chain length per radian of wrap on a polygon of the given apothem.
func chordal(pitch, apothem float64) float64 {
	return pitch / 2 / math.Atan(pitch/(2*apothem))
}

// Ranges are what each quantity of a wheel or a link can be, by its name in documents;
// lengths are real mm where nothing else is said. The contract states the same.
var Ranges = map[string]unit.Range{
	"pitch":    {Least: 10, Most: 2000, Unit: "mm"}, // 0 where there is no track
	"surface":  {Least: 0, Most: 500, Unit: "mm"},
	"ground":   {Least: 0, Most: 500, Unit: "mm"},
	"width":    {Least: 20, Most: 3000, Unit: "mm"}, // likewise
	"supplied": {Least: 0, Most: 1000, Unit: "links"},
	"bandMm":   {Least: 0, Most: 10_000, Unit: "mm on the model"},
	"pinMm":    {Least: 0, Most: 20, Unit: "mm on the model"},
	"travel":   {Least: 0, Most: 1000, Unit: "mm"},
	"minutes":  {Least: 0, Most: 240, Unit: "min"},
	"x":        {Least: -100_000, Most: 100_000, Unit: "mm"},
	"z":        {Least: -100_000, Most: 100_000, Unit: "mm"},
	"radius":   {Least: 5, Most: 5000, Unit: "mm"},
	"hub":      {Least: 0, Most: 5000, Unit: "mm"},
	"teeth":    {Least: 0, Most: 100, Unit: "teeth"},
}

// MostLinks bounds the links of a side of a vehicle: more are a slip of the unit.
const MostLinks = 2000

// Sensible refuses a link with a quantity out of its range.
func (l Link) Sensible() error {
	for _, q := range []struct {
		name  string
		value float64
	}{
		{"pitch", l.Pitch},
		{"width", l.Width},
		{"surface", l.Surface},
		{"ground", l.Ground},
		{"supplied", float64(l.Supplied)},
		{"bandMm", l.Band},
		{"pinMm", l.Pin},
		{"travel", l.Travel},
		{"minutes", float64(l.Minutes)},
	} {
		if err := Ranges[q.name].Check("the link's "+q.name, q.value); err != nil {
			return err
		}
	}
	if l.Make != "" && !slices.Contains([]Make{Band, Runs, Single, Pinned}, l.Make) {
		return fmt.Errorf("%q is no make of track; use band, runs, single or pinned", l.Make)
	}
	return nil
}

// Sensible refuses a wheel with a quantity out of its range, by its number among the others.
func (w Wheel) Sensible(number int) error {
	if !slices.Contains([]Kind{Sprocket, Idler, Road, Return, Tyre}, w.Kind) {
		return fmt.Errorf("wheel %d is a %q; use sprocket, idler, road, return or tyre", number, w.Kind)
	}
	for _, q := range []struct {
		name  string
		value float64
	}{{"x", w.X}, {"z", w.Z}, {"radius", w.Radius}, {"hub", w.Hub}, {"teeth", float64(w.Teeth)}} {
		if err := Ranges[q.name].Check(fmt.Sprintf("wheel %d: its %s", number, q.name), q.value); err != nil {
			return err
		}
	}
	return nil
}

// Check reports the first thing that makes a running gear impossible.
func Check(wheels []Wheel, l Link) error {
	switch {
	case carrying(wheels) < 2:
		return errors.New("a track needs at least two wheels; add one")
	case !(l.Pitch > 0):
		return errors.New("the link pitch must be above zero; measure it pin to pin")
	}
	for i, w := range wheels {
		switch {
		case !(w.Radius > 0):
			return fmt.Errorf("wheel %d has no radius; half its diameter is needed", i+1)
		case w.Apart != "" && w.Apart != zone.Left && w.Apart != zone.Right && w.Apart != BothSides:
			return fmt.Errorf("wheel %d came from another vehicle on side %q; use left, right or both", i+1, w.Apart)
		case w.Kind == Sprocket && w.Teeth < 3 && w.Teeth != 0:
			return fmt.Errorf("wheel %d is a sprocket with %d teeth; at least 3 are needed", i+1, w.Teeth)
		}
	}
	return nil
}

func carrying(wheels []Wheel) (n int) {
	for _, w := range wheels {
		if w.Carries() {
			n++
		}
	}
	return n
}

// Taut computes the shortest closed run around the wheels and the least number of
// links that closes it. Wheels that the hull passes over are left out.
func Taut(wheels []Wheel, l Link) (Loop, error) {
	if err := Check(wheels, l); err != nil {
		return Loop{}, err
	}
	radius := make([]float64, len(wheels))
	start := slices.IndexFunc(wheels, Wheel.Carries)
	for i, w := range wheels {
		if !w.Carries() {
			continue
		}
		radius[i] = w.Apothem(l)
		// The rightmost disc carries the hull in direction 0; of equals, the larger.
		if reach, best := w.X+radius[i], wheels[start].X+radius[start]; reach > best+1e-12 ||
			(reach > best-1e-12 && radius[i] > radius[start]) {
			start = i
		}
	}
	var loop Loop
	for i, angle := start, 0.0; angle < 2*math.Pi; {
		next, at, run := wheelAfter(wheels, radius, i, angle)
		wrap := math.Min(at, 2*math.Pi) - angle
		length := wrap * chordal(l.Pitch, radius[i])
		loop.Pieces = append(loop.Pieces, Piece{Wheel: i, Angle: wrap, Length: length,
			From: onDisc(wheels[i], radius[i], angle), To: onDisc(wheels[i], radius[i], angle+wrap)})
		loop.Length += length
		if len(loop.Touching) == 0 || i != loop.Touching[0] {
			loop.Touching = append(loop.Touching, i)
		}
		if at >= 2*math.Pi {
			break
		}
		loop.Pieces = append(loop.Pieces, Piece{Wheel: -1, Length: run,
			From: onDisc(wheels[i], radius[i], at), To: onDisc(wheels[next], radius[next], at)})
		loop.Length += run
		if len(loop.Pieces) > 4*len(wheels)+4 {
			return Loop{}, errors.New("the wheels lie on top of one another; move one")
		}
		i, angle = next, at
	}
	if len(loop.Touching) < 2 {
		return Loop{}, errors.New("one wheel encloses all the others; check their positions")
	}
	loop.count(l)
	return loop, nil
}

func (loop *Loop) count(l Link) {
	loop.Exact = loop.Length / l.Pitch
	loop.Links = int(math.Ceil(loop.Exact - hair))
	loop.Slack = max(float64(loop.Links)*l.Pitch-loop.Length, 0)
}

// hair is the part of a link by which a length may miss a whole number and be one: what
// sums round off.
const hair = 1e-9

// wheelAfter finds where the hull leaves disc i, walking counter-clockwise from
// the given normal angle: the next disc, the angle of the common tangent's normal,
// and the length of the straight run. The angle is infinite when no disc follows.
func wheelAfter(wheels []Wheel, radius []float64, i int, angle float64) (next int, at, run float64) {
	at, next = math.Inf(1), i
	for j := range wheels {
		if j == i || !wheels[j].Carries() {
			continue
		}
		dx, dz := wheels[j].X-wheels[i].X, wheels[j].Z-wheels[i].Z
		distance, diff := math.Hypot(dx, dz), radius[i]-radius[j]
		if distance <= math.Abs(diff)+1e-9 {
			continue // one disc within the other: no common outer tangent
		}
		turn := math.Atan2(dz, dx) - math.Acos(diff/distance)
		for turn < angle-1e-9 {
			turn += 2 * math.Pi
		}
		for turn >= angle-1e-9+2*math.Pi {
			turn -= 2 * math.Pi
		}
		turn = math.Max(turn, angle)
		straight := math.Sqrt(distance*distance - diff*diff)
		// Discs on one tangent (road wheels on the ground): go to the farthest.
		if turn < at-1e-9 || (turn < at+1e-9 && straight > run) {
			next, at, run = j, turn, straight
		}
	}
	return next, at, run
}

func onDisc(w Wheel, r, angle float64) [2]float64 {
	return [2]float64{w.X + r*math.Cos(angle), w.Z + r*math.Sin(angle)}
}

// Outline samples the closed pin line as points [x, z], arcs in steps of at most 10°.
func (l Loop) Outline(wheels []Wheel, link Link) [][2]float64 {
	var out [][2]float64
	for _, p := range l.Pieces {
		if p.Wheel < 0 {
			continue // its ends are ends of arcs
		}
		w := wheels[p.Wheel]
		a, r := math.Atan2(p.From[1]-w.Z, p.From[0]-w.X), w.Apothem(link)
		steps := max(1, int(math.Ceil(p.Angle/(math.Pi/18))))
		for k := 0; k <= steps; k++ {
			out = append(out, onDisc(w, r, a+p.Angle*float64(k)/float64(steps)))
		}
	}
	return out
}
