package unit_test

import (
	"testing"

	"cinderpath/core/unit"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"
)

func TestMinutesArePrinted(t *testing.T) {
	for _, c := range []struct {
		minutes      unit.Minutes
		exact, about string
	}{
		{0, "0 min", "0 s"},
		{0.5, "1 min", "30 s"},
		{45, "45 min", "45 min"},
		{60, "1 h", "60 min"},
		{89.2, "1 h 30 min", "89 min"},
		{120, "2 h", "2 h"},
		{150, "2 h 30 min", "2.5 h"},
		{3 * unit.Day, "72 h", "3 days"},
	} {
		assert.Equal(t, c.exact, c.minutes.String())
		assert.Equal(t, c.about, c.minutes.About())
	}
	assert.InDelta(t, 50, unit.ShareOf(30, 120).Of(200), 1e-12)
}

// Nothing planned is shorter than it takes, and by less than a minute longer.
func TestWholeMinutesReach(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		m := unit.Minutes(rapid.Float64Range(0, 1e6).Draw(t, "minutes"))
		assert.GreaterOrEqual(t, float64(m.Whole()), float64(m)-1e-9)
		assert.Less(t, float64(m.Whole()-m), 1.0)
		assert.InDelta(t, float64(m), float64(unit.MinutesOf(m.Duration())), 1e-6)
	})
}
