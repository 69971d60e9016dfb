package strata

import (
	"fmt"
	"slices"
	"strings"

	"cinderpath/core/colour"
	"cinderpath/core/rule"
)

// chemistry is rules P1 and W1 and the waits: what the layer brings against each
// thing below, down to the nearest barrier.
func (c *checker) chemistry(zones []string, column []int, at int) {
	l := c.stack[column[at]]
	brings := l.Brings()
	if at > 0 {
		c.settle(column, at)
	}
	if brings == "none" || l.Kind.Works() {
		return // waking the chipping coat has a window of its own, rule P4
	}
	bare := true
	for k := at - 1; k >= 0; k-- {
		below := c.stack[column[k]]
		if !present(below) {
			continue
		}
		bare = false
		letter := attackOf(brings, c.surface(column, k, at), l.Applied)
		switch letter {
		case 'N':
			c.need(zones, l, below, rule.NextCoat, column, at)
		case 'C':
			if below.Family == l.Family && below.Kind == l.Kind {
				c.need(zones, l, below, rule.NextCoat, column, at) // same product over itself
			} else if !together(l, below) {
				c.need(zones, l, below, rule.Cured, column, at)
			}
		case 'D', 'L', 'W', 'M':
			c.attacked(zones, column, at, k, letter)
		}
		if below.isClear() && strings.IndexByte("SNC", letter) >= 0 {
			return // a barrier: what lies below it is safe
		}
	}
	if bare && attackOf(brings, "bare_plastic", l.Applied) == 'D' {
		misted := l
		misted.Applied = Misted
		c.find(
			zones,
			Finding{Rule: "P1", Severity: rule.Stop, Layer: l.ID, Title: fmt.Sprintf("%s eats into bare plastic", l.Name),
				Reason: fmt.Sprintf("%s brushed on bare plastic melts its surface.", carrierName(brings))},
			func() []Mend {
				return []Mend{{ID: "mist", Label: "Mist it on instead", Edits: []Edit{{Op: "change", Layer: &misted}}}}
			},
		)
	}
}

// settle asks for the touch-dry time of whatever lies directly below, which no
// table of solvents knows about: a wet surface is disturbed by any brush.
func (c *checker) settle(column []int, at int) {
	l, below := c.stack[column[at]], c.stack[column[at-1]]
	if together(l, below) {
		return
	}
	dry := below.Dries()
	w := Wait{From: below.ID, To: l.ID, Minutes: dry.Touch, Kind: rule.Touch, Rule: "P1", Water: below.Water(),
		Reason: fmt.Sprintf("%s must be touch dry before anything goes over it.", below.Name)}
	if l.Kind == Decals {
		w.Minutes, w.Kind, w.Rule = dry.Handle, rule.Handle, "P3"
		w.Reason = fmt.Sprintf("%s must stand handling before decals are slid about on it.", below.Name)
	}
	if l.WaitMin == nil || *l.WaitMin >= w.Minutes {
		c.wait(w)
	}
}

// Soft tells of oil and fuel, which smear under a finger for a day or more (W15).
func (l Layer) Soft() bool {
	return l.Kind == Grease || l.Kind != Wash && strings.HasPrefix(l.Family, "oil_")
}

// soft is W15: a wait that is pinned so short that the model is taken in hand while oil is still soft.
func (c *checker) soft(zones []string, column []int, at int) {
	if at == 0 {
		return
	}
	l, below := c.stack[column[at]], c.stack[column[at-1]]
	handle := below.Dries().Handle
	if !below.Soft() || together(l, below) || l.WaitMin == nil || *l.WaitMin >= handle {
		return
	}
	later := l
	later.WaitMin = &handle
	c.find(zones, Finding{
		Rule: "W15", Severity: rule.Warn, Layer: l.ID, Below: below.ID,
		Title: fmt.Sprintf("%s is still soft when the model is taken in hand for %s", below.Name, lower(l.Name)),
		Reason: fmt.Sprintf(
			"You pinned %s; it smears under a finger for %s.", l.WaitMin.About(), handle.About()),
	}, func() []Mend {
		return []Mend{
			{ID: "wait", Label: "Wait the " + handle.About(), Edits: []Edit{{Op: "change", Layer: &later}}},
		}
	})
}

func together(a, b Layer) bool { return a.Together != "" && a.Together == b.Together }

// need asks for a wait. A shorter one that the modeller pinned, or that the log
// shows, is a finding instead.
func (c *checker) need(zones []string, l, below Layer, kind rule.Need, column []int, at int) {
	minutes := below.Dries().Until(kind)
	w := Wait{From: below.ID, To: l.ID, Minutes: minutes, Kind: kind, Rule: "P1", Water: below.Water()}
	if kind == rule.Cured {
		w.Reason = fmt.Sprintf("%s softens %s until it has cured.", carrierName(l.Brings()), lower(below.Name))
	} else {
		w.Reason = fmt.Sprintf("%s lifts %s before its next-coat time.", carrierName(l.Brings()), lower(below.Name))
	}
	real, logged := c.gap(below.ID, l.ID)
	short, said := false, ""
	switch {
	case logged && real < 0:
		short, said = true, "the log shows that it was begun before that was done"
	case logged && real < minutes-0.5:
		short, said = true, fmt.Sprintf("the log shows %s", real.About())
	case !logged && l.WaitMin != nil && *l.WaitMin < minutes:
		short, said = true, fmt.Sprintf("you pinned %s", l.WaitMin.About())
		w.Minutes = *l.WaitMin
	}
	c.wait(w)
	if !short {
		return
	}
	f := Finding{Rule: "P1", Severity: rule.Warn, Layer: l.ID, Below: below.ID,
		Title:  fmt.Sprintf("%s too soon over %s", l.Name, lower(below.Name)),
		Reason: fmt.Sprintf("It wants %s after %s (%s), and %s.", minutes.About(), lower(below.Name), kind, said)}
	if kind == rule.Cured {
		f.Severity = rule.Stop
	}
	if l.isOily() && below.isOily() && kind == rule.Cured {
		f.Rule, f.Severity = "W1", rule.Warn
		f.Reason += " Oil and enamel over their uncured like lift each other."
	}
	if logged {
		// What happened cannot be mended by an edit of the plan; it can only be accepted.
		f.Severity = rule.Warn
		c.find(zones, f, func() []Mend { return nil })
		return
	}
	c.find(zones, f, func() []Mend {
		free := l
		free.WaitMin = nil
		mends := []Mend{{ID: "wait", Label: "Wait the " + minutes.About(), Edits: []Edit{{Op: "change", Layer: &free}}}}
		mends = append(mends, c.barrier(column, at)...)
		return append(mends, c.join(l, below)...)
	})
}

// attacked is rule P1 where waiting does not help.
func (c *checker) attacked(zones []string, column []int, at, k int, letter byte) {
	l, below := c.stack[column[at]], c.stack[column[k]]
	if together(l, below) && (letter == 'L' || letter == 'M') {
		return
	}
	carrier := carrierName(l.Brings())
	f := Finding{Rule: "P1", Severity: rule.Warn, Layer: l.ID, Below: below.ID}
	switch letter {
	case 'D':
		f.Severity = rule.Stop
		f.Title = fmt.Sprintf("%s destroys %s", l.Name, lower(below.Name))
		f.Reason = fmt.Sprintf("%s %s dissolves %s, cured or not.", carrier, l.Applied, lower(below.Name))
	case 'L':
		f.Title = fmt.Sprintf("%s softens %s", l.Name, lower(below.Name))
		f.Reason = fmt.Sprintf(
			"%s %s wakes %s even when it has cured: fine for blending, a loss otherwise.",
			carrier,
			l.Applied,
			lower(below.Name),
		)
	case 'M':
		if l.Kind == Fix {
			return // laid on beside the powder, it is what holds it
		}
		f.Title = fmt.Sprintf("%s moves %s", l.Name, lower(below.Name))
		f.Reason = fmt.Sprintf("%s is loose powder: what is %s over it pushes it about or buries it.", below.Name, l.Applied)
	case 'W':
		if (l.Kind == Decals && below.Kind == Decals) || (l.isAcrylic() && at == k+1) {
			return // that is what the step is for; the colour that seals the coat is P4's business
		}
		if l.isClear() && l.Applied == Misted && c.worked(column, k, at) {
			return // a mist of clear over the worked coat is what seals it
		}
		f.Title = fmt.Sprintf("%s wakes %s", l.Name, lower(below.Name))
		f.Reason = fmt.Sprintf(
			"%s reaches %s through what lies over it and lifts it; seal it first.",
			carrier,
			lower(below.Name),
		)
		if below.Kind == ChippingCoat && c.laterWork(column, k) == "" { // what nobody worked lies there still: P5
			f.Rule, f.Title = "P5", fmt.Sprintf("%s lifts what is left of %s", l.Name, lower(below.Name))
			f.Reason += " What is not worked is rinsed off or sealed."
		}
	}
	c.find(zones, f, func() []Mend {
		mends := c.barrier(column, at)
		if l.Applied == Brushed && c.harmless(column, at, l.Brings(), Misted) {
			misted := l
			misted.Applied = Misted
			mends = append(
				mends,
				Mend{ID: "mist", Label: "Mist it on instead of brushing", Edits: []Edit{{Op: "change", Layer: &misted}}},
			)
		}
		if letter == 'M' {
			fixer := Layer{
				Name:    "Pigment fixer",
				Kind:    Fix,
				Family:  "pigment_fixer",
				Zones:   below.Zones,
				Applied: Misted,
				Coats:   1,
				Carrier: "alcohol",
			}
			mends = append(
				mends,
				Mend{ID: "fix", Label: "Fix the powder first", Edits: []Edit{{Op: "insert", Layer: &fixer, Before: l.ID}}},
			)
		}
		if letter == 'D' {
			mends = append(mends, c.milder(column, at)...)
		}
		if letter == 'L' {
			mends = append(mends, c.join(l, below)...)
		}
		return mends
	})
}

func (c *checker) worked(column []int, from, to int) bool {
	for k := from + 1; k < to; k++ {
		if c.stack[column[k]].Kind == ChippingWork {
			return true
		}
	}
	return false
}

// harmless tells whether a carrier, so applied at a place of the column, does
// nothing that waiting does not cure.
func (c *checker) harmless(column []int, at int, brings string, applied Application) bool {
	for k := at - 1; k >= 0; k-- {
		below := c.stack[column[k]]
		if !present(below) {
			continue
		}
		letter := attackOf(brings, c.surface(column, k, at), applied)
		if strings.IndexByte("SNC", letter) < 0 {
			return false
		}
		if below.isClear() {
			return true
		}
	}
	return true
}

// barrier offers the clear coats that can go between: harmless to what lies below
// when misted, and not attacked by the layer above.
func (c *checker) barrier(column []int, at int) []Mend {
	l := c.stack[column[at]]
	var out []Mend
	for _, family := range []string{"clear_acrylic", "clear_lacquer"} {
		clear := Layer{
			Name:    familyOf(family).Name,
			Kind:    Clear,
			Family:  family,
			Zones:   slices.Clone(l.Zones),
			Applied: Misted,
			Coats:   1,
			Sheen:   colour.Satin,
		}
		clear.Name = strings.ToUpper(clear.Name[:1]) + clear.Name[1:]
		letter := attackOf(l.Brings(), family, l.Applied)
		if strings.IndexByte("SNC", letter) >= 0 && c.harmless(column, at, clear.Brings(), Misted) {
			out = append(out, Mend{ID: "barrier." + family, Label: "Put a barrier between: " + lower(clear.Name) + ", satin",
				Edits: []Edit{{Op: "insert", Layer: &clear, Before: l.ID}}})
		}
	}
	return out
}

// milder offers families for the same purpose whose carrier does no harm here.
func (c *checker) milder(column []int, at int) []Mend {
	l := c.stack[column[at]]
	for _, id := range l.Kind.About().Milder {
		other := l
		other.Family, other.Carrier, other.Jar = id, "", ""
		if id != l.Family && c.harmless(column, at, other.Brings(), l.Applied) {
			return []Mend{
				{
					ID:    "product." + id,
					Label: "Use " + familyOf(id).Name + " instead",
					Edits: []Edit{{Op: "change", Layer: &other}},
				},
			}
		}
	}
	return nil
}

// join offers to work two layers into each other while wet.
func (c *checker) join(l, below Layer) []Mend {
	if l.Brings() != below.Brings() {
		return nil
	}
	group := below.Together
	if group == "" {
		group = below.ID
	}
	a, b := below, l
	a.Together, b.Together, b.WaitMin = group, group, nil
	return []Mend{
		{
			ID:    "together",
			Label: "Work them into each other while wet",
			Edits: []Edit{{Op: "change", Layer: &a}, {Op: "change", Layer: &b}},
		},
	}
}
