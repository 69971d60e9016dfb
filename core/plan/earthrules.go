package plan

import (
	"fmt"
	"slices"
	"strings"

	"cinderpath/core/colour"
	"cinderpath/core/look"
	"cinderpath/core/rule"
	"cinderpath/core/strata"
	"cinderpath/core/zone"
)

// isEarth tells of dust, mud and what else comes from the ground.
func isEarth(l strata.Layer) bool {
	switch l.Kind {
	case strata.Dust, strata.Mud, strata.Splash, strata.Pigment:
		return true
	}
	return false
}

// The tiers of a vehicle by height, for what lies on them; the running gear stands beside them.
var tiers = []string{"the lower hull", "the hull", "the turret"}

// tierOf is which tier a zone belongs to; -1 for none.
func tierOf(name string) int {
	switch {
	case zone.OnGear(name):
		return -1
	case zone.Among(name, []string{"lower"}):
		return 0
	case zone.Among(name, []string{"turret", "cupola"}):
		return 2
	}
	return 1
}

// The faces that are held against each other: what lies on flats falls there, what lies on upright ones is
// thrown. What hangs over keeps what nothing washes off, at any height.
var faces = []struct {
	name     string
	from, to float32 // how far turned up
}{{"upright faces", -0.34, 0.34}, {"sloped faces", 0.34, 0.94}, {"flats", 0.94, 1.01}}

// How much more may lie on a higher tier before it wants a reason: a tenth, and what no eye sees, µm.
const (
	moreAbove = 1.1
	hardly    = 0.2
)

// upward is W10: earth decreases upward, on upright faces and on flat ones by themselves.
func (r wearRuling) upward(l strata.Layer) (f strata.Finding, found bool) {
	if !isEarth(l) || r.plyOf(l) < 0 {
		return f, false
	}
	for _, like := range faces {
		lies := func(place int) bool { return r.pile.Rise[place] >= like.from && r.pile.Rise[place] < like.to }
		all, own := r.earth(l, lies)
		for high := 1; high < len(tiers); high++ {
			low := high - 1
			for low > 0 && all[low] < 0 { // a tier without such faces is passed over
				low--
			}
			if all[high] <= moreAbove*all[low]+hardly || all[low] < 0 || own[high] <= own[low] {
				continue
			}
			lower := r.below(low)
			gap := slices.ContainsFunc(lower, func(z string) bool { return !l.Covers(z) })
			if !gap && len(l.Touches) == 0 {
				continue // it lies on all that is lower, as its landing has it: nobody chose otherwise
			}
			on := r.tier(l, high)
			f = strata.Finding{
				Rule:     "W10",
				Severity: rule.Warn,
				Zones:    on,
				Title:    fmt.Sprintf("More earth on %s than on %s", tiers[high], tiers[low]),
				Reason: fmt.Sprintf(
					"Earth comes from below and decreases upward; on the %s of %s lie %.1f µm of it in the mean, "+
						"on those of %s %.1f µm. It wants a reason: a missing fender, a hatch, where the crew walks, shelling.",
					like.name,
					tiers[high],
					all[high],
					tiers[low],
					all[low],
				),
			}
			if rest := l.Without(on, r.zones); len(rest.Zones) > 0 {
				f.Mends = append(f.Mends, change("leave", "Leave it out on "+tiers[high], rest))
			}
			if gap {
				f.Mends = append(f.Mends, change("below", "Lay it on "+tiers[low]+" too", l.And(lower, r.zones)))
			}
			return f, true
		}
	}
	return f, false
}

// earth is the mean film of all earth, and of one layer of it, on each tier's faces that lie so, µm; -1
// where a tier has none.
func (r wearRuling) earth(l strata.Layer, lies func(place int) bool) (all, own [3]float64) {
	var area [3]float64
	for z, name := range r.pile.Zones {
		if t := tierOf(name); t >= 0 {
			for place := r.pile.First[z]; place < r.pile.First[z+1]; place++ {
				if lies(place) {
					area[t] += r.pile.Area[place]
				}
			}
		}
	}
	for _, o := range r.build.Layers {
		ply := r.plyOf(o)
		if !isEarth(o) || ply < 0 {
			continue
		}
		for z, film := range r.pile.Films(ply, lies) {
			t := tierOf(r.pile.Zones[z])
			if t < 0 || area[t] == 0 {
				continue
			}
			all[t] += film / area[t]
			if o.ID == l.ID {
				own[t] += film / area[t]
			}
		}
	}
	for t := range area {
		if area[t] == 0 {
			all[t], own[t] = -1, -1
		}
	}
	return all, own
}

// tier are the zones of a tier that a layer covers.
func (r wearRuling) tier(l strata.Layer, tier int) (out []string) {
	for _, z := range r.zones {
		if tierOf(z) == tier && l.Covers(z) {
			out = append(out, z)
		}
	}
	return out
}

// below are the zones of a tier and of those under it.
func (r wearRuling) below(tier int) (out []string) {
	for _, z := range r.zones {
		if t := tierOf(z); t >= 0 && t <= tier {
			out = append(out, z)
		}
	}
	return out
}

// leastDust is from what difference on dust is seen on paint, ΔE00 (W11).
const leastDust = 6.0

// unseen is W11: dust that is so like the paint below that no one sees it.
func (r wearRuling) unseen(l strata.Layer) (f strata.Finding, found bool) {
	ply := r.plyOf(l)
	if l.Kind != strata.Dust || ply < 0 {
		return f, false
	}
	grounds := r.pile.Grounds(ply, func(place int) bool { return tierOf(r.pile.Zones[r.pile.ZoneOf(place)]) >= 0 })
	material, ok := l.Material()
	if len(grounds) == 0 || !ok {
		return f, false
	}
	dust := material.Swatch.Lab()
	lost := alikeOn(dust, grounds)
	if lost < mostAlike {
		return f, false
	}
	shifted := shiftedFrom(dust, grounds)
	f = strata.Finding{
		Rule:     "W11",
		Severity: rule.Warn,
		Title:    fmt.Sprintf("%s will hardly be seen on this paint", l.Name),
		Reason: fmt.Sprintf(
			"On %.0f %% of its area %s lies closer than ΔE00 %.0f to what is below it: there dust is not told "+
				"from paint. Shifted to %s that is %.0f %%.",
			100*lost,
			material.Swatch.Hex(),
			leastDust,
			shifted.Hex(),
			100*alikeOn(shifted.Lab(), grounds),
		),
	}
	next := l
	next.Jar, next.Hex = "", shifted.Hex()
	f.Mends = append(f.Mends, change("shift", "Shift it to "+shifted.Hex(), next))
	best, near := "", 0.0
	for _, j := range r.shop.Paint.Jars {
		p, ok := j.Paint()
		if !ok || j.Family != l.Family || alikeOn(p.Swatch.Lab(), grounds) >= mostAlike {
			continue
		}
		if d := colour.Difference(p.Swatch.Lab(), shifted.Lab()); best == "" || d < near {
			best, near = j.ID, d
		}
	}
	if j, ok := r.shop.Paint.Jar(best); ok {
		taken := l
		taken.Jar, taken.Hex = j.ID, j.Hex
		f.Mends = append(f.Mends, change("jar", "Take "+j.Said()+", the nearest owned", taken))
	}
	return f, true
}

// mostAlike is on how much of its area dust may be like the paint.
const mostAlike = 0.3

// alikeOn is on which part of some grounds a colour is not told from them.
func alikeOn(c colour.Lab, grounds []look.Ground) float64 {
	alike, all := 0.0, 0.0
	for _, g := range grounds {
		all += g.Area
		if colour.Difference(c, g.Seen) < leastDust {
			alike += g.Area
		}
	}
	return alike / all
}

// shiftedFrom is the colour nearest to one, lighter or darker of the same hue, that is told from most of
// its ground; the one itself where none is.
func shiftedFrom(c colour.Lab, grounds []look.Ground) colour.RGB {
	for n := 1.0; n <= 100; n++ {
		for _, way := range []float64{1, -1} {
			moved := c
			moved[0] = min(max(c[0]+n*way, 0), 100)
			if rgb, _ := moved.XYZ().RGB(); alikeOn(rgb.Lab(), grounds) < mostAlike {
				return rgb
			}
		}
	}
	best, _ := c.XYZ().RGB()
	return best
}

// sameTone is below which difference two earths are one tone, ΔE00.
const sameTone = 2.0

// tones is W14: earth of one tone alone.
func (r wearRuling) tones() (f strata.Finding, of strata.Layer, found bool) {
	var first *strata.Layer
	for i, l := range r.build.Layers {
		m, ok := l.Material()
		if !isEarth(l) || !ok || r.spreads[l.ID].Area == 0 && !l.Even() {
			continue
		}
		if first == nil {
			first = &r.build.Layers[i]
			continue
		}
		if o, _ := first.Material(); colour.Difference(m.Swatch.Lab(), o.Swatch.Lab()) >= sameTone {
			return f, of, false
		}
	}
	if first == nil || !r.open(*first) {
		return f, of, false
	}
	m, _ := first.Material()
	tone := m.Swatch.Lab()
	const lighter = 9.0
	tone[0] = min(tone[0]+lighter, 96)
	rgb, _ := tone.XYZ().RGB()
	f = strata.Finding{
		Rule: "W14", Severity: rule.Hint,
		Title:  "All earth is of one tone",
		Reason: "Two or three tones, each on less area than the one before, look like earth; one looks like paint.",
	}
	if how, worked := first.Worked(); worked {
		second := *first
		half := how.Amount / 2
		second.ID, second.Name, second.Together = "", first.Name+", a lighter tone", ""
		second.Jar, second.Hex, second.Amount = "", rgb.Hex(), &half
		edit := strata.Edit{Op: "insert", Layer: &second}
		same := func(l strata.Layer) bool { return l.ID == first.ID }
		if at := slices.IndexFunc(r.build.Layers, same); at+1 < len(r.build.Layers) {
			edit.Before = r.build.Layers[at+1].ID
		}
		f.Mends = append(f.Mends, strata.Mend{
			ID:    "tone",
			Label: "Add a lighter tone of " + strings.ToLower(first.Name) + " on half as much",
			Edits: []strata.Edit{edit},
		})
	}
	return f, *first, true
}
