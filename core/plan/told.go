package plan

import (
	"context"
	"slices"
	"strings"
	"time"

	"cinderpath/core/document"
	"cinderpath/core/measure"
	"cinderpath/core/strata"
	"cinderpath/core/unit"
)

// Told is a build as it would be had it lived otherwise; nothing is written.
type Told struct {
	Look    string          `json:"look"`   // names what it looks like at the end
	Minutes unit.Minutes    `json:"min"`    // of all its steps
	More    unit.Minutes    `json:"more"`   // than as it is told now
	Argued  []strata.Argued `json:"argued"` // amounts that are other than now
	Doubts  []string        `json:"doubts"`
}

// TellOtherwise derives a build of a workshop with another life.
func (d *Deriver) TellOtherwise(
	ctx context.Context,
	w document.Workshop,
	items []document.Item,
	id string,
	life strata.Life,
	asOf time.Time,
) (Told, error) {
	at := slices.IndexFunc(items, func(i document.Item) bool { return i.Build.ID == id })
	if at < 0 {
		return Told{}, measure.Refuse("id", "there is no such build", "choose one of the workshop")
	}
	if err := life.Check(); err != nil {
		return Told{}, measure.Refuse("life", err.Error(), "use the table's words")
	}
	others := slices.Clone(items)
	b := others[at].Build
	b.Life = life
	others[at] = others[at].With(b)
	now, err := d.For(ctx, w, items, asOf)
	if err != nil {
		return Told{}, err
	}
	all, err := d.For(ctx, w, others, asOf)
	if err != nil {
		return Told{}, err
	}
	was, then := now.Plans[at], all.Plans[at]
	if t := then.Trouble; t != nil {
		return Told{}, measure.Refuse(t.Field, t.Reason, t.Remedy)
	}
	out := Told{Look: then.Last(), Argued: []strata.Argued{}, Doubts: then.Doubts}
	for _, s := range then.Steps {
		out.Minutes += s.Minutes
		out.More += s.Minutes
	}
	for _, s := range was.Steps {
		out.More -= s.Minutes
	}
	for _, a := range then.Argued {
		i := slices.IndexFunc(was.Argued, func(b strata.Argued) bool { return b.Layer == a.Layer })
		if i < 0 || was.Argued[i].Now != a.Now {
			out.Argued = append(out.Argued, a)
		}
	}
	slices.SortStableFunc(out.Argued, func(a, b strata.Argued) int { return strings.Compare(a.Name, b.Name) })
	return out, nil
}
