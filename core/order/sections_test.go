package order

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// Sections take all of all zones, none is worked longer than it may, and each is of zones that touch where
// all of them hang together in a row.
func TestSectionsTakeAllAndNoneIsTooLong(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(1, 30).Draw(t, "zones")
		l := Surface{Area: map[string]float64{}, Touch: map[string][]string{}}
		for i := range n {
			z := fmt.Sprintf("%s.%02d", rapid.SampledFrom([]string{"hull", "turret"}).Draw(t, "part"), i)
			l.Zones = append(l.Zones, z)
			l.Area[z] = rapid.Float64Range(0.1, 60).Draw(t, "area")
		}
		for i := 1; i < n; i++ {
			a, b := l.Zones[i-1], l.Zones[i]
			l.Touch[a], l.Touch[b] = append(l.Touch[a], b), append(l.Touch[b], a)
		}
		most := rapid.Float64Range(5, 80).Draw(t, "most")
		all := cutUp(l, l.Zones, func(z string) float64 { return l.Area[z] }, most)
		shares := map[string]float64{}
		for i, s := range all {
			weight := s.areaOf(l, func(string) bool { return true })
			assert.LessOrEqual(t, weight, most+1e-6, "section %d", i)
			assert.Positive(t, weight)
			for _, z := range s.zones {
				shares[z] += s.share[z]
			}
		}
		for _, z := range l.Zones {
			assert.InDelta(t, 1, shares[z], 1e-9, z)
		}
		require.Len(t, shares, n)
	})
}

// Zones in a row are cut into runs of neighbours.
func TestSectionsAreOfZonesThatTouch(t *testing.T) {
	l := Surface{Area: map[string]float64{}, Touch: map[string][]string{}}
	for i := range 20 {
		z := fmt.Sprintf("hull.%02d", i)
		l.Zones = append(l.Zones, z)
		l.Area[z] = 30 - float64(i) // the largest is at the end of the row
		if i > 0 {
			l.Touch[l.Zones[i-1]], l.Touch[z] = append(l.Touch[l.Zones[i-1]], z), append(l.Touch[z], l.Zones[i-1])
		}
	}
	all := cutUp(l, l.Zones, func(z string) float64 { return l.Area[z] }, 90)
	require.Greater(t, len(all), 3)
	for i, s := range all {
		for k := 1; k < len(s.zones); k++ {
			assert.Contains(t, l.Touch[s.zones[k-1]], s.zones[k], "section %d", i)
		}
	}
}
