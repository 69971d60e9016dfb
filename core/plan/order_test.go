package plan_test

import (
	"errors"
	"slices"
	"strings"
	"testing"
	"time"

	"cinderpath/core/bench"
	"cinderpath/core/colour"
	"cinderpath/core/document"
	"cinderpath/core/kit"
	"cinderpath/core/measure"
	"cinderpath/core/path"
	"cinderpath/core/plan"
	"cinderpath/core/rule"
	"cinderpath/core/strata"
	"cinderpath/core/unit"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// boxed is the tank with a kit that has something for every rule of the order.
func boxed(t testing.TB) document.Build {
	b := tank(t)
	for i := range b.Layers {
		if b.Layers[i].Kind == strata.Decals {
			b.Layers[i].Softener = true
		}
	}
	b.Kit = kit.Kit{
		Versions: []kit.Version{
			{ID: "line", Name: "Line vehicle"},
			{ID: "command", Name: "Command vehicle"},
		},
		Version: "line",
		Features: []kit.Feature{
			{ID: "rack", Name: "rack holes", Kind: kit.Hole, Assembly: "hull", Inside: true, Versions: []string{"line"}},
			{
				ID:       "aerial",
				Name:     "second aerial's opening",
				Kind:     kit.Opening,
				Assembly: "hull",
				MM:       2.2,
				Versions: []string{"command"},
			},
			{ID: "pips", Name: "lamp marks", Kind: kit.Mark, Assembly: "turret", Versions: []string{"command"}},
		},
		Decals: []kit.Decal{
			{ID: "number", Name: "the number", Zone: "hull.side.left", Thick: true},
			{ID: "pennant", Name: "the pennant", Zone: "turret.left", Versions: []string{"command"}},
		},
		Parts: []kit.Part{
			{ID: "periscope", Name: "periscopes", Count: 4, Material: kit.Clear, Assembly: "turret", Before: "turret"},
			{ID: "rope", Name: "tow rope", Material: kit.Wire, Assembly: "hull", Kind: "cable", Over: []string{"number"}},
			{ID: "pipe", Name: "exhaust pipe", Material: kit.Plastic, Assembly: "hull"},
			{ID: "guard", Name: "exhaust guard", Material: kit.Etched, Assembly: "hull", Guards: "pipe"},
			{
				ID:       "skirt",
				Name:     "left skirt",
				Material: kit.Plastic,
				Assembly: "hull",
				Kind:     "skirt",
				Shadows:  []string{"gear"},
				Forced:   true,
				Side:     "left",
			},
			{
				ID:       "barrel",
				Name:     "cast muzzle",
				Material: kit.Resin,
				Assembly: "turret",
				Ordered:  &kit.Ordered{Expected: "2026-11-27"},
			},
			{ID: "staff", Name: "command mast", Material: kit.Plastic, Assembly: "hull", Versions: []string{"command"}},
			{ID: "bag", Name: "bag", Material: kit.Plastic, Assembly: "turret", Kind: "stowage"},
			{ID: "rail", Name: "bag rail", Material: kit.Wire, Assembly: "turret", Kind: "aerial", Holds: []string{"bag"}},
			{ID: "lamp", Name: "head lamp", Material: kit.Clear, Assembly: "hull"},
		},
	}
	require.NoError(t, b.Check())
	return b
}

// stepsOf gives the order that edits are made against.
func stepsOf() func(document.Build) ([]path.Task, error) {
	return func(b document.Build) ([]path.Task, error) {
		return made.Tasks(workshop(), document.Item{Build: b}, monday)
	}
}

func idOf(t testing.TB, tasks []path.Task, prefix string) string {
	i := slices.IndexFunc(
		tasks,
		func(x path.Task) bool { return strings.HasPrefix(x.ID, prefix) || strings.HasPrefix(x.Title, prefix) },
	)
	require.GreaterOrEqual(t, i, 0, "no step %q", prefix)
	return tasks[i].ID
}

func move(task, after string) document.Edit {
	return document.Edit{Op: document.SetOrder, Order: &document.OrderEdit{Do: "move", Task: task, After: after}}
}

// Each rule that stops: a wrong order is refused with its rule, and every mend that is
// offered can be applied and leads to an order without that task in the way.
func TestWrongOrdersAreRefusedWithTheirRule(t *testing.T) {
	b := boxed(t)
	of := stepsOf()
	tasks, err := of(b)
	require.NoError(t, err)
	colour := idOf(t, tasks, "Camouflage")
	for rule, wrong := range map[string][2]string{
		"B1":  {"inside:turret:1", "assemble:turret:1"},
		"B2":  {"shave:turret:1", "Primer"},
		"B4":  {idOf(t, tasks, "Decals"), "fit:rope:1"},
		"B5":  {"pipe:pipe:1", "fit:guard:1"},
		"B8":  {"handed:gear:1", "fit:gear:1"},
		"B12": {"free:resin:1", "Primer"},
		"P1":  {"Primer", colour},
		"P3":  {"assemble:wheels:1", "Primer"},
		"W3":  {"Pin wash, section 1 of", "takeback:"},
		"F2":  {idOf(t, tasks, "Mud"), "fit:gear:1"},
	} {
		t.Run(rule, func(t *testing.T) {
			first, then := idOf(t, tasks, wrong[0]), idOf(t, tasks, wrong[1])
			_, err := applied(b, []document.Edit{move(first, then)}, ids())
			var no *document.Refusal
			require.True(t, errors.As(err, &no), "%v", err)
			assert.Equal(t, rule, no.Rule)
			assert.NotEmpty(t, no.Reason)
			assert.NotEmpty(t, no.Remedy)
			require.NotEmpty(t, no.Mends)
			for _, m := range no.Mends {
				mended, err := applied(b, m.Edits, ids())
				require.NoError(t, err, m.Label)
				less, err := of(mended)
				require.NoError(t, err)
				assert.Len(t, less, len(tasks)-1, m.Label)
			}
		})
	}
}

// Chemistry that stops is found in the stack; its mends settle it.
func TestStopsOfTheStackAreMended(t *testing.T) {
	base := tank(t)
	layer := func(name string, kind strata.Kind, family string, applied strata.Application) strata.Layer {
		return strata.Layer{
			ID:      name,
			Name:    name,
			Kind:    kind,
			Family:  family,
			Applied: applied,
			Coats:   1,
			Zones:   []string{"turret"},
			Hex:     "#557755",
		}
	}
	soon := unit.Minutes(5.0)
	pinned := layer("wash", strata.Wash, "enamel_effect", strata.Brushed)
	pinned.WaitMin = &soon
	gloss := layer("gloss", strata.Clear, "clear_acrylic", strata.Misted)
	gloss.Sheen = colour.Gloss
	deep := strata.Layer{
		ID:      "mud",
		Name:    "mud",
		Kind:    strata.Mud,
		Family:  "mud_paste",
		Applied: strata.Brushed,
		Coats:   1,
		DepthMM: 19,
	}
	for id, stack := range map[string][]strata.Layer{
		"P1":  {layer("oil", strata.Streaks, "oil_thin", strata.Brushed), layer("hot", strata.Dust, "lacquer", strata.Brushed)},
		"P4":  {layer("coat", strata.ChippingCoat, "chipping_coat", strata.Misted), layer("white", strata.Colour, "enamel_paint", strata.Misted)},
		"M3":  {gloss, layer("decals", strata.Decals, "decal", strata.Brushed), pinned},
		"W12": {deep},
	} {
		t.Run(id, func(t *testing.T) {
			b := base
			b.Layers = stack
			p := planOf(t, b)
			i := slices.IndexFunc(p.Findings, func(f strata.Finding) bool { return f.Rule == id && f.Severity == rule.Stop })
			require.GreaterOrEqual(t, i, 0, "%+v", p.Findings)
			require.NotEmpty(t, p.Findings[i].Mends)
			for _, m := range p.Findings[i].Mends {
				mended, err := applied(b, []document.Edit{{Op: document.ApplyMend, Finding: p.Findings[i].ID, Mend: m.ID}}, ids())
				require.NoError(t, err, m.Label)
				for _, left := range planOf(t, mended).Findings {
					assert.NotEqual(t, p.Findings[i].ID, left.ID, m.Label)
				}
			}
		})
	}
}

// The kit that has something for every id has a plan without contradictions, and each
// glued part with a side is checked in the session in which it is glued.
func TestTheGeneratedOrderHoldsTogether(t *testing.T) {
	p := planOf(t, boxed(t))
	assert.Empty(t, p.Conflicts)
	for _, s := range p.Steps {
		assert.Empty(t, s.Failed, s.Title)
	}
	check, fit := step(t, p, "Check the side of left skirt"), step(t, p, "Put back: left skirt")
	assert.Equal(t, check.Spans[0].From.YearDay(), fit.Spans[0].From.YearDay())
	assert.False(t, fit.Spans[0].From.Before(check.End()))
}

// Advice may be overruled: it is remembered, and can be taken back.
func TestAdviceIsOverruledAndRemembered(t *testing.T) {
	b := boxed(t)
	of := stepsOf()
	tasks, err := of(b)
	require.NoError(t, err)
	mud := idOf(t, tasks, "Mud")
	// The skirt is forced on, so mud comes after it (F1): the modeller wants it before.
	next, err := applied(b, []document.Edit{move("fit:skirt:1", mud)}, ids())
	require.NoError(t, err)
	require.NotEmpty(t, next.Order.Meant)
	assert.Equal(t, "F1", next.Order.Meant[0].Rule)
	after, err := of(next)
	require.NoError(t, err)
	at := func(tasks []path.Task, id string) int {
		return slices.IndexFunc(tasks, func(x path.Task) bool { return x.ID == id })
	}
	assert.Less(t, at(tasks, "fit:skirt:1"), at(tasks, mud))
	assert.Greater(t, at(after, "fit:skirt:1"), at(after, mud))
	back, err := applied(
		next,
		[]document.Edit{{Op: document.SetOrder, Order: &document.OrderEdit{Do: "undo", Task: "fit:skirt:1"}}},
		ids(),
	)
	require.NoError(t, err)
	assert.Empty(t, back.Order.Meant)
	// Loose schools let everything but chemistry go.
	b.Schools = map[string]string{"strict": "loose"}
	_, err = applied(b, []document.Edit{move(idOf(t, tasks, "Decals"), "fit:rope:1")}, ids())
	assert.NoError(t, err)
}

func TestStepsAreAddedSplitMergedAndLeftOut(t *testing.T) {
	b := boxed(t)
	of := stepsOf()
	tasks, err := of(b)
	require.NoError(t, err)
	total := func(tasks []path.Task) (m unit.Minutes) {
		for _, x := range tasks {
			m += x.Minutes
		}
		return m
	}
	do := func(e document.OrderEdit) []path.Task {
		next, err := applied(b, []document.Edit{{Op: document.SetOrder, Order: &e}}, ids())
		require.NoError(t, err)
		out, err := of(next)
		require.NoError(t, err)
		return out
	}
	added := do(
		document.OrderEdit{
			Do: "add",
			Step: &document.OwnStep{
				Kind:    "soot",
				Title:   "Soot at the pipe",
				Minutes: 20,
				After:   idOf(t, tasks, "Dust"),
				Before:  idOf(t, tasks, "Mud"),
			},
		},
	)
	assert.Len(t, added, len(tasks)+1)
	i := slices.IndexFunc(added, func(x path.Task) bool { return x.Title == "Soot at the pipe" })
	assert.Equal(t, bench.Earth, added[i].Stage)
	split := do(document.OrderEdit{Do: "split", Task: "assemble:hull:1", Into: 3})
	assert.Len(t, split, len(tasks)+2)
	assert.InDelta(t, float64(total(tasks)), float64(total(split)), 3)
	assert.Equal(t, "assemble:hull:1.3", idOf(t, split, "assemble:hull:1.3"))
	merged := do(
		document.OrderEdit{Do: "merge", Tasks: []string{"drill:hull:1", "fillhole:hull:1"}, Title: "Holes of the hull"},
	)
	assert.Len(t, merged, len(tasks)-1)
	assert.Equal(t, total(tasks), total(merged))
	left := do(document.OrderEdit{Do: "leave", Task: "assemble:turret:1"})
	assert.Len(t, left, len(tasks)-1)
	// What came before it still comes before what came after.
	sand := left[slices.IndexFunc(left, func(x path.Task) bool { return x.ID == "sand:turret:1" })]
	assert.True(t, slices.ContainsFunc(sand.After, func(a path.Arrow) bool { return a.From == "inside:turret:1" }))
	for name, e := range map[string]document.OrderEdit{
		"unknown step":     {Do: "leave", Task: "nothing:here:1"},
		"one alone":        {Do: "merge", Tasks: []string{"drill:hull:1"}},
		"something inside": {Do: "merge", Tasks: []string{"drill:hull:1", "sand:hull:1"}},
		"in one":           {Do: "split", Task: "drill:hull:1", Into: 1},
		"after itself":     {Do: "move", Task: "drill:hull:1", After: "drill:hull:1"},
		"no such change":   {Do: "shuffle"},
		"no minutes":       {Do: "add", Step: &document.OwnStep{Title: "x", Kind: "own"}},
		"nothing changed":  {Do: "undo", Task: "drill:hull:1"},
	} {
		_, err := applied(b, []document.Edit{{Op: document.SetOrder, Order: &e}}, ids())
		var fault *measure.Fault
		require.ErrorAs(t, err, &fault, name)
		assert.NotEmpty(t, fault.Remedy, name)
	}
}

// The version decides parts, holes, marks and decals, and with them the steps.
func TestTheVersionDecides(t *testing.T) {
	b := boxed(t)
	of := stepsOf()
	titles := func(b document.Build) string {
		tasks, err := of(b)
		require.NoError(t, err)
		var all []string
		for _, x := range tasks {
			all = append(all, x.Title)
		}
		return strings.Join(all, "\n")
	}
	line := titles(b)
	assert.Contains(t, line, "Drill rack holes")
	assert.Contains(t, line, "Fill second aerial's opening")
	assert.Contains(t, line, "Shave lamp marks")
	command, err := applied(b, []document.Edit{{Op: document.SetVersion, Text: "command"}}, ids())
	require.NoError(t, err)
	got := titles(command)
	assert.NotContains(t, got, "Drill")
	assert.NotContains(t, got, "Fill second")
	assert.NotContains(t, got, "Shave")
	_, err = applied(b, []document.Edit{{Op: document.SetVersion, Text: "parade"}}, ids())
	assert.ErrorContains(t, err, "no version")
}

// Every arrow of the generated order points at a step that is there, says why, and
// waits by itself form no circle.
func TestArrowsAreSound(t *testing.T) {
	of := stepsOf()
	for _, b := range []document.Build{tank(t), boxed(t)} {
		tasks, err := of(b)
		require.NoError(t, err)
		at := map[string]int{}
		for i, x := range tasks {
			at[x.ID] = i
			for _, a := range x.After {
				k, known := at[a.From]
				assert.True(t, known && k < i, "%s comes after %s", x.ID, a.From)
				assert.NotEmpty(t, a.Reason, "%s after %s", x.ID, a.From)
			}
		}
		assert.Len(t, at, len(tasks), "names are their own")
		if rail, ok := at["fit:rail:1"]; ok {
			assert.Less(t, rail, at["fit:bag:1"], "what holds another goes on before it")
		}
	}
}

func TestOrderedPartsHoldTheirStepsBack(t *testing.T) {
	b := boxed(t)
	p := planOf(t, b)
	free := step(t, p, "Free cast muzzle from its block")
	assert.Equal(t, path.IsBlocked, free.Status)
	got := step(t, p, "Check what came: cast muzzle")
	assert.Equal(t, path.IsWaiting, got.Status)
	assert.GreaterOrEqual(t, got.Spans[0].From.Format(time.DateOnly), "2026-11-27")
	b.Kit.Parts = slices.Clone(b.Kit.Parts)
	i := slices.IndexFunc(b.Kit.Parts, func(x kit.Part) bool { return x.ID == "barrel" })
	b.Kit.Parts[i].Ordered = &kit.Ordered{Expected: "2026-11-27", Arrived: "2026-11-23", Checked: kit.Arrival}
	// At hand and checked, nothing is to be received and the work on it waits for no day.
	later := planOf(t, b)
	assert.False(
		t,
		slices.ContainsFunc(later.Steps, func(s plan.Step) bool { return strings.HasPrefix(s.ID, "receive:") }),
	)
	free = step(t, later, "Free cast muzzle from its block")
	assert.False(
		t,
		slices.ContainsFunc(free.After, func(a path.Arrow) bool { return strings.HasPrefix(a.From, "receive:") }),
	)
}

// A mishap brings its repair, the layers above on that spot, and moves what comes after.
func TestAMishapBringsItsRepair(t *testing.T) {
	b := tank(t)
	p := planOf(t, b)
	var log []document.Entry
	at := monday.Add(-40 * 24 * time.Hour)
	for _, s := range p.Steps {
		if strings.HasPrefix(s.Title, "Satin seal") {
			break
		}
		at = at.Add(20 * time.Hour)
		log = append(log, document.Entry{Key: s.ID, Kind: document.Finished, Task: s.ID, Title: s.Title, At: at})
	}
	colour := step(t, p, "Camouflage: lichen green")
	before := planOf(t, b, log...)
	next := step(t, before, "Satin seal")
	e := document.Entry{
		Key:    "0190-mark",
		Kind:   document.Mishap,
		Task:   colour.ID,
		Title:  colour.Title,
		Mishap: "cement",
		Choice: document.Repair,
		Zones:  []string{"hull.side.left"},
		At:     monday,
	}
	require.NoError(t, e.Check())
	after := planOf(t, b, append(slices.Clone(log), e)...)
	repair := step(t, after, "Let the mark harden, sand it back")
	again := step(t, after, "Decals, again on the mended spot")
	assert.False(t, again.Spans[0].From.Before(repair.End()))
	moved := step(t, after, "Satin seal")
	assert.True(t, moved.Spans[0].From.After(next.Spans[0].From), "what comes after waits")
	assert.False(t, moved.Spans[0].From.Before(again.End()), "and comes after the last layer on the spot")
	words := path.Changes(placed(before), placed(after), func(id string) string { return id })
	assert.NotEmpty(t, words)
	e.Choice = document.Leave
	left := planOf(t, b, append(slices.Clone(log), e)...)
	assert.Len(t, left.Steps, len(before.Steps), "left, it brings no steps")
}

func placed(p plan.Plan) []path.Placed {
	var out []path.Placed
	for _, s := range p.Steps {
		out = append(out, s.Placed)
	}
	return out
}

// What took longer is planned longer the next time, and says so with its count.
func TestTimesAreLearnedFromTheLog(t *testing.T) {
	b := tank(t)
	first := step(t, planOf(t, b), "Assemble the lower hull")
	other := step(t, planOf(t, b), "Assemble the upper hull")
	begin := monday.Add(-30 * time.Hour)
	log := []document.Entry{
		{Key: "1", Kind: document.Started, Task: first.ID, Title: first.Title, StepKind: "assemble", At: begin},
		{
			Key:      "2",
			Kind:     document.Finished,
			Task:     first.ID,
			Title:    first.Title,
			StepKind: "assemble",
			Planned:  first.Minutes,
			At:       begin.Add(time.Duration(2*first.Minutes) * time.Minute),
		},
		{
			Key:      "3",
			Kind:     document.Lesson,
			Task:     first.ID,
			Title:    first.Title,
			StepKind: "assemble",
			Note:     "Tape it to the glass plate",
			At:       begin,
		},
	}
	later := step(t, planOf(t, b, log...), "Assemble the upper hull")
	// One step twice as long, against a table that counts as two: the cube root of two.
	assert.InDelta(t, 1.26*float64(other.Minutes), float64(later.Minutes), 1)
	assert.Contains(t, strings.Join(later.TimeWhy.Inputs, " "), "learned from 1 of your own")
	require.Len(t, later.Lessons, 1)
	assert.Equal(t, "Tape it to the glass plate", later.Lessons[0].Note)
}

// Timers run from what was finished: touch, when the take-back opens and when it closes.
func TestTimersAfterAWash(t *testing.T) {
	b := tank(t)
	p := planOf(t, b)
	var log []document.Entry
	for _, s := range p.Steps {
		end := monday.Add(-72 * time.Hour)
		if strings.HasPrefix(s.Title, "Pin wash, section 1") {
			end = monday.Truncate(time.Minute).Add(-5 * time.Minute)
		}
		log = append(log, document.Entry{Key: s.ID, Kind: document.Finished, Task: s.ID, Title: s.Title, At: end})
		if end.After(monday.Add(-time.Hour)) {
			break
		}
	}
	noon := monday.Truncate(time.Minute)
	got := map[string]time.Time{}
	for _, x := range planOf(t, b, log...).Timers {
		if strings.Contains(x.Title, "ash, section 1") {
			got[x.Kind] = x.At
		}
	}
	assert.Equal(t, noon.Add(115*time.Minute), got["touch"])
	assert.Equal(t, noon.Add(10*time.Minute), got["opens"])
	assert.Equal(t, noon.Add(235*time.Minute), got["closes"])
}

// Schools change the order: when the running gear and the skirts go on.
func TestSchoolsChangeTheOrder(t *testing.T) {
	of := stepsOf()
	at := func(schools map[string]string) (gear, skirt, wash, mud int) {
		b := boxed(t)
		b.Schools = schools
		require.NoError(t, b.Check())
		tasks, err := of(b)
		require.NoError(t, err)
		find := func(prefix string) int {
			return slices.IndexFunc(tasks, func(x path.Task) bool { return x.ID == idOf(t, tasks, prefix) })
		}
		return find("fit:gear:1"), find("fit:skirt:1"), find("Pin wash"), find("Mud")
	}
	gear, skirt, wash, mud := at(nil)
	assert.Greater(t, gear, mud, "removable to the end")
	assert.True(t, wash < skirt && skirt < mud, "split: paint wear before, earth after")
	gear, _, wash, _ = at(map[string]string{"running-gear": "glued before upper weathering"})
	assert.Less(t, gear, wash)
	_, skirt, wash, _ = at(map[string]string{"skirts": "fit, then weather"})
	assert.Less(t, skirt, wash)
	_, skirt, _, mud = at(map[string]string{"skirts": "weather, then fit"})
	assert.Greater(t, skirt, mud)
	bad := boxed(t)
	bad.Schools = map[string]string{"skirts": "never"}
	assert.ErrorContains(t, bad.Check(), "no answer")
}

// What is done too early, or becomes due too late, is told at the step that was missed.
func TestAStepThatCameTooLateIsTold(t *testing.T) {
	b := boxed(t)
	first := planOf(t, b)
	var log []document.Entry
	for i, s := range first.Steps {
		assert.Empty(t, s.Passed, s.Title)
		log = append(
			log,
			document.Entry{
				Key:   s.ID,
				Kind:  document.Finished,
				Task:  s.ID,
				Title: s.Title,
				At:    monday.Add(time.Duration(i-200) * time.Hour),
			},
		)
		if strings.HasPrefix(s.ID, "prime:") {
			break
		}
	}
	for _, s := range planOf(t, b, log...).Steps {
		assert.Empty(t, s.Passed, s.Title)
	}
	// The other version wants a mark shaved, and the primer is on.
	b.Kit.Version = "command"
	b.Kit.Features = append(
		b.Kit.Features,
		kit.Feature{ID: "stub", Name: "stub of the rack", Kind: kit.Mark, Assembly: "hull", Versions: []string{"line"}},
	)
	late := planOf(t, b, log...)
	i := slices.IndexFunc(late.Steps, func(s plan.Step) bool { return strings.Contains(s.Title, "stub of the rack") })
	require.GreaterOrEqual(t, i, 0)
	require.NotEmpty(t, late.Steps[i].Passed)
	assert.Contains(t, late.Steps[i].Passed, "Degrease before primer is done already")
	assert.Contains(t, late.Steps[i].Passed, "B2")
	// Left out, it is told no more.
	log = append(
		log,
		document.Entry{Key: "skip", Kind: document.Skipped, Task: late.Steps[i].ID, Title: "x", At: monday.Add(-time.Hour)},
	)
	for _, s := range planOf(t, b, log...).Steps {
		if s.ID == late.Steps[i].ID {
			assert.Empty(t, s.Passed)
		}
	}
}
