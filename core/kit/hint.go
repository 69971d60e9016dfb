package kit

import (
	"fmt"
	"math"
)

// Hint is something of a kit that wants a decision: poses that do not agree, a gun that droops, a deep
// opening, a part that came with a fault.
type Hint struct {
	Part   string `json:"part"` // id of the part or the opening that it is about
	Rule   string `json:"rule"`
	Reason string `json:"reason"`
	Mends  []Mend `json:"mends"`
}

// Mend is a line of the kit as it would be with the mend.
type Mend struct {
	Label   string   `json:"label"`
	Part    *Part    `json:"part,omitempty"`
	Feature *Feature `json:"feature,omitempty"`
	Inside  *Inside  `json:"inside,omitempty"`
}

// Hints lists what wants a decision.
func (k Kit) Hints() []Hint {
	out := k.poses()
	out = append(out, k.droops()...)
	out = append(out, k.gaping()...)
	out = append(out, k.deep()...)
	return append(out, k.faulty()...)
}

// Deepest is how deep a layer of filler may be, mm on the model (B6).
const Deepest = 1.0

// FillLayers is in how many layers an opening is filled: one over a backing plate.
func (f Feature) FillLayers() int {
	if f.Filled == OverPlate {
		return 1
	}
	return int(max(1, math.Ceil(f.MM/Deepest-1e-9)))
}

// The ways to fill a deep opening.
const (
	InLayers  = "layers"
	OverPlate = "plate"
)

// deep tells of openings that want layers or a backing plate (B6).
func (k Kit) deep() (out []Hint) {
	for _, j := range k.Jobs() {
		n := j.FillLayers()
		if j.Do != Fill || n < 2 || j.Filled != "" {
			continue
		}
		plate, layers := j.Feature, j.Feature
		plate.Filled, layers.Filled = OverPlate, InLayers
		out = append(out, Hint{
			Part: j.ID, Rule: "B6",
			Reason: fmt.Sprintf("%s is %.1f mm deep: filled in one go it shrinks; it takes %d layers with their waits, or a "+
				"plate behind it", j.Name, j.MM, n),
			Mends: []Mend{
				{Label: "Put a backing plate behind it", Feature: &plate},
				{Label: fmt.Sprintf("Fill it in %d layers", n), Feature: &layers},
			},
		})
	}
	return out
}

// What is done about a part that came with a fault.
const (
	Mended   = "repair"
	Replaced = "replace"
	Spared   = "spare"
)

// faulty tells of parts that came with a fault about which nothing was decided.
func (k Kit) faulty() (out []Hint) {
	for _, p := range k.Used() {
		if p.Ordered == nil || p.Ordered.Fault == "" || p.Ordered.Remedy != "" {
			continue
		}
		hint := Hint{Part: p.ID, Rule: "F4", Reason: fmt.Sprintf("%s came, but: %s", p.Name, p.Ordered.Fault)}
		for _, m := range []struct{ label, remedy string }{
			{"Repair it", Mended},
			{"Have it replaced", Replaced},
			{"Take another from the spares", Spared},
		} {
			other, ordered := p, *p.Ordered
			ordered.Remedy = m.remedy
			other.Ordered = &ordered
			hint.Mends = append(hint.Mends, Mend{Label: m.label, Part: &other})
		}
		out = append(out, hint)
	}
	return out
}
