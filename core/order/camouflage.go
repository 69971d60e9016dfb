package order

import (
	"fmt"
	"strings"

	"cinderpath/core/path"
	"cinderpath/core/rule"
	"cinderpath/core/scheme"
	"cinderpath/core/unit"
	"cinderpath/core/zone"
)

// colours enters those of the scheme one over the other, each as its edges are held: masks before
// it where they are quicker, or where nothing else holds.
func (e entry) colours() (ids []string) {
	name, scheme := e.layer.Name, e.b.Scheme
	masked := 0.0 // edge under masks so far, mm on the model
	for i, c := range scheme.Colours {
		part := ColourArea(e.l, e.layer, i)
		held := e.held(i)
		var after []path.Arrow
		if i > 0 {
			last := ids[len(ids)-1]
			next := dries(stop(last, "P1", "the colour below must take the next one of its range"), rule.NextCoat, e.layer)
			if held.edge > 0 && !e.laidAlready(i+1) {
				reason := "a masked edge: tape goes only on a coat that can be handled"
				mask := e.enter(
					step{kind: "mask", n: i + 1, title: name + ": mask for " + c.Name, units: part}, part,
					dries(stop(last, "P3", reason), rule.Handle, e.layer),
				)
				e.task(mask).Colour = i + 1
				e.minutes(mask, (maskSetUp + held.mask).Whole(), held.masks...)
				masked += held.edge
				next = stop(mask, "P3", "the masks are on before the colour")
			}
			after = append(after, next)
		}
		s := step{kind: string(e.layer.Kind), n: i + 1, title: name + ": " + c.Name, units: part, coats: e.layer.Coats}
		if e.byBrush() {
			for _, id := range e.brushed(s, part, after...) {
				e.task(id).Colour = i + 1
				ids = append(ids, id)
			}
			continue
		}
		id := e.enter(s, part, after...)
		t := e.task(id)
		t.Colour = i + 1
		if held.free > 0 {
			whole, inputs := e.paced(s)
			e.minutes(id, (whole + held.free).Whole(), append(inputs, held.frees...)...)
		}
		e.spray(id, e.layer)
		ids = append(ids, id)
	}
	if masked > 0 {
		off := waits(warn(ids[len(ids)-1], "", "dry to the touch, not yet brittle"), rule.Touch, 15)
		off.Water = e.layer.Water()
		id := e.enter(step{kind: "unmask", title: name + ": take the masks off", units: e.area}, e.area, off)
		pace := pace("unmask")
		e.minutes(id, (unmaskSetUp + pace*unit.Minutes(masked/100)).Whole(), "set-up 5 min",
			fmt.Sprintf("%.0f mm of masked edge, %.1f min for 100 mm, a starting value", masked, float64(pace)))
		ids = append(ids, id)
	}
	if scheme.Mist && !e.byBrush() {
		last := ids[len(ids)-1]
		id := e.enter(
			step{kind: "mist", title: name + ": a mist of " + scheme.Colours[0].Name, units: e.area}, e.area,
			dries(stop(last, "P6", "a mist of the first colour softens the contrasts of all"), rule.NextCoat, e.layer),
		)
		e.task(id).Colour = 1
		e.spray(id, e.layer)
		ids = append(ids, id)
	}
	return ids
}

// laidAlready tells of a colour that is on: it needs no mask any more, unless that was begun.
func (e entry) laidAlready(colour int) bool {
	_, laid := e.done[fmt.Sprintf("%s:%s:%d", e.layer.Kind, e.layer.ID, colour)]
	_, masked := e.done[fmt.Sprintf("mask:%s:%d", e.layer.ID, colour)]
	return laid && !masked
}

// Set-ups of masking, minutes, of the library of steps.
const (
	maskSetUp   = unit.Minutes(10)
	unmaskSetUp = unit.Minutes(5)
)

func pace(id string) unit.Minutes { return unit.Minutes(scheme.Pace(id)) }

// holding is what a colour's edges take beyond filling its fields.
type holding struct {
	edge       float64 // masked, mm
	mask, free unit.Minutes
	masks      []string // what they follow from
	frees      []string
}

// held sums how a colour's edges are held over the parts that its layer covers.
func (e entry) held(colour int) (out holding) {
	for _, h := range e.l.Holds {
		if h.Colour != colour+1 || !e.covers(h.Part) {
			continue
		}
		fill := pace("fill_spray") * unit.Minutes(h.AreaCM) * unit.Minutes(max(e.layer.Coats, 1))
		said := fmt.Sprintf("%s by %s: %.0f mm of edge", zone.Words(h.Part), h.Way, h.EdgeMM)
		if !h.Way.Masked() {
			out.free += max(h.Minutes-fill, 0)
			out.frees = append(out.frees, said)
			continue
		}
		off := pace("unmask") * unit.Minutes(h.EdgeMM/100)
		out.mask += max(h.Minutes-fill-off, 0)
		out.edge += h.EdgeMM
		out.masks = append(out.masks, said)
	}
	if len(out.masks) > 0 {
		out.masks = append([]string{"set-up 10 min"}, out.masks...)
	}
	return out
}

// covers tells whether the layer lies on some zone of a part.
func (e entry) covers(part string) bool {
	for _, z := range e.l.Zones {
		if zone.Part(z) == part && e.layer.Covers(z) {
			return true
		}
	}
	return false
}

// Masks says in one line what is laid on for a colour, by parts.
func Masks(l Surface, colour int) string {
	var parts []string
	tape, cover := 0.0, 0.0
	for _, h := range l.Holds {
		if h.Colour == colour && h.Way.Masked() {
			parts = append(parts, fmt.Sprintf("%s: %s", zone.Words(h.Part), h.Way))
			tape += h.TapeCM
			cover += h.CoverCM
		}
	}
	if len(parts) == 0 {
		return ""
	}
	out := strings.Join(parts, "; ")
	if tape > 0 {
		out += fmt.Sprintf("; %.0f cm of tape", tape)
	}
	return out + fmt.Sprintf("; %.0f cm² covered", cover)
}
