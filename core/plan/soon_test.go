package plan_test

import (
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
	one, err := d.Soon(t.Context(), w, items[:1], monday)
	require.NoError(t, err)
	assert.False(t, one.Provisional)
	glance, err := d.Soon(t.Context(), w, items[:2], monday)
	require.NoError(t, err)
	assert.True(t, glance.Provisional)
	two, err := d.For(t.Context(), w, items[:2], monday)
	require.NoError(t, err)
	assert.LessOrEqual(t, two.Evenings.Gap, glance.Evenings.Gap)
	again, err := d.Soon(t.Context(), w, items[:2], monday)
	require.NoError(t, err)
	assert.Equal(t, two, again)
	first, err := d.For(t.Context(), w, items, monday)
	require.NoError(t, err)
	assert.False(t, first.Provisional)
	known, err := d.Soon(t.Context(), w, items, monday)
	require.NoError(t, err)
	assert.Equal(t, first, known, "what is known is given")

	changed := items[3].Build
	changed.Scheme.Colours = changed.Scheme.Colours[:2]
	items[3] = items[3].With(changed)
	soon, err := d.Soon(t.Context(), w, items, monday)
	require.NoError(t, err)
	require.True(t, soon.Provisional)
	assert.True(t, soon.Evenings.Provisional)
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
	then, err := d.Soon(t.Context(), w, items, monday)
	require.NoError(t, err)
	assert.Equal(t, best, then)
	fresh, err := new(plan.Deriver).For(t.Context(), w, items, monday)
	require.NoError(t, err)
	assert.Equal(t, fresh.Plans[3].Ends, then.Plans[3].Ends, "what was mended before decides nothing")
}
