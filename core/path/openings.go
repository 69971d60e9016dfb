package path

import (
	"sort"
)

// stretch is a stretch of minutes since asOf.
type stretch struct{ from, to int32 }

// openings are the stretches in which a class of work may be done, rising and apart.
type openings struct {
	all   []stretch
	byDay []int32 // for each day from asOf on: the first stretch that ends after it begins
	long  int32   // the longest stretch
}

func newOpenings(all []stretch) openings {
	o := openings{all: all}
	for day := int32(0); ; day++ {
		i := sort.Search(len(all), func(k int) bool { return all[k].to > day*1440 })
		o.byDay = append(o.byDay, int32(i))
		if i == len(all) {
			break
		}
	}
	for _, s := range all {
		o.long = max(o.long, s.to-s.from)
	}
	return o
}

// from is the index of the first stretch that ends after t.
func (o *openings) from(t int32) int {
	day := max(int(t)/1440, 0)
	if day >= len(o.byDay) {
		return len(o.all)
	}
	i := int(o.byDay[day])
	for i < len(o.all) && o.all[i].to <= t {
		i++
	}
	return i
}

// first is the least minute from t on at which need minutes fit into one stretch.
func (o *openings) first(t, need int32) int32 {
	for i := o.from(t); i < len(o.all); i++ {
		if s := max(t, o.all[i].from); s+need <= o.all[i].to {
			return s
		}
	}
	return never
}

// last is the greatest minute such that need minutes from it fit and end by t; -1 for none.
func (o *openings) last(t, need int32) int32 {
	for i := min(o.from(t), len(o.all)-1); i >= 0; i-- {
		if s := min(t, o.all[i].to) - need; s >= o.all[i].from {
			return s
		}
	}
	return -1
}

// meet is what two lists of spans share.
func meet(a, b []Span) []Span {
	var out []Span
	for i, k := 0, 0; i < len(a) && k < len(b); {
		from, to := a[i].From, a[i].To
		if b[k].From.After(from) {
			from = b[k].From
		}
		if b[k].To.Before(to) {
			to = b[k].To
		}
		if to.After(from) {
			out = append(out, Span{from, to})
		}
		if a[i].To.Before(b[k].To) {
			i++
		} else {
			k++
		}
	}
	return out
}

// always is open without an end.
var always = openings{all: []stretch{{0, never}}, byDay: make([]int32, 366), long: never}
