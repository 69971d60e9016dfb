package measure_test

import (
	"fmt"
	"math"
	"testing"

	"cinderpath/core/length"
	"cinderpath/core/measure"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

func TestNearestDrill(t *testing.T) {
	near, ok := measure.Nearest(measure.Shelf{}.Of(false, measure.Drill), 0.34, 35)
	require.True(t, ok)
	assert.Equal(t, "no. 80", near.Name)
	assert.InDelta(t, 0.3429*35, float64(near.Full), 1e-9)
	_, ok = measure.Nearest(measure.Shelf{}.Of(true, measure.Drill), 0.34, 35)
	assert.False(t, ok, "nothing is owned yet")
}

// Number drills as published: inches times 25.4.
func TestNumberDrillsAgreeWithTheirInches(t *testing.T) {
	inches := map[string]float64{"no. 61": .0390, "no. 70": .0280, "no. 75": .0210, "no. 80": .0135}
	for _, d := range (measure.Shelf{}).Of(false, measure.Drill) {
		if in, ok := inches[d.Name]; ok {
			assert.InDelta(t, in*25.4, float64(d.Size), 5e-5, d.Name)
			delete(inches, d.Name)
		}
	}
	assert.Empty(t, inches, "not in the table")
}

// Under and over enclose the wanted size with nothing of the table between them.
func TestAroundEncloses(t *testing.T) {
	items := measure.Shelf{}.Of(false, measure.Rod, measure.Wire, measure.Tube)
	rapid.Check(t, func(t *rapid.T) {
		wanted := length.Model(rapid.Float64Range(0.05, 8).Draw(t, "wanted"))
		under, over := measure.Around(items, wanted, 48)
		near, ok := measure.Nearest(items, wanted, 48)
		require.True(t, ok)
		for _, it := range items {
			if under != nil && it.Size > under.Size {
				assert.Greater(t, float64(it.Size), float64(wanted)-0.001)
			}
			if over != nil && it.Size < over.Size {
				assert.Less(t, float64(it.Size), float64(wanted)+0.001)
			}
			assert.GreaterOrEqual(t, math.Abs(float64(it.Size-wanted))+0.001, math.Abs(float64(near.Off)))
		}
		assert.InDelta(t, float64(near.Off), near.Error*float64(wanted), 1e-9)
	})
}

func TestShelfChangesTheTable(t *testing.T) {
	plain := measure.Shelf{}.Table()
	shelf := measure.Shelf{
		Own:  []string{"wire:0.30 mm copper wire"},
		Gone: []string{"wire:0.30 mm brass wire"},
		Added: []measure.Item{
			{ID: "wire:0.10 mm tin wire", Kind: measure.Wire, Material: "tin", Name: "0.12 mm tin wire", Size: 0.12},
			{ID: "own-1", Kind: measure.Rod, Material: "plastic", Name: "stretched sprue", Size: 0.18},
		},
	}
	require.NoError(t, shelf.Check())
	table := shelf.Table()
	assert.Len(t, table, len(plain), "one gone, one corrected in place, one added")
	by := map[string]measure.Stocked{}
	for _, s := range table {
		by[s.ID] = s
	}
	assert.NotContains(t, by, "wire:0.30 mm brass wire")
	assert.InDelta(t, 0.12, float64(by["wire:0.10 mm tin wire"].Size), 0)
	assert.True(t, by["wire:0.10 mm tin wire"].Changed)
	assert.True(t, by["wire:0.30 mm copper wire"].Owned)
	assert.Equal(t, []measure.Stocked{by["wire:0.30 mm copper wire"]}, shelf.Of(true, measure.Wire))
	for name, bad := range map[string]measure.Shelf{
		"sizeMm":       {Added: []measure.Item{{ID: "x", Kind: measure.Rod, Name: "x"}}},
		"kind":         {Added: []measure.Item{{ID: "x", Kind: "anvil", Name: "x", Size: 1}}},
		"secondMm":     {Added: []measure.Item{{ID: "x", Kind: measure.Tube, Name: "x", Size: 1, Second: 1}}},
		"stock.bend":   {Bend: map[string]float64{"wire": -1}},
		"[1]":          {Added: []measure.Item{{ID: "x", Kind: measure.Rod, Name: "x", Size: 1}, {ID: "x", Kind: measure.Rod, Name: "y", Size: 2}}},
		"stock.added[": {Added: []measure.Item{{ID: "x", Kind: measure.Rod, Name: "x", Size: length.Model(math.NaN())}}},
	} {
		assert.ErrorContains(t, bad.Check(), name)
	}
}

// The thickness of a laminate is brute-forced: no pair of sheets comes nearer.
func TestLaminatesAreTheBestPairs(t *testing.T) {
	sheets := measure.Shelf{}.Of(false, measure.Sheet)
	rapid.Check(t, func(t *rapid.T) {
		real := rapid.IntRange(12, 100).Draw(t, "real")
		a, err := measure.AskStock(measure.StockQuestion{Kind: measure.Sheet, Size: fmt.Sprint(real), Scale: "1:35"})
		require.NoError(t, err)
		want, best := float64(real)/35, math.Inf(1)
		for _, s := range sheets {
			for _, u := range sheets {
				best = min(best, math.Abs(float64(s.Size+u.Size)/want-1))
			}
		}
		if best > 0.2 {
			assert.Empty(t, a.Laminates)
			return
		}
		assert.InDelta(t, 100*best, math.Abs(a.Laminates[0].Error), 1e-9)
	})
}

func TestTubesSlideIntoEachOther(t *testing.T) {
	a, err := measure.AskStock(measure.StockQuestion{Kind: measure.Tube, Size: "31.5 mm", Scale: "1:35"}) // 0.9 mm
	require.NoError(t, err)
	require.NotEmpty(t, a.Telescope)
	found := false
	for _, m := range a.Telescope {
		found = found || m.Words == "0.7 / 0.5 mm brass tube slides into 0.9 / 0.7 mm brass tube, play 0 mm"
		assert.NotContains(t, m.Words, "−", "nothing is forced")
	}
	assert.True(t, found, "%v", a.Telescope)
}

func TestStockOfTwoSizes(t *testing.T) {
	a, err := measure.AskStock(measure.StockQuestion{Kind: measure.Strip, Size: "70", Second: "17", Scale: "1:35"})
	require.NoError(t, err)
	assert.Equal(
		t,
		"0.50 x 2.00 mm strip",
		a.Groups[0].Rows[0].Item.Name,
		"whichever is typed first, the thinner is the thickness",
	)
	a, err = measure.AskStock(measure.StockQuestion{Kind: measure.Mesh, Size: "28", Second: "7", Scale: "1:35"})
	require.NoError(t, err)
	assert.Equal(t, "0.8 mm opening, 0.20 mm wire", a.Groups[0].Rows[0].Item.Name)
	_, err = measure.AskStock(measure.StockQuestion{Kind: measure.Mesh, Size: "28", Scale: "1:35"})
	assert.ErrorContains(t, err, "wire of the mesh")
}

func TestWeldTakesHalfARoundOfPutty(t *testing.T) {
	a, err := measure.AskStock(measure.StockQuestion{Kind: measure.Weld, Size: "21 mm", Length: "7 m", Scale: "1:35"})
	require.NoError(t, err)
	// 0.6 mm wide, 200 mm long, half round: π 0.36 / 8 · 200 = 28.27 mm³; 200 mm at 3 min a centimetre is an hour.
	assert.Equal(t, "0.028 ml", a.Facts[2].Value)
	assert.Equal(t, "1 h", a.Facts[3].Value)
	assert.NotEmpty(t, a.Cautions)
}

func TestBoltsAndRivetsByShank(t *testing.T) {
	a, err := measure.AskStock(measure.StockQuestion{Kind: measure.Bolt, Size: "24 mm", Scale: "1:35"})
	require.NoError(t, err)
	assert.Equal(t, "1.03 mm", a.Facts[0].Value) // 36 / 35
	assert.Equal(t, "1.00 mm rod", a.Groups[0].Rows[0].Item.Name)
	a, err = measure.AskStock(measure.StockQuestion{Kind: measure.Rivet, Size: "20 mm", Scale: "1:72"})
	require.NoError(t, err)
	assert.Equal(t, "0.47 mm", a.Facts[0].Value) // 34 / 72
}

// Wire bends to three diameters, thread to one; the workshop may know better.
func TestBendsAgainstTheTightestWanted(t *testing.T) {
	ask := func(kind string, shelf *measure.Shelf) string {
		a, err := measure.AskStock(measure.StockQuestion{Kind: kind, Size: "17.5", Bend: "1 mm", Scale: "1:35", Shelf: shelf})
		require.NoError(t, err)
		require.NotEmpty(t, a.Facts)
		return a.Facts[0].Value
	}
	assert.Equal(t, "least 1.5 mm: kinks or breaks there", ask(measure.Wire, nil))
	assert.Equal(t, "least 0.5 mm: follows it", ask(measure.Thread, nil))
	assert.Equal(t, "least 1 mm: follows it", ask(measure.Wire, &measure.Shelf{Bend: map[string]float64{measure.Wire: 2}}))
}

func TestStockRefusesInWords(t *testing.T) {
	for field, q := range map[string]measure.StockQuestion{
		"size":   {Kind: "rod", Size: "-3", Scale: "1:35"},
		"scale":  {Kind: "rod", Size: "3", Scale: "big"},
		"second": {Kind: "strip", Size: "3", Second: "x", Scale: "1:35"},
		"bend":   {Kind: "wire", Size: "3", Bend: "0", Scale: "1:35"},
		"length": {Kind: "weld", Size: "3", Scale: "1:35"},
		"kind":   {Kind: "anvil", Size: "3", Scale: "1:35"},
	} {
		_, err := measure.AskStock(q)
		var f *measure.Fault
		require.ErrorAs(t, err, &f, field)
		assert.Equal(t, field, f.Field)
		assert.NotEmpty(t, f.Remedy)
	}
}

func ExampleNearest() {
	near, _ := measure.Nearest(measure.Shelf{}.Of(false, measure.Wire), length.Scale(35).ToModel(28), 35)
	fmt.Println(near.Name, near.Full)
	// Output: 0.80 mm copper wire 28 mm
}

func ExampleAskRope() {
	a, _ := measure.AskRope(measure.RopeQuestion{Diameter: "28 mm", Length: "120 mm", Scale: "1:35"})
	w := a.Ways[0]
	fmt.Printf("%s for %s: %.2f mm\n", w.Words, a.Model, w.Outer)
	// Output: 2 strands of 0.40 mm copper wire for 0.80 mm: 0.80 mm
}
