package plan_test

import (
	"cinderpath/core/base"
	"cinderpath/core/bench"
	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/kit"
	"cinderpath/core/marking"
	"cinderpath/core/path"
	"cinderpath/core/plan"
	"cinderpath/core/strata"
	"math"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestAStepThatGluesSaysHow(t *testing.T) {
	b := boxed(t)
	b.Kit.Parts = append(b.Kit.Parts,
		kit.Part{ID: "bracket", Name: "brass bracket", Material: kit.Metal, Assembly: "hull", Holds: []string{"shackle"}},
		kit.Part{ID: "shackle", Name: "shackle", Material: kit.Etched, Assembly: "hull", Note: "of lead foil"})
	_, by := walked(t, b)
	said := strings.Join(by["etchfit:hull:1"].Joints, "\n")
	assert.Contains(t, said, "brass bracket on the hull: super glue")
	assert.Contains(t, said, "shackle on brass bracket: solder or super glue")
	assert.Contains(t, said, "roughen smooth metal")
	cautions := strings.Join(by["etchfit:hull:1"].Cautions, "\n")
	for _, c := range []string{"Super glue", "Heat", "Lead"} {
		assert.Contains(t, cautions, c)
	}
	assert.Contains(t, strings.Join(by["fit:bag:1"].Joints, "\n"), "white glue")
	// Nobody sprays while masking.
	for id, s := range by {
		if s.Kind == "mask" || s.Kind == "unmask" {
			assert.NotContains(t, strings.Join(s.Cautions, " "), "Spray", id)
		}
		if s.Kind == "colour" && s.Place == path.Booth {
			assert.Contains(t, strings.Join(s.Cautions, " "), "Spray", id)
		}
	}
}

func TestABaseIsMadeInItsOrder(t *testing.T) {
	b := boxed(t)
	b.Schools = map[string]string{document.SchoolDisplay: document.OnABase}
	b.Base = &base.Base{
		Margin:  25,
		Board:   10,
		Depth:   3,
		Sink:    70,
		Screw:   3,
		Screws:  2,
		Figures: 2,
		Strewn:  []base.Grain{{Kind: "gravel", MM: 0.5}},
	}
	_, by := walked(t, b)
	for _, pair := range [][2]string{
		{"assemble:lower:1", "nut:lower:1"}, {"base:own:1", "board:own:1"}, {"base:own:2", "base:own:1"},
		{"imprint:own:1", "base:own:2"}, {"strew:own:1", "imprint:own:1"}, {"baseearth:own:1", "strew:own:1"},
		{"edges:own:1", "baseearth:own:1"}, {"mount:own:1", "edges:own:1"}, {"mount:own:1", "fit:gear:1"},
		{"bed:own:1", "mount:own:1"}, {"setfigures:own:1", "figures:own:1"}, {"record:build:1", "setfigures:own:1"},
	} {
		require.Contains(t, by, pair[0])
		assert.True(t, after(by, pair[0], pair[1]), "%s after %s", pair[0], pair[1])
	}
	assert.Equal(t, by["base:own:2"].Spans[len(by["base:own:2"].Spans)-1].To.Format("2006-01-02"),
		by["imprint:own:1"].Spans[0].From.Format("2006-01-02"), "pressed in while it is soft")
	assert.Contains(t, by["imprint:own:1"].Title, "2.0 mm")
	// On a shelf there is none of it.
	b.Schools = nil
	_, by = walked(t, b)
	for _, id := range []string{"nut:lower:1", "board:own:1", "mount:own:1"} {
		assert.NotContains(t, by, id)
	}
}

func TestAFlawIsLeftOnlyWhereSomethingCoversIt(t *testing.T) {
	b := boxed(t)
	p, by := walked(t, b)
	mud := b.Layers[slices.IndexFunc(b.Layers, func(l strata.Layer) bool { return l.Kind == strata.Mud })]
	covered, bare := "", ""
	for _, z := range p.Zones {
		earthy := slices.ContainsFunc(b.Layers, func(l strata.Layer) bool {
			return slices.Contains([]strata.Kind{strata.Mud, strata.Dust, strata.Pigment, strata.Splash}, l.Kind) &&
				l.Covers(z.Zone)
		})
		if mud.Covers(z.Zone) {
			covered = z.Zone
		}
		if !earthy {
			bare = z.Zone
		}
	}
	require.NotEmpty(t, covered)
	e := document.Entry{
		Kind: document.Mishap, Choice: document.Leave, Mishap: "flaw", Task: idOf(t, tasksOf(p), "Primer"), Title: "x",
		Zones: []string{covered},
	}
	require.NotEmpty(t, by[e.Task].Title)
	assert.NoError(t, p.LeftAlone(b, e))
	if bare != "" {
		e.Zones = []string{bare}
		assert.ErrorContains(t, p.LeftAlone(b, e), "nothing that is still to come covers it")
	}
	without := b
	without.Layers = slices.DeleteFunc(slices.Clone(b.Layers), func(l strata.Layer) bool {
		return l.Kind == strata.Mud || l.Kind == strata.Dust || l.Kind == strata.Pigment || l.Kind == strata.Splash
	})
	p, _ = walked(t, without)
	e.Zones = []string{covered}
	assert.ErrorContains(t, p.LeftAlone(without, e), "repair it")
	e.Choice = document.Repair
	assert.NoError(t, p.LeftAlone(without, e))
}

func TestPartsGoOnBetweenLayers(t *testing.T) {
	b := boxed(t)
	colour := b.Layers[slices.IndexFunc(b.Layers, func(l strata.Layer) bool { return l.Kind == strata.Colour })]
	b.Kit.Parts = append(b.Kit.Parts, kit.Part{
		ID:       "basket",
		Name:     "stowage basket",
		Material: kit.Plastic,
		Assembly: "hull",
		Kind:     "aerial",
		Stay:     "off",
		Late:     colour.ID,
	})
	p, by := walked(t, b)
	require.Contains(t, by, "fit:basket:1")
	last := ""
	for _, s := range p.Steps {
		if s.Layer == colour.ID {
			last = s.ID
		}
	}
	assert.True(t, after(by, "fit:basket:1", last), "painted apart first")
	var washes []string
	for _, s := range p.Steps {
		if s.Kind == "wash" {
			washes = append(washes, s.ID)
		}
	}
	require.NotEmpty(t, washes)
	for _, w := range washes {
		assert.True(t, after(by, w, "fit:basket:1"), "and washed with the rest: %s", w)
	}
}

// A part may go on between two colours of the scheme: the first is sprayed apart, the others over both.
func TestPartsGoOnBetweenColours(t *testing.T) {
	b := boxed(t)
	colour := b.Layers[slices.IndexFunc(b.Layers, strata.Layer.IsScheme)]
	require.Greater(t, len(b.Scheme.Colours), 2)
	b.Kit.Parts = append(b.Kit.Parts, kit.Part{
		ID: "basket", Name: "stowage basket", Material: kit.Plastic, Assembly: "hull", Kind: "aerial", Stay: "off",
		Late: colour.ID, LateTo: 1,
	})
	require.NoError(t, b.Check())
	p, by := walked(t, b)
	require.Contains(t, by, "fit:basket:1")
	seen := map[bool]int{}
	for _, s := range p.Steps {
		if s.Kind != "colour" || s.Layer != colour.ID {
			continue
		}
		later := s.Colour > 1
		seen[later]++
		if later {
			assert.True(t, after(by, s.ID, "fit:basket:1"), s.Title)
		} else {
			assert.True(t, after(by, "fit:basket:1", s.ID), s.Title)
		}
	}
	assert.Equal(t, map[bool]int{false: 1, true: len(b.Scheme.Colours) - 1}, seen)
	assert.Empty(t, p.Conflicts)
}

func TestArmsAreLookedAtAsTheyAreGlued(t *testing.T) {
	b := boxed(t)
	_, by := walked(t, b)
	require.Contains(t, by, "arms:gear:1")
	at := slices.IndexFunc(by["arms:gear:1"].After, func(a path.Arrow) bool { return a.From == "handed:arms:1" })
	require.GreaterOrEqual(t, at, 0)
	assert.True(t, by["arms:gear:1"].After[at].Same, "in one session")
	assert.Equal(t, "B8", by["arms:gear:1"].After[at].Rule)
	assert.True(t, after(by, "assemble:wheels:1", "arms:gear:1"))
}

func TestPressFitsAreMasked(t *testing.T) {
	b := boxed(t)
	b.Kit.Parts = append(b.Kit.Parts, kit.Part{
		ID: "hub", Name: "hub caps", Count: 4, Material: kit.Plastic, Assembly: "hull", Joint: kit.Press, Stay: "off",
	})
	p, by := walked(t, b)
	require.Contains(t, by, "cover:hub:1")
	assert.True(t, after(by, idOf(t, tasksOf(p), "Primer"), "cover:hub:1"))
	assert.Contains(t, strings.Join(by["fit:hub:1"].Joints, " "), "mask both faces before paint")
}

// What stands against a base is found, and each mend settles it without new damage.
func TestRulesOfABaseAreFoundAndMended(t *testing.T) {
	b := boxed(t)
	b.Schools = map[string]string{document.SchoolDisplay: document.OnABase}
	usual := base.Base{Margin: 25, Board: 10, Depth: 3, Sink: 70, Screw: 3, Screws: 2, Strewn: []base.Grain{}}
	find := func(b document.Build, id string) (strata.Finding, int) {
		p, _ := walked(t, b)
		of := 0
		at := -1
		for i, f := range p.Findings {
			if strings.Contains(f.ID, ":base") {
				of++
			}
			if f.ID == id {
				at = i
			}
		}
		if at < 0 {
			return strata.Finding{}, of
		}
		return p.Findings[at], of
	}
	for id, change := range map[string]func(*base.Base){
		"W19:base:0": func(x *base.Base) { x.Strewn = []base.Grain{{Kind: "sand", MM: 1}} },
		"F3:base":    func(x *base.Base) { x.Jar = "another" },
		"W12:base":   func(x *base.Base) { x.Sink, x.Depth = 900, 60 },
		"B6:base":    func(x *base.Base) { x.Depth = 0.5 },
	} {
		x := usual
		change(&x)
		b.Base = &x
		f, all := find(b, id)
		require.Equal(t, id, f.ID)
		require.NotEmpty(t, f.Mends, id)
		for _, m := range f.Mends {
			next, err := applied(
				b,
				[]document.Edit{{Op: document.ApplyMend, Finding: id, Mend: m.ID}},
				func() string { return "x" },
			)
			require.NoError(t, err, "%s, %s", id, m.Label)
			still, left := find(next, id)
			assert.Empty(t, still.ID, "%s: %s", id, m.Label)
			assert.Less(t, left, all, "%s: %s brings nothing new", id, m.Label)
		}
	}
	b.Base = &usual
	_, none := find(b, "")
	assert.Zero(t, none)
}

func TestPlannedDamageIsMadeBeforePaint(t *testing.T) {
	b := boxed(t)
	if len(b.Body.Fenders) == 0 {
		t.Fatal("the tank has no fenders")
	}
	b.Body.Damage = []form.Damage{
		{Part: b.Body.Fenders[0].ID, Side: "right", Section: 1, Kind: form.Missing},
		{Part: b.Body.Fenders[0].ID, Side: "left", Section: 1, Kind: form.Bent, By: 60},
	}
	whole, _ := walked(t, boxed(t))
	p, by := walked(t, b)
	require.Contains(t, by, "damage:body:1")
	assert.Contains(t, by["damage:body:1"].Title, "right fender, section 1 missing")
	assert.Contains(t, strings.Join(by["damage:body:1"].Cautions, " "), "Heat")
	assert.True(t, after(by, idOf(t, tasksOf(p), "Primer"), "damage:body:1"))
	// What is missing is not painted, what it bares is.
	area := func(p plan.Plan) (sum float64) {
		for _, z := range p.Zones {
			sum += z.AreaCM
		}
		return sum
	}
	assert.Greater(t, math.Abs(area(whole)-area(p)), 0.1)
}

// Pipe, guard, then the scheme that crosses it (B5); on a model that is painted already, as it was.
func TestAGuardGoesOnBetweenItsPipeAndTheScheme(t *testing.T) {
	b := boxed(t)
	p, by := walked(t, b)
	scheme := ""
	for _, s := range p.Steps {
		if s.Kind == "colour" && scheme == "" {
			scheme = s.ID
		}
	}
	require.Contains(t, by, "pipe:pipe:1")
	assert.True(t, after(by, "pipe:pipe:1", idOf(t, tasksOf(p), "Primer")))
	assert.True(t, after(by, "fit:guard:1", "pipe:pipe:1"))
	assert.True(t, after(by, scheme, "fit:guard:1"))
	painted := document.Entry{
		Key:   "01997a00-0000-7000-8000-0000000000aa",
		Kind:  document.Started,
		Task:  scheme,
		Title: "Camouflage",
		At:    monday.Add(-time.Hour),
	}
	plans, err := made.Plans(workshop(), []document.Item{{Build: b, Log: []document.Entry{painted}}}, monday)
	require.NoError(t, err)
	assert.False(t, slices.ContainsFunc(plans[0].Steps, func(s plan.Step) bool { return s.Kind == "pipe" }), "too late")
}

func TestWhatShinesIsTouchedLast(t *testing.T) {
	b := boxed(t)
	_, by := walked(t, b)
	require.Contains(t, by, "sheenspots:all:1")
	assert.Contains(t, by["sheenspots:all:1"].Title, "satin on worn rubber")
	assert.Contains(t, by["sheenspots:all:1"].Title, "gloss on glass")
	assert.True(t, after(by, "sheenspots:all:1", "sheen:all:1"))
	assert.True(t, after(by, "record:build:1", "sheenspots:all:1"))
}

func TestWhatIsStruckOffIsWrittenDown(t *testing.T) {
	b := boxed(t)
	at := slices.IndexFunc(b.Kit.Parts, func(p kit.Part) bool { return p.ID == "bag" })
	b.Kit.Parts[at].Struck = true
	_, by := walked(t, b)
	assert.NotContains(t, by, "fit:bag:1")
	assert.Equal(t, []string{"bag was struck off (F4)"}, by["record:build:1"].Told)
}

func TestMarkingsArePaintedThroughAStencil(t *testing.T) {
	b := boxed(t)
	b.Kit.Decals[0].Drawn = &marking.Drawing{Shape: marking.Ring, Hex: "#ffffff"}
	b.Kit.Decals[0].SizeMM, b.Kit.Decals[0].Places = 350, []marking.Place{placeOn(t, b, "hull.left")}
	p, _ := walked(t, b)
	assert.Contains(t, strings.Join(step(t, p, "Decals").Told, " "),
		"the number: 10.0 × 10.0 mm, on upper hull, left; tow rope goes on over it afterwards")
	b.Kit.Decals[0].Painted = true
	p, by := walked(t, b)
	id := idOf(t, tasksOf(p), "Paint through a stencil: the number")
	assert.Contains(t, strings.Join(by[id].TimeWhy.Inputs, " "), "350 mm in life, 10.0 mm on the model")
	assert.Contains(t, strings.Join(by[id].Told, " "), "M4")
	assert.True(t, after(by, "fit:rope:1", id), "what runs over it comes after it (B4)")
	for _, s := range p.Steps {
		assert.NotEqual(t, "softener", s.Kind, "nothing is a decal any more")
	}
}

// Each stencil paints its own marking: what is not painted yet is not seen yet.
func TestEachStencilPaintsItsOwn(t *testing.T) {
	b := boxed(t)
	for _, id := range []string{"one", "two"} {
		b.Kit.Decals = append(b.Kit.Decals, kit.Decal{
			ID: id, Name: id, Zone: "hull.left", SizeMM: 350, Painted: true,
			Drawn:  &marking.Drawing{Shape: marking.Ring, Hex: "#ffffff"},
			Places: []marking.Place{placeOn(t, b, map[string]string{"one": "hull.left", "two": "hull.right"}[id])},
		})
	}
	p := planOf(t, b)
	first, second := step(t, p, "Paint through a stencil: one"), step(t, p, "Paint through a stencil: two")
	assert.NotEqual(t, first.Look, second.Look)
	b.Kit.Decals[len(b.Kit.Decals)-1].Places = nil
	p = planOf(t, b)
	assert.Equal(t, first.Look, step(t, p, "Paint through a stencil: one").Look, "the second changes nothing of the first")
	assert.Equal(t, first.Look, step(t, p, "Paint through a stencil: two").Look, "placed nowhere, it is not seen")
}

// Etched parts get a thin coat that beds them in, after they are glued and before primer; one that is put
// on last does not.
func TestEtchedPartsAreBeddedIn(t *testing.T) {
	b := boxed(t)
	_, by := walked(t, b)
	require.True(t, by["etchbed:etched:1"].ID == "", "only the exhaust guard is etched, and it goes on later")
	b.Kit.Parts = append(b.Kit.Parts, kit.Part{
		ID: "grille", Name: "grille", Material: kit.Etched, Assembly: "hull", Count: 2,
	})
	p, by := walked(t, b)
	require.True(t, by["etchbed:etched:1"].ID != "")
	primer := ""
	for _, s := range p.Steps {
		if s.Kind == "prime" && primer == "" {
			primer = s.ID
		}
		if s.Kind == "etchfit" {
			assert.True(t, after(by, "etchbed:etched:1", s.ID))
		}
	}
	assert.True(t, after(by, primer, "etchbed:etched:1"))
	assert.NotContains(t, by["etchbed:etched:1"].Title, "exhaust guard", "it goes on after the pipe is painted")
	for i := range b.Kit.Parts {
		if b.Kit.Parts[i].Material == kit.Etched {
			b.Kit.Parts[i].Stay = "off"
		}
	}
	_, by = walked(t, b)
	assert.Empty(t, by["etchbed:etched:1"].ID)
}

// What breaks easily goes on after wheels, tracks and all that is sturdier; clear parts are the last.
func TestFinalFittingBreaksNothing(t *testing.T) {
	b := boxed(t)
	b.Kit.Parts = append(b.Kit.Parts,
		kit.Part{ID: "whip", Name: "whip aerial", Material: kit.Wire, Assembly: "turret", Kind: "aerial"},
		kit.Part{ID: "pack", Name: "pack", Material: kit.Plastic, Assembly: "hull", Kind: "stowage"},
		kit.Part{ID: "pane", Name: "pane", Material: kit.Clear, Assembly: "hull"},
	)
	p, by := walked(t, b)
	for _, first := range []string{"fit:gear:1", "fit:pack:1"} {
		assert.True(t, after(by, "fit:whip:1", first), first)
	}
	assert.True(t, after(by, "fit:pane:1", "fit:whip:1"), "clear parts go on last of all")
	sound(t, p)
	// Put on already, it waits for nothing.
	p = planOf(t, b, document.Entry{
		Key: "1", Kind: document.Finished, Task: "fit:whip:1", Title: "Put back: whip aerial", At: monday.Add(-time.Hour),
	})
	assert.Equal(t, path.IsDone, step(t, p, "Put back: whip aerial").Status)
}

func TestDetailsArePaintedInGroups(t *testing.T) {
	b := boxed(t)
	for _, d := range [][2]string{{"axe", "tool"}, {"spade", "tool"}, {"lantern", "lamp"}, {"driver", "crew"}, {"roll", "stowage"}} {
		b.Kit.Parts = append(b.Kit.Parts, kit.Part{ID: d[0], Name: d[0], Material: kit.Plastic, Assembly: "hull", Kind: d[1]})
	}
	p, by := walked(t, b)
	wear := ""
	for _, s := range p.Steps {
		if s.Stage == bench.Wear && s.Layer != "" && wear == "" {
			wear = s.ID
		}
	}
	for _, id := range []string{"details:cable:1", "details:tool:1", "details:stowage:1", "details:lamp:1", "details:crew:1"} {
		require.Contains(t, by, id)
		assert.True(t, after(by, wear, id), "aged with the rest")
	}
	assert.NotContains(t, by, "details:all:1")
	assert.Contains(t, by["details:tool:1"].Title, "tools: axe, spade")
	assert.Contains(t, strings.Join(by["details:tool:1"].TimeWhy.Inputs, " "), "slip of paper")
	full := by["details:tool:1"].Minutes
	b.Schools = map[string]string{document.SchoolTools: document.HandlesOnly}
	_, by = walked(t, b)
	assert.Less(t, by["details:tool:1"].Minutes, full, "handles only: less to paint")
	// One by one, or those of one jar together.
	b.Schools = map[string]string{document.SchoolDetails: document.OneByOne}
	_, by = walked(t, b)
	for _, id := range []string{"details:axe:1", "details:spade:1", "details:driver:1"} {
		require.Contains(t, by, id)
		assert.True(t, after(by, wear, id))
	}
	for i, p := range b.Kit.Parts {
		if p.ID == "axe" || p.ID == "lantern" {
			b.Kit.Parts[i].Jar = "steel"
		}
	}
	b.Schools = map[string]string{document.SchoolDetails: document.ByColour}
	_, by = walked(t, b)
	require.Contains(t, by, "details:steel:1")
	assert.Contains(t, by["details:steel:1"].Title, "one colour, axe, lantern")
	assert.NotContains(t, by["details:rest:1"].Title, "lantern")
	// Two pieces of stowage are tried in their place first.
	assert.True(t, after(by, "degrease:all:1", "drystow:stowage:1"))
}
