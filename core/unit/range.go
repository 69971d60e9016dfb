package unit

import "fmt"

// Range is what a quantity can sensibly be; beyond it lies a slip of the unit or of the
// finger. What is not a number lies in none.
type Range struct {
	Least, Most float64
	Unit        string
}

// Holds tells whether a value lies in the range, ends included.
func (r Range) Holds(x float64) bool { return x >= r.Least && x <= r.Most }

// Check refuses a value outside the range, by the name of its field.
func (r Range) Check(field string, x float64) error {
	if r.Holds(x) {
		return nil
	}
	return &RangeError{field, x, r}
}

// RangeError is a value outside its range.
type RangeError struct {
	Field string
	Value float64
	Range Range
}

func (e *RangeError) Error() string {
	return fmt.Sprintf("%s is %g %s; give %g to %g", e.Field, e.Value, e.Range.Unit, e.Range.Least, e.Range.Most)
}
