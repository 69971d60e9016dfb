package path

import "slices"

// ahead lays what has a window, with all that must come before it, after a job: what
// closes first goes first. Where that fails for what the job itself opens, later is
// the end at which to try it.
func (d *dispatcher) ahead(id, end int32, open []pending) (later int32, ok bool) {
	p := d.p
	d.epoch++
	d.members = d.members[:0]
	join := func(o int32) bool {
		if o == id || d.gone[o] || d.seen[o] == d.epoch {
			return true
		}
		d.seen[o], d.slot[o] = d.epoch, int32(len(d.members))
		d.members = append(d.members, o)
		return len(d.members) <= mostAhead
	}
	windows := func(of int32) bool {
		for k := range p.jobs[of].after {
			if l := &p.jobs[of].after[k]; (l.most > 0 || l.same) && !join(l.other) {
				return false
			}
		}
		return true
	}
	for _, x := range open {
		join(x.id)
	}
	if !windows(id) {
		return 0, false
	}
	for i := 0; i < len(d.members); i++ {
		m := d.members[i]
		for k := range p.jobs[m].before {
			if !join(p.jobs[m].before[k].other) {
				return 0, false
			}
		}
		if d.opens[m] && !windows(m) {
			return 0, false
		}
	}
	n := len(d.members)
	d.look = slices.Grow(d.look[:0], n)[:n]
	for i, m := range d.members {
		d.look[i] = member{ready: d.ready[m], closes: d.closes[m], must: d.must[m]}
		for k := range p.jobs[m].before {
			if o := p.jobs[m].before[k].other; d.seen[o] == d.epoch && o != id && !d.gone[o] {
				d.look[i].waits++
			}
		}
	}
	open1 := func(of, end int32, mine bool) {
		for k := range p.jobs[of].after {
			l := &p.jobs[of].after[k]
			if d.seen[l.other] != d.epoch || d.gone[l.other] {
				continue
			}
			x := &d.look[d.slot[l.other]]
			x.ready = max(x.ready, l.dry.dry(end, l.wait))
			if l.most > 0 {
				x.closes = min(x.closes, l.dry.closes(end, l.most))
			}
			if l.same {
				x.must = p.sessionOf(end - 1)
			}
			if of != id {
				x.waits--
			}
			if (l.most > 0 || l.same) && mine && x.from == nil {
				x.from = l
			}
		}
	}
	open1(id, end, true)
	// What comes before something that closes is as urgent as that.
	for range 3 {
		for i := n - 1; i >= 0; i-- {
			x := &d.look[i]
			x.due = x.closes
			if x.due == 0 {
				x.due = never
			}
			for k := range p.jobs[d.members[i]].after {
				if o := p.jobs[d.members[i]].after[k].other; d.seen[o] == d.epoch && !d.gone[o] {
					x.due = min(x.due, d.look[d.slot[o]].closes)
				}
			}
		}
	}
	now := end
	for range n {
		at := -1
		for k := range d.look {
			if d.look[k].waits != 0 {
				continue
			}
			if at < 0 {
				at = k
				continue
			}
			a, b := &d.look[at], &d.look[k]
			aNow, bNow := a.ready <= now, b.ready <= now
			if (bNow && !aNow) || (aNow == bNow && ((aNow && b.due < a.due) || (!aNow && b.ready < a.ready))) {
				at = k
			}
		}
		if at < 0 {
			return 0, false
		}
		x := &d.look[at]
		x.waits = -1
		m := d.members[at]
		j := &p.jobs[m]
		setUp := int32(0)
		if j.brush >= 0 {
			setUp, _, _, _ = d.states[j.brush].setUp(j)
		}
		from := p.open(j).first(max(now, x.ready-setUp), setUp+j.minutes)
		if from >= never {
			return 0, false
		}
		e := from + setUp + j.minutes
		if e > x.closes || (x.must >= 0 && p.sessionOf(from) != x.must) {
			if x.from == nil {
				return 0, false
			}
			later = end + 1
			if x.from.most > 0 && e > x.closes {
				later = max(later, x.from.dry.opener(e, x.from.most))
			}
			if x.must >= 0 && p.sessionOf(from) != x.must {
				if s := p.sessionOf(from); int(s) < len(p.hands.all) {
					later = max(later, p.hands.all[s].from+1)
				}
			}
			return later, false
		}
		now = e
		open1(m, e, x.from != nil)
	}
	return 0, true
}

// member is a job in the look ahead.
type member struct {
	ready, closes, must, due int32
	waits                    int32 // members before it that are not laid; -1 when it is
	from                     *link // the window that the job looked at opens to it
}
