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
	layers, err := m.now.Proposed(*b)
	if err != nil {
		return err
	}
	for i := range layers { // what is known of jar and life is filled in anew each time
		layers[i].Pot, layers[i].Lived = paint.Pot{}, strata.Lived{}
	}
	b.Layers = layers
	return nil
}
