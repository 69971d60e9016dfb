package order

import (
	"fmt"

	"cinderpath/core/document"
	"cinderpath/core/unit"
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
