package strata

import (
	"errors"
	"fmt"
	"slices"
)

// Edit is one change to a stack: insert Layer before (or, with no Before, on top),
// change the layer with Layer's id, move it before another, or drop it.
type Edit struct {
	Op     string `json:"op"` // insert, change, move, drop
	Layer  *Layer `json:"layer,omitempty"`
	ID     string `json:"id,omitempty"`
	Before string `json:"before,omitempty"`
}

// Apply makes the edits on a copy of the stack. newID names inserted layers that
// have no id yet. An edit that speaks of a missing layer is refused.
func Apply(stack []Layer, edits []Edit, newID func() string) ([]Layer, error) {
	out := slices.Clone(stack)
	index := func(id string) int { return slices.IndexFunc(out, func(l Layer) bool { return l.ID == id }) }
	place := func(l Layer, before string) error {
		at := len(out)
		if before != "" {
			if at = index(before); at < 0 {
				return fmt.Errorf("there is no layer %s to go before; it was removed meanwhile", before)
			}
		}
		out = slices.Insert(out, at, l)
		return nil
	}
	for _, e := range edits {
		switch e.Op {
		case "insert":
			if e.Layer == nil {
				return nil, errors.New("insert needs a layer; give one")
			}
			l := *e.Layer
			if l.ID == "" {
				l.ID = newID()
			}
			if err := l.Check(); err != nil {
				return nil, err
			}
			if index(l.ID) >= 0 {
				return nil, fmt.Errorf("layer %s is in the stack already", l.Name)
			}
			if err := place(l, e.Before); err != nil {
				return nil, err
			}
		case "change":
			if e.Layer == nil || index(e.Layer.ID) < 0 {
				return nil, fmt.Errorf("the layer to change is not in the stack; it was removed meanwhile")
			}
			if err := e.Layer.Check(); err != nil {
				return nil, err
			}
			out[index(e.Layer.ID)] = *e.Layer
		case "move", "drop":
			at := index(e.ID)
			if at < 0 {
				return nil, fmt.Errorf("the layer to %s is not in the stack; it was removed meanwhile", e.Op)
			}
			l := out[at]
			out = slices.Delete(out, at, at+1)
			if e.Op == "move" {
				if err := place(l, e.Before); err != nil {
					return nil, err
				}
			}
		default:
			return nil, fmt.Errorf("%q is not an edit of a stack; use insert, change, move or drop", e.Op)
		}
	}
	return out, nil
}
