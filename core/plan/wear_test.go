package plan_test

import (
	"fmt"
	"slices"
	"testing"

	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/plan"
	"cinderpath/core/rule"
	"cinderpath/core/strata"
	"cinderpath/core/unit"
	"cinderpath/core/zone"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// worn puts layers on top of a tank's paint, and nothing else.
func worn(t *testing.T, more ...strata.Layer) document.Build {
	b := tank(t)
	b.Layers = slices.DeleteFunc(b.Layers, func(l strata.Layer) bool {
		return l.Kind != strata.Prime && l.Kind != strata.Colour && l.Kind != strata.Clear
	})
	for _, l := range more {
		fresh := l.Kind.Fresh()
		fresh.ID, fresh.Zones, fresh.Technique, fresh.Amount, fresh.SizeMM = "x "+string(
			l.Kind,
		)+l.Name, l.Zones, l.Technique, l.Amount, l.SizeMM
		if l.Name != "" {
			fresh.Name = l.Name
		}
		if l.Hex != "" {
			fresh.Hex = l.Hex
		}
		b.Layers = append(b.Layers, fresh)
	}
	return b
}

func findingsOf(t *testing.T, b document.Build) []strata.Finding {
	plans, err := new(plan.Deriver).Plans(workshop(), []document.Item{{Build: b}}, monday)
	require.NoError(t, err)
	return plans[0].Findings
}

// Every rule of wear and earth finds something on a real build, and each mend but the last settles it
// without new damage.
func TestRulesOfWearAreFoundAndMended(t *testing.T) {
	share := func(v float64) *float64 { return &v }
	for _, c := range []struct {
		name, rule string
		severity   rule.Severity
		build      func() document.Build
		mends      []string
	}{
		{"oil dots below the camouflage are covered by it", "W4", rule.Hint, func() document.Build {
			b := worn(t, strata.Layer{Kind: strata.Dots, Zones: []string{"turret"}, Hex: "#9a8a5a"})
			last := len(b.Layers) - 1
			b.Layers = slices.Insert(slices.Clone(b.Layers[:last]), 1, b.Layers[last])
			return b
		}, []string{"later"}},
		{"chips as large as a hand", "W6", rule.Warn, func() document.Build {
			return worn(t, strata.Layer{Kind: strata.Chips, SizeMM: []float64{100, 300}, Amount: share(0.02)})
		}, []string{"smaller"}},
		{"specks as fine as sand", "W7", rule.Warn, func() document.Build {
			return worn(t, strata.Layer{Kind: strata.Splash, SizeMM: []float64{1, 3}})
		}, []string{"group"}},
		{"earth on the turret and none below", "W10", rule.Warn, func() document.Build {
			return worn(t, strata.Layer{Kind: strata.Dust, Technique: "dust_stipple", Zones: []string{"turret"}})
		}, []string{"below"}},
		{"dust of the paint's own colour", "W11", rule.Warn, func() document.Build {
			b := worn(t, strata.Layer{Kind: strata.Dust, Zones: []string{"lower"}})
			b.Layers[len(b.Layers)-1].Hex = b.Scheme.Colours[0].Hex
			return b
		}, []string{"shift"}},
		{"streaks on a flat top", "W13", rule.Warn, func() document.Build {
			return worn(t, strata.Layer{Kind: strata.Streaks, Technique: "streak_grime", Zones: []string{"turret.roof"}})
		}, []string{"everywhere"}},
		{"one tone of earth", "W14", rule.Hint, func() document.Build {
			return worn(t, strata.Layer{Kind: strata.Mud, Zones: []string{"lower"}})
		}, []string{"tone"}},
		{"a thin wash on a cast turret", "W20", rule.Warn, func() document.Build {
			b := worn(t, strata.Layer{Kind: strata.Wash})
			b.Relief = map[string]string{"turret": document.Cast}
			return b
		}, []string{"thick", "leave"}},
		{"decals on a ribbed hull", "M2", rule.Warn, func() document.Build {
			b := worn(t, strata.Layer{Kind: strata.Decals, Zones: []string{"hull"}})
			b.Relief = map[string]string{"hull.left": document.Ribbed}
			return b
		}, []string{"softener"}},
		{"chips below decals", "M4", rule.Warn, func() document.Build {
			return worn(t, strata.Layer{Kind: strata.Chips, Zones: []string{"hull"}},
				strata.Layer{Kind: strata.Decals, Zones: []string{"hull"}})
		}, []string{"wear", "over"}},
		{"dust under a hull on a base", "W16", rule.Hint, func() document.Build {
			b := worn(t, strata.Layer{Kind: strata.Dust, Zones: []string{"lower"}, Hex: "#b8a98a"})
			b.Schools = map[string]string{document.SchoolDisplay: document.OnABase}
			return b
		}, []string{"leave"}},
		{"oil dots that are still soft", "W15", rule.Warn, func() document.Build {
			b := worn(t, strata.Layer{Kind: strata.Dots}, strata.Layer{Kind: strata.Dust})
			soon := unit.Minutes(600)
			b.Layers[len(b.Layers)-1].WaitMin = &soon
			return b
		}, []string{"wait"}},
		{"marks of a person on both sides", "W18", rule.Hint, func() document.Build {
			b := worn(t, strata.Layer{Kind: strata.Chips})
			b.Layers[len(b.Layers)-1].Touches = []strata.Touch{
				{What: strata.MoreHere, At: form.Vec{500, 1200, 900}, Radius: 120},
				{What: strata.MoreHere, At: form.Vec{510, -1190, 905}, Radius: 120},
				{What: strata.MoreHere, At: form.Vec{-900, 1200, 900}, Radius: 120},
				{What: strata.NoneHere, At: form.Vec{-900, -1200, 900}, Radius: 120},
			}
			return b
		}, []string{"apart"}},
		{"polish on rubber", "W17", rule.Warn, func() document.Build {
			return worn(t, strata.Layer{Kind: strata.Metal, Zones: []string{"gear.left.road", zone.Rubber(zone.Left)}})
		}, []string{"leave", "contact"}},
	} {
		t.Run(c.name, func(t *testing.T) {
			b := c.build()
			found := findingsOf(t, b)
			at := slices.IndexFunc(found, func(f strata.Finding) bool { return f.Rule == c.rule })
			require.GreaterOrEqual(t, at, 0, "%v", found)
			f := found[at]
			assert.Equal(t, c.severity, f.Severity)
			assert.NotEmpty(t, f.Title)
			assert.NotEmpty(t, f.Reason)
			for _, want := range append(c.mends, "meant") {
				k := slices.IndexFunc(f.Mends, func(m strata.Mend) bool { return m.ID == want })
				require.GreaterOrEqual(t, k, 0, "%s of %v", want, f.Mends)
				mended := b
				var err error
				mended.Layers, err = strata.Apply(b.Layers, f.Mends[k].Edits, ids())
				require.NoError(t, err)
				after := findingsOf(t, mended)
				assert.False(
					t,
					slices.ContainsFunc(after, func(g strata.Finding) bool { return g.ID == f.ID }),
					"%s: %v",
					want,
					after,
				)
				assert.LessOrEqual(t, stops(after), stops(found))
			}
		})
	}
}

// Earth that lies on all that is lower has a reason for what lies higher: its landing.
func TestEarthOnAllThatIsLowerIsNoFinding(t *testing.T) {
	for _, zones := range [][]string{nil, {"hull", "lower", "turret"}} {
		b := worn(t, strata.Layer{Kind: strata.Dust, Technique: "dust_stipple", Zones: zones, Hex: "#b8a98a"})
		for _, f := range findingsOf(t, b) {
			assert.NotEqual(t, "W10", f.Rule, "%v: %s", zones, f.Reason)
		}
	}
}

func stops(found []strata.Finding) (n int) {
	for _, f := range found {
		if f.Severity == rule.Stop {
			n++
		}
	}
	return n
}

// What becomes of each layer is told with its time; the worth of all is their sum, and a layer that is
// left out where nothing of it is seen takes less time.
func TestWhatWillBeSeenIsTold(t *testing.T) {
	b := worn(
		t,
		strata.Layer{Kind: strata.Wash},
		strata.Layer{Kind: strata.Dust},
		strata.Layer{Kind: strata.Mud, Zones: []string{"lower", "gear"}},
	)
	var d plan.Deriver
	plans, err := d.Plans(workshop(), []document.Item{{Build: b}}, monday)
	require.NoError(t, err)
	s, err := d.SurvivalOf(plans[0])
	require.NoError(t, err)
	byLayer := map[string]plan.Fate{}
	for _, f := range s.Fates {
		byLayer[f.Name] = f
		assert.InDelta(t, 10*f.Adds/float64(f.Minutes), f.Worth, 1e-9)
		assert.NotEmpty(t, f.Words)
		for _, z := range f.Zones {
			assert.True(t, z.Part >= 0 && z.Part <= 1, "%s on %s: %v", f.Name, z.Zone, z.Part)
		}
	}
	mud := byLayer[strata.Mud.About().Name]
	assert.InDelta(t, 1, float64(mud.Part), 1e-6, "nothing lies on it")
	wash := byLayer[strata.Wash.About().Name]
	assert.Less(t, float64(wash.Part), 1.0)
	assert.NotEmpty(t, wash.By)
	minutes := 0.0
	for _, step := range plans[0].Steps {
		if step.Layer == mud.Layer {
			minutes += float64(step.Minutes)
		}
	}
	assert.InDelta(t, minutes, float64(mud.Minutes), 1e-9)
	lines := s.Lines().Layers
	assert.True(t, slices.IsSortedFunc(lines, func(a, b plan.WorthLine) int { return int(1e6 * (a.Worth - b.Worth)) }))
	look, err := d.LookOf(plans[0])
	require.NoError(t, err)
	require.Equal(t, len(b.Layers)+len(b.Scheme.Colours)-1, len(look.Coats))
	assert.NotEqual(t, look.Coats[0].Zones["turret.left"], look.Coats[1].Zones["turret.left"])
}

// A core is cut where one clicks: from the kit up, with what is seen on top as the picture has it; the
// column grows along the path, and is refused beside the vehicle.
func TestACoreIsCut(t *testing.T) {
	b := worn(
		t,
		strata.Layer{Kind: strata.Wash},
		strata.Layer{Kind: strata.Dust},
		strata.Layer{Kind: strata.Mud, Zones: []string{"lower"}},
	)
	var d plan.Deriver
	plans, err := d.Plans(workshop(), []document.Item{{Build: b}}, monday)
	require.NoError(t, err)
	p := plans[0]
	core, err := d.Core(plan.CoreQuestion{Look: p.Last(), Zone: zone.Named("turret", zone.Left)})
	require.NoError(t, err)
	require.NotEmpty(t, core.Plies)
	assert.Equal(t, b.Layers[0].ID, core.Plies[0].Layer)
	assert.Equal(t, core.Ends, core.Plies[len(core.Plies)-1].After)
	require.NotEmpty(t, core.Seen)
	sum := 0.0
	for _, ply := range core.Plies {
		assert.Positive(t, ply.FilmUM, ply.Name)
		sum += ply.FilmUM * float64(ply.Cover)
	}
	assert.InDelta(t, sum, core.FilmUM, 1e-9)
	at := core.Seen[slices.IndexFunc(core.Seen, func(s plan.PinAt) bool { return s.Side == "left" })]
	there, err := d.Core(plan.CoreQuestion{Look: p.Last(), Side: at.Side, At: at.At})
	require.NoError(t, err)
	assert.Equal(t, core.Plies, there.Plies, "the same place, clicked")
	early, err := d.Core(plan.CoreQuestion{Look: p.Bare, Side: at.Side, At: at.At})
	require.NoError(t, err)
	assert.Empty(t, early.Plies)
	assert.Equal(t, early.Bare, early.Ends)
	_, err = d.Core(plan.CoreQuestion{Look: p.Last(), Side: "left", At: [2]float64{-40, -40}})
	require.ErrorContains(t, err, "nothing of the vehicle")
	_, err = d.Core(plan.CoreQuestion{Look: p.Last(), Zone: "moon"})
	require.ErrorContains(t, err, "no zone")
}

// Had it lived otherwise it would look otherwise, and nothing is written: fresh from the works there is less
// of all wear, after months of clay more mud, and each difference has its reason.
func TestAnotherLifeIsTold(t *testing.T) {
	b := worn(
		t,
		strata.Layer{Kind: strata.Chips},
		strata.Layer{Kind: strata.Dust},
		strata.Layer{Kind: strata.Mud, Zones: []string{"lower", "gear"}},
	)
	items := []document.Item{{Build: b}}
	var d plan.Deriver
	plans, err := d.Plans(workshop(), items, monday)
	require.NoError(t, err)
	looks := map[string]bool{plans[0].Last(): true}
	for _, life := range strata.Lives() {
		told, err := d.TellOtherwise(t.Context(), workshop(), items, b.ID, life.Life, monday)
		require.NoError(t, err)
		require.NotEmpty(t, told.Argued, life.Name)
		switch life.Name {
		case "fresh from the works":
			assert.Negative(t, float64(told.More), "less of it is less work")
		case "abandoned for years":
			assert.Positive(t, float64(told.More))
		}
		assert.False(t, looks[told.Look], "%s looks like another", life.Name)
		looks[told.Look] = true
		for _, a := range told.Argued {
			assert.NotEmpty(t, a.Words)
			switch {
			case life.Name == "fresh from the works":
				assert.Less(t, a.Now, a.Usual, a.Name)
			case life.Name == "months of clay" && a.Name == strata.Mud.About().Name,
				life.Name == "abandoned for years" && a.Name == strata.Chips.About().Name:
				assert.Greater(t, a.Now, a.Usual, a.Name)
			}
		}
		data, err := d.Picture(plan.PictureQuestion{Look: told.Look, Side: "left", Pixel: 1})
		require.NoError(t, err)
		assert.NotEmpty(t, data)
	}
	assert.Empty(t, items[0].Build.Life)
	_, err = d.TellOtherwise(t.Context(), workshop(), items, b.ID, strata.Life{"ground": "cheese"}, monday)
	require.ErrorContains(t, err, "cheese")
}

// The layers that follow from a life are put in, from jars that are owned, with what must lie between them:
// nothing is damaged, fewer of them on what is fresh from the works, and none twice.
func TestAStoryProposesItsLayers(t *testing.T) {
	w, _ := shelved(t)
	var d plan.Deriver
	n := 0
	fresh := func() string { n++; return fmt.Sprintf("fresh-%d", n) }
	counts := map[string]int{}
	for _, life := range strata.Lives() {
		b := worn(t)
		b.Layers = slices.DeleteFunc(b.Layers, func(l strata.Layer) bool { return l.Kind == strata.Clear })
		b.Life = life.Life
		item := document.Item{Build: b}
		next, err := d.Apply(w, item, []document.Edit{{Op: document.Propose}}, fresh, monday)
		require.NoError(t, err, life.Name)
		counts[life.Name] = len(next.Layers)
		plans, err := d.Plans(w, []document.Item{{Build: next}}, monday)
		require.NoError(t, err)
		require.Nil(t, plans[0].Trouble)
		for _, f := range plans[0].Findings {
			assert.NotEqual(t, rule.Stop, f.Severity, "%s: %s: %s", life.Name, f.Title, f.Reason)
		}
		assert.Empty(t, plans[0].Conflicts)
		for _, l := range next.Layers {
			if l.Kind == strata.Wash {
				assert.Equal(t, "wash", l.Jar, "the nearest one that is owned")
			}
		}
		for _, l := range b.Layers {
			assert.True(
				t,
				slices.ContainsFunc(next.Layers, func(o strata.Layer) bool { return o.ID == l.ID }),
				"what is there stays",
			)
		}
		_, err = d.Apply(w, document.Item{Build: next}, []document.Edit{{Op: document.Propose}}, fresh, monday)
		require.ErrorContains(t, err, "in the stack already")
	}
	assert.Less(t, counts["fresh from the works"], counts["months of clay"])
}
