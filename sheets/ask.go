package sheets

import (
	"fmt"
	"time"

	"cinderpath/core/build"
)

// AskSchedule reads the zone that a question names, which the core does not, and asks.
func AskSchedule(q build.ScheduleQuestion) (build.ScheduleAnswer, error) {
	if q.Zone != "" {
		zone, err := time.LoadLocation(q.Zone)
		if err != nil {
			return build.ScheduleAnswer{}, &build.Fault{Field: "zone", Reason: fmt.Sprintf("%q is not a time zone", q.Zone), Remedy: `write it like "Europe/Lisbon"`}
		}
		q.AsOf = q.AsOf.In(zone)
	}
	return build.AskSchedule(q)
}
