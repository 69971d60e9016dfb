package kit_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"cinderpath/core/kit"
	"cinderpath/core/marking"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func two() kit.Kit {
	return kit.Kit{Versions: []kit.Version{{ID: "a", Name: "A"}, {ID: "b", Name: "B"}}, Version: "a",
		Features: []kit.Feature{
			{ID: "hole", Name: "hole", Kind: kit.Hole, Versions: []string{"a"}},
			{ID: "opening", Name: "opening", Kind: kit.Opening, Versions: []string{"b"}},
			{ID: "mark", Name: "mark", Kind: kit.Mark, Versions: []string{"b"}}},
		Decals: []kit.Decal{{ID: "d", Name: "number", Versions: []string{"a"}}},
		Parts: []kit.Part{
			{ID: "p", Name: "rope", Material: kit.Wire, Assembly: "hull", Over: []string{"d"}},
			{ID: "q", Name: "mast", Material: kit.Plastic, Assembly: "hull", Versions: []string{"b"}}}}
}

func jobs(k kit.Kit) (out []string) {
	for _, j := range k.Jobs() {
		out = append(out, j.Do+" "+j.Name)
	}
	return out
}

// Used in one version means worked on in it, or in the other: never both, never neither
// of what the kind asks.
func TestVersionDecidesHolesMarksAndParts(t *testing.T) {
	k := two()
	assert.Equal(t, []string{"drill hole", "fill opening", "shave mark"}, jobs(k))
	assert.Len(t, k.Used(), 1)
	b, words, err := k.Choose("b")
	require.NoError(t, err)
	assert.Empty(t, jobs(b))
	assert.Len(t, b.Used(), 2)
	assert.Empty(t, b.Worn())
	assert.Contains(t, strings.Join(words, "; "), "fitted now: mast")
	assert.Contains(t, strings.Join(words, "; "), "decals no longer: number")
	_, _, err = k.Choose("c")
	assert.ErrorContains(t, err, "no version")
}

// A pose that asks for another is told, each mend settles it, and what is left out of the
// version cannot be posed.
func TestPosesAgree(t *testing.T) {
	k := two()
	k.Parts = append(
		k.Parts,
		kit.Part{ID: "gun", Name: "gun", Material: kit.Plastic, Assembly: "turret", Pose: "raised"},
		kit.Part{
			ID:       "lock",
			Name:     "travel lock",
			Material: kit.Plastic,
			Assembly: "hull",
			Pose:     "up",
			Agrees:   []kit.Agrees{{When: "up", Part: "gun", Pose: "in its lock"}, {When: "down", Part: "gun", Pose: "raised"}},
		},
	)
	require.NoError(t, k.Check())
	hints := k.Hints()
	require.Len(t, hints, 1)
	assert.Equal(t, "B15", hints[0].Rule)
	assert.Equal(t, "travel lock is up, which goes with gun in its lock; that is raised", hints[0].Reason)
	require.Len(t, hints[0].Mends, 3)
	for _, m := range hints[0].Mends {
		mended := k
		mended.Parts = slices.Clone(k.Parts)
		mended.Parts[slices.IndexFunc(k.Parts, func(p kit.Part) bool { return p.ID == m.Part.ID })] = *m.Part
		assert.Empty(t, mended.Hints(), m.Label)
		require.NoError(t, mended.Check(), m.Label)
	}
	assert.Len(t, k.Hints(), 1, "the mends are others' copies")

	gone := k
	gone.Parts = slices.Clone(k.Parts)
	gun := slices.IndexFunc(gone.Parts, func(p kit.Part) bool { return p.ID == "gun" })
	gone.Parts[gun].Versions = []string{"b"}
	gone.Version = "a"
	require.Len(t, gone.Hints(), 1)
	assert.Contains(t, gone.Hints()[0].Reason, "gun is not on this version")

	wrong := k
	wrong.Parts = append(
		slices.Clone(k.Parts),
		kit.Part{ID: "x", Name: "it", Material: kit.Plastic, Assembly: "hull", Agrees: []kit.Agrees{{When: "up", Part: "x"}}},
	)
	assert.ErrorContains(t, wrong.Check(), "choose one")
}

func TestWhatStaysOffAndWhy(t *testing.T) {
	advise := func(p kit.Part, school string) kit.Advice {
		k := two()
		p.ID, p.Name, p.Assembly = "x", "it", "hull"
		if p.Material == "" {
			p.Material = kit.Plastic
		}
		k.Parts = append(k.Parts, p)
		all := k.Suggest(school, []string{"hull.side.left", "lower.left"})
		return all[len(all)-1]
	}
	for name, c := range map[string]struct {
		part   kit.Part
		school string
		off    bool
		rule   string
	}{
		"over a decal":                {kit.Part{Over: []string{"d"}}, kit.BuiltUp, true, "B4"},
		"guards a pipe":               {kit.Part{Guards: "p"}, kit.BuiltUp, true, "B5"},
		"clear":                       {kit.Part{Material: kit.Clear}, kit.BuiltUp, true, "B11"},
		"inside":                      {kit.Part{Before: "hull"}, kit.Pieces, false, "B1"},
		"wheels, built up":            {kit.Part{Kind: "wheels"}, kit.BuiltUp, false, ""},
		"wheels, mixed":               {kit.Part{Kind: "wheels"}, kit.Mixed, true, "B13"},
		"tool, mixed":                 {kit.Part{Kind: "tool"}, kit.Mixed, false, ""},
		"tool, in pieces":             {kit.Part{Kind: "tool"}, kit.Pieces, true, "B3"},
		"shadows what is painted":     {kit.Part{Shadows: []string{"hull.side"}}, kit.Mixed, true, "B3"},
		"shadows what is not":         {kit.Part{Shadows: []string{"turret"}}, kit.Mixed, false, ""},
		"the modeller's own word":     {kit.Part{Kind: "wheels", Stay: "on"}, kit.Mixed, false, "B13"},
		"inside goes in all the same": {kit.Part{Before: "hull", Stay: "off"}, kit.Mixed, false, "B1"},
	} {
		a := advise(c.part, c.school)
		assert.Equal(t, c.off, a.Off, name)
		assert.Equal(t, c.rule, a.Rule, name)
		assert.NotEmpty(t, a.Reason, name)
		assert.NotEmpty(t, a.Fitted, name)
	}
}

func TestKitsThatCannotBe(t *testing.T) {
	for want, change := range map[string]func(*kit.Kit){
		"not in the table":  func(k *kit.Kit) { k.Version = "z" },
		"use plastic":       func(k *kit.Kit) { k.Parts[0].Material = "cheese" },
		"is there twice":    func(k *kit.Kit) { k.Parts[1].ID = "p" },
		"over a decal":      func(k *kit.Kit) { k.Parts[0].Over = []string{"none"} },
		"holds itself":      func(k *kit.Kit) { k.Parts[0].Holds, k.Parts[1].Holds = []string{"q"}, []string{"p"} },
		"not a date":        func(k *kit.Kit) { k.Parts[0].Ordered = &kit.Ordered{Expected: "soon"} },
		"without a date":    func(k *kit.Kit) { k.Parts[0].Ordered = &kit.Ordered{} },
		"use left or right": func(k *kit.Kit) { k.Parts[0].Side = "top" },
		"hole, opening":     func(k *kit.Kit) { k.Features[0].Kind = "dent" },
		"0 to 50 mm":        func(k *kit.Kit) { k.Features[0].MM = 99 },
		"names version":     func(k *kit.Kit) { k.Decals[0].Versions = []string{"z"} },
		"has no name":       func(k *kit.Kit) { k.Parts[0].Name = " " },
		"no sub-assembly":   func(k *kit.Kit) { k.Parts[0].Assembly = "" },
		"glued, removable":  func(k *kit.Kit) { k.Parts[0].Joint = "tape" },
	} {
		k := two()
		change(&k)
		assert.ErrorContains(t, k.Check(), want)
	}
	assert.NoError(t, two().Check())
}

func TestGlueFollowsTheTable(t *testing.T) {
	for name, c := range map[string]struct {
		part kit.Part
		to   string
		want string
	}{
		"plastic to plastic": {kit.Part{Material: kit.Plastic}, kit.Plastic, "liquid cement"},
		"metal to plastic":   {kit.Part{Material: kit.Etched}, kit.Plastic, "super glue"},
		"metal that bears":   {kit.Part{Material: kit.Metal, Bears: true}, kit.Plastic, "epoxy"},
		"metal to metal":     {kit.Part{Material: kit.Etched}, kit.Metal, "solder"},
		"clear":              {kit.Part{Material: kit.Clear}, kit.Plastic, "white glue"},
		"soft band":          {kit.Part{Material: kit.Soft}, kit.Plastic, "clamped 10 min"},
		"press fit":          {kit.Part{Material: kit.Plastic, Joint: kit.Press}, kit.Plastic, "press fit"},
		"off again":          {kit.Part{Material: kit.Plastic, Joint: kit.Removable}, kit.Plastic, "friction"},
	} {
		assert.Contains(t, kit.GlueFor(c.part, c.to, false).Words(), c.want, name)
	}
}

func TestEveryPairIsJoined(t *testing.T) {
	for _, a := range kit.Materials {
		for _, b := range kit.Materials {
			for _, joint := range []string{kit.Glued, kit.Removable, kit.Press} {
				for _, painted := range []bool{false, true} {
					name := strings.Join([]string{a, b, joint, fmt.Sprint(painted)}, " ")
					one := kit.Join(kit.Pair{A: a, B: b, Joint: joint, Painted: painted})
					assert.Equal(t, one, kit.Join(kit.Pair{A: b, B: a, Joint: joint, Painted: painted}), "%s: either way round", name)
					assert.Equal(t, joint != kit.Glued || a == kit.Clear || b == kit.Clear, one.Undone, "%s: comes off again", name)
					if one.Family != "" {
						assert.Positive(t, one.Hold, name)
						assert.GreaterOrEqual(t, one.Cured, one.Hold, name)
					}
					bites := one.Family == "cement_plastic"
					assert.False(t, bites && (a != kit.Plastic || b != kit.Plastic), "%s: cement takes plastic only", name)
					assert.False(t, one.Family == "super_glue" && (a == kit.Clear || b == kit.Clear), "%s: it fogs", name)
					if bites && painted {
						assert.Contains(t, one.First, "scrape the paint off both faces", name)
					}
				}
			}
		}
	}
}

func TestALooseGunDroops(t *testing.T) {
	k := kit.Kit{Parts: []kit.Part{
		{ID: "gun", Name: "Gun", Material: kit.Plastic, Assembly: "turret", Kind: "gun", Joint: kit.Removable, Pose: "level"},
		{ID: "lock", Name: "Travel lock", Material: kit.Plastic, Assembly: "hull", Pose: "down",
			Agrees: []kit.Agrees{{When: "up", Part: "gun", Pose: "locked"}}},
	}}
	hints := k.Hints()
	require.Len(t, hints, 1)
	assert.Contains(t, hints[0].Reason, "droops")
	require.NotEmpty(t, hints[0].Mends)
	for _, m := range hints[0].Mends {
		mended := kit.Kit{Parts: []kit.Part{*m.Part, k.Parts[1]}}
		assert.Empty(t, mended.Hints(), m.Label)
	}
	// A lock that holds it settles it as well.
	k.Parts[0].Pose, k.Parts[1].Pose = "locked", "up"
	assert.Empty(t, k.Hints())
	// One that is glued does not droop.
	k.Parts[0].Pose, k.Parts[0].Joint, k.Parts[1].Pose = "level", kit.Glued, "down"
	assert.Empty(t, k.Hints())
}

func ExampleReadLeaflet() {
	steps, err := kit.ReadLeaflet("step;text;parts\n1;Lower hull;A4, A5\n2;Turret halves;C1")
	if err != nil {
		panic(err)
	}
	for _, s := range steps {
		fmt.Println(s.Step, s.Text, s.Parts)
	}
	// Output:
	// 1 Lower hull [A4 A5]
	// 2 Turret halves [C1]
}

func TestLeafletsThatCannotBeRead(t *testing.T) {
	for text, want := range map[string]string{
		"":                             "nothing is written",
		"step,words\n1,x":              `column "words"`,
		"step,parts\n1,A1":             "no column text",
		"step,text\n":                  "no step below",
		"step,text,parts\n1,,A1":       "has no text",
		"step,text\n1,\"open\n2,other": "cannot be read",
	} {
		_, err := kit.ReadLeaflet(text)
		assert.ErrorContains(t, err, want, "%q", text)
	}
}

func FuzzReadLeaflet(f *testing.F) {
	f.Add("step,text,parts,note,correction\n1,Lower hull,A4 A5,arms differ,\n")
	f.Add("text\tstep\nx\t1")
	f.Fuzz(func(t *testing.T, text string) {
		steps, err := kit.ReadLeaflet(text)
		if err != nil {
			assert.NotEmpty(t, err.Error())
			return
		}
		for _, s := range steps {
			assert.NotEmpty(t, s.Text)
			assert.NotEmpty(t, s.Step)
		}
	})
}

// A line about a marking is as wide as is usual until somebody says otherwise; without a colour there is none.
func TestTheLineAboutAMarkingHasAWidth(t *testing.T) {
	d := kit.Decal{ID: "d", SizeMM: 600, Drawn: &marking.Drawing{Shape: marking.Disc, Hex: "#ffffff", Edge: "#000000"}}
	m, ok := d.Marking()
	require.True(t, ok)
	assert.InDelta(t, 30, m.Drawing.EdgeMM, 1e-9)
	d.Drawn.EdgeMM = 12
	m, _ = d.Marking()
	assert.InDelta(t, 12, m.Drawing.EdgeMM, 1e-9)
	d.Drawn.Edge = ""
	m, _ = d.Marking()
	assert.Zero(t, m.Drawing.EdgeMM)
	_, ok = kit.Decal{ID: "d"}.Marking()
	assert.False(t, ok, "nothing is drawn of it yet")
	// What runs over it is known by the part; what the version does not carry runs over nothing.
	k := kit.Kit{
		Versions: []kit.Version{{ID: "a"}, {ID: "b"}}, Version: "a", Decals: []kit.Decal{d},
		Parts: []kit.Part{
			{ID: "rope", Over: []string{"d"}}, {ID: "strap", Over: []string{"d"}, Versions: []string{"b"}}, {ID: "box"},
		},
	}
	require.Len(t, k.Above("d"), 1)
	assert.Equal(t, "rope", k.Above("d")[0].ID)
}
