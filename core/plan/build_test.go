package plan_test

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"testing"
	"time"

	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/measure"
	"cinderpath/core/paint"
	"cinderpath/core/path"
	"cinderpath/core/plan"
	"cinderpath/core/rule"
	"cinderpath/core/scheme"
	"cinderpath/core/strata"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

var monday = time.Date(2026, 11, 23, 12, 0, 30, 0, time.UTC)

func ids() func() string {
	n := 0
	return func() string { n++; return fmt.Sprintf("id-%d", n) }
}

func workshop() document.Workshop {
	w := document.Workshop{Name: "bench", Zone: "UTC", Calendar: path.Calendar{Temperature: 20, Humidity: 0.5}}
	for day := range 7 {
		w.Calendar.Weekly = append(w.Calendar.Weekly, path.Window{Day: day, From: "20:00", To: "22:30"})
	}
	return w
}

func tank(t testing.TB) document.Build {
	b, err := plan.Begin(
		document.Start{
			Name:    "Varrow",
			Outline: form.Tracked,
			Scale:   "1:35",
			Length:  "6.4 m",
			Width:   "3.1 m",
			Height:  "2.52 m",
		},
		ids(),
	)
	require.NoError(t, err)
	b.Scheme.Colours = append(
		b.Scheme.Colours,
		scheme.Colour{Name: "basalt grey", Hex: "#50524f", Share: 0.3},
		scheme.Colour{Name: "kelp brown", Hex: "#5d4836", Share: 0.25},
	)
	return b
}

// made keeps what tests derive, so that one surface is not laid a hundred times.
var made plan.Deriver

// applied makes edits against what follows from a build in the workshop.
func applied(b document.Build, edits []document.Edit, newID func() string) (document.Build, error) {
	return made.Apply(workshop(), document.Item{Build: b}, edits, newID, monday)
}

func planOf(t testing.TB, b document.Build, log ...document.Entry) plan.Plan {
	plans, err := made.Plans(workshop(), []document.Item{{Build: b, Log: log}}, monday)
	require.NoError(t, err)
	return plans[0]
}

func step(t testing.TB, p plan.Plan, title string) plan.Step {
	i := slices.IndexFunc(
		p.Steps,
		func(s plan.Step) bool { return s.Title == title || strings.HasPrefix(s.Title, title+", section 1") },
	)
	require.GreaterOrEqual(t, i, 0, "no step %q", title)
	return p.Steps[i]
}

func TestNewBuildHasNoFindingAndAFullPlan(t *testing.T) {
	for _, outline := range []form.Kind{form.Tracked, form.Wheeled} {
		b, err := plan.Begin(
			document.Start{Name: "New", Outline: outline, Scale: "1:48", Length: "5 m", Width: "8 ft", Height: "7' 2\""},
			ids(),
		)
		require.NoError(t, err)
		p := planOf(t, b)
		assert.Empty(t, p.Findings)
		for _, s := range p.Steps {
			assert.Empty(t, s.Failed, s.Title)
			assert.NotEmpty(t, s.Spans, s.Title)
		}
		assert.Equal(t, "104.2 mm", p.Sizes[0].Model)
		assert.Equal(t, outline == form.Tracked, p.Gear.Links > 0)
	}
}

func TestNewBuildNamesTheField(t *testing.T) {
	good := document.Start{Name: "New", Outline: form.Tracked, Scale: "1:35", Length: "5 m", Width: "2 m", Height: "2 m"}
	for field, change := range map[string]func(*document.Start){
		"name":    func(s *document.Start) { s.Name = "  " },
		"scale":   func(s *document.Start) { s.Scale = "large" },
		"length":  func(s *document.Start) { s.Length = "-4 m" },
		"width":   func(s *document.Start) { s.Width = "" },
		"height":  func(s *document.Start) { s.Height = "1e400" },
		"outline": func(s *document.Start) { s.Outline = "hover" },
	} {
		s := good
		change(&s)
		_, err := plan.Begin(s, ids())
		var bad *measure.Fault
		require.ErrorAs(t, err, &bad, field)
		assert.Equal(t, field, bad.Field)
		assert.NotEmpty(t, bad.Remedy)
	}
}

// A longer hull: longer kit, more links, and the drawing and the scheme follow.
func TestLengthReachesEverything(t *testing.T) {
	b := tank(t)
	before := planOf(t, b)
	longer, err := applied(b, []document.Edit{{Op: document.SetLength, Text: "23 ft 4 in"}}, ids())
	require.NoError(t, err)
	after := planOf(t, longer)
	assert.Equal(t, "203.2 mm", after.Sizes[0].Model)
	assert.Equal(t, "23 ft 4 in", after.Sizes[0].Imperial)
	assert.Greater(t, after.Gear.Links, before.Gear.Links)
	assert.InEpsilon(t, 7112.0/6400, after.Views[0].Width/before.Views[0].Width, 0.01)
	assert.NotEqual(t, before.Drawing, after.Drawing)
	assert.NotEqual(t, before.Last(), after.Last())
	assert.InDelta(t, 0.3, float64(after.Colours[1].Share), 0.005)
	assert.Equal(t, 6400.0, b.Sizes.Length.MM, "the build that was edited is untouched")
}

func TestAFaultyEditChangesNothing(t *testing.T) {
	b := tank(t)
	before, err := json.Marshal(b)
	require.NoError(t, err)
	for _, e := range []document.Edit{
		{Op: document.SetLength, Text: "10 km"}, {Op: document.Rename, Text: ""}, {Op: "melt"}, {Op: document.SetScheme},
		{Op: document.SetWheels}, {Op: document.ApplyMend, Finding: "P1:x", Mend: "y"},
		{Op: document.EditLayers, Layers: []strata.Edit{{Op: "drop", ID: "ghost"}}},
	} {
		_, err := applied(b, []document.Edit{{Op: document.SetStory, Text: "changed"}, e}, ids())
		var bad *measure.Fault
		require.ErrorAs(t, err, &bad, e.Op)
	}
	after, err := json.Marshal(b)
	require.NoError(t, err)
	assert.JSONEq(t, string(before), string(after))
}

// A strong solvent brushed over oil is stopped; the barrier settles it, and the
// path gets a step and the oil's curing wait.
func TestMendOfStrongSolventOverOil(t *testing.T) {
	b := tank(t)
	hot := strata.Layer{
		Name:    "Hot dust",
		Kind:    strata.Dust,
		Family:  "lacquer",
		Applied: strata.Brushed,
		Coats:   1,
		Zones:   []string{"turret"},
	}
	b, err := applied(
		b,
		[]document.Edit{{Op: document.EditLayers, Layers: []strata.Edit{{Op: "insert", Layer: &hot}}}},
		ids2(),
	)
	require.NoError(t, err)
	before := planOf(t, b)
	i := slices.IndexFunc(
		before.Findings,
		func(f strata.Finding) bool { return f.Rule == "P1" && strings.Contains(f.Title, "rust streaks") },
	)
	require.GreaterOrEqual(t, i, 0, "%v", before.Findings)
	assert.Equal(t, rule.Stop, before.Findings[i].Severity)
	b, err = applied(
		b,
		[]document.Edit{{Op: document.ApplyMend, Finding: before.Findings[i].ID, Mend: "barrier.clear_lacquer"}},
		ids(),
	)
	require.NoError(t, err)
	after := planOf(t, b)
	assert.Empty(t, after.Findings)
	assert.Len(t, after.Steps, len(before.Steps)+1)
	seal := step(t, after, "Clear coat, lacquer")
	assert.Contains(t, fmt.Sprint(seal.After), "softens rust streaks until it has cured")
	assert.Contains(t, seal.Waits, 2880.0)
}

func ids2() func() string {
	return func() string { return "hot" }
}

func TestLogMovesThePath(t *testing.T) {
	b := tank(t)
	p := planOf(t, b)
	first := p.Steps[0]
	log := []document.Entry{
		{Key: "1", Kind: document.Started, Task: first.ID, Title: first.Title, At: monday.Add(-time.Hour)},
	}
	p = planOf(t, b, log...)
	assert.Equal(t, path.IsNow, p.Steps[0].Status)
	assert.Equal(t, "Under way: clean the parts, 40 min", p.Stand.Act)
	log = append(log, document.Entry{Key: "2", Kind: document.Finished, Task: first.ID, Title: first.Title, At: monday})
	p = planOf(t, b, log...)
	assert.Equal(t, path.IsDone, p.Steps[0].Status)
	assert.Equal(t, 1, p.Stand.Done)
	log = append(log, document.Entry{Key: "3", Kind: document.Undone, Task: first.ID, Title: first.Title, At: monday})
	assert.Equal(t, 0, planOf(t, b, log...).Stand.Done)
}

// The layer's own identity names its steps, so inserting another layer of the
// kind below it does not move what the log says.
func TestStepsKeepTheirNamesWhenTheStackChanges(t *testing.T) {
	b := tank(t)
	wash := step(t, planOf(t, b), "Pin wash").ID
	other := strata.Layer{Name: "First wash", Kind: strata.Wash, Family: "acrylic_wash", Applied: strata.Brushed, Coats: 1}
	at := b.Layers[5].ID
	b, err := applied(
		b,
		[]document.Edit{{Op: document.EditLayers, Layers: []strata.Edit{{Op: "insert", Layer: &other, Before: at}}}},
		ids2(),
	)
	require.NoError(t, err)
	assert.Equal(t, wash, step(t, planOf(t, b), "Pin wash").ID)
}

func TestPlansAreTheSameAgain(t *testing.T) {
	items := []document.Item{{Build: tank(t)}}
	var kept plan.Deriver
	var printed []string
	for _, d := range []*plan.Deriver{{}, {}, &kept, &kept} {
		plans, err := d.Plans(workshop(), items, monday)
		require.NoError(t, err)
		data, err := json.Marshal(plans[0])
		require.NoError(t, err)
		printed = append(printed, string(data))
	}
	for _, p := range printed[1:] {
		assert.Equal(t, printed[0], p)
	}
}

func TestEveryNumberSaysWhy(t *testing.T) {
	p := planOf(t, tank(t))
	whys := []measure.Why{p.Gear.Why}
	for _, s := range p.Sizes {
		whys = append(whys, s.Why)
	}
	for _, z := range p.Zones {
		whys = append(whys, z.Why)
	}
	for _, s := range p.Steps {
		whys = append(whys, s.TimeWhy)
	}
	for _, w := range whys {
		assert.NotEmpty(t, w.Formula)
		assert.NotEmpty(t, w.Inputs)
	}
}

func TestCautionsStandBesideWhatCanHurt(t *testing.T) {
	p := planOf(t, tank(t))
	for title, word := range map[string]string{"Clean the parts": "Blades", "Primer": "mask", "Pin wash": "rags", "Mud": "Dust"} {
		got := strings.Join(step(t, p, title).Cautions, " ")
		assert.Contains(t, got, word)
		assert.Contains(t, got, "local rules")
	}
}

// Amounts follow the formula of paint where a layer covers its zones, and are not
// given for chips, whose share of the surface nobody knows beforehand.
func TestAmounts(t *testing.T) {
	p := planOf(t, tank(t))
	area := 0.0
	for _, z := range p.Zones {
		area += z.AreaCM
	}
	primer := step(t, p, "Primer")
	assert.InDelta(t, area, primer.AreaCM, 5e-3)
	want := paint.Job{Area: area, Film: 20, Coats: 1, Solids: 0.35, Thinner: 0.15, Fills: 2, Way: paint.Airbrush}.Need()
	assert.Contains(t, primer.Amount, fmt.Sprintf("%.1f ml", want.ML))
	assert.Equal(t, "a drop of paint", step(t, p, "Chips").Amount, "a hundredth of the surface")
	assert.NotEmpty(t, step(t, p, "Pin wash").Amount)
}

func BenchmarkPlanOfTheVarrow(b *testing.B) {
	items := []document.Item{{Build: tank(b)}}
	for b.Loop() {
		var d plan.Deriver // nothing remembered: the whole derivation
		if _, err := d.Plans(workshop(), items, monday); err != nil {
			b.Fatal(err)
		}
	}
}

func BenchmarkPlanRemembered(b *testing.B) {
	items := []document.Item{{Build: tank(b)}}
	var d plan.Deriver
	for b.Loop() {
		if _, err := d.Plans(workshop(), items, monday); err != nil {
			b.Fatal(err)
		}
	}
}
