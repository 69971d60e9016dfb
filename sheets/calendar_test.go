package sheets_test

import (
	"bytes"
	"encoding/csv"
	"image"
	"strings"
	"testing"
	"time"

	"cinderpath/core/document"
	"cinderpath/core/path"
	"cinderpath/core/plan"
	"cinderpath/core/unit"
	"cinderpath/sheets"

	ical "github.com/emersion/go-ical"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// autumn is a plan across the night in which clocks go back.
func autumn(t testing.TB) (plan.Evenings, plan.Plan, *time.Location) {
	zone, err := time.LoadLocation("Europe/Lisbon")
	require.NoError(t, err)
	w := document.Workshop{Name: "bench", Zone: "Europe/Lisbon", Calendar: path.Calendar{Temperature: 20, Humidity: 0.5}}
	for day := range 7 {
		w.Calendar.Weekly = append(w.Calendar.Weekly, path.Window{Day: day, From: "20:00", To: "22:30"})
	}
	var d plan.Deriver
	all, err := d.All(w, []document.Item{{Build: tank(t)}}, time.Date(2026, 10, 20, 12, 0, 0, 0, zone))
	require.NoError(t, err)
	return all.Evenings, all.Plans[0], zone
}

// The calendar file, read by another library, has every session of the build at its
// time on the wall, before and after the clocks change, and an alarm for each window.
func TestCalendarFileIsReadByOthers(t *testing.T) {
	e, p, zone := autumn(t)
	var file bytes.Buffer
	require.NoError(t, sheets.WriteCalendar(&file, e, p))
	cal, err := ical.NewDecoder(&file).Decode()
	require.NoError(t, err)
	events := cal.Events()
	require.NotEmpty(t, events)
	require.Len(t, events, len(e.Sessions))
	before, after, alarms, windows := false, false, 0, 0
	change := time.Date(2026, 10, 25, 2, 0, 0, 0, zone)
	for i, event := range events {
		from, err := event.DateTimeStart(time.UTC)
		require.NoError(t, err)
		to, err := event.DateTimeEnd(time.UTC)
		require.NoError(t, err)
		lines := e.Sessions[i].Lines
		assert.True(t, from.Equal(lines[0].From), "%s", from)
		assert.True(t, to.Equal(lines[len(lines)-1].To))
		assert.GreaterOrEqual(t, from.In(zone).Format("15:04"), "20:00", "on the wall of the bench")
		assert.LessOrEqual(t, to.In(zone).Format("15:04"), "22:30")
		before, after = before || from.Before(change), after || from.After(change)
		for _, child := range event.Children {
			if child.Name == ical.CompAlarm {
				alarms++
			}
		}
		for _, l := range lines {
			if !l.Closes.IsZero() {
				windows++
				assert.False(t, l.Closes.Before(l.To))
			}
		}
	}
	assert.True(t, before && after, "sessions on both sides of the change")
	assert.Positive(t, alarms)
	assert.Equal(t, windows, alarms)
}

func TestStepsAsATable(t *testing.T) {
	_, p, _ := autumn(t)
	var file bytes.Buffer
	require.NoError(t, sheets.WriteTasks(&file, p))
	rows, err := csv.NewReader(&file).ReadAll()
	require.NoError(t, err)
	require.Len(t, rows, 1+len(p.Steps))
	for i, s := range p.Steps {
		assert.Equal(t, s.ID, rows[i+1][0])
		assert.Equal(t, s.Title, rows[i+1][2])
		from, err := time.Parse(time.RFC3339, rows[i+1][5])
		require.NoError(t, err)
		assert.True(t, from.Equal(s.Spans[0].From))
	}
}

func TestCardsAndDiaryArePrinted(t *testing.T) {
	_, p, zone := autumn(t)
	var cards bytes.Buffer
	require.NoError(t, sheets.WriteCards(&cards, p, sheets.A4))
	assert.True(t, strings.HasPrefix(cards.String(), "%PDF"))
	begin := time.Date(2026, 10, 20, 20, 0, 0, 0, zone)
	item := document.Item{Build: tank(t)}
	item.Log = []document.Entry{
		{Key: "1", Kind: document.Started, Task: "clean:parts:1", Title: "Clean the parts", StepKind: "clean", At: begin},
		{
			Key:      "2",
			Kind:     document.Finished,
			Task:     "clean:parts:1",
			Title:    "Clean the parts",
			StepKind: "clean",
			Planned:  40,
			At:       begin.Add(50 * time.Minute),
			Coats:    &document.Coats{Left: 2, Right: 1},
		},
		{
			Key:   "3",
			Kind:  document.Picture,
			Task:  "clean:parts:1",
			Title: "Clean the parts",
			Photo: "abc",
			At:    begin.Add(time.Hour),
		},
	}
	d := plan.DiaryOf([]document.Item{item}, 0, zone)
	require.Len(t, d.Days, 1)
	assert.Equal(t, "2026-10-20", d.Days[0].Date)
	assert.Equal(t, unit.Minutes(50), d.Real)
	assert.Equal(t, unit.Minutes(40), d.Planned)
	assert.Equal(t, []string{"Clean the parts: 2 coats left, 1 right"}, d.Coats)
	var with, without bytes.Buffer
	require.NoError(t, sheets.WriteDiary(&with, d, sheets.Letter, func(hash string) (image.Image, bool) {
		return image.NewRGBA(image.Rect(0, 0, 60, 40)), hash == "abc"
	}))
	require.NoError(t, sheets.WriteDiary(&without, d, sheets.Letter, nil))
	assert.Contains(t, with.String(), "/Subtype /Image")
	assert.NotContains(t, without.String(), "/Subtype /Image")
}
