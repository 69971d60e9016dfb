package path

import (
	"math"
	"math/bits"
	"slices"
)

// box is a range for the end of each build.
type box struct{ low, high []int32 }

func (b box) clone() box { return box{slices.Clone(b.low), slices.Clone(b.high)} }

// What a joint bound may cost, in jobs looked at: for what is told, for setting out.
const (
	jointWork  = 1_500_000
	jointSoon  = jointWork / 3
	jointShare = 2 // times what the plan may cost
	jointFails = 2 // one trial may spend this part of what is left
)

// nearly is how exactly a joint bound is sought, as a share of what the plan costs.
const nearly = 0.002

// joint looks for a higher bound than the one that is known, for the ends of all builds at once: where
// one ends early, its jobs are in the way of the others. A cost is taken for granted and refuted: from what
// the plan may cost at most follows when each build ends at the latest, from that what the hands must have
// done by when, and from that when the others end at the earliest, and so on until nothing is left or
// nothing changes; then ranges are halved. The highest cost that is refuted is a bound (destructive
// bounds: Klein and Scholl 1999). What cannot be refuted leaves ends that a plan may aim at. A plan that
// costs most is known.
func (p *problem) joint(
	b bound,
	heads []int32,
	most float64,
	work int,
	stop func() bool,
) (cost float64, aims [][]int32) {
	j := p.newJointly(heads, b.alone, work)
	j.stop = stop
	if len(j.open) < 2 || b.cost >= most {
		return b.cost, nil
	}
	j.together(work)
	low, high := math.Max(b.cost, j.cost(j.alone)), most
	if low >= most {
		return most, nil
	}
	// Ends are whole minutes and the least weight a sixteenth: is the known plan the best?
	for c := most - 1.0/32; high-low > nearly*most && j.left > 0; c = low + (high-low)/2 {
		ends, refuted := j.refute(c, j.left-j.left/jointFails)
		switch {
		case refuted && c > most-1:
			return most, aims
		case refuted:
			low = c
		case ends != nil:
			aims = append(aims, ends)
			high = math.Min(c, j.sumOf(ends))
		default:
			high = c
		}
	}
	return low, aims
}

// jointly is the work on one joint bound.
type jointly struct {
	*endings
	heads      []int32
	alone      []int32 // by build: it does not end before
	free       []int32 // jobs that are not under way, by head
	setUps     int32   // minutes at the airbrushes that no order avoids
	start, end []int32 // by job, the latest
	at         []int32 // by build, the end that they are for
	able       []bool  // by build: its jobs can keep it, were the hands free
	wait       duties
	left       int // of what it may cost
	asked      int
	stop       func() bool // nobody waits any more, where known
}

func (p *problem) newJointly(heads, alone []int32, work int) *jointly {
	j := &jointly{endings: newEndings(p), heads: heads, alone: alone, left: work}
	j.start, j.end = make([]int32, len(p.jobs)+1), make([]int32, len(p.jobs)+1)
	j.at, j.able = slices.Repeat([]int32{-1}, len(p.byBuild)), make([]bool, len(p.byBuild))
	j.free = p.free(p.order, heads)
	j.setUps = p.leastSetUps(j.free)
	return j
}

// together looks for when sets of builds can have ended at the earliest, their waits and the hands taken
// together, for half of such a work.
func (j *jointly) together(work int) {
	for set := 1; set < len(j.least); set++ {
		low := j.least[set]
		for i, b := range j.open {
			if set>>i&1 == 1 {
				low = max(low, j.alone[b], j.least[set&^(1<<i)])
			}
		}
		j.least[set] = low
		if bits.OnesCount(uint(set)) < 2 || j.left < work/2 {
			continue
		}
		in := make([]bool, len(j.p.byBuild))
		for i, b := range j.open {
			in[b] = set>>i&1 == 1
		}
		jobs := slices.DeleteFunc(slices.Clone(j.free), func(id int32) bool { return !in[j.p.jobs[id].build] })
		setUps := j.p.leastSetUps(jobs)
		j.least[set] = searchLeast(low, int32(j.p.horizon.Minutes()), func(t int32) bool {
			j.left -= 2 * len(jobs)
			for b := range in {
				if in[b] {
					j.latest(b, t)
				}
			}
			return j.p.inTime(jobs, j.heads, j.end, &j.p.hands, setUps, t, &j.wait)
		})
	}
}

// latest times the jobs of a build for an end.
func (j *jointly) latest(b int, end int32) {
	if j.at[b] == end {
		return
	}
	j.left -= len(j.p.byBuild[b])
	j.p.latestOf(b, end, j.start, j.end)
	j.at[b], j.able[b] = end, true
	for _, id := range j.p.byBuild[b] {
		if j.start[id] < j.heads[id] {
			j.able[b] = false
			break
		}
	}
}

// fits tells whether all builds can have ended by such ends, as far as can be seen.
func (j *jointly) fits(ends []int32) bool {
	last := int32(0)
	able := true
	for _, b := range j.open {
		j.latest(b, ends[b])
		able = able && j.able[b]
		last = max(last, ends[b])
	}
	if !able {
		return false
	}
	j.left -= len(j.free)
	if j.asked++; j.asked&15 == 0 && j.stop != nil && j.stop() {
		j.left = 0
	}
	return j.p.inTime(j.free, j.heads, j.end, &j.p.hands, j.setUps, last, &j.wait)
}

func (j *jointly) sumOf(ends []int32) float64 {
	sum := 0.0
	for _, b := range j.open {
		sum += j.p.weight[b] * float64(ends[b])
	}
	return sum
}

// refute tells whether no plan costs c at most; where that cannot be seen it may give ends of such a cost
// that nothing speaks against.
func (j *jointly) refute(c float64, until int) (ends []int32, refuted bool) {
	stack := []box{{slices.Clone(j.alone), slices.Repeat([]int32{never}, len(j.alone))}}
	for len(stack) > 0 {
		b := stack[len(stack)-1]
		stack = stack[:len(stack)-1]
		if !j.narrow(&b, c) {
			continue
		}
		if j.left <= until {
			return nil, false
		}
		if j.sumOf(b.low) <= c && j.fits(b.low) {
			return b.low, false
		}
		at, wide := -1, 0.0
		for _, k := range j.open {
			if v := j.p.weight[k] * float64(b.high[k]-b.low[k]); v > wide {
				at, wide = k, v
			}
		}
		if at < 0 {
			return nil, false
		}
		early, late := b, b.clone()
		early.high[at] = b.low[at] + (b.high[at]-b.low[at])/2
		late.low[at] = early.high[at] + 1
		stack = append(stack, late, early)
	}
	return nil, true
}

// mostNarrow bounds how often the ranges are drawn from each other.
const mostNarrow = 3

// narrow leaves of a range what can cost c at most; false when nothing is left.
func (j *jointly) narrow(b *box, c float64) bool {
	for range mostNarrow {
		j.left -= len(j.sum) / 8
		if j.cost(b.low) > c {
			return false
		}
		for i, k := range j.open {
			// Later than this the whole would cost more, however early the others end.
			latest := (c - j.others(i, b.low)) / j.p.weight[k]
			if b.high[k] = int32(math.Min(latest, float64(b.high[k]))); b.high[k] < b.low[k] {
				return false
			}
		}
		changed, ok := j.raise(b)
		if !ok {
			return false
		}
		if !changed {
			break
		}
	}
	return j.cost(b.low) <= c
}

// raise finds how early each build can end where the others end as late as they may.
func (j *jointly) raise(b *box) (changed, ok bool) {
	ends := slices.Clone(b.high)
	if !j.fits(ends) {
		return false, false
	}
	for _, k := range j.open {
		fits := func(t int32) bool {
			ends[k] = t
			return j.fits(ends)
		}
		low := searchLeast(b.low[k], b.high[k], fits)
		changed = changed || low > b.low[k]
		b.low[k], ends[k] = low, b.high[k]
	}
	return changed, true
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
