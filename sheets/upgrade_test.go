package sheets_test

import (
	"encoding/csv"
	"os"
	"path/filepath"
	"strconv"
	"testing"
	"time"

	"cinderpath/core/plan"
	"cinderpath/samples"
	"cinderpath/sheets"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The samples as version 1 wrote them import, and give the plan that the program of that
// version gave (steps.csv, written by it), but for what was mended since: a test piece is
// sprayed on primer, so Drumble's waits for it, and what follows it starts later that evening.
func TestVersion1GivesTheSamePlan(t *testing.T) {
	now := time.Date(2026, 11, 23, 12, 0, 0, 0, time.UTC)
	mended := map[[2]string][2]string{
		{"drumble", "Spray a test piece, compare"}: {"blocked", "2026-11-30T20:00:00Z"},
		{"drumble", "Camouflage"}:                  {"blocked", "2026-11-30T20:12:00Z"},
		{"drumble", "Lighten panels and edges"}:    {"blocked", "2026-11-30T21:13:00Z"},
	}
	file, err := os.Open("testdata/v1/steps.csv")
	require.NoError(t, err)
	defer file.Close()
	rows, err := csv.NewReader(file).ReadAll()
	require.NoError(t, err)
	want := map[string][][]string{}
	for _, row := range rows[1:] {
		want[row[0]] = append(want[row[0]], row[1:])
		if m, ok := mended[[2]string{row[0], row[1]}]; ok {
			assert.NotEqual(t, m[1], row[4], "%s was mended", row[1])
			row[2], row[4] = m[0], m[1]
		}
	}
	present, err := samples.Documents()
	require.NoError(t, err)
	for i, name := range []string{"varrow", "pellick", "drumble"} {
		old, err := os.Open(filepath.Join("testdata/v1", name+".json"))
		require.NoError(t, err)
		d, err := sheets.Read(old)
		require.NoError(t, err)
		require.NoError(t, old.Close())
		assert.Equal(t, sheets.Version, d.Version)
		got := planAt(t, d, now)
		assert.Equal(t, planAt(t, present[i], now), got, "%s: the sample as it is now", name)
		steps := make([][]string, len(got.Steps))
		for k, s := range got.Steps {
			from := ""
			if len(s.Spans) > 0 {
				from = s.Spans[0].From.UTC().Format(time.RFC3339)
			}
			steps[k] = []string{s.Title, string(s.Status), strconv.FormatFloat(float64(s.Minutes), 'g', -1, 64), from}
		}
		assert.ElementsMatch(t, want[name], steps, name)
	}
}

func planAt(t testing.TB, d sheets.Document, now time.Time) plan.Plan {
	var made plan.Deriver
	d = d.Resolve(now)
	d.AsOf = now
	got, err := d.Plan(&made)
	require.NoError(t, err)
	return got
}
