package path

import (
	"math"
	"sort"
	"time"
)

// drying tells how far things have dried: the rate of the room's air, summed over the
// minutes since asOf. One stretch per day, since the air is known by day.
type drying struct {
	from []int32   // minutes since asOf at which a day begins; rising
	sum  []float64 // dried until then, minutes at table conditions
	rate []float64 // during the day
}

// backwards is how far into the past drying is followed; what ended before is as dry
// as a thing gets.
const backwards = 60 * 24 * time.Hour

func newDrying(c Calendar, water bool, asOf time.Time, horizon time.Duration) *drying {
	d := &drying{}
	year, month, day := asOf.Date()
	first := -int(backwards.Hours() / 24)
	last := int(horizon.Hours()/24) + 8
	for k := first; k <= last; k++ {
		date := time.Date(year, month, day+k, 0, 0, 0, 0, asOf.Location())
		at := int32(math.Floor(date.Sub(asOf).Minutes()))
		if n := len(d.from); n > 0 {
			d.sum = append(d.sum, d.sum[n-1]+d.rate[n-1]*float64(at-d.from[n-1]))
		} else {
			d.sum = append(d.sum, 0)
		}
		d.from = append(d.from, at)
		d.rate = append(d.rate, c.On(date, asOf).rate(water))
	}
	return d
}

// at is the sum at a minute; before the first day it is that of the first.
func (d *drying) at(t int32) float64 {
	i := int(t-d.from[0]) / 1440
	i = min(max(i, 0), len(d.from)-1)
	for i > 0 && d.from[i] > t {
		i--
	}
	for i+1 < len(d.from) && d.from[i+1] <= t {
		i++
	}
	return d.sum[i] + d.rate[i]*math.Max(float64(t-d.from[i]), 0)
}

// day is the first one of which something holds that holds of all later ones, and of none before a minute's:
// mostly one of the next few.
func (d *drying) day(from int32, holds func(k int) bool) int {
	const near = 4
	i := max(int(from-d.from[0])/1440-1, 0)
	for range near {
		if i >= len(d.sum) || holds(i) {
			return min(i, len(d.sum))
		}
		i++
	}
	return i + sort.Search(len(d.sum)-i, func(k int) bool { return holds(i + k) })
}

// slack keeps whole minutes whole where sums of rates round.
const slack = 1e-6

// reach is the least minute at which the sum is s; never where it dries no more. It is looked for from a minute
// on, before which it is not.
func (d *drying) reach(s float64, from int32) int32 {
	i := d.day(from, func(k int) bool { return d.sum[k] >= s-slack }) - 1
	if i < 0 {
		return d.from[0]
	}
	if d.rate[i] <= 0 {
		return never
	}
	m := math.Ceil((s - d.sum[i] - slack) / d.rate[i])
	if m > float64(never-d.from[i]) {
		return never
	}
	return d.from[i] + int32(m)
}

// dry is the least minute at which what ended at minute e has dried for wait.
func (d *drying) dry(e int32, wait float64) int32 {
	if wait <= 0 {
		return e
	}
	return max(d.reach(d.at(e)+wait, e), e)
}

// closes is the last minute at which what ended at e has dried for no more than most.
func (d *drying) closes(e int32, most float64) int32 {
	s := d.at(e) + most
	i := d.day(e, func(k int) bool { return d.sum[k] > s+slack }) - 1
	if i < 0 {
		return d.from[0]
	}
	if d.rate[i] <= 0 { // it stays open until it dries again
		if i+1 < len(d.from) {
			return d.from[i+1]
		}
		return never
	}
	m := math.Floor((s - d.sum[i] + slack) / d.rate[i])
	if m > float64(never-d.from[i]) {
		return never
	}
	return d.from[i] + int32(m)
}

// opener is the least minute e such that what ends at e has dried for no more than
// most at minute t: the other way round of closes.
func (d *drying) opener(t int32, most float64) int32 {
	s := d.at(t) - most
	if s <= 0 {
		return d.from[0]
	}
	e := min(max(d.reach(s, d.from[0])-1, d.from[0]), t)
	return e + int32(sort.Search(int(t-e), func(k int) bool { return d.closes(e+int32(k), most) >= t }))
}

// latest is the last minute e such that what ends at e has dried for wait at minute t.
func (d *drying) latest(t int32, wait float64) int32 {
	if wait <= 0 {
		return t
	}
	s := d.at(t) - wait
	if s < 0 {
		return math.MinInt32 / 4
	}
	i := sort.Search(len(d.sum), func(k int) bool { return d.sum[k] > s+slack }) - 1
	if i < 0 {
		return math.MinInt32 / 4
	}
	if d.rate[i] <= 0 {
		if i+1 < len(d.from) {
			return min(d.from[i+1], t)
		}
		return t
	}
	return min(d.from[i]+int32(math.Floor((s-d.sum[i]+slack)/d.rate[i])), t)
}
