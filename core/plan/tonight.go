package plan

import (
	"fmt"
	"slices"
	"time"

	"cinderpath/core/path"
)

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

// sheetsFor are the sheets that a kind of step needs on a part.
var sheetsFor = map[[2]string][2]string{
	{"board", "own"}:       {"base", "board and its drill holes, 1:1"},
	{"fitgear", "gear"}:    {"track-jig", "track jig, 1:1"},
	{"assemble", "tracks"}: {"track-jig", "track jig, 1:1"},
	{"wheelmask", "tyres"}: {"wheel-masks", "wheel masks, 1:1"},
}

func tonightOf(sit Sitting, find func(build, task string) (*Plan, *Step), asOf time.Time) Tonight {
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
		plan, step := find(line.Build, line.Task)
		for _, tool := range step.Tools {
			put(&t.Tools, tool)
		}
		if s, ok := sheetsFor[[2]string{step.Kind, step.Part}]; ok && slices.Contains(plan.Sheets, s[0]) {
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
	t.Words = fmt.Sprintf(
		"%s, %s to %s: %d %s",
		when,
		sit.From.Format("15:04"),
		sit.To.Format("15:04"),
		count,
		plural(count, "step", "steps"),
	)
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
