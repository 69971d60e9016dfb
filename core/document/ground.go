package document

import (
	"cinderpath/core/base"
	"cinderpath/core/strata"
)

// StandsOn is the base of a build: its own, or a usual one on the ground that it drove on.
func (b Build) StandsOn() base.Base {
	if b.Base == nil {
		return base.Usual(b.Life["ground"])
	}
	return *b.Base
}

// OnBase tells whether the vehicle is shown on a base of its own.
func (b Build) OnBase() bool { return b.School(SchoolDisplay) == OnABase }

// EarthLayer is the layer whose earth lies on the base as well: the thickest that there is.
func (b Build) EarthLayer() (best strata.Layer, ok bool) {
	rank := map[strata.Kind]int{strata.Mud: 3, strata.Pigment: 2, strata.Dust: 1}
	for _, l := range b.Layers {
		if rank[l.Kind] > rank[best.Kind] {
			best, ok = l, true
		}
	}
	return best, ok
}
