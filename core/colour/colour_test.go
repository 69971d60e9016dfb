package colour_test

import (
	"encoding/csv"
	"math"
	"os"
	"strconv"
	"testing"

	"cinderpath/core/colour"

	"github.com/lucasb-eyer/go-colorful"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// All published pairs (Sharma, Wu and Dalal 2005), both ways round.
func TestPublishedDifferences(t *testing.T) {
	f, err := os.Open("testdata/ciede2000_pairs.csv")
	require.NoError(t, err)
	defer f.Close()
	rows, err := csv.NewReader(f).ReadAll()
	require.NoError(t, err)
	require.Len(t, rows, 35)
	for n, row := range rows[1:] {
		var v [7]float64
		for i, cell := range row {
			v[i], err = strconv.ParseFloat(cell, 64)
			require.NoError(t, err)
		}
		p, q := colour.Lab{v[0], v[1], v[2]}, colour.Lab{v[3], v[4], v[5]}
		assert.InDelta(t, v[6], colour.Difference(p, q), 5.1e-5, "pair %d", n+1)
		assert.InDelta(t, v[6], colour.Difference(q, p), 5.1e-5, "pair %d turned round", n+1)
	}
}

// Another implementation, away from hues that lie opposite each other.
func TestDifferenceAgainstAnotherLibrary(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		draw := func(name string) colour.Lab {
			return colour.Lab{
				rapid.Float64Range(0, 100).Draw(t, name+" L"),
				rapid.Float64Range(-80, 80).Draw(t, name+" a"),
				rapid.Float64Range(-80, 80).Draw(t, name+" b"),
			}
		}
		p, q := draw("p"), draw("q")
		turn := math.Abs(math.Atan2(p[2], p[1]) - math.Atan2(q[2], q[1]))
		if math.Abs(turn-math.Pi) < 0.05 {
			return
		}
		other := colorful.Lab(
			p[0]/100,
			p[1]/100,
			p[2]/100,
		).DistanceCIEDE2000(
			colorful.Lab(q[0]/100, q[1]/100, q[2]/100),
		) * 100
		// The other goes through XYZ and back, whose knee rounds.
		assert.InDelta(t, other, colour.Difference(p, q), 0.02+0.001*other)
	})
}

func TestEverySwatchIsReadAsItIsWritten(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		c := colour.RGB{rapid.Byte().Draw(t, "r"), rapid.Byte().Draw(t, "g"), rapid.Byte().Draw(t, "b")}
		read, err := colour.Parse(c.Hex())
		require.NoError(t, err)
		assert.Equal(t, c, read)
		back, beyond := c.Lab().XYZ().RGB()
		assert.Equal(t, c, back, "through Lab and back")
		assert.False(t, beyond)
	})
	for _, bad := range []string{"", "#12345", "#1234567", "123456", "#12345g", "#+12345", "#-12345", "# 12345"} {
		_, err := colour.Parse(bad)
		assert.Error(t, err, bad)
	}
}

// A swatch's spectrum looks like the swatch, wherever no bound acts; over a lattice.
func TestASpectrumLooksLikeItsSwatch(t *testing.T) {
	checked := 0
	for r := 8; r < 256; r += 40 {
		for g := 8; g < 256; g += 40 {
			for b := 8; b < 256; b += 40 {
				c := colour.RGB{uint8(r), uint8(g), uint8(b)}
				s := colour.Spectrum(c, colour.Matt)
				assert.Less(t, colour.Difference(s.Solved.XYZ().Lab(), c.Lab()), 1e-6, "%s as solved", c.Hex())
				if s.Clamped == 0 {
					checked++
					assert.Less(
						t,
						colour.Difference(colour.Matt.Seen(s.Internal).XYZ().Lab(), c.Lab()),
						1e-6,
						"%s through the skin",
						c.Hex(),
					)
				}
			}
		}
	}
	assert.Greater(t, checked, 60)
}
