package order

import (
	"fmt"

	"cinderpath/core/bench"
	"cinderpath/core/document"
	"cinderpath/core/rule"
	"cinderpath/core/strata"
	"cinderpath/core/unit"
	"cinderpath/core/zone"
)

// wheelWays are the ways of keeping hub and rubber apart, with their set-up and minutes for a wheel: starting
// values, which the log corrects. The first is what the table of steps has.
var wheelWays = []struct {
	answer       string
	setUp, wheel unit.Minutes
}{
	{"hub first, masked", 10, 2.5},
	{"rubber first, hub through a template", 16, 2.2},
	{"rim by brush", 3, 3.5},
}

// wheelWay says how tyres and hubs are kept apart, and how long that takes: the quickest, or one's own way.
func (o *orderer) wheelWay(id string, wheels float64) {
	cost := func(k int) unit.Minutes { return wheelWays[k].setUp + wheelWays[k].wheel*unit.Minutes(wheels) }
	best := 0
	for k, w := range wheelWays {
		if w.answer == o.b.School(document.SchoolWheels) {
			best = k
			break
		}
		if cost(k) < cost(best) {
			best = k
		}
	}
	if best > 0 {
		w := wheelWays[best]
		o.minutes(
			id,
			cost(best).Whole(),
			w.answer,
			fmt.Sprintf(
				"set-up %.0f min, %.0f wheels, %.1f min for each, a starting value",
				float64(w.setUp),
				wheels,
				float64(w.wheel),
			),
		)
	}
}

// linked enters what links that are painted before they are joined wait for, and what waits for them.
func (o *orderer) linked() {
	if o.links == "" {
		return
	}
	on := func(l strata.Layer) bool { return l.Covers(zone.Track(zone.Left)) || l.Covers(zone.Track(zone.Right)) }
	t := o.task(o.links)
	t.Stage = bench.Paint
	for _, l := range o.b.Layers {
		switch {
		case !on(l) || o.last[l.ID] == "":
		case l.Kind.About().Wears:
			if first := o.firstOf(l.ID); first != "" {
				worn := then(o.links, "links are joined before they are worn")
				o.task(first).After = append(o.task(first).After, waits(worn, rule.Handle, cementTouch))
			}
			return
		default:
			painted := stop(o.last[l.ID], "P3", "links are cut off and joined when "+l.Name+" can be handled")
			t.After = append(t.After, dries(painted, rule.Handle, l))
		}
	}
}
