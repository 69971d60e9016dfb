package plan_test

import (
	"slices"
	"testing"

	"cinderpath/core/document"
	"cinderpath/core/path"
	"cinderpath/core/plan"
	"cinderpath/core/rule"
	"cinderpath/core/strata"
	"cinderpath/core/zone"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// What is worked wet into each other goes section by section, each layer in turn on the same zones and in
// the same session, none longer than it stays wet; a wash likewise, with its take-back.
func TestWetGroupsGoBySections(t *testing.T) {
	b := worn(
		t,
		strata.Layer{Kind: strata.Filter},
		strata.Layer{Kind: strata.Dots},
		strata.Layer{Kind: strata.Streaks, Zones: []string{"hull", "turret"}},
	)
	n := len(b.Layers)
	for i := n - 3; i < n; i++ {
		b.Layers[i].Together = b.Layers[n-3].ID
	}
	var d plan.Deriver
	plans, err := d.Plans(workshop(), []document.Item{{Build: b}}, monday)
	require.NoError(t, err)
	p := plans[0]
	require.Empty(t, p.Conflicts)
	bySection := map[int][]plan.Step{}
	area := map[string]float64{}
	for _, s := range p.Steps {
		at := slices.IndexFunc(b.Layers[n-3:], func(l strata.Layer) bool { return l.ID == s.Layer })
		if at < 0 {
			continue
		}
		require.Positive(t, s.Section, s.Title)
		bySection[s.Section] = append(bySection[s.Section], s)
		area[s.Layer] += s.AreaCM
	}
	require.Greater(t, len(bySection), 3, "fifteen minutes at a time")
	order := []string{"filter", "dots", "streaks"}
	for section, steps := range bySection {
		hands := 0.0
		for i, s := range steps {
			hands += float64(s.Minutes)
			assert.NotEmpty(t, s.Zones, "section %d says where", section)
			if i == 0 {
				continue
			}
			before := steps[i-1]
			assert.Less(t, slices.Index(order, before.Kind), slices.Index(order, s.Kind), "section %d", section)
			k := slices.IndexFunc(s.After, func(a path.Arrow) bool { return a.From == before.ID })
			require.GreaterOrEqual(t, k, 0, s.Title)
			assert.True(t, s.After[k].Same, "in one session")
			assert.Positive(t, float64(s.After[k].Most), "in one window")
			require.NotEmpty(t, s.Spans)
			assert.False(t, s.Spans[0].From.Before(before.End()))
			assert.Equal(t, before.Spans[0].From.YearDay(), s.Spans[0].From.YearDay(), "one evening")
		}
		assert.Less(t, hands, 15+5*float64(len(steps))+1, "section %d", section)
	}
	for _, l := range b.Layers[n-3:] {
		whole := 0.0
		for _, z := range p.Zones {
			if l.Covers(z.Zone) {
				whole += z.AreaCM
			}
		}
		assert.InDelta(t, whole, area[l.ID], 0.01, l.Kind)
	}
	// What was begun without saying where goes on as it was begun.
	log := []document.Entry{
		{
			Key:      "1",
			Kind:     document.Started,
			At:       monday.Add(-100 * 60e9),
			Task:     "filter:" + b.Layers[n-3].ID + ":1",
			Title:    "Filter",
			Subject:  path.Subject{Layer: b.Layers[n-3].ID},
			StepKind: "filter",
		},
	}
	plans, err = d.Plans(workshop(), []document.Item{{Build: b, Log: log}}, monday)
	require.NoError(t, err)
	assert.Equal(
		t,
		1,
		len(slices.DeleteFunc(slices.Clone(plans[0].Steps), func(s plan.Step) bool { return s.Kind != "filter" })),
	)

	washed := worn(t, strata.Layer{Kind: strata.Wash})
	plans, err = d.Plans(workshop(), []document.Item{{Build: washed}}, monday)
	require.NoError(t, err)
	for _, s := range plans[0].Steps {
		if s.Kind != "takeback" {
			continue
		}
		k := slices.IndexFunc(s.After, func(a path.Arrow) bool { return a.Kind == rule.TakeBack })
		require.GreaterOrEqual(t, k, 0)
		of := plans[0].Steps[slices.IndexFunc(plans[0].Steps, func(o plan.Step) bool { return o.ID == s.After[k].From })]
		assert.Equal(t, of.Zones, s.Zones)
		assert.LessOrEqual(t, float64(of.Minutes), 20.0, "a quarter of an hour, and setting up")
		assert.NotEmpty(t, zone.Said(s.Zones))
	}
}
