package sheets_test

import (
	"encoding/csv"
	"os"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"testing"
	"time"

	"cinderpath/core/paint"
	"cinderpath/core/plan"
	"cinderpath/core/strata"
	"cinderpath/samples"
	"cinderpath/sheets"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The samples as version 1 wrote them import, and give the plan that the program of that
// version gave (steps.csv, written by it), but for what was mended since: a scheme takes no
// tracks and no rubber, so its steps are shorter; what two coats would bury is not shaded any
// more, so Drumble's open steps lie otherwise.
func TestVersion1GivesTheSamePlan(t *testing.T) {
	now := time.Date(2026, 11, 23, 12, 0, 0, 0, time.UTC)
	otherwise := map[[2]string]string{
		// Layers go at the pace of their techniques by now.
		{"varrow", "Pin wash, section 1 of 3"}: "33",
		{"varrow", "Pin wash, section 2 of 3"}: "33",
		{"varrow", "Pin wash, section 3 of 3"}: "33",
		{"varrow", "Chips"}:                    "17",
		{"varrow", "Mud"}:                      "99",
		{"pellick", "Work the chipping coat"}:  "16",
		{"pellick", "Pin wash"}:                "33",
		{"pellick", "Mud"}:                     "22",
		// Clean colours take their masks and their areas.

		{"varrow", "Shade before colour"}:      "26",
		{"varrow", "Camouflage: lichen green"}: "49",
		{"varrow", "Camouflage: basalt grey"}:  "44",
		{"varrow", "Camouflage: kelp brown"}:   "39",
		{"varrow", "Lighten panels and edges"}: "21",
		{"pellick", "Camouflage"}:              "22",
	}
	file, err := os.Open("testdata/v1/steps.csv")
	require.NoError(t, err)
	defer file.Close()
	rows, err := csv.NewReader(file).ReadAll()
	require.NoError(t, err)
	want := map[string][][]string{}
	for _, row := range rows[1:] {
		want[row[0]] = append(want[row[0]], row[1:])
		if m, ok := otherwise[[2]string{row[0], row[1]}]; ok {
			assert.NotEqual(t, m, row[3], "%s was mended", row[1])
			row[3] = m
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
		// Those of version 1 know of no jars.
		b := &present[i].Items[0].Build
		b.Layers = slices.DeleteFunc(b.Layers, func(l strata.Layer) bool { return l.Technique != "" }) // new since
		for k := range b.Layers {
			b.Layers[k].Jar, b.Layers[k].Coats = "", d.Items[0].Build.Layers[k].Coats
			b.Layers[k].Zones = d.Items[0].Build.Layers[k].Zones // the wash is on the cab too by now
		}
		b.Scheme.Colours = b.Scheme.Colours[:len(d.Items[0].Build.Scheme.Colours)] // one is splintered by now
		for k := range b.Scheme.Colours {
			b.Scheme.Colours[k].Jar = ""
		}
		b.Scheme.Traces = nil // none had a picture
		b.Supplies, b.Life, b.Base, b.Schools = nil, nil, nil, d.Items[0].Build.Schools
		b.Kit.Insides, b.Kit.Leaflet, b.Kit.Rulings = nil, d.Items[0].Build.Kit.Leaflet, nil
		for k := range b.Kit.Parts {
			b.Kit.Parts[k].Jar = ""
		}
		b.Kit.Decals = d.Items[0].Build.Kit.Decals // they are drawn and placed by now
		present[i].Workshop.Paint = paint.Shelf{}
		assert.Equal(t, planAt(t, present[i], now), got, "%s: the sample as it is now", name)
		steps := make([][]string, len(got.Steps))
		for k, s := range got.Steps {
			from := ""
			if len(s.Spans) > 0 {
				from = s.Spans[0].From.UTC().Format(time.RFC3339)
			}
			steps[k] = []string{s.Title, string(s.Status), strconv.FormatFloat(float64(s.Minutes), 'g', -1, 64), from}
		}
		// Metal and resin get what grips them by now (B9), arms are glued on by themselves (B8).
		steps = slices.DeleteFunc(steps, func(s []string) bool {
			return strings.HasPrefix(s[0], "Prime with what grips") || strings.HasSuffix(s[0], " arms on") ||
				strings.HasPrefix(
					s[0],
					"Check the arms",
				) || strings.HasPrefix(s[0], "Make the damage") || strings.HasPrefix(s[0], "By brush:")
		})
		for k := range want[name] { // of metal or wire alone, it is called so
			now := strings.Replace(want[name][k][0], "Fit etched parts to the", "Fit metal and wire to the", 1)
			if slices.ContainsFunc(steps, func(s []string) bool { return s[0] == now }) {
				want[name][k][0] = now
			}
		}
		// What shines is touched by brush after the last coat: the record is closed later by that.
		last := func(list [][]string) []string {
			return list[slices.IndexFunc(list, func(s []string) bool { return strings.HasPrefix(s[0], "Photograph it") })]
		}
		if was, is := last(want[name]), last(steps); name != "drumble" {
			assert.Greater(t, is[3], was[3], name)
			was[3] = is[3]
		}
		if name != "drumble" { // what breaks easily is put on last by now: times have moved
			want[name], steps = untimed(want[name]), untimed(steps)
		}
		if name == "drumble" {
			want[name], steps = titles(want[name], "Shade before colour"), titles(steps, "")
		}
		assert.ElementsMatch(t, want[name], steps, name)
	}
}

// untimed leaves out when steps are done, and whether they are ready.
func untimed(rows [][]string) (out [][]string) {
	for _, r := range rows {
		out = append(out, []string{r[0], r[2]})
	}
	return out
}

// titles of rows, without one; what is worked in sections counts once.
func titles(rows [][]string, without string) (out [][]string) {
	known := map[string]bool{without: true}
	for _, r := range rows {
		title, _, _ := strings.Cut(r[0], ", section")
		if !known[title] {
			out = append(out, []string{title})
		}
		known[title] = strings.Contains(r[0], ", section") || title == without
	}
	return out
}

func planAt(t testing.TB, d sheets.Document, now time.Time) plan.Plan {
	var made plan.Deriver
	d = d.Resolve(now)
	d.AsOf = now
	got, err := d.Plan(&made)
	require.NoError(t, err)
	return got
}
