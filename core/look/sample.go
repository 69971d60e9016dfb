package look

import (
	"hash/fnv"
	"maps"
	"slices"
	"sort"

	"cinderpath/core/form"
	"cinderpath/core/strata"
)

// Sample is some texels of each zone that stand for all of them.
type Sample struct {
	Zones []string  // sorted
	First []int     // by zone, the number of its first place; and behind the last
	Of    []int     // by zone, how many texels it has in all
	At    []int32   // by place, the texel of the grid
	Area  []float64 // by place, what it stands for, real mm²
	Rise  []float32 // by place, how far it is turned up: −1 down, 0 upright, 1 level
}

// NewSample draws at most so many texels of each zone: one by chance from each of as many runs of
// neighbours, so that all parts of a zone are in.
func NewSample(g *form.Grid, most int) Sample {
	of := map[string]int{}
	for _, t := range g.Texels {
		for _, a := range t.Area {
			if a > 0 {
				of[t.Zone]++
			}
		}
	}
	s := Sample{Zones: slices.Sorted(maps.Keys(of))}
	zones := map[string]*runs{}
	places := 0
	for _, zone := range s.Zones {
		s.First, s.Of = append(s.First, places), append(s.Of, of[zone])
		zones[zone] = &runs{n: min(most, of[zone]), all: of[zone], first: places, seed: seedOf(zone)}
		places += zones[zone].n
	}
	s.First = append(s.First, places)
	s.At, s.Area, s.Rise = make([]int32, places), make([]float64, places), make([]float32, places)
	for _, t := range g.Texels {
		r := zones[t.Zone]
		for k, a := range t.Area {
			if a == 0 {
				continue
			}
			place, drawn := r.next()
			s.Area[place] += float64(a)
			if drawn {
				s.At[place], s.Rise[place] = int32(t.First+k), float32(t.Normal[2])
			}
		}
	}
	return s
}

// runs cuts the texels of a zone into runs, one after the other, and draws one of each.
type runs struct {
	n, all, first int
	seed          uint64
	at, run, take int // texels so far, the run that the next belongs to, and which is taken of it
	until         int
}

// next gives the place of the next texel, and whether it is the one that stands there.
func (r *runs) next() (place int, taken bool) {
	if r.at == r.until {
		if r.at > 0 {
			r.run++
		}
		from, to := span(r.run, r.n, r.all)
		r.until, r.take = to, from+drawn(r.seed, r.run, to-from)
	}
	taken = r.at == r.take
	r.at++
	return r.first + r.run, taken
}

// OnePlace is the sample of one texel alone.
func OnePlace(g *form.Grid, texel int) Sample {
	t, k := g.Find(texel)
	return Sample{
		Zones: []string{t.Zone}, First: []int{0, 1}, Of: []int{1}, At: []int32{int32(texel)},
		Area: []float64{float64(t.Area[k])}, Rise: []float32{float32(t.Normal[2])},
	}
}

// ZoneOf is the number of the zone of a place.
func (s Sample) ZoneOf(place int) int {
	return sort.Search(len(s.Zones), func(z int) bool { return s.First[z+1] > place })
}

// span is one of n runs of neighbours among all.
func span(run, n, all int) (from, to int) { return run * all / n, (run + 1) * all / n }

// seedOf a zone is its own, so that a zone more changes none of the others.
func seedOf(zone string) uint64 {
	h := fnv.New64a()
	_, _ = h.Write([]byte(zone)) // never fails
	return h.Sum64()
}

// drawn is one of n by chance.
func drawn(seed uint64, run, n int) int {
	return min(int(form.Unit(form.Hash(seed^form.Hash(uint64(run))))*float64(n)), n-1)
}

// Thinned draws at most so many places of each zone from a sample; each is named by its place in it.
func (s Sample) Thinned(most int) (thin Sample, places []int) {
	thin = Sample{Zones: s.Zones, Of: s.Of}
	for z, zone := range s.Zones {
		thin.First = append(thin.First, len(thin.At))
		first, n := s.First[z], s.First[z+1]-s.First[z]
		seed := seedOf(zone)
		for run := range min(most, n) {
			from, to := span(run, min(most, n), n)
			at := first + from + drawn(seed, run, to-from)
			places = append(places, at)
			thin.At, thin.Rise = append(thin.At, s.At[at]), append(thin.Rise, s.Rise[at])
			area := 0.0
			for _, a := range s.Area[first+from : first+to] {
				area += a
			}
			thin.Area = append(thin.Area, area)
		}
	}
	thin.First = append(thin.First, len(thin.At))
	return thin, places
}

// Gathered is what of a deposit lies on the places of a sample, in place of all texels.
func (s Sample) Gathered(d strata.Deposit) strata.Deposit {
	out := strata.Deposit{Full: d.Full, Cover: d.Cover}
	if d.Film == nil {
		return out
	}
	out.Film = make([]uint8, len(s.At))
	for i, at := range s.At {
		out.Film[i] = d.Film[at]
	}
	return out
}

// Picked is a gathered deposit on some places of its sample.
func Picked(d strata.Deposit, places []int) strata.Deposit {
	out := d
	if d.Film == nil {
		return out
	}
	out.Film = make([]uint8, len(places))
	for i, at := range places {
		out.Film[i] = d.Film[at]
	}
	return out
}
