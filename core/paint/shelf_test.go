package paint_test

import (
	"encoding/csv"
	"math/rand/v2"
	"strings"
	"testing"

	"cinderpath/core/colour"
	"cinderpath/core/measure"
	"cinderpath/core/paint"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

func TestAJarIsReadFromOneLine(t *testing.T) {
	thin := paint.Thin
	for name, c := range map[string]struct {
		text string
		want paint.Jar
	}{
		"the handbook's": {
			"12 lichen green, waterborne acrylic, #66704f, 17 ml",
			paint.Jar{Number: 12, Name: "lichen green", Family: "waterborne_acrylic", Hex: "#66704f", Volume: 17, Left: 17, State: paint.Fine},
		},
		"everything, in any order": {
			"7. Dry sand , 30 ml,  half dry , enamel paint, hides thin, satin, in Drawer 2, opened 2026-03-01, 40 % left, #B99F74",
			paint.Jar{
				Number: 7, Name: "Dry sand", Family: "enamel_paint", Hex: "#b99f74", Volume: 30, Left: 12, State: paint.HalfDry,
				Hiding: thin, Sheen: colour.Satin, Place: "drawer 2", Opened: "2026-03-01",
			},
		},
		"a fluid": {"white spirit, white spirit, 250 ml", paint.Jar{
			Name: "white spirit", Family: "white_spirit", Volume: 250, Left: 250, State: paint.Fine,
		}},
		"ordered": {"bone, lacquer, #e6e0cf, 10 ml, arrives 2026-12-01", paint.Jar{
			Name: "bone", Family: "lacquer", Hex: "#e6e0cf", Volume: 10, Left: 10, State: paint.Ordered, Arrives: "2026-12-01",
		}},
		"empty": {"soot, pigment, dry, empty, 20 ml", paint.Jar{}},
	} {
		got, err := paint.ReadLine(c.text)
		if name == "empty" { // the comma of the family's name parts it
			assert.ErrorContains(t, err, "may be")
			continue
		}
		require.NoError(t, err, name)
		assert.Equal(t, c.want, got, name)
	}
	for text, says := range map[string]string{
		"":                                   "nothing is written",
		"lichen green":                       "what lichen green is",
		"a, waterborne acrylic, #66":         "#",
		"a, waterborne acrylic, marmalade":   "not understood",
		"a, waterborne acrylic, hides badly": "no word",
		"a, clear coat, 10 ml":               "may be",
		"a, waterborne acrylic, 9000 ml":     "more than a jar holds",
		"a, waterborne acrylic, 50 % left":   "of how much",
		"a, lacquer, opened 2026-13-01":      "not a date",
	} {
		_, err := paint.ReadLine(text)
		if assert.Error(t, err, text) {
			assert.ErrorContains(t, err, says)
			var fault *measure.Fault
			if assert.ErrorAs(t, err, &fault, text) {
				assert.NotEmpty(t, fault.Remedy, text)
			}
		}
	}
}

// The example of one line is read as it is written, whatever the shelf has.
func TestTheExampleOfALineIsRead(t *testing.T) {
	for _, s := range []paint.Shelf{
		{},
		{Jars: []paint.Jar{{Name: "thinner", Family: "white_spirit", Volume: 250}, {
			Number: 7, Name: "poppy", Family: "enamel_paint", Hex: "#b02a22", Volume: 14,
		}}},
	} {
		j, err := paint.ReadLine(s.Example())
		require.NoError(t, err, s.Example())
		assert.Positive(t, j.Number)
		assert.NotEmpty(t, j.Hex)
		if len(s.Jars) > 0 {
			assert.Equal(t, "poppy", j.Name)
			assert.Equal(t, "enamel_paint", j.Family)
		}
	}
}

func FuzzReadLine(f *testing.F) {
	f.Add("12 lichen green, waterborne acrylic, #66704f, 17 ml")
	f.Add("7. sand, enamel paint, 40 % left, hides 0.9, in drawer, opened 2026-01-02")
	f.Add(",,,")
	f.Fuzz(func(t *testing.T, text string) {
		j, err := paint.ReadLine(text)
		if err == nil {
			j.ID = "x"
			if err := j.Check(); err != nil {
				t.Fatalf("%q gives a jar that does not stand: %v", text, err)
			}
		}
	})
}

func TestAListOfJarsComesBackAsItWasWritten(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		families := paint.Families()
		var rows strings.Builder
		out := csv.NewWriter(&rows)
		require.NoError(t, out.Write(paint.Columns()))
		var jars []paint.Jar
		for range rapid.IntRange(1, 6).Draw(t, "jars") {
			j := paint.Jar{
				Number: rapid.IntRange(0, 99).Draw(t, "number"),
				Name:   rapid.StringMatching(`[a-z][a-z,"]{0,9}[a-z]`).Draw(t, "name"),
				Family: families[rapid.IntRange(0, len(families)-1).Draw(t, "family")].ID,
				Hex:    colour.RGB{rapid.Byte().Draw(t, "r"), 7, 9}.Hex(),
				Volume: float64(rapid.IntRange(1, 50).Draw(t, "volume")),
				Left:   float64(rapid.IntRange(1, 500).Draw(t, "left")) / 10,
				State:  paint.Settled,
				Opened: "2026-02-03",
			}
			jars = append(jars, j)
			require.NoError(t, out.Write(j.Row()))
		}
		out.Flush()
		back, unread, err := paint.ReadList(rows.String())
		require.NoError(t, err)
		assert.Empty(t, unread)
		assert.Equal(t, jars, back)
	})
}

func TestRowsThatCannotBeReadAreKeptAndNamed(t *testing.T) {
	jars, unread, err := paint.ReadList("name,family,swatch,volume_ml,odd\n" +
		"lichen,waterborne acrylic,#66704f,17,x\nbad,marmalade,#66704f,17,x\n\nbad,lacquer,#zz,17,x\nbone,lacquer,,-1,x\nrust,lacquer,,\"1,5\",x\n")
	require.NoError(t, err)
	require.Len(t, jars, 2)
	assert.InDelta(t, 1.5, jars[1].Volume, 0)
	require.Len(t, unread, 3)
	assert.Equal(t, 3, unread[0].Line)
	assert.Contains(t, unread[0].Reason, "family")
	assert.Contains(t, unread[1].Reason, "swatch")
	assert.Contains(t, unread[2].Text, "bone")
	_, _, err = paint.ReadList("colour;number\n")
	assert.ErrorContains(t, err, "no column name")
	_, _, err = paint.ReadList("")
	assert.Error(t, err)
}

func FuzzReadList(f *testing.F) {
	f.Add("name,family,swatch\nlichen,lacquer,#66704f\n")
	f.Add("name,family,left_ml,thinner\n\"a\nb\",lacquer,NaN,1\n")
	f.Fuzz(func(t *testing.T, text string) {
		jars, _, err := paint.ReadList(text)
		for _, j := range jars {
			j.ID = "x"
			if bad := j.Check(); err != nil || bad != nil {
				t.Fatalf("%q: %v, %v", text, err, bad)
			}
		}
	})
}

// A cup mended in thought: every way to add up to so many drops of any jars.
func TestMendingACupIsWhatTryingAllGives(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 9))
	for n := range 60 {
		c := paint.Cup{
			Shelf: shelfOf(3, uint64(n)), Skin: colour.Matt, Wanted: 0.5 + 4*r.Float64(), Most: 7,
			Drops:  []int{1 + r.IntN(9), r.IntN(5), 0},
			Target: colour.RGB{uint8(r.IntN(256)), uint8(r.IntN(256)), uint8(r.IntN(256))}.Lab(),
		}
		seen := func(add []int) float64 {
			var parts []float64
			for i := range add {
				parts = append(parts, float64(c.Drops[i]+add[i]))
			}
			return colour.Difference(c.Target, colour.Matt.Seen(paint.Mix(parts, c.Shelf).Infinite()).XYZ().Lab())
		}
		// By count of drops, the nearest.
		nearest := make([]float64, c.Most+1)
		for i := range nearest {
			nearest[i] = 1e9
		}
		for a := 0; a <= c.Most; a++ {
			for b := 0; a+b <= c.Most; b++ {
				for d := 0; a+b+d <= c.Most; d++ {
					nearest[a+b+d] = min(nearest[a+b+d], seen([]int{a, b, d}))
				}
			}
		}
		got, err := c.Mend()
		require.NoError(t, err)
		assert.InDelta(t, seen(got.Drops), got.Difference, 1e-9)
		assert.InDelta(t, nearest[0], got.Before, 1e-9)
		best, fewest := 1e9, -1
		for k, d := range nearest {
			if d <= c.Wanted {
				fewest, best = k, d
				break
			}
			best = min(best, d)
		}
		assert.InDelta(t, best, got.Difference, 1e-9, "case %d", n)
		assert.Equal(t, fewest >= 0, got.Enough)
		if fewest >= 0 {
			assert.Equal(t, fewest, got.Count(), "case %d: the fewest drops", n)
		}
	}
}

func TestACupThatDriedOtherwiseIsMendedFromWhatIsSeen(t *testing.T) {
	jars := []paint.Jar{
		{ID: "g", Name: "lichen green", Family: "waterborne_acrylic", Hex: "#66704f", Left: 17},
		{ID: "w", Name: "chalk", Family: "waterborne_acrylic", Hex: "#f1f0ea", Left: 17},
		{ID: "r", Name: "poppy", Family: "waterborne_acrylic", Hex: "#b02a22", Left: 0.1},
	}
	q := paint.CupQuestion{Jars: jars, Cup: []paint.Part{{Jar: "g", Drops: 20}}, Target: paint.Target{Hex: "#66704f"}}
	a, err := paint.AskCup(q)
	require.NoError(t, err)
	assert.True(t, a.Enough)
	assert.Empty(t, a.Add, "it is what it should be")
	q.Said = "much too green"
	a, err = paint.AskCup(q)
	require.NoError(t, err)
	require.NotEmpty(t, a.Add)
	assert.Greater(t, a.Before, 3.0, "as it is said to have dried")
	assert.Less(t, a.Difference, a.Before)
	q.Said = "too marmalade"
	_, err = paint.AskCup(q)
	assert.ErrorContains(t, err, "marmalade")
}

// What is found when one aims at the end really ends so near, through any films above.
func TestAimingAtTheEndHolds(t *testing.T) {
	r := rand.New(rand.NewPCG(1, 4))
	hex := func() string { return colour.RGB{uint8(r.IntN(256)), uint8(r.IntN(256)), uint8(r.IntN(256))}.Hex() }
	for n := range 100 {
		q := paint.RecipeQuestion{Target: paint.Target{Hex: hex()}, Paints: 2, Parts: 6, AtEnd: true}
		for i := range 8 {
			q.Jars = append(
				q.Jars,
				paint.Jar{ID: string(rune('a' + i)), Name: "x", Family: "waterborne_acrylic", Hex: hex(), Left: 17},
			)
		}
		for range r.IntN(4) {
			q.Above = append(q.Above, []paint.Above{
				{Name: "gloss", Sheen: colour.Gloss},
				{Name: "filter", Hex: hex(), Ratio: 0.6, Film: 0.7},
				{Name: "wash", Hex: hex(), Ratio: 0.6, Film: 2 * r.Float64(), Sheen: colour.Matt},
				{Name: "dust", Hex: hex(), Ratio: 0.7, Film: 3 * r.Float64(), Loose: true},
			}[r.IntN(4)])
		}
		a, err := paint.AskRecipe(q, nil)
		require.NoError(t, err)
		for _, line := range a.Recipes {
			var parts []paint.Part
			for _, p := range line.Parts {
				parts = append(parts, paint.Part{Jar: p.Jar, Drops: p.Parts})
			}
			mixed, _, err := paint.Shelf{Jars: q.Jars}.Mixed(parts)
			require.NoError(t, err)
			assert.InDelta(t, line.Difference, forward(t, mixed, q), 1e-6, "case %d", n)
		}
	}
}

// forward lays the films of a question over a mix one by one, as the handbook has it.
func forward(t *testing.T, p paint.Pigment, q paint.RecipeQuestion) float64 {
	r, skin := p.Infinite(), colour.Matt
	seen := skin.Seen(r)
	for _, a := range q.Above {
		if a.Sheen != "" {
			skin = a.Sheen
		}
		if a.Hex != "" {
			c, err := colour.Parse(a.Hex)
			require.NoError(t, err)
			sheen := colour.Matt
			if a.Loose {
				sheen = colour.Loose
			}
			film := paint.Paint{Swatch: c, Sheen: sheen, Hiding: paint.Hiding(a.Ratio), Solids: 0.3}.Pigment()
			if a.Loose {
				seen = film.Film(paint.Film(a.Film), seen)
				r = film.Film(paint.Film(a.Film), r)
				continue
			}
			r = film.Film(paint.Film(a.Film), r)
		}
		seen = skin.Seen(r)
	}
	return colour.Difference(colour.Of(q.Target.Hex).Lab(), seen.XYZ().Lab())
}

// White never darkens, whatever it is put into; a relative keeps its hue.
func TestWhiteNeverDarkens(t *testing.T) {
	white := paint.Paint{Swatch: colour.Of("#ffffff"), Sheen: colour.Matt, Hiding: paint.Good, Solids: 0.3}.Pigment()
	for _, p := range shelfOf(60, 8) {
		last := -1.0
		for _, w := range []float64{0, 0.05, 0.2, 0.5, 1} {
			y := paint.Lightened(p, white, w).Infinite().XYZ()[1]
			assert.GreaterOrEqual(t, y, last-1e-12)
			last = y
		}
	}
}

func TestRelativesStepInLightnessAndKeepTheirHue(t *testing.T) {
	q := paint.RelativesQuestion{
		RecipeQuestion: paint.RecipeQuestion{Target: paint.Target{Hex: "#66704f"}, Paints: 2, Parts: 6},
	}
	for i, hex := range []string{"#66704f", "#f1f0ea", "#2a2a2b", "#e3b525", "#3c6fb0", "#b02a22"} {
		q.Jars = append(
			q.Jars,
			paint.Jar{ID: string(rune('a' + i)), Name: "x", Family: "waterborne_acrylic", Hex: hex, Left: 17},
		)
	}
	all, err := paint.AskRelatives(q, nil)
	require.NoError(t, err)
	require.Len(t, all, 8)
	from := colour.Of("#66704f").Lab()
	assert.InDelta(t, from[0]+18, colour.Of(all[0].Target).Lab()[0], 0.3)
	assert.InDelta(t, from[2]/from[1], colour.Of(all[0].Target).Lab()[2]/colour.Of(all[0].Target).Lab()[1], 0.1)
	for _, r := range all {
		assert.NotEmpty(t, r.Recipe.Parts, r.Name)
	}
}

// The rule answers mixes, likeness and drops, and everything else as before.
func TestTheRuleAnswersOfPaint(t *testing.T) {
	s := paint.Shelf{Jars: []paint.Jar{
		{ID: "g", Number: 12, Name: "lichen green", Family: "waterborne_acrylic", Hex: "#66704f"},
		{ID: "b", Number: 30, Name: "kelp", Family: "waterborne_acrylic", Hex: "#57442f"},
	}}
	ask := func(text string) (measure.LengthAnswer, error) {
		return paint.AskRule(measure.LengthQuestion{Text: text, Scale: "1:35"}, func() (paint.Shelf, error) { return s, nil })
	}
	for text, says := range map[string]string{
		"mix 1x12":           "it dries #66704f",
		"mix 3x12 + 1x30":    "12 lichen green ΔE00",
		"like #66704f":       "12 lichen green ΔE00 0.0",
		"drops 4.2 ml 2:1":   "paint 56 drops, thinner 28 drops",
		"drops 4.2 ml":       "84 drops",
		"Drops 1,5 ml 1:1":   "paint 15 drops, thinner 15 drops",
		"7.12 m":             "203.4 mm",
		"MIX  2 x 12 + 3x30": "hides",
	} {
		a, err := ask(text)
		require.NoError(t, err, text)
		assert.Contains(t, a.Copy, says, text)
		for _, f := range a.Facts {
			assert.NotEmpty(t, f.Why.Formula, text)
		}
	}
	for text, says := range map[string]string{
		"mix 3x99": "no jar on the shelf is number 99", "mix bread": "no part of a mix", "drops 0 ml": "0 ml", "drops 1 ml 0:1": "no ratio",
	} {
		_, err := ask(text)
		assert.ErrorContains(t, err, says, text)
	}
}

// Pressure is told in the unit one likes, thinning by the jar's temper.
func TestAnAirbrushIsSetByTheJarsTemper(t *testing.T) {
	usual, said, ok := paint.AirbrushWords("waterborne_acrylic", nil, "psi", false)
	require.True(t, ok)
	assert.InDelta(t, 0.65, usual, 1e-9)
	assert.Contains(t, said, "1 : 0.65")
	assert.Contains(t, said, "17–23 psi")
	thin := 0.5
	own, said, _ := paint.AirbrushWords(
		"waterborne_acrylic",
		&paint.Temper{Thinner: &thin, Pressure: 1.3, Note: "crawls when thinned"},
		"",
		false,
	)
	assert.InDelta(t, 0.5, own, 1e-9)
	assert.Contains(t, said, "1.3 bar")
	assert.Contains(t, said, "crawls when thinned")
	_, fine, _ := paint.AirbrushWords("waterborne_acrylic", nil, "bar", true)
	assert.Contains(t, fine, "10–25 mm away")
	_, _, ok = paint.AirbrushWords("oil_thin", nil, "bar", false)
	assert.False(t, ok, "nobody sprays it")
}

// A mix made again is told by how much it differs from the one that is kept.
func TestAMixMadeAgainIsForecast(t *testing.T) {
	s := paint.Shelf{Jars: []paint.Jar{{ID: "g", Name: "green", Family: "waterborne_acrylic", Hex: "#66704f"}}}
	m := paint.Mixture{ID: "m", Hex: "#66704f", Parts: []paint.Part{{Jar: "g", Drops: 4}}}
	same, ok := s.Again(m)
	require.True(t, ok)
	assert.Contains(t, same, "ΔE00 0.0")
	s.Jars[0].Hex = "#707a58" // a test piece set its swatch right
	other, _ := s.Again(m)
	assert.Contains(t, other, "dries #707a58")
	assert.NotContains(t, other, "ΔE00 0.0")
	m.Parts[0].Jar = "gone"
	_, ok = s.Again(m)
	assert.False(t, ok)
}
