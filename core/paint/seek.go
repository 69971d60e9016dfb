package paint

import (
	"errors"
	"math"
	"runtime"
	"slices"
	"sync"

	"cinderpath/core/colour"
)

// ErrStopped says that a search was broken off.
var ErrStopped = errors.New("the search for recipes was broken off")

// seeker is a search on its way. Sets of paints are looked at in rounds; within a round each
// set knows only what was found before it, so that the answer and what was computed for it
// hang on no number of cores.
type seeker struct {
	Wanted

	paints []sight
	usable []int
	goal   goal
	pure   []corner        // by paint: what is seen of it alone
	weight [3]colour.Bands // what a band adds to X, Y, Z as parts of white's
	apart  [2]colour.Bands // by how much it adds more to one than to the next

	best       []Recipe // at most bestCount
	leading    []Recipe // by number of paints, its best
	candidates int
	computed   int
}

func newSeeker(w Wanted) *seeker {
	s := &seeker{Wanted: w, goal: newGoal(w.Target), leading: make([]Recipe, MostPaints+1)}
	for i, p := range w.Shelf {
		s.paints = append(s.paints, sightOf(p))
		if !slices.Contains(w.Exclude, i) {
			s.usable = append(s.usable, i)
		}
	}
	white, eye := colour.White(), colour.Observer()
	for k := range 3 {
		for i := range s.weight[k] {
			s.weight[k][i] = eye[k][i] / white[k]
		}
	}
	for k := range s.apart {
		for i := range s.apart[k] {
			s.apart[k][i] = s.weight[k][i] - s.weight[k+1][i]
		}
	}
	s.pure = make([]corner, len(s.paints))
	for i := range s.paints {
		p := &s.pure[i]
		p.ratio = s.paints[i].ratio
		s.see(&p.ratio, &p.seen)
		p.xyz = s.xyz(&p.seen)
	}
	return s
}

// sets are the choices of so many paints that mix and hold what must be in.
func (s *seeker) sets(k int) (out [][]int) {
	set := make([]int, 0, k)
	var pick func(from int)
	pick = func(from int) {
		if len(set) == k {
			if !slices.ContainsFunc(s.Must, func(i int) bool { return !slices.Contains(set, i) }) {
				out = append(out, append([]int(nil), set...))
			}
			return
		}
		for at := from; at < len(s.usable); at++ {
			i := s.usable[at]
			if len(set) > 0 && len(s.Group) > 0 && s.Group[i] != s.Group[set[0]] {
				continue
			}
			set = append(set, i)
			pick(at + 1)
			set = set[:len(set)-1]
		}
	}
	pick(0)
	return out
}

// Sets are looked at with one and the same knowledge: few at first, so that there soon is
// some, then more and more.
const (
	firstRound = 16
	lastRound  = 512
)

// level looks at the recipes of exactly k paints. Sets whose even mix comes nearest go
// first: what is found early spares most.
func (s *seeker) level(k int) error {
	t := treeOf(k, s.Parts)
	if len(t.recipes) == 0 {
		return nil
	}
	sets := s.sets(k)
	s.candidates += len(sets) * len(t.recipes)
	near := make([]float64, len(sets))
	even := make([]float64, k)
	for i := range even {
		even[i] = 1
	}
	inParts(len(sets), func(from, to int) {
		for i := from; i < to; i++ {
			near[i] = colour.Difference(s.Target, s.mixed(sets[i], even))
		}
	})
	order := make([]int, len(sets))
	for i := range order {
		order[i] = i
	}
	slices.SortFunc(order, func(a, b int) int {
		switch {
		case near[a] < near[b]:
			return -1
		case near[a] > near[b]:
			return 1
		}
		return a - b
	})
	round := firstRound
	for from := 0; from < len(order); {
		if s.Stop != nil && s.Stop() {
			return ErrStopped
		}
		part := order[from:min(from+round, len(order))]
		from, round = from+round, min(2*round, lastRound)
		finds := make([]find, len(part))
		inParts(len(part), func(a, b int) {
			w := newWalk(s, t, k)
			for i := a; i < b; i++ {
				finds[i] = w.set(sets[part[i]])
			}
		})
		for _, f := range finds {
			s.computed += f.computed
			for _, r := range f.recipes {
				s.keep(r, k)
			}
		}
	}
	return nil
}

// inParts works on pieces of a list on all cores.
func inParts(n int, do func(from, to int)) {
	var all sync.WaitGroup
	cores := runtime.GOMAXPROCS(0)
	piece := (n + 4*cores - 1) / (4 * cores)
	next := make(chan int, n)
	for from := 0; from < n; from += max(piece, 1) {
		next <- from
	}
	close(next)
	for range cores {
		all.Go(func() {
			for from := range next {
				do(from, min(from+piece, n))
			}
		})
	}
	all.Wait()
}

// keep takes a recipe among the best.
func (s *seeker) keep(r Recipe, k int) {
	if lead := s.leading[k]; lead.Parts == nil || compare(r, lead) < 0 {
		s.leading[k] = r
	}
	at, _ := slices.BinarySearchFunc(s.best, r, compare)
	if at < bestCount {
		s.best = slices.Insert(s.best, at, r)
		s.best = s.best[:min(len(s.best), bestCount)]
	}
}

// limit is the difference above which nothing of so many paints is kept.
func (s *seeker) limit(k int) float64 {
	limit := math.Inf(1)
	if len(s.best) == bestCount {
		limit = s.best[bestCount-1].Difference
	}
	if lead := s.leading[k]; lead.Parts == nil {
		return math.Inf(1)
	} else if lead.Difference > limit {
		limit = lead.Difference
	}
	return limit + 1e-9 // what rounding may take from a bound
}

// ratio is K/S of a mix of some paints by shares of their volume.
func (s *seeker) ratio(set []int, shares []float64, out *colour.Bands) {
	sum := 0.0
	for i, at := range set {
		sum += shares[i] * s.paints[at].weight
	}
	*out = colour.Bands{}
	for i, at := range set {
		if c := shares[i] * s.paints[at].weight / sum; c > 0 {
			for b, v := range s.paints[at].ratio {
				out[b] += c * v
			}
		}
	}
}

// see is what is seen of a ratio K/S in each band.
func (s *seeker) see(ratio, out *colour.Bands) {
	for b, v := range ratio {
		o := &s.Over[b]
		// With R = 1/t, (a + b R)/(c + d R) is (a t + b)/(c t + d).
		t := 1 + v + math.Sqrt(v*(v+2))
		out[b] = (o.a*t + o.b) / (o.c*t + o.d)
	}
}

// xyz of what is seen, as parts of white's.
func (s *seeker) xyz(seen *colour.Bands) [3]float64 {
	var x, y, z float64
	wx, wy, wz := &s.weight[0], &s.weight[1], &s.weight[2]
	for b, r := range seen {
		x += wx[b] * r
		y += wy[b] * r
		z += wz[b] * r
	}
	return [3]float64{x, y, z}
}

// lab of what is seen.
func (s *seeker) lab(seen *colour.Bands) colour.Lab {
	v := s.xyz(seen)
	x, y, z := root(v[0]), root(v[1]), root(v[2])
	return colour.Lab{116*y - 16, 500 * (x - y), 200 * (y - z)}
}

func (s *seeker) mixed(set []int, shares []float64) colour.Lab {
	var ratio, seen colour.Bands
	s.ratio(set, shares, &ratio)
	s.see(&ratio, &seen)
	return s.lab(&seen)
}

// find is what one set of paints gives.
type find struct {
	recipes  []Recipe
	computed int
}
