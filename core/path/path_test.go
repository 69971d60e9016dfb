package path_test

import (
	"fmt"
	"testing"
	"time"

	"cinderpath/core/path"
	"cinderpath/core/unit"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// Monday, 23 November 2026, noon.
var monday = time.Date(2026, 11, 23, 12, 0, 0, 0, time.UTC)

func evenings(from, to string) path.Calendar {
	c := path.Calendar{Temperature: 20, Humidity: 0.5}
	for day := range 7 {
		c.Weekly = append(c.Weekly, path.Window{Day: day, From: from, To: to})
	}
	return c
}

func task(id string, minutes unit.Minutes, after ...path.Arrow) path.Task {
	return path.Task{ID: id, Title: id, Minutes: minutes, After: after}
}

func lay(cal path.Calendar, log path.Log, tasks ...path.Task) []path.Placed {
	s, err := path.Lay(
		path.Request{Orders: []path.Order{{Build: "b", Tasks: tasks}}, Calendar: cal, Log: log, AsOf: monday},
	)
	if err != nil {
		panic(err)
	}
	return s.Placed["b"]
}

func at(p path.Placed) string { return p.Spans[0].From.Format("Mon 15:04") }

func TestWaitsFallBetweenEvenings(t *testing.T) {
	got := lay(evenings("20:00", "22:00"), nil,
		task("paint", 60),
		task("decal", 30, path.Arrow{From: "paint", Wait: 720}),
		task("track", 45))
	assert.Equal(t, "Mon 20:00", at(got[0]))
	assert.Equal(
		t,
		"Tue 20:00",
		at(got[1]),
		"twelve hours after Monday 21:00 is Tuesday morning; the hands are there at 20:00",
	)
	assert.Equal(t, "Mon 21:00", at(got[2]), "work that fits into the wait is done in it")
	assert.Equal(t, path.IsReady, got[0].Status)
	assert.Equal(t, path.IsBlocked, got[1].Status)
}

func TestColdAndDampAirSlowsWaits(t *testing.T) {
	cal := evenings("00:00", "24:00")
	cal.Temperature, cal.Humidity = 10, 0.75
	got := lay(
		cal,
		nil,
		task("a", 60),
		task("b", 10, path.Arrow{From: "a", Wait: 60, Water: true}),
		task("c", 10, path.Arrow{From: "a", Wait: 60}),
	)
	assert.Equal(t, []float64{240}, got[1].Waits, "half for ten degrees, half again for damp air")
	assert.Equal(t, []float64{120}, got[2].Waits)
	cal.Temperature = 4
	got = lay(cal, nil, task("a", 60), task("b", 10, path.Arrow{From: "a", Wait: 60}))
	assert.Contains(t, got[1].Failed, "nothing dries below 5 °C")
}

func TestTheLogIsKept(t *testing.T) {
	ended := monday.Add(-2 * time.Hour)
	log := path.Log{"b": {"paint": {Started: ended.Add(-time.Hour), Ended: ended}}}
	got := lay(
		evenings("20:00", "22:00"),
		log,
		task("paint", 60),
		task("decal", 30, path.Arrow{From: "paint", Wait: 720, Reason: "decals need a hard ground"}),
	)
	assert.Equal(t, path.IsDrying, got[0].Status)
	assert.Equal(t, ended.Add(12*time.Hour), got[0].Until)
	assert.Equal(t, path.IsWaiting, got[1].Status)
	assert.Equal(t, "Tue 20:00", at(got[1]))
	assert.Equal(t, "decals need a hard ground", got[1].Why)
	log["b"]["paint"] = path.Done{Started: monday.Add(-10 * time.Minute)}
	got = lay(evenings("20:00", "22:00"), log, task("paint", 60), task("decal", 30, path.Arrow{From: "paint"}))
	assert.Equal(t, path.IsNow, got[0].Status)
	assert.Equal(t, path.IsBlocked, got[1].Status)
}

// A window that closes: the step before it starts late enough for both to fit one evening,
// or moves to a longer one.
func TestClosingWindowIsKept(t *testing.T) {
	cal := evenings("20:00", "22:00")
	cal.Exceptions = []path.Exception{{Date: "2026-11-26", Windows: []path.Window{{From: "18:00", To: "23:00"}}}}
	got := lay(cal, nil,
		task("white", 60),
		task("work", 60, path.Arrow{From: "white", Wait: 90, Most: 240}))
	assert.Equal(t, "Thu 18:00", at(got[0]))
	assert.Equal(t, "Thu 20:30", at(got[1]))
}

func TestBuildsShareOnePairOfHands(t *testing.T) {
	out, err := path.Lay(path.Request{Orders: []path.Order{
		{Build: "second", Priority: 2, Tasks: []path.Task{task("x", 90)}},
		{Build: "first", Priority: 1, Tasks: []path.Task{task("y", 90)}},
	}, Calendar: evenings("20:00", "22:00"), AsOf: monday})
	require.NoError(t, err)
	assert.Equal(t, "Mon 20:00", at(out.Placed["first"][0]))
	assert.Equal(t, "Tue 20:00", at(out.Placed["second"][0]))
}

// Work that may be laid down is seldom torn to pieces within an evening: only where the
// end, the colours or the evenings gain by it.
func TestLongWorkStaysTogether(t *testing.T) {
	pieces, torn := 0, 0
	for seed := range 20 {
		r := balanced(uint64(seed), 2)
		r.Nodes = 20_000
		s, err := path.Lay(r)
		require.NoError(t, err)
		for _, session := range s.Sessions {
			seen := map[string]bool{}
			for _, e := range session.Entries {
				if seen[e.Task] && e.SetUp == nil {
					torn++
				}
				seen[e.Task] = true
				pieces++
			}
		}
	}
	assert.Less(t, float64(torn), 0.12*float64(pieces), "%d of %d", torn, pieces)
}

func TestLongWorkIsSplitOrRefused(t *testing.T) {
	long := task("hull", 300)
	got := lay(evenings("20:00", "22:00"), nil, long)
	assert.Contains(t, got[0].Failed, "hull takes 300 min in one go; your hours leave 120 min at the longest")
	long.Split = true
	got = lay(evenings("20:00", "22:00"), nil, long)
	require.Len(t, got[0].Spans, 3)
	got = lay(path.Calendar{Temperature: 20, Humidity: 0.5}, nil, long)
	assert.Contains(t, got[0].Failed, "add weekly hours")
}

func TestEveningsAcrossTheClockChange(t *testing.T) {
	zone, err := time.LoadLocation("Europe/Berlin")
	require.NoError(t, err)
	spring := time.Date(2026, 3, 28, 12, 0, 0, 0, zone)
	spans := evenings("20:00", "22:00").Evenings(spring)
	assert.Equal(t, 23*time.Hour, spans[1].From.Sub(spans[0].From), "a short day lies between")
	assert.Equal(t, "20:00", spans[1].From.Format("15:04"))
}

// Whatever the work: no two spans overlap, all lie in windows, all waits are kept.
func TestSchedulesAreSound(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		cal := evenings("19:30", "22:00")
		n := rapid.IntRange(1, 14).Draw(t, "tasks")
		var tasks []path.Task
		for i := range n {
			x := task(fmt.Sprint("t", i), unit.Minutes(rapid.IntRange(5, 140).Draw(t, "minutes")))
			x.Split = rapid.Bool().Draw(t, "split")
			for k := range i {
				if rapid.IntRange(0, 3).Draw(t, "arrow") == 0 {
					x.After = append(
						x.After,
						path.Arrow{From: fmt.Sprint("t", k), Wait: unit.Minutes(rapid.IntRange(0, 3000).Draw(t, "wait"))},
					)
				}
			}
			tasks = append(tasks, x)
		}
		got := lay(cal, nil, tasks...)
		ends := map[string]time.Time{}
		var all []path.Span
		for i, p := range got {
			require.Empty(t, p.Failed)
			sum := 0.0
			for _, s := range p.Spans {
				assert.GreaterOrEqual(t, s.From.Format("15:04"), "19:30")
				assert.LessOrEqual(t, s.To.Format("15:04"), "22:00")
				for _, other := range all {
					assert.False(t, s.From.Before(other.To) && other.From.Before(s.To), "hands are in two places")
				}
				all = append(all, s)
				sum += s.To.Sub(s.From).Minutes()
			}
			assert.InDelta(t, float64(tasks[i].Minutes), sum, 1e-6)
			for _, a := range tasks[i].After {
				assert.False(t, p.Spans[0].From.Before(ends[a.From].Add(time.Duration(a.Wait)*time.Minute)))
			}
			ends[p.Task] = p.End()
		}
		assert.Equal(t, got, lay(cal, nil, tasks...), "the same again")
	})
}

func TestCalendarFaultsAreNamed(t *testing.T) {
	for want, change := range map[string]func(*path.Calendar){
		"weekday 9":        func(c *path.Calendar) { c.Weekly[0].Day = 9 },
		"times of day":     func(c *path.Calendar) { c.Weekly[0].From = "late" },
		"ends before":      func(c *path.Calendar) { c.Weekly[0].From = "23:00" },
		"not a date":       func(c *path.Calendar) { c.Exceptions = []path.Exception{{Date: "tomorrow"}} },
		"room temperature": func(c *path.Calendar) { c.Temperature = 400 },
		"humidity":         func(c *path.Calendar) { c.Humidity = 1 },
	} {
		c := evenings("20:00", "22:00")
		change(&c)
		assert.ErrorContains(t, c.Check(), want)
	}
	assert.NoError(t, evenings("20:00", "24:00").Check())
}

func ExampleLay() {
	plan, err := path.Lay(path.Request{Orders: []path.Order{{Build: "varrow", Tasks: []path.Task{
		{ID: "gloss", Title: "Gloss coat", Minutes: 30},
		{ID: "wash", Title: "Pin wash", Minutes: 60, After: []path.Arrow{{From: "gloss", Wait: 60}}},
	}}}, Calendar: evenings("20:00", "22:00"), AsOf: monday})
	if err != nil {
		panic(err)
	}
	for _, p := range plan.Placed["varrow"] {
		fmt.Println(p.Task, p.Spans[0].From.Format("Mon 15:04"))
	}
	// Output:
	// gloss Mon 20:00
	// wash Tue 20:00
}
