package plan_test

import (
	"slices"
	"strings"
	"testing"

	"cinderpath/core/bench"
	"cinderpath/core/document"
	"cinderpath/core/kit"
	"cinderpath/core/measure"
	"cinderpath/core/path"
	"cinderpath/core/plan"
	"cinderpath/core/strata"
	"cinderpath/core/unit"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func has(tasks []path.Task, prefix string) bool {
	return slices.ContainsFunc(tasks, func(x path.Task) bool { return strings.HasPrefix(x.ID, prefix) })
}

// What a school shows as its answer is what is planned, also when nobody touched it.
func TestDefaultsOfSchoolsHold(t *testing.T) {
	of := stepsOf()
	b := boxed(t)
	b.Layers[1].Coats = 1 // thin enough to let shading show
	b.Layers[1].Family = "alcohol_acrylic"
	b.Schools = nil
	unasked, err := of(b)
	require.NoError(t, err)
	b.Schools = map[string]string{}
	for _, s := range document.Schools() {
		b.Schools[s.ID] = s.Choices[0]
	}
	asked, err := of(b)
	require.NoError(t, err)
	assert.Equal(t, asked, unasked)
	for _, kind := range []string{"shade:", "test:", "lighten:", "metal:tracks", "sheen:"} {
		assert.True(t, has(asked, kind), kind)
	}
	for school, gone := range map[[2]string]string{{"undertone", "none"}: "shade:", {"scale-lightening", "none"}: "test:", {"lighten", "no"}: "lighten:", {"bright", "never metal paint"}: "metal:"} {
		b.Schools = map[string]string{school[0]: school[1]}
		without, err := of(b)
		require.NoError(t, err)
		assert.False(t, has(without, gone), school)
		assert.Len(t, without, len(asked)-1, school)
	}
}

// By default nothing is shaded that the colour would bury (P2); who asks for it is told.
func TestShadingThatWouldBeBuried(t *testing.T) {
	of := stepsOf()
	b := boxed(t)
	tasks, err := of(b)
	require.NoError(t, err)
	assert.False(t, has(tasks, "shade:"), "two coats bury it")
	b.Schools = map[string]string{document.SchoolUndertone: "black + light mottle"}
	tasks, err = of(b)
	require.NoError(t, err)
	assert.True(t, has(tasks, "shade:"))
	p := planOf(t, b)
	at := slices.IndexFunc(p.Findings, func(f strata.Finding) bool { return f.Rule == "P2" })
	require.GreaterOrEqual(t, at, 0)
	assert.Contains(t, p.Findings[at].Reason, "2 coats")
}

// On a base: it is made beside the rest, and the vehicle is fixed on it when both are dry.
// Bright metal comes after all earth, or before the first wear.
func TestBaseAndBrightMetal(t *testing.T) {
	of := stepsOf()
	b := boxed(t)
	b.Schools = map[string]string{"display": "on a base of its own"}
	tasks, err := of(b)
	require.NoError(t, err)
	whole(t, tasks)
	reach := later(tasks)
	assert.True(
		t,
		reach["base:own:1"]["mount:own:1"] && reach["sheen:all:1"]["mount:own:1"] && reach["mount:own:1"]["record:build:1"],
	)
	assert.False(t, reach["clean:parts:1"]["base:own:1"], "its groundwork may dry meanwhile")
	for _, l := range b.Layers {
		if l.Covers("gear.left.track") {
			assert.True(t, reach[idOf(t, tasks, string(l.Kind)+":"+l.ID)]["metal:tracks:1"], "%s before graphite", l.Name)
		}
	}
	b.Schools["bright"] = "metal paint, toned down"
	tasks, err = of(b)
	require.NoError(t, err)
	reach = later(tasks)
	assert.True(t, reach["metal:tracks:1"][idOf(t, tasks, "Pin wash")], "toned down by the wash")
	// A layer of metal in the stack is the modeller's own way.
	b.Layers = append(
		b.Layers,
		strata.Layer{
			ID:      "bright",
			Name:    "Bare cleats",
			Kind:    strata.Metal,
			Family:  "graphite",
			Applied: strata.Brushed,
			Coats:   1,
			Zones:   []string{"gear"},
		},
	)
	tasks, err = of(b)
	require.NoError(t, err)
	assert.False(t, has(tasks, "metal:tracks"))
	assert.True(t, has(tasks, "metal:bright"))
}

// Every kind of layer is planned as its step, in its stage, with minutes by area or count.
func TestEveryKindOfLayerIsAStep(t *testing.T) {
	of := stepsOf()
	for _, about := range strata.Abouts() {
		kind := about.ID
		b := tank(t)
		family := map[strata.Kind]string{strata.Decals: "decal", strata.Fix: "pigment_fixer", strata.Wet: "wet_gloss", strata.Metal: "graphite"}[kind]
		if family == "" {
			family = "acrylic_wash"
		}
		l := strata.Layer{
			ID:      "new",
			Name:    "New",
			Kind:    kind,
			Family:  family,
			Applied: about.Fresh.Applied,
			Coats:   1,
			Hex:     "#505050",
			Zones:   []string{"hull"},
		}
		b.Layers = append(b.Layers, l)
		require.NoError(t, b.Check(), kind)
		tasks, err := of(b)
		require.NoError(t, err)
		i := slices.IndexFunc(tasks, func(x path.Task) bool { return x.Layer == "new" })
		require.GreaterOrEqual(t, i, 0, kind)
		x := tasks[i]
		assert.Equal(t, string(kind), x.Kind)
		assert.Contains(t, bench.Stages, x.Stage, kind)
		k := bench.KindOf(string(kind))
		how, worked := l.Worked()
		if worked && how.Per > 0 && (!how.Air || l.Applied != strata.Brushed) &&
			(how.Unit != strata.Pieces || k.Unit == strata.Pieces) {
			k.Per, k.Unit = how.Per, how.Unit
		}
		assert.NotEqual(t, "own", k.ID, "%s is in the library", kind)
		switch {
		case kind == strata.Grease:
			assert.Equal(t, (k.SetUp + k.Per*unit.Minutes(2*len(b.Wheels))).Whole(), x.Minutes, "by hubs")
		case kind == strata.Highlight:
			least := (k.SetUp + k.Per*unit.Minutes(len(b.Body.Fittings))).Whole()
			assert.Greater(t, x.Minutes, least, "by fittings, and by bolts")
		case kind == strata.Soot:
			assert.Equal(t, (k.SetUp + k.Per).Whole(), x.Minutes, "by exhausts")
		case kind != strata.Decals && worked && !l.Even():
			assert.GreaterOrEqual(t, x.Minutes, k.SetUp, "%s by what is worked: of some nothing lies there", kind)
			if k.Unit == strata.Areas {
				assert.LessOrEqual(t, x.Minutes, (k.SetUp + k.Per*unit.Minutes(x.AreaCM)).Whole(), "%s by what is worked", kind)
			}
		case kind != strata.Decals:
			assert.Equal(t, (k.SetUp + k.Per*unit.Minutes(x.AreaCM)).Whole(), x.Minutes, "%s by area", kind)
		}
	}
}

// A step of one's own takes what its kind takes over its area, count or length; what
// waits for it waits for its product.
func TestOwnStepsFollowTheLibrary(t *testing.T) {
	b := boxed(t)
	of := stepsOf()
	tasks, err := of(b)
	require.NoError(t, err)
	add := func(s document.OwnStep) (path.Task, []path.Task) {
		next, err := applied(
			b,
			[]document.Edit{{Op: document.SetOrder, Order: &document.OrderEdit{Do: "add", Step: &s}}},
			ids(),
		)
		require.NoError(t, err)
		out, err := of(next)
		require.NoError(t, err)
		i := slices.IndexFunc(out, func(x path.Task) bool { return x.Title == s.Title })
		return out[i], out
	}
	hull := 0.0
	for _, x := range tasks {
		if x.ID == idOf(t, tasks, "chips:") {
			hull = x.AreaCM // hull, turret, cupola
		}
	}
	filter, all := add(
		document.OwnStep{
			Kind:   "filter",
			Title:  "A second filter",
			Zones:  []string{"hull", "turret", "cupola"},
			Family: "enamel_effect",
			After:  idOf(t, tasks, "Satin seal"),
			Before: idOf(t, tasks, "Chips"),
		},
	)
	k := bench.KindOf("filter")
	assert.InDelta(t, hull, filter.AreaCM, 1e-9)
	assert.Equal(t, (k.SetUp + k.Per*unit.Minutes(hull)).Whole(), filter.Minutes)
	i := slices.IndexFunc(all, func(x path.Task) bool { return x.ID == idOf(t, all, "chips:") })
	at := slices.IndexFunc(all[i].After, func(a path.Arrow) bool { return a.From == filter.ID })
	require.GreaterOrEqual(t, at, 0)
	assert.Equal(t, 4*unit.Hour, all[i].After[at].Wait, "enamel effects take the next coat after 240 min")
	assert.False(t, all[i].After[at].Water)
	pieces, _ := add(document.OwnStep{Kind: "drill", Title: "Drill the tow eyes", Count: 4})
	assert.Equal(t, unit.Minutes(4+2*4), pieces.Minutes)
	typed, _ := add(document.OwnStep{Kind: "drill", Title: "Drill slowly", Count: 4, Minutes: 50})
	assert.Equal(t, unit.Minutes(50), typed.Minutes)
	for field, s := range map[string]document.OwnStep{
		"order.minutes": {Kind: "own", Title: "Something"}, "order.count": {Kind: "drill", Title: "Holes", Count: -1}, "order.family": {Kind: "wash", Title: "Wash", Family: "moonlight"},
	} {
		_, err := applied(b, []document.Edit{{Op: document.SetOrder, Order: &document.OrderEdit{Do: "add", Step: &s}}}, ids())
		var f *measure.Fault
		require.ErrorAs(t, err, &f, field)
		assert.Equal(t, field, f.Field)
		assert.NotEmpty(t, f.Remedy)
	}
}

// Along the path the steps of a stage stand as they will be done, and nothing stands
// before what it comes after.
func TestThePathRunsInTime(t *testing.T) {
	b := boxed(t)
	b.Schools = map[string]string{"pieces": kit.Pieces}
	p := planOf(t, b)
	sound(t, p)
	at := map[string]int{}
	for i, s := range p.Steps {
		at[s.ID] = i
		if i > 0 && s.Stage == p.Steps[i-1].Stage {
			assert.False(
				t,
				s.Spans[0].From.Before(p.Steps[i-1].Spans[0].From),
				"%s stands after %s",
				s.Title,
				p.Steps[i-1].Title,
			)
		}
	}
	for _, s := range p.Steps {
		for _, a := range s.After {
			assert.Less(t, at[a.From], at[s.ID], "%s comes after %s", s.Title, a.From)
		}
	}
}

// What was sprayed is in the airbrush: the next plan begins from there.
func TestTheLogLoadsTheAirbrush(t *testing.T) {
	b := boxed(t)
	w := workshop()
	w.Airbrushes = []path.Airbrush{{ID: "one", Name: "the airbrush", Nozzle: 0.3}}
	var d plan.Deriver
	tasks, err := d.Tasks(w, document.Item{Build: b}, monday)
	require.NoError(t, err)
	var log []document.Entry
	done := map[string]bool{}
	var paint string
	for _, x := range tasks {
		log = append(
			log,
			document.Entry{Key: x.ID, At: monday.AddDate(0, 0, -9), Kind: document.Finished, Task: x.ID, Title: x.Title},
		)
		done[x.ID] = true
		if x.Paint != "" {
			paint = x.Paint
			break
		}
	}
	require.NotEmpty(t, paint)
	all, err := d.All(w, []document.Item{{Build: b, Log: log}}, monday)
	require.NoError(t, err)
	require.Len(t, all.Evenings.Airbrushes, 1)
	assert.Equal(t, paint, all.Evenings.Airbrushes[0].Paint)
	// Somebody looked since: what was typed holds.
	w.Airbrushes[0].Since, w.Airbrushes[0].Changes = monday.AddDate(0, 0, -1), 2
	all, err = d.All(w, []document.Item{{Build: b, Log: log}}, monday)
	require.NoError(t, err)
	assert.Equal(t, "", all.Evenings.Airbrushes[0].Paint)
	assert.Equal(t, 2, all.Evenings.Airbrushes[0].Changes)
}

// A colour is one word over all builds, whether a scheme has one colour or several: it is
// sprayed over all of them in one go (P6).
func TestAColourIsTheSameOnEveryBuild(t *testing.T) {
	of := stepsOf()
	paints := func(b document.Build) []string {
		tasks, err := of(b)
		require.NoError(t, err)
		var out []string
		for _, x := range tasks {
			if x.Kind == "colour" {
				out = append(out, x.Paint)
			}
		}
		return out
	}
	b := tank(t)
	b.Scheme.Colours = b.Scheme.Colours[:2]
	several := paints(b)
	b.Scheme.Colours = b.Scheme.Colours[:1]
	one := paints(b)
	assert.Equal(t, []string{"lichen green, waterborne acrylic", "basalt grey, waterborne acrylic"}, several)
	assert.Equal(t, several[:1], one)
}
