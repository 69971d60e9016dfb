package paint_test

import (
	"encoding/json"
	"math"
	"os"
	"slices"
	"testing"

	"cinderpath/core/colour"
	"cinderpath/core/paint"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

type workedPaint struct {
	Hex    string       `json:"hex"`
	Sheen  colour.Sheen `json:"sheen"`
	Ratio  paint.Hiding `json:"contrast_ratio"`
	Solids float64      `json:"volume_solids"`
}

func (p workedPaint) pigment(t testing.TB) paint.Pigment {
	c, err := colour.Parse(p.Hex)
	require.NoError(t, err)
	return paint.Paint{Swatch: c, Sheen: p.Sheen, Hiding: p.Ratio, Solids: p.Solids}.Pigment()
}

type worked struct {
	ID   string `json:"id"`
	Kind string `json:"kind"`
	In   struct {
		Hex    string
		Sheen  colour.Sheen
		Lab    colour.Lab
		Lab1   colour.Lab
		Lab2   colour.Lab
		Inner  []float64   `json:"R_internal"`
		Seen   []float64   `json:"R_seen"`
		Paint  workedPaint `json:"paint"`
		Paints []workedPaint
		Parts  []float64
		Film   paint.Film `json:"film_um"`
		Ground json.RawMessage
		Skin   colour.Sheen `json:"seen_sheen"`
		Below  colour.Sheen `json:"ground_sheen"`
		Powder workedPaint
		Ratio  float64 `json:"thinner_ratio"`
	}
	Out map[string]json.RawMessage

	raw json.RawMessage // what goes in
}

// UnmarshalJSON keeps what goes in as it is written, too.
func (w *worked) UnmarshalJSON(data []byte) error {
	type plain worked
	var all struct{ In json.RawMessage }
	if err := json.Unmarshal(data, &all); err != nil {
		return err
	}
	if err := json.Unmarshal(data, (*plain)(w)); err != nil {
		return err
	}
	w.raw = all.In
	return nil
}

func cases(t testing.TB) []worked {
	data, err := os.ReadFile("testdata/paint_worked.json")
	require.NoError(t, err)
	var all struct{ Cases []worked }
	require.NoError(t, json.Unmarshal(data, &all))
	require.Len(t, all.Cases, 63)
	return all.Cases
}

// holds compares a result with the worked one to nine of its ten digits.
func (w worked) holds(t testing.TB, name string, got ...float64) {
	var want []float64
	require.Contains(t, w.Out, name, w.ID)
	if err := json.Unmarshal(w.Out[name], &want); err != nil {
		want = []float64{0}
		require.NoError(t, json.Unmarshal(w.Out[name], &want[0]), "%s %s", w.ID, name)
	}
	require.Len(t, got, len(want), "%s %s", w.ID, name)
	for i := range want {
		assert.InDelta(t, want[i], got[i], 2e-9*math.Max(math.Abs(want[i]), 1), "%s %s[%d]", w.ID, name, i)
	}
}

func (w worked) says(t testing.TB, name, got string) {
	var want string
	require.NoError(t, json.Unmarshal(w.Out[name], &want))
	assert.Equal(t, want, got, "%s %s", w.ID, name)
}

func (w worked) mixed(t testing.TB) paint.Pigment {
	var all []paint.Pigment
	for _, p := range w.In.Paints {
		all = append(all, p.pigment(t))
	}
	return paint.Mix(w.In.Parts, all)
}

func (w worked) ground(t testing.TB) colour.Bands {
	var g struct {
		Paint *workedPaint
		R     float64
	}
	require.NoError(t, json.Unmarshal(w.In.Ground, &g))
	if g.Paint != nil {
		return g.Paint.pigment(t).Infinite()
	}
	return colour.Even(g.R)
}

func lab(s colour.Sheen, inner colour.Bands) colour.Lab { return s.Seen(inner).XYZ().Lab() }

func hexOf(s colour.Sheen, inner colour.Bands) string {
	c, _ := s.Seen(inner).XYZ().RGB()
	return c.Hex()
}

var workedKinds = map[string]func(t *testing.T, w worked){
	"white": func(t *testing.T, w worked) {
		x := colour.White()
		w.holds(t, "white_XYZ", x[:]...)
		w.holds(t, "white_xy", x[0]/(x[0]+x[1]+x[2]), x[1]/(x[0]+x[1]+x[2]))
	},
	"hex_to_lab": func(t *testing.T, w worked) {
		c, err := colour.Parse(w.In.Hex)
		require.NoError(t, err)
		linear, xyz, l := c.Linear(), c.XYZ(), c.Lab()
		w.holds(t, "linear", linear[:]...)
		w.holds(t, "XYZ", xyz[:]...)
		w.holds(t, "Lab", l[:]...)
	},
	"lab_to_hex": func(t *testing.T, w worked) {
		x := w.In.Lab.XYZ()
		w.holds(t, "XYZ", x[:]...)
		c, beyond := x.RGB()
		w.says(t, "hex", c.Hex())
		assert.JSONEq(t, string(w.Out["out_of_srgb"]), map[bool]string{true: "true", false: "false"}[beyond], w.ID)
	},
	"delta_e": func(t *testing.T, w worked) { w.holds(t, "dE00", colour.Difference(w.In.Lab1, w.In.Lab2)) },
	"spectrum": func(t *testing.T, w worked) {
		c, err := colour.Parse(w.In.Hex)
		require.NoError(t, err)
		r := colour.Spectrum(c, w.In.Sheen)
		w.holds(t, "R_solved", r.Solved[:]...)
		w.holds(t, "R_internal", r.Internal[:]...)
		w.holds(t, "bands_clamped", float64(r.Clamped))
		w.says(t, "hex_seen", hexOf(w.In.Sheen, r.Internal))
		w.holds(t, "dE00_to_swatch", colour.Difference(lab(w.In.Sheen, r.Internal), c.Lab()))
	},
	"surface": func(t *testing.T, w worked) {
		var inner colour.Bands
		copy(inner[:], w.In.Inner)
		seen := w.In.Sheen.Seen(inner)
		w.holds(t, "seen_of_internal", seen[:len(w.In.Inner)]...)
	},
	"paint": func(t *testing.T, w worked) {
		p, r := w.In.Paint.pigment(t), w.In.Paint.pigment(t).Infinite()
		w.holds(t, "S_per_um", p.S)
		w.holds(t, "K_per_um", p.K[:]...)
		w.holds(t, "R_internal", r[:]...)
	},
	"mix": func(t *testing.T, w worked) {
		p := w.mixed(t)
		r := p.Infinite()
		l := lab(w.In.Skin, r)
		w.holds(t, "S_per_um", p.S)
		w.holds(t, "R_internal", r[:]...)
		w.holds(t, "Lab", l[:]...)
		w.says(t, "hex", hexOf(w.In.Skin, r))
		w.holds(t, "volume_solids", p.Solids)
	},
	"film": func(t *testing.T, w worked) {
		p, ground := w.mixed(t), w.ground(t)
		r := p.Film(w.In.Film, ground)
		l := lab(w.In.Skin, r)
		w.holds(t, "R_internal", r[:]...)
		w.holds(t, "Lab", l[:]...)
		w.says(t, "hex", hexOf(w.In.Skin, r))
		w.holds(t, "dE00_to_ground", colour.Difference(l, lab(w.In.Skin, ground)))
		w.holds(t, "dE00_to_infinite", colour.Difference(l, lab(w.In.Skin, p.Infinite())))
		w.holds(t, "opacity", p.Opacity(w.In.Film))
	},
	"powder": func(t *testing.T, w worked) {
		p, ground := w.In.Powder.pigment(t), w.ground(t)
		loose := p.Film(w.In.Film, w.In.Below.Seen(ground)).XYZ().Lab()
		under := lab(w.In.Below, p.Film(w.In.Film, ground))
		bare := lab(w.In.Below, ground)
		w.holds(t, "Lab_loose", loose[:]...)
		w.holds(t, "Lab_under_clear_coat", under[:]...)
		w.holds(t, "Lab_ground", bare[:]...)
		w.holds(t, "dE00_fixing", colour.Difference(loose, under))
	},
	"recipe": workedRecipe,
	"coats": func(t *testing.T, w worked) {
		p, ground := w.mixed(t), w.ground(t)
		n, ok := p.Coats(w.In.Film, ground, w.In.Skin)
		var each []float64
		for i := 1; i <= n; i++ {
			each = append(each, colour.Difference(
				lab(w.In.Skin, p.Film(paint.Film(i)*w.In.Film, ground)), lab(w.In.Skin, p.Infinite())))
		}
		assert.True(t, ok)
		w.holds(t, "coats", float64(n))
		w.holds(t, "dE00_after_each", each...)
	},
	"passes": func(t *testing.T, w worked) {
		p, ground := w.mixed(t), w.ground(t)
		var in struct {
			Wanted float64 `json:"wanted_dE00"`
		}
		require.NoError(t, json.Unmarshal(w.raw, &in))
		n, ok := p.Passes(w.In.Film, ground, in.Wanted, w.In.Skin)
		if string(w.Out["passes"]) == "null" {
			assert.False(t, ok, w.ID)
			n = 5
		} else {
			w.holds(t, "passes", float64(n))
		}
		var each []float64
		for i := 1; i <= n; i++ {
			each = append(
				each,
				colour.Difference(lab(w.In.Skin, p.Film(paint.Film(i)*w.In.Film, ground)), lab(w.In.Skin, ground)),
			)
		}
		w.holds(t, "dE00_after_each", each...)
		w.holds(t, "dE00_infinite", colour.Difference(lab(w.In.Skin, p.Infinite()), lab(w.In.Skin, ground)))
	},
	"lighten": func(t *testing.T, w worked) {
		var in struct {
			White workedPaint
			N     float64
		}
		require.NoError(t, json.Unmarshal(w.raw, &in))
		share := paint.WhiteShare(paint.UsualLightening, in.N)
		r := paint.Lightened(w.In.Paint.pigment(t), in.White.pigment(t), share).Infinite()
		l := lab(w.In.Skin, r)
		w.holds(t, "white_share", share)
		w.holds(t, "Lab", l[:]...)
		w.says(t, "hex", hexOf(w.In.Skin, r))
		w.holds(t, "dE00_to_unlightened", colour.Difference(l, lab(w.In.Skin, w.In.Paint.pigment(t).Infinite())))
	},
	"amount": func(t *testing.T, w worked) {
		var in struct {
			Area     float64    `json:"area_cm2"`
			Film     paint.Film `json:"dry_film_um"`
			Coats    int
			Solids   float64 `json:"volume_solids"`
			Transfer float64
			Fills    int     `json:"cup_fills"`
			Thinner  float64 `json:"thinner_ratio"`
		}
		require.NoError(t, json.Unmarshal(w.raw, &in))
		a := paint.Job{
			Area: in.Area, Film: in.Film, Coats: in.Coats, Solids: in.Solids, Thinner: in.Thinner, Fills: in.Fills,
			Way: paint.Way{Transfer: in.Transfer, Loss: paint.CupLoss},
		}.Need()
		w.holds(t, "paint_ml", a.ML)
		w.holds(t, "drops", a.ML/paint.Drop)
		w.holds(t, "thinner_ml", a.ML*in.Thinner)
	},
	"survival": func(t *testing.T, w worked) {
		var in struct {
			Area   []float64
			Layers []struct {
				Paint workedPaint
				Film  []paint.Film `json:"film_um"`
				Loose bool
			}
		}
		require.NoError(t, json.Unmarshal(w.raw, &in))
		var layers []paint.Laid
		for _, l := range in.Layers {
			layers = append(layers, paint.Laid{Pigment: l.Paint.pigment(t), Film: l.Film, Loose: l.Loose})
		}
		parts, ends := paint.Survival(w.ground(t), layers, in.Area, w.In.Skin)
		var told []*float64
		var texels []int
		var labs []colour.Lab
		require.NoError(t, json.Unmarshal(w.Out["survival"], &told))
		require.NoError(t, json.Unmarshal(w.Out["texels_counted"], &texels))
		require.NoError(t, json.Unmarshal(w.Out["final_Lab"], &labs))
		require.Len(t, parts, len(told))
		for i, p := range parts {
			assert.Equal(t, told[i] != nil, p.Seen, "%s, layer %d", w.ID, i)
			assert.Equal(t, texels[i], p.Texels)
			if told[i] != nil {
				assert.InDelta(t, *told[i], p.Part, 1e-8, "%s, layer %d", w.ID, i)
			}
		}
		for i, l := range ends {
			for k := range l {
				assert.InDelta(t, labs[i][k], l[k], 2e-7, "%s, texel %d", w.ID, i)
			}
		}
	},
	"thinned_pass": func(t *testing.T, w worked) {
		w.holds(t, "dry_film_um", float64(paint.Thinned(w.In.Film, w.In.Ratio)))
	},
}

func TestWorkedCases(t *testing.T) {
	done := 0
	for _, w := range cases(t) {
		if check, ok := workedKinds[w.Kind]; ok {
			t.Run(w.ID, func(t *testing.T) { check(t, w) })
			done++
		}
	}
	assert.Len(t, cases(t), done, "each of them is held to")
}

// A film thick enough is the paint itself, whatever lies below; hiding grows with the film;
// a paint mixed with itself is itself; the order of parts does not matter.
func TestFilmsAndMixesKeepTheirLaws(t *testing.T) {
	for _, hex := range []string{"#66704f", "#f1f0ea", "#2a2a2b", "#b02a22"} {
		for _, hiding := range []paint.Hiding{paint.Glaze, paint.Fair, paint.Full} {
			p := paint.Paint{Swatch: colour.Of(hex), Sheen: colour.Matt, Hiding: hiding, Solids: 0.3}.Pigment()
			assert.InDelta(t, float64(hiding), p.Opacity(15), 1e-9)
			last := -1.0
			for _, x := range []paint.Film{0.1, 1, 5, 20, 80} {
				o := p.Opacity(x)
				assert.Greater(t, o, last)
				last = o
			}
			thick := p.Film(1e5, colour.Even(0.5))
			infinite := p.Infinite()
			for i := range thick {
				assert.InDelta(t, infinite[i], thick[i], 1e-9)
			}
			assert.Equal(t, colour.Even(0.5), p.Film(0, colour.Even(0.5)))
			same := paint.Mix([]float64{2, 3}, []paint.Pigment{p, p})
			assert.InDelta(t, p.S, same.S, 1e-12*p.S)
		}
	}
	a := paint.Paint{Swatch: colour.Of("#66704f"), Sheen: colour.Matt, Hiding: paint.Good, Solids: 0.3}.Pigment()
	b := paint.Paint{Swatch: colour.Of("#b02a22"), Sheen: colour.Matt, Hiding: paint.Thin, Solids: 0.25}.Pigment()
	one, two := paint.Mix(
		[]float64{1, 3},
		[]paint.Pigment{a, b},
	).Infinite(), paint.Mix(
		[]float64{3, 1},
		[]paint.Pigment{b, a},
	).Infinite()
	assert.True(t, slices.EqualFunc(one[:], two[:], func(x, y float64) bool { return math.Abs(x-y) < 1e-12 }))
}
