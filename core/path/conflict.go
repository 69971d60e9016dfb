package path

import (
	"fmt"
	"slices"
	"strings"
)

// Reason is one of the things that contradict each other: an arrow of a build, the
// length of a task, or the hours of a place.
type Reason struct {
	Build string  `json:"build,omitempty"`
	From  string  `json:"from,omitempty"` // of an arrow; empty for the length of a task
	To    string  `json:"to,omitempty"`
	Place PlaceID `json:"place,omitempty"` // whose hours; the hands' own for the bench
	Words string  `json:"words"`
}

// Conflict says why some tasks have no place: reasons that cannot hold together, none
// of which can be left out. Proven is false where none was found within the budget
// and the reasons are only the windows that crowd each other.
type Conflict struct {
	Reasons []Reason `json:"reasons"`
	Proven  bool     `json:"proven"`
}

// Words is the conflict in one sentence.
func (c Conflict) Words() string {
	var all []string
	for _, r := range c.Reasons {
		all = append(all, r.Words)
	}
	if !c.Proven {
		return "no plan was found that keeps all of: " + strings.Join(all, "; ")
	}
	if len(all) == 1 {
		return all[0]
	}
	return "these cannot hold together: " + strings.Join(all, "; ")
}

// Concerns tells whether a conflict is about a build: it names it, or none at all.
func (c Conflict) Concerns(build string) bool {
	named := slices.ContainsFunc(c.Reasons, func(r Reason) bool { return r.Build != "" })
	return !named || slices.ContainsFunc(c.Reasons, func(r Reason) bool { return r.Build == build })
}

// told puts a clash into words.
func (c *clash) told(p *problem) Conflict {
	out := Conflict{Proven: c.proven}
	for _, it := range c.items {
		if it.class >= 0 {
			key := p.keys[it.class]
			out.Reasons = append(out.Reasons, Reason{Place: key.place, Words: p.hoursWords(it.class)})
			continue
		}
		o := p.orders[it.build]
		t := o.Tasks[it.task]
		if it.arrow < 0 {
			out.Reasons = append(
				out.Reasons,
				Reason{Build: o.Build, To: t.ID, Words: fmt.Sprintf("%s takes %.0f min in one go", t.Title, t.Minutes)},
			)
			continue
		}
		a := t.After[it.arrow]
		from := a.From
		if i := indexOf(o.Tasks, a.From); i >= 0 {
			from = o.Tasks[i].Title
		}
		words := fmt.Sprintf("%s comes after %s", t.Title, from)
		if a.Wait > 0 {
			words = fmt.Sprintf("%s comes at least %s after %s", t.Title, a.Wait.About(), from)
		}
		if a.Most > 0 {
			words += fmt.Sprintf(", finished at most %s after it", a.Most.About())
		}
		if a.Same {
			words += ", in the same session"
		}
		if dry := p.fluid[0]; a.Wait > 0 && dry.rate[len(dry.rate)-1] <= 0 {
			words += fmt.Sprintf(", and nothing dries below %.0f °C: warm the room", Coldest)
		}
		out.Reasons = append(out.Reasons, Reason{Build: o.Build, From: a.From, To: t.ID, Words: words})
	}
	return out
}

func (p *problem) hoursWords(class int) string {
	key, open := p.keys[class], &p.classes[class]
	what := "the hours of the " + string(key.place)
	if key.place == Bench {
		what = "your hours"
	}
	if key.spray {
		what += " with air to spray in"
	}
	if len(open.all) == 0 {
		return what + " leave no time in the next half year: add weekly hours"
	}
	return fmt.Sprintf("%s leave %d min at the longest", what, open.long)
}

// fail marks the tasks of a clash, and all that comes after them, as without a place.
func (p *problem) fail(c *clash, failed []map[int]string) {
	words := c.told(p).Words()
	mark := func(b, t int, why string) {
		if failed[b][t] == "" && p.first[b][t] >= 0 {
			failed[b][t] = why
		}
	}
	any := false
	for _, it := range c.items {
		if it.class >= 0 {
			continue
		}
		any = true
		mark(it.build, it.task, words)
		if it.arrow >= 0 {
			tasks := p.orders[it.build].Tasks
			from := tasks[it.task].After[it.arrow].From
			mark(it.build, indexOf(tasks, from), words)
		}
	}
	if !any { // only hours: whatever is to be done in them
		for _, it := range c.items {
			for i := range p.jobs {
				if int(p.jobs[i].class) == it.class {
					mark(int(p.jobs[i].build), int(p.jobs[i].task), words)
				}
			}
		}
	}
	for b, o := range p.orders {
		for again := true; again; {
			again = false
			for i := range o.Tasks {
				if failed[b][i] != "" || p.first[b][i] < 0 {
					continue
				}
				for _, a := range o.Tasks[i].After {
					k := indexOf(o.Tasks, a.From)
					if failed[b][k] != "" {
						failed[b][i], again = fmt.Sprintf("%s has no place, and this comes after it", o.Tasks[k].Title), true
						break
					}
				}
			}
		}
	}
}
