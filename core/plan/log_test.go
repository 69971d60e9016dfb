package plan_test

import (
	"slices"
	"strings"
	"testing"
	"time"

	"cinderpath/core/bench"
	"cinderpath/core/document"
	"cinderpath/core/measure"
	"cinderpath/core/path"
	"cinderpath/core/plan"
	"cinderpath/core/unit"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// finished is a log in which the steps before one are done, each hours after the other,
// the last of them well before now.
func finished(p plan.Plan, before string, apart time.Duration) []document.Entry {
	end := slices.IndexFunc(
		p.Steps,
		func(s plan.Step) bool { return strings.HasPrefix(s.Title, before) || strings.HasPrefix(s.ID, before) },
	)
	var log []document.Entry
	for i, s := range p.Steps[:max(end, 0)] {
		at := monday.Add(-time.Duration(end-i) * apart)
		log = append(
			log,
			document.Entry{Key: s.ID, Kind: document.Finished, Task: s.ID, Title: s.Title, StepKind: s.Kind, At: at},
		)
	}
	return log
}

// Whatever goes wrong, at whatever step and however it is answered: the plan stays sound,
// the repair is in it in its order, and nothing that was open is lost.
func TestAnyMishapLeavesASoundPlan(t *testing.T) {
	b := boxed(t)
	first := planOf(t, b)
	mishaps := bench.Mishaps("", "")
	require.GreaterOrEqual(t, len(mishaps), 20)
	rapid.Check(t, func(t *rapid.T) {
		stop := rapid.SampledFrom(
			[]string{"degrease", "prime:", "colour:", "decals:", "wash:", "mud:", "record:"},
		).Draw(
			t,
			"done up to",
		)
		log := finished(first, stop, 26*time.Hour)
		before, err := made.Plans(workshop(), []document.Item{{Build: b, Log: log}}, monday)
		require.NoError(t, err)
		m := rapid.SampledFrom(mishaps).Draw(t, "mishap")
		at := rapid.SampledFrom(log).Draw(t, "at")
		choice := rapid.SampledFrom([]string{document.Repair, document.Leave}).Draw(t, "choice")
		e := document.Entry{
			Key:    "0190-mishap",
			Kind:   document.Mishap,
			Task:   at.Task,
			Title:  at.Title,
			Mishap: m.ID,
			Choice: choice,
			At:     monday,
		}
		if rapid.Bool().Draw(t, "somewhere") {
			e.Zones = []string{rapid.SampledFrom([]string{"hull", "turret", "hull.side.left"}).Draw(t, "zone")}
		}
		require.NoError(t, e.Check())
		after, err := made.Plans(workshop(), []document.Item{{Build: b, Log: append(slices.Clone(log), e)}}, monday)
		require.NoError(t, err)
		sound(t, after[0])
		var repair []plan.Step
		kept := map[string]bool{}
		for _, s := range after[0].Steps {
			kept[s.ID] = true
			if strings.HasPrefix(s.ID, "repair:") {
				repair = append(repair, s)
			}
		}
		for _, s := range before[0].Steps {
			assert.True(t, kept[s.ID], "%s is lost", s.Title)
		}
		if choice == document.Leave {
			assert.Empty(t, repair)
			return
		}
		moves := m.Moves
		if len(repair) < len(moves) { // what was not washed or glossed before is not washed or glossed anew
			moves = slices.DeleteFunc(slices.Clone(moves), func(x bench.Move) bool {
				return x.Paints == bench.Washed || m.Above && x.Paints == bench.Sealing
			})
		}
		require.Len(t, repair, len(moves))
		for i, move := range moves {
			assert.Equal(t, move.Title, repair[i].Title)
			if i > 0 && len(repair[i].Spans) > 0 && len(repair[i-1].Spans) > 0 {
				assert.False(t, repair[i].Spans[0].From.Before(repair[i-1].End()), "%s before %s", move.Title, moves[i-1].Title)
			}
		}
	})
}

// What an entry needs is asked for, with the field it lacks.
func TestEntriesThatSayTooLittle(t *testing.T) {
	good := document.Entry{Key: "k", Kind: document.Finished, Task: "prime:a:1", Title: "Primer"}
	require.NoError(t, good.Check())
	for name, c := range map[string]struct {
		change func(*document.Entry)
		field  string
	}{
		"no key":           {func(e *document.Entry) { e.Key = "" }, "key"},
		"unknown kind":     {func(e *document.Entry) { e.Kind = "dreamt" }, "kind"},
		"no step":          {func(e *document.Entry) { e.Task = "" }, "task"},
		"no title":         {func(e *document.Entry) { e.Title = "" }, "task"},
		"endless note":     {func(e *document.Entry) { e.Note = strings.Repeat("x", 100_000) }, "note"},
		"empty lesson":     {func(e *document.Entry) { e.Kind, e.Note = document.Lesson, "  " }, "note"},
		"empty note":       {func(e *document.Entry) { e.Kind = document.Note }, "note"},
		"no picture":       {func(e *document.Entry) { e.Kind = document.Picture }, "photo"},
		"unknown mishap":   {func(e *document.Entry) { e.Kind, e.Mishap, e.Choice = document.Mishap, "lightning", document.Repair }, "mishap"},
		"mishap unchosen":  {func(e *document.Entry) { e.Kind, e.Mishap = document.Mishap, "run" }, "choice"},
		"too many checks":  {func(e *document.Entry) { e.Checks = make([]string, 41) }, "measured"},
		"too many values":  {func(e *document.Entry) { e.Measured = make([]document.Measured, 41) }, "measured"},
		"wrongly answered": {func(e *document.Entry) { e.Kind, e.Mishap, e.Choice = document.Mishap, "run", "cry" }, "choice"},
	} {
		e := good
		c.change(&e)
		var fault *measure.Fault
		require.ErrorAs(t, e.Check(), &fault, name)
		assert.Equal(t, c.field, fault.Field, name)
		assert.NotEmpty(t, fault.Remedy, name)
	}
	measured := good
	measured.Kind, measured.Measured = document.Note, []document.Measured{{Name: "pressure", Value: "1.4 bar"}}
	assert.NoError(t, measured.Check(), "a value alone is a note")
}

// The last word on a step counts: done, opened again, left out, begun.
func TestTheLastWordCounts(t *testing.T) {
	b := tank(t)
	p := planOf(t, b)
	id := p.Steps[0].ID
	say := func(kinds ...string) path.Status {
		var log []document.Entry
		for i, k := range kinds {
			log = append(
				log,
				document.Entry{Key: k, Kind: k, Task: id, Title: "x", At: monday.Add(time.Duration(i-9) * time.Hour)},
			)
		}
		after := planOf(t, b, log...)
		return after.Steps[slices.IndexFunc(after.Steps, func(s plan.Step) bool { return s.ID == id })].Status
	}
	assert.True(t, say(document.Finished).Done())
	assert.Equal(t, path.IsReady, say(document.Finished, document.Undone))
	assert.Equal(t, path.IsNow, say(document.Started))
	assert.True(t, say(document.Started, document.Finished).Done())
	assert.Equal(t, path.IsSkipped, say(document.Started, document.Skipped))
	assert.True(t, say(document.Skipped, document.Finished).Done(), "left out, then done after all")
	assert.Equal(t, path.IsReady, say(document.Skipped, document.Undone))
	assert.True(t, say(document.Finished, document.Note).Done(), "a note changes nothing")
}

// The diary holds what was entered, day by day in the workshop's zone, and adds it up.
func TestTheDiaryAddsUp(t *testing.T) {
	b := tank(t)
	zone := time.FixedZone("east", 2*60*60)
	at := func(day, hour, minute int) time.Time { return time.Date(2026, 11, day, hour, minute, 0, 0, time.UTC) }
	log := []document.Entry{
		{Key: "1", Kind: document.Started, Task: "a", Title: "Primer", At: at(2, 20, 0)},
		{
			Key:      "2",
			Kind:     document.Finished,
			Task:     "a",
			Title:    "Primer",
			At:       at(2, 20, 40),
			Planned:  30,
			StepKind: "prime",
			Product:  "primer, grey",
		},
		{
			Key:     "3",
			Kind:    document.Finished,
			Task:    "b",
			Title:   "Colour",
			At:      at(2, 23, 30),
			Planned: 20,
			Product: "primer, grey",
			Coats:   &document.Coats{Left: 3, Right: 2},
		},
		{Key: "4", Kind: document.Skipped, Task: "c", Title: "Filter", At: at(3, 1, 0), Note: "not wanted"},
		{
			Key:    "5",
			Kind:   document.Mishap,
			Task:   "b",
			Title:  "Colour",
			Mishap: "run",
			Choice: document.Repair,
			At:     at(3, 20, 0),
		},
		{Key: "6", Kind: document.Lesson, Task: "b", Title: "Colour", Note: "thinner by half crawls", At: at(3, 20, 5)},
	}
	d := plan.DiaryOf([]document.Item{{Build: tank(t)}, {Build: b, Log: log}}, 1, zone)
	assert.Equal(t, b.Name, d.Name)
	var dates []string
	lines := 0
	for _, day := range d.Days {
		dates = append(dates, day.Date)
		lines += len(day.Lines)
	}
	assert.Equal(t, []string{"2026-11-02", "2026-11-03"}, dates, "half past eleven is the next day in the east")
	assert.Equal(t, 5, lines, "a start is told by its end")
	assert.Equal(t, unit.Minutes(50), d.Planned)
	assert.Equal(t, unit.Minutes(40), d.Real, "what was not timed adds nothing")
	assert.Equal(t, []string{"primer, grey"}, d.Products)
	require.Len(t, d.Coats, 1)
	assert.Contains(t, d.Coats[0], "3 coats left, 2 right")
	assert.Contains(t, d.Days[1].Lines[len(d.Days[1].Lines)-2].Words, "level")
	require.Len(t, d.Lessons, 1)
	require.Len(t, d.Learned, 1)
	assert.Equal(t, 1, d.Learned[0].Count)
	assert.Greater(t, d.Learned[0].Factor, 1.0)
}

// Coats that were counted unevenly are told at the next step of the kind, in any build.
func TestUnevenCoatsAreToldAtTheNextStep(t *testing.T) {
	b, other := tank(t), tank(t)
	other.ID = "other"
	s := step(t, planOf(t, b), "Primer")
	counted := func(left, right int) []string {
		log := []document.Entry{{
			Key: "1", Kind: document.Finished, Task: s.ID, Title: s.Title, StepKind: s.Kind,
			At: monday.Add(-time.Hour), Coats: &document.Coats{Left: left, Right: right},
		}}
		var d plan.Deriver
		plans, err := d.Plans(workshop(), []document.Item{{Build: b, Log: log}, {Build: other}}, monday)
		require.NoError(t, err)
		notes := []string{}
		for _, l := range step(t, plans[1], "Primer").Lessons {
			notes = append(notes, l.Note)
		}
		return notes
	}
	assert.Equal(t, []string{"3 coats on the left, 2 on the right: count them side by side"}, counted(3, 2))
	assert.Empty(t, counted(3, 3))
}

// A lesson of one build comes up in another, at the same kind of step or with the same
// product, and nowhere else.
func TestLessonsComeUpInOtherBuilds(t *testing.T) {
	b := tank(t)
	other := tank(t)
	other.ID = "other"
	s := step(t, planOf(t, b), "Primer")
	log := []document.Entry{
		{
			Key:      "1",
			Kind:     document.Lesson,
			Task:     s.ID,
			Title:    s.Title,
			StepKind: s.Kind,
			Note:     "shake it for two minutes",
			At:       monday.Add(-time.Hour),
		},
	}
	plans, err := made.Plans(workshop(), []document.Item{{Build: b, Log: log}, {Build: other}}, monday)
	require.NoError(t, err)
	met := 0
	for _, x := range plans[1].Steps {
		if x.Kind == s.Kind {
			require.Len(t, x.Lessons, 1, x.Title)
			assert.Equal(t, "shake it for two minutes", x.Lessons[0].Note)
			assert.Equal(t, b.Name, x.Lessons[0].Name)
			met++
		} else {
			assert.Empty(t, x.Lessons, x.Title)
		}
	}
	assert.Positive(t, met)
}

// What if: asked, it leaves the build as it was; taken, it is what was told.
func TestWhatIfIsWhatComes(t *testing.T) {
	b := boxed(t)
	w := workshop()
	items := []document.Item{{Build: b}}
	var d plan.Deriver
	for _, q := range []plan.WhatIf{
		{Kind: "evening", Day: 0, From: "09:00", To: "13:00"},
		{Kind: "warmer", Degrees: 6},
		{Kind: "school", School: "pieces", Answer: "built up"},
	} {
		got, err := d.Compare(t.Context(), w, items, b.ID, q, monday)
		require.NoError(t, err, q.Kind)
		now, err := d.All(w, items, monday)
		require.NoError(t, err)
		assert.Equal(t, now.Plans[0].Ends, got.Now.Ends)
		taken, changed, err := q.Apply(w, b)
		require.NoError(t, err)
		then, err := d.All(taken, []document.Item{{Build: changed}}, monday)
		require.NoError(t, err)
		assert.Equal(t, then.Plans[0].Ends, got.Then.Ends, q.Kind)
		open, minutes := 0, unit.Minutes(0)
		for _, s := range then.Plans[0].Steps {
			open++
			minutes += s.Minutes
		}
		assert.Equal(t, open, got.Then.Steps, q.Kind)
		assert.InDelta(t, float64(minutes), float64(got.Then.Minutes), 1e-9, q.Kind)
		assert.NotEqual(t, got.Now, got.Then, q.Kind)
		assert.Contains(t, got.Then.Words, got.Then.Ends.Format("Mon 2 Jan"))
	}
	assert.Equal(t, workshop(), w, "nothing was changed by asking")
	assert.Equal(t, boxed(t), b)
	for _, q := range []plan.WhatIf{{Kind: "luck"}, {Kind: "warmer"}, {Kind: "warmer", Degrees: 60}, {Kind: "evening", Day: 9, From: "09:00", To: "10:00"}, {Kind: "school", School: "none", Answer: "x"}} {
		_, err := d.Compare(t.Context(), w, items, b.ID, q, monday)
		var fault *measure.Fault
		require.ErrorAs(t, err, &fault, "%+v", q)
		assert.NotEmpty(t, fault.Remedy, "%+v", q)
	}
}
