package path_test

import (
	"fmt"
	"slices"
	"testing"
	"time"

	"cinderpath/core/path"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// drawCalendar draws evenings, some of them touching or overlapping, and days that differ.
func drawCalendar(t *rapid.T) path.Calendar {
	c := path.Calendar{Temperature: 20, Humidity: 0.5}
	window := func(day int) path.Window {
		from := rapid.IntRange(0, 22*2).Draw(t, "from")
		to := rapid.IntRange(from+1, 24*2).Draw(t, "to")
		half := func(n int) string { return fmt.Sprintf("%02d:%02d", n/2, n%2*30) }
		return path.Window{Day: day, From: half(from), To: half(to)}
	}
	for range rapid.IntRange(0, 9).Draw(t, "windows") {
		c.Weekly = append(c.Weekly, window(rapid.IntRange(0, 6).Draw(t, "day")))
	}
	for k := range rapid.IntRange(0, 3).Draw(t, "exceptions") {
		e := path.Exception{Date: monday.AddDate(0, 0, 3*k).Format(time.DateOnly), Windows: []path.Window{}}
		if rapid.Bool().Draw(t, "with hours") {
			e.Windows = append(e.Windows, window(0))
		}
		c.Exceptions = append(c.Exceptions, e)
	}
	return c
}

// atWork tells by the wall clock whether a minute belongs to the hours.
func atWork(c path.Calendar, at time.Time) bool {
	all, any := c.Weekly, false
	for _, e := range c.Exceptions {
		if e.Date == at.Format(time.DateOnly) {
			all, any = e.Windows, true
		}
	}
	clock := at.Format("15:04")
	for _, w := range all {
		if (any || w.Day == int(at.Weekday())) && clock >= w.From && clock < w.To {
			return true
		}
	}
	return false
}

// The evenings are the hours, minute by minute over three weeks, in order and apart.
func TestEveningsAreTheHours(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		c := drawCalendar(t)
		require.NoError(t, c.Check())
		spans := c.Evenings(monday)
		for i, s := range spans {
			require.True(t, s.From.Before(s.To))
			require.False(t, s.From.Before(monday))
			if i > 0 {
				require.True(t, spans[i-1].To.Before(s.From), "those that touch are one")
			}
		}
		at := 0
		for k := range 21 * 24 * 4 {
			minute := monday.Add(time.Duration(k) * 15 * time.Minute)
			for at < len(spans) && !spans[at].To.After(minute) {
				at++
			}
			in := at < len(spans) && !minute.Before(spans[at].From)
			require.Equal(t, atWork(c, minute), in, "%s", minute)
		}
	})
}

// A place with limits is open on the days whose air suits it: the garage not below ten
// degrees, spraying neither cold nor damp, outdoors by the weather and not the room.
func TestPlacesOpenWithTheirAir(t *testing.T) {
	least := 10.0
	day := func(k int) string { return monday.AddDate(0, 0, k).Format(time.DateOnly) }
	c := path.Calendar{
		Temperature: 20,
		Humidity:    0.5,
		Places: []path.Place{
			{ID: path.Booth, Name: "garage", Weekly: []path.Window{}, Least: &least, Outside: true, Vapour: true},
			{ID: path.Outdoors, Name: "yard", Outside: true},
		},
		Weather: []path.Air{
			{Date: day(0), Temperature: 4, Humidity: 0.5},
			{Date: day(1), Temperature: 15, Humidity: 0.5},
			{Date: day(2), Temperature: 15, Humidity: 0.9},
			{Date: day(3), Temperature: 38, Humidity: 0.3},
			{Date: day(4), Temperature: 18, Humidity: 0.6},
		},
		Room: []path.Air{{Date: day(1), Temperature: 8, Humidity: 0.5}},
	}
	require.NoError(t, c.Check())
	opened := func(place path.PlaceID, spray bool) (days []int) {
		spans := c.Open(place, spray, monday)
		for k := range 5 {
			noon := monday.AddDate(0, 0, k).Add(time.Minute)
			if slices.ContainsFunc(spans, func(s path.Span) bool { return !noon.Before(s.From) && noon.Before(s.To) }) {
				days = append(days, k)
			}
		}
		return days
	}
	assert.Equal(t, []int{1, 2, 3, 4}, opened(path.Booth, false), "below ten on the first")
	assert.Equal(t, []int{1, 4}, opened(path.Booth, true), "damp on the third, hot on the fourth")
	assert.Equal(t, []int{0, 1, 2, 3, 4}, opened(path.Outdoors, false))
	assert.Equal(t, []int{1, 4}, opened(path.Outdoors, true))
	assert.Equal(t, []int{0, 2, 3, 4}, opened(path.Bench, true), "the bench has the room's air, cold on the second")
}

// At an airbrush (P7): flushed between colours, stripped after three of them, after two
// where fine lines come; the minutes are the airbrush's own where it says so.
func TestAirbrushesAreCleanedAsTheyAsk(t *testing.T) {
	spray := func(id, paint string, fine bool, after ...path.Arrow) path.Task {
		return path.Task{ID: id, Title: id, Minutes: 10, Airbrush: "a", Paint: paint, Fine: fine, After: after}
	}
	chain := func(fine string, paints ...string) []path.Task {
		var out []path.Task
		for i, p := range paints {
			x := spray(fmt.Sprint("s", i), p, fmt.Sprint("s", i) == fine)
			if i > 0 {
				x.After = []path.Arrow{{From: fmt.Sprint("s", i-1), Kind: "order", Reason: "one after the other"}}
			}
			out = append(out, x)
		}
		return out
	}
	for name, c := range map[string]struct {
		brush   path.Airbrush
		tasks   []path.Task
		cleaned string
		changes int
	}{
		"clean and one colour":        {path.Airbrush{}, chain("", "green", "green"), "", 0},
		"another colour":              {path.Airbrush{}, chain("", "green", "grey"), "flush 4 before s1; ", 1},
		"what is in it counts":        {path.Airbrush{Paint: "grey"}, chain("", "green"), "flush 4 before s0; ", 1},
		"the same is in it":           {path.Airbrush{Paint: "green"}, chain("", "green"), "", 0},
		"the fourth change strips":    {path.Airbrush{}, chain("", "a", "b", "c", "d", "e"), "flush 4 before s1; flush 4 before s2; flush 4 before s3; strip 15 before s4; ", 4},
		"fine lines sooner":           {path.Airbrush{}, chain("s3", "a", "b", "c", "d"), "flush 4 before s1; flush 4 before s2; strip 15 before s3; ", 3},
		"it was changed before":       {path.Airbrush{Paint: "a", Changes: 3}, chain("", "a"), "strip 15 before s0; ", 0},
		"its own minutes, rounded up": {path.Airbrush{Flush: 6.5}, chain("", "a", "b"), "flush 7 before s1; ", 1},
		"its own stripping":           {path.Airbrush{Changes: 3, Strip: 25}, chain("", "a"), "strip 25 before s0; ", 0},
	} {
		t.Run(name, func(t *testing.T) {
			c.brush.ID = "a"
			r := path.Request{
				Orders:   []path.Order{{Build: "v", Tasks: c.tasks}},
				Calendar: evenings("13:00", "22:00"),
				Airbrush: []path.Airbrush{c.brush},
				AsOf:     monday,
			}
			s, err := path.Lay(r)
			require.NoError(t, err)
			require.Empty(t, violations(r, s))
			got := ""
			for _, session := range s.Sessions {
				for _, e := range session.Entries {
					if e.SetUp == nil {
						continue
					}
					kind := "flush"
					if e.SetUp.Strip {
						kind = "strip"
					}
					got += fmt.Sprintf("%s %.0f before %s; ", kind, e.To.Sub(e.From).Minutes(), e.Task)
					assert.NotEmpty(t, e.SetUp.Why)
				}
			}
			assert.Equal(t, c.cleaned, got)
			assert.Equal(t, c.changes, s.Changes)
		})
	}
}

// One colour goes over all builds before the next: three builds, two colours, one change.
func TestOneColourOverAllBuildsInOneGo(t *testing.T) {
	r := path.Request{Calendar: evenings("13:00", "22:00"), Airbrush: []path.Airbrush{{ID: "a"}}, AsOf: monday}
	for b := range 3 {
		r.Orders = append(r.Orders, path.Order{Build: fmt.Sprint("v", b), Tasks: []path.Task{
			{ID: "green", Title: "green", Minutes: 20, Airbrush: "a", Paint: "green"},
			{
				ID:       "grey",
				Title:    "grey",
				Minutes:  20,
				Airbrush: "a",
				Paint:    "grey",
				After:    []path.Arrow{{From: "green", Wait: 40, Kind: "next coat", Reason: "dries"}},
			},
		}})
	}
	s, err := path.Lay(r)
	require.NoError(t, err)
	require.Empty(t, violations(r, s))
	assert.Equal(t, 1, s.Changes)
	assert.Len(t, s.Sessions, 1)
}

// What changed between two plans is told, the end before single steps: gone, new, moved,
// without a place; what is done is not.
func TestChangesInWords(t *testing.T) {
	on := func(id string, day, hour int, status path.Status) path.Placed {
		from := time.Date(2026, 11, day, hour, 0, 0, 0, time.UTC)
		return path.Placed{
			Task:   id,
			Status: status,
			Spans:  []path.Span{{From: from, To: from.Add(time.Hour)}},
			Why:    "the primer cures",
		}
	}
	words := func(before, after []path.Placed) (out []string) {
		for _, c := range path.Changes(before, after, func(id string) string { return "Step " + id }) {
			out = append(out, c.Words)
		}
		return out
	}
	a := []path.Placed{on("a", 23, 20, path.IsReady), on("b", 24, 20, path.IsBlocked), on("c", 25, 20, path.IsBlocked)}
	assert.Empty(t, words(a, a))
	assert.Equal(
		t,
		[]string{"1 step moves within the same day"},
		words(a, []path.Placed{on("a", 23, 21, path.IsReady), a[1], a[2]}),
	)
	assert.Equal(
		t,
		[]string{"Step b comes forward from Tue 24 Nov to Mon 23 Nov: the primer cures"},
		words(a, []path.Placed{a[0], on("b", 23, 21, path.IsBlocked), a[2]}),
	)
	assert.Equal(
		t,
		[]string{
			"the build ends Fri 27 Nov instead of Wed 25 Nov",
			"Step c moves from Wed 25 Nov to Fri 27 Nov: the primer cures",
		},
		words(a, []path.Placed{a[0], a[1], on("c", 27, 20, path.IsBlocked)}),
	)
	assert.Equal(
		t,
		[]string{"the build ends Tue 24 Nov already, not Wed 25 Nov", "no longer planned: Step c"},
		words(a, a[:2]),
	)
	assert.Equal(
		t,
		[]string{"new: Step d, Wed 25 Nov 21:00"},
		words(a, append(slices.Clone(a), on("d", 25, 21, path.IsBlocked))),
	)
	lost := path.Placed{Task: "b", Status: path.IsBlocked, Failed: "its window closes"}
	assert.Contains(t, words(a, []path.Placed{a[0], lost, a[2]}), "Step b has no place now: its window closes")
	assert.Empty(t, words([]path.Placed{lost, a[2]}, []path.Placed{lost, a[2]}), "told once")
	assert.Empty(t, words(a, []path.Placed{on("a", 22, 20, path.IsDone), a[1], a[2]}), "what is done is in the log")
}

// An airbrush holds what the log says went through it, cleaned between as P7 asks.
func TestTheLogLoadsAirbrushes(t *testing.T) {
	spray := func(id, paint string) path.Task {
		return path.Task{ID: id, Title: id, Minutes: 10, Airbrush: "a", Paint: paint}
	}
	o := path.Order{
		Build: "b",
		Tasks: []path.Task{
			spray("1", "grey"),
			spray("2", "green"),
			spray("3", "brown"),
			spray("4", "black"),
			spray("5", "white"),
			spray("6", "red"),
		},
	}
	at := func(hours int) path.Done {
		return path.Done{
			Started: monday.Add(time.Duration(hours) * time.Hour),
			Ended:   monday.Add(time.Duration(hours)*time.Hour + time.Minute),
		}
	}
	clean := path.Airbrush{ID: "a"}
	for name, c := range map[string]struct {
		brush   path.Airbrush
		done    map[string]path.Done
		paint   string
		changes int
	}{
		"nothing sprayed":            {clean, nil, "", 0},
		"clean before, so no change": {clean, map[string]path.Done{"1": at(1)}, "grey", 0},
		"in the order of time":       {clean, map[string]path.Done{"1": at(3), "2": at(1)}, "grey", 1},
		"three changes":              {clean, map[string]path.Done{"1": at(1), "2": at(2), "3": at(3), "4": at(4)}, "black", 3},
		"stripped before the fourth": {clean, map[string]path.Done{"1": at(1), "2": at(2), "3": at(3), "4": at(4), "5": at(5)}, "white", 0},
		"what was typed goes before": {path.Airbrush{ID: "a", Paint: "clear", Changes: 1}, map[string]path.Done{"1": at(1)}, "grey", 2},
		"typed since":                {path.Airbrush{ID: "a", Paint: "clear", Since: monday.Add(2 * time.Hour)}, map[string]path.Done{"1": at(1), "2": at(3)}, "green", 1},
		"left out, not sprayed":      {clean, map[string]path.Done{"1": {Started: monday, Ended: monday, Skipped: true}}, "", 0},
		"under way":                  {clean, map[string]path.Done{"6": {Started: monday}}, "red", 0},
	} {
		t.Run(name, func(t *testing.T) {
			out := path.Loaded([]path.Airbrush{c.brush, {ID: "other", Paint: "x"}}, []path.Order{o}, path.Log{"b": c.done})
			assert.Equal(t, c.paint, out[0].Paint)
			assert.Equal(t, c.changes, out[0].Changes)
			assert.Equal(t, "x", out[1].Paint)
		})
	}
}

// Nothing is flushed for what is being sprayed, whatever was typed before.
func TestWhatIsSprayedNowNeedsNoSetUp(t *testing.T) {
	spray := path.Task{ID: "now", Title: "now", Minutes: 30, Airbrush: "a", Paint: "grey", Place: path.Booth}
	next := path.Task{
		ID:       "next",
		Title:    "next",
		Minutes:  10,
		Airbrush: "a",
		Paint:    "green",
		Place:    path.Booth,
		After:    []path.Arrow{{From: "now", Wait: 20}},
	}
	r := path.Request{
		Orders:   []path.Order{{Build: "b", Tasks: []path.Task{spray, next}}},
		Calendar: workshop(),
		AsOf:     monday,
		Log:      path.Log{"b": {"now": {Started: monday.Add(-5 * time.Minute)}}},
	}
	r.Airbrush = path.Loaded([]path.Airbrush{{ID: "a", Nozzle: 0.3, Paint: "black", Changes: 2}}, r.Orders, r.Log)
	s, err := path.Lay(r)
	require.NoError(t, err)
	assert.Nil(t, s.Placed["b"][0].SetUp)
	require.NotNil(t, s.Placed["b"][1].SetUp)
	assert.True(t, s.Placed["b"][1].SetUp.Strip, "black, grey: three changes since it was stripped")
}
