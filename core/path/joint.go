package path

import (
	"container/heap"
	"math"
	"slices"
)

// box is a range for the end of each build, with the weighted sum of the earliest of them.
type box struct {
	low, high []int32
	cost      float64
}

type boxes []box

func (b boxes) Len() int           { return len(b) }
func (b boxes) Less(i, k int) bool { return b[i].cost < b[k].cost }
func (b boxes) Swap(i, k int)      { b[i], b[k] = b[k], b[i] }
func (b *boxes) Push(x any)        { *b = append(*b, x.(box)) }
func (b *boxes) Pop() any {
	last := (*b)[len(*b)-1]
	*b = (*b)[:len(*b)-1]
	return last
}

// jointWork is how much the joint bound may cost: jobs looked at, over all its trials.
const jointWork = 150_000

// joint looks for a higher bound than the one that is known, for the ends of all builds at
// once: where one ends early, its jobs are in the way of the others. Ranges of ends are halved,
// the most promising first; of each half the earliest ends are raised to what still fits the
// hands when the others end as late as they may. No plan costs less than the cheapest range
// that is left (branch and bound). A plan that costs most is known.
func (p *problem) joint(b bound, heads []int32, most float64) float64 {
	var open []int
	for k, jobs := range p.byBuild {
		if len(jobs) > 0 {
			open = append(open, k)
		}
	}
	if len(open) < 2 || b.cost >= most {
		return b.cost
	}
	j := &jointly{p: p, heads: heads, open: open, left: jointWork, most: most}
	j.start, j.end = make([]int32, len(p.jobs)), make([]int32, len(p.jobs))
	for _, k := range open {
		for _, id := range p.byBuild[k] {
			if !p.jobs[id].begun {
				j.free = append(j.free, id)
			}
		}
	}
	first := box{low: slices.Clone(b.alone), high: slices.Repeat([]int32{never}, len(b.alone))}
	queue := &boxes{}
	if j.raise(&first) {
		heap.Push(queue, first)
	}
	for queue.Len() > 0 && j.left > 0 {
		top := (*queue)[0]
		widest, width := -1, 0.0
		for _, k := range open {
			if w := p.weight[k] * float64(top.high[k]-top.low[k]); w > width && top.high[k]-top.low[k] > 30 {
				widest, width = k, w
			}
		}
		if widest < 0 || j.fits(top.low) {
			break // nothing that costs less can be ruled out
		}
		heap.Pop(queue)
		middle := top.low[widest] + (top.high[widest]-top.low[widest])/2
		for _, half := range [][2]int32{{top.low[widest], middle}, {middle + 1, top.high[widest]}} {
			next := box{low: slices.Clone(top.low), high: slices.Clone(top.high)}
			next.low[widest], next.high[widest] = half[0], half[1]
			if j.raise(&next) {
				heap.Push(queue, next)
			}
		}
	}
	if queue.Len() == 0 {
		return math.Max(b.cost, most) // no plan is better than the one that is known
	}
	return math.Max(b.cost, math.Min((*queue)[0].cost, most))
}

// jointly is the work on one joint bound.
type jointly struct {
	p          *problem
	heads      []int32
	open       []int
	free       []int32
	start, end []int32
	left       int     // of what it may cost
	most       float64 // what is not cheaper is of no interest
}

// fits tells whether all builds can have ended by such ends, as far as can be seen.
func (j *jointly) fits(ends []int32) bool {
	j.left -= len(j.free) + 1
	last := int32(0)
	for _, k := range j.open {
		j.p.latestOf(k, ends[k], j.start, j.end)
		for _, id := range j.p.byBuild[k] {
			if j.start[id] < j.heads[id] {
				return false
			}
		}
		last = max(last, ends[k])
	}
	return j.p.fitsWithSetUps(j.free, func(id int32) int32 { return j.p.jobs[id].minutes }, j.heads, j.end, last)
}

// raise narrows a range to what is cheaper than the known plan and still fits; false when
// nothing is left of it.
func (j *jointly) raise(b *box) bool {
	ends := make([]int32, len(b.low))
	for range 2 {
		b.cost = 0
		for _, k := range j.open {
			b.cost += j.p.weight[k] * float64(b.low[k])
		}
		if b.cost >= j.most {
			return false
		}
		for _, k := range j.open {
			// Later than this the whole would cost more than the known plan, whatever the others do.
			latest := (j.most-b.cost)/j.p.weight[k] + float64(b.low[k])
			if b.high[k] = int32(math.Min(latest, float64(b.high[k]))); b.high[k] < b.low[k] {
				return false
			}
		}
		copy(ends, b.high)
		if !j.fits(ends) {
			return false
		}
		for _, k := range j.open {
			b.low[k] = searchLeast(b.low[k], b.high[k], func(t int32) bool {
				ends[k] = t
				return j.left <= 0 || j.fits(ends)
			})
			ends[k] = b.high[k]
		}
	}
	b.cost = 0
	for _, k := range j.open {
		b.cost += j.p.weight[k] * float64(b.low[k])
	}
	return b.cost < j.most
}

// past is what builds count that have nothing left to lay.
func (p *problem) past() float64 {
	sum := 0.0
	for b, jobs := range p.byBuild {
		if len(jobs) == 0 && len(p.first[b]) > 0 {
			sum += p.weight[b] * float64(max(p.fixedEnd[b], 0))
		}
	}
	return sum
}
