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
	var plans [2]Plan
	for k, other := range []strata.Life{items[at].Build.Life, life} {
		item := items[at]
		item.Build.Life = other
		// By itself: what others do changes its evenings, not its looks.
		all, err := d.For(ctx, w, []document.Item{item}, asOf)
		if err != nil {
			return Told{}, err
		}
		plans[k] = all.Plans[0]
		if t := plans[k].Trouble; t != nil {
			return Told{}, measure.Refuse(t.Field, t.Reason, t.Remedy)
		}
	}
	now, then := plans[0], plans[1]
	out := Told{Look: then.Last(), Argued: []strata.Argued{}, Doubts: then.Doubts}
	for _, s := range then.Steps {
		out.Minutes += s.Minutes
		out.More += s.Minutes
	}
	for _, s := range now.Steps {
		out.More -= s.Minutes
	}
	for _, a := range then.Argued {
		i := slices.IndexFunc(now.Argued, func(b strata.Argued) bool { return b.Layer == a.Layer })
		if i < 0 || now.Argued[i].Now != a.Now {
			out.Argued = append(out.Argued, a)
		}
	}
	slices.SortStableFunc(out.Argued, func(a, b strata.Argued) int { return strings.Compare(a.Name, b.Name) })
	return out, nil
}
