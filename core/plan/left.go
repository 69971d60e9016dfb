package plan

import (
	"fmt"
	"slices"
	"strings"

	"cinderpath/core/bench"
	"cinderpath/core/document"
	"cinderpath/core/measure"
	"cinderpath/core/strata"
	"cinderpath/core/zone"
)

// hiding are the layers that hide a flaw, by the word with which the table of mishaps promises it.
var hiding = []struct {
	word  string
	kinds []strata.Kind
}{
	{"texture", []strata.Kind{strata.Mud, strata.Pigment, strata.Dust, strata.Splash}},
	{"dust", []strata.Kind{strata.Dust, strata.Mud, strata.Pigment}},
	{"mud", []strata.Kind{strata.Mud}},
	{"next colour", []strata.Kind{strata.Colour}},
	{"earth", []strata.Kind{strata.Dust, strata.Mud, strata.Pigment}},
	{"heavy wear", []strata.Kind{strata.Chips, strata.ChippingWork, strata.Rust}},
}

// LeftAlone refuses to leave a mishap because something will cover it, where nothing does that is
// still to come.
func (p Plan) LeftAlone(b document.Build, e document.Entry) error {
	m, ok := bench.MishapOf(e.Mishap)
	if e.Kind != document.Mishap || e.Choice != document.Leave || !ok {
		return nil
	}
	var kinds []strata.Kind
	for _, h := range hiding {
		if strings.Contains(m.Leave, h.word) {
			kinds = append(kinds, h.kinds...)
		}
	}
	if len(kinds) == 0 {
		return nil // it is left for another reason
	}
	var bare []string
	for _, z := range e.Zones {
		if !slices.ContainsFunc(p.Steps, func(s Step) bool { return covers(b, s, kinds, z) }) {
			bare = append(bare, z)
		}
	}
	if len(e.Zones) == 0 && !slices.ContainsFunc(p.Steps, func(s Step) bool { return covers(b, s, kinds, "") }) {
		bare = []string{"the vehicle"}
	}
	if len(bare) == 0 {
		return nil
	}
	return measure.Refuse(
		"choice",
		fmt.Sprintf("nothing that is still to come covers it on %s", zone.Said(bare)),
		"repair it, or lay mud or dust there first",
	)
}

// covers tells whether a step that is still to come lays one of some kinds on a zone.
func covers(b document.Build, s Step, kinds []strata.Kind, on string) bool {
	at := slices.IndexFunc(b.Layers, func(l strata.Layer) bool { return l.ID == s.Layer })
	if at < 0 || s.Layer == "" || s.Status.Over() || !slices.Contains(kinds, b.Layers[at].Kind) {
		return false
	}
	zones := b.Layers[at].Zones
	return on == "" || len(zones) == 0 || slices.ContainsFunc(zones, func(z string) bool { return zone.Meet(z, on) })
}
