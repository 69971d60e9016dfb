package length

import (
	"fmt"
	"math"
	"strconv"
	"strings"
)

// Real is a length on the real vehicle, in millimetres.
type Real float64

// Model is a length on the model, in millimetres.
type Model float64

// Millimetres in the units that people type.
const (
	Millimetre = 1.0
	Centimetre = 10.0
	Metre      = 1000.0
	Inch       = 25.4
	Foot       = 304.8
)

// Longest is the largest length that is read, one kilometre: nothing on a
// vehicle is longer, and a larger number is a slip of the unit.
const Longest = 1000 * Metre

// Scale is the N of 1:N.
type Scale float64

// ToModel gives the size on the model of a real length.
func (s Scale) ToModel(r Real) Model { return Model(float64(r) / float64(s)) }

// ToReal gives the full size that a length on the model stands for.
func (s Scale) ToReal(m Model) Real { return Real(float64(m) * float64(s)) }

// String prints the scale as 1:N.
func (s Scale) String() string { return "1:" + trim(float64(s), 2) }

// String prints a real length in metres from one metre up, in millimetres below.
func (r Real) String() string {
	if math.Abs(float64(r)) >= Metre {
		return trim(float64(r)/Metre, 3) + " m"
	}
	return trim(float64(r), 1) + " mm"
}

// Imperial prints a real length in feet and inches to the nearest eighth.
func (r Real) Imperial() string {
	eighths := int(math.Round(math.Abs(float64(r)) / Inch * 8))
	feet, eighths := eighths/96, eighths%96
	inches, part := eighths/8, eighths%8
	var words []string
	if r < 0 {
		words = append(words, "minus")
	}
	if feet > 0 {
		words = append(words, strconv.Itoa(feet), "ft")
	}
	if inches > 0 || part > 0 || feet == 0 {
		if inches > 0 || part == 0 {
			words = append(words, strconv.Itoa(inches))
		}
		if part > 0 {
			below := 8
			for part%2 == 0 {
				part, below = part/2, below/2
			}
			words = append(words, fmt.Sprintf("%d/%d", part, below))
		}
		words = append(words, "in")
	}
	return strings.Join(words, " ")
}

// String prints a length on the model in millimetres: hundredths below 10 mm,
// tenths above, since a caliper and an eye tell no more.
func (m Model) String() string {
	places := 1
	if math.Abs(float64(m)) < 10 {
		places = 2
	}
	return strconv.FormatFloat(float64(m), 'f', places, 64) + " mm"
}

// trim prints x with at most places decimals and no trailing zeros.
func trim(x float64, places int) string {
	s := strconv.FormatFloat(x, 'f', places, 64)
	if strings.Contains(s, ".") {
		s = strings.TrimRight(strings.TrimRight(s, "0"), ".")
	}
	return s
}
