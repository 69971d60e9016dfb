package paint

import "cinderpath/core/colour"

// Laid is a layer over some texels: its film on each, µm.
type Laid struct {
	Pigment Pigment
	Film    []Film
	Loose   bool
}

// unchanged is a difference below which a layer was not seen where it was laid, ΔE00.
const unchanged = 0.5

// Survival tells of each layer how much of it is still seen at the end: over the texels
// where it was seen when it was laid, weighted by area, the mean of min(1, ΔE00 that it
// makes at the end / ΔE00 that it made at first); seen is false where it was seen nowhere.
// Ends are the colours of the texels at the end. All colours are seen through one skin.
func Survival(
	ground colour.Bands,
	layers []Laid,
	area []float64,
	skin colour.Sheen,
) (parts []Survives, ends []colour.Lab) {
	parts, ends = make([]Survives, len(layers)), make([]colour.Lab, len(area))
	weights := make([]float64, len(layers))
	for at, a := range area {
		on := func(k, without int) colour.Lab {
			films := make([]Coat, 0, k)
			for i, l := range layers[:k] {
				if i != without && l.Film[at] > 0 {
					films = append(films, Coat{l.Pigment, l.Film[at], l.Loose})
				}
			}
			over := Seen(skin, films...)
			return over.Lab(ground)
		}
		ends[at] = on(len(layers), -1)
		for k := range layers {
			first := colour.Difference(on(k+1, -1), on(k, -1))
			if first < unchanged {
				continue
			}
			last := colour.Difference(ends[at], on(len(layers), k))
			parts[k].Texels++
			parts[k].Part += a * min(1, last/first)
			parts[k].Difference += a * last
			weights[k] += a
		}
	}
	for k, w := range weights {
		if w > 0 {
			parts[k].Part, parts[k].Difference, parts[k].Seen = parts[k].Part/w, parts[k].Difference/w, true
		}
	}
	return parts, ends
}

// Survives is how much of a layer is seen at the end.
type Survives struct {
	Part       float64
	Difference float64 // mean ΔE00 that it makes at the end
	Seen       bool    // when it was laid
	Texels     int     // where it was
}
