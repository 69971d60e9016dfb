package plan

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"cinderpath/core/measure"
	"cinderpath/core/path"
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
	// Provisional tells that the schedule was mended or found at once and a better one is being looked for
	Provisional bool `json:"provisional,omitempty"`

	Why measure.Why `json:"why"`

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

// evenings joins the schedule with what the steps say.
func evenings(brushes []path.Airbrush, plans []Plan, s path.Schedule, asOf time.Time) Evenings {
	out := Evenings{
		AsOf:       asOf,
		Sessions:   []Sitting{},
		Gap:        s.Gap,
		Proven:     s.Proven,
		Changes:    s.Changes,
		Nodes:      s.Nodes,
		Airbrushes: append([]path.Airbrush{}, brushes...),
		Tonight: Tonight{
			Lines:  []Line{},
			Jars:   []string{},
			Tools:  []string{},
			Prints: []Print{},
			Words:  "Nothing is left to lay.",
		},
		Why: measure.Because("least weighted end, then fewest changes of colour, then fewest sessions", []string{
			fmt.Sprintf("%d tasks placed in the search", s.Nodes),
			"bound: the longest chain laid on the calendar, and the hands' minutes against the sessions",
			"and the ends of all builds together: where one ends early, its work is in the way of the others",
			fmt.Sprintf("the plan ends %.1f %% above what no plan can beat", 100*s.Gap)}),
	}
	out.Timers = []Timer{}
	for _, p := range plans {
		out.Timers = append(out.Timers, p.Timers...)
	}
	slices.SortStableFunc(out.Timers, soonest)
	find := finder(plans)
	paint := map[string]string{}
	for _, a := range brushes {
		paint[a.ID] = a.Paint
	}
	for _, session := range s.Sessions {
		sit := Sitting{Span: session.Span, Lines: []Line{}}
		for _, e := range session.Entries {
			plan, step := find(e.Build, e.Task)
			line := Line{
				Build:   e.Build,
				Name:    plan.Name,
				Task:    e.Task,
				Title:   step.Title,
				Product: step.Product,
				Hex:     step.Hex,
				Room:    step.Room,
				Stage:   step.Stage,
				Status:  step.Status,
				SetUp:   e.SetUp,
				Chain:   step.Chain,
				Why:     step.Why,
				Span:    e.Span,
			}
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
			line.Sense = sense(line, session.Span, step.Spans, filled(sit, line))
			sit.Lines = append(sit.Lines, line)
		}
		out.Sessions = append(out.Sessions, sit)
	}
	if len(out.Sessions) > 0 {
		out.Tonight = tonightOf(out.Sessions[0], find, asOf)
	}
	return out
}

// finder finds steps by build and task.
func finder(plans []Plan) func(build, task string) (*Plan, *Step) {
	builds, tasks := map[string]int{}, make([]map[string]int, len(plans))
	for i, p := range plans {
		builds[p.Build], tasks[i] = i, make(map[string]int, len(p.Steps))
		for k := range p.Steps {
			tasks[i][p.Steps[k].ID] = k
		}
	}
	return func(build, task string) (*Plan, *Step) {
		i := builds[build]
		return &plans[i], &plans[i].Steps[tasks[i][task]]
	}
}

// sense says what a line's place in the session is good for: what dries meanwhile or
// overnight, and whether the end of the build hangs on it.
func sense(l Line, session path.Span, all []path.Span, fills string) string {
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
	if fills != "" {
		words = append(words, "fits into the wait after "+fills)
	}
	switch {
	case l.Chain:
		words = append(words, "the end hangs on it")
	case len(words) == 0:
		words = append(words, "nothing hangs on its hour")
	}
	return strings.Join(words, "; ")
}

// filled is B10: the step of the same session in whose wait a line fits, wholly, and which ends in that session,
// so that one goes on with what it holds up; nothing where there is none.
func filled(sit Sitting, l Line) string {
	if l.SetUp != nil {
		return ""
	}
	for _, k := range slices.Backward(sit.Lines) {
		if k.SetUp == nil && !k.To.After(l.From) && !l.To.After(k.Tail) && !k.Tail.After(sit.To) {
			return lower(k.Title)
		}
	}
	return ""
}
