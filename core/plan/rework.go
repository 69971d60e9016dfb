package plan

import (
	"cmp"
	"fmt"

	"cinderpath/core/document"
	"cinderpath/core/path"
)

// ReworkLine is a change that the modeller made to the order, in words.
type ReworkLine struct {
	Task  string `json:"task"` // that takes it back
	Words string `json:"words"`
}

// reworkLines tells what was changed about the steps as they were generated.
func reworkLines(r document.Rework, tasks []path.Task) []ReworkLine {
	titles := map[string]string{}
	for _, t := range tasks {
		titles[t.ID] = t.Title
	}
	title := func(id string) string { return cmp.Or(titles[id], "a step that is there no more") }
	out := []ReworkLine{}
	for _, m := range r.Moved {
		out = append(out, ReworkLine{m.Task, fmt.Sprintf("%s after %s", title(m.Task), title(m.After))})
	}
	for _, c := range r.Split {
		out = append(out, ReworkLine{c.Task, fmt.Sprintf("%s: one step in %d", title(c.Task), c.Into)})
	}
	for _, m := range r.Merged {
		out = append(out, ReworkLine{m.Tasks[0], "merged: " + cmp.Or(m.Title, fmt.Sprintf("%d steps", len(m.Tasks)))})
	}
	for _, id := range r.Left {
		out = append(out, ReworkLine{id, "left out: " + title(id)})
	}
	for _, s := range r.Own {
		out = append(out, ReworkLine{s.ID, "yours: " + s.Title})
	}
	return out
}
