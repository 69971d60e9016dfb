package sheets

import (
	"fmt"
	"time"

	"cinderpath/core/measure"
	"cinderpath/core/plan"
)

// AskSchedule reads the zone that a question names, which the core does not, and asks.
func AskSchedule(q plan.ScheduleQuestion) (plan.ScheduleAnswer, error) {
	if q.Zone != "" {
		zone, err := time.LoadLocation(q.Zone)
		if err != nil {
			return plan.ScheduleAnswer{}, &measure.Fault{
				Field:  "zone",
				Reason: fmt.Sprintf("%q is not a time zone", q.Zone),
				Remedy: `write it like "Europe/Lisbon"`,
			}
		}
		q.AsOf = q.AsOf.In(zone)
	}
	return plan.AskSchedule(q)
}
