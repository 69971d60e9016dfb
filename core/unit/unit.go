// Package unit holds the units that cross rooms and are neither lengths nor colours: the
// minutes of work and waiting, and the part of something that is meant.
package unit

import (
	"fmt"
	"math"
	"strings"
	"time"
)

// Minutes of work, or of waiting at 20 °C and 50 % humidity where nothing else is said.
type Minutes float64

// Longer units, in minutes.
const (
	Hour Minutes = 60
	Day  Minutes = 24 * Hour
)

// MinutesOf a duration.
func MinutesOf(d time.Duration) Minutes { return Minutes(d.Minutes()) }

// Duration is the same as what clocks count in.
func (m Minutes) Duration() time.Duration { return time.Duration(float64(m) * float64(time.Minute)) }

// Whole is the next whole minute.
func (m Minutes) Whole() Minutes { return Minutes(math.Ceil(float64(m) - 1e-9)) }

// String is to the minute, as one plans with it: 45 min, 2 h, 2 h 20 min.
func (m Minutes) String() string {
	n := int(m.Whole())
	switch {
	case n < 60:
		return fmt.Sprintf("%d min", n)
	case n%60 == 0:
		return fmt.Sprintf("%d h", n/60)
	}
	return fmt.Sprintf("%d h %d min", n/60, n%60)
}

// About is as long as one remembers a wait: 30 s, 45 min, 2.5 h, 3 days.
func (m Minutes) About() string {
	switch {
	case m < 1:
		return fmt.Sprintf("%.0f s", float64(m*60))
	case m < 90:
		return fmt.Sprintf("%.0f min", float64(m))
	case m < 2*Day:
		return tenth(m/Hour) + " h"
	default:
		return tenth(m/Day) + " days"
	}
}

func tenth(x Minutes) string { return strings.TrimSuffix(fmt.Sprintf("%.1f", float64(x)), ".0") }

// Share is a part of a whole, 0 to 1.
type Share float64

// Of is that part of a whole, in the whole's own unit.
func (s Share) Of(whole float64) float64 { return float64(s) * whole }

// ShareOf is the part that some of a whole is.
func ShareOf(part, whole float64) Share { return Share(part / whole) }
