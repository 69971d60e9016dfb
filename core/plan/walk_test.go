package plan_test

import (
	"slices"
	"strings"
	"testing"

	"cinderpath/core/document"
	"cinderpath/core/gear"
	"cinderpath/core/kit"
	"cinderpath/core/path"
	"cinderpath/core/plan"
	"cinderpath/core/strata"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// walked plans a build alone; its steps by id.
func walked(t *testing.T, b document.Build) (plan.Plan, map[string]plan.Step) {
	t.Helper()
	require.NoError(t, b.Check())
	plans, err := made.Plans(workshop(), []document.Item{{Build: b}}, monday)
	require.NoError(t, err)
	require.Nil(t, plans[0].Trouble)
	by := map[string]plan.Step{}
	for _, s := range plans[0].Steps {
		by[s.ID] = s
	}
	return plans[0], by
}

// after tells whether a step waits for another, by however many between.
func after(by map[string]plan.Step, id, first string) bool {
	return slices.ContainsFunc(
		by[id].After,
		func(a path.Arrow) bool { return a.From == first || after(by, a.From, first) },
	)
}

func TestAnInsideIsPaintedBeforeItIsClosed(t *testing.T) {
	b := boxed(t)
	b.Kit.Insides = []kit.Inside{
		{Part: "turret", State: kit.Detailed, Works: []string{"wash", "prime", "paint"}},
		{Part: "hull", State: kit.Glimpsed},
	}
	_, by := walked(t, b)
	chain := []string{
		"inside:turret:1", "insideprime:turret:1", "insidepaint:turret:1", "insidewash:turret:1", "assemble:turret:1",
	}
	for i, id := range chain {
		require.Contains(t, by, id)
		if i > 0 {
			assert.True(t, after(by, id, chain[i-1]), "%s after %s", id, chain[i-1])
			assert.False(t, by[id].Spans[0].From.Before(by[chain[i-1]].Spans[0].To), "%s is laid after %s", id, chain[i-1])
		}
	}
	assert.NotContains(t, by, "insidechips:turret:1", "not asked for")
	assert.True(t, after(by, "assemble:hull:1", "insidedark:hull:1"))
	// What is built in is not washed before enamel of the wash can be handled.
	wait := by["assemble:turret:1"].After[slices.IndexFunc(by["assemble:turret:1"].After,
		func(a path.Arrow) bool { return a.From == "insidewash:turret:1" })]
	assert.InDelta(t, 720, float64(wait.Wait), 1e-9)
	// Open over nothing: said, and each mend settles it.
	b.Kit.Insides = []kit.Inside{{Part: "hull", State: kit.Shut}}
	b.Kit.Parts = append(
		b.Kit.Parts,
		kit.Part{ID: "lid", Name: "driver's hatch", Material: kit.Plastic, Assembly: "hull", Pose: "open"},
	)
	settledByAll(t, b.Kit, "lid", "is open over an inside")
	b.Kit.Insides = nil // nothing was said of it: nothing is there
	settledByAll(t, b.Kit, "lid", "is open over an inside")
}

// settledByAll finds a hint of a kit and tries each of its mends.
func settledByAll(t *testing.T, k kit.Kit, part, says string) {
	t.Helper()
	about := func(k kit.Kit) (kit.Hint, bool) {
		all := k.Hints()
		i := slices.IndexFunc(all, func(h kit.Hint) bool { return h.Part == part && strings.Contains(h.Reason, says) })
		if i < 0 {
			return kit.Hint{}, false
		}
		return all[i], true
	}
	hint, ok := about(k)
	require.True(t, ok, "%s: %q is not said", part, says)
	require.NotEmpty(t, hint.Mends)
	for _, m := range hint.Mends {
		next := k
		switch {
		case m.Part != nil:
			next.Parts = slices.Clone(k.Parts)
			next.Parts[slices.IndexFunc(k.Parts, func(p kit.Part) bool { return p.ID == m.Part.ID })] = *m.Part
		case m.Feature != nil:
			next.Features = slices.Clone(k.Features)
			next.Features[slices.IndexFunc(k.Features, func(f kit.Feature) bool { return f.ID == m.Feature.ID })] = *m.Feature
		case m.Inside != nil:
			next.Insides = append(
				slices.DeleteFunc(slices.Clone(k.Insides), func(i kit.Inside) bool { return i.Part == m.Inside.Part }), *m.Inside)
		}
		require.NoError(t, next.Check(), m.Label)
		_, still := about(next)
		assert.False(t, still, m.Label)
	}
}

func TestADeepOpeningIsFilledInLayersOrOverAPlate(t *testing.T) {
	b := boxed(t)
	b.Kit.Features[1].MM = 2.5
	_, by := walked(t, b)
	for k, id := range []string{"fillhole:hull:1", "fillhole:hull:2", "fillhole:hull:3", "shrunk:hull:1"} {
		require.Contains(t, by, id)
		if k > 0 {
			assert.True(t, after(by, id, "fillhole:hull:1"))
			assert.GreaterOrEqual(t, float64(by[id].After[0].Wait), 240.0, "each layer has its own wait")
		}
	}
	assert.NotContains(t, by, "fillhole:hull:4")
	settledByAll(t, b.Kit, "aerial", "2.5 mm deep")
	b.Kit.Features[1].Filled = kit.OverPlate
	_, by = walked(t, b)
	assert.NotContains(t, by, "fillhole:hull:2")
	assert.True(t, after(by, "fillhole:hull:1", "backplate:hull:1"))
	assert.True(t, after(by, "assemble:hull:1", "backplate:hull:1"), "it goes in from within")
}

func TestMetalAndResinGetWhatGripsThem(t *testing.T) {
	b := boxed(t)
	p, by := walked(t, b)
	require.Contains(t, by, "grip:metal:1")
	primer := idOf(t, tasksOf(p), "Primer")
	assert.True(t, after(by, primer, "grip:metal:1"))
	assert.Contains(t, by["grip:metal:1"].Title, "exhaust guard")
	for i := range b.Layers {
		if b.Layers[i].Kind == strata.Prime {
			b.Layers[i].Family = "primer_lacquer"
		}
	}
	_, by = walked(t, b)
	assert.NotContains(t, by, "grip:metal:1", "a primer of lacquer grips by itself")
}

func tasksOf(p plan.Plan) (out []path.Task) {
	for _, s := range p.Steps {
		out = append(out, s.Task)
	}
	return out
}

func TestABandIsNoRowOfLinks(t *testing.T) {
	b := boxed(t)
	b.Link.Make = gear.Band
	_, by := walked(t, b)
	for _, gone := range []string{"assemble:tracks:1", "takeoff:tracks:1"} {
		assert.NotContains(t, by, gone)
	}
	assert.True(t, after(by, "bandprime:tracks:1", "bandjoin:tracks:1"))
	assert.True(t, after(by, "degrease:all:1", "bandprime:tracks:1"))
	assert.True(t, after(by, "gluedown:tracks:1", "fit:gear:1"))
	assert.Contains(t, strings.Join(by["bandjoin:tracks:1"].Cautions, " "), "Super glue")
}

func TestAFaultyPartChangesThePlan(t *testing.T) {
	b := boxed(t)
	at := slices.IndexFunc(b.Kit.Parts, func(p kit.Part) bool { return p.ID == "barrel" })
	faulty := kit.Ordered{Expected: "2026-11-20", Arrived: "2026-11-21", Fault: "a bubble at the muzzle"}
	b.Kit.Parts[at].Ordered = &faulty
	settledByAll(t, b.Kit, "barrel", "a bubble at the muzzle")
	for remedy, step := range map[string]string{
		kit.Mended: "mendpart:barrel:1", kit.Spared: "sparepart:barrel:1", kit.Replaced: "receive:barrel:2",
	} {
		o := faulty
		o.Remedy, o.Again = remedy, "2026-12-20"
		b.Kit.Parts[at].Ordered = &o
		_, by := walked(t, b)
		require.Contains(t, by, step)
		assert.True(t, after(by, step, "receive:barrel:1"))
		assert.True(t, after(by, "free:resin:1", step), "what is wrong with it is settled before it is built in")
		if remedy == kit.Replaced {
			assert.Equal(t, "2026-12-20", by[step].NotFrom.Format("2006-01-02"))
			assert.False(t, by[step].Spans[0].From.Before(by[step].NotFrom))
		}
	}
}

func TestCorrectionsReachTheirStep(t *testing.T) {
	b := boxed(t)
	b.Kit.Leaflet = []kit.Leaf{
		{Step: "7", Text: "Fit the rope", Correction: "the hook sits 2 mm lower", For: []string{"rope"}},
		{Step: "3", Text: "Drill", Correction: "one hole more", For: []string{"rack"}},
		{Step: "9", Text: "Turret", Correction: "part C4 is drawn upside down"},
	}
	b.Kit.Rulings = []kit.Ruling{
		{
			ID:      "bags",
			About:   "where the bag hangs",
			For:     []string{"bag"},
			Rules:   "photograph",
			Because: "it is of the very vehicle",
			Says:    []kit.Source{{Name: "leaflet", Says: "left"}, {Name: "photograph", Says: "right"}},
		},
	}
	_, by := walked(t, b)
	assert.Equal(t, []string{"leaflet step 7 is wrong: the hook sits 2 mm lower"}, by["fit:rope:1"].Told)
	assert.Equal(t, []string{"leaflet step 3 is wrong: one hole more"}, by["drill:hull:1"].Told)
	assert.Equal(t, []string{"leaflet step 9 is wrong: part C4 is drawn upside down"}, by["clean:parts:1"].Told)
	assert.Equal(t,
		[]string{"where the bag hangs: right (photograph rules, because it is of the very vehicle)"}, by["fit:bag:1"].Told)
	b.Kit.Rulings[0].Rules = "a dream"
	assert.ErrorContains(t, b.Check(), "none of its references")
}

// A hatch that stands open over a detailed inside shows its inner face: it is painted in the inside's colour
// over the scheme, and worn as the inside is.
func TestInnerFacesOfOpenHatches(t *testing.T) {
	b := boxed(t)
	b.Kit.Insides = []kit.Inside{{Part: "turret", State: kit.Detailed, Hex: "#c8d0c0", Works: []string{"paint", "chips"}}}
	b.Kit.Parts = append(b.Kit.Parts, kit.Part{
		ID:       "lid",
		Name:     "commander's hatch",
		Count:    2,
		Material: kit.Plastic,
		Assembly: "turret",
		Joint:    kit.Glued,
		Pose:     "open",
	})
	p, by := walked(t, b)
	const id = "innerfaces:turret:1"
	require.Contains(t, by, id)
	assert.Equal(t, "Paint the inner faces: commander's hatch", by[id].Title)
	assert.Contains(t, strings.Join(by[id].TimeWhy.Inputs, " "), "#c8d0c0")
	assert.True(t, after(by, id, idOf(t, tasksOf(p), "Camouflage: lichen green")), "over the colour")
	worn := false
	for _, s := range p.Steps {
		worn = worn || s.Stage == "Wear" && after(by, s.ID, id)
	}
	assert.True(t, worn, "aged with the rest")

	b.Kit.Parts[len(b.Kit.Parts)-1].Pose = "closed"
	_, by = walked(t, b)
	assert.NotContains(t, by, id, "shut, it shows none")
	b.Kit.Parts[len(b.Kit.Parts)-1].Pose = "open"
	b.Kit.Insides[0].State = kit.Glimpsed
	_, by = walked(t, b)
	assert.NotContains(t, by, id, "nothing is painted in there")
}
