package vehicle

import (
	"fmt"
	"math"
	"slices"

	"cinderpath/core/document"
	"cinderpath/core/rule"
	"cinderpath/core/strata"
	"cinderpath/core/zone"
)

// RoomForMud is rule W12: the mud on wheels and arms leaves the room that they need.
// The mends make the layer as thin as the room allows, or leave the running gear out.
func RoomForMud(b document.Build, g *GearLine) []strata.Finding {
	mud := MudDepth(b)
	if g == nil || mud <= 0 {
		return nil
	}
	least, between := math.Inf(1), ""
	for _, line := range g.Clearance {
		if line.room < least {
			least, between = line.room, line.Name
		}
	}
	if least > mud || math.IsInf(least, 1) {
		return nil
	}
	var out []strata.Finding
	for _, l := range b.Layers {
		low := len(l.Zones) == 0 || l.Covers(zone.Gear(zone.Left, "road")) || l.Covers(zone.Named("lower", zone.Left))
		if l.Kind != strata.Mud || l.DepthMM < least || !low {
			continue
		}
		f := strata.Finding{
			ID:       "W12:" + l.ID + ":",
			Rule:     "W12",
			Severity: rule.Stop,
			Layer:    l.ID,
			Zones:    []string{zone.Gear(zone.Left, "road"), zone.Gear(zone.Right, "road")},
			Title:    fmt.Sprintf("%s leaves no room: %s", l.Name, between),
			Reason: fmt.Sprintf(
				"%.1f mm of mud where there are %.2f mm: what turns would no longer turn.",
				l.DepthMM,
				math.Max(least, 0),
			),
		}
		if thin := math.Floor(least*0.8*10) / 10; thin >= 0.1 {
			layer := l
			layer.DepthMM = thin
			f.Mends = append(
				f.Mends,
				strata.Mend{
					ID:    "thinner",
					Label: fmt.Sprintf("Make it %.1f mm deep", thin),
					Edits: []strata.Edit{{Op: "change", Layer: &layer}},
				},
			)
		}
		elsewhere := l
		elsewhere.Zones = slices.DeleteFunc(slices.Clone(l.Zones), func(z string) bool {
			return zone.OnGear(z) || zone.Under(z, "lower")
		})
		if len(elsewhere.Zones) > 0 {
			f.Mends = append(
				f.Mends,
				strata.Mend{
					ID:    "elsewhere",
					Label: "Leave the running gear and what is behind it out",
					Edits: []strata.Edit{{Op: "change", Layer: &elsewhere}},
				},
			)
		}
		f.Mends = append(
			f.Mends,
			strata.Mend{ID: "drop", Label: "Leave the layer out", Edits: []strata.Edit{{Op: "drop", ID: l.ID}}},
		)
		out = append(out, f)
	}
	return out
}
