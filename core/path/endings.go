package path

import (
	"cmp"
	"math"
	"math/bits"
	"slices"
)

// endings says how early builds can end one after the other. Whatever the order in which they end, the
// minutes of all that have ended must have been worked by then.
type endings struct {
	p    *problem
	open []int   // builds with something left to lay
	work []int32 // their minutes

	// With few builds, by set of the open ones (bit i stands for open[i]): when at the earliest all of a set can
	// have ended, and what their ends cost at least.
	least []int32
	sum   []float64

	// With many, by what is worked per minute of weight, least first (Smith 1956), where the hands' minutes are
	// taken to lie evenly: x minutes are not worked before slope·x + from.
	smith       []int
	slope, from float64
}

// mostSets bounds the builds whose sets are all looked at: 2¹⁰ of them.
const mostSets = 10

func newEndings(p *problem) *endings {
	e := &endings{p: p}
	for b, jobs := range p.byBuild {
		if len(jobs) == 0 {
			continue
		}
		w := int32(0)
		for _, id := range jobs {
			w += p.jobs[id].minutes
		}
		e.open, e.work = append(e.open, b), append(e.work, w)
	}
	if len(e.open) > mostSets {
		e.evenly()
		return e
	}
	e.least, e.sum = make([]int32, 1<<len(e.open)), make([]float64, 1<<len(e.open))
	for set := 1; set < len(e.least); set++ {
		minutes := int32(0)
		for i, w := range e.work {
			if set>>i&1 == 1 {
				minutes += w
			}
		}
		e.least[set] = p.worked(minutes)
	}
	return e
}

// evenly finds the line below which no minutes are worked.
func (e *endings) evenly() {
	total := 0.0
	for i, w := range e.work {
		e.smith = append(e.smith, i)
		total += float64(w)
	}
	slices.SortStableFunc(e.smith, func(a, b int) int {
		return cmp.Compare(float64(e.work[a])/e.weight(a), float64(e.work[b])/e.weight(b))
	})
	begun := e.p.begunMinutes()
	last := e.p.worked(int32(total))
	e.slope = math.Max(float64(last)/math.Max(total-float64(begun), 1), 1)
	e.from = math.Inf(1)
	x := 0.0
	for _, s := range e.p.hands.all {
		// Within a session a minute is worked per minute: the end of each lies lowest above the line.
		x += float64(s.to - s.from)
		e.from = math.Min(e.from, float64(s.to)-e.slope*x)
		if x >= total {
			break
		}
	}
	if begun > 0 {
		e.from = math.Min(e.from, 0) // what is under way is worked outside sessions too
	}
	e.from -= e.slope * float64(begun)
}

func (e *endings) weight(i int) float64 { return e.p.weight[e.open[i]] }

// cost is the least that builds' ends can cost, none before its low one.
func (e *endings) cost(low []int32) float64 {
	if e.least == nil {
		return e.even(low, -1)
	}
	for set := 1; set < len(e.sum); set++ {
		e.sum[set] = math.Inf(1)
		for rest := set; rest != 0; rest &= rest - 1 {
			i := bits.TrailingZeros(uint(rest))
			if v := e.last(set, i, low); v < e.sum[set] {
				e.sum[set] = v
			}
		}
	}
	return e.sum[len(e.sum)-1]
}

// last is what a set costs when build i is its last.
func (e *endings) last(set, i int, low []int32) float64 {
	return e.sum[set&^(1<<i)] + e.weight(i)*float64(max(low[e.open[i]], e.least[set]))
}

// others is what all cost but build i, after cost was asked for.
func (e *endings) others(i int, low []int32) float64 {
	if e.least == nil {
		return e.even(low, i)
	}
	return e.sum[(len(e.sum)-1)&^(1<<i)]
}

// even is cost for many builds, leaving one out.
func (e *endings) even(low []int32, without int) float64 {
	alone, smith, minutes := 0.0, 0.0, 0.0
	for _, i := range e.smith {
		if i == without {
			continue
		}
		minutes += float64(e.work[i])
		alone += e.weight(i) * float64(low[e.open[i]])
		smith += e.weight(i) * math.Max(e.slope*minutes+e.from, 0)
	}
	return math.Max(alone, smith)
}

// reached is the ends at which that cost is reached, one build after the other.
func (e *endings) reached(low []int32) []int32 {
	out := slices.Clone(low)
	e.cost(low)
	if e.least == nil {
		minutes := int32(0)
		for _, i := range e.smith {
			minutes += e.work[i]
			out[e.open[i]] = max(low[e.open[i]], e.p.worked(minutes))
		}
		return out
	}
	for set := len(e.sum) - 1; set != 0; {
		for rest := set; rest != 0; rest &= rest - 1 {
			if i := bits.TrailingZeros(uint(rest)); e.last(set, i, low) == e.sum[set] {
				out[e.open[i]] = max(low[e.open[i]], e.least[set])
				set &^= 1 << i
				break
			}
		}
	}
	return out
}
