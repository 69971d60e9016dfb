package build

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"cinderpath/core/bench"
	"cinderpath/core/path"
	"cinderpath/core/strata"
)

// Rework is what the modeller changed about the generated order.
type Rework struct {
	Own    []OwnStep `json:"own,omitempty"`
	Split  []Cut     `json:"split,omitempty"`
	Merged []Merge   `json:"merged,omitempty"`
	Moved  []Move    `json:"moved,omitempty"`
	Left   []string  `json:"left,omitempty"`  // tasks that are not done at all
	Meant  []Meant   `json:"meant,omitempty"` // advice that was overruled
}

// OwnStep is a step of the modeller's own, of a kind of the library.
type OwnStep struct {
	ID      string  `json:"id"`
	Kind    string  `json:"kind"`
	Title   string  `json:"title"`
	Minutes float64 `json:"minutes"`         // 0: as the library has it for its kind, area or count
	After   string  `json:"after,omitempty"` // task
	Before  string  `json:"before,omitempty"`
	Wait    float64 `json:"waitMin,omitempty"` // after After, at 20 °C and 50 % humidity
	Place   string  `json:"place,omitempty"`

	Zones  []string `json:"zones,omitempty"`  // where it is done; the whole vehicle when empty
	Count  float64  `json:"count,omitempty"`  // pieces, or cm of seam on the model, where its kind goes by these
	Family string   `json:"family,omitempty"` // of the product, whose times the step before which it stands waits for
}

// layer is the step as a layer of its product, to read its times from.
func (s OwnStep) layer() strata.Layer {
	l := strata.Layer{ID: "own:" + s.ID, Name: s.Title, Kind: strata.Kind(s.Kind), Family: s.Family, Zones: s.Zones, Applied: strata.Brushed, Coats: 1}
	if cmpOr(s.Place, bench.KindOf(s.Kind).Place) != path.Bench {
		l.Applied = strata.Misted
	}
	return l
}

// measured is how long a step of one's own takes, in minutes, what that follows from, and
// its area on the model in cm².
type measured func(OwnStep) (minutes, area float64, why []string)

// paced measures by the library: by area, count or length, with what the log taught.
func paced(l Surface, own map[string]bench.Learned) measured {
	return func(s OwnStep) (float64, float64, []string) {
		kind := bench.KindOf(s.Kind)
		area := layerArea(l, s.layer())
		if s.Minutes > 0 {
			return s.Minutes, area, []string{"typed by you"}
		}
		units := math.Max(s.Count, 1)
		if kind.Unit == "cm2" {
			units = area
		}
		minutes, inputs := kind.Minutes(units, 1)
		minutes, more := own[kind.ID].Apply(minutes)
		return math.Max(minutes, 1), area, append(inputs, more...)
	}
}

// Cut parts a task into so many that follow each other.
type Cut struct {
	Task string `json:"task"`
	Into int    `json:"into"`
}

// Merge makes one task of several.
type Merge struct {
	Tasks []string `json:"tasks"`
	Title string   `json:"title"`
}

// Move puts a task after another.
type Move struct {
	Task  string `json:"task"`
	After string `json:"after"`
}

// Meant is an arrow of advice that the modeller overruled.
type Meant struct {
	From   string `json:"from"`
	To     string `json:"to"`
	Rule   string `json:"rule"`
	Reason string `json:"reason"`
}

// Limits of what may be changed by hand.
const (
	mostRework  = 200
	mostCuts    = 12
	longestStep = 3000.0 // minutes
	mostPieces  = 2000
)

func isFamily(family string) bool {
	_, ok := strata.FamilyOf(family)
	return ok
}

func (r Rework) check() error {
	if len(r.Own)+len(r.Split)+len(r.Merged)+len(r.Moved)+len(r.Left) > mostRework {
		return refuse("order", fmt.Sprintf("more than %d changes to the order", mostRework), "take some back")
	}
	seen := map[string]bool{}
	for _, s := range r.Own {
		switch {
		case s.ID == "" || strings.TrimSpace(s.Title) == "" || len(s.Title) > longName:
			return refuse("order.title", "a step of your own has no name, or a very long one", "say in a few words what is done")
		case seen[s.ID]:
			return refuse("order.id", "two steps of your own have one id", "give each its own")
		case !(s.Minutes >= 0 && s.Minutes <= longestStep):
			return refuse("order.minutes", fmt.Sprintf("%s takes %.0f min", s.Title, s.Minutes), fmt.Sprintf("give 1 to %.0f, or nothing to have it from the library", longestStep))
		case s.Minutes == 0 && (s.Kind == "" || bench.KindOf(s.Kind).ID == "own"):
			return refuse("order.minutes", s.Title+" is of no kind that the library knows the time of", "say how many minutes it takes, or choose its kind")
		case !(s.Count >= 0 && s.Count <= mostPieces):
			return refuse("order.count", fmt.Sprintf("%s is done to %g pieces", s.Title, s.Count), fmt.Sprintf("give 1 to %d", mostPieces))
		case s.Family != "" && !isFamily(s.Family):
			return refuse("order.family", fmt.Sprintf("%q is not a family of products", s.Family), "choose one of the table")
		case !(s.Wait >= 0 && s.Wait <= 60*24*60):
			return refuse("order.wait", fmt.Sprintf("%s waits %.0f min", s.Title, s.Wait), "give 0 to 60 days")
		case s.Place != "" && !slices.Contains(path.Places, s.Place):
			return refuse("order.place", fmt.Sprintf("%q is not a place of work", s.Place), "use "+strings.Join(path.Places, ", "))
		}
		seen[s.ID] = true
	}
	for _, c := range r.Split {
		if c.Into < 2 || c.Into > mostCuts {
			return refuse("order.into", fmt.Sprintf("a step in %d", c.Into), fmt.Sprintf("give 2 to %d", mostCuts))
		}
	}
	return nil
}

// apply makes the changes on generated tasks. What speaks of tasks that are no longer
// there is passed over, so that an edit elsewhere does not undo them for good.
func reworked(r Rework, tasks []path.Task, why map[string][]string, pace measured) []path.Task {
	out := slices.Clone(tasks)
	at := func(id string) int { return slices.IndexFunc(out, func(t path.Task) bool { return t.ID == id }) }
	overrule := func() {
		for _, m := range r.Meant {
			if i := at(m.To); i >= 0 {
				out[i].After = slices.DeleteFunc(slices.Clone(out[i].After), func(a path.Arrow) bool {
					return a.From == m.From && a.Rule == m.Rule && a.Severity != "stop"
				})
			}
		}
	}
	overrule()
	// A step of one's own may stand beside one that is split or merged: what is not there
	// yet is looked for again afterwards.
	var later []OwnStep
	tie := func(s OwnStep) OwnStep {
		own := "own:" + s.ID + ":1"
		if i := at(s.After); i >= 0 {
			k := at(own)
			out[k].After = append(slices.Clone(out[k].After), path.Arrow{From: s.After, Wait: s.Wait, Kind: "yours", Reason: "your own order"})
			s.After = ""
		}
		if i := at(s.Before); i >= 0 && !precedes(out, s.Before, own) {
			a := path.Arrow{From: own, Kind: "yours", Reason: "your own order"}
			if s.Family != "" {
				l := s.layer()
				_, a.Wait, _, _ = l.Times()
				a.Water, a.Kind, a.Reason = l.Water(), "next coat", "your own order: "+strings.ToLower(s.Title)+" must take what comes next"
			}
			out[i].After = append(slices.Clone(out[i].After), a)
			s.Before = ""
		}
		return s
	}
	for _, s := range r.Own {
		k := bench.KindOf(s.Kind)
		stage := k.Stage
		if i := at(s.After); i >= 0 && (s.Kind == "own" || s.Kind == "") {
			stage = out[i].Stage
		}
		t := path.Task{ID: "own:" + s.ID + ":1", Title: s.Title, Stage: stage, Kind: cmpOr(s.Kind, "own"), Split: k.Split, Place: cmpOr(s.Place, k.Place), Zones: s.Zones}
		t.Spray, t.Own = s.Family != "" && s.layer().Applied == strata.Misted, s.ID
		t.Minutes, t.AreaCM, why[t.ID] = pace(s)
		out = append(out, t)
		if s = tie(s); s.After != "" || s.Before != "" {
			later = append(later, s)
		}
	}
	// Parts may be merged, and what was merged split.
	split, merge := slices.Clone(r.Split), slices.Clone(r.Merged)
	for done := true; done; {
		done = false
		split = slices.DeleteFunc(split, func(c Cut) bool {
			i := at(c.Task)
			if i >= 0 {
				out, done = cut(out, i, c.Into, why), true
			}
			return i >= 0
		})
		merge = slices.DeleteFunc(merge, func(m Merge) bool {
			there := !slices.ContainsFunc(m.Tasks, func(id string) bool { return at(id) < 0 })
			if there {
				out, done = merged(out, m, why), true
			}
			return there
		})
	}
	for _, s := range later {
		if at("own:"+s.ID+":1") >= 0 {
			tie(s)
		}
	}
	for _, id := range r.Left {
		if i := at(id); i >= 0 {
			out = without(out, i)
		}
	}
	overrule() // advice about steps that were split or merged, or that came by those left out
	for _, m := range r.Moved {
		if i := at(m.Task); i >= 0 && at(m.After) >= 0 && !precedes(out, m.Task, m.After) {
			out[i].After = append(slices.Clone(out[i].After), path.Arrow{From: m.After, Kind: "yours", Reason: "you moved it after " + out[at(m.After)].Title})
		}
	}
	return sorted(out)
}

// cut parts a task into pieces with names that survive: wash.pin:turret:1.2 of 3.
func cut(tasks []path.Task, i, into int, why map[string][]string) []path.Task {
	whole := tasks[i]
	var parts []path.Task
	for k := 1; k <= into; k++ {
		t := whole
		t.ID, t.Title = fmt.Sprintf("%s.%d", whole.ID, k), fmt.Sprintf("%s, part %d of %d", whole.Title, k, into)
		t.Minutes, t.AreaCM, t.From = math.Ceil(whole.Minutes/float64(into)), whole.AreaCM/float64(into), []string{whole.ID}
		why[t.ID] = append(slices.Clone(why[whole.ID]), fmt.Sprintf("a part of %d", into))
		if k > 1 {
			t.After = []path.Arrow{{From: parts[k-2].ID, Kind: "order", Reason: "the part before it"}}
		}
		parts = append(parts, t)
	}
	out := slices.Replace(slices.Clone(tasks), i, i+1, parts...)
	return renamed(out, whole.ID, parts[into-1].ID)
}

// renamed makes arrows from one task come from another.
func renamed(tasks []path.Task, from, to string) []path.Task {
	for i := range tasks {
		tasks[i].After = slices.Clone(tasks[i].After)
		for k := range tasks[i].After {
			if tasks[i].After[k].From == from {
				tasks[i].After[k].From = to
			}
		}
	}
	return tasks
}

// merged makes one task of several, if all are there and none must come between.
func merged(tasks []path.Task, m Merge, why map[string][]string) []path.Task {
	var list []path.Task
	for _, id := range m.Tasks {
		i := slices.IndexFunc(tasks, func(t path.Task) bool { return t.ID == id })
		if i < 0 {
			return tasks
		}
		list = append(list, tasks[i])
	}
	if len(list) < 2 || between(tasks, m.Tasks) != "" || apart(list) != "" {
		return tasks
	}
	one := list[0]
	one.Title, one.From, one.After = cmpOr(m.Title, one.Title+" and "+strings.ToLower(list[1].Title)), m.Tasks, nil
	one.Minutes, one.AreaCM = 0, 0
	one.ID = list[0].ID + "+"
	for _, t := range list {
		one.Minutes += t.Minutes
		one.AreaCM += t.AreaCM
		one.Split = one.Split && t.Split
		if t.NotFrom.After(one.NotFrom) {
			one.NotFrom = t.NotFrom
		}
		for _, a := range t.After {
			if !slices.Contains(m.Tasks, a.From) {
				one.After = append(one.After, a)
			}
		}
	}
	why[one.ID] = []string{fmt.Sprintf("%d steps in one", len(list))}
	out := slices.Clone(tasks)
	out[slices.IndexFunc(out, func(t path.Task) bool { return t.ID == list[0].ID })] = one
	out = slices.DeleteFunc(out, func(t path.Task) bool { return slices.Contains(m.Tasks[1:], t.ID) })
	for _, id := range m.Tasks {
		out = renamed(out, id, one.ID)
	}
	return out
}

// apart says why steps cannot be done as one, wherever they stand in the order.
func apart(list []path.Task) string {
	for i, t := range list {
		switch first := list[0]; {
		case slices.ContainsFunc(list[:i], func(x path.Task) bool { return x.ID == t.ID }):
			return t.Title + " is chosen twice"
		case t.Place != first.Place:
			return fmt.Sprintf("%s is done at the %s, %s at the %s", first.Title, cmpOr(first.Place, path.Bench), strings.ToLower(t.Title), cmpOr(t.Place, path.Bench))
		case t.Airbrush != first.Airbrush || t.Paint != first.Paint:
			return fmt.Sprintf("%s and %s are not sprayed with the same paint from the same airbrush", first.Title, strings.ToLower(t.Title))
		}
	}
	return ""
}

// between names a task that must come after one of some and before another of them.
func between(tasks []path.Task, ids []string) string {
	for _, t := range tasks {
		if slices.Contains(ids, t.ID) {
			continue
		}
		after, before := false, false
		for _, id := range ids {
			after = after || precedes(tasks, id, t.ID)
			before = before || precedes(tasks, t.ID, id)
		}
		if after && before {
			return t.Title
		}
	}
	return ""
}

// without takes a task out; what came before it now comes before what came after it.
func without(tasks []path.Task, i int) []path.Task {
	gone := tasks[i]
	out := slices.Delete(slices.Clone(tasks), i, i+1)
	for k := range out {
		var after []path.Arrow
		for _, a := range out[k].After {
			if a.From != gone.ID {
				after = append(after, a)
				continue
			}
			for _, b := range gone.After {
				b.Most, b.Same = 0, false
				after = append(after, b)
			}
		}
		out[k].After = after
	}
	return out
}

// precedes tells whether one task must come before another.
func precedes(tasks []path.Task, from, to string) bool { return len(way(tasks, from, to, "")) > 0 }

// step of a way through the order: an arrow and the task it leads to.
type wayStep struct {
	to string
	path.Arrow
}

// way finds arrows that lead from one task to another; only those that are not mere
// advice when kind is "firm".
func way(tasks []path.Task, from, to, kind string) []wayStep {
	next := map[string][]wayStep{}
	for _, t := range tasks {
		for _, a := range t.After {
			if kind == "firm" && isAdvice(a) {
				continue
			}
			next[a.From] = append(next[a.From], wayStep{t.ID, a})
		}
	}
	came := map[string]wayStep{}
	seen := map[string]bool{from: true}
	queue := []string{from}
	for len(queue) > 0 {
		id := queue[0]
		queue = queue[1:]
		if id == to && from != to {
			var out []wayStep
			for id != from {
				s := came[id]
				out = append([]wayStep{s}, out...)
				id = s.From
			}
			return out
		}
		for _, s := range next[id] {
			if !seen[s.to] {
				seen[s.to], came[s.to] = true, s
				queue = append(queue, s.to)
			}
		}
	}
	return nil
}

func isAdvice(a path.Arrow) bool { return a.Severity == "warn" || a.Severity == "hint" }

// yielding drops advice that goes round in a circle with what is firm: a clear part that
// is forced on cannot be the last and come before the dust. What asks for clear parts to
// go last gives way before other advice; they can be masked.
func yielding(tasks []path.Task) []path.Task {
	for round(tasks) {
		task, arrow := -1, -1
		for i, t := range tasks {
			for k, a := range t.After {
				if isAdvice(a) && precedes(tasks, t.ID, a.From) && (task < 0 || a.Rule == "B11" || tasks[task].After[arrow].Rule != "B11") {
					task, arrow = i, k
				}
			}
		}
		if task < 0 {
			return tasks // what is firm contradicts itself: the scheduler tells it
		}
		tasks[task].After = slices.Delete(slices.Clone(tasks[task].After), arrow, arrow+1)
	}
	return tasks
}

// round tells whether some tasks come after each other in a circle.
func round(tasks []path.Task) bool {
	at := map[string]int{}
	for i, t := range sorted(tasks) {
		at[t.ID] = i
	}
	return slices.ContainsFunc(tasks, func(t path.Task) bool {
		return slices.ContainsFunc(t.After, func(a path.Arrow) bool { from, ok := at[a.From]; return ok && from >= at[t.ID] })
	})
}

// sorted brings tasks into a working order that stays as close to theirs as it can.
func sorted(tasks []path.Task) []path.Task {
	index := map[string]int{}
	for i, t := range tasks {
		index[t.ID] = i
	}
	out := make([]path.Task, 0, len(tasks))
	state := make([]int, len(tasks))
	var visit func(i int)
	visit = func(i int) {
		if state[i] != 0 {
			return
		}
		state[i] = 1
		var first []int
		for _, a := range tasks[i].After {
			if k, ok := index[a.From]; ok {
				first = append(first, k)
			}
		}
		slices.Sort(first)
		for _, k := range first {
			visit(k)
		}
		out = append(out, tasks[i])
	}
	for i := range tasks {
		visit(i)
	}
	return out
}

// OrderEdit is one change to the order.
type OrderEdit struct {
	Do    string   `json:"do"` // add, split, merge, move, leave, or undo one of these by its id
	Task  string   `json:"task,omitempty"`
	Tasks []string `json:"tasks,omitempty"`
	After string   `json:"after,omitempty"`
	Into  int      `json:"into,omitempty"`
	Title string   `json:"title,omitempty"`
	Step  *OwnStep `json:"step,omitempty"`
}

// OrderMend is a change that gets round a refusal.
type OrderMend struct {
	Label string `json:"label"`
	Edits []Edit `json:"edits"`
}

// Refusal is a fault that a rule of the trade makes, with ways round it.
type Refusal struct {
	Fault
	Rule  string
	Mends []OrderMend
}

func (r *Refusal) Error() string { return r.Fault.Error() }

// Unwrap gives the fault.
func (r *Refusal) Unwrap() error { return &r.Fault }

// reorder makes a change to the order, against the tasks as they stand.
func reorder(r Rework, e OrderEdit, tasks []path.Task, newID func() string) (Rework, error) {
	find := func(id string) int { return slices.IndexFunc(tasks, func(t path.Task) bool { return t.ID == id }) }
	title := func(id string) string {
		if i := find(id); i >= 0 {
			return tasks[i].Title
		}
		return id
	}
	known := func(id string) error {
		if find(id) >= 0 {
			return nil
		}
		return refuse("order.task", fmt.Sprintf("there is no step %q now", id), "look at the steps again")
	}
	switch e.Do {
	case "add":
		if e.Step == nil {
			return r, refuse("order.step", "nothing is to be added", "say what is done")
		}
		s := *e.Step
		if s.ID == "" {
			s.ID = newID()
		}
		for _, id := range []string{s.After, s.Before} {
			if id != "" {
				if err := known(id); err != nil {
					return r, err
				}
			}
		}
		if s.After != "" && s.Before != "" && (s.After == s.Before || precedes(tasks, s.Before, s.After)) {
			return r, refuse("order.before", fmt.Sprintf("%s comes before %s", title(s.Before), title(s.After)), "a step between them goes after the one and before the other")
		}
		r.Own = append(slices.Clone(r.Own), s)
	case "split":
		if err := known(e.Task); err != nil {
			return r, err
		}
		r.Split = append(slices.Clone(r.Split), Cut{e.Task, e.Into})
	case "merge":
		var list []path.Task
		for _, id := range e.Tasks {
			if err := known(id); err != nil {
				return r, err
			}
			list = append(list, tasks[find(id)])
		}
		if len(e.Tasks) < 2 {
			return r, refuse("order.tasks", "one step cannot be merged", "choose two or more")
		}
		if reason := apart(list); reason != "" {
			return r, refuse("order.tasks", reason, "choose steps that can be done in one go")
		}
		if t := between(tasks, e.Tasks); t != "" {
			return r, refuse("order.tasks", t+" must come between them", "merge steps that follow each other")
		}
		r.Merged = append(slices.Clone(r.Merged), Merge{e.Tasks, e.Title})
	case "move":
		for _, id := range []string{e.Task, e.After} {
			if err := known(id); err != nil {
				return r, err
			}
		}
		if e.Task == e.After {
			return r, refuse("order.after", "a step cannot come after itself", "choose another")
		}
		return moved(r, e, tasks, title)
	case "leave":
		if err := known(e.Task); err != nil {
			return r, err
		}
		r.Left = append(slices.Clone(r.Left), e.Task)
	case "undo":
		return undone(r, e.Task, tasks)
	default:
		return r, refuse("order.do", fmt.Sprintf("%q is not a change to the order", e.Do), "use add, split, merge, move, leave or undo")
	}
	return r, r.check()
}

// chemistry are the rules that hold for those who keep no strict order, too.
var chemistry = []string{"P1", "P3", "P4", "M3", "W1", "W3", "F2"}

// softened makes advice of all rules but those: the order is kept no stricter.
func softened(tasks []path.Task) []path.Task {
	for i := range tasks {
		tasks[i].After = slices.Clone(tasks[i].After)
		for k := range tasks[i].After {
			if a := &tasks[i].After[k]; a.Severity == "stop" && !slices.Contains(chemistry, a.Rule) {
				a.Severity = "warn"
			}
		}
	}
	return tasks
}

// moved puts a task after another. What stands against it as a stop is told; advice is
// overruled and remembered.
func moved(r Rework, e OrderEdit, tasks []path.Task, title func(string) string) (Rework, error) {
	left := slices.Clone(tasks)
	if firm := way(left, e.Task, e.After, "firm"); len(firm) > 0 {
		// The rule that tells most is the one at the step it cannot come after.
		at := firm[len(firm)-1]
		for k := 0; k < len(firm) && at.Rule == ""; k++ {
			at = firm[k]
		}
		return r, &Refusal{Fault: Fault{Field: "order", Reason: fmt.Sprintf("%s cannot come after %s: %s", title(e.Task), title(e.After), at.Reason),
			Remedy: fmt.Sprintf("%s comes after %s; leave one of them out, or keep the order", title(at.to), title(at.From))}, Rule: at.Rule,
			Mends: []OrderMend{
				{"Leave out: " + title(at.From), []Edit{{Op: SetOrder, Order: &OrderEdit{Do: "leave", Task: at.From}}}},
				{"Leave out: " + title(at.to), []Edit{{Op: SetOrder, Order: &OrderEdit{Do: "leave", Task: at.to}}}},
			}}
	}
	r.Meant = slices.Clone(r.Meant)
	for {
		steps := way(left, e.Task, e.After, "")
		if len(steps) == 0 {
			break
		}
		k := slices.IndexFunc(steps, func(s wayStep) bool { return isAdvice(s.Arrow) })
		s := steps[k]
		r.Meant = append(r.Meant, Meant{From: s.From, To: s.to, Rule: s.Rule, Reason: s.Reason})
		i := slices.IndexFunc(left, func(t path.Task) bool { return t.ID == s.to })
		left[i].After = slices.DeleteFunc(slices.Clone(left[i].After), func(a path.Arrow) bool { return a.From == s.From && a.Rule == s.Rule })
	}
	r.Moved = append(slices.Clone(r.Moved), Move{e.Task, e.After})
	return r, r.check()
}

// undone takes back what was changed about a task.
func undone(r Rework, task string, tasks []path.Task) (Rework, error) {
	n := len(r.Own) + len(r.Split) + len(r.Merged) + len(r.Moved) + len(r.Left)
	var t path.Task // nothing where it is left out
	if i := slices.IndexFunc(tasks, func(t path.Task) bool { return t.ID == task }); i >= 0 {
		t = tasks[i]
	}
	r.Own = slices.DeleteFunc(slices.Clone(r.Own), func(s OwnStep) bool { return s.ID == task || s.ID == t.Own })
	r.Split = slices.DeleteFunc(slices.Clone(r.Split), func(c Cut) bool { return c.Task == task || slices.Contains(t.From, c.Task) })
	r.Merged = slices.DeleteFunc(slices.Clone(r.Merged), func(m Merge) bool { return slices.Contains(m.Tasks, task) || slices.Equal(m.Tasks, t.From) })
	r.Moved = slices.DeleteFunc(slices.Clone(r.Moved), func(m Move) bool { return m.Task == task })
	r.Left = slices.DeleteFunc(slices.Clone(r.Left), func(id string) bool { return id == task })
	r.Meant = slices.DeleteFunc(slices.Clone(r.Meant), func(m Meant) bool { return m.From == task || m.To == task })
	if len(r.Own)+len(r.Split)+len(r.Merged)+len(r.Moved)+len(r.Left) == n {
		return r, refuse("order.task", "nothing of that step was changed", "choose a step that you moved, split, merged, added or left out")
	}
	return r, nil
}
