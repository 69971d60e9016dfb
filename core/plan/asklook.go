package plan

import (
	"cmp"
	"slices"

	"cinderpath/core/unit"
)

// LookAnswer is what a build looks like on its way: the mean colour of each zone after each thing that
// is laid.
type LookAnswer struct {
	Coats []LookedCoat `json:"coats"`
}

// LookedCoat is one of them.
type LookedCoat struct {
	Layer  string            `json:"layer"`
	Colour int               `json:"colour,omitempty"` // of the scheme, the first is 1
	Name   string            `json:"name"`
	Zones  map[string]string `json:"zones"` // mean colour seen, by zone
}

// LookOf answers for a plan.
func (d *Deriver) LookOf(p Plan) (LookAnswer, error) {
	out := LookAnswer{Coats: []LookedCoat{}}
	all, _, err := d.named(p.Last())
	if err != nil {
		return out, err
	}
	h, err := d.heapOf(all.build, all.coats, nil)
	if err != nil {
		return out, err
	}
	pile, coats, err := h.pile()
	if err != nil {
		return out, err
	}
	for ply, means := range pile.Means() {
		if ply+1 < len(coats) && coats[ply+1] == coats[ply] {
			continue // more of the same coat comes on top
		}
		c := h.coats[coats[ply]]
		one := LookedCoat{Layer: c.layer.ID, Colour: c.colour, Name: c.layer.Name, Zones: map[string]string{}}
		for z, hex := range means {
			one.Zones[pile.Zones[z]] = hex.Hex()
		}
		out.Coats = append(out.Coats, one)
	}
	return out, nil
}

// WorthAnswer is what each layer is worth, the least first.
type WorthAnswer struct {
	Layers []WorthLine `json:"layers"`
}

// WorthLine is one of them.
type WorthLine struct {
	Layer   string       `json:"layer"`
	Colour  int          `json:"colour,omitempty"`
	Name    string       `json:"name"`
	Minutes unit.Minutes `json:"min"`
	Adds    float64      `json:"adds"`  // mean ΔE00 that it adds at the end, over the whole vehicle
	Worth   float64      `json:"worth"` // of that, for ten minutes of work
}

// Lines gives what the layers are worth.
func (s Survival) Lines() WorthAnswer {
	out := WorthAnswer{Layers: []WorthLine{}}
	for _, f := range s.Fates {
		out.Layers = append(out.Layers, WorthLine{f.Layer, f.Colour, f.Name, f.Minutes, f.Adds, f.Worth})
	}
	slices.SortStableFunc(out.Layers, func(a, b WorthLine) int { return cmp.Compare(a.Worth, b.Worth) })
	return out
}
