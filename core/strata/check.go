package strata

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"cinderpath/core/colour"
)

// Severity of a finding.
type Severity string

// The severities: the result would be damaged, is likely to be regretted, or
// wastes time or material.
const (
	Stop Severity = "stop"
	Warn Severity = "warn"
	Hint Severity = "hint"
)

// Finding says which rule a layer breaks, where, and why, with what would mend it.
type Finding struct {
	ID       string   `json:"id"` // rule:layer:below, survives unrelated edits
	Rule     string   `json:"rule"`
	Severity Severity `json:"severity"`
	Layer    string   `json:"layer"` // id
	Below    string   `json:"below,omitempty"`
	Zones    []string `json:"zones"`
	Title    string   `json:"title"`
	Reason   string   `json:"reason"`
	Mends    []Mend   `json:"mends"`
}

// Mend is a change to the stack that settles a finding.
type Mend struct {
	ID    string `json:"id"`
	Label string `json:"label"`
	Edits []Edit `json:"edits"`
}

// Wait is the least time between the end of one layer and the start of another,
// in minutes at 20 °C and 50 % humidity.
type Wait struct {
	From, To string // layer ids
	Minutes  float64
	Most     float64 // greatest time, 0 for none
	Water    bool    // From dries by losing water
	Kind     string  // touch, next coat, handle, cured
	Rule     string
	Reason   string
}

// Gap tells how long after the end of one layer another was really begun, from
// the log, in minutes at table conditions; known is false while it is open.
type Gap func(from, to string) (minutes float64, known bool)

// Check looks at the columns of all zones and returns findings in the order of
// the stack and the waits between layers. The bare surface below is plastic.
func Check(stack []Layer, zones []string, gap Gap) ([]Finding, []Wait) {
	if gap == nil {
		gap = func(string, string) (float64, bool) { return 0, false }
	}
	findings, waits := check(stack, zones, gap)
	for i := range findings {
		findings[i].Mends = settling(findings[i], stack, zones, gap)
	}
	return findings, waits
}

// settling keeps the mends after which the finding is really gone: in a tangled
// stack a barrier may settle one thing and leave another.
func settling(f Finding, stack []Layer, zones []string, gap Gap) []Mend {
	kept := []Mend{}
	for _, m := range f.Mends {
		n := 0
		mended, err := Apply(stack, m.Edits, func() string { n++; return fmt.Sprintf("mend-%d", n) })
		if err != nil {
			continue
		}
		after, _ := check(mended, zones, gap)
		if !slices.ContainsFunc(after, func(g Finding) bool { return g.ID == f.ID }) {
			kept = append(kept, m)
		}
	}
	return kept
}

func check(stack []Layer, zones []string, gap Gap) ([]Finding, []Wait) {
	c := checker{stack: stack, gap: gap, findings: map[string]*Finding{}, waits: map[[2]string]Wait{}}
	for _, like := range columns(stack, zones) {
		for at := range like.column {
			c.chemistry(like.zones, like.column, at)
			c.matt(like.zones, like.column, at)
			c.chipping(like.zones, like.column, at)
			c.decals(like.zones, like.column, at)
		}
	}
	return c.result()
}

// alike are zones that carry the same layers; what holds for one holds for all.
type alike struct {
	zones  []string
	column []int // indices into the stack, from below
}

func columns(stack []Layer, zones []string) []*alike {
	var out []*alike
	for _, zone := range zones {
		var column []int
		for i, l := range stack {
			if l.Covers(zone) {
				column = append(column, i)
			}
		}
		at := slices.IndexFunc(out, func(a *alike) bool { return slices.Equal(a.column, column) })
		if at < 0 {
			at = len(out)
			out = append(out, &alike{column: column})
		}
		out[at].zones = append(out[at].zones, zone)
	}
	return out
}

type checker struct {
	stack    []Layer
	gap      Gap
	findings map[string]*Finding
	order    []string
	waits    map[[2]string]Wait
}

func (c *checker) result() ([]Finding, []Wait) {
	rank := map[string]int{}
	for i, l := range c.stack {
		rank[l.ID] = i
	}
	findings := make([]Finding, 0, len(c.order))
	for _, id := range c.order {
		slices.Sort(c.findings[id].Zones)
		findings = append(findings, *c.findings[id])
	}
	slices.SortStableFunc(findings, func(a, b Finding) int {
		return cmp.Or(cmp.Compare(rank[a.Layer], rank[b.Layer]), cmp.Compare(a.Rule, b.Rule))
	})
	waits := make([]Wait, 0, len(c.waits))
	for _, w := range c.waits {
		waits = append(waits, w)
	}
	slices.SortFunc(waits, func(a, b Wait) int {
		return cmp.Or(cmp.Compare(rank[a.To], rank[b.To]), cmp.Compare(rank[a.From], rank[b.From]))
	})
	return findings, waits
}

// find notes a finding for zones; the same finding on several zones is one.
func (c *checker) find(zones []string, f Finding, mends func() []Mend) {
	layer := c.layer(f.Layer)
	if f.Severity != Stop && layer.means(f.Rule) {
		return
	}
	f.ID = f.Rule + ":" + f.Layer
	if f.Below != "" {
		f.ID += ":" + f.Below
	}
	if known, ok := c.findings[f.ID]; ok {
		known.Zones = append(known.Zones, zones...)
		return
	}
	f.Zones = slices.Clone(zones)
	f.Mends = mends()
	if f.Severity != Stop {
		meant := layer
		meant.Meant = append(slices.Clone(layer.Meant), f.Rule)
		f.Mends = append(f.Mends, Mend{ID: "meant", Label: "Mark as meant", Edits: []Edit{{Op: "change", Layer: &meant}}})
	}
	f.Mends = append(
		f.Mends,
		Mend{
			ID:    "drop",
			Label: "Leave the " + strings.ToLower(layer.Name) + " out",
			Edits: []Edit{{Op: "drop", ID: f.Layer}},
		},
	)
	c.findings[f.ID] = &f
	c.order = append(c.order, f.ID)
}

func (c *checker) layer(id string) Layer {
	return c.stack[slices.IndexFunc(c.stack, func(l Layer) bool { return l.ID == id })]
}

func (c *checker) wait(w Wait) {
	key := [2]string{w.From, w.To}
	if old, ok := c.waits[key]; !ok || w.Minutes > old.Minutes || (w.Minutes == old.Minutes && w.Most > old.Most) {
		if ok && w.Most == 0 {
			w.Most = old.Most
		}
		c.waits[key] = w
	}
}

// surface names what a layer is for the attack table where it lies, given what
// lies above it: loose powder that was fixed is fixed.
func (c *checker) surface(column []int, under, upper int) string {
	s := surfaceOf(c.stack[column[under]].Family)
	if s == "pigment_loose" || s == "pigment_wet_set" {
		for k := under + 1; k < upper; k++ {
			if c.stack[column[k]].Kind == Fix {
				return "pigment_fixed"
			}
		}
	}
	return s
}

// present tells whether a layer leaves something in the column that can be attacked.
func present(l Layer) bool { return l.Kind != ChippingWork }

// chemistry is rules P1 and W1 and the waits: what the layer brings against each
// thing below, down to the nearest barrier.
func (c *checker) chemistry(zones []string, column []int, at int) {
	l := c.stack[column[at]]
	brings := l.Brings()
	if at > 0 {
		c.settle(column, at)
	}
	if brings == "none" || l.Kind == ChippingWork {
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
		_, next, _, cured := below.Times()
		switch letter {
		case 'N':
			c.need(zones, l, below, next, "next coat", column, at)
		case 'C':
			if below.Family == l.Family && below.Kind == l.Kind {
				c.need(zones, l, below, next, "next coat", column, at) // same product over itself
			} else if !together(l, below) {
				c.need(zones, l, below, cured, "cured", column, at)
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
			Finding{Rule: "P1", Severity: Stop, Layer: l.ID, Title: fmt.Sprintf("%s eats into bare plastic", l.Name),
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
	touch, _, handle, _ := below.Times()
	w := Wait{From: below.ID, To: l.ID, Minutes: touch, Kind: "touch", Rule: "P1", Water: below.Water(),
		Reason: fmt.Sprintf("%s must be touch dry before anything goes over it.", below.Name)}
	if l.Kind == Decals {
		w.Minutes, w.Kind, w.Rule = handle, "handle", "P3"
		w.Reason = fmt.Sprintf("%s must stand handling before decals are slid about on it.", below.Name)
	}
	if l.WaitMin == nil || *l.WaitMin >= w.Minutes {
		c.wait(w)
	}
}

func together(a, b Layer) bool { return a.Together != "" && a.Together == b.Together }

// need asks for a wait. A shorter one that the modeller pinned, or that the log
// shows, is a finding instead.
func (c *checker) need(zones []string, l, below Layer, minutes float64, kind string, column []int, at int) {
	w := Wait{From: below.ID, To: l.ID, Minutes: minutes, Kind: kind, Rule: "P1", Water: below.Water()}
	if kind == "cured" {
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
		short, said = true, fmt.Sprintf("the log shows %s", Spell(real))
	case !logged && l.WaitMin != nil && *l.WaitMin < minutes:
		short, said = true, fmt.Sprintf("you pinned %s", Spell(*l.WaitMin))
		w.Minutes = *l.WaitMin
	}
	c.wait(w)
	if !short {
		return
	}
	f := Finding{Rule: "P1", Severity: Warn, Layer: l.ID, Below: below.ID,
		Title:  fmt.Sprintf("%s too soon over %s", l.Name, lower(below.Name)),
		Reason: fmt.Sprintf("It wants %s after %s (%s), and %s.", Spell(minutes), lower(below.Name), kind, said)}
	if kind == "cured" {
		f.Severity = Stop
	}
	if l.isOily() && below.isOily() && kind == "cured" {
		f.Rule, f.Severity = "W1", Warn
		f.Reason += " Oil and enamel over their uncured like lift each other."
	}
	if logged {
		// What happened cannot be mended by an edit of the plan; it can only be accepted.
		f.Severity = Warn
		c.find(zones, f, func() []Mend { return nil })
		return
	}
	c.find(zones, f, func() []Mend {
		free := l
		free.WaitMin = nil
		mends := []Mend{{ID: "wait", Label: "Wait the " + Spell(minutes), Edits: []Edit{{Op: "change", Layer: &free}}}}
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
	f := Finding{Rule: "P1", Severity: Warn, Layer: l.ID, Below: below.ID}
	switch letter {
	case 'D':
		f.Severity = Stop
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
			Name:    products().byID[family].Name,
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
		other.Family, other.Carrier = id, ""
		if id != l.Family && c.harmless(column, at, other.Brings(), l.Applied) {
			return []Mend{
				{
					ID:    "product." + id,
					Label: "Use " + products().byID[id].Name + " instead",
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

// matt is rule W2: a wash on a matt ground stains.
func (c *checker) matt(zones []string, column []int, at int) {
	l := c.stack[column[at]]
	if l.Kind != Wash {
		return
	}
	ground, ok := c.ground(column, at)
	if !ok || ground.finish() != colour.Matt {
		return
	}
	c.find(zones, Finding{
		Rule:     "W2",
		Severity: Warn,
		Layer:    l.ID,
		Below:    ground.ID,
		Title:    fmt.Sprintf("%s would stain the matt %s", l.Name, lower(ground.Name)),
		Reason: "A matt ground drinks a wash: it leaves a stain all over instead of running into the " +
			"recesses, and cannot be wiped back.",
	},
		func() []Mend { return c.coats(l, "clear_acrylic", colour.Gloss, colour.Satin) })
}

// ground is the nearest film below that gives the surface its sheen.
func (c *checker) ground(column []int, at int) (Layer, bool) {
	for k := at - 1; k >= 0; k-- {
		if l := c.stack[column[k]]; l.Kind.About().Ground {
			return l, true
		}
	}
	return Layer{}, false
}

func (c *checker) coats(before Layer, family string, sheens ...colour.Sheen) []Mend {
	var out []Mend
	for _, sheen := range sheens {
		clear := Layer{
			Name:    strings.ToUpper(string(sheen[:1])) + string(sheen[1:]) + " clear coat",
			Kind:    Clear,
			Family:  family,
			Zones:   slices.Clone(before.Zones),
			Applied: Misted,
			Coats:   1,
			Sheen:   sheen,
		}
		out = append(
			out,
			Mend{
				ID:    "clear." + string(sheen),
				Label: "Put a " + string(sheen) + " clear coat under it",
				Edits: []Edit{{Op: "insert", Layer: &clear, Before: before.ID}},
			},
		)
	}
	return out
}

// chipping is rule P4: a chipping coat wants a thin acrylic directly above it,
// nothing sealing between, and is worked before its window closes.
func (c *checker) chipping(zones []string, column []int, at int) {
	l := c.stack[column[at]]
	if l.Kind != ChippingCoat {
		return
	}
	var cover *Layer
	for k := at + 1; k < len(column); k++ {
		next := c.stack[column[k]]
		switch {
		case next.Kind == ChippingWork:
			if cover != nil {
				f := products().byID[l.Family]
				c.wait(
					Wait{
						From:    cover.ID,
						To:      next.ID,
						Minutes: f.TakeBackFrom,
						Most:    f.TakeBackTo,
						Water:   cover.Water(),
						Kind:    "take-back",
						Rule:    "P4",
						Reason: fmt.Sprintf(
							"the chipping coat can be worked from %s to %s after %s went over it.",
							Spell(f.TakeBackFrom),
							Spell(f.TakeBackTo),
							lower(cover.Name),
						),
					},
				)
			}
			return
		case cover == nil && next.isAcrylic():
			cover = &next
		case cover == nil:
			c.find(zones, Finding{
				Rule:     "P4",
				Severity: Stop,
				Layer:    l.ID,
				Below:    next.ID,
				Title:    fmt.Sprintf("The %s cannot work under %s", lower(l.Name), lower(next.Name)),
				Reason: fmt.Sprintf(
					"Water must reach the chipping coat through a thin acrylic; %s shuts it in.",
					lower(next.Name),
				),
			}, func() []Mend {
				if next.isClear() {
					return []Mend{{ID: "unseal", Label: "Take the clear coat out", Edits: []Edit{{Op: "drop", ID: next.ID}}}}
				}
				acrylic := next
				acrylic.Family, acrylic.Carrier = "waterborne_acrylic", ""
				return []Mend{
					{
						ID:    "product.waterborne_acrylic",
						Label: "Use waterborne acrylic for " + lower(next.Name),
						Edits: []Edit{{Op: "change", Layer: &acrylic}},
					},
				}
			})
			return
		case next.isClear() || next.isOily():
			work := c.laterWork(column, k)
			if work == "" {
				return // never worked: another rule's matter
			}
			c.find(zones, Finding{Rule: "P4", Severity: Stop, Layer: l.ID, Below: next.ID,
				Title:  fmt.Sprintf("%s seals the %s before it is worked", next.Name, lower(l.Name)),
				Reason: "Once sealed, water no longer reaches the chipping coat."}, func() []Mend {
				return []Mend{
					{ID: "worksooner", Label: "Work the chipping coat first", Edits: []Edit{{Op: "move", ID: work, Before: next.ID}}},
				}
			})
			return
		}
	}
}

func (c *checker) laterWork(column []int, from int) string {
	for k := from + 1; k < len(column); k++ {
		if l := c.stack[column[k]]; l.Kind == ChippingWork {
			return l.ID
		}
	}
	return ""
}

// decals is rules M1 and M3.
func (c *checker) decals(zones []string, column []int, at int) {
	l := c.stack[column[at]]
	if l.Kind != Decals {
		return
	}
	if ground, ok := c.ground(column, at); ok {
		sheen := ground.finish()
		if sheen == colour.Matt || (sheen == colour.Satin && !l.Softener) {
			c.find(zones, Finding{Rule: "M1", Severity: Warn, Layer: l.ID, Below: ground.ID,
				Title:  fmt.Sprintf("%s may silver on %s %s", l.Name, sheen, lower(ground.Name)),
				Reason: "Air stays under the film on a rough ground and shows as a silver haze."}, func() []Mend {
				mends := c.coats(l, "clear_acrylic", colour.Gloss)
				if sheen == colour.Satin {
					soft := l
					soft.Softener = true
					mends = append(
						mends,
						Mend{ID: "softener", Label: "Work them down with softener", Edits: []Edit{{Op: "change", Layer: &soft}}},
					)
				}
				return mends
			})
		}
	}
	for k := at + 1; k < len(column); k++ {
		next := c.stack[column[k]]
		if next.isClear() {
			return
		}
		if !next.Kind.About().Creeps {
			continue
		}
		_, _, handle, _ := l.Times()
		if next.WaitMin != nil && *next.WaitMin < handle && k == at+1 {
			free := next
			free.WaitMin = nil
			c.find(zones, Finding{
				Rule:     "M3",
				Severity: Stop,
				Layer:    next.ID,
				Below:    l.ID,
				Title:    fmt.Sprintf("%s on wet %s", next.Name, lower(l.Name)),
				Reason: fmt.Sprintf(
					"You pinned %s; decals need %s before anything wet touches them.",
					Spell(*next.WaitMin),
					Spell(handle),
				),
			}, func() []Mend {
				return []Mend{{ID: "wait", Label: "Wait the " + Spell(handle), Edits: []Edit{{Op: "change", Layer: &free}}}}
			})
			return
		}
		c.find(zones, Finding{Rule: "M3", Severity: Warn, Layer: next.ID, Below: l.ID,
			Title:  fmt.Sprintf("%s over unsealed %s", next.Name, lower(l.Name)),
			Reason: "A wash creeps under the edge of a decal that is not sealed and darkens it."},
			func() []Mend { return c.coats(next, "clear_acrylic", colour.Gloss, colour.Satin) })
		return
	}
}

var carrierNames = map[string]string{
	"water":          "Water",
	"alcohol":        "Alcohol",
	"white_spirit":   "White spirit",
	"strong_solvent": "Strong solvent",
	"decal_softener": "Decal softener",
}

func carrierName(id string) string {
	if name, ok := carrierNames[id]; ok {
		return name
	}
	return id
}

// lower takes the capital off a layer's name within a sentence.
func lower(s string) string {
	if s == "" {
		return s
	}
	return strings.ToLower(s[:1]) + s[1:]
}

// Spell prints minutes as people say them.
func Spell(minutes float64) string {
	switch {
	case minutes < 1:
		return fmt.Sprintf("%.0f s", minutes*60)
	case minutes < 90:
		return fmt.Sprintf("%.0f min", minutes)
	case minutes < 48*60:
		return trimmed(minutes/60) + " h"
	default:
		return trimmed(minutes/(24*60)) + " days"
	}
}

func trimmed(x float64) string { return strings.TrimSuffix(fmt.Sprintf("%.1f", x), ".0") }
