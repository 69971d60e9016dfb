package build

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"cinderpath/core/path"
	"cinderpath/core/strata"
)

// Evenings is the calendar of the workshop with the work of all builds in it.
type Evenings struct {
	AsOf     time.Time `json:"asOf"`
	Sessions []Sitting `json:"sessions"`
	Tonight  Tonight   `json:"tonight"`
	Gap      float64   `json:"gap"` // of the weighted ends to a bound that no plan can beat
	Proven   bool      `json:"proven"`
	Changes  int       `json:"changes"` // of colour at the airbrushes
	Nodes    int       `json:"nodes"`
	Why      Why       `json:"why"`

	Airbrushes []path.Airbrush `json:"airbrushes"` // as the log leaves them
	Timers     []Timer         `json:"timers"`     // of all builds: hands that spray one watch the window of another
}

// Sitting is one session with its lines.
type Sitting struct {
	path.Span
	Lines []Line `json:"lines"`
}

// Line is one thing done in a session.
type Line struct {
	Build   string      `json:"build"`
	Name    string      `json:"name"` // of the build
	Task    string      `json:"task"`
	Title   string      `json:"title"`
	Product string      `json:"product,omitempty"`
	Hex     string      `json:"hex,omitempty"`
	Room    string      `json:"room"`
	Stage   string      `json:"stage"`
	Status  path.Status `json:"status"`
	SetUp   *path.SetUp `json:"setUp,omitempty"` // this line is a flush or a strip
	Chain   bool        `json:"chain,omitempty"`
	Tail    time.Time   `json:"tail,omitzero"`   // the first that waits for it may begin
	Closes  time.Time   `json:"closes,omitzero"` // its window
	OneGo   bool        `json:"oneGo,omitempty"` // the colour is in the airbrush already
	Why     string      `json:"why,omitempty"`   // what set its place
	Sense   string      `json:"sense,omitempty"` // what its place is good for
	path.Span
}

// Tonight is the next session, with what to gather for it.
type Tonight struct {
	path.Span
	Words  string   `json:"words"`
	Lines  []Line   `json:"lines"`
	Jars   []string `json:"jars"`
	Tools  []string `json:"tools"`
	Prints []Print  `json:"prints"` // masks and templates
}

// Print is a sheet that a session needs.
type Print struct {
	Build string `json:"build"`
	Sheet string `json:"sheet"`
	Words string `json:"words"`
}

// Timer counts to an instant that a finished step leads to.
type Timer struct {
	Build string    `json:"build"`
	Name  string    `json:"name"` // of the build
	Task  string    `json:"task"`
	Title string    `json:"title"`
	Kind  string    `json:"kind"` // touch, next coat, handle, cured, opens, closes
	Words string    `json:"words"`
	From  time.Time `json:"from"`
	At    time.Time `json:"at"`
}

// timers are what runs at an instant: for each finished step, when it may be touched
// and when what follows it may begin or must be finished.
func timers(p Plan, asOf time.Time) []Timer {
	all := p.Steps
	out := []Timer{}
	index := map[string]int{}
	for i, s := range all {
		index[s.ID] = i
	}
	add := func(t Timer) {
		if t.At.After(asOf) && !slices.ContainsFunc(out, func(x Timer) bool { return x.Task == t.Task && x.Kind == t.Kind && x.At.Equal(t.At) }) {
			t.Build, t.Name = p.Build, p.Name
			out = append(out, t)
		}
	}
	for _, s := range all {
		if !s.Status.Done() {
			continue
		}
		if !s.touch.IsZero() {
			add(Timer{Task: s.ID, Title: s.Title, Kind: "touch", Words: "dry to the touch", From: s.End(), At: s.touch})
		}
	}
	for _, s := range all {
		if s.Status.Over() {
			continue
		}
		for k, a := range s.After {
			from, ok := index[a.From]
			if !ok || s.Waits[k] <= 0 || !all[from].Status.Done() {
				continue
			}
			end := all[from].End()
			kind, words := a.Kind, "then: "+s.Title
			if a.Most > 0 {
				kind, words = "opens", s.Title+" from then on"
			}
			add(Timer{Task: a.From, Title: all[from].Title, Kind: kind, Words: words, From: end, At: end.Add(time.Duration(s.Waits[k]) * time.Minute)})
		}
		if !s.Closes.IsZero() {
			for _, a := range s.After {
				if from, ok := index[a.From]; ok && a.Most > 0 && all[from].Status.Done() {
					add(Timer{Task: s.ID, Title: s.Title, Kind: "closes", Words: "must be finished", From: all[from].End(), At: s.Closes})
				}
			}
		}
	}
	slices.SortStableFunc(out, soonest)
	return out
}

func soonest(a, b Timer) int { return a.At.Compare(b.At) }

// evenings joins the schedule with what the steps say.
func evenings(brushes []path.Airbrush, plans []Plan, s path.Schedule, asOf time.Time) Evenings {
	out := Evenings{AsOf: asOf, Sessions: []Sitting{}, Gap: s.Gap, Proven: s.Proven, Changes: s.Changes, Nodes: s.Nodes, Airbrushes: append([]path.Airbrush{}, brushes...),
		Tonight: Tonight{Lines: []Line{}, Jars: []string{}, Tools: []string{}, Prints: []Print{}, Words: "Nothing is left to lay."},
		Why: because("least weighted end, then fewest changes of colour, then fewest sessions", []string{
			fmt.Sprintf("%d tasks placed in the search", s.Nodes),
			"bound: the longest chain laid on the calendar, and the hands' minutes against the sessions",
			fmt.Sprintf("the plan ends %.1f %% above what no plan can beat", 100*s.Gap)})}
	out.Timers = []Timer{}
	for _, p := range plans {
		out.Timers = append(out.Timers, p.Timers...)
	}
	slices.SortStableFunc(out.Timers, soonest)
	find := func(build, task string) (*Plan, *Step) {
		i := slices.IndexFunc(plans, func(p Plan) bool { return p.Build == build })
		k := slices.IndexFunc(plans[i].Steps, func(x Step) bool { return x.ID == task })
		return &plans[i], &plans[i].Steps[k]
	}
	paint := map[string]string{}
	for _, a := range brushes {
		paint[a.ID] = a.Paint
	}
	for _, session := range s.Sessions {
		sit := Sitting{Span: session.Span, Lines: []Line{}}
		for _, e := range session.Entries {
			plan, step := find(e.Build, e.Task)
			line := Line{Build: e.Build, Name: plan.Name, Task: e.Task, Title: step.Title, Product: step.Product, Hex: step.Hex, Room: step.Room, Stage: step.Stage, Status: step.Status,
				SetUp: e.SetUp, Chain: step.Chain, Why: step.Why, Span: e.Span}
			if e.SetUp != nil {
				name := e.SetUp.Airbrush
				if i := slices.IndexFunc(brushes, func(a path.Airbrush) bool { return a.ID == name }); i >= 0 {
					name = brushes[i].Name
				}
				line.Title, line.Why, line.Product, line.Hex, line.Chain = "Flush the "+name, e.SetUp.Why, "", "", false
				if e.SetUp.Strip {
					line.Title = "Strip and clean the " + name
				}
			} else {
				line.Tail, line.Closes = step.Tail, step.Closes
				if step.Airbrush != "" && step.Paint != "" {
					line.OneGo = paint[step.Airbrush] == step.Paint
					paint[step.Airbrush] = step.Paint
				}
			}
			line.Sense = sense(line, session.Span, step.Spans)
			sit.Lines = append(sit.Lines, line)
		}
		out.Sessions = append(out.Sessions, sit)
	}
	if len(out.Sessions) > 0 {
		out.Tonight = tonightOf(out.Sessions[0], plans, asOf)
	}
	return out
}

// sense says what a line's place in the session is good for: what dries meanwhile or
// overnight, and whether the end of the build hangs on it.
func sense(l Line, session path.Span, all []path.Span) string {
	if l.SetUp != nil {
		return ""
	}
	var words []string
	next := slices.IndexFunc(all, func(s path.Span) bool { return !s.From.Before(session.To) })
	switch {
	case next >= 0:
		words = append(words, "goes on "+all[next].From.Format("Mon 15:04"))
	case l.Tail.After(session.To):
		words = append(words, "dries until "+l.Tail.Format("Mon 15:04"))
	case l.Tail.After(l.To):
		words = append(words, "dries until "+l.Tail.Format("15:04")+" beside other work")
	}
	switch {
	case l.Chain:
		words = append(words, "the end hangs on it")
	case len(words) == 0:
		words = append(words, "nothing hangs on its hour")
	}
	return strings.Join(words, "; ")
}

// sheetsFor are the sheets that a kind of step needs on a part.
var sheetsFor = map[[2]string][2]string{
	{"fitgear", "gear"}:    {"track-jig", "track jig, 1:1"},
	{"assemble", "tracks"}: {"track-jig", "track jig, 1:1"},
	{"wheelmask", "tyres"}: {"wheel-masks", "wheel masks, 1:1"},
}

func tonightOf(sit Sitting, plans []Plan, asOf time.Time) Tonight {
	t := Tonight{Span: sit.Span, Lines: sit.Lines, Jars: []string{}, Tools: []string{}, Prints: []Print{}}
	names := map[string]bool{}
	put := func(list *[]string, x string) {
		if x != "" && !slices.Contains(*list, x) {
			*list = append(*list, x)
		}
	}
	steps := map[[2]string]bool{}
	for _, line := range sit.Lines {
		if line.SetUp != nil {
			continue
		}
		steps[[2]string{line.Build, line.Task}] = true
		names[line.Name] = true
		put(&t.Jars, line.Product)
		i := slices.IndexFunc(plans, func(p Plan) bool { return p.Build == line.Build })
		k := slices.IndexFunc(plans[i].Steps, func(s Step) bool { return s.ID == line.Task })
		step := plans[i].Steps[k]
		for _, tool := range step.Tools {
			put(&t.Tools, tool)
		}
		if s, ok := sheetsFor[[2]string{step.Kind, step.Part}]; ok && slices.Contains(plans[i].Sheets, s[0]) {
			t.Prints = append(t.Prints, Print{line.Build, s[0], s[1] + ", " + line.Name})
		}
	}
	when := "On " + sit.From.Format("Monday 2 January")
	if sit.From.Sub(asOf) < 24*time.Hour && sit.From.Day() == asOf.Day() {
		when = "Tonight"
		if sit.From.Hour() < 17 {
			when = "Today"
		}
	}
	count := len(steps)
	t.Words = fmt.Sprintf("%s, %s to %s: %d %s", when, sit.From.Format("15:04"), sit.To.Format("15:04"), count, plural(count, "step", "steps"))
	if len(names) > 1 {
		t.Words += fmt.Sprintf(" on %d builds", len(names))
	}
	return t
}

func plural(n int, one, many string) string {
	if n == 1 {
		return one
	}
	return many
}

// touchOf is when what a step put on is dry to the touch.
func touchOf(s Step, b Build, cal path.Calendar) time.Time {
	i := slices.IndexFunc(b.Layers, func(l strata.Layer) bool { return l.ID == s.Layer })
	if i < 0 || s.Kind != string(b.Layers[i].Kind) || len(s.Spans) == 0 {
		return time.Time{}
	}
	touch, _, _, _ := b.Layers[i].Times()
	rate := cal.Rate(b.Layers[i].Water())
	if touch <= 0 || rate <= 0 {
		return time.Time{}
	}
	return s.End().Add(time.Duration(touch/rate) * time.Minute)
}
