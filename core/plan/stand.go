package plan

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"cinderpath/core/bench"
	"cinderpath/core/path"
)

// Stand says where a build stands and what to do next.
type Stand struct {
	Done    int      `json:"done"`
	Total   int      `json:"total"`
	Stage   string   `json:"stage"`
	Next    string   `json:"next,omitempty"` // id of the step to take up next
	Act     string   `json:"act"`            // in words: when, what, how long
	Why     string   `json:"why,omitempty"`  // what set its place
	Tonight []string `json:"tonight"`        // steps of the next session
	Session string   `json:"session,omitempty"`
	Ends    string   `json:"ends,omitempty"` // when the last step is laid
	Waiting []string `json:"waiting"`        // steps that dry now
}

const clockFace = "Mon 2 Jan 15:04"

// stand fills in where the build stands, from its steps.
func (p *Plan) stand(asOf time.Time) {
	s := Stand{Total: len(p.Steps), Tonight: []string{}, Waiting: []string{}}
	next := -1
	var ends time.Time
	for i, step := range p.Steps {
		switch step.Status {
		case path.IsDone, path.IsSkipped:
			s.Done++
			continue
		case path.IsDrying:
			s.Done++
			s.Waiting = append(s.Waiting, step.ID)
			continue
		}
		if end := step.End(); end.After(ends) {
			ends = end
		}
		if len(step.Spans) == 0 {
			continue
		}
		if next < 0 || step.Status == path.IsNow ||
			(p.Steps[next].Status != path.IsNow && step.Spans[0].From.Before(p.Steps[next].Spans[0].From)) {
			next = i
		}
	}
	if !ends.IsZero() {
		s.Ends = ends.Format(clockFace)
	}
	switch {
	case s.Done == s.Total:
		s.Stage, s.Act = bench.Finish, "Finished: every step is done."
	case next < 0:
		open := slices.IndexFunc(p.Steps, func(x Step) bool { return x.Failed != "" })
		if open < 0 {
			s.Stage, s.Act = bench.Finish, "Nothing is left to lay."
			break
		}
		s.Stage, s.Act = p.Steps[open].Stage, p.Steps[open].Title+" has no place: "+p.Steps[open].Failed+"."
	default:
		n := p.Steps[next]
		s.Next, s.Stage = n.ID, n.Stage
		s.Act, s.Why = act(n, asOf), n.Why
		s.Session = n.Spans[0].From.Format(clockFace)
		s.Tonight = tonight(p.Steps, n.Spans[0].From)
	}
	p.Stand = s
}

// act says the next act as one would say it: "Tonight 20:20: chips, 51 min".
func act(n Step, asOf time.Time) string {
	what := fmt.Sprintf("%s, %.0f min", lower(n.Title), n.Minutes)
	switch from := n.Spans[0].From; {
	case n.Status == path.IsNow:
		return "Under way: " + what
	case !from.After(asOf):
		return "Now: " + what
	default:
		at := when(from, asOf)
		return strings.ToUpper(at[:1]) + at[1:] + ": " + what
	}
}

// tonight lists the steps of the day that the next one falls on.
func tonight(steps []Step, from time.Time) []string {
	type at struct {
		id   string
		from time.Time
	}
	var list []at
	for _, s := range steps {
		if s.Status.Over() {
			continue
		}
		for _, span := range s.Spans {
			if span.From.YearDay() == from.YearDay() && span.From.Year() == from.Year() {
				list = append(list, at{s.ID, span.From})
				break
			}
		}
	}
	slices.SortStableFunc(list, func(a, b at) int { return a.from.Compare(b.from) })
	out := make([]string, len(list))
	for i, a := range list {
		out[i] = a.id
	}
	return out
}

// lower is a title within a sentence.
func lower(title string) string {
	if title == "" {
		return title
	}
	return strings.ToLower(title[:1]) + title[1:]
}
