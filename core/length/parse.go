package length

import (
	"fmt"
	"math"
	"regexp"
	"strconv"
	"strings"
)

// ParseError says what was read, why it cannot stand, and what would.
type ParseError struct {
	Input  string
	Reason string
	Remedy string
}

func (e *ParseError) Error() string {
	return fmt.Sprintf("%q: %s; %s", e.Input, e.Reason, e.Remedy)
}

// longestInput bounds what is looked at: no length takes more characters.
const longestInput = 64

const remedyForms = `write it like "7.12 m", "712 cm", "23 ft 4 in", "23' 4 1/4\"" or "3/8 in"`

var (
	units = map[string]float64{
		"mm": Millimetre, "millimetre": Millimetre, "millimetres": Millimetre,
		"cm": Centimetre, "centimetre": Centimetre, "centimetres": Centimetre,
		"m": Metre, "metre": Metre, "metres": Metre, "meter": Metre, "meters": Metre,
		"km": 1000 * Metre,
		"in": Inch, "inch": Inch, "inches": Inch, `"`: Inch,
		"ft": Foot, "foot": Foot, "feet": Foot, "'": Foot,
	}
	// Fractions of one sign, then marks and spaces that look like others.
	spelling = strings.NewReplacer(
		"½", " 1/2", "¼", " 1/4", "¾", " 3/4", "⅛", " 1/8", "⅜", " 3/8",
		"⅝", " 5/8", "⅞", " 7/8", "⅓", " 1/3", "⅔", " 2/3",
		"⅕", " 1/5", "⅖", " 2/5", "⅗", " 3/5", "⅘", " 4/5", "⅙", " 1/6", "⅚", " 5/6",
		"⅐", " 1/7", "⅑", " 1/9", "⅒", " 1/10", "⁄", "/",
		"′", "'", "’", "'", "″", `"`, "”", `"`, "''", `"`, "−", "-", "‐", "-", "‑", "-",
		"\u00a0", " ", "\u202f", " ", "\u2007", " ", "\u2008", " ", "\u2009", " ", "\u200a", " ",
	)
	// A sign of a fraction stands for a whole one: figures behind it would join its denominator.
	joined   = regexp.MustCompile(`[½¼¾⅛⅜⅝⅞⅓⅔⅕⅖⅗⅘⅙⅚⅐⅑⅒][0-9.,/⁄]`)
	hyphen   = regexp.MustCompile(`([0-9]) ?- ?([0-9]+/[0-9])`) // 1-1/2 is one and a half
	exponent = regexp.MustCompile(`[0-9.]e[+-]?[0-9]`)
	// A number (whole, decimal, fraction, or whole with fraction), then a unit or none.
	quantity = regexp.MustCompile(
		`^\s*([0-9]+\s+[0-9]+/[0-9]+|[0-9]+/[0-9]+|[0-9]*[.,]?[0-9]+|[0-9]+[.,]?)\s*([a-z]+|"|')?\.?`,
	)
	thousands = regexp.MustCompile(`[0-9],[0-9]{3}(?:[^0-9]|$)`)
)

// ParseReal reads a positive length on the real vehicle. A bare number is taken
// in unit, given in millimetres (Metre, Inch and so on).
func ParseReal(text string, unit float64) (Real, error) {
	mm, err := parse(text, unit)
	return Real(mm), err
}

// ParseModel reads a positive length on the model, as ParseReal does.
func ParseModel(text string, unit float64) (Model, error) {
	mm, err := parse(text, unit)
	return Model(mm), err
}

// ParsePlace reads where something lies: a length as ParseReal reads it, with a minus for
// the other way, or zero.
func ParsePlace(text string, unit float64) (Real, error) {
	unsigned, back := strings.CutPrefix(strings.TrimSpace(spelling.Replace(text)), "-")
	if x, ok := number(unsigned); ok && x == 0 {
		return 0, nil
	}
	mm, err := parse(unsigned, unit)
	if back {
		mm = -mm
	}
	return Real(mm), err
}

func parse(text string, unit float64) (float64, error) {
	refuse := func(reason, remedy string) (float64, error) {
		shown := text
		if len(shown) > longestInput {
			shown = strings.ToValidUTF8(shown[:longestInput], "") + "…"
		}
		return 0, &ParseError{Input: shown, Reason: reason, Remedy: remedy}
	}
	if len(text) > longestInput {
		return refuse("too long for a length", remedyForms)
	}
	s := strings.ToLower(strings.TrimSpace(spelling.Replace(text)))
	s = hyphen.ReplaceAllString(s, "$1 $2")
	switch {
	case joined.MatchString(text):
		return refuse("figures follow a fraction without a space", remedyForms)
	case s == "":
		return refuse("nothing is written", remedyForms)
	case strings.HasPrefix(s, "-"):
		return refuse("a length cannot be negative", "leave the minus out")
	case exponent.MatchString(s):
		return refuse(
			"numbers with an exponent are not lengths of a vehicle",
			"write the digits out, in metres or millimetres",
		)
	case thousands.MatchString(s):
		return refuse("the comma can mean "+readings(s), "write a point for decimals and nothing between thousands")
	}
	total, rest, last := 0.0, s, math.Inf(1)
	for rest != "" {
		m := quantity.FindStringSubmatch(rest)
		if m == nil {
			return refuse(fmt.Sprintf("%q is not a number with a unit", rest), remedyForms)
		}
		value, ok := number(m[1])
		if !ok {
			return refuse(fmt.Sprintf("%q is not a number", m[1]), remedyForms)
		}
		scale := unit
		switch {
		case m[2] != "":
			known, ok := units[m[2]]
			if !ok {
				return refuse(fmt.Sprintf("%q is not a unit of length known here", m[2]), "use m, cm, mm, ft or in")
			}
			scale = known
		case last == Foot:
			scale = Inch // 23' 4 means four inches
		case !math.IsInf(last, 1):
			return refuse("the second number has no unit", remedyForms)
		}
		if !math.IsInf(last, 1) && (last != Foot || scale != Inch) {
			return refuse("two lengths in one field", "only feet may be followed by inches")
		}
		if last == Foot && value >= 12 {
			return refuse("twelve inches or more after feet", "carry them over to the feet")
		}
		total += value * scale
		last = scale
		rest = strings.TrimSpace(rest[len(m[0]):])
	}
	switch {
	case math.IsNaN(total) || math.IsInf(total, 0) || total > Longest:
		return refuse("longer than one kilometre", "check the unit: nothing on a vehicle is that long")
	case total <= 0:
		return refuse("zero is no size here", "give a length above zero")
	}
	return total, nil
}

// readings names the two things a comma before three digits can mean.
func readings(s string) string {
	i := thousands.FindStringIndex(s)[0] + 1
	start := i
	for start > 0 && s[start-1] >= '0' && s[start-1] <= '9' {
		start--
	}
	whole, part := s[start:i], s[i+1:i+4]
	return fmt.Sprintf("%s%s or %s.%s", whole, part, whole, part)
}

func number(s string) (float64, bool) {
	if whole, fraction, ok := strings.Cut(s, " "); ok {
		a, okA := number(whole)
		b, okB := number(strings.TrimSpace(fraction))
		return a + b, okA && okB && b < 1
	}
	if top, bottom, ok := strings.Cut(s, "/"); ok {
		a, errA := strconv.ParseFloat(top, 64)
		b, errB := strconv.ParseFloat(bottom, 64)
		return a / b, errA == nil && errB == nil && b > 0
	}
	x, err := strconv.ParseFloat(strings.Replace(s, ",", ".", 1), 64)
	return x, err == nil
}

// Finest and coarsest scale that is read.
const (
	FinestScale   Scale = 1
	CoarsestScale Scale = 1000
)

// ParseScale reads "1:35", "1/35" or "35".
func ParseScale(text string) (Scale, error) {
	refuse := func(reason string) (Scale, error) {
		shown := text
		if len(shown) > longestInput {
			shown = strings.ToValidUTF8(shown[:longestInput], "") + "…"
		}
		return 0, &ParseError{Input: shown, Reason: reason, Remedy: `write it like "1:35"`}
	}
	s := strings.ReplaceAll(strings.TrimSpace(text), " ", "")
	if s == "" {
		return refuse("nothing is written")
	}
	for _, lead := range []string{"1:", "1/"} {
		if after, ok := strings.CutPrefix(s, lead); ok {
			s = after
			break
		}
	}
	if len(s) > 12 || strings.Trim(s, "0123456789.,") != "" {
		return refuse("not a scale")
	}
	n, err := strconv.ParseFloat(strings.Replace(s, ",", ".", 1), 64)
	switch {
	case err != nil:
		return refuse("not a scale")
	case n < float64(FinestScale) || n > float64(CoarsestScale):
		return refuse(fmt.Sprintf("outside %s to %s", FinestScale, CoarsestScale))
	}
	return Scale(n), nil
}
