package path_test

import (
	"math"
	"slices"
	"testing"

	"cinderpath/core/path"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// weighted is when the builds of a plan end, minutes from now on, those of the first priority four times.
func weighted(r path.Request, s path.Schedule) (sum float64) {
	for _, o := range r.Orders {
		sum += s.Ends[o.Build].Sub(r.AsOf).Minutes() * math.Pow(2, -float64(o.Priority))
	}
	return sum
}

// A plan of which nothing changed is mended to itself, or to one that is as good; it takes hardly any work.
func TestMendingWhatNeedsNoneKeepsThePlan(t *testing.T) {
	for seed := range uint64(8) {
		r := crowdedShop(seed)
		r.Nodes = path.QuickNodes
		glance, err := path.Glance(r)
		require.NoError(t, err)
		best := glance.At(r.AsOf)
		solved, err := path.Mend(r, glance.Starts())
		require.NoError(t, err)
		s := solved.At(r.AsOf)
		require.Empty(t, violations(r, s), "workshop %d", seed)
		assert.LessOrEqual(t, weighted(r, s), 1.06*weighted(r, best), "workshop %d", seed)
		assert.Less(t, s.Nodes, max(best.Nodes/4, 2000), "workshop %d", seed)
	}
}

// A search that is stopped, at whatever moment, gives no plan: half of one would be remembered as the whole.
func TestAStoppedSearchGivesNoPlan(t *testing.T) {
	t.Parallel()
	r := crowdedShop(3)
	r.Nodes = 20_000
	whole, err := path.Lay(r)
	require.NoError(t, err)
	stopped := 0
	for patience := 1; ; patience *= 2 {
		asked := 0
		r.Stop = func() bool { asked++; return asked > patience }
		s, err := path.Lay(r)
		if err == nil {
			assert.Equal(t, whole, s, "it was never stopped")
			assert.LessOrEqual(t, asked, patience)
			break
		}
		require.ErrorIs(t, err, path.ErrStopped)
		stopped++
	}
	assert.Greater(t, stopped, 3)
}

// Whatever happens to a workshop, the plan that is mended keeps all rules, every task has a time, and it is
// hardly worse than what a search finds: a task is gone, one takes longer, one is new, a build is put first.
func TestAMendedPlanKeepsAllRules(t *testing.T) {
	worse := 0.0
	const rounds = 12
	for seed := range uint64(rounds) {
		r := crowdedShop(seed)
		r.Nodes = path.QuickNodes
		before, err := path.Glance(r)
		require.NoError(t, err)
		like := before.Starts()
		r.Orders = slices.Clone(r.Orders)
		o := &r.Orders[int(seed)%len(r.Orders)]
		o.Tasks = slices.Clone(o.Tasks)
		switch seed % 4 {
		case 0:
			o.Tasks[len(o.Tasks)/2].Minutes += 40
		case 1: // nobody waits for the last
			o.Tasks = o.Tasks[:len(o.Tasks)-1]
		case 2:
			last := o.Tasks[len(o.Tasks)-1]
			o.Tasks = append(o.Tasks, path.Task{ID: "new", Title: "new", Kind: last.Kind, Minutes: 30,
				After: []path.Arrow{{From: last.ID, Wait: 120}}})
		default:
			o.Priority = -1
		}
		best, err := path.Lay(r)
		require.NoError(t, err)
		solved, err := path.Mend(r, like)
		require.NoError(t, err)
		s := solved.At(r.AsOf)
		require.Empty(t, violations(r, s), "workshop %d", seed)
		require.Equal(t, len(best.Conflicts), len(s.Conflicts))
		for _, o := range r.Orders {
			for i, p := range s.Placed[o.Build] {
				assert.Equal(t, len(best.Placed[o.Build][i].Spans) > 0, len(p.Spans) > 0, "%s %s", o.Build, o.Tasks[i].ID)
			}
		}
		worse += weighted(r, s)/weighted(r, best)/rounds - 1.0/rounds
	}
	assert.Less(t, worse, 0.12)
	t.Logf("mended plans end %.1f %% later than those that are sought", 100*worse)
}

// A plan at a glance costs little and keeps all rules; where it says that nothing better is likely it is the one
// that is sought, elsewhere that one is as good at least.
func TestAGlanceIsThePlanWhereNothingBetterIsSought(t *testing.T) {
	worth := 0
	for seed := range uint64(8) {
		r := crowdedShop(seed)
		r.Nodes = path.QuickNodes
		glance, err := path.Glance(r)
		require.NoError(t, err)
		first := glance.At(r.AsOf)
		require.Empty(t, violations(r, first), "workshop %d", seed)
		assert.LessOrEqual(t, first.Nodes, 2*path.QuickNodes)
		best, err := path.Lay(r)
		require.NoError(t, err)
		if glance.Further() {
			worth++
			assert.LessOrEqual(t, newRival(r).told(best), newRival(r).told(first), "workshop %d", seed)
		} else {
			assert.Equal(t, best, first, "workshop %d", seed)
		}
	}
	assert.Positive(t, worth)
	assert.Less(t, worth, 8)
}

// Without any earlier plan the most urgent goes first.
func TestMendingNothingIsAPlanToo(t *testing.T) {
	r := six(path.QuickNodes)
	solved, err := path.Mend(r, path.Starts{})
	require.NoError(t, err)
	require.Empty(t, violations(r, solved.At(r.AsOf)))
}
