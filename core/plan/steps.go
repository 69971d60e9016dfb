package plan

import (
	"cmp"
	"fmt"
	"slices"
	"strings"
	"time"

	"cinderpath/core/bench"
	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/measure"
	"cinderpath/core/order"
	"cinderpath/core/paint"
	"cinderpath/core/path"
	"cinderpath/core/rule"
	"cinderpath/core/strata"
	"cinderpath/core/unit"
	"cinderpath/core/zone"
)

// touchOf is when what a step put on is dry to the touch.
func touchOf(s Step, b document.Build, cal path.Calendar) time.Time {
	i := slices.IndexFunc(b.Layers, func(l strata.Layer) bool { return l.ID == s.Layer })
	if i < 0 || s.Kind != string(b.Layers[i].Kind) || len(s.Spans) == 0 {
		return time.Time{}
	}
	touch := b.Layers[i].Dries().Touch
	rate := unit.Minutes(cal.Rate(b.Layers[i].Water()))
	if touch <= 0 || rate <= 0 {
		return time.Time{}
	}
	return s.End().Add(time.Duration(touch/rate) * time.Minute)
}

// Step is a task as the path and the bench show it.
type Step struct {
	path.Task
	path.Placed
	Product  string       `json:"product,omitempty"`
	Amount   string       `json:"amount,omitempty"`
	Needs    []Need       `json:"needs"`         // what it takes, each with its why
	Mix      string       `json:"mix,omitempty"` // paint to thinner by brush
	Air      string       `json:"air,omitempty"` // thinning, pressure, distance
	Forecast []Forecast   `json:"forecast,omitempty"`
	Dries    []string     `json:"dries"`          // what its family's times are in this room
	Work     string       `json:"work,omitempty"` // how long it can be moved
	Cautions []string     `json:"cautions"`
	TimeWhy  measure.Why  `json:"timeWhy"`
	Hex      string       `json:"hex,omitempty"`
	Look     string       `json:"look"`  // names what is seen once it is done
	Where    string       `json:"where"` // its zones as people say them
	Sides    []form.Side  `json:"sides"` // in which they are seen best, the best first
	Tools    []string     `json:"tools"`
	Joints   []string     `json:"joints,omitempty"` // how what it fits is joined
	Told     []string     `json:"told,omitempty"`   // where the leaflet is wrong, and what was settled
	Checks   []string     `json:"checks"`           // before going on
	Wrong    []string     `json:"wrong"`            // mishaps that are usual with it, of the library
	Lessons  []Reminder   `json:"lessons"`
	Passed   string       `json:"passed,omitempty"` // what should have come after it and is done already
	Room     string       `json:"room"`             // where it is done, by the workshop's name for it
	Real     unit.Minutes `json:"realMin,omitempty"`
	Card     bool         `json:"card,omitempty"` // it is tried on a card first

	touch time.Time // dry to the touch, once it is done
}

// steps joins tasks and places. Tasks without a layer have no product.
func steps(
	item document.Item,
	w document.Workshop,
	tasks []path.Task,
	placed []path.Placed,
	why map[string][]string,
	told []Reminder,
	from materials,
	made order.Made,
) []Step {
	takes, besides := made.Takes, made.Hazards
	b := item.Build
	out := make([]Step, len(tasks))
	done := document.Happened(item.Log)
	for i, t := range tasks {
		kind := bench.KindOf(t.Kind)
		s := Step{
			Task:    t,
			Placed:  placed[i],
			Needs:   []Need{},
			Dries:   []string{},
			Tools:   kind.Tools,
			Checks:  kind.Checks,
			Wrong:   []string{},
			Lessons: []Reminder{},
			Joints:  made.Joints[t.ID],
			Told:    made.Told[t.ID],
			Where: zone.Said(
				t.Zones,
			),
			TimeWhy: measure.Because("set-up + pace · units · coats, rounded up", why[t.ID]),
			Room:    w.Calendar.Place(cmp.Or(t.Place, path.Bench)).Name,
		}
		if s.After == nil {
			s.After = []path.Arrow{}
		}
		if s.Spans == nil {
			s.Spans = []path.Span{}
		}
		if at := slices.IndexFunc(
			b.Layers,
			func(l strata.Layer) bool { return l.ID == t.Layer },
		); at >= 0 && t.Layer != "" &&
			t.Kind != "stencil" {
			describe(&s, b, b.Layers[at], w, from)
		}
		if at := slices.IndexFunc(
			b.Order.Own,
			func(o document.OwnStep) bool { return t.Own == o.ID },
		); at >= 0 && t.Own != "" &&
			b.Order.Own[at].Family != "" {
			describe(&s, b, b.Order.Own[at].AsLayer(), w, from)
		}
		more := append(spots(b, w, t), supplied(b, w, takes[t.ID])...)
		if s.Needs = append(s.Needs, more...); s.Amount == "" {
			s.Amount = listed(more)
		}
		s.Cautions = s.cautions(b, takes[t.ID], besides[t.ID])
		for _, m := range bench.Mishaps(t.Stage, t.Kind) {
			if slices.Contains(kind.Wrong, m.ID) {
				s.Wrong = append(s.Wrong, m.ID)
			}
		}
		for _, r := range told {
			if (r.kind != "" && r.kind == t.Kind) || (r.Product != "" && r.Product == s.Product) {
				s.Lessons = append(s.Lessons, r)
			}
		}
		if t.Kind == "touchup" {
			s.Product = touchedUpWith(b)
		}
		if d, ok := done[t.ID]; ok && !d.Ended.IsZero() && !d.Skipped {
			s.Real = unit.MinutesOf(d.Ended.Sub(d.Started))
		}
		if s.Status.Over() {
			// What was poured is told by the log, and nobody is in danger any more.
			s.Needs, s.Forecast, s.Cautions, s.Joints = []Need{}, nil, []string{}, nil
			s.Lessons, s.Tools = []Reminder{}, []string{} // for the next time, and put away
		}
		s.touch = touchOf(s, b, w.Calendar)
		out[i] = s
	}
	passed(out)
	timely(out)
	for i := range out {
		out[i].Placed.Task = "" // it is the step's own id
	}
	return out
}

// touchedUpWith names the mixes and jars that the scheme was sprayed from: a touch-up takes of
// them (P10).
func touchedUpWith(b document.Build) string {
	var names []string
	for _, c := range b.Scheme.Colours {
		switch {
		case c.Pot.ID == "":
		case c.Pot.Left < leastTouchUp:
			names = append(names, c.Pot.Name+" (hardly any left: mix it again, and compare it on scrap first)")
		default:
			names = append(names, c.Pot.Name)
		}
	}
	return strings.Join(names, "; ")
}

// timely brings each stretch of one stage into the order in which it was and will be
// done. Stages keep their order, and so do the arrows: in
// time nothing lies before what it comes after.
func timely(all []Step) {
	for from := 0; from < len(all); {
		to := from
		for to < len(all) && all[to].Stage == all[from].Stage {
			to++
		}
		slices.SortStableFunc(all[from:to], Sooner)
		from = to
	}
}

// Sooner compares steps by when they are begun; what has no place comes last.
func Sooner(a, b Step) int {
	if len(a.Spans) == 0 || len(b.Spans) == 0 {
		return min(len(b.Spans), 1) - min(len(a.Spans), 1)
	}
	return a.Spans[0].From.Compare(b.Spans[0].From)
}

// passed tells of steps that are still open although what a rule puts after them is done:
// another version chosen late, a step done too early.
func passed(all []Step) {
	at := map[string]int{}
	for i, s := range all {
		at[s.ID] = i
	}
	begun := func(s Step) bool { return s.Status.Done() || s.Status == path.IsNow }
	missed := make([][]string, len(all))
	for _, s := range all {
		if !begun(s) {
			continue
		}
		for _, a := range s.After {
			if i, ok := at[a.From]; ok && a.Rule != "" && !begun(all[i]) && !all[i].Status.Over() {
				missed[i] = append(
					missed[i],
					fmt.Sprintf("%s is done already, and should have come after it: %s (%s).", s.Title, a.Reason, a.Rule),
				)
			}
		}
	}
	for i, reasons := range missed {
		if len(reasons) > 0 {
			all[i].Passed = strings.Join(reasons, " ") + " Do it now and report a flaw found late, or leave it out."
		}
	}
}

func describe(s *Step, b document.Build, l strata.Layer, w document.Workshop, from materials) {
	cal := w.Calendar
	f, _ := paint.FamilyOf(l.Family)
	s.Product, s.Hex = f.Name, l.Hex
	switch {
	case l.IsScheme():
		colour := b.Scheme.Colour(s.Colour)
		s.Hex, s.Product = colour.Hex, colour.Name+", "+f.Name
		if colour.Pot.ID != "" {
			s.Product = colour.Pot.Name + ", " + f.Name
		}
	case l.Pot.ID != "":
		s.Product = l.Pot.Name + ", " + f.Name
	case l.Kind.Works() && l.Kind != strata.ChippingWork:
		s.Product, s.Hex = "", "" // cloth and finger
	}
	if lays, ok := layingOf(s, b, l, from.spreads, from.areas[l.ID]); ok {
		s.Product = lays.said()
		if f := lays.family(); lays.pot.ID != "" {
			s.Product += ", " + f.Name
		}
		n := lays.need(w, s.Fine)
		s.Needs, s.Amount = []Need{n}, n.words()
		if !l.IsScheme() || s.Colour <= 1 {
			s.Forecast = from.forecasts[l.ID]
		}
		if _, s.Air = lays.thinned(w.Pressure, s.Fine); s.Air == "" {
			s.Mix = n.mixing()
		}
	} else if s.Kind == string(l.Kind) && l.Applied == strata.Misted {
		_, s.Air, _ = paint.AirbrushWords(l.Family, l.Pot.Temper, w.Pressure, s.Fine)
	}
	s.Card = s.Kind == string(l.Kind) && l.Tried()
	if s.Kind == "test" {
		s.Forecast = lightened(b, l)
	}
	if s.Kind == "mask" {
		s.Amount = order.Masks(from.surface, s.Colour)
	}
	dry, rate := l.Dries(), unit.Minutes(cal.Rate(l.Water()))
	for _, need := range []rule.Need{rule.Touch, rule.NextCoat, rule.Handle, rule.Cured} {
		if m := dry.Until(need); m > 0 && rate > 0 && !l.Kind.Works() {
			s.Dries = append(s.Dries, string(need)+" "+(m/rate).About())
		}
	}
	if f.Work > 0 && !l.Kind.Works() {
		s.Work = "can be moved for " + f.Work.About()
	}
	if s.Kind == "repair" && s.Place != path.Booth {
		l.Applied = strata.Brushed // a spot is touched in by hand
	}
}

// cautions are what of a step can hurt someone, from its kind, its product and what else it takes.
func (s *Step) cautions(b document.Build, takes []order.Taking, besides []string) []string {
	d := bench.Danger{Kind: s.Kind, Booth: s.Place == path.Booth, Besides: besides}
	if at := slices.IndexFunc(b.Layers, func(l strata.Layer) bool { return l.ID == s.Layer }); at >= 0 && s.Layer != "" {
		l := b.Layers[at]
		d.Sprays = l.Applied == strata.Misted && d.Booth
		if brings := l.Brings(); brings != "" {
			d.Brings = []string{brings}
		}
		d.Takes = append(d.Takes, l.Family)
	}
	for _, t := range takes {
		d.Takes = append(d.Takes, t.Family)
		if f, ok := paint.FamilyOf(t.Family); ok {
			d.Carries = append(d.Carries, f.Brings)
		}
	}
	return bench.Cautions(d)
}
