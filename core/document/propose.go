package document

import (
	"cinderpath/core/measure"
	"cinderpath/core/paint"
	"cinderpath/core/strata"
)

// propose puts in the layers that follow from what the vehicle went through.
func propose(b *Build, _ Edit, m means) error {
	if m.now.Proposed == nil {
		return measure.Refuse(Propose, "what follows from its life is not at hand here", "open it in the program")
	}
	return restacked(b, m.now.Proposed)
}

// temporary puts a winter wash over scheme and markings.
func temporary(b *Build, _ Edit, m means) error {
	if m.now.Temporary == nil {
		return measure.Refuse(Temporary, "its surface is not at hand here", "open it in the program")
	}
	return restacked(b, m.now.Temporary)
}

// restacked gives a build the stack that was worked out for it.
func restacked(b *Build, by func(Build) ([]strata.Layer, error)) error {
	layers, err := by(*b)
	if err != nil {
		return err
	}
	for i := range layers { // what is known of jar and life is filled in anew each time
		layers[i].Pot, layers[i].Lived, layers[i].Drawn, layers[i].Spares = paint.Pot{}, strata.Lived{}, nil, strata.Spares{}
		layers[i].Rubber = ""
	}
	b.Layers = layers
	return nil
}

// tracks puts in what tracks get of their own.
func tracks(b *Build, _ Edit, m means) error {
	if m.now.Tracks == nil {
		return measure.Refuse(Tracks, "its surface is not at hand here", "open it in the program")
	}
	return restacked(b, m.now.Tracks)
}
