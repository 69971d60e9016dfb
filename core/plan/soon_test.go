package plan_test

import (
	"encoding/json"
	"fmt"
	"testing"

	"cinderpath/core/document"
	"cinderpath/core/plan"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Where many builds are planned nobody waits for the search: the last schedule is mended, keeps every arrow and
// every task, and says that it is provisional; once the better one is found it is given, the same that is
// found by whoever never saw the other. Two builds are planned at a glance first; with one of that size there is
// nothing to wait for.
func TestAPlanOfManyBuildsIsMendedAtOnce(t *testing.T) {
	w, built := workshop(), tank(t)
	var items []document.Item
	for i := range 260/len(planOf(t, built).Steps) + 1 {
		b := built
		b.ID, b.Priority = fmt.Sprintf("build-%d", i), i
		items = append(items, document.Item{Build: b})
	}
	var d plan.Deriver
	soonest := func(items []document.Item) (plan.All, bool) {
		o, err := d.Soon(t.Context(), w, items, monday)
		require.NoError(t, err)
		last, err := o.Plan(len(items) - 1) // before all others
		require.NoError(t, err)
		all, err := o.All()
		require.NoError(t, err)
		assert.Equal(t, all.Plans[len(items)-1], last)
		written, err := o.Written(0)
		require.NoError(t, err)
		first, err := json.Marshal(all.Plans[0])
		require.NoError(t, err)
		assert.JSONEq(t, string(first), string(written))
		assert.Equal(t, o.Provisional, all.Evenings.Provisional)
		assert.Equal(t, o.Provisional, o.Wanted != "")
		return all, o.Provisional
	}
	_, provisional := soonest(items[:1])
	assert.False(t, provisional)
	glance, provisional := soonest(items[:2])
	assert.True(t, provisional)
	two, err := d.For(t.Context(), w, items[:2], monday)
	require.NoError(t, err)
	assert.LessOrEqual(t, two.Evenings.Gap, glance.Evenings.Gap)
	again, provisional := soonest(items[:2])
	assert.False(t, provisional)
	assert.Equal(t, two, again)
	first, err := d.For(t.Context(), w, items, monday)
	require.NoError(t, err)
	known, provisional := soonest(items)
	assert.False(t, provisional)
	assert.Equal(t, first, known, "what is known is given")

	changed := items[3].Build
	changed.Scheme.Colours = changed.Scheme.Colours[:2]
	items[3] = items[3].With(changed)
	soon, provisional := soonest(items)
	require.True(t, provisional)
	still, _ := soonest(items)
	assert.Equal(t, soon, still, "as long as nothing better is found")
	rests := 0
	require.NoError(t, d.Better(t.Context(), w, items, monday, func() { rests++ }))
	assert.Positive(t, rests, "others can be let go first")
	best, err := d.For(t.Context(), w, items, monday)
	require.NoError(t, err)
	for i, p := range soon.Plans {
		assert.True(t, p.Provisional)
		require.Len(t, p.Steps, len(best.Plans[i].Steps))
		assert.Empty(t, p.Conflicts)
		ends := map[string]plan.Step{}
		for _, s := range p.Steps {
			ends[s.ID] = s
			require.NotEmpty(t, s.Spans, s.Title)
			for _, a := range s.After {
				if before, ok := ends[a.From]; ok {
					assert.False(t, s.Spans[0].From.Before(before.Spans[len(before.Spans)-1].To), "%s after %s", s.Title, before.Title)
				}
			}
		}
	}
	then, provisional := soonest(items)
	assert.False(t, provisional)
	assert.Equal(t, best, then)
	fresh, err := new(plan.Deriver).For(t.Context(), w, items, monday)
	require.NoError(t, err)
	assert.Equal(t, fresh.Plans[3].Ends, then.Plans[3].Ends, "what was mended before decides nothing")
}
