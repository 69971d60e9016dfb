package path

import (
	"cmp"
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

// JointWork is how much the joint bound may cost: jobs looked at, over all its trials.
const jointWork = 1_500_000

// joint looks for a higher bound than the one that is known, for the ends of all builds at
// once: where one ends early, its jobs are in the way of the others. The range of ends that
// costs least is asked whether the hands could keep it; where not, the builds whose early ends
// contradict each other are moved on together, each by what counts the same, until they no
// longer do: in every plan one of them ends later than that, so the range is parted by which
// one. No plan costs less than the cheapest range that is left (branch and bound). A plan that
// costs most is known.
func (p *problem) joint(b bound, heads []int32, most float64) float64 {
	j := p.newJointly(heads, most)
	if len(j.open) < 2 || b.cost >= most {
		return b.cost
	}
	first := box{low: slices.Clone(b.alone), high: slices.Repeat([]int32{never}, len(b.alone))}
	queue := &boxes{}
	if j.narrow(&first) {
		heap.Push(queue, first)
	}
	for queue.Len() > 0 && j.left > 0 {
		if j.fits((*queue)[0].low) {
			break // nothing that costs less can be ruled out
		}
		for _, next := range j.part(heap.Pop(queue).(box)) {
			if j.narrow(&next) {
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
	open       []int   // builds with something to lay
	free       []int32 // jobs that are not under way, by head
	setUps     int32   // minutes at the airbrushes that no order avoids
	start, end []int32 // by job, the latest
	at         []int32 // by build, the end that they are for
	able       []bool  // by build: its jobs can keep it, were the hands free
	wait       duties
	left       int     // of what it may cost
	most       float64 // what is not cheaper is of no interest
}

func (p *problem) newJointly(heads []int32, most float64) *jointly {
	j := &jointly{p: p, heads: heads, left: jointWork, most: most}
	j.start, j.end = make([]int32, len(p.jobs)+1), make([]int32, len(p.jobs)+1)
	j.at, j.able = slices.Repeat([]int32{-1}, len(p.byBuild)), make([]bool, len(p.byBuild))
	for b, jobs := range p.byBuild {
		if len(jobs) == 0 {
			continue
		}
		j.open = append(j.open, b)
		for _, id := range jobs {
			if !p.jobs[id].begun {
				j.free = append(j.free, id)
			}
		}
	}
	j.setUps = p.leastSetUps(j.free)
	slices.SortFunc(j.free, func(a, b int32) int { return cmp.Or(cmp.Compare(heads[a], heads[b]), cmp.Compare(a, b)) })
	return j
}

// fits tells whether all builds can have ended by such ends, as far as can be seen.
func (j *jointly) fits(ends []int32) bool {
	last := int32(0)
	able := true
	for _, b := range j.open {
		if j.at[b] != ends[b] {
			j.left -= len(j.p.byBuild[b])
			j.p.latestOf(b, ends[b], j.start, j.end)
			j.at[b], j.able[b] = ends[b], true
			for _, id := range j.p.byBuild[b] {
				if j.start[id] < j.heads[id] {
					j.able[b] = false
					break
				}
			}
		}
		able = able && j.able[b]
		last = max(last, ends[b])
	}
	if !able {
		return false
	}
	j.left -= len(j.free)
	return j.p.inTime(j.free, j.heads, j.end, &j.p.hands, j.setUps, last, &j.wait)
}

// part divides a range that the hands cannot keep at its earliest ends.
func (j *jointly) part(b box) []box {
	ends := slices.Clone(b.low)
	var clash []int
	for _, k := range j.open {
		ends[k] = b.high[k]
		if j.fits(ends) {
			ends[k] = b.low[k]
			clash = append(clash, k)
		}
	}
	if len(clash) == 0 {
		return nil
	}
	// Each of them moves on by what counts as much as one step, until they fit.
	move := func(step int32) {
		for _, k := range clash {
			ends[k] = int32(math.Min(float64(b.low[k])+float64(step)/j.p.weight[k], float64(b.high[k])))
		}
	}
	far := int32(math.Min(math.Max(j.most-b.cost, 1), float64(never)/32))
	step := searchLeast(1, far, func(t int32) bool {
		move(t)
		return j.left <= 0 || j.fits(ends)
	}) - 1
	move(step)
	var out []box
	for i, k := range clash {
		next := box{low: slices.Clone(b.low), high: slices.Clone(b.high)}
		for _, before := range clash[:i] {
			next.high[before] = ends[before]
		}
		next.low[k] = ends[k] + 1
		out = append(out, next)
	}
	return out
}

// narrow leaves of a range what is cheaper than the known plan; false when nothing is left.
func (j *jointly) narrow(b *box) bool {
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
	return true
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
