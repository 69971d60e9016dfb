package plan

import (
	"fmt"
	"slices"

	"cinderpath/core/bench"
	"cinderpath/core/document"
	"cinderpath/core/path"
	"cinderpath/core/rule"
	"cinderpath/core/strata"
)

// trials are P10 and P14, of the steps that are still to be done: a touch-up of which nothing is
// kept, and a product that was never used.
func (r paintRuling) trials(tasks []path.Task, log []document.Entry) (out []strata.Finding) {
	done := document.Happened(log)
	for _, t := range tasks {
		switch {
		case !done[t.ID].Ended.IsZero():
		case t.Kind == "touchup":
			out = append(out, r.touchUps(tasks, t, done)...)
		case t.Layer != "" && bench.KindOf(t.Kind).Lays:
			for _, holds := range []func([]path.Task, path.Task) (strata.Finding, bool){r.untried, r.batch} {
				if f, found := holds(tasks, t); found {
					out = append(out, f)
				}
			}
		}
	}
	return out
}

// tryFirst is the mend that puts a trial on scrap before a task; it settles what was found.
func tryFirst(title string, before path.Task) strata.Mend {
	return strata.Mend{
		ID: "trial", Label: title + " first", Edits: []strata.Edit{},
		Trial: &strata.Trial{Title: title, Before: before.ID},
	}
}

// isTried tells of a trial that stands before a task already.
func (r paintRuling) isTried(title, task string) bool {
	return slices.ContainsFunc(r.build.Order.Own, func(o document.OwnStep) bool {
		return o.Kind == "trial" && o.Title == title && o.Before == task
	})
}

// touchUps is P10: colours that are laid, and of whose pot there is nothing left to touch up with.
func (r paintRuling) touchUps(tasks []path.Task, t path.Task, done map[string]path.Done) (out []strata.Finding) {
	for _, l := range r.build.Layers {
		if !l.IsScheme() || l.MeansRule("P10") || r.open(l) {
			continue
		}
		for c, set := range r.build.Scheme.Colours {
			laid := slices.ContainsFunc(tasks, func(x path.Task) bool {
				return x.Layer == l.ID && x.Colour == c+1 && !done[x.ID].Ended.IsZero()
			})
			title := "Mix " + set.Name + " again, compare it on scrap"
			if !laid || set.Jar == "" || set.Pot.Left >= leastTouchUp || r.isTried(title, t.ID) {
				continue
			}
			f := strata.Finding{
				ID: fmt.Sprintf("P10:%s:%d", l.ID, c+1), Rule: "P10", Severity: rule.Warn, Layer: l.ID,
				Zones: []string{},
				Title: "Nothing is kept to touch up " + set.Name,
				Reason: fmt.Sprintf(
					"%.1f ml are left of what it was sprayed from: what is mixed anew is compared before it goes on.", set.Pot.Left),
				Mends: []strata.Mend{tryFirst(title, t)},
			}
			if m, ok := r.shop.Paint.Mix(set.Jar); ok {
				if words, ok := r.shop.Paint.Again(m); ok {
					f.Reason += " " + words
				}
			}
			f.Mends = append(f.Mends, l.AsMeant("P10", "Nothing will be touched up; mark as meant"))
			out = append(out, f)
		}
	}
	return out
}

// untried is P14: a jar that was never opened and tried on nothing. What a step took of it has gone
// from its level already.
func (r paintRuling) untried(tasks []path.Task, t path.Task) (strata.Finding, bool) {
	i := slices.IndexFunc(r.build.Layers, func(l strata.Layer) bool { return l.ID == t.Layer })
	if i < 0 || r.build.Layers[i].MeansRule("P14") {
		return strata.Finding{}, false
	}
	l := r.build.Layers[i]
	id := l.Jar
	if l.IsScheme() {
		id = r.build.Scheme.Colour(t.Colour).Jar
	}
	j, ok := r.shop.Paint.Jar(id)
	first := slices.IndexFunc(tasks, func(x path.Task) bool { return x.Layer == t.Layer && x.Colour == t.Colour })
	if !ok || !j.Fresh() || tasks[first].ID != t.ID {
		return strata.Finding{}, false
	}
	title := "Try " + j.Said() + " on scrap"
	if r.isTried(title, t.ID) {
		return strata.Finding{}, false
	}
	return strata.Finding{
		ID: fmt.Sprintf("P14:%s:%d", l.ID, t.Colour), Rule: "P14", Severity: rule.Hint, Layer: l.ID, Zones: []string{},
		Title:  j.Said() + " was never used before",
		Reason: "A product that is new to you goes on scrap with the same ground first: how it flows, dries and covers.",
		Mends:  []strata.Mend{tryFirst(title, t), l.AsMeant("P14", "I know it; mark as meant")},
	}, true
}

// spare is what a batch has beyond what is needed (W21).
const spare = 1.2

// batch is W21: earth laid from a mix of which there is less than its whole area and depth take, and a
// fifth: what is mixed a second time is another colour.
func (r paintRuling) batch(tasks []path.Task, t path.Task) (f strata.Finding, found bool) {
	i := slices.IndexFunc(r.build.Layers, func(l strata.Layer) bool { return l.ID == t.Layer })
	if i < 0 || !isEarth(r.build.Layers[i]) || r.build.Layers[i].MeansRule("W21") {
		return f, false
	}
	l := r.build.Layers[i]
	mix, mixed := r.shop.Paint.Mix(l.Jar)
	first := slices.IndexFunc(tasks, func(x path.Task) bool { return x.Layer == t.Layer })
	need := r.wanted(l, 0)
	if !mixed || tasks[first].ID != t.ID || need <= 0 || l.Pot.Left >= need*spare {
		return f, false
	}
	title := fmt.Sprintf("Mix %.1f ml of %s in one batch, try it dry on scrap", need*spare, mix.Name)
	if r.isTried(title, t.ID) {
		return f, false
	}
	return strata.Finding{
		ID: "W21:" + l.ID, Rule: "W21", Severity: rule.Hint, Layer: l.ID, Zones: []string{},
		Title: fmt.Sprintf("%s takes more than there is mixed of %s", l.Name, mix.Name),
		Reason: fmt.Sprintf("Its whole area and depth take %.1f ml and a fifth more; %.1f ml are kept. "+
			"Earth that is mixed a second time dries to another colour.", need, l.Pot.Left),
		Mends: []strata.Mend{tryFirst(title, t), l.AsMeant("W21", "It will be mixed as it goes; mark as meant")},
	}, true
}
