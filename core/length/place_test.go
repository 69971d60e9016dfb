package length_test

import (
	"testing"

	"cinderpath/core/length"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

func TestParsePlace(t *testing.T) {
	for text, want := range map[string]float64{
		"1200": 1200, "-1200": -1200, " - 1200 mm": -1200, "0": 0, "-0": 0, "0,0": 0, "1.5 m": 1500, "-1,5 m": -1500, "-3 ft 2 in": -965.2, "−40": -40,
	} {
		got, err := length.ParsePlace(text, length.Millimetre)
		require.NoError(t, err, text)
		assert.InDelta(t, want, float64(got), 1e-9, text)
	}
	for text, reason := range map[string]string{"": "nothing is written", "-": "nothing is written", "--5": "negative", "far": "not a number", "1,234": "comma", "-2 km": "longer than one kilometre"} {
		_, err := length.ParsePlace(text, length.Millimetre)
		assert.ErrorContains(t, err, reason, text)
	}
}

// Forward and back are as far.
func TestPlacesAreSymmetric(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		text := rapid.StringMatching(`[0-9]{1,5}(\.[0-9]{1,3})?( ?(mm|cm|m|in|ft))?`).Draw(t, "text")
		there, err := length.ParsePlace(text, length.Millimetre)
		back, errBack := length.ParsePlace("-"+text, length.Millimetre)
		assert.Equal(t, err == nil, errBack == nil)
		if err == nil {
			assert.Equal(t, there, -back)
		}
	})
}

func FuzzParsePlace(f *testing.F) {
	for _, s := range []string{"-12", "3 ft 2 in", "-1,5 m", "", "--", "−4 1/2\""} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, s string) {
		v, err := length.ParsePlace(s, length.Millimetre)
		if err == nil && !(v >= -length.Longest && v <= length.Longest) {
			t.Fatalf("%q reads as %v", s, v)
		}
	})
}
