package paint

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"cinderpath/core/colour"
	"cinderpath/core/measure"
)

// Limits of what is added to a cup: up to so many drops from two jars, fewer from three.
const (
	MostAdded      = 60
	mostAddedThree = 12
)

// Cup is what is mixed already and has to become another colour; drops can only be added.
type Cup struct {
	Shelf  []Pigment
	Group  []int       // by paint: those of one number mix; none means that all do
	Drops  []int       // by paint: what is in it
	Seen   *colour.RGB // how it dried, where that is not what its drops forecast
	Skin   colour.Sheen
	Target colour.Lab
	Wanted float64 // ΔE00 that is near enough
	Most   int     // drops that may be added
	Only   []int   // paints that may be added; none means all
}

// Added is what mends a cup.
type Added struct {
	Drops      []int      // by paint: what to add
	Difference float64    // ΔE00 then
	Before     float64    // ΔE00 as it is
	Is, Seen   colour.Lab // before and then
	Enough     bool       // it is as near as was wanted
	Tried      int
}

// Count of the drops that are added.
func (a Added) Count() (n int) {
	for _, d := range a.Drops {
		n += d
	}
	return n
}

// Mend finds the fewest drops that bring a cup within what is wanted, of up to three jars;
// among as many drops the nearest. Where nothing is near enough, the nearest is given.
func (c Cup) Mend() (Added, error) {
	if err := c.check(); err != nil {
		return Added{}, err
	}
	s := newSeeker(Wanted{Shelf: c.Shelf, Target: c.Target, Over: Seen(c.Skin)})
	m := mender{seeker: s, cup: c}
	for i, n := range c.Drops {
		m.weight += float64(n) * s.paints[i].weight
		for b, v := range s.paints[i].ratio {
			m.sum[b] += float64(n) * s.paints[i].weight * v
		}
	}
	if c.Seen != nil {
		for b, r := range colour.Spectrum(*c.Seen, c.Skin).Internal {
			m.sum[b] = m.weight * (1 - r) * (1 - r) / (2 * r)
		}
	}
	is := m.with(nil, nil)
	best := Added{Drops: make([]int, len(c.Shelf)), Before: colour.Difference(c.Target, is), Is: is, Seen: is}
	best.Difference = best.Before
	if best.Enough = best.Before <= c.Wanted; best.Enough {
		return best, nil
	}
	may := m.may()
	for n := 1; n <= c.Most && !best.Enough; n++ {
		m.add(may, n, &best)
	}
	best.Tried = m.tried
	return best, nil
}

func (c Cup) check() error {
	all := 0
	for _, n := range c.Drops {
		all += max(n, 0)
	}
	switch {
	case len(c.Drops) != len(c.Shelf):
		return measure.Refuse("cup", "it does not say how much of each jar is in it", "give a number for each")
	case all == 0:
		return measure.Refuse("cup", "nothing is in it", "say how many drops of which jars you put in")
	case c.Most < 1 || c.Most > MostAdded:
		return measure.Refuse("most", fmt.Sprintf("%d drops", c.Most), fmt.Sprintf("give 1 to %d", MostAdded))
	case !(c.Wanted >= 0.1 && c.Wanted <= 20):
		return measure.Refuse("wanted", fmt.Sprintf("ΔE00 %g", c.Wanted), "give 0.1 to 20; under 1 is not seen side by side")
	}
	return Wanted{Shelf: c.Shelf, Group: c.Group, Paints: 1, Parts: 1}.check()
}

type mender struct {
	*seeker

	cup    Cup
	weight float64      // of what is in the cup
	sum    colour.Bands // of its ratios, weighted
	tried  int
}

// may lists the paints that can be added: those that mix with what is in the cup.
func (m *mender) may() (out []int) {
	group := -1
	for i, n := range m.cup.Drops {
		if n > 0 && len(m.cup.Group) > 0 {
			group = m.cup.Group[i]
		}
	}
	for i := range m.cup.Shelf {
		if (len(m.cup.Group) == 0 || m.cup.Group[i] == group) && (len(m.cup.Only) == 0 || slices.Contains(m.cup.Only, i)) {
			out = append(out, i)
		}
	}
	return out
}

// with is how the cup looks with some drops added.
func (m *mender) with(which, drops []int) colour.Lab {
	weight, sum := m.weight, m.sum
	for k, i := range which {
		w := float64(drops[k]) * m.paints[i].weight
		weight += w
		for b, v := range m.paints[i].ratio {
			sum[b] += w * v
		}
	}
	var seen colour.Bands
	for b := range sum {
		sum[b] /= weight
	}
	m.see(&sum, &seen)
	return m.lab(&seen)
}

// add tries all ways to add so many drops.
func (m *mender) add(may []int, n int, best *Added) {
	try := func(which, drops []int) {
		m.tried++
		seen := m.with(which, drops)
		d := m.distance(seen, best.Difference)
		if d >= best.Difference-1e-12 {
			return
		}
		best.Difference, best.Seen, best.Enough = d, seen, d <= m.cup.Wanted
		best.Drops = make([]int, len(m.cup.Shelf))
		for k, i := range which {
			best.Drops[i] = drops[k]
		}
	}
	for a, i := range may {
		try([]int{i}, []int{n})
		for b := a + 1; b < len(may); b++ {
			for x := 1; x < n; x++ {
				try([]int{i, may[b]}, []int{x, n - x})
			}
			if n > mostAddedThree {
				continue
			}
			for c := b + 1; c < len(may); c++ {
				for x := 1; x < n-1; x++ {
					for y := 1; x+y < n; y++ {
						try([]int{i, may[b], may[c]}, []int{x, y, n - x - y})
					}
				}
			}
		}
	}
}

// faults are what one sees of a colour beside another, as steps of Lab.
var faults = map[string]colour.Lab{
	"dark": {-3, 0, 0}, "light": {3, 0, 0},
	"green": {0, -3, 0}, "red": {0, 3, 0},
	"blue": {0, 0, -3}, "yellow": {0, 0, 3},
	"warm": {0, 1.5, 2.5}, "cold": {0, -1.5, -2.5},
	"brown": {-1, 2, 2},
}

// Faults lists the words that Faulty reads.
var Faults = []string{"dark", "light", "green", "red", "blue", "yellow", "warm", "cold", "brown", "grey", "strong"}

// Faulty is how a colour looks of which somebody says, beside another, "too green, a little
// too dark": steps of about ΔE00 3, half of it for a little, twice for much.
func Faulty(beside colour.Lab, said string) (colour.Lab, error) {
	out := beside
	for _, part := range strings.FieldsFunc(strings.ToLower(said), func(r rune) bool { return r == ',' || r == ';' }) {
		size, step := 1.0, ""
		for _, w := range strings.Fields(part) {
			switch w {
			case "a", "too", "and", "bit", "is", "it":
				continue
			case "little", "slightly":
				size = 0.5
			case "much", "far":
				size = 2
			default:
				step = w
			}
		}
		if step == "" {
			continue
		}
		if d, ok := faults[step]; ok {
			for k := range out {
				out[k] += size * d[k]
			}
			continue
		}
		chroma := math.Hypot(out[1], out[2])
		by := map[string]float64{"grey": -4, "strong": 4}[step] * size
		if by == 0 {
			return out, measure.Refuse("said", fmt.Sprintf("%q was not understood", step), "say too "+strings.Join(Faults, ", "))
		}
		if chroma > 0 {
			k := max(chroma+by, 0) / chroma
			out[1], out[2] = k*out[1], k*out[2]
		}
	}
	return out, nil
}
