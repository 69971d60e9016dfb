package order

import (
	"cmp"
	"math"
	"slices"
	"strings"

	"cinderpath/core/strata"
	"cinderpath/core/zone"
)

// section is what is worked in one go: zones that touch.
type section struct {
	zones []string
	share map[string]float64 // of each of them that belongs to it: a large one is worked in several goes
}

// areaOf is what of a section a layer covers, cm² on the model.
func (s section) areaOf(l Surface, covers func(string) bool) (sum float64) {
	for _, z := range s.zones {
		if covers(z) {
			sum += s.share[z] * l.Area[z]
		}
	}
	return sum
}

// unitsOf is what there is of a layer to work in a section, as its pace counts.
func (s section) unitsOf(l Surface, layer strata.Layer) (sum float64) {
	for _, z := range s.zones {
		if layer.Covers(z) {
			sum += s.share[z] * l.worked(layer, z)
		}
	}
	return sum
}

// covered are the zones of a section that a layer covers, as one says them.
func (s section) covered(layer strata.Layer, l Surface) []string {
	on := slices.DeleteFunc(slices.Clone(s.zones), func(z string) bool { return !layer.Covers(z) })
	return zone.Gathered(on, l.Zones)
}

// How full a section is, in parts of what all have in the mean, when it ends where a zone does; and how
// much fuller it may be for that.
const (
	fullEnough = 0.7
	fuller     = 1.15
)

// cutUp cuts some zones into as few sections of about the same weight as none weighs more than most, each
// of zones that touch: along a walk from zone to neighbouring zone, with seams between zones where they
// fall near.
func cutUp(l Surface, zones []string, weight func(zone string) float64, most float64) []section {
	walk := l.walk(zones)
	whole := 0.0
	for _, z := range walk {
		whole += weight(z)
	}
	each := whole / max(1, math.Ceil(whole/most-1e-9))
	var out []section
	now, within := section{share: map[string]float64{}}, 0.0
	put := func(z string, share float64) {
		now.zones = append(now.zones, z)
		now.share[z] = share
		within += share * weight(z)
	}
	for _, z := range walk {
		left := 1.0
		for within+left*weight(z) > min(most, fuller*each)+1e-9 {
			if within < fullEnough*each {
				share := (each - within) / weight(z)
				put(z, share)
				left -= share
			}
			out = append(out, now)
			now, within = section{share: map[string]float64{}}, 0
		}
		put(z, left)
	}
	return append(out, now)
}

// walk orders zones so that each touches one before it where that is possible: part by part, from the
// largest zone on, always to the largest neighbour.
func (l Surface) walk(zones []string) (out []string) {
	rest := slices.Clone(zones)
	slices.SortStableFunc(rest, func(a, b string) int {
		return cmp.Or(-strings.Compare(zone.Part(a), zone.Part(b)), cmp.Compare(l.Area[b], l.Area[a]), strings.Compare(a, b))
	})
	for len(rest) > 0 {
		at := 0
		if len(out) > 0 {
			at = l.next(out, rest)
		}
		out = append(out, rest[at])
		rest = slices.Delete(rest, at, at+1)
	}
	return out
}

// next is which of the rest a walk goes on to: what touches where it was last, of the same part as long as
// there is any.
func (l Surface) next(walked, rest []string) int {
	part := zone.Part(walked[len(walked)-1])
	for _, same := range []bool{true, false} {
		for back := len(walked) - 1; back >= 0; back-- {
			beside := l.Touch[walked[back]]
			at := slices.IndexFunc(rest, func(z string) bool {
				return (!same || zone.Part(z) == part) && slices.Contains(beside, z)
			})
			if at >= 0 {
				return at
			}
		}
		if at := slices.IndexFunc(rest, func(z string) bool { return zone.Part(z) == part }); same && at >= 0 {
			return at
		}
	}
	return 0
}
