package order

import (
	"cmp"
	"slices"

	"cinderpath/core/document"
	"cinderpath/core/kit"
	"cinderpath/core/rule"
)

// detailGroups are the kinds of details that are painted in one go each, in their order: what lies
// deepest first, what is touched most last.
var detailGroups = []struct{ kind, name string }{
	{"cable", "cables"},
	{"tool", "tools"},
	{"stowage", "stowage"},
	{"lamp", "lights"},
	{"crew", "crew"},
}

// details enters the painting of details over the colour: in groups of one kind, where there is more than
// one kind. What was begun as one step stays one.
func (o *orderer) details(coloured string) []string {
	if coloured == "" {
		return []string{}
	}
	return append(o.onTheColour(coloured), o.innerFaces(coloured)...)
}

// counted are the names of parts, and how many pieces they are.
func counted(list []kit.Part) (names []string, n int) {
	for _, p := range list {
		names = append(names, p.Name)
		n += p.Number()
	}
	return names, n
}

// innerFaces enters the inner faces of hatches that stand open over a detailed inside: in its colour, which
// ends at the seal.
func (o *orderer) innerFaces(coloured string) (out []string) {
	for _, in := range o.b.Kit.Insides {
		open := o.b.Kit.OpenOver(in.Part)
		if in.State != kit.Detailed || !slices.Contains(in.Does(), "paint") || len(open) == 0 {
			continue
		}
		names, n := counted(open)
		id := o.add(
			step{kind: "innerfaces", subject: in.Part, title: listed(names), units: float64(n)},
			dries(warn(coloured, "", "the inner face is painted over the dry colour"), rule.NextCoat, o.layer(coloured)),
		)
		o.why[id] = append(
			o.why[id],
			"they stand open over the inside of the "+in.Part+", and are of its colour: "+in.Paint(),
		)
		if slices.Contains(in.Does(), "chips") {
			o.told[id] = append(o.told[id], "chipped where hands and boots touch: rim, handle, latch")
		}
		if slices.Contains(in.Does(), "wash") {
			o.told[id] = append(o.told[id], "washed with the rest of the inside's dirt, round latch and hinge")
		}
		out = append(out, id)
	}
	return out
}

// onTheColour enters tools, stowage, lamps and what else is painted on the colour.
func (o *orderer) onTheColour(coloured string) []string {
	all := o.b.Kit.Details()
	if len(all) == 0 {
		return []string{}
	}
	groups := map[string][]kit.Part{}
	for _, p := range all {
		groups[p.Kind] = append(groups[p.Kind], p)
	}
	if len(all) == 1 || o.under("details:all:1") ||
		len(groups) == 1 && o.b.School(document.SchoolDetails) != document.OneByOne &&
			o.b.School(document.SchoolDetails) != document.ByColour {
		return []string{o.detail("all", "", all, coloured)}
	}
	var out []string
	switch o.b.School(document.SchoolDetails) {
	case document.OneByOne:
		for _, p := range all {
			out = append(out, o.detail(p.ID, "", []kit.Part{p}, coloured))
		}
		return out
	case document.ByColour:
		return o.byColour(all, coloured)
	}
	for _, g := range detailGroups {
		if list := groups[g.kind]; len(list) > 0 {
			out = append(out, o.detail(g.kind, g.name+": ", list, coloured))
		}
	}
	return out
}

// byColour enters details of one jar together, in the order in which their jars come first; those without a
// jar are one group, the last.
func (o *orderer) byColour(all []kit.Part, coloured string) (out []string) {
	var jars []string
	groups := map[string][]kit.Part{}
	for _, p := range all {
		if !slices.Contains(jars, p.Jar) && p.Jar != "" {
			jars = append(jars, p.Jar)
		}
		groups[p.Jar] = append(groups[p.Jar], p)
	}
	for _, j := range append(jars, "") {
		if list := groups[j]; len(list) > 0 {
			out = append(
				out,
				o.detail(cmp.Or(j, "rest"), map[bool]string{true: "one colour, "}[j != "" && len(list) > 1], list, coloured),
			)
		}
	}
	return out
}

// detail enters the painting of some details.
func (o *orderer) detail(subject, group string, list []kit.Part, coloured string) string {
	names, n := counted(list)
	id := o.add(
		step{kind: "details", subject: subject, title: group + listed(names), units: float64(n)},
		dries(warn(coloured, "", "details are painted over the dry colour"), rule.NextCoat, o.layer(coloured)),
	)
	o.painted(id, list)
	tool := func(p kit.Part) bool { return p.Kind == "tool" }
	if slices.ContainsFunc(list, tool) {
		o.tools(id, n, !slices.ContainsFunc(list, func(p kit.Part) bool { return !tool(p) }))
	}
	return id
}

// tools says how one's schools have tools and their wood; only tells of a step of nothing else.
func (o *orderer) tools(id string, n int, only bool) {
	o.told[id] = append(o.told[id], "wood "+o.b.School(document.SchoolWood)+", the grain last")
	o.why[id] = append(o.why[id], "a slip of paper under each that stays on keeps paint off the hull")
	if o.b.School(document.SchoolTools) == document.HandlesOnly && only {
		m, inputs := o.paced(step{kind: "details", units: float64(n)})
		o.minutes(id, (m / 2).Whole(), append(inputs, "handles and bare chips only: half of it")...)
		o.why[id] = append(o.why[id], "the rest is the vehicle's own colour")
	}
}

// dryFitted enters the trying of stowage in its place, lifted out again in groups that are painted apart.
func (s *shop) dryFitted() {
	var list []kit.Part
	for _, p := range s.b.Kit.Used() {
		if p.Kind == "stowage" && s.off[p.ID] {
			list = append(list, p)
		}
	}
	if len(list) < 2 || s.primed() && !s.under("drystow:stowage:1") {
		return
	}
	names, n := counted(list)
	id := s.add(step{kind: "drystow", subject: "stowage", title: listed(names), units: float64(n)}, s.washed)
	s.built = append(s.built, then(id, "what was draped in its place is lifted out before primer"))
}
