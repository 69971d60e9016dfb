package document

import (
	"cinderpath/core/form"
	"cinderpath/core/length"
)

// Place is where on the vehicle something is put.
type Place struct {
	What string     `json:"what"` // the kind of fitting, or a face's new zone
	On   string     `json:"on,omitempty"`
	At   [3]float64 `json:"at"` // model mm
}

func (p Place) point(scale length.Scale) (v form.Vec) {
	for k := range 3 {
		v[k] = float64(scale.ToReal(length.Model(p.At[k])))
	}
	return v
}
