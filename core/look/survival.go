package look

import (
	"math"

	"cinderpath/core/colour"
	"cinderpath/core/form"
	"cinderpath/core/strata"
)

// unchanged is a difference below which a coat was not seen where it was laid, ΔE00.
const unchanged = 0.5

// Survives is how much of a coat is seen at the end, on a zone or on all of them.
type Survives struct {
	Seen       bool    // somewhere, when it was laid
	Part       float64 // 0 to 1: mean of min(1, ΔE00 that it makes at the end / ΔE00 that it made at first)
	Error      float64 // of that, twice its standard error: the places are a sample
	Difference float64 // mean ΔE00 that it makes at the end, where it was seen
	First      float64 // mean ΔE00 that it made at first, there
	Adds       float64 // mean ΔE00 that it makes at the end, over all of the area
	Area       float64 // real mm² on which it was seen
	Places     int     // of the sample, on which it was seen
}

// sums are what a Survives is worked out from.
type sums struct {
	w, ww, wx, wwx, wwxx, last, first, adds, area float64
	places, of, all                               int
}

func (s *sums) add(area, first, last float64) {
	s.adds += area * last
	if first < unchanged {
		return
	}
	x := min(1, last/first)
	s.w += area
	s.ww += area * area
	s.wx += area * x
	s.wwx += area * area * x
	s.wwxx += area * area * x * x
	s.last += area * last
	s.first += area * first
	s.places++
}

func (s *sums) join(o sums) {
	s.w, s.ww, s.wx, s.wwx, s.wwxx = s.w+o.w, s.ww+o.ww, s.wx+o.wx, s.wwx+o.wwx, s.wwxx+o.wwxx
	s.last, s.first, s.adds, s.area = s.last+o.last, s.first+o.first, s.adds+o.adds, s.area+o.area
	s.places, s.of, s.all = s.places+o.places, s.of+o.of, s.all+o.all
}

func (s *sums) told() Survives {
	out := Survives{Places: s.places, Area: s.w}
	if s.area > 0 {
		out.Adds = s.adds / s.area
	}
	if s.w == 0 {
		return out
	}
	out.Seen, out.Part, out.Difference, out.First = true, s.wx/s.w, s.last/s.w, s.first/s.w
	m := out.Part
	scatter := max(0, s.wwxx-2*m*s.wwx+m*m*s.ww) / (s.w * s.w)
	missing := 1 - float64(s.of)/float64(max(s.all, 1)) // none where all texels are in
	out.Error = 2 * math.Sqrt(scatter*missing)
	return out
}

// Survival tells of each ply that is meant to be seen how much of it is, by zone and in all. Where
// the other plies land stays; what lies in it or goes by it goes with it. All colours are seen through
// the skin at the end (handbook 5, Layers).
func (p *Pile) Survival() (zones [][]Survives, whole []Survives) {
	all := make([][]sums, len(p.Plies))
	for i := range all {
		all[i] = make([]sums, len(p.Zones))
	}
	gone := p.gone()
	form.Each(len(p.Zones), func(z int) {
		stages := make([]Place, len(p.Plies)+1)
		var area float64
		for place := p.First[z]; place < p.First[z+1]; place++ {
			area += p.Area[place]
			p.survive(place, stages, func(ply int, first, last float64) {
				all[ply][z].add(p.Area[place], first, last)
			}, gone)
		}
		for i := range all {
			all[i][z].area, all[i][z].of, all[i][z].all = area, p.First[z+1]-p.First[z], p.Of[z]
		}
	})
	zones, whole = make([][]Survives, len(p.Plies)), make([]Survives, len(p.Plies))
	for i := range all {
		var sum sums
		zones[i] = make([]Survives, len(p.Zones))
		for z := range all[i] {
			zones[i][z] = all[i][z].told()
			sum.join(all[i][z])
		}
		whole[i] = sum.told()
	}
	return zones, whole
}

// gone tells of each ply what else is not there without it.
func (p *Pile) gone() [][]bool {
	out := make([][]bool, len(p.Plies))
	for i := len(p.Plies) - 1; i >= 0; i-- {
		out[i] = make([]bool, len(p.Plies))
		out[i][i] = true
		for _, with := range p.Plies[i].With {
			for k, g := range out[with] {
				out[i][k] = out[i][k] || g
			}
		}
	}
	return out
}

// survive tells of each ply on a place what it changed at first and what it changes at the end.
func (p *Pile) survive(place int, stages []Place, tell func(ply int, first, last float64), gone [][]bool) {
	stages[0] = NewPlace()
	for i := range p.Plies {
		stages[i+1] = stages[i]
		stages[i+1].Lay(&p.Plies[i], place)
	}
	end := &stages[len(p.Plies)]
	skin := end.sheen
	final := end.Through(skin)
	for i := range p.Plies {
		if !p.Plies[i].Meant || p.Plies[i].At(place) == 0 {
			continue
		}
		without, laid := stages[i], i+1+p.Plies[i].Until
		without.keep(&p.Plies[i])
		p.on(&without, i+1, laid, place, gone[i])
		first := colour.Difference(stages[laid].Through(skin), without.Through(skin))
		p.on(&without, laid, len(p.Plies), place, gone[i])
		tell(i, first, colour.Difference(final, without.Through(skin)))
	}
}

// on lays the plies from one to another, without those that are gone.
func (p *Pile) on(s *Place, from, to, place int, gone []bool) {
	for k := from; k < to; k++ {
		if gone[k] {
			s.keep(&p.Plies[k])
		} else {
			s.Lay(&p.Plies[k], place)
		}
	}
}

// Below is a place with all that lies below a ply.
func (p *Pile) Below(ply, place int) Place {
	s := NewPlace()
	for k := range ply {
		s.Lay(&p.Plies[k], place)
	}
	return s
}

// MostStronger is how much stronger than planned a coat is made at most.
const MostStronger = 4.0

// Overshoot is how many times as thick a ply must be now to differ at the end, in the mean, as it
// differs now from what is below it; ok is false where MostStronger is not enough. Of marks the film
// is what grows, not their number.
func (p *Pile) Overshoot(ply int) (times float64, ok bool) {
	gone := p.gone()[ply]
	var before, ends []Place // of the places where it lies
	var area []float64
	var places []int
	wanted, sum := 0.0, 0.0
	for place := range p.At {
		if p.Plies[ply].At(place) == 0 {
			continue
		}
		s := p.Below(ply, place)
		on := s
		on.Lay(&p.Plies[ply], place)
		without := s
		p.on(&without, ply+1, len(p.Plies), place, gone)
		before, ends, area, places = append(
			before,
			s,
		), append(
			ends,
			without,
		), append(
			area,
			p.Area[place],
		), append(
			places,
			place,
		)
		sum += p.Area[place]
		wanted += p.Area[place] * colour.Difference(on.Through(without.sheen), s.Through(without.sheen))
	}
	if sum == 0 || wanted/sum < unchanged {
		return 1, true
	}
	stronger := p.Plies[ply]
	reaches := func(times float64) bool {
		stronger.prepare(times)
		made := make([]float64, len(places))
		form.Each(len(places), func(i int) {
			s := before[i]
			s.Lay(&stronger, places[i])
			p.on(&s, ply+1, len(p.Plies), places[i], make([]bool, len(p.Plies)))
			made[i] = area[i] * colour.Difference(s.Through(ends[i].sheen), ends[i].Through(ends[i].sheen))
		})
		all := 0.0
		for _, m := range made {
			all += m
		}
		return all >= wanted
	}
	if reaches(1) {
		return 1, true
	}
	if !reaches(MostStronger) {
		return MostStronger, false
	}
	low, high := 1.0, MostStronger
	for high-low > 0.01 {
		if mid := (low + high) / 2; reaches(mid) {
			high = mid
		} else {
			low = mid
		}
	}
	return high, true
}

// Coverer is the ply above one that takes most of it from sight on some zones; -1 where none takes any.
func (p *Pile) Coverer(ply int, zones []int) int {
	gone := p.gone()[ply]
	taken := make([]float64, len(p.Plies))
	for _, z := range zones {
		for place := p.First[z]; place < p.First[z+1]; place++ {
			if p.Plies[ply].At(place) == 0 {
				continue
			}
			without := p.Below(ply, place)
			with := without
			without.keep(&p.Plies[ply])
			with.Lay(&p.Plies[ply], place)
			shows := colour.Difference(with.Through(with.sheen), without.Through(with.sheen))
			for k := ply + 1; k < len(p.Plies); k++ {
				with.Lay(&p.Plies[k], place)
				if !gone[k] {
					without.Lay(&p.Plies[k], place)
				}
				now := colour.Difference(with.Through(with.sheen), without.Through(with.sheen))
				if k > ply+p.Plies[ply].Until {
					taken[k] += p.Area[place] * (shows - now)
				}
				shows = now
			}
		}
	}
	best, most := -1, 0.0
	for k, t := range taken {
		if t > most {
			best, most = k, t
		}
	}
	return best
}

// Ground is what is seen where a ply lies on some faces just before it is laid.
type Ground struct {
	Seen colour.Lab
	Area float64 // real mm²
}

// Grounds gives it place by place.
func (p *Pile) Grounds(ply int, on func(place int) bool) (out []Ground) {
	for place := range p.At {
		if p.Plies[ply].At(place) == 0 || !on(place) {
			continue
		}
		s := p.Below(ply, place)
		out = append(out, Ground{s.Through(s.sheen), p.Area[place]})
	}
	return out
}

// Films is the film of a ply on each zone, on faces that lie so, in all, real mm² · µm.
func (p *Pile) Films(ply int, on func(place int) bool) []float64 {
	out := make([]float64, len(p.Zones))
	for z := range p.Zones {
		for place := p.First[z]; place < p.First[z+1]; place++ {
			if step := p.Plies[ply].At(place); step > 0 && on(place) {
				out[z] += p.Area[place] * float64(p.Plies[ply].Full) * float64(step) / strata.Steps
			}
		}
	}
	return out
}

// Means are the mean colours that are seen on each zone once each ply is on.
func (p *Pile) Means() [][]colour.RGB {
	out := make([][]colour.RGB, len(p.Plies))
	for i := range out {
		out[i] = make([]colour.RGB, len(p.Zones))
	}
	form.Each(len(p.Zones), func(z int) {
		sums, area := make([]colour.XYZ, len(p.Plies)), 0.0
		for place := p.First[z]; place < p.First[z+1]; place++ {
			s := NewPlace()
			for k := range p.Plies {
				s.Lay(&p.Plies[k], place)
				for q, v := range s.spectrum(s.sheen).XYZ() {
					sums[k][q] += v * p.Area[place]
				}
			}
			area += p.Area[place]
		}
		for k, sum := range sums {
			for q := range sum {
				sum[q] /= area
			}
			out[k][z], _ = sum.RGB()
		}
	})
	return out
}
