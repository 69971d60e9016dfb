package plan

import (
	"fmt"
	"math"
	"slices"

	"cinderpath/core/base"
	"cinderpath/core/document"
	"cinderpath/core/rule"
	"cinderpath/core/strata"
)

// besideFindings are what stands against a vehicle on the base of another: earth of another mix than
// what lies there (F3).
func besideFindings(
	b document.Build,
	h document.Host,
	w document.Workshop,
	open func(strata.Layer) bool,
) []strata.Finding {
	l, ok := b.EarthLayer()
	if !ok || sameEarth(l, h) || b.Base == nil || slices.Contains(b.Base.Meant, "F3") || !open(l) {
		return nil
	}
	meant := *b.Base
	meant.Meant = append(slices.Clone(meant.Meant), "F3")
	next := l
	next.Jar, next.Hex = h.Jar, h.Hex
	label := "Take what the ground there is mixed from"
	if j, ok := w.Paint.Pot(h.Jar); ok {
		next.Hex, label = j.Paint.Swatch.Hex(), "Take "+j.Name
	}
	same := change("same", label, next)
	return []strata.Finding{{
		ID: "F3:beside", Rule: "F3", Severity: rule.Hint, Zones: []string{},
		Title:  fmt.Sprintf("%s is mixed from other earth than the base of %s", l.Name, h.Name),
		Reason: "Two vehicles on one ground carry the same earth: one mix ties them together.",
		Mends: []strata.Mend{
			same,
			{ID: "meant", Label: "It came from elsewhere; mark as meant", Edits: []strata.Edit{}, Base: &meant},
		},
	}}
}

// sameEarth tells that a layer is of the earth that lies on another's base.
func sameEarth(l strata.Layer, h document.Host) bool {
	if l.Jar != "" || h.Jar != "" {
		return l.Jar == h.Jar
	}
	return h.Hex == "" || l.Hex == h.Hex
}

// besideLine tells of the base of another build on which one stands.
func besideLine(b document.Build, h *document.Host) *BesideLine {
	if h == nil {
		return &BesideLine{NamedLine: NamedLine{ID: b.Beside()}, Gone: true,
			Words: "The build on whose base it stood is gone, has none any more, or is of another scale."}
	}
	out := &BesideLine{NamedLine: NamedLine{h.ID, h.Name}}
	l, ok := b.EarthLayer()
	switch {
	case !ok:
		out.Words = "It carries no earth yet: take it from " + h.Earth + " (F3)."
	case sameEarth(l, *h):
		out.Words = fmt.Sprintf("%s is of the same earth as %s there (F3).", l.Name, h.Earth)
	default:
		out.Words = fmt.Sprintf("%s is of other earth than %s there (F3).", l.Name, h.Earth)
	}
	return out
}

// groundFindings are what stands against the base of a build: grit that is larger than life (W19), earth
// of another mix than the vehicle's (F3), a vehicle that sinks in deeper than there is room (W12).
func groundFindings(b document.Build, laid base.Laid) (out []strata.Finding) {
	want := b.StandsOn()
	mend := func(id, label string, change func(*base.Base)) strata.Mend {
		next := want
		next.Strewn = slices.Clone(want.Strewn)
		change(&next)
		return strata.Mend{ID: id, Label: label, Edits: []strata.Edit{}, Base: &next}
	}
	found := func(id, of string, s rule.Severity, title, reason string, mends ...strata.Mend) {
		out = append(out, strata.Finding{
			ID: id, Rule: of, Severity: s, Zones: []string{}, Title: title, Reason: reason, Mends: mends,
		})
	}
	for i, g := range want.Strewn {
		real, large := g.Real(float64(b.Scale))
		if !large {
			continue
		}
		kind := base.KindOf(g.Kind)
		fits := math.Floor(kind.Most/float64(b.Scale)*100) / 100
		var mends []strata.Mend
		if fits >= 0.01 {
			mends = append(
				mends,
				mend("sift", fmt.Sprintf("Sift it to %.2f mm", fits), func(x *base.Base) { x.Strewn[i].MM = fits }),
			)
		}
		if at := slices.IndexFunc(base.Stones, func(s string) bool { return s == g.Kind }); at >= 0 {
			for _, s := range base.Stones[at+1:] {
				if base.KindOf(s).Most >= real {
					mends = append(mends, mend("call", "Call it "+s, func(x *base.Base) { x.Strewn[i].Kind = s }))
					break
				}
			}
		}
		mends = append(
			mends,
			mend("leaveout", "Leave it out", func(x *base.Base) { x.Strewn = slices.Delete(x.Strewn, i, i+1) }),
		)
		found(
			fmt.Sprintf("W19:base:%d", i), "W19", rule.Warn, g.Words(float64(b.Scale)),
			"What is strewn has a size in life as well: grit that is too coarse makes the vehicle a toy.", mends...)
	}
	if l, ok := b.EarthLayer(); ok && want.Jar != "" && want.Jar != l.Jar && !slices.Contains(want.Meant, "F3") {
		found(
			"F3:base",
			"F3",
			rule.Hint,
			"The ground is painted from another mix than "+l.Name,
			"The earth on the vehicle came from the ground it stands on: one mix ties both together.",
			mend("same", "Take the same mix", func(x *base.Base) { x.Jar = "" }),
			mend(
				"meant",
				"It came from elsewhere; mark as meant",
				func(x *base.Base) { x.Meant = append(slices.Clone(x.Meant), "F3") },
			),
		)
	}
	room := math.Inf(1)
	for _, s := range laid.Screws {
		room = min(room, s.Gap)
	}
	if room < 0 {
		sink := max(0, want.Sink+math.Floor(room*float64(b.Scale)))
		found(
			"W12:base", "W12", rule.Stop, fmt.Sprintf("The hull's underside would lie %.1f mm in the ground", -room),
			"A vehicle sinks until its tracks bear; its belly on the ground would hold it up.",
			mend("sink", fmt.Sprintf("Let it sink %.0f mm in life", sink), func(x *base.Base) { x.Sink = sink }))
	}
	if laid.Imprint > laid.Lowest+1e-9 {
		deep := math.Ceil(laid.Imprint*2) / 2
		found(
			"B6:base", "B6", rule.Warn,
			fmt.Sprintf("The tracks press %.1f mm deep into %.1f mm of ground", laid.Imprint, laid.Lowest),
			"Where the ground is thinner than the print, the board shows through it.",
			mend("deep", fmt.Sprintf("Lay it %.1f mm deep", deep), func(x *base.Base) { x.Depth = deep }))
	}
	return out
}
