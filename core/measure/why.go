package measure

import (
	"errors"
	"fmt"
	"math"
	"strconv"
	"strings"

	"cinderpath/core/length"
)

// Why is the answer to "why this number?": the formula and what went into it.
type Why struct {
	Formula string   `json:"formula"`
	Inputs  []string `json:"inputs"`
}

// Fault says which field cannot stand, why, and what would be right.
type Fault struct {
	Field  string
	Reason string
	Remedy string
}

func (f *Fault) Error() string {
	return strings.TrimSuffix(fmt.Sprintf("%s: %s; %s", f.Field, f.Reason, f.Remedy), "; ")
}

// At names the field of an error: of one that already names a field, what it lies
// in; nil stays nil. An error without a field may say its remedy after a semicolon.
func At(field string, err error) error {
	if err == nil {
		return nil
	}
	var inner *Fault
	if errors.As(err, &inner) {
		return &Fault{Field: field + "." + inner.Field, Reason: inner.Reason, Remedy: inner.Remedy}
	}
	var bad *length.ParseError
	if errors.As(err, &bad) {
		return &Fault{Field: field, Reason: fmt.Sprintf("%q was read: %s", bad.Input, bad.Reason), Remedy: bad.Remedy}
	}
	reason, remedy, _ := strings.Cut(err.Error(), "; ")
	if remedy == "" {
		remedy = "change it, or take the last change back"
	}
	return &Fault{Field: field, Reason: reason, Remedy: remedy}
}

// finite tells whether all numbers are usable.
func finite(values ...float64) bool {
	for _, v := range values {
		if math.IsNaN(v) || math.IsInf(v, 0) {
			return false
		}
	}
	return true
}

// number prints x with at most places decimals, without trailing zeros.
func number(x float64, places int) string {
	s := strconv.FormatFloat(x, 'f', places, 64)
	if strings.Contains(s, ".") {
		s = strings.TrimRight(strings.TrimRight(s, "0"), ".")
	}
	if s == "-0" {
		return "0"
	}
	return s
}

// signed prints a deviation with its sign, a real minus included.
func signed(x float64, places int) string {
	s := strconv.FormatFloat(math.Abs(x), 'f', places, 64)
	switch {
	case strings.Trim(s, "0.") == "":
		return s
	case x < 0:
		return "−" + s
	}
	return "+" + s
}

func scaleInput(s length.Scale) string { return "N = " + strings.TrimPrefix(s.String(), "1:") }

// Refuse makes a fault.
func Refuse(field, reason, remedy string) error {
	return &Fault{Field: field, Reason: reason, Remedy: remedy}
}

// Because makes the answer to "why this number?".
func Because(formula string, inputs []string) Why { return Why{Formula: formula, Inputs: inputs} }
