package plan

import (
	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/length"
	"cinderpath/core/look"
	"cinderpath/core/zone"
)

// Solid is the vehicle for turning in space, model mm, y up and x forward as drawing
// programs have it: triangles with the place of their corners on the sheet that they wear,
// how bright they are, and the edges that are drawn.
type Solid struct {
	Positions []float32  `json:"positions"` // x, y, z of each corner
	Normals   []float32  `json:"normals"`
	Lights    []float32  `json:"lights"` // of each triangle, 0 to 1
	UVs       []float32  `json:"uvs"`    // place on the sheet, 0 to 1 from its upper left
	Zones     []string   `json:"zones"`  // names
	Words     []string   `json:"words"`  // the names as people say them
	Of        []int      `json:"of"`     // zone of each triangle
	Edges     []float32  `json:"edges"`  // x, y, z of both ends of each; none of wheels and tracks
	Low       [3]float64 `json:"low"`    // of the box about it
	High      [3]float64 `json:"high"`
}

// Solid derives the turning vehicle of a build. What it wears are the pictures of the side
// Worn.
func (d *Deriver) Solid(b document.Build) (Solid, error) {
	s, err := d.surface(b)
	if err != nil {
		return Solid{}, err
	}
	return stage(d, "solid", s.drawing, func() (Solid, error) {
		g, err := d.grid(b, s)
		if err != nil {
			return Solid{}, err
		}
		return solidOf(s.panels, g, look.NewSheet(g), b.Scale), nil
	})
}

func solidOf(panels []*form.Panel, g *form.Grid, sheet look.Sheet, scale length.Scale) Solid {
	n := float64(scale)
	out := Solid{Zones: []string{}, Words: []string{}}
	number := map[string]int{}
	space := func(v form.Vec) [3]float32 {
		return [3]float32{float32(v[0] / n), float32(v[2] / n), float32(-v[1] / n)}
	}
	low, high, _ := form.Extent(panels, func(string) bool { return true })
	for k := range 3 {
		a, b := space(low), space(high)
		out.Low[k], out.High[k] = float64(min(a[k], b[k])), float64(max(a[k], b[k]))
	}
	drawn := map[[2][3]float32]bool{}
	for i, p := range panels {
		of, known := number[p.Zone]
		if !known {
			of = len(out.Zones)
			number[p.Zone] = of
			out.Zones, out.Words = append(out.Zones, p.Zone), append(out.Words, zone.Words(p.Zone))
		}
		normal := space(form.Vec{p.Normal[0] * n, p.Normal[1] * n, p.Normal[2] * n})
		for _, piece := range p.Pieces {
			for k := 1; k+1 < len(piece); k++ {
				for _, c := range []int{0, k, k + 1} {
					at := space(piece[c])
					u, v := sheet.At(g, i, p.Flat(piece[c]))
					out.Positions, out.Normals, out.UVs = append(
						out.Positions,
						at[:]...), append(
						out.Normals,
						normal[:]...), append(
						out.UVs,
						float32(u),
						float32(v),
					)
				}
				out.Of, out.Lights = append(out.Of, of), append(out.Lights, float32(look.Lit(p.Normal)))
			}
		}
		if zone.OnGear(p.Zone) { // so many of them: the sheet shows them instead
			continue
		}
		for _, l := range p.Lines {
			a, b := space(l.A), space(l.B)
			if l.Smooth || l.Slight(p) || drawn[[2][3]float32{b, a}] {
				continue
			}
			drawn[[2][3]float32{a, b}] = true
			out.Edges = append(out.Edges, a[0], a[1], a[2], b[0], b[1], b[2])
		}
	}
	return out
}
