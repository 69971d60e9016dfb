package plan_test

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/plan"
	"cinderpath/core/relief"
	"cinderpath/core/strata"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// pacedSteps are the steps that lay one layer on the tank, which has no other small relief than what is
// given.
func pacedSteps(t *testing.T, small []relief.Detail, l strata.Layer) (out []plan.Step) {
	b := worn(t, l)
	last := len(b.Layers) - 1
	if l.Applied != "" {
		b.Layers[last].Applied = l.Applied
	}
	b.Small = &small
	var d plan.Deriver
	plans, err := d.Plans(workshop(), []document.Item{{Build: b}}, monday)
	require.NoError(t, err)
	for _, s := range plans[0].Steps {
		if s.Layer == b.Layers[last].ID && s.Kind == string(l.Kind) {
			out = append(out, s)
		}
	}
	require.NotEmpty(t, out)
	return out
}

// counted is what steps tell that they have to work, in a unit, over all of them.
func counted(t *testing.T, steps []plan.Step, unit string) (sum float64) {
	for _, s := range steps {
		require.NotNil(t, s.TimeWhy)
		for _, in := range s.TimeWhy.Inputs {
			var n float64
			if strings.HasSuffix(in, unit) {
				_, err := fmt.Sscanf(in, "%f", &n)
				require.NoError(t, err, in)
				sum += n
			}
		}
	}
	return sum
}

// A pin wash takes its time by the length of its lines: a joint asks for as much more as it is long.
func TestAPinWashIsTimedByItsLines(t *testing.T) {
	wash := strata.Layer{Kind: strata.Wash, Technique: "wash_pin"}
	without := pacedSteps(t, nil, wash)
	b := tank(t)
	panels, err := form.Panels(b.Body, form.Running{})
	require.NoError(t, err)
	joint := relief.Detail{ID: "joint", Zone: "hull.deck", Kind: relief.Joint, Way: relief.Round}
	laid, real := relief.Lay([]relief.Detail{joint}, panels), 0.0
	for i := range panels {
		_, long := relief.Count(laid.Of(i))
		real += long
	}
	with := pacedSteps(t, []relief.Detail{joint}, wash)
	long := real / float64(b.Scale) / 10
	require.Greater(t, long, 5.0)
	// Where the joint itself is wide, all of it is filled: a line of 37.7 mm in life, and the joint.
	long *= 1 + joint.Filled().SizeMM/37.7
	more := counted(t, with, "cm on the model") - counted(t, without, "cm on the model")
	assert.InDelta(t, long, more, 0.06*long+1, "cm of lines on the model")

	minutes := func(steps []plan.Step) (sum float64) {
		for _, s := range steps {
			sum += float64(s.Minutes)
		}
		return sum
	}
	lines := counted(t, with, "cm on the model")
	assert.InDelta(t, 5+0.1*lines, minutes(with), float64(len(with)), "a tenth of a minute each, set up once")
}

// What is laid on less takes less time: of a film, by where it lies.
func TestAFilmIsTimedByWhereItLies(t *testing.T) {
	all := pacedSteps(t, nil, strata.Layer{Kind: strata.Dust, Technique: "dust_mist", Applied: strata.Misted})
	flats := pacedSteps(t, nil, strata.Layer{Kind: strata.Dust, Technique: "dust_stipple"})
	on, low := counted(t, all, "cm² on the model"), counted(t, flats, "cm² on the model")
	assert.Less(t, low, 0.7*on, "stippled on flats alone")
	assert.Positive(t, low)
	got := float64(flats[0].Minutes)
	assert.InDelta(t, math.Ceil(5+0.04*low), got, 1)
	brushed := pacedSteps(t, nil, strata.Layer{Kind: strata.Dust, Technique: "dust_mist", Applied: strata.Brushed})
	assert.Greater(t, brushed[0].Minutes, 2*all[0].Minutes, "by brush it goes at a brush's pace")
}
