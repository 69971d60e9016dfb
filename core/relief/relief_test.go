package relief_test

import (
	"math"
	"testing"

	"cinderpath/core/form"
	"cinderpath/core/relief"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// plate is a rectangle that lies flat, its edges the outer ones of a body.
func plate(zone string, long, wide float64) *form.Panel {
	p := &form.Panel{Zone: zone, Plane: form.Plane{
		Normal: form.Vec{0, 0, 1}, U: form.Vec{1, 0, 0}, V: form.Vec{0, 1, 0}, Origin: form.Vec{100, 200, 900},
	}}
	corners := []form.Vec{p.Space(0, 0), p.Space(long, 0), p.Space(long, wide), p.Space(0, wide)}
	p.Pieces = [][]form.Vec{corners}
	for i, a := range corners {
		p.Lines = append(p.Lines, form.Line{A: a, B: corners[(i+1)%4], Beyond: form.Vec{1, 0, 0}})
	}
	return p
}

// Round a plate bolts stand so far in, evenly, none wider apart than asked, and as many as fit.
func TestBoltsGoRoundAPlate(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		long := rapid.Float64Range(400, 4000).Draw(t, "long")
		wide := rapid.Float64Range(300, 2000).Draw(t, "wide")
		pitch := rapid.Float64Range(60, 500).Draw(t, "pitch")
		inset := rapid.Float64Range(20, 120).Draw(t, "inset")
		d := relief.Detail{ID: "1", Zone: "hull.deck", Kind: relief.Bolts, Way: relief.Round, PitchMM: pitch, InsetMM: inset}
		require.NoError(t, relief.Check([]relief.Detail{d}))
		laid := relief.Lay([]relief.Detail{d}, []*form.Panel{plate("hull.left", long, wide), plate("hull.deck", long, wide)})
		assert.Empty(t, laid.Of(0), "another zone")
		want := 0
		for _, side := range []float64{long, wide} {
			want += 2 * (int((side-2*inset)/pitch+1e-9) + 1)
		}
		dots, lines := relief.Count(laid.Of(1))
		assert.Equal(t, want, dots)
		assert.Zero(t, lines)
		for _, m := range laid.Of(1) {
			in := min(m.A[0], long-m.A[0], m.A[1], wide-m.A[1])
			assert.InDelta(t, inset, in, 1e-6)
		}
	})
}

// A line is as long as asked where the plate is, and ends where the plate does; a bolt stands where it
// was put.
func TestLinesAndPointsLieOnThePlate(t *testing.T) {
	p := plate("hull.deck", 1000, 600)
	at := func(x, y float64) *form.Vec { v := p.Space(x, y); return &v }
	for _, c := range []struct {
		d    relief.Detail
		dots int
		long float64
	}{
		{relief.Detail{Kind: relief.Joint, Way: relief.Line, At: at(200, 300), To: at(800, 300)}, 0, 600},
		{relief.Detail{Kind: relief.Weld, Way: relief.Line, At: at(500, 300), To: at(2000, 300)}, 0, 500},
		{relief.Detail{Kind: relief.Rivets, Way: relief.Line, At: at(100, 100), To: at(900, 100), PitchMM: 100}, 9, 0},
		{relief.Detail{Kind: relief.Bolts, Way: relief.Point, At: at(10, 10)}, 1, 0},
		{relief.Detail{Kind: relief.Bolts, Way: relief.Point, At: at(-500, 10)}, 0, 0},
		{relief.Detail{Kind: relief.Joint, Way: relief.Round, InsetMM: 100}, 0, 2*800 + 2*400},
	} {
		c.d.ID, c.d.Zone = "1", "hull.deck"
		dots, long := relief.Count(relief.Lay([]relief.Detail{c.d}, []*form.Panel{p}).Of(0))
		assert.Equal(t, c.dots, dots, c.d.Words())
		assert.InDelta(t, c.long, long, 110, c.d.Words()) // it is looked at in pieces of 100 mm
	}
}

// How far a place is from a mark is what the plain distance to it says.
func TestAway(t *testing.T) {
	line := relief.Mark{A: [2]float64{0, 0}, B: [2]float64{100, 0}}
	assert.InDelta(t, 30, line.Away(50, 30), 1e-12)
	assert.InDelta(t, 50, line.Away(140, 30), 1e-12)
	assert.InDelta(t, math.Sqrt2, relief.Mark{}.Away(1, 1), 1e-12)
}

// What cannot be is refused with what to do; what comes with every body is sound.
func TestDetailsAreChecked(t *testing.T) {
	require.NoError(t, relief.Check(relief.Usual()))
	for words, d := range map[string]relief.Detail{
		"is no small relief": {Kind: "tea", Way: relief.Round},
		"is no way":          {Kind: relief.Bolts, Way: "about"},
		"has no place":       {Kind: relief.Bolts, Way: relief.Point},
		"is a line":          {Kind: relief.Weld, Way: relief.Point, At: &form.Vec{}},
		"give 2 to 500":      {Kind: relief.Bolts, Way: relief.Round, SizeMM: 900},
		"one every 5 mm":     {Kind: relief.Bolts, Way: relief.Round, PitchMM: 5},
	} {
		d.ID, d.Zone = "1", "hull.deck"
		assert.ErrorContains(t, relief.Check([]relief.Detail{d}), words)
	}
	twice := []relief.Detail{relief.Usual()[0], relief.Usual()[0]}
	assert.ErrorContains(t, relief.Check(twice), "one id")
	assert.Error(t, relief.Check([]relief.Detail{{ID: "1", Kind: relief.Bolts, Way: relief.Round, Zone: "no zone!"}}))
}
