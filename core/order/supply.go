package order

import (
	"fmt"
	"maps"
	"slices"
	"strings"
	"unicode"

	"cinderpath/core/bench"
	"cinderpath/core/kit"
)

// Taking is what a step takes of the shelf besides what its layer is laid from: cement, filler,
// decal fluid, the paint of a detail.
type Taking struct {
	Family string   // of products
	Part   string   // the detail that it paints, by id
	Name   string   // of the detail
	Jar    string   // that the detail names
	ML     float64  // as it comes
	From   []string // what the amount follows from
}

// supply notes what a step of a kind takes for so many of its units.
func (o *orderer) supply(id string, k bench.Kind, units float64) {
	for _, t := range k.Takes {
		if units > 0 {
			o.takes[id] = append(o.takes[id], taking(t, units, k.Unit))
		}
	}
}

func taking(t bench.Take, units float64, unit string) Taking {
	each := map[string]string{"cm2": "cm² on the model", "piece": "pieces", "cm": "cm on the model"}[unit]
	return Taking{
		Family: t.Family,
		ML:     t.Per * units,
		From: []string{
			fmt.Sprintf("%.0f %s", units, each),
			fmt.Sprintf("%g ml for each, a starting value", t.Per),
		},
	}
}

// glued notes the glue of each part that a step fits, by the table of joints, in place of the one
// that its kind usually takes.
func (o *orderer) glued(id string, parts []kit.Part, painted bool) {
	usual := bench.KindOf(o.task(id).Kind).Takes[0]
	count := map[string]int{}
	for _, p := range parts {
		_, to := o.b.Kit.On(p)
		if f := kit.GlueFor(p, to, painted).Family; f != "" {
			count[f] += p.Number()
		}
	}
	o.takes[id] = nil
	o.joints[id] = o.joined(parts, painted)
	o.dangers(id, parts, painted)
	for _, f := range slices.Sorted(maps.Keys(count)) {
		t := bench.Take{Family: f, Per: usual.Per}
		o.takes[id] = append(o.takes[id], taking(t, float64(count[f]), "piece"))
	}
}

// dangers notes what of some parts can hurt: solder, and lead that a part is said to be of.
func (o *orderer) dangers(id string, parts []kit.Part, painted bool) {
	note := func(h string) {
		if !slices.Contains(o.hazards[id], h) {
			o.hazards[id] = append(o.hazards[id], h)
		}
	}
	for _, p := range parts {
		_, to := o.b.Kit.On(p)
		if strings.HasPrefix(kit.GlueFor(p, to, painted).Name, "solder") {
			note("heat")
		}
		apart := func(r rune) bool { return !unicode.IsLetter(r) }
		for word := range strings.FieldsFuncSeq(strings.ToLower(p.Name+" "+p.Note), apart) {
			if word == "lead" && (kit.IsMetal(p.Material) || p.Kind == "cable") {
				note("lead")
			}
		}
	}
}

// joined says how some parts are joined: those of one glue on one thing together.
func (o *orderer) joined(parts []kit.Part, painted bool) []string {
	out := []string{}
	names := map[string][]string{}
	for _, p := range parts {
		on, to := o.b.Kit.On(p)
		g := kit.GlueFor(p, to, painted)
		words := g.Words()
		for _, f := range g.First {
			words += "; first " + f
		}
		if g.Note != "" {
			words += "; " + g.Note
		}
		key := " on " + on + ": " + words
		if len(names[key]) == 0 {
			out = append(out, key)
		}
		names[key] = append(names[key], p.Name)
	}
	for i, key := range out {
		out[i] = listed(names[key]) + key
	}
	return out
}

// corrected notes what is wrong in the leaflet about some things, and what was settled about them.
func (o *orderer) corrected(id string, about ...string) {
	o.told[id] = append(o.told[id], o.b.Kit.Corrected(about...)...)
}

func idsOf(parts []kit.Part) (out []string) {
	for _, p := range parts {
		out = append(out, p.ID)
	}
	return out
}

// painted notes the paint of each detail, in place of what its kind usually takes.
func (o *orderer) painted(id string, parts []kit.Part) {
	k := bench.KindOf(o.task(id).Kind)
	o.takes[id] = nil
	for _, p := range parts {
		for _, t := range k.Takes {
			one := taking(t, float64(p.Number()), k.Unit)
			one.Part, one.Name, one.Jar = p.ID, p.Name, p.Jar
			o.takes[id] = append(o.takes[id], one)
		}
	}
}
