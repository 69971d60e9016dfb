package bench

import (
	"fmt"
	"math"

	"cinderpath/core/unit"
)

// Took is how long a step of a kind really took, against what was planned, minutes.
type Took struct {
	Kind    string
	Planned unit.Minutes
	Real    unit.Minutes
}

// Learned is what a modeller's own log says of a kind of step.
type Learned struct {
	Count  int     `json:"count"`
	Factor float64 `json:"factor"` // real over planned
}

// Limits within which one step says something of the next: a session forgotten to be
// closed says nothing.
const (
	leastFactor = 0.2
	mostFactor  = 4
	prior       = 2.0 // the table counts as so many steps
)

// Learn gives, by kind, the factor for the next step: the geometric mean of real over
// planned, drawn towards the table while there are few.
func Learn(log []Took) map[string]Learned {
	sum, count := map[string]float64{}, map[string]int{}
	for _, t := range log {
		if !(t.Planned > 0) || !(t.Real >= 1) {
			continue
		}
		f := t.Real / t.Planned
		if f < leastFactor || f > mostFactor {
			continue
		}
		sum[t.Kind] += math.Log(float64(f))
		count[t.Kind]++
	}
	out := map[string]Learned{}
	for kind, n := range count {
		out[kind] = Learned{Count: n, Factor: math.Exp(sum[kind] / (float64(n) + prior))}
	}
	return out
}

// Apply gives the minutes after what was learned, and says so.
func (l Learned) Apply(minutes unit.Minutes) (unit.Minutes, []string) {
	if l.Count == 0 {
		return minutes, nil
	}
	why := fmt.Sprintf("× %.2f, learned from %d of your own steps of this kind", l.Factor, l.Count)
	return max((minutes * unit.Minutes(l.Factor)).Whole(), 1), []string{why}
}
