package document

import (
	"slices"

	"cinderpath/core/measure"
	"cinderpath/core/strata"
)

// propose puts in the layers that follow from what the vehicle went through.
func propose(b *Build, _ Edit, m means) error {
	if m.now.Proposed == nil {
		return measure.Refuse(Propose, "what follows from its life is not at hand here", "open it in the program")
	}
	return restacked(b, m.now.Proposed)
}

// Off asks that something be taken off again.
const Off = "off"

// temporary puts a winter wash over scheme and markings; where Text says off it takes the one that is there
// away, with what came with it.
func temporary(b *Build, e Edit, m means) error {
	if e.Text == Off {
		return b.untemporary(m)
	}
	if m.now.Temporary == nil {
		return measure.Refuse(Temporary, "its surface is not at hand here", "open it in the program")
	}
	return restacked(b, m.now.Temporary)
}

// wornOtherwise lays a temporary paint that is still to come anew, as one's school has it now.
func (b *Build) wornOtherwise(m means) error {
	b.Layers = slices.Clone(b.Layers)
	strata.Stacked(b.Layers)
	at := slices.IndexFunc(b.Layers, strata.Layer.Temporary)
	if at < 0 || m.now.Temporary == nil || laid(m, b.Layers[at]) {
		return nil
	}
	if err := b.untemporary(m); err != nil {
		return err
	}
	return restacked(b, m.now.Temporary)
}

// untemporary takes a temporary paint out of the stack, with its chipping coat and what wears it.
func (b *Build) untemporary(m means) error {
	b.Layers = slices.Clone(b.Layers)
	strata.Stacked(b.Layers)
	at := slices.IndexFunc(b.Layers, strata.Layer.Temporary)
	if at < 0 {
		return measure.Refuse("layers", "there is no temporary paint on it", "put one on first")
	}
	if laid(m, b.Layers[at]) {
		return measure.Refuse("layers", b.Layers[at].Name+" is on the model already", "log a mishap where it is to come off")
	}
	low, high := at, at+1
	if at > 0 && b.Layers[at-1].Kind == strata.ChippingCoat {
		low--
	}
	if high < len(b.Layers) && (b.Layers[high].Kind == strata.ChippingWork || b.Layers[high].Kind == strata.Rubbed) {
		high++
	}
	layers := slices.Delete(b.Layers, low, high)
	return restacked(b, func(Build) ([]strata.Layer, error) { return layers, nil })
}

// restacked gives a build the stack that was worked out for it.
func restacked(b *Build, by func(Build) ([]strata.Layer, error)) error {
	layers, err := by(*b)
	if err != nil {
		return err
	}
	for i, l := range layers {
		layers[i] = l.AsTyped() // what is filled in is filled in anew each time
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
