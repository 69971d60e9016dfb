package path_test

import (
	"fmt"
	"math/rand/v2"
	"testing"
	"time"

	"cinderpath/core/path"
)

// six builds of fifty tasks each, the workshop that is asked for.
func six(nodes int) path.Request {
	r := path.Request{Calendar: workshop(), Airbrush: brushes, AsOf: monday, Nodes: nodes}
	for k := range 6 {
		r.Orders = append(r.Orders, vehicle(rand.New(rand.NewPCG(uint64(k), 17)), fmt.Sprint("build", k), 50, 1))
	}
	return r
}

func lays(b *testing.B, r path.Request) {
	b.Helper()
	var s path.Schedule
	for b.Loop() {
		var err error
		if s, err = path.Lay(r); err != nil || len(s.Conflicts) > 0 {
			b.Fatal(err, s.Conflicts)
		}
	}
	b.ReportMetric(100*s.Gap, "%gap")
	b.ReportMetric(float64(s.Changes), "changes")
	b.ReportMetric(float64(len(s.Sessions)), "sessions")
}

// BenchmarkSixBuilds lays 300 tasks; beside it stands the first answer, which is the plain
// reference: what is most urgent first, nothing tried twice. A plan is mended after a task takes longer.
func BenchmarkSixBuilds(b *testing.B) {
	b.Run("plan", func(b *testing.B) { lays(b, six(0)) })
	b.Run("quick", func(b *testing.B) { lays(b, six(path.QuickNodes)) })
	b.Run("mended", func(b *testing.B) {
		r := six(path.QuickNodes)
		before, err := path.Solve(r)
		if err != nil {
			b.Fatal(err)
		}
		r.Orders[0].Tasks[20].Minutes += 30
		like := before.Starts()
		for b.Loop() {
			if _, err := path.Mend(r, like); err != nil {
				b.Fatal(err)
			}
		}
	})
	b.Run("first answer", func(b *testing.B) { lays(b, six(1)) })
}

// BenchmarkOneLateStep plans anew after the first step ended a day late, at the budget
// that the app gives a tick at the bench.
func BenchmarkOneLateStep(b *testing.B) {
	r := six(path.QuickNodes)
	first := r.Orders[0].Tasks[0]
	r.AsOf = monday.Add(36 * time.Hour)
	r.Log = path.Log{r.Orders[0].Build: {first.ID: {Started: r.AsOf.Add(-time.Hour), Ended: r.AsOf}}}
	lays(b, r)
}
