package bench_test

import (
	"strings"
	"testing"

	"cinderpath/core/bench"
	"cinderpath/core/unit"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"
)

// Every kind of step is whole: a known stage and place, checks, and mishaps and cautions
// that are there.
func TestTheLibraryIsWhole(t *testing.T) {
	seen := map[string]bool{}
	for _, k := range bench.Kinds() {
		assert.False(t, seen[k.ID], "%s is there twice", k.ID)
		seen[k.ID] = true
		assert.Contains(t, bench.Stages, k.Stage, k.ID)
		assert.Contains(t, []string{"bench", "booth", "outdoors"}, k.Place, k.ID)
		assert.Contains(t, []string{"cm2", "piece", "cm"}, k.Unit, k.ID)
		for _, h := range k.Hazards {
			assert.Contains(t, bench.Hazards(), h, "%s: a caution is missing", k.ID)
		}
		for _, c := range bench.Cautions(bench.Danger{Kind: k.ID, Booth: k.Place == "booth"}) {
			assert.True(t, strings.HasSuffix(c, "local rules."), c)
		}
		for _, m := range k.Wrong {
			_, ok := bench.MishapOf(m)
			assert.True(t, ok, "%s: mishap %s", k.ID, m)
		}
	}
	for _, m := range bench.Mishaps("", "") {
		assert.NotEmpty(t, m.Words, m.ID)
		assert.NotEmpty(t, m.Stages, m.ID)
		assert.True(t, len(m.Moves) > 0 || m.Leave != "", "%s has no way out", m.ID)
	}
	assert.Equal(t, "silver", bench.Mishaps(bench.Marks, "decals")[0].ID, "what is usual comes first")
}

// Minutes grow with what there is to do, and with the coats.
func TestMinutesGrow(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		k := rapid.SampledFrom(bench.Kinds()).Draw(t, "kind")
		units := rapid.Float64Range(0, 2000).Draw(t, "units")
		m, inputs := k.Minutes(units, 1)
		more, _ := k.Minutes(units+100, 1)
		coats, _ := k.Minutes(units, 3)
		assert.GreaterOrEqual(t, more, m)
		assert.GreaterOrEqual(t, coats, m)
		assert.InDelta(t, float64(k.SetUp)+float64(k.Per)*units, float64(m), 1)
		assert.NotEmpty(t, inputs)
	})
}

// What is learned lies between the table and the log, nearer to the log the more of it
// there is; a session left open by mistake teaches nothing.
func TestLearning(t *testing.T) {
	steady := func(n int, factor float64) float64 {
		var log []bench.Took
		for range n {
			log = append(log, bench.Took{Kind: "wash", Planned: 20, Real: unit.Minutes(20 * factor)})
		}
		return bench.Learn(log)["wash"].Factor
	}
	assert.Greater(t, steady(1, 2), 1.0)
	assert.Greater(t, steady(4, 2), steady(1, 2))
	assert.Less(t, steady(30, 2), 2.0)
	assert.InDelta(t, 2, steady(400, 2), 0.01)
	assert.InDelta(t, 1, steady(5, 1), 1e-12)
	assert.Empty(t, bench.Learn([]bench.Took{{Kind: "wash", Planned: 20, Real: 1400}, {Kind: "wash", Real: 20}}))
	m, words := bench.Learned{Count: 3, Factor: 1.5}.Apply(20)
	assert.Equal(t, unit.Minutes(30), m)
	assert.Contains(t, words[0], "3 of your own")
}
