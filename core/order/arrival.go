package order

import (
	"cinderpath/core/kit"
	"cinderpath/core/path"
	"time"
)

// receive enters the arrival of what was ordered.
func (s *shop) receive() {
	for _, p := range s.b.Kit.Used() {
		if p.Ordered == nil || p.Ordered.Passed() {
			continue
		}
		id := s.add(step{kind: "receive", subject: p.ID, title: p.Name, units: 1})
		s.corrected(id, p.ID)
		if p.Ordered.Arrived == "" {
			if day, err := time.ParseInLocation(time.DateOnly, p.Ordered.Expected, s.zone); err == nil {
				s.task(id).NotFrom = day
			}
		}
		s.received[p.ID] = s.faulty(p, id)
	}
}

// faulty enters what is done about a part that came with a fault: it is repaired, another one is waited
// for, or one of the spares takes its place.
func (s *shop) faulty(p kit.Part, came string) string {
	o := p.Ordered
	if o.Fault == "" {
		return came
	}
	because := then(came, p.Name+" came, but: "+o.Fault)
	switch o.Remedy {
	case kit.Mended:
		return s.add(step{kind: "mendpart", subject: p.ID, title: p.Name + ": " + o.Fault, units: 1}, because)
	case kit.Spared:
		return s.add(step{kind: "sparepart", subject: p.ID, title: p.Name, units: 1}, because)
	case kit.Replaced:
		id := s.add(step{kind: "receive", subject: p.ID, n: 2, title: p.Name + ", the replacement", units: 1}, because)
		if day, err := time.ParseInLocation(time.DateOnly, o.Again, s.zone); err == nil {
			s.task(id).NotFrom = day
		}
		return id
	}
	return came
}

// awaited is the arrival of a part that was ordered.
func (s *shop) awaited(p kit.Part) []path.Arrow {
	if r, ok := s.received[p.ID]; ok {
		return []path.Arrow{then(r, p.Name+" has to come first")}
	}
	return nil
}
