package plan_test

import (
	"errors"
	"fmt"
	"maps"
	"slices"
	"testing"

	"cinderpath/core/document"
	"cinderpath/core/measure"
	"cinderpath/core/path"
	"cinderpath/core/plan"
	"cinderpath/core/rule"
	"cinderpath/core/unit"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// later gives all that must come after each task: the transitive closure, by brute force.
func later(tasks []path.Task) map[string]map[string]bool {
	out := map[string]map[string]bool{}
	for _, t := range tasks {
		out[t.ID] = map[string]bool{}
	}
	for range tasks {
		grown := false
		for _, t := range tasks {
			for _, a := range t.After {
				for _, reached := range append(slices.Collect(maps.Keys(out[t.ID])), t.ID) {
					if !out[a.From][reached] {
						out[a.From][reached] = true
						grown = true
					}
				}
			}
		}
		if !grown {
			break
		}
	}
	return out
}

// whole is a list of tasks that can be worked through: no name twice, and each after
// all that it comes after.
func whole(t require.TestingT, tasks []path.Task) {
	seen := map[string]bool{}
	for _, x := range tasks {
		require.False(t, seen[x.ID], "two steps are called %s", x.ID)
		for _, a := range x.After {
			require.True(t, seen[a.From], "%s comes after %s, which does not stand before it", x.ID, a.From)
		}
		seen[x.ID] = true
	}
}

// change draws a change of the order as a user might make it, sensible or not.
func change(t *rapid.T, tasks []path.Task) document.OrderEdit {
	pick := func(name string) string { return rapid.SampledFrom(tasks).Draw(t, name).ID }
	switch rapid.IntRange(0, 5).Draw(t, "do") {
	case 0:
		return document.OrderEdit{
			Do: "add",
			Step: &document.OwnStep{
				Kind:    rapid.SampledFrom([]string{"own", "soot", "dust"}).Draw(t, "kind"),
				Title:   "Mine",
				Minutes: unit.Minutes(rapid.IntRange(0, 60).Draw(t, "minutes")),
				After:   pick("after"),
				Before:  pick("before"),
			},
		}
	case 1:
		return document.OrderEdit{Do: "split", Task: pick("task"), Into: rapid.IntRange(1, 4).Draw(t, "into")}
	case 2:
		return document.OrderEdit{Do: "merge", Tasks: []string{pick("one"), pick("other")}, Title: "Both"}
	case 3:
		return document.OrderEdit{Do: "leave", Task: pick("task")}
	case 4:
		return document.OrderEdit{Do: "undo", Task: pick("task")}
	default:
		return document.OrderEdit{Do: "move", Task: pick("task"), After: pick("after")}
	}
}

// Whatever is added, split, merged, moved, left out or taken back: the order can be worked
// through, no arrow that stops is lost while both its ends are there, what was asked for
// is done, and what is refused says why and offers ways that can be gone.
func TestAnyChangeOfTheOrderLeavesItWhole(t *testing.T) {
	checks(t, 40)
	t.Run("strict", func(t *testing.T) { anyChange(t, boxed(t)) })
	t.Run("loose", func(t *testing.T) {
		b := boxed(t)
		b.Schools = map[string]string{"strict": "loose"}
		anyChange(t, b)
	})
}

func anyChange(t *testing.T, first document.Build) {
	of := stepsOf()
	generated, err := of(first)
	require.NoError(t, err)
	type pair struct{ from, to, rule string }
	var stops []pair
	for _, x := range generated {
		for _, a := range x.After {
			if a.Severity == rule.Stop {
				stops = append(stops, pair{a.From, x.ID, a.Rule})
			}
		}
	}
	require.NotEmpty(t, stops)

	rapid.Check(t, func(t *rapid.T) {
		b, id := first, 0
		newID := func() string { id++; return fmt.Sprintf("n%d", id) }
		for range rapid.IntRange(1, 6).Draw(t, "changes") {
			tasks, err := of(b)
			require.NoError(t, err)
			e := change(t, tasks)
			next, err := applied(b, []document.Edit{{Op: document.SetOrder, Order: &e}}, newID)
			if err != nil {
				var refused *document.Refusal
				if errors.As(err, &refused) {
					assert.NotEmpty(t, refused.Reason)
					require.NotEmpty(t, refused.Mends, "%v", e)
					for _, m := range refused.Mends {
						mended, err := applied(b, m.Edits, newID)
						require.NoError(t, err, m.Label)
						list, err := of(mended)
						require.NoError(t, err, m.Label)
						whole(t, list)
					}
					continue
				}
				var fault *measure.Fault
				require.ErrorAs(t, err, &fault)
				assert.NotEmpty(t, fault.Remedy)
				continue
			}
			after, err := of(next)
			require.NoError(t, err, "%+v", e)
			whole(t, after)
			has := func(id string) bool {
				return slices.ContainsFunc(after, func(x path.Task) bool { return x.ID == id })
			}
			reach := later(after)
			for _, s := range stops {
				if has(s.from) && has(s.to) {
					assert.True(t, reach[s.from][s.to], "%s: %s no longer comes before %s after %+v", s.rule, s.from, s.to, e)
				}
			}
			switch e.Do {
			case "add":
				assert.Len(t, after, len(tasks)+1)
				own := "own:" + next.Order.Own[len(next.Order.Own)-1].ID + ":1"
				assert.True(t, reach[e.Step.After][own], "it was put after %s", e.Step.After)
				assert.True(t, reach[own][e.Step.Before], "it was put before %s", e.Step.Before)
			case "split":
				assert.Len(t, after, len(tasks)+e.Into-1)
				assert.False(t, has(e.Task))
			case "merge":
				assert.Len(t, after, len(tasks)-1, "%+v in %+v", e, b.Order)
			case "leave":
				assert.False(t, has(e.Task))
			case "move":
				assert.True(t, reach[e.After][e.Task], "%s was moved after %s, with %+v", e.Task, e.After, next.Order)
			}
			b = next
		}
		// All taken back, the order is the generated one again.
		b.Order = document.Rework{}
		again, err := of(b)
		require.NoError(t, err)
		assert.Equal(t, generated, again)
	})
}

// Steps between which only one stands that is left out are merged.
func TestWhatIsLeftOutDoesNotStandBetween(t *testing.T) {
	of := stepsOf()
	b := boxed(t)
	before, err := of(b)
	require.NoError(t, err)
	for _, e := range []document.OrderEdit{
		{Do: "leave", Task: "fillhole:hull:1"},
		{Do: "merge", Tasks: []string{"clean:parts:1", "fillhole:hull:2"}, Title: "Both"},
	} {
		b, err = applied(b, []document.Edit{{Op: document.SetOrder, Order: &e}}, ids())
		require.NoError(t, err)
	}
	after, err := of(b)
	require.NoError(t, err)
	assert.Len(t, after, len(before)-2)
	whole(t, after)
	assert.True(t, slices.ContainsFunc(after, func(x path.Task) bool { return x.Title == "Both" }))
}

// A step that is split and done in part: the parts that are done stay done.
func TestPartsOfASplitStepAreDoneOneByOne(t *testing.T) {
	b := boxed(t)
	next, err := applied(
		b,
		[]document.Edit{{Op: document.SetOrder, Order: &document.OrderEdit{Do: "split", Task: "clean:parts:1", Into: 2}}},
		ids(),
	)
	require.NoError(t, err)
	before := planOf(t, next)
	at := func(p plan.Plan, id string) plan.Step {
		i := slices.IndexFunc(p.Steps, func(s plan.Step) bool { return s.ID == id })
		require.GreaterOrEqual(t, i, 0, id)
		return p.Steps[i]
	}
	assert.Equal(t, path.IsReady, at(before, "clean:parts:1.1").Status)
	assert.Equal(t, path.IsBlocked, at(before, "clean:parts:1.2").Status)
	after := planOf(
		t,
		next,
		document.Entry{
			Key:   "1",
			Kind:  document.Finished,
			Task:  "clean:parts:1.1",
			Title: "Clean",
			At:    monday.Add(-2 * 60 * 60 * 1e9),
		},
	)
	assert.Equal(t, path.IsDone, at(after, "clean:parts:1.1").Status)
	assert.Equal(t, path.IsReady, at(after, "clean:parts:1.2").Status)
	assert.False(t, at(after, "clean:parts:1.2").Spans[0].From.Before(monday))
}
