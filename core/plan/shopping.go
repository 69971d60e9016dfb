package plan

import (
	"fmt"
	"math"
	"slices"
	"time"

	"cinderpath/core/colour"
	"cinderpath/core/document"
	"cinderpath/core/measure"
	"cinderpath/core/paint"
)

// Use is what one step takes of a jar.
type Use struct {
	Build string    `json:"build"`
	Name  string    `json:"name"` // of the build
	Task  string    `json:"task"`
	Title string    `json:"title"`
	ML    float64   `json:"ml"`
	At    time.Time `json:"at,omitzero"`
}

// Buy is one thing of which the open steps of all builds want more than is left.
type Buy struct {
	Pot    string       `json:"pot,omitempty"` // none where a layer names no jar
	Name   string       `json:"name"`
	Family string       `json:"family"`
	Hex    string       `json:"hex,omitempty"`
	Wanted float64      `json:"wantedMl"`
	Left   float64      `json:"leftMl"`
	Short  float64      `json:"shortMl"`
	Jars   int          `json:"jars,omitempty"` // of the size that it is sold in
	Price  float64      `json:"price,omitempty"`
	First  Use          `json:"first"` // the step that finds too little
	Last   string       `json:"lastOrder,omitempty"`
	Late   bool         `json:"late,omitempty"`    // ordered today it comes too late
	Comes  string       `json:"arrives,omitempty"` // what is on order
	Uses   []Use        `json:"uses"`
	Like   []paint.Like `json:"like"` // what may stand in for it, the likest first
	Words  string       `json:"words"`
	Why    measure.Why  `json:"why"`
}

// Shopping is what is wanted over all builds that is not on the shelf.
type Shopping struct {
	Day      string  `json:"day"`
	Delivery int     `json:"deliveryDays"`
	Buy      []Buy   `json:"buy"`
	Enough   int     `json:"enough"` // jars and mixes that hold what is wanted of them
	Price    float64 `json:"price,omitempty"`
}

// touchUps is what is mixed besides for touch-ups (P9).
const touchUps = 1.0 / 3

// want is what is wanted of one pot, or of a product where no pot is named.
type want struct {
	need Need
	uses []Use
}

// shopping sums what the open steps want.
func shopping(w document.Workshop, plans []Plan, asOf time.Time) Shopping {
	out := Shopping{Day: asOf.Format(time.DateOnly), Delivery: w.Paint.Delivery, Buy: []Buy{}}
	for _, wanted := range wants(w, plans) {
		b, short := wanted.buy(w, asOf)
		if !short {
			out.Enough++
			continue
		}
		out.Price += b.Price
		out.Buy = append(out.Buy, b)
	}
	slices.SortStableFunc(out.Buy, func(a, b Buy) int {
		if a.First.At.IsZero() || b.First.At.IsZero() {
			return 0
		}
		return a.First.At.Compare(b.First.At)
	})
	return out
}

// wants lists what is wanted in the order in which it is met, soonest first.
func wants(w document.Workshop, plans []Plan) []*want {
	type open struct {
		plan *Plan
		step *Step
	}
	var all []open
	for i := range plans {
		for k := range plans[i].Steps {
			if s := &plans[i].Steps[k]; !s.Status.Over() && !s.Status.Done() && len(s.Needs) > 0 {
				all = append(all, open{&plans[i], s})
			}
		}
	}
	slices.SortStableFunc(all, func(a, b open) int { return Sooner(*a.step, *b.step) })
	var out []*want
	find := func(n Need) *want {
		for _, x := range out {
			if n.Pot != "" && x.need.Pot == n.Pot ||
				n.Pot == "" && x.need.Pot == "" && x.need.Name == n.Name && x.need.Hex == n.Hex {
				return x
			}
		}
		x := &want{need: n}
		out = append(out, x)
		return x
	}
	for _, o := range all {
		for _, n := range o.step.Needs {
			u := Use{Build: o.plan.Build, Name: o.plan.Name, Task: o.step.ID, Title: o.step.Title, ML: n.ML}
			if len(o.step.Spans) > 0 {
				u.At = o.step.Spans[0].From
			}
			m, mixed := w.Paint.Mix(n.Pot)
			if !mixed {
				x := find(n)
				x.uses = append(x.uses, u)
				continue
			}
			// Of a mix that runs out, more is mixed: its jars give what is missing, and a third
			// for touch-ups.
			x := find(n)
			before := sum(x.uses)
			x.uses = append(x.uses, u)
			lacks := min(u.ML, before+u.ML-m.Left)
			if lacks <= 0 {
				continue
			}
			parts := 0
			for _, p := range m.Parts {
				parts += p.Drops
			}
			for _, p := range m.Parts {
				j, ok := w.Paint.Jar(p.Jar)
				if !ok {
					continue
				}
				more := u
				more.Title, more.ML = u.Title+", mixed again", lacks*(1+touchUps)*float64(p.Drops)/float64(parts)
				y := find(Need{Pot: j.ID, Name: j.Said(), Family: j.Family, Hex: j.Hex})
				y.uses = append(y.uses, more)
			}
		}
	}
	return out
}

func sum(uses []Use) (ml float64) {
	for _, u := range uses {
		ml += u.ML
	}
	return ml
}

// buy tells what must be bought; ok is false where there is enough.
func (x *want) buy(w document.Workshop, asOf time.Time) (b Buy, short bool) {
	b = Buy{
		Pot:    x.need.Pot,
		Name:   x.need.Name,
		Family: x.need.Family,
		Hex:    x.need.Hex,
		Uses:   x.uses,
		Wanted: sum(x.uses),
		Like:   []paint.Like{},
	}
	day := asOf.Format(time.DateOnly)
	j, isJar := w.Paint.Jar(b.Pot)
	if _, mixed := w.Paint.Mix(b.Pot); mixed {
		return b, false // its jars are wanted instead
	}
	volume := 0.0
	if isJar {
		if volume = j.Volume; j.State != paint.Empty {
			b.Left = j.Left
		}
		if j.State == paint.Ordered {
			b.Comes = j.Arrives
		}
	}
	if b.Short = b.Wanted - b.Left; b.Short <= 1e-9 {
		return b, false
	}
	taken := 0.0
	for _, u := range x.uses {
		if taken += u.ML; taken > b.Left+1e-9 {
			b.First = u
			break
		}
	}
	inputs := []string{
		fmt.Sprintf("%.1f ml wanted by %d open %s", b.Wanted, len(x.uses), plural(len(x.uses), "step", "steps")),
	}
	if volume > 0 {
		b.Jars = int(math.Ceil(b.Short/volume - 1e-9))
		b.Price = float64(b.Jars) * j.Price
		inputs = append(inputs, fmt.Sprintf("%.1f ml left, sold in %g ml", b.Left, volume))
	}
	b.Words = fmt.Sprintf("%.1f ml short", b.Short)
	if !b.First.At.IsZero() {
		last := b.First.At.AddDate(0, 0, -w.Paint.Delivery)
		b.Last = last.Format(time.DateOnly)
		b.Late = b.Last < day
		b.Words += " for " + b.First.Title + ", " + b.First.At.Format("Monday 2 January")
		inputs = append(inputs, fmt.Sprintf("an order takes %d days", w.Paint.Delivery))
	}
	b.Like = standIns(w, b, day)
	b.Why = measure.Because("wanted − left, over all builds; last day to order: first day short − delivery", inputs)
	return b, true
}

// mostStandIns are shown.
const mostStandIns = 3

// standIns are jars and mixes of the same family that hold enough and look most like it; of
// what has no colour, those of its family.
func standIns(w document.Workshop, b Buy, day string) []paint.Like {
	out := []paint.Like{}
	c, err := colour.Parse(b.Hex)
	if err != nil {
		for _, j := range w.Paint.Jars {
			own, _ := w.Paint.Jar(b.Pot)
			if j.ID != b.Pot && j.Family == b.Family && (own.ID == "" || j.Sheen == own.Sheen) && j.There(day) &&
				j.Left >= b.Short &&
				len(out) < mostStandIns {
				out = append(out, paint.Like{Pot: j.ID, Name: j.Said()})
			}
		}
		return out
	}
	ids, differences := w.Paint.Like(c)
	for i, id := range ids {
		p, _ := w.Paint.Pot(id)
		j, isJar := w.Paint.Jar(id)
		if id == b.Pot || p.Family != b.Family || p.Left < b.Short || isJar && !j.There(day) || len(out) == mostStandIns {
			continue
		}
		out = append(out, paint.Like{Pot: id, Name: p.Name, Hex: p.Paint.Swatch.Hex(), Difference: differences[i]})
	}
	return out
}

// ShoppingOf is the shopping list of a workshop with its builds as of an instant.
func (d *Deriver) ShoppingOf(w document.Workshop, items []document.Item, asOf time.Time) (Shopping, error) {
	all, err := d.All(w, items, asOf)
	return all.Shopping, err
}
