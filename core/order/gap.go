package order

import (
	"time"

	"cinderpath/core/bench"
	"cinderpath/core/document"
	"cinderpath/core/strata"
	"cinderpath/core/unit"
)

// Gap tells, from the log, how long layers really waited for each other, in minutes at
// table conditions: from the end of what was last done to the one to the beginning of what
// puts the other on. Masks and test pieces put nothing on; what was done once more, on a
// mended spot, is another matter.
func Gap(b document.Build, w document.Workshop, log []document.Entry) strata.Gap {
	done := document.Happened(log)
	ends, begins := map[string]time.Time{}, map[string]time.Time{}
	water := map[string]bool{}
	for _, l := range b.Layers {
		water[l.ID] = l.Water()
	}
	for _, e := range log {
		d, stands := done[e.Task]
		kind := bench.KindOf(e.StepKind)
		if !stands || e.Layer == "" || e.Again || d.Skipped {
			continue
		}
		if (kind.Lays || kind.Works) && d.Ended.After(ends[e.Layer]) {
			ends[e.Layer] = d.Ended
		}
		if begin, known := begins[e.Layer]; kind.Lays && (!known || d.Started.Before(begin)) {
			begins[e.Layer] = d.Started
		}
	}
	return func(from, to string) (unit.Minutes, bool) {
		end, ended := ends[from]
		begin, begun := begins[to]
		if !ended || !begun || end.IsZero() {
			return 0, false
		}
		return unit.Minutes(begin.Sub(end).Minutes() * w.Calendar.Rate(water[from])), true
	}
}
