package length_test

import (
	"fmt"
	"math"
	"testing"

	"cinderpath/core/length"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

func TestParseReal(t *testing.T) {
	cases := []struct {
		name, text string
		unit, want float64
	}{
		{"metres with a space", "7.12 m", length.Millimetre, 7120},
		{"millimetres joined", "7120mm", length.Metre, 7120},
		{"centimetres", "712 cm", length.Metre, 7120},
		{"feet and inches in words", "23 ft 4 in", length.Metre, 7112},
		{"feet and inches in marks", `23'4"`, length.Metre, 7112},
		{"mixed fraction of an inch", `23' 4 1/4"`, length.Metre, 7118.35},
		{"fraction alone", `3/8"`, length.Metre, 9.525},
		{"fraction with unit word", "3/8in", length.Metre, 9.525},
		{"vulgar fraction sign", "12½ in", length.Metre, 317.5},
		{"fifths", "1⅖ in", length.Metre, 35.56},
		{"sevenths", "⅐ m", length.Metre, 1000.0 / 7},
		{"ninths and tenths", `1' ⅒"`, length.Metre, 307.34},
		{"hyphen before a fraction", `1-1/2"`, length.Metre, 38.1},
		{"hyphen before a fraction's sign", `1-½"`, length.Metre, 38.1},
		{"fraction slash", "1⁄2 in", length.Metre, 12.7},
		{"narrow no-break space", "7.12\u202fm", length.Metre, 7120},
		{"thin space", "12\u20091/2 in", length.Metre, 317.5},
		{"decimal comma", "7,12 m", length.Metre, 7120},
		{"bare number in metres", "7.12", length.Metre, 7120},
		{"bare number in millimetres", "7120", length.Millimetre, 7120},
		{"bare inches after feet", "23' 4", length.Metre, 7112},
		{"typographic marks", "23′ 4″", length.Metre, 7112},
		{"capital letters", "7.12 M", length.Metre, 7120},
		{"leading point", ".5 m", length.Metre, 500},
		{"four digits after a comma are decimals", "1,2345 m", length.Metre, 1234.5},
	}
	for _, c := range cases {
		t.Run(c.name, func(t *testing.T) {
			got, err := length.ParseReal(c.text, c.unit)
			require.NoError(t, err)
			assert.InDelta(t, c.want, float64(got), 1e-9)
		})
	}
}

func TestParseRealRefusesWithReason(t *testing.T) {
	cases := []struct{ name, text, reason string }{
		{"empty", "", "nothing is written"},
		{"blank", "   ", "nothing is written"},
		{"letters", "long", "not a number"},
		{"negative", "-7 m", "negative"},
		{"typographic minus", "−7 m", "negative"},
		{"ten kilometres", "10 km", "longer than one kilometre"},
		{"overflowing exponent", "1e400", "exponent"},
		{"many digits", "999999999999999999999999 m", "longer than one kilometre"},
		{"wrong unit", "7 kg", "not a unit of length"},
		{"thousands comma", "1,234", "1234 or 1.234"},
		{"thousands comma with unit", "12,345 mm", "12345 or 12.345"},
		{"zero", "0 m", "zero is no size"},
		{"not a number word", "NaN", "not a number"},
		{"two lengths", "3 m 4 m", "two lengths"},
		{"inches beyond a foot", "3' 14\"", "twelve inches"},
		{"fraction by zero", "3/0 in", "not a number"},
		{"digit after a fraction's sign", "½1 in", "figures follow a fraction"},
		{"digit after a mixed number", "12½3 in", "figures follow a fraction"},
		{"digit after a fraction in metres", "1½5 m", "figures follow a fraction"},
		{"digit after a fraction after feet", `5' ¼6"`, "figures follow a fraction"},
		{"decimals after a fraction's sign", "½.5 in", "figures follow a fraction"},
		{"two fractions", "½ ½ in", "two lengths"},
		{"second number without unit", "3 m 4", "no unit"},
		{"too long", fmt.Sprintf("%070d", 1), "too long"},
	}
	for _, c := range cases {
		t.Run(c.name, func(t *testing.T) {
			_, err := length.ParseReal(c.text, length.Metre)
			var bad *length.ParseError
			require.ErrorAs(t, err, &bad)
			assert.Contains(t, bad.Reason, c.reason)
			assert.NotEmpty(t, bad.Remedy)
		})
	}
}

func TestParseScale(t *testing.T) {
	for text, want := range map[string]length.Scale{"1:35": 35, "1/48": 48, "72": 72, "1 : 87.1": 87.1, "1:34,6": 34.6} {
		got, err := length.ParseScale(text)
		require.NoError(t, err, text)
		assert.Equal(t, want, got, text)
	}
	for _, text := range []string{"", "0", "1:0.5", "1:1001", "big", "1:1e3", "-35", "1:NaN"} {
		_, err := length.ParseScale(text)
		var bad *length.ParseError
		assert.ErrorAs(t, err, &bad, text)
	}
}

func TestScaleRoundTrip(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := length.Scale(rapid.Float64Range(1, 1000).Draw(t, "scale"))
		r := length.Real(rapid.Float64Range(0.01, length.Longest).Draw(t, "real"))
		assert.InEpsilon(t, float64(r), float64(s.ToReal(s.ToModel(r))), 1e-12)
	})
}

// What is printed reads back as the same length within the printed precision.
func TestPrintedLengthsReadBack(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		r := length.Real(rapid.Float64Range(1, 900*length.Metre).Draw(t, "real"))
		back, err := length.ParseReal(r.String(), length.Millimetre)
		require.NoError(t, err, r.String())
		assert.InDelta(t, float64(r), float64(back), 0.51)
		if r > 10 {
			back, err = length.ParseReal(r.Imperial(), length.Millimetre)
			require.NoError(t, err, r.Imperial())
			assert.InDelta(t, float64(r), float64(back), length.Inch/16+1e-6)
		}
	})
}

func FuzzParseReal(f *testing.F) {
	for _, s := range []string{"7.12 m", `23' 4 1/4"`, "12½ in", "1,234", "1e400", "−3", "10 km", "''", "3/", "/3"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, s string) {
		r, err := length.ParseReal(s, length.Metre)
		if err != nil {
			return
		}
		if x := float64(r); math.IsNaN(x) || x <= 0 || x > length.Longest {
			t.Fatalf("%q was read as %v", s, x)
		}
	})
}

func FuzzParseScale(f *testing.F) {
	f.Add("1:35")
	f.Fuzz(func(t *testing.T, s string) {
		n, err := length.ParseScale(s)
		if err == nil && (n < length.FinestScale || n > length.CoarsestScale) {
			t.Fatalf("%q was read as %v", s, n)
		}
	})
}

func ExampleParseReal() {
	r, _ := length.ParseReal("23 ft 4 in", length.Metre)
	fmt.Println(r, "is", length.Scale(35).ToModel(r), "at", length.Scale(35))
	// Output: 7.112 m is 203.2 mm at 1:35
}
