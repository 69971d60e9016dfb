package plan_test

import (
	"encoding/json"
	"math"
	"slices"
	"strings"
	"testing"

	"cinderpath/core/document"
	"cinderpath/core/kit"
	"cinderpath/core/plan"
	"cinderpath/core/rule"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// Whichever way a modeller works, in every answer of every school: the order holds
// together, every step has a place, and no rule that stops is given up but by the school
// that says so.
func TestEverySchoolHasAPlan(t *testing.T) {
	for _, s := range document.Schools() {
		for _, answer := range s.Choices {
			t.Run(s.ID+": "+answer, func(t *testing.T) {
				b := boxed(t)
				b.Schools = map[string]string{s.ID: answer}
				require.NoError(t, b.Check())
				p := planOf(t, b)
				assert.Empty(t, p.Conflicts)
				sound(t, p)
				for _, x := range p.Steps {
					assert.Empty(t, x.Failed, x.Title)
				}
			})
		}
	}
	b := boxed(t)
	b.Schools = map[string]string{document.Schools()[0].ID: "by moonlight"}
	assert.Error(t, b.Check())
	b.Schools = map[string]string{"alchemy": "yes"}
	assert.Error(t, b.Check())
}

// Any mixture of schools, and any kit: parts of all materials and kinds, with sides,
// joints, decals beneath and things they shadow. The order holds together.
func TestAnyKitAndSchoolsHaveAPlan(t *testing.T) {
	checks(t, 40)
	first := boxed(t)
	var d plan.Deriver
	rapid.Check(t, func(t *rapid.T) {
		b := first
		b.Schools = map[string]string{}
		for _, s := range document.Schools() {
			if rapid.IntRange(0, 2).Draw(t, s.ID) == 0 {
				b.Schools[s.ID] = rapid.SampledFrom(s.Choices).Draw(t, "answer")
			}
		}
		b.Kit.Parts = slices.Clone(b.Kit.Parts)
		kinds := []string{"", "cable", "skirt", "guard", "tool", "gun", "aerial", "stowage", "crew", "inside", "lamp"}
		for i := range rapid.IntRange(0, 5).Draw(t, "parts") {
			p := kit.Part{
				ID:       "x" + string(rune('a'+i)),
				Name:     "part " + string(rune('a'+i)),
				Material: rapid.SampledFrom(kit.Materials).Draw(t, "material"),
				Assembly: rapid.SampledFrom(
					[]string{"hull", "turret"},
				).Draw(
					t,
					"assembly",
				),
				Kind:  rapid.SampledFrom(kinds).Draw(t, "kind"),
				Joint: rapid.SampledFrom([]string{"", kit.Glued, kit.Removable, kit.Press}).Draw(t, "joint"),
				Side: rapid.SampledFrom(
					[]string{"", "left", "right"},
				).Draw(
					t,
					"side",
				),
				Stay:   rapid.SampledFrom([]string{"", "on", "off"}).Draw(t, "stay"),
				Forced: rapid.IntRange(0, 3).Draw(t, "forced") == 0,
			}
			switch rapid.IntRange(0, 4).Draw(t, "more") {
			case 0:
				p.Over = []string{"number"}
			case 1:
				p.Before = "turret"
			case 2:
				p.Shadows = []string{rapid.SampledFrom([]string{"hull", "gear", "lower"}).Draw(t, "shadows")}
			case 3:
				p.Ordered = &kit.Ordered{Expected: "2026-12-04"}
			}
			b.Kit.Parts = append(b.Kit.Parts, p)
		}
		require.NoError(t, b.Check())
		plans, err := d.Plans(workshop(), []document.Item{{Build: b}}, monday)
		require.NoError(t, err)
		assert.Empty(t, plans[0].Conflicts)
		sound(t, plans[0])
		// Every part of the version is somewhere: in a step of its own or of its assembly.
		for _, a := range plans[0].Advice {
			if a.Off {
				assert.True(t, slices.ContainsFunc(plans[0].Steps, func(s plan.Step) bool {
					return s.ID == "fit:"+a.Part+":1" ||
						strings.HasPrefix(s.ID, "fit:gear") && (strings.Contains(a.Name, "wheels") || strings.Contains(a.Name, "track"))
				}), "%s stays off and is never put back", a.Name)
			}
		}
	})
}

// Choosing a version and going back leaves the kit as it was, whatever the versions; and
// what is carried, drilled, filled and shaved is told apart without overlap.
func TestVersionsGoBack(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		ids := []string{"a", "b", "c"}
		some := func(name string) []string {
			if rapid.IntRange(0, 3).Draw(t, "all") == 0 {
				return nil
			}
			return rapid.SliceOfNDistinct(rapid.SampledFrom(ids), 0, 3, rapid.ID[string]).Draw(t, name)
		}
		k := kit.Kit{Version: "a"}
		for _, id := range ids {
			k.Versions = append(k.Versions, kit.Version{ID: id, Name: strings.ToUpper(id)})
		}
		for i, kind := range []string{kit.Hole, kit.Opening, kit.Mark, kit.Hole} {
			id := "f" + string(rune('0'+i))
			k.Features = append(k.Features, kit.Feature{ID: id, Name: id, Kind: kind, Assembly: "hull", Versions: some(id)})
		}
		for i := range 4 {
			id := "p" + string(rune('0'+i))
			k.Parts = append(k.Parts, kit.Part{ID: id, Name: id, Material: kit.Plastic, Assembly: "hull", Versions: some(id)})
		}
		require.NoError(t, k.Check())
		data, err := json.Marshal(k)
		require.NoError(t, err)
		var kept kit.Kit
		require.NoError(t, json.Unmarshal(data, &kept))
		assert.Equal(t, k, kept, "on no version is not on all")
		seen := map[string]string{}
		for _, id := range ids {
			next, words, err := k.Choose(id)
			require.NoError(t, err)
			assert.Equal(t, id, next.Version)
			if id == k.Version {
				assert.Empty(t, words)
			}
			back, _, err := next.Choose("a")
			require.NoError(t, err)
			assert.Equal(t, k, back)
			for _, j := range next.Jobs() {
				assert.NotContains(t, seen, id+j.ID, "two things are done about one feature")
				seen[id+j.ID] = j.Do
				used := j.Versions == nil || slices.Contains(j.Versions, id)
				assert.Equal(t, used, j.Do == kit.Drill, "%s of %v in %s", j.Do, j.Versions, id)
			}
			for _, p := range next.Used() {
				assert.True(t, p.Versions == nil || slices.Contains(p.Versions, id))
			}
		}
	})
}

// A clear part that is forced on cannot be the last and come before the dust: that it goes
// on last gives way, that its loose layers come after it stays.
func TestClearPartsThatAreForcedOnYield(t *testing.T) {
	b := boxed(t)
	b.Kit.Parts = append(
		b.Kit.Parts,
		kit.Part{
			ID:       "shield",
			Name:     "clear shield",
			Material: kit.Clear,
			Assembly: "lower",
			Shadows:  []string{"gear"},
			Forced:   true,
		},
	)
	require.NoError(t, b.Check())
	tasks, err := stepsOf()(b)
	require.NoError(t, err)
	whole(t, tasks)
	reach := later(tasks)
	dust := idOf(t, tasks, "Dust")
	assert.True(
		t,
		reach["fit:shield:1"][dust] || reach["fit:shield:1"][idOf(t, tasks, "Mud")],
		"its loose layers come after",
	)
	assert.False(t, reach["fit:gear:1"]["fit:shield:1"], "it is not the last")
	assert.True(t, reach["fit:gear:1"]["fit:lamp:1"], "other clear parts are")
	p := planOf(t, b)
	assert.Empty(t, p.Conflicts)
	sound(t, p)
	// Nothing that stops was given up for it.
	without, err := stepsOf()(boxed(t))
	require.NoError(t, err)
	for _, x := range without {
		for _, a := range x.After {
			if a.Severity == rule.Stop {
				assert.True(t, reach[a.From][x.ID], "%s: %s before %s", a.Rule, a.From, x.ID)
			}
		}
	}
}

// A school's answer is told in words: what a step is worked with now, and how long it takes.
func TestASchoolIsToldInWords(t *testing.T) {
	b := boxed(t)
	var d plan.Deriver
	for school, c := range map[string][2]string{
		document.SchoolDust:     {"acrylic, many thin coats", "Dust: acrylic wash"},
		document.SchoolMud:      {"acrylic texture", "Mud: acrylic texture paste"},
		document.SchoolWashTone: {"black", "colour #1f1d1b instead of #3b2f25"},
	} {
		after, err := d.Apply(workshop(), document.Item{Build: b},
			[]document.Edit{{Op: document.SetSchool, School: school, Text: c[0]}}, ids(), monday)
		require.NoError(t, err)
		var words []string
		for _, x := range plan.Changes(planOf(t, b), planOf(t, after)) {
			words = append(words, x.Words)
		}
		assert.Contains(t, strings.Join(words, "\n"), c[1], school)
		assert.Empty(t, plan.Changes(planOf(t, b), planOf(t, b)))
	}
}

// What rubber is painted shows: the plate looks otherwise for each answer.
func TestTyresAreSeenAsTheSchoolHasThem(t *testing.T) {
	b := boxed(t)
	seen := map[string]bool{}
	for _, answer := range []string{"grey-black", "black", "faded brown-grey"} {
		b.Schools = map[string]string{document.SchoolTyres: answer}
		steps := planOf(t, b).Steps
		seen[steps[len(steps)-1].Look] = true
	}
	assert.Len(t, seen, 3)
}

// Wheels are masked, sprayed through a template or done by brush, each in its own time; the quicker is taken
// where nothing is said.
func TestTheWayOfWheelsChangesTheirTime(t *testing.T) {
	b := boxed(t)
	b.Wheels = slices.Clone(b.Wheels)
	for i := range b.Wheels {
		if b.Wheels[i].Rubber() {
			b.Wheels[i].Hub = 0.75 * b.Wheels[i].Radius
		}
	}
	least, took := math.Inf(1), map[string]float64{}
	for _, answer := range []string{"hub first, masked", "rubber first, hub through a template", "rim by brush"} {
		b.Schools = map[string]string{document.SchoolWheels: answer}
		p := planOf(t, b)
		at := slices.IndexFunc(p.Steps, func(s plan.Step) bool { return s.Kind == "wheelmask" })
		require.GreaterOrEqual(t, at, 0)
		took[answer] = float64(p.Steps[at].Minutes)
		least = min(least, took[answer])
	}
	assert.Len(t, took, 3)
	b.Schools = nil
	p := planOf(t, b)
	at := slices.IndexFunc(p.Steps, func(s plan.Step) bool { return s.Kind == "wheelmask" })
	assert.InDelta(t, least, float64(p.Steps[at].Minutes), 1e-9)
	assert.Greater(t, took["rim by brush"], least)
}

// What would follow from another school is told before it is taken, what of the stack changes with it too.
func TestAnotherSchoolIsTriedFirst(t *testing.T) {
	b := boxed(t)
	b.ID = "01997a00-0000-7000-8000-000000000001"
	var d plan.Deriver
	tried, err := d.Compare(t.Context(), workshop(), []document.Item{{Build: b}}, b.ID,
		plan.WhatIf{Kind: "school", School: document.SchoolChipMeans, Answer: "none"}, monday)
	require.NoError(t, err)
	assert.Less(t, tried.Then.Steps, tried.Now.Steps)
	assert.Less(t, float64(tried.Then.Minutes), float64(tried.Now.Minutes))
}

// A shaken jar stands until its foam has settled: each sprayed step begins with that.
func TestAShakenJarStands(t *testing.T) {
	b := boxed(t)
	stirred := step(t, planOf(t, b), "Satin seal")
	b.Schools = map[string]string{document.SchoolJar: document.Shaken}
	shaken := step(t, planOf(t, b), "Satin seal")
	assert.InDelta(t, float64(stirred.Minutes)+3, float64(shaken.Minutes), 1e-9)
	assert.Contains(t, strings.Join(shaken.TimeWhy.Inputs, " "), "foam of a shaken jar")
}
