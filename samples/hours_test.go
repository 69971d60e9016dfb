package samples_test

import (
	"fmt"
	"slices"
	"testing"
	"time"

	"cinderpath/core/document"
	"cinderpath/core/kit"
	"cinderpath/core/path"
	"cinderpath/core/plan"
	"cinderpath/samples"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

var now = time.Date(2026, 11, 26, 12, 0, 0, 0, time.UTC)

// builds are so many of the demo's, the first three as they are, then copies of them.
func builds(t testing.TB, n int) (document.Workshop, []document.Item) {
	documents, err := samples.Documents()
	require.NoError(t, err)
	var items []document.Item
	for _, d := range documents {
		items = append(items, d.Resolve(now).Items...)
	}
	for k := len(items); k < n; k++ {
		copied := items[k%3]
		copied.Build.ID = fmt.Sprintf("copy-%02d", k)
		items = append(items, copied)
	}
	w := document.Workshop{Name: "bench", Zone: "UTC", Calendar: path.Calendar{Temperature: 20, Humidity: 0.5}}
	return w, items[:n]
}

// few are weeks with hardly any hours.
var few = []struct {
	name   string
	weekly []path.Window
}{
	{"an evening of one hour", []path.Window{{Day: 3, From: "20:00", To: "21:00"}}},
	{"an evening of two hours", []path.Window{{Day: 3, From: "20:00", To: "22:00"}}},
	{"an evening of three hours", []path.Window{{Day: 3, From: "20:00", To: "23:00"}}},
	{"an evening of four hours", []path.Window{{Day: 3, From: "19:00", To: "23:00"}}},
	{
		"two evenings of one hour",
		[]path.Window{{Day: 2, From: "20:00", To: "21:00"}, {Day: 4, From: "20:00", To: "21:00"}},
	},
	{"every evening 45 min", daily("20:00", "20:45")},
	{"every evening 150 min", daily("20:00", "22:30")},
}

func daily(from, to string) (out []path.Window) {
	for day := range 7 {
		out = append(out, path.Window{Day: day, From: from, To: to})
	}
	return out
}

// However few the hours: every step has its time, or is told why it has none.
func TestFewHoursHaveAnAnswer(t *testing.T) {
	for _, hours := range few {
		for _, n := range []int{1, 6} {
			t.Run(fmt.Sprintf("%s, %d builds", hours.name, n), func(t *testing.T) {
				t.Parallel()
				w, items := builds(t, n)
				w.Calendar.Weekly = hours.weekly
				var d plan.Deriver
				plans, err := d.Plans(w, items, now)
				require.NoError(t, err)
				for _, p := range plans {
					told := false
					for _, s := range p.Steps {
						if s.Status.Over() {
							continue
						}
						assert.True(t, len(s.Spans) > 0 || s.Failed != "", "%s: %s has no time and no reason", p.Name, s.Title)
						told = told || s.Failed != ""
					}
					assert.Equal(t, told, len(p.Conflicts) > 0, "%s: what cannot be done is told", p.Name)
				}
			})
		}
	}
}

// BenchmarkFewHours is the whole derivation for weeks with hardly any hours; the last of
// them has enough.
func BenchmarkFewHours(b *testing.B) {
	for _, hours := range few {
		for _, n := range []int{1, 3, 6, 12, 60} {
			b.Run(fmt.Sprintf("%s/%d builds", hours.name, n), func(b *testing.B) {
				w, items := builds(b, n)
				w.Calendar.Weekly = hours.weekly
				var d plan.Deriver
				for _, item := range items[:min(n, 3)] { // the bodies are there
					_, err := d.Tasks(w, item, now)
					require.NoError(b, err)
				}
				at := now
				for b.Loop() {
					at = at.Add(time.Minute) // another minute, another schedule
					_, err := d.Plans(w, items, at)
					require.NoError(b, err)
				}
			})
		}
	}
}

// BenchmarkAnEditAmongTwenty drills another hole into one of twenty builds, which moves all their plans, and
// derives what is shown of it at once; the hours are the demo's.
func BenchmarkAnEditAmongTwenty(b *testing.B) {
	w, items := builds(b, 20)
	w.Calendar.Weekly = daily("20:00", "22:30")
	var d plan.Deriver
	for k := range items {
		items[k].Key = items[k].Build.ID // as of a revision
	}
	_, err := d.Soon(b.Context(), w, items, now)
	require.NoError(b, err)
	n, features := 0, items[0].Build.Kit.Features
	for b.Loop() {
		n++
		build := items[0].Build
		build.Kit.Features = append(slices.Clone(features), kit.Feature{
			ID: fmt.Sprint("hole-", n), Name: fmt.Sprint("hole ", n), Kind: "hole", Assembly: "hull", MM: 0.5,
			Inside: true, Versions: []string{"line"},
		})
		items[0] = items[0].With(build)
		items[0].Key = fmt.Sprint("revision ", n)
		o, err := d.Soon(b.Context(), w, items, now)
		require.NoError(b, err)
		_, err = o.Plan(0)
		require.NoError(b, err)
	}
}
