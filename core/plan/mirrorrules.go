package plan

import (
	"fmt"

	"cinderpath/core/form"
	"cinderpath/core/rule"
	"cinderpath/core/strata"
)

// alikeWithin is how near to its mirror image a mark is taken for one, as a share of its radius.
const alikeWithin = 0.35

// mirrored is W18: marks that a person set by hand on both sides, each the mirror image of the other.
func (r wearRuling) mirrored(l strata.Layer) (f strata.Finding, found bool) {
	moved, n := l, 0
	moved.Touches = append([]strata.Touch{}, l.Touches...)
	for i, right := range l.Touches {
		if right.What == strata.NoneHere || right.At[1] >= 0 {
			continue
		}
		for _, left := range l.Touches {
			if !isMirror(left, right) {
				continue
			}
			// One goes forward, the next back: what is moved together would be a pair again.
			along := 1.5 * right.Radius
			if n%2 == 1 {
				along = -along
			}
			moved.Touches[i] = shifted(right, form.Vec{along, 0, 0})
			n++
			break
		}
	}
	if n == 0 {
		return f, false
	}
	f = strata.Finding{
		Rule: "W18", Severity: rule.Hint,
		Title: fmt.Sprintf("%s mirrors itself: %d of its marks are in the same place on both sides", l.Name, n),
		Reason: "No vehicle wears alike on its left and its right; the eye sees a pair at once. " +
			"What lands by itself differs on both sides already.",
		Mends: []strata.Mend{change("apart", "Move those on the right along", moved)},
	}
	return f, true
}

// isMirror tells whether one mark is another, seen in the plane through the middle of the vehicle.
func isMirror(left, right strata.Touch) bool {
	near := func(a, b form.Vec) bool {
		off := form.Vec{a[0], -a[1], a[2]}.Sub(b)
		return off.Dot(off) <= alikeWithin*alikeWithin*right.Radius*right.Radius
	}
	switch {
	case left.At[1] <= 0 || left.What != right.What || (left.To == nil) != (right.To == nil):
		return false
	case left.To == nil:
		return near(left.At, right.At)
	}
	return near(left.At, right.At) && near(*left.To, *right.To) || near(left.At, *right.To) && near(*left.To, right.At)
}

func shifted(t strata.Touch, by form.Vec) strata.Touch {
	t.At = t.At.Plus(by)
	if t.To != nil {
		to := t.To.Plus(by)
		t.To = &to
	}
	return t
}
