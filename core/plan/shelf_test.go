package plan_test

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"
	"time"

	"cinderpath/core/colour"
	"cinderpath/core/document"
	"cinderpath/core/kit"
	"cinderpath/core/paint"
	"cinderpath/core/path"
	"cinderpath/core/plan"
	"cinderpath/core/rule"
	"cinderpath/core/strata"
	"cinderpath/core/zone"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// shelved is a workshop with a few jars, and a tank whose layers name them.
func shelved(t *testing.T) (document.Workshop, document.Build) {
	w := workshop()
	jar := func(id, family, hex string, left float64) paint.Jar {
		return paint.Jar{ID: id, Name: id, Family: family, Hex: hex, Volume: 17, Left: left, State: paint.Fine, Hiding: 0.95}
	}
	w.Paint = paint.Shelf{Delivery: 5, Jars: []paint.Jar{
		jar("green", "waterborne_acrylic", "#66704f", 17),
		jar("grey", "waterborne_acrylic", "#50524f", 17),
		jar("brown", "waterborne_acrylic", "#5d4836", 17),
		jar("other brown", "waterborne_acrylic", "#604b39", 17),
		jar("ground", "primer_acrylic", "#6b6b6b", 2),
		jar("wash", "enamel_effect", "#3b2f25", 35),
	}}
	b := tank(t)
	for i := range b.Layers {
		switch b.Layers[i].Kind {
		case strata.Prime:
			b.Layers[i].Jar = "ground"
		case strata.Wash:
			b.Layers[i].Jar = "wash"
		}
	}
	for i, id := range []string{"green", "grey", "brown"} {
		if i < len(b.Scheme.Colours) {
			b.Scheme.Colours[i].Jar = id
		}
	}
	return w, b
}

// first step of a kind.
func first(t *testing.T, p plan.Plan, kind string) plan.Step {
	at := slices.IndexFunc(p.Steps, func(s plan.Step) bool { return s.Kind == kind })
	require.GreaterOrEqual(t, at, 0, kind)
	return p.Steps[at]
}

// One thinning holds everywhere a step speaks of it; a scheme takes no track and no rubber; what
// is needed is the area times the film.
func TestAmountsAgreeWithWhatIsSaid(t *testing.T) {
	w, b := shelved(t)
	plans, err := new(plan.Deriver).Plans(w, []document.Item{{Build: b}}, monday)
	require.NoError(t, err)
	p := plans[0]
	painted := 0.0
	for _, z := range p.Zones {
		if !zone.Bare(z.Zone) {
			painted += z.AreaCM
		}
	}
	seen := 0
	for _, s := range p.Steps {
		for _, n := range s.Needs {
			if s.Layer == "" {
				continue // cement, filler and the like are used as they come
			}
			seen++
			said := s.Air + s.Mix
			assert.Contains(t, said, paint.Ratio(n.Ratio), "%s: %s", s.Title, s.Amount)
			if n.Drops > 0 {
				assert.InDelta(t, float64(n.Drops)*n.Ratio, n.Thinner, n.Ratio+1, s.Title)
				assert.InDelta(t, n.ML, float64(n.Drops)*paint.Drop, paint.Drop, s.Title)
			}
			assert.NotEmpty(t, n.Why.Inputs)
		}
		if s.Kind == "colour" && s.Colour == 1 {
			assert.InDelta(t, painted, s.AreaCM, 0.02, "the first colour lies under all that takes a scheme")
		}
	}
	assert.Greater(t, seen, 8)
	// The first of the sections and the last take alike, and together what the layer takes.
	sum, whole := 0.0, 0.0
	for _, s := range p.Steps {
		if s.Kind == "wash" {
			sum += s.Needs[0].ML
			whole += s.AreaCM
		}
	}
	assert.InDelta(t, sum/whole, first(t, p, "wash").Needs[0].ML/first(t, p, "wash").AreaCM, 1e-9)
}

// The list by hand: primer wants so much, the jar holds 2 ml.
func TestShoppingIsWhatIsMissing(t *testing.T) {
	w, b := shelved(t)
	items := []document.Item{{Build: b}}
	list, err := new(plan.Deriver).ShoppingOf(w, items, monday)
	require.NoError(t, err)
	at := slices.IndexFunc(list.Buy, func(x plan.Buy) bool { return x.Pot == "ground" })
	require.GreaterOrEqual(t, at, 0)
	ground := list.Buy[at]
	assert.InDelta(t, ground.Wanted-2, ground.Short, 1e-9)
	assert.Equal(t, "Primer", ground.First.Title)
	assert.Equal(t, ground.First.At.AddDate(0, 0, -5).Format(time.DateOnly), ground.Last)
	assert.True(
		t,
		slices.ContainsFunc(list.Buy, func(x plan.Buy) bool { return x.Pot == "" && x.Family == "clear_acrylic" }),
		"what no jar is named for is wanted whole",
	)
	assert.False(t, slices.ContainsFunc(list.Buy, func(x plan.Buy) bool { return x.Pot == "green" }))

	// Twice the same vehicle wants twice as much.
	second := b
	second.ID = "01997a00-0000-7000-8000-00000000abcd"
	both, err := new(plan.Deriver).ShoppingOf(w, append(items, document.Item{Build: second}), monday)
	require.NoError(t, err)
	at = slices.IndexFunc(both.Buy, func(x plan.Buy) bool { return x.Pot == "ground" })
	assert.InDelta(t, 2*ground.Wanted, both.Buy[at].Wanted, 1e-9)

	// What is nearly out has a stand-in, the likest first.
	w.Paint.Jars[2].Left = 0.1
	list, err = new(plan.Deriver).ShoppingOf(w, items, monday)
	require.NoError(t, err)
	at = slices.IndexFunc(list.Buy, func(x plan.Buy) bool { return x.Pot == "brown" })
	if assert.GreaterOrEqual(t, at, 0) {
		assert.Equal(t, "other brown", list.Buy[at].Like[0].Pot)
	}
}

// A mix that runs out wants its jars, and a third more for touch-ups.
func TestAMixThatRunsOutWantsItsJars(t *testing.T) {
	w, b := shelved(t)
	w.Paint.Jars[3].Left, w.Paint.Jars[1].Left = 0, 0
	w.Paint.Mixes = []paint.Mixture{{
		ID: "mix", Name: "brown, mixed", Hex: "#5d4836", Made: "2026-11-02", Left: 0.5,
		Parts: []paint.Part{{Jar: "other brown", Drops: 3}, {Jar: "grey", Drops: 1}},
	}}
	b.Scheme.Colours[2].Jar, b.Scheme.Colours[1].Jar = "mix", "brown"
	all, err := new(plan.Deriver).All(w, []document.Item{{Build: b}}, monday)
	require.NoError(t, err)
	need := 0.0
	for _, s := range all.Plans[0].Steps {
		for _, n := range s.Needs {
			if n.Pot == "mix" {
				need += n.ML
				require.Len(t, n.Split, 2)
				assert.Equal(t, int(math.Ceil(n.ML/paint.Drop*0.75-1e-9)), n.Split[0].Drops)
			}
		}
	}
	require.Greater(t, need, 0.5)
	for pot, part := range map[string]float64{"other brown": 0.75, "grey": 0.25} {
		at := slices.IndexFunc(all.Shopping.Buy, func(x plan.Buy) bool { return x.Pot == pot })
		require.GreaterOrEqual(t, at, 0, pot)
		assert.InDelta(t, (need-0.5)*part*4/3, all.Shopping.Buy[at].Wanted, 1e-9)
	}
}

// What is laid from a jar on order waits for the day on which it arrives.
func TestAStepWaitsForItsJar(t *testing.T) {
	w, b := shelved(t)
	day := monday.AddDate(0, 0, 20).Format(time.DateOnly)
	w.Paint.Jars[5].State, w.Paint.Jars[5].Arrives = paint.Ordered, day
	plans, err := new(plan.Deriver).Plans(w, []document.Item{{Build: b}}, monday)
	require.NoError(t, err)
	s := first(t, plans[0], "wash")
	require.NotEmpty(t, s.Spans)
	assert.GreaterOrEqual(t, s.Spans[0].From.Format(time.DateOnly), day)
	assert.Contains(t, strings.Join(s.TimeWhy.Inputs, " "), "on order")
}

// What was taken at the bench is gone from the jar; taken back, it is there again.
func TestLevelsFollowTheLog(t *testing.T) {
	w, b := shelved(t)
	used := []paint.Used{{Pot: "ground", ML: 1.5}}
	log := []document.Entry{
		{Key: "1", Kind: document.Finished, Task: "prime", Title: "Primer", At: monday.Add(-time.Hour), Used: used},
	}
	level := func(log []document.Entry) float64 {
		j, _ := w.Levels([]document.Item{{Build: b, Log: log}}).Paint.Jar("ground")
		return j.Left
	}
	assert.InDelta(t, 0.5, level(log), 1e-9)
	assert.InDelta(
		t,
		2,
		level(append(log, document.Entry{Key: "2", Kind: document.Undone, Task: "prime", Title: "Primer", At: monday})),
		1e-9,
	)
	w.Paint.Jars[4].Since = monday
	assert.InDelta(t, 2, level(log), 1e-9, "the level was said afterwards")
}

// A jar past its date, or half dry, is found with what may stand in for it; the mend takes it.
func TestJarsThatWantALook(t *testing.T) {
	w, b := shelved(t)
	w.Paint.Jars[2].Best = "2020-01-01"
	var d plan.Deriver
	plans, err := d.Plans(w, []document.Item{{Build: b}}, monday)
	require.NoError(t, err)
	at := slices.IndexFunc(
		plans[0].Findings,
		func(f strata.Finding) bool { return f.Rule == "P11" && f.Layer == b.Layers[1].ID },
	)
	require.GreaterOrEqual(t, at, 0)
	f := plans[0].Findings[at]
	assert.Contains(t, f.Reason, "past its date")
	next, err := d.Apply(
		w,
		document.Item{Build: b},
		[]document.Edit{{Op: document.ApplyMend, Finding: f.ID, Mend: f.Mends[0].ID}},
		func() string { return "new" },
		monday,
	)
	require.NoError(t, err)
	assert.Equal(t, "other brown", next.Scheme.Colours[2].Jar)
	plans, err = d.Plans(w, []document.Item{{Build: next}}, monday)
	require.NoError(t, err)
	assert.False(t, slices.ContainsFunc(plans[0].Findings, func(x strata.Finding) bool { return x.ID == f.ID }))
}

// A black ground below a light colour wants too many coats (P12); a lighter ground settles it.
func TestAGroundFarFromTheColour(t *testing.T) {
	w, b := shelved(t)
	w.Paint.Jars[4].Hex = "#101010"
	w.Paint.Jars[0].Hex, w.Paint.Jars[0].Hiding = "#e8e2cf", 0.85
	w.Paint.Jars = append(w.Paint.Jars, paint.Jar{
		ID: "light", Name: "light ground", Family: "primer_acrylic", Hex: "#e4dfce", Volume: 60, Left: 60, State: paint.Fine,
	})
	var d plan.Deriver
	plans, err := d.Plans(w, []document.Item{{Build: b}}, monday)
	require.NoError(t, err)
	at := slices.IndexFunc(plans[0].Findings, func(f strata.Finding) bool { return f.Rule == "P12" })
	require.GreaterOrEqual(t, at, 0)
	f := plans[0].Findings[at]
	assert.Equal(t, "ground.light", f.Mends[0].ID)
	next, err := d.Apply(
		w,
		document.Item{Build: b},
		[]document.Edit{{Op: document.ApplyMend, Finding: f.ID, Mend: f.Mends[0].ID}},
		func() string { return "new" },
		monday,
	)
	require.NoError(t, err)
	plans, err = d.Plans(w, []document.Item{{Build: next}}, monday)
	require.NoError(t, err)
	colour := first(t, plans[0], "colour")
	require.NotEmpty(t, colour.Forecast)
	_, promised, _ := strings.Cut(f.Mends[0].Label, ": ")
	assert.Contains(t, colour.Forecast[0].Words, strings.TrimSuffix(promised, " then"), "what the mend promised")
	assert.NotContains(t, colour.Forecast[0].Words, f.Title)
}

// A layer without a jar says so and proposes the nearest of its family.
func TestALayerWithoutAJarSaysSo(t *testing.T) {
	w, b := shelved(t)
	b.Scheme.Colours[2].Jar = ""
	b.Scheme.Colours[1].Jar = "gone"
	plans, err := new(plan.Deriver).Plans(w, []document.Item{{Build: b}}, monday)
	require.NoError(t, err)
	words := map[int]plan.PotLine{}
	for _, l := range plans[0].Pots {
		if l.Colour > 0 {
			words[l.Colour] = l
		}
	}
	assert.Equal(t, "green", words[1].Pot)
	assert.True(t, words[2].Lost)
	assert.Contains(t, words[3].Words, "no jar is named; nearest on the shelf: brown")
}

// A mark that is seen while the wash goes on is resprayed with the colour that lies there, from
// its jar, not with the wash; the primer and the gloss are those of the vehicle.
func TestARepairNamesWhatLiesThere(t *testing.T) {
	w, b := shelved(t)
	var d plan.Deriver
	item := document.Item{Build: b}
	tasks, err := d.Tasks(w, item, monday)
	require.NoError(t, err)
	at := monday.Add(-240 * time.Hour)
	wash := ""
	for _, task := range tasks {
		if task.Kind == "wash" && wash == "" {
			wash = task.ID
		}
		if wash == "" {
			at = at.Add(time.Hour)
			item.Log = append(item.Log, document.Entry{
				Key:      task.ID,
				Kind:     document.Finished,
				Task:     task.ID,
				Title:    task.Title,
				At:       at,
				Subject:  task.Subject,
				StepKind: task.Kind,
			})
		}
	}
	item.Log = append(item.Log, document.Entry{
		Key:    "01997a00-0000-7000-8000-00000000cafe",
		Kind:   document.Mishap,
		Task:   wash,
		Title:  "Pin wash",
		At:     at.Add(time.Hour),
		Mishap: "cement",
		Choice: document.Repair,
		Zones:  []string{"turret.left"},
	})
	plans, err := d.Plans(w, []document.Item{item}, monday)
	require.NoError(t, err)
	said := map[string]string{}
	for _, s := range plans[0].Steps {
		if s.Kind == "repair" {
			said[s.Title] = s.Product
		}
	}
	assert.Contains(
		t,
		[]string{"green, waterborne acrylic", "grey, waterborne acrylic", "brown, waterborne acrylic"},
		said["Respray the spot from the kept mix"],
	)
	assert.Equal(t, "ground, primer, acrylic", said["Re-prime the spot"])
	assert.Equal(t, "clear coat, acrylic", said["Gloss the spot"])
}

// A soft edge that no airbrush holds is masked, or made as wide as one does (P8).
func TestASoftEdgeThatIsTooFine(t *testing.T) {
	w, b := shelved(t)
	w.Airbrushes = []path.Airbrush{
		{ID: "fine", Name: "fine one", Nozzle: 0.2},
		{ID: "wide", Name: "wide one", Nozzle: 0.4},
	}
	b.Scheme.Feather = 20 // 0.57 mm on the model, where 1.2 mm can be held
	var d plan.Deriver
	p8 := func(b document.Build, id string) (f strata.Finding, found bool) {
		plans, err := d.Plans(w, []document.Item{{Build: b}}, monday)
		require.NoError(t, err)
		at := slices.IndexFunc(plans[0].Findings, func(f strata.Finding) bool {
			return f.Rule == "P8" && (id == "" || f.ID == id)
		})
		if at < 0 {
			return f, false
		}
		return plans[0].Findings[at], true
	}
	f, found := p8(b, "")
	require.True(t, found)
	assert.Contains(t, f.Reason, "soft edge of 0.6 mm on the model")
	assert.Contains(t, f.Reason, "your 0.2 mm nozzle holds 1.2")
	for _, mend := range []string{"mask", "wider"} {
		next, err := d.Apply(w, document.Item{Build: b}, []document.Edit{{Op: document.ApplyMend, Finding: f.ID, Mend: mend}},
			func() string { return "new" }, monday)
		require.NoError(t, err)
		_, still := p8(next, f.ID)
		assert.False(t, still, mend)
	}
}

// Who has no airbrush paints at the bench, coat by coat, with waits between; nothing goes to
// the booth, and no airbrush is flushed.
func TestAKitPaintedByBrush(t *testing.T) {
	w, b := shelved(t)
	b.Schools = map[string]string{document.SchoolWholeKit: document.ByBrush}
	w.Airbrushes = []path.Airbrush{{ID: "fine", Name: "fine one", Nozzle: 0.2}}
	plans, err := new(plan.Deriver).Plans(w, []document.Item{{Build: b}}, monday)
	require.NoError(t, err)
	coats := 0
	whole := 0.0
	for _, s := range plans[0].Steps {
		assert.NotEqual(t, path.PlaceID("booth"), s.Place, s.Title)
		assert.Empty(t, s.Airbrush, s.Title)
		if s.Kind == "colour" && s.Colour == 1 {
			coats++
			whole += s.Needs[0].ML
			assert.Contains(t, s.Mix, "1 : 0.35", "thinned for the brush")
			assert.Contains(t, s.Title, "by brush")
			if coats > 1 {
				assert.InDelta(t, 40, float64(s.After[0].Wait), 0, "the next coat waits")
			}
		}
	}
	assert.Equal(t, 2, coats)
	film, area := 25.0, first(t, plans[0], "colour").AreaCM
	assert.InDelta(t, 2*area*film*1e-4/(0.3*0.95), whole, 0.02, "two coats of 25 µm, at 30 % solids, 95 % arrive")
}

// A jar that holds less than its layer takes says so before the evening, with what may stand in.
func TestAJarThatHoldsTooLittleIsFound(t *testing.T) {
	w, b := shelved(t)
	var d plan.Deriver
	found := func() (f strata.Finding, ok bool) {
		plans, err := d.Plans(w, []document.Item{{Build: b}}, monday)
		require.NoError(t, err)
		at := slices.IndexFunc(
			plans[0].Findings,
			func(f strata.Finding) bool { return f.Rule == "P11" && f.Layer == b.Layers[1].ID },
		)
		if at < 0 {
			return f, false
		}
		return plans[0].Findings[at], true
	}
	_, ok := found()
	require.False(t, ok, "the jars of the scheme hold enough")
	w.Paint.Jars[2].Left = 0.2
	f, ok := found()
	require.True(t, ok)
	assert.Contains(t, f.Reason, "0.2 ml are left")
	assert.Equal(t, "other brown", f.Mends[0].Jar)
	assert.Equal(t, 3, f.Mends[0].Colour)
}

// The test piece is held against what the rule of scale says, as long as that is one's school.
func TestTheTestPieceKnowsTheScale(t *testing.T) {
	w, b := shelved(t)
	var d plan.Deriver
	test := func(b document.Build) plan.Step {
		plans, err := d.Plans(w, []document.Item{{Build: b}}, monday)
		require.NoError(t, err)
		at := slices.IndexFunc(plans[0].Steps, func(s plan.Step) bool { return s.Kind == "test" })
		require.GreaterOrEqual(t, at, 0)
		return plans[0].Steps[at]
	}
	told := test(b).Forecast
	require.Len(t, told, len(b.Scheme.Colours))
	for _, f := range told {
		assert.Contains(t, f.Words, "8 % of white", "at 1:35")
		assert.Greater(t, colour.Of(f.To).Lab()[0], colour.Of(f.From).Lab()[0])
	}
	b.Schools = map[string]string{document.SchoolTest: "by eye, with a test piece"}
	assert.Empty(t, test(b).Forecast)
}

// Of a mix that holds too little for its surfaces and the touch-ups more is mixed first (P9).
func TestAMixIsMadeInOneGo(t *testing.T) {
	w, b := shelved(t)
	mix := paint.Mixture{
		ID:    "mix",
		Name:  "lightened green",
		Parts: []paint.Part{{Jar: "green", Drops: 9}, {Jar: "grey", Drops: 1}},
	}
	b.Scheme.Colours[0].Jar = "mix"
	var d plan.Deriver
	p9 := func(left float64) *strata.Finding {
		mix.Left = left
		w.Paint.Mixes = []paint.Mixture{mix}
		plans, err := d.Plans(w, []document.Item{{Build: b}}, monday)
		require.NoError(t, err)
		for _, f := range plans[0].Findings {
			if f.Rule == "P9" {
				return &f
			}
		}
		return nil
	}
	f := p9(0.5)
	require.NotNil(t, f)
	assert.Contains(t, f.Reason, "0.5 ml are kept")
	assert.Equal(t, rule.Warn, f.Severity)
	assert.Nil(t, p9(100))
	// Enough for the surfaces, not for touch-ups: better so.
	wanted := 0.0
	_, err := fmt.Sscanf(f.Reason[strings.Index(f.Reason, "take ")+5:], "%f", &wanted)
	require.NoError(t, err)
	hint := p9(wanted * 1.1)
	require.NotNil(t, hint)
	assert.Equal(t, rule.Hint, hint.Severity)
	next, err := d.Apply(
		w,
		document.Item{Build: b},
		[]document.Edit{{Op: document.ApplyMend, Finding: hint.ID, Mend: "meant"}},
		func() string { return "new" },
		monday,
	)
	require.NoError(t, err)
	b = next
	assert.Nil(t, p9(0.5))
}

// The tape plan has the longest run of each panel first, and only runs along what is masked.
func TestTheTapePlan(t *testing.T) {
	w, b := shelved(t)
	w.Airbrushes = []path.Airbrush{{ID: "fine", Name: "fine one", Nozzle: 0.2}}
	b.Scheme.Colours = slices.Clone(b.Scheme.Colours)
	hard := 0.0
	b.Scheme.Colours[1].Family, b.Scheme.Colours[1].Feather = "splinter", &hard
	var d plan.Deriver
	tape, err := d.AskTape(w, b)
	require.NoError(t, err)
	require.NotEmpty(t, tape.Runs)
	last, total := map[string]plan.TapeRun{}, 0.0
	for _, r := range tape.Runs {
		if before, ok := last[r.Panel]; ok {
			assert.LessOrEqual(t, r.LongMM, before.LongMM)
			assert.Equal(t, before.Number+1, r.Number)
		}
		last[r.Panel] = r
		assert.Equal(t, 2, r.Colour, "the soft colour is sprayed freehand")
		assert.InDelta(t, r.LongMM+10, r.CutMM, 1e-9)
		total += r.CutMM / 10
	}
	assert.InDelta(t, total, tape.TotalCM, 1e-9)
	assert.InDelta(t, 2, tape.TapeMM, 0, "usual where none is owned")
}

// A thin colour takes less paint, and a mist at the end is a step of its own that is seen.
func TestThinColoursAndAMist(t *testing.T) {
	w, b := shelved(t)
	var d plan.Deriver
	of := func(b document.Build) plan.Plan {
		plans, err := d.Plans(w, []document.Item{{Build: b}}, monday)
		require.NoError(t, err)
		return plans[0]
	}
	need := func(p plan.Plan) float64 {
		for _, s := range p.Steps {
			if s.Colour == 2 && s.Kind == "colour" {
				return s.Needs[0].ML
			}
		}
		return 0
	}
	full := of(b)
	b.Scheme.Colours = slices.Clone(b.Scheme.Colours)
	b.Scheme.Colours[1].Strength = "thin"
	assert.Less(t, need(of(b)), 0.75*need(full))
	b.Scheme.Mist = true
	misty := of(b)
	at := slices.IndexFunc(misty.Steps, func(s plan.Step) bool { return s.Kind == "mist" })
	require.Positive(t, at)
	assert.Contains(t, misty.Steps[at].Title, "mist of")
	before := slices.IndexFunc(misty.Steps, func(s plan.Step) bool { return s.Colour == 3 })
	require.Positive(t, before)
	assert.NotEqual(t, misty.Steps[at-1].Look, misty.Steps[at].Look)
}

// Cement, filler and decal fluids come from jars that the build names; details from their own. What
// is named counts at shopping; what is not says so and proposes what is owned.
func TestStepsTakeOfNamedJars(t *testing.T) {
	w, b := shelved(t)
	w.Paint.Jars = append(w.Paint.Jars, []paint.Jar{
		{ID: "glue", Name: "thin cement", Family: "cement_plastic", Volume: 40, Left: 18, State: paint.Fine},
		{ID: "filler", Name: "grey filler", Family: "putty_solvent", Volume: 20, Left: 0.1, State: paint.Fine},
		{
			ID:     "leather",
			Name:   "leather",
			Family: "waterborne_acrylic",
			Hex:    "#7a5230",
			Volume: 17,
			Left:   9,
			State:  paint.Fine,
		},
	}...)
	b.Kit.Parts = append(
		slices.Clone(b.Kit.Parts),
		kit.Part{
			ID:       "roll",
			Name:     "canvas roll",
			Kind:     "stowage",
			Material: kit.Resin,
			Assembly: "hull",
			Count:    4,
			Jar:      "leather",
		},
		kit.Part{ID: "pick", Name: "pick", Kind: "tool", Material: kit.Plastic, Assembly: "hull"},
	)
	var d plan.Deriver
	derived := func() (plan.Plan, plan.Shopping) {
		all, err := d.All(w, []document.Item{{Build: b}}, monday)
		require.NoError(t, err)
		return all.Plans[0], all.Shopping
	}
	line := func(p plan.Plan, is func(plan.PotLine) bool) plan.PotLine {
		at := slices.IndexFunc(p.Pots, is)
		require.GreaterOrEqual(t, at, 0)
		return p.Pots[at]
	}
	cement := func(l plan.PotLine) bool { return l.Supply == "cement_plastic" }
	p, _ := derived()
	assert.Equal(t, "glue", line(p, cement).Near[0].Pot, "the one that is owned is proposed")
	assert.Contains(t, line(p, cement).Words, "no jar is named")
	for _, family := range []string{"cement_plastic", "putty_solvent"} {
		next, err := d.Apply(w, document.Item{Build: b}, []document.Edit{
			{
				Op:   document.SetSupply,
				Text: family,
				Jar:  map[string]string{"cement_plastic": "glue", "putty_solvent": "filler"}[family],
			},
		}, func() string { return "new" }, monday)
		require.NoError(t, err)
		b = next
	}
	p, short := derived()
	assert.Equal(t, "glue", line(p, cement).Pot)
	filler := 0.0
	for _, s := range p.Steps {
		for _, n := range s.Needs {
			if n.Pot == "filler" {
				filler += n.ML
			}
		}
	}
	at := slices.IndexFunc(short.Buy, func(x plan.Buy) bool { return x.Pot == "filler" })
	require.GreaterOrEqual(t, at, 0)
	assert.InDelta(t, filler-0.1, short.Buy[at].Short, 1e-9)
	var needs []plan.Need // of all details, whichever is painted first
	for _, s := range p.Steps {
		if s.Kind == "details" {
			needs = append(needs, s.Needs...)
		}
	}
	at = slices.IndexFunc(needs, func(n plan.Need) bool { return n.Pot == "leather" })
	require.GreaterOrEqual(t, at, 0)
	assert.InDelta(t, 4*0.03, needs[at].ML, 1e-9)
	assert.Equal(t, []string{"canvas roll"}, needs[at].For)
	pick := line(p, func(l plan.PotLine) bool { return l.Part == "pick" })
	assert.NotEmpty(t, pick.Near)
	_, err := d.Apply(w, document.Item{Build: b}, []document.Edit{{Op: document.SetSupply, Text: "tea", Jar: "glue"}},
		func() string { return "new" }, monday)
	assert.ErrorContains(t, err, "tea")
}

// What was never opened is tried on scrap first (P14); what was laid and of which nothing is kept is
// mixed again and compared before it is touched up (P10). The mends settle both.
func TestWhatIsNewIsTriedFirst(t *testing.T) {
	w, b := shelved(t)
	var d plan.Deriver
	item := document.Item{Build: b}
	found := func(rule string) []strata.Finding {
		plans, err := d.Plans(w, []document.Item{item}, monday)
		require.NoError(t, err)
		var out []strata.Finding
		for _, f := range plans[0].Findings {
			if f.Rule == rule {
				out = append(out, f)
			}
		}
		return out
	}
	mend := func(f strata.Finding, mend string) {
		next, err := d.Apply(w, item, []document.Edit{{Op: document.ApplyMend, Finding: f.ID, Mend: mend}},
			func() string { return fmt.Sprint(len(item.Build.Order.Own)) }, monday)
		require.NoError(t, err)
		item.Build = next
	}
	before := found("P14")
	require.NotEmpty(t, before)
	mend(before[0], "trial")
	left := found("P14")
	assert.Len(t, left, len(before)-1)
	plans, err := d.Plans(w, []document.Item{item}, monday)
	require.NoError(t, err)
	assert.Contains(t, first(t, plans[0], "trial").Title, "on scrap")
	for ; len(left) > 0; left = found("P14") { // of all colours of a layer at once
		mend(left[0], "meant")
	}
	for i := range w.Paint.Jars {
		w.Paint.Jars[i].Opened = "2026-10-01"
	}
	item.Build = b
	assert.Empty(t, found("P14"), "what was opened is known")
	// The colours are laid, and of one nothing is left.
	plans, err = d.Plans(w, []document.Item{item}, monday)
	require.NoError(t, err)
	assert.Empty(t, found("P10"))
	for i, s := range plans[0].Steps {
		if s.Kind == "colour" {
			item.Log = append(item.Log, document.Entry{
				Key: fmt.Sprint(i), Kind: document.Finished, Task: s.ID, Title: s.Title, StepKind: s.Kind,
				At: monday.Add(-time.Hour), Subject: s.Subject,
			})
		}
	}
	w.Paint.Jars[0].Left = 0.1
	f := found("P10")
	require.Len(t, f, 1)
	assert.Contains(t, f[0].Reason, "0.1 ml are left")
	mend(f[0], "trial")
	assert.Empty(t, found("P10"))
}
