package strata_test

import (
	"fmt"
	"math"
	"slices"
	"testing"

	"cinderpath/core/colour"
	"cinderpath/core/paint"
	"cinderpath/core/rule"
	"cinderpath/core/strata"
	"cinderpath/core/unit"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

func layer(id string, kind strata.Kind, family string, change ...func(*strata.Layer)) strata.Layer {
	l := strata.Layer{ID: id, Name: id, Kind: kind, Family: family, Applied: strata.Brushed, Coats: 1}
	for _, c := range change {
		c(&l)
	}
	return l
}

func misted(l *strata.Layer)                    { l.Applied = strata.Misted }
func sheen(s colour.Sheen) func(*strata.Layer)  { return func(l *strata.Layer) { l.Sheen = s } }
func pinned(m unit.Minutes) func(*strata.Layer) { return func(l *strata.Layer) { l.WaitMin = &m } }
func group(name string) func(*strata.Layer)     { return func(l *strata.Layer) { l.Together = name } }
func on(zones ...string) func(*strata.Layer) {
	return func(l *strata.Layer) { l.Zones = zones }
}

var zones = []string{"hull.left", "turret.left"}

// rules lists what was found as rule:layer:below/severity.
func rules(findings []strata.Finding) []string {
	out := []string{}
	for _, f := range findings {
		out = append(out, fmt.Sprintf("%s/%s", f.ID, f.Severity))
	}
	return out
}

var (
	base  = layer("base", strata.Colour, "waterborne_acrylic", misted)
	gloss = layer("gloss", strata.Clear, "clear_acrylic", misted, sheen(colour.Gloss))
	oil   = layer("oil", strata.Streaks, "oil_thin")
	chips = layer("chipcoat", strata.ChippingCoat, "chipping_coat", misted)
	white = layer("white", strata.Colour, "waterborne_acrylic", misted)
	work  = layer("work", strata.ChippingWork, "chipping_coat")
	decal = layer("decal", strata.Decals, "decal")
	wash  = layer("wash", strata.Wash, "enamel_effect")
)

func TestRules(t *testing.T) {
	cases := []struct {
		name  string
		stack []strata.Layer
		want  []string
	}{
		{"a sound stack has no finding", []strata.Layer{base, gloss, wash}, []string{}},
		{
			"strong solvent brushed over oil",
			[]strata.Layer{base, gloss, oil, layer("hot", strata.Dust, "lacquer")},
			[]string{"P1:hot:oil/stop", "P1:hot:gloss/stop", "P1:hot:base/stop"},
		},
		{
			"strong solvent misted only waits",
			[]strata.Layer{base, gloss, oil, layer("hot", strata.Dust, "lacquer", misted)},
			[]string{},
		},
		{"lacquer brushed on bare plastic", []strata.Layer{layer("hot", strata.Colour, "lacquer")}, []string{"P1:hot/stop"}},
		{
			"oil again over cured oil wakes it",
			[]strata.Layer{base, gloss, oil, layer("more", strata.Streaks, "oil_thin", misted)},
			[]string{},
		},
		{"an enamel wash brushed over oil", []strata.Layer{base, gloss, oil, wash}, []string{"P1:wash:oil/warn"}},
		{
			"inside a wet group nothing is said",
			[]strata.Layer{
				base,
				gloss,
				layer("oil", strata.Streaks, "oil_thin", group("a")),
				layer("wash", strata.Wash, "enamel_effect", group("a")),
			},
			[]string{},
		},
		{
			"a barrier makes what is below safe",
			[]strata.Layer{base, oil, layer("seal", strata.Clear, "clear_acrylic", misted, sheen(colour.Satin)), wash},
			[]string{},
		},
		{
			"pinned too soon on enamel",
			[]strata.Layer{
				layer("en", strata.Colour, "enamel_paint", misted),
				layer("more", strata.Streaks, "oil_thin", pinned(60)),
			},
			[]string{"W1:more:en/warn"},
		},
		{
			"pinned too soon on acrylic",
			[]strata.Layer{base, layer("more", strata.Streaks, "oil_thin", pinned(5))},
			[]string{"P1:more:base/warn"},
		},
		{"a wash on matt stains", []strata.Layer{base, wash}, []string{"W2:wash:base/warn"}},
		{
			"meant silences a warning",
			[]strata.Layer{
				base,
				layer("wash", strata.Wash, "enamel_effect", func(l *strata.Layer) { l.Meant = []string{"W2"} }),
			},
			[]string{},
		},
		{"chipping coat under acrylic, worked", []strata.Layer{base, chips, white, work}, []string{}},
		{
			"chipping coat under enamel",
			[]strata.Layer{base, chips, layer("en", strata.Colour, "enamel_paint", misted), work},
			[]string{"P4:chipcoat:en/stop"},
		},
		{
			"sealed before it is worked",
			[]strata.Layer{base, chips, white, gloss, work},
			[]string{"P4:chipcoat:gloss/stop", "P1:gloss:chipcoat/warn"},
		},
		{
			"water over a chipping coat later",
			[]strata.Layer{base, chips, white, work, layer("aw", strata.Filter, "acrylic_wash")},
			[]string{"P1:aw:chipcoat/warn"},
		},
		{"decals on matt", []strata.Layer{base, decal}, []string{"M1:decal:base/warn"}},
		{
			"decals on satin with softener",
			[]strata.Layer{
				base,
				layer("seal", strata.Clear, "clear_acrylic", misted, sheen(colour.Satin)),
				layer("decal", strata.Decals, "decal", func(l *strata.Layer) { l.Softener = true }),
			},
			[]string{},
		},
		{"wash over unsealed decals", []strata.Layer{base, gloss, decal, wash}, []string{"M3:wash:decal/warn"}},
		{
			"wash on wet decals",
			[]strata.Layer{base, gloss, decal, layer("wash", strata.Wash, "enamel_effect", pinned(10))},
			[]string{"M3:wash:decal/stop", "P1:wash:decal/warn", "P1:wash:gloss/warn"},
		},
		{
			"brush over loose powder",
			[]strata.Layer{base, gloss, layer("dust", strata.Pigment, "pigment_dry"), layer("mud", strata.Mud, "mud_paste")},
			[]string{"W9:dust/warn", "P1:mud:dust/warn"},
		},
		{
			"a clear coat over powder wets it",
			[]strata.Layer{base, layer("dust", strata.Pigment, "pigment_dry"), gloss},
			[]string{"P1:gloss:dust/warn", "W8:gloss:dust/warn"},
		},
		{
			"powder laid wet holds a little",
			[]strata.Layer{base, gloss, layer("dust", strata.Pigment, "pigment_wet")},
			[]string{"W9:dust/hint"},
		},
		{
			"fixed powder is no longer loose",
			[]strata.Layer{
				base,
				gloss,
				layer("dust", strata.Pigment, "pigment_dry"),
				layer("fix", strata.Fix, "pigment_fixer"),
				layer("mud", strata.Mud, "mud_paste"),
			},
			[]string{},
		},
		{
			"layers on other zones do not meet",
			[]strata.Layer{
				base,
				gloss,
				layer("oil", strata.Streaks, "oil_thin", on("hull")),
				layer("wash", strata.Wash, "enamel_effect", on("turret")),
			},
			[]string{},
		},
	}
	for _, c := range cases {
		t.Run(c.name, func(t *testing.T) {
			findings, _ := strata.Check(c.stack, zones, nil)
			assert.ElementsMatch(t, c.want, rules(findings))
			for _, f := range findings {
				assert.NotEmpty(t, f.Reason, f.ID)
				assert.NotEmpty(t, f.Mends, f.ID)
			}
		})
	}
}

func TestWaits(t *testing.T) {
	_, waits := strata.Check([]strata.Layer{base, chips, white, work}, zones, nil)
	found := map[string]strata.Wait{}
	for _, w := range waits {
		found[w.From+">"+w.To] = w
	}
	assert.Equal(t, unit.Minutes(30), found["white>work"].Minutes)
	assert.Equal(t, unit.Minutes(240), found["white>work"].Most)

	_, waits = strata.Check([]strata.Layer{base, oil, layer("hot", strata.Colour, "lacquer", misted)}, zones, nil)
	require.NotEmpty(t, waits)
	last := waits[len(waits)-1]
	assert.Equal(t, "oil", last.From)
	assert.Equal(t, unit.Minutes(2880), last.Minutes, "the oil must cure: table families.csv")
	assert.Equal(t, rule.Cured, last.Kind)
}

func TestLogThatBrokeAWaitIsAFinding(t *testing.T) {
	stack := []strata.Layer{layer("en", strata.Colour, "enamel_paint", misted), layer("more", strata.Streaks, "oil_thin")}
	findings, _ := strata.Check(
		stack,
		zones,
		func(from, to string) (unit.Minutes, bool) { return 600, from == "en" && to == "more" },
	)
	assert.Equal(t, []string{"W1:more:en/warn"}, rules(findings))
	assert.Contains(t, findings[0].Reason, "the log shows 10 h")
	assert.Equal(t, zones, findings[0].Zones)
	findings, _ = strata.Check(stack, zones, func(string, string) (unit.Minutes, bool) { return -600, true })
	assert.Contains(t, findings[0].Reason, "begun before that was done", "a stack reordered after the fact")
}

func TestPastesDryWithTheirDepth(t *testing.T) {
	mud := layer("mud", strata.Mud, "mud_paste")
	mud.DepthMM = 2
	touch := mud.Dries().Touch
	assert.Equal(t, unit.Minutes(960), touch, "four times the millimetre's 240")
	mud.DepthMM = 0.5
	touch = mud.Dries().Touch
	assert.Equal(t, unit.Minutes(240), touch)
	putty := layer("putty", strata.Prime, "putty_solvent")
	putty.DepthMM = 3
	cured := putty.Dries().Cured
	assert.Equal(t, unit.Minutes(4320), cured)
}

func newIDs() func() string {
	n := 0
	return func() string { n++; return fmt.Sprintf("new%d", n) }
}

// Every mend offered settles its finding, whatever the stack.
func TestMendsSettleTheirFinding(t *testing.T) {
	var families []string
	for _, f := range paint.Families() {
		families = append(families, f.ID)
	}
	rapid.Check(t, func(t *rapid.T) {
		var stack []strata.Layer
		for i := range rapid.IntRange(1, 7).Draw(t, "layers") {
			l := layer(
				fmt.Sprintf("l%d", i),
				rapid.SampledFrom(kinds()).Draw(t, "kind"),
				rapid.SampledFrom(families).Draw(t, "family"),
			)
			l.Applied = rapid.SampledFrom([]strata.Application{strata.Brushed, strata.Misted}).Draw(t, "applied")
			if rapid.Bool().Draw(t, "sheen") {
				l.Sheen = rapid.SampledFrom([]colour.Sheen{colour.Gloss, colour.Satin, colour.Matt}).Draw(t, "which")
			}
			if rapid.IntRange(0, 4).Draw(t, "pin") == 0 {
				m := unit.Minutes(rapid.Float64Range(0, 4000).Draw(t, "minutes"))
				l.WaitMin = &m
			}
			if rapid.Bool().Draw(t, "part") {
				l.Zones = []string{"hull"}
			}
			stack = append(stack, l)
		}
		findings, _ := strata.Check(stack, zones, nil)
		for _, f := range findings {
			for _, m := range f.Mends {
				mended, err := strata.Apply(stack, m.Edits, newIDs())
				require.NoError(t, err)
				after, _ := strata.Check(mended, zones, nil)
				still := slices.ContainsFunc(after, func(g strata.Finding) bool { return g.ID == f.ID })
				assert.False(t, still, "%s by %s", f.ID, m.ID)
			}
		}
	})
}

func TestApplyRefusesWhatIsGone(t *testing.T) {
	_, err := strata.Apply([]strata.Layer{base}, []strata.Edit{{Op: "drop", ID: "ghost"}}, newIDs())
	assert.ErrorContains(t, err, "removed meanwhile")
	_, err = strata.Apply([]strata.Layer{base}, []strata.Edit{{Op: "melt"}}, newIDs())
	assert.ErrorContains(t, err, "not an edit")
	_, err = strata.Apply([]strata.Layer{base}, []strata.Edit{{Op: "insert", Layer: &base}}, newIDs())
	assert.ErrorContains(t, err, "already")
	bad := base
	bad.Coats = 0
	_, err = strata.Apply([]strata.Layer{base}, []strata.Edit{{Op: "change", Layer: &bad}}, newIDs())
	assert.ErrorContains(t, err, "coats")
}

func TestTablesAreWhole(t *testing.T) {
	assert.Len(t, paint.Families(), 32)
	f, ok := paint.FamilyOf("enamel_effect")
	require.True(t, ok)
	assert.Equal(t, unit.Day, f.Cured)
	assert.Equal(t, 4*unit.Hour, f.TakeBackTo)
	_, ok = paint.FamilyOf("marmalade")
	assert.False(t, ok)
}

// A new layer of any kind can be kept as it is, and one layer's usual product settles on
// primer without dissolving it.
func TestAFreshLayerOfAnyKindCanBeKept(t *testing.T) {
	for _, a := range strata.Abouts() {
		l := a.Fresh
		assert.Equal(t, a.ID, l.Kind)
		stack, err := strata.Apply(nil, []strata.Edit{{Op: "insert", Layer: &l}}, newIDs())
		require.NoError(t, err, a.Name)
		under := strata.Prime.Fresh()
		under.ID = "primer"
		if a.ID == strata.Prime {
			continue
		}
		findings, _ := strata.Check(append([]strata.Layer{under}, stack...), []string{"hull.left"}, nil)
		for _, f := range findings {
			assert.NotEqual(t, rule.Stop, f.Severity, "%s: %s", a.Name, f.Title)
		}
	}
}

func ExampleCheck() {
	stack := []strata.Layer{
		{ID: "1", Name: "Base colour", Kind: strata.Colour, Family: "waterborne_acrylic", Applied: strata.Misted, Coats: 2},
		{ID: "2", Name: "Pin wash", Kind: strata.Wash, Family: "enamel_effect", Applied: strata.Brushed, Coats: 1},
	}
	findings, waits := strata.Check(stack, []string{"hull.left"}, nil)
	fmt.Println(findings[0].Rule, findings[0].Title)
	fmt.Println(waits[0].Minutes.String()+":", waits[0].Reason)
	// Output:
	// W2 Pin wash would stain the matt base colour
	// 40 min: White spirit lifts base colour before its next-coat time.
}

// kinds are those of the table.
func kinds() (out []strata.Kind) {
	for _, a := range strata.Abouts() {
		out = append(out, a.ID)
	}
	return out
}

// Every technique of the table is offered, says where it lands, and suits a kind of layer.
func TestTechniquesAreWhole(t *testing.T) {
	all := strata.Techniques()
	assert.Len(t, all, 57)
	for _, x := range all {
		assert.NotEmpty(t, x.Where, x.ID)
		assert.NotEmpty(t, x.Check, x.ID)
		assert.NotEmpty(t, x.Kinds, x.ID)
		if x.Share {
			assert.Positive(t, x.Amount, x.ID)
			assert.LessOrEqual(t, x.Amount, 1.0, x.ID)
		}
	}
	for _, a := range strata.Abouts() {
		if a.Usual != "" {
			_, ok := strata.TechniqueOf(a.Usual)
			assert.True(t, ok, "%s: %s", a.ID, a.Usual)
		}
	}
}

// A layer's technique must suit it, and its amount must be one.
func TestTechniquesAreHeldTo(t *testing.T) {
	chips := strata.Layer{
		ID: "c", Name: "Chips", Kind: strata.Chips, Family: "waterborne_acrylic", Applied: strata.Brushed, Coats: 1,
	}
	amount := func(v float64) *float64 { return &v }
	for name, change := range map[string]func(*strata.Layer){
		"choose another":   func(l *strata.Layer) { l.Technique = "mud_paste" },
		"not in the table": func(l *strata.Layer) { l.Technique = "tea" },
		"between 0 and 1":  func(l *strata.Layer) { l.Amount = amount(1.2) },
		"no amount": func(l *strata.Layer) {
			l.Kind, l.Family, l.Amount = strata.Clear, "clear_acrylic", amount(3)
		},
		"lies between 0": func(l *strata.Layer) { l.Kind, l.Family, l.Amount = strata.Wash, "enamel_effect", amount(9999) },
	} {
		l := chips
		change(&l)
		assert.ErrorContains(t, l.Check(), name)
	}
	chips.Technique, chips.Amount = "chips_brush", amount(0.02)
	assert.NoError(t, chips.Check())
}

// Each answer moves what it should in the direction that it should; what is not said changes
// nothing; no answer brings a share past all, or an amount past four times the usual.
func TestALifeMovesAmounts(t *testing.T) {
	amount := func(kind strata.Kind, life strata.Life) float64 {
		l := strata.Layer{ID: "x", Name: "x", Kind: kind, Lived: strata.Lived{Life: life, Scale: 35}}
		how, ok := l.Worked()
		require.True(t, ok)
		return how.Amount
	}
	for _, a := range strata.Axes() {
		for _, v := range a.Values {
			for _, k := range []strata.Kind{strata.Mud, strata.Chips, strata.Dust, strata.Streaks, strata.Rust} {
				usual, now := amount(k, nil), amount(k, strata.Life{a.ID: v.Value})
				assert.GreaterOrEqual(t, now, 0.0)
				assert.LessOrEqual(t, now, 4*usual+1e-9, "%s %s", a.ID, v.Value)
				if k != strata.Dust {
					assert.LessOrEqual(t, now, 1.0)
				}
			}
		}
	}
	for _, c := range []struct {
		kind      strata.Kind
		more, few strata.Life
	}{
		{strata.Mud, strata.Life{"ground": "clay"}, strata.Life{"ground": "paved road"}},
		{strata.Dust, strata.Life{"ground": "dry sand"}, strata.Life{"ground": "clay"}},
		{strata.Chips, strata.Life{"age": "years"}, strata.Life{"age": "just issued"}},
		{strata.Rust, strata.Life{"age": "abandoned for years"}, strata.Life{"age": "just issued"}},
		{strata.Streaks, strata.Life{"weather": "long rain"}, strata.Life{"shelter": "under a roof"}},
	} {
		assert.Greater(t, amount(c.kind, c.more), amount(c.kind, nil), string(c.kind))
		assert.Less(t, amount(c.kind, c.few), amount(c.kind, nil), string(c.kind))
	}
	// 60 % of mud by clay (3.6) and recovery work (1.2) is held at four times: 4 s / (1 + 3 s).
	assert.InDelta(t, 4*0.6/(1+3*0.6), amount(strata.Mud, strata.Life{"ground": "clay", "use": "recovery work"}), 1e-9)
	l := strata.Layer{
		ID: "x", Name: "Mud", Kind: strata.Mud,
		Lived: strata.Lived{Life: strata.Life{"ground": "clay", "use": "recovery work"}, Scale: 35},
	}
	argued, ok := l.Argue()
	require.True(t, ok)
	assert.Equal(
		t,
		"60 % → 86 %: clay 3.6, recovery work 1.2, held at 4, height clay 1.5, height recovery work 1.1",
		argued.Words,
	)
	own := 0.3
	l.Amount = &own
	argued, _ = l.Argue()
	assert.True(t, argued.Own)
	assert.InDelta(t, 0.3, argued.Now, 1e-12, "what was set stays when the life changes")
	// Smaller scales take fewer chips.
	small := strata.Layer{ID: "x", Kind: strata.Chips, Lived: strata.Lived{Scale: 72}}
	how, _ := small.Worked()
	assert.InDelta(t, 0.01*math.Sqrt(35.0/72), how.Amount, 1e-9)
	assert.Error(t, strata.Life{"ground": "tea"}.Check())
	assert.Error(t, strata.Life{"tea": "clay"}.Check())
	assert.NotEmpty(t, strata.Life{"age": "abandoned for years"}.Contradictions([]strata.Layer{{Kind: strata.Metal}}))
	assert.Empty(t, strata.Life{}.Contradictions(nil))
}
