package measure_test

import (
	"math"
	"testing"

	"cinderpath/core/measure"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"
)

// Pieces against trying all six ways and, for one piece, all turns of a degree.
func TestPiecesAgainstTrying(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		side := func(n string, most int) float64 { return float64(rapid.IntRange(5, most).Draw(t, n)) }
		box := [3]float64{side("x", 400), side("y", 400), side("z", 400)}
		bed := [3]float64{side("bed x", 250), side("bed y", 250), side("bed z", 250)}
		least := math.MaxInt
		for _, o := range [][3]int{{0, 1, 2}, {0, 2, 1}, {1, 0, 2}, {1, 2, 0}, {2, 0, 1}, {2, 1, 0}} {
			n := 1
			for i, s := range o {
				n *= int(math.Ceil(box[s] / bed[i]))
			}
			least = min(least, n)
			for degree := range 91 {
				sin, cos := math.Sincos(float64(degree) * math.Pi / 180)
				p, q := box[o[0]], box[o[1]]
				if p*cos+q*sin <= bed[0]+1e-9 && p*sin+q*cos <= bed[1]+1e-9 && box[o[2]] <= bed[2] {
					least = 1
				}
			}
		}
		got, cut := measure.Pieces(box, bed)
		assert.Equal(t, got, cut[0]*cut[1]*cut[2])
		if least == 1 || got != 1 {
			assert.Equal(t, least, got)
			return
		}
		// One piece by a turn between two whole degrees: it must be a close thing.
		tight, _ := measure.Pieces([3]float64{box[0] * 1.02, box[1] * 1.02, box[2]}, bed)
		assert.Greater(t, tight, 1)
	})
}

func TestPartChecks(t *testing.T) {
	hash := "0123456789abcdef0123456789abcdef0123456789abcdef0123456789abcdef"
	good := measure.Part{ID: "1", Name: "crane", Hash: hash, Unit: "mm", DrawnAt: 1}
	assert.NoError(t, good.Check())
	for field, change := range map[string]func(*measure.Part){
		"name": func(p *measure.Part) { p.Name = "" }, "hash": func(p *measure.Part) { p.Hash = "../../x" }, "unit": func(p *measure.Part) { p.Unit = "" },
		"drawnAt": func(p *measure.Part) { p.DrawnAt = 0 }, "wanted": func(p *measure.Part) { p.Wanted = -1 },
	} {
		bad := good
		change(&bad)
		assert.ErrorContains(t, bad.Check(), field)
	}
	for field, p := range map[string]measure.Printer{
		"name": {ID: "1", Kind: measure.Resin, Feature: 0.05}, "kind": {ID: "1", Name: "p", Feature: 1}, "feature": {ID: "1", Name: "p", Kind: measure.Resin, Feature: math.NaN()}, "bed": {ID: "1", Name: "p", Kind: measure.Resin, Feature: 0.05},
	} {
		assert.ErrorContains(t, p.Check(), field)
	}
	open := good.Judge(
		measure.PartFacts{Size: [3]float64{1000, 10, 10}, Open: 3, Shells: 2},
		35,
		measure.Printer{Kind: measure.Resin, Feature: 0.05, Bed: [3]float64{20, 20, 20}},
	)
	assert.Contains(t, open.Words[0], "3 open edges")
	assert.Contains(t, open.Words[1], "2 separate shells")
	assert.Equal(t, 2, open.Pieces)
	assert.Contains(t, open.Cautions[0], "gloves")
}
