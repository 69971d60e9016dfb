package path

// timing is the earliest plan that a sequence of jobs allows.
type timing struct {
	p       *problem
	seq     []int32
	wish    []int32 // by job: when its block could begin, were the hands free
	from    []int32 // by job: when its block (set-up and work) begins
	start   []int32 // by job: when its work begins
	end     []int32
	least   []int32 // by job: raised where a window after it would close otherwise
	place   []int32 // by job: its place in the sequence, -1 when not yet in it
	states  []nozzle
	changes int
	redo    int
	ran     int    // jobs timed, ever: what the work costs
	closed  []bool // sessions that are left out; none when nil

	// Where windows may break, each is pushed only so often.
	pushes map[*link]int
}

// mostPushes is how often a window that cannot be kept is tried to be.
const mostPushes = 3

func newTiming(p *problem) *timing {
	n := len(p.jobs)
	t := &timing{
		p:     p,
		wish:  make([]int32, n),
		from:  make([]int32, n),
		start: make([]int32, n),
		end:   make([]int32, n),
		least: make([]int32, n),
		place: make([]int32, n),
	}
	for i := range t.place {
		t.place[i] = -1
	}
	t.states = make([]nozzle, len(p.nozzles))
	return t
}

// mostRedo bounds how often windows may push a sequence before it is given up.
const mostRedo = 400

// lay times a whole sequence; false where a window cannot be kept by it.
func (t *timing) lay(seq []int32) bool {
	t.seq = seq
	for i, j := range seq {
		t.place[j] = int32(i)
		t.least[j] = 0
	}
	return t.run(0, nil)
}

// run times the sequence from a place on, until halts tells after a place that all that follows stays as it is.
// Since every condition only ever asks for "not before", the times found are the earliest that fulfil all of
// them together.
func (t *timing) run(at int, halts func(place int) bool) bool {
	t.redo = 0
	for i := t.rewind(at); i < len(t.seq); {
		j := t.seq[i]
		if !t.one(i, j) {
			return false
		}
		if back := t.check(j); back >= 0 {
			if t.redo++; t.redo > mostRedo {
				return false
			}
			i = t.rewind(back)
			continue
		}
		if halts != nil && halts(i) {
			return true
		}
		i++
	}
	return true
}

// rewind brings the airbrushes to the state before a place of the sequence.
func (t *timing) rewind(at int) int {
	copy(t.states, t.p.nozzles)
	t.changes = 0
	for _, id := range t.seq[:at] {
		if j := &t.p.jobs[id]; j.brush >= 0 {
			t.spray(j)
		}
	}
	return at
}

func (t *timing) spray(j *job) (minutes int32) {
	if j.brush < 0 {
		return 0
	}
	minutes, _, changed, then := t.states[j.brush].setUp(j)
	t.states[j.brush] = then
	if changed {
		t.changes++
	}
	return minutes
}

// one times the job at a place of the sequence.
func (t *timing) one(i int, id int32) bool {
	t.ran++
	j := &t.p.jobs[id]
	ready := max(j.release, t.least[id])
	for k := range j.before {
		l := &j.before[k]
		if t.place[l.other] < 0 || int(t.place[l.other]) > i {
			continue // not laid in what is timed
		}
		ready = max(ready, l.dry.dry(t.end[l.other], l.wait))
	}
	setUp := t.spray(j)
	from := ready - setUp
	t.wish[id] = from
	if i > 0 {
		from = max(from, t.end[t.seq[i-1]])
	}
	from = t.p.open(j).first(max(from, 0), setUp+j.minutes)
	for from < never && t.isClosed(from) && !j.begun {
		from = t.p.open(j).first(t.p.hands.all[t.p.sessionOf(from)].to, setUp+j.minutes)
	}
	t.from[id], t.start[id], t.end[id] = from, from+setUp, from+setUp+j.minutes
	return from < never && (t.end[id] <= j.deadline || t.pushes != nil)
}

// check sees whether the windows before a job hold; where one has closed, what opened
// it is raised and its place returned, to be timed again from there.
func (t *timing) check(id int32) (back int) {
	back = -1
	j := &t.p.jobs[id]
	for k := range j.before {
		l := &j.before[k]
		at := t.place[l.other]
		if (l.most == 0 && !l.same) || at < 0 || at > t.place[id] {
			continue
		}
		need := t.end[l.other]
		if l.most > 0 && t.end[id] > l.dry.closes(t.end[l.other], l.most) {
			need = max(need, l.dry.opener(t.end[id], l.most))
		}
		if l.same {
			if s := t.p.sessionOf(t.start[id]); s < int32(len(t.p.hands.all)) && t.p.sessionOf(t.end[l.other]-1) != s {
				need = max(need, t.p.hands.all[s].from+t.p.jobs[l.other].minutes)
			}
		}
		if need > t.end[l.other] {
			if t.pushes != nil {
				if t.pushes[l]++; t.pushes[l] > mostPushes {
					continue
				}
			}
			t.least[l.other] = max(t.least[l.other], need-t.p.jobs[l.other].minutes)
			if back < 0 || int(at) < back {
				back = int(at)
			}
		}
	}
	return back
}

func (t *timing) isClosed(minute int32) bool {
	at := int(t.p.sessionOf(minute))
	return at < min(len(t.closed), len(t.p.hands.all)) && t.closed[at]
}
