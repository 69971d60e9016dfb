package paint_test

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"

	"cinderpath/core/colour"
	"cinderpath/core/paint"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// shelfOf are paints by chance, of all colours and all ways to hide.
func shelfOf(n int, seed uint64) []paint.Pigment {
	r := rand.New(rand.NewPCG(seed, 12))
	out := make([]paint.Pigment, n)
	for i := range out {
		out[i] = paint.Paint{
			Swatch: colour.RGB{uint8(r.IntN(256)), uint8(r.IntN(256)), uint8(r.IntN(256))},
			Sheen:  colour.Matt,
			Hiding: paint.Hiding(0.6 + 0.39*r.Float64()),
			Solids: 0.2 + 0.3*r.Float64(),
		}.Pigment()
	}
	return out
}

// every goes through all recipes of so many paints of a shelf, in whole parts.
func every(n, paints, parts int, do func([]int)) {
	v := make([]int, n)
	var fill func(at, used, left int)
	fill = func(at, used, left int) {
		if at == n {
			d := 0
			for _, p := range v {
				for a, b := d, p; ; a, b = b, a%b {
					if b == 0 {
						d = a
						break
					}
				}
			}
			if d == 1 {
				do(v)
			}
			return
		}
		fill(at+1, used, left)
		if used < paints {
			for p := 1; p <= left; p++ {
				v[at] = p
				fill(at+1, used+1, left-p)
			}
		}
		v[at] = 0
	}
	fill(0, 0, parts)
}

// plainly is the search without any thought: all recipes, mixed by Mix and seen by Seen.
func plainly(w paint.Wanted, sheen colour.Sheen) (all []paint.Recipe) {
	every(len(w.Shelf), w.Paints, w.Parts, func(v []int) {
		group := -1
		for i, p := range v {
			if p > 0 && (slices.Contains(w.Exclude, i) || len(w.Group) > 0 && group >= 0 && w.Group[i] != group) {
				return
			}
			if p > 0 && len(w.Group) > 0 {
				group = w.Group[i]
			}
			if p == 0 && slices.Contains(w.Must, i) {
				return
			}
		}
		r := paint.Recipe{Parts: slices.Clone(v)}
		r.Seen = sheen.Seen(r.Mixed(w.Shelf).Infinite()).XYZ().Lab()
		r.Difference = colour.Difference(w.Target, r.Seen)
		all = append(all, r)
	})
	slices.SortStableFunc(all, func(a, b paint.Recipe) int {
		switch {
		case a.Difference < b.Difference:
			return -1
		case a.Difference > b.Difference:
			return 1
		}
		return 0
	})
	return all
}

// The search finds what a plain count of all recipes finds, whatever is asked of it.
func TestSearchIsWhatCountingAllGives(t *testing.T) {
	cases := 200
	if testing.Short() {
		cases = 20
	}
	r := rand.New(rand.NewPCG(7, 7))
	for n := range cases {
		w := paint.Wanted{
			Shelf:  shelfOf(2+r.IntN(7), uint64(n)),
			Target: colour.RGB{uint8(r.IntN(256)), uint8(r.IntN(256)), uint8(r.IntN(256))}.Lab(),
			Over:   paint.Seen(colour.Matt),
			Paints: 1 + r.IntN(3),
			Parts:  2 + r.IntN(8),
		}
		if n%50 == 0 {
			w.Paints, w.Shelf = 4, shelfOf(6, uint64(n))
		}
		if n%3 == 0 {
			w.Group = make([]int, len(w.Shelf))
			for i := range w.Group {
				w.Group[i] = r.IntN(2)
			}
		}
		if n%5 == 0 {
			w.Must = []int{r.IntN(len(w.Shelf))}
		}
		if n%7 == 0 {
			w.Exclude = []int{r.IntN(len(w.Shelf))}
		}
		all := plainly(w, colour.Matt)
		got, err := paint.Search(w)
		require.NoError(t, err)
		require.Len(t, got.Best, min(10, len(all)), "case %d", n)
		assert.Equal(t, len(all), got.Candidates, "case %d", n)
		for i, b := range got.Best {
			require.InDelta(t, all[i].Difference, b.Difference, 1e-9, "case %d, place %d", n, i)
			at := slices.IndexFunc(all, func(r paint.Recipe) bool { return slices.Equal(r.Parts, b.Parts) })
			require.GreaterOrEqual(t, at, 0)
			assert.InDelta(t, all[at].Difference, b.Difference, 1e-9)
		}
		least := map[int]float64{}
		for _, a := range all {
			if d, ok := least[a.Of()]; !ok || a.Difference < d {
				least[a.Of()] = a.Difference
			}
		}
		require.Len(t, got.ByPaints, len(least), "case %d", n)
		for k, d := range least {
			assert.InDelta(t, d, got.ByPaints[k], 1e-9, "case %d, %d paints", n, k)
		}
	}
}

func TestSearchPassesOverWhatItProvesWorse(t *testing.T) {
	w := paint.Wanted{
		Shelf:  shelfOf(25, 3),
		Target: colour.Of("#66704f").Lab(),
		Over:   paint.Seen(colour.Matt),
		Paints: 3,
		Parts:  12,
	}
	got, err := paint.Search(w)
	require.NoError(t, err)
	assert.Equal(t, 25+300*45+2300*196, got.Candidates)
	assert.Less(t, got.Computed, got.Candidates/5)
}

func TestARefusedSearchSaysWhatIsWrong(t *testing.T) {
	good := paint.Wanted{Shelf: shelfOf(3, 1), Over: paint.Seen(colour.Matt), Paints: 2, Parts: 4}
	for name, spoil := range map[string]func(*paint.Wanted){
		"no shelf":       func(w *paint.Wanted) { w.Shelf = nil },
		"no paints":      func(w *paint.Wanted) { w.Paints = 0 },
		"too many parts": func(w *paint.Wanted) { w.Parts = 1000 },
		"unknown must":   func(w *paint.Wanted) { w.Must = []int{3} },
		"short groups":   func(w *paint.Wanted) { w.Group = []int{1} },
		"a clear":        func(w *paint.Wanted) { w.Shelf = slices.Clone(w.Shelf); w.Shelf[1].S = 0 },
	} {
		w := good
		spoil(&w)
		_, err := paint.Search(w)
		assert.Error(t, err, name)
	}
	stopped := good
	stopped.Stop = func() bool { return true }
	_, err := paint.Search(stopped)
	require.ErrorIs(t, err, paint.ErrStopped)
	impossible := good
	impossible.Must = []int{0, 1, 2}
	found, err := paint.Search(impossible)
	require.NoError(t, err)
	assert.Empty(t, found.Best, "three musts in two paints")
}

func workedRecipe(t *testing.T, w worked) {
	var in struct {
		Shelf []struct {
			workedPaint

			Name string
		}
		Target  string       `json:"target_hex"`
		Paints  int          `json:"max_paints"`
		Parts   int          `json:"max_parts"`
		Skin    colour.Sheen `json:"seen_sheen"`
		Group   []int        `json:"mix_group"`
		Must    []string
		Exclude []string
	}
	require.NoError(t, json.Unmarshal(w.raw, &in))
	target, err := colour.Parse(in.Target)
	require.NoError(t, err)
	q := paint.Wanted{Target: target.Lab(), Over: paint.Seen(in.Skin), Paints: in.Paints, Parts: in.Parts, Group: in.Group}
	for i, p := range in.Shelf {
		q.Shelf = append(q.Shelf, p.pigment(t))
		if slices.Contains(in.Must, p.Name) {
			q.Must = append(q.Must, i)
		}
		if slices.Contains(in.Exclude, p.Name) {
			q.Exclude = append(q.Exclude, i)
		}
	}
	found, err := paint.Search(q)
	require.NoError(t, err)
	named := func(r paint.Recipe) map[string]int {
		out := map[string]int{}
		for i, p := range r.Parts {
			if p > 0 {
				out[in.Shelf[i].Name] = p
			}
		}
		return out
	}
	type told struct {
		DE00  float64
		Parts map[string]int
	}
	var best []told
	var preferred told
	var by map[string]float64
	require.NoError(t, json.Unmarshal(w.Out["ten_best"], &best))
	require.NoError(t, json.Unmarshal(w.Out["preferred"], &preferred))
	require.NoError(t, json.Unmarshal(w.Out["best_dE00_by_number_of_paints"], &by))
	w.holds(t, "candidates", float64(found.Candidates))
	require.Len(t, found.Best, len(best))
	for i, b := range best {
		assert.InDelta(t, b.DE00, found.Best[i].Difference, 2e-9)
		assert.Equal(t, b.Parts, named(found.Best[i]), "%s, place %d", w.ID, i+1)
	}
	assert.Equal(t, preferred.Parts, named(found.Preferred), w.ID)
	for k, d := range found.ByPaints {
		assert.InDelta(t, by[fmt.Sprint(k)], d, 2e-9)
	}
	assert.Len(t, found.ByPaints, len(by))
}

// Sixty jars, three paints, twelve parts: 6.8 million recipes. The plain reference in the
// same run mixes each of them.
func BenchmarkSearch(b *testing.B) {
	w := paint.Wanted{
		Shelf:  shelfOf(60, 5),
		Target: colour.Of("#66704f").Lab(),
		Over:   paint.Seen(colour.Matt),
		Paints: 3,
		Parts:  12,
	}
	for b.Loop() {
		found, err := paint.Search(w)
		if err != nil {
			b.Fatal(err)
		}
		b.ReportMetric(float64(found.Computed), "computed")
		b.ReportMetric(float64(found.Candidates), "candidates")
	}
}

func BenchmarkSearchOfFour(b *testing.B) {
	w := paint.Wanted{
		Shelf:  shelfOf(60, 5),
		Target: colour.Of("#66704f").Lab(),
		Over:   paint.Seen(colour.Matt),
		Paints: 4,
		Parts:  12,
	}
	for b.Loop() {
		found, err := paint.Search(w)
		if err != nil {
			b.Fatal(err)
		}
		b.ReportMetric(float64(found.Computed), "computed")
		b.ReportMetric(float64(found.Candidates), "candidates")
	}
}

// The lower bound of BenchmarkSearch: mixing and seeing every recipe of ten jars plainly,
// told for as many recipes as sixty jars give.
func BenchmarkCountingAll(b *testing.B) {
	w := paint.Wanted{
		Shelf:  shelfOf(10, 5),
		Target: colour.Of("#66704f").Lab(),
		Over:   paint.Seen(colour.Matt),
		Paints: 3,
		Parts:  12,
	}
	n := 0
	for b.Loop() {
		n += len(plainly(w, colour.Matt))
	}
	b.ReportMetric(b.Elapsed().Seconds()/float64(n)*6_786_830*1000, "ms/sixty-jars")
}
