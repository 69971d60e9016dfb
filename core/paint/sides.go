package paint

import (
	"fmt"
	"math"
	"strings"

	"cinderpath/core/colour"
	"cinderpath/core/measure"
)

// Ground is what a layer may lie on where it is compared: what reflects below the skin or, under loose
// powder, what is seen of it.
type Ground struct {
	Name string
	Is   colour.Bands
}

// Pass is a layer that goes on in passes.
type Pass struct {
	Pigment Pigment
	Skin    colour.Sheen // of what dries; none of loose powder
	Film    Film         // that one is planned to leave
	Planned int
}

// lab is what is seen of so much of it over a ground.
func (p Pass) lab(g Ground, x Film) colour.Lab {
	r := p.Pigment.Film(x, g.Is)
	if p.Skin == "" {
		return r.XYZ().Lab()
	}
	over := Seen(p.Skin)
	return over.Lab(r)
}

// Hand is how much of a layer a side has got.
type Hand struct {
	Film   Film
	Sure   Film // half of the 95 % interval
	Passes float64
	Within float64 // the same, in passes
	Off    float64 // ΔE00 of what was seen to what so much of it makes
}

// Sides are both, over the ground that explains them best.
type Sides struct {
	Ground      string
	Left, Right Hand
	Pass        Film // that a pass of one's own leaves, where passes were counted; as planned otherwise
	Words       []string
	Why         measure.Why
}

const (
	// mostPlanned is how many times the planned film is looked for at most.
	mostPlanned = 6
	// farOff is a colour that the layer makes on nothing below it, ΔE00.
	farOff = 10.0
	// leastSure is how sure a printed card, seen twice, tells a colour at best, in L, a and b.
	leastSure = 0.3
	// worthAPass is what is told as a difference, in passes.
	worthAPass = 0.5
)

// MatchSides tells how many passes of a layer each side has got: over each ground the film is looked for
// that comes nearest to the colour seen, weighed by how sure that is; the ground is taken that fits
// both best. Passes that were counted as they were laid tell what one leaves. Refused: colours that the
// layer makes on none of the grounds.
func MatchSides(p Pass, grounds []Ground, left, right Told, counted [2]int) (out Sides, err error) {
	if len(grounds) == 0 || p.Film <= 0 {
		return out, measure.Refuse("layer", "it goes on in no passes", "compare a layer that is laid over both sides")
	}
	best := math.Inf(1)
	for _, g := range grounds {
		l, m := p.found(g, left)
		r, n := p.found(g, right)
		if m+n < best {
			best = m + n
			out.Ground, out.Left, out.Right = g.Name, l, r
		}
	}
	for _, side := range []struct {
		name string
		Hand
	}{{"left", out.Left}, {"right", out.Right}} {
		if side.Off > farOff {
			return out, measure.Refuse(side.name,
				fmt.Sprintf("its colour is none that the layer makes there: ΔE00 %.0f from the nearest", side.Off),
				"mark a patch that lies on one colour, with the card in the same light beside it")
		}
	}
	out.Pass = p.Film
	counts := float64(counted[0] + counted[1])
	if sum := out.Left.Film + out.Right.Film; counts > 0 && sum > 0 {
		out.Pass = sum / Film(counts)
	}
	for _, h := range []*Hand{&out.Left, &out.Right} {
		h.Passes, h.Within = float64(h.Film/out.Pass), float64(h.Sure/out.Pass)
	}
	out.say(p, counts > 0)
	return out, nil
}

// found is the film over a ground that comes nearest to a colour, and by how much it misses.
func (p Pass) found(g Ground, seen Told) (h Hand, misfit float64) {
	var weight [3]float64
	for k := range weight {
		weight[k] = 1 / max(seen.Sure[k], leastSure)
	}
	miss := func(x Film) (sum float64) {
		c := p.lab(g, x)
		for k := range c {
			off := (c[k] - seen.Lab[k]) * weight[k]
			sum += off * off
		}
		return sum
	}
	most := mostPlanned * p.Film * Film(max(p.Planned, 1))
	const steps = 240
	at := 0
	least := math.Inf(1)
	for i := range steps + 1 {
		if m := miss(most * Film(i) / steps); m < least {
			at, least = i, m
		}
	}
	low, high := most*Film(max(at-1, 0))/steps, most*Film(min(at+1, steps))/steps
	for range 40 { // thirds of the bracket
		a, b := low+(high-low)/3, high-(high-low)/3
		if miss(a) <= miss(b) {
			high = b
		} else {
			low = a
		}
	}
	h.Film = (low + high) / 2
	misfit = miss(h.Film)
	h.Off = colour.Difference(p.lab(g, h.Film), seen.Lab)
	dx := most / steps / 4
	up, down := p.lab(g, h.Film+dx), p.lab(g, max(h.Film-dx, 0))
	slope := 0.0
	for k := range up {
		d := (up[k] - down[k]) / float64(h.Film+dx-max(h.Film-dx, 0)) * weight[k]
		slope += d * d
	}
	h.Sure = most
	if slope > 0 { // what the ground misses makes it less sure
		h.Sure = min(Film(math.Sqrt(max(1, misfit/2)/slope)), most)
	}
	return h, misfit
}

// say tells the difference in words.
func (s *Sides) say(p Pass, counted bool) {
	short := s.Left.Passes - s.Right.Passes
	within := math.Hypot(s.Left.Within, s.Right.Within)
	name, other := "right", "left"
	if short < 0 {
		name, other = other, name
	}
	gap := math.Abs(short)
	switch {
	case within > float64(max(p.Planned, 1)):
		s.Words = append(s.Words,
			fmt.Sprintf("What lies there hides what is below: passes cannot be told nearer than by %.1f.", within))
	case gap < within && within > worthAPass:
		s.Words = append(s.Words, fmt.Sprintf(
			"They differ by less than can be told: %s has %.1f passes fewer, give or take %.1f.", name, gap, within))
	case gap < worthAPass:
		s.Words = append(s.Words, fmt.Sprintf("Left and right match, within %.1f of a pass.", worthAPass))
	default:
		n := passes(gap)
		s.Words = append(s.Words,
			fmt.Sprintf("%s%s is %s short of %s.", strings.ToUpper(name[:1]), name[1:], n, other))
	}
	if counted && math.Abs(float64(s.Pass/p.Film)-1) > 0.15 {
		s.Words = append(s.Words, fmt.Sprintf("A pass of yours leaves %.1f µm where %.1f µm are planned.", s.Pass, p.Film))
	}
	in := func(side string, h Hand) string {
		return fmt.Sprintf("%s: %.2f ± %.2f µm, ΔE00 %.1f from what so much makes", side, h.Film, h.Sure, h.Off)
	}
	s.Why = measure.Because(
		"the dry film whose colour over the ground (Kubelka–Munk) is nearest to the one seen, weighed by "+
			"how sure that is; passes = film / film of one pass",
		[]string{
			"over " + s.Ground,
			in("left", s.Left),
			in("right", s.Right),
			fmt.Sprintf("%.2f µm a pass", s.Pass),
		},
	)
}

// passes are as one says them, by halves.
func passes(gap float64) string {
	switch n := math.Round(2*gap) / 2; {
	case n <= 0.5:
		return "half a pass"
	case n == 1:
		return "one pass"
	case n == math.Trunc(n) || n > 5:
		return fmt.Sprintf("%.0f passes", gap)
	default:
		return fmt.Sprintf("%.1f passes", n)
	}
}
