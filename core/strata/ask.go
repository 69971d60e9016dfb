package strata

import (
	"slices"

	"cinderpath/core/measure"
)

// StoryQuestion asks what a vehicle's life does to the amounts of techniques: to all of the table
// where none is named.
type StoryQuestion struct {
	Life       Life     `json:"life"`
	Scale      float64  `json:"scale,omitempty"` // N of 1:N; 0 where it does not matter
	Techniques []string `json:"techniques,omitempty"`
}

// StoryAmount is one of them.
type StoryAmount struct {
	Technique string  `json:"technique"`
	Name      string  `json:"name"`
	Share     bool    `json:"share"`   // the amounts are shares of 1, else µm
	Usual     float64 `json:"usual"`   // of the table
	Now       float64 `json:"now"`     // as the life has it
	Landing   string  `json:"landing"` // with its heights as the life has them
	Words     string  `json:"words"`
}

// StoryAnswer is all of them, with what does not go together.
type StoryAnswer struct {
	Amounts []StoryAmount `json:"amounts"`
	Doubts  []string      `json:"doubts"`
}

// AskStory answers.
func AskStory(q StoryQuestion) (StoryAnswer, error) {
	out := StoryAnswer{Amounts: []StoryAmount{}, Doubts: append([]string{}, q.Life.Contradictions(nil)...)}
	if err := q.Life.Check(); err != nil {
		return out, measure.Refuse("life", err.Error(), "use the table's words")
	}
	if !(q.Scale >= 0 && q.Scale <= 1000) {
		return out, measure.Refuse("scale", "no scale of a kit", "give N of 1:N, 1 to 1000")
	}
	for _, id := range q.Techniques {
		if _, ok := TechniqueOf(id); !ok {
			return out, measure.Refuse("techniques", id+" is not in the table", "use its ids")
		}
	}
	for _, t := range techniques() {
		if len(q.Techniques) > 0 && !slices.Contains(q.Techniques, t.ID) {
			continue
		}
		l := Layer{ID: t.ID, Name: t.Name, Kind: t.Kinds[0], Technique: t.ID, Lived: Lived{q.Life, q.Scale}}
		a, _ := l.Argue()
		how, _ := l.Worked()
		out.Amounts = append(out.Amounts, StoryAmount{t.ID, t.Name, t.Share, a.Usual, a.Now, how.Lands, a.Words})
	}
	return out, nil
}
