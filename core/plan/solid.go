package plan

import (
	"cmp"
	"math"
	"slices"
	"strings"

	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/length"
	"cinderpath/core/scheme"
)

// Solid is the vehicle for turning in space, model mm, y up and x forward as drawing
// programs have it: triangles with the place of their corners on one painted sheet, and
// the edges that are drawn.
type Solid struct {
	Positions []float32    `json:"positions"` // x, y, z of each corner
	Normals   []float32    `json:"normals"`
	UVs       []float32    `json:"uvs"`   // place on the sheet, 0 to 1 from its upper left
	Zones     []string     `json:"zones"` // names
	Of        []int        `json:"of"`    // zone of each triangle
	Edges     []float32    `json:"edges"` // x, y, z of both ends of each; none of wheels and tracks
	Sheet     float64      `json:"sheet"` // side of the square sheet, model mm
	Faces     []PaintSheet `json:"faces"` // what is painted where on it
	Low       [3]float64   `json:"low"`   // of the box about it
	High      [3]float64   `json:"high"`  //
}

// PaintSheet is a face laid on the sheet, model mm from its upper left.
type PaintSheet struct {
	Zone    string       `json:"zone"`
	Rings   []form.Ring  `json:"rings"`
	Patches []form.Patch `json:"patches,omitempty"`
}

// bleed is the room about a face on the sheet, so that its neighbours do not shine in.
const bleed = 0.6

// Solid derives the turning vehicle of a build.
func (d *Deriver) Solid(b document.Build, w document.Workshop) (Solid, error) {
	seen, err := d.look(b, w.Stock)
	if err != nil {
		return Solid{}, err
	}
	body, err := d.surface(b)
	if err != nil {
		return Solid{}, err
	}
	return stage(d, "solid", []any{body.key, b.Scale, b.Scheme}, func() (Solid, error) {
		return solidOf(seen.panels, seen.laid, b.Scale), nil
	})
}

// slot is a face's place on the sheet.
type slot struct {
	panel         int
	x0, y0        float64 // of its flat frame
	width, height float64
	x, y          float64 // on the sheet
}

func solidOf(panels []*form.Panel, laid *scheme.Layout, scale length.Scale) Solid {
	n := float64(scale)
	slots := make([]slot, len(panels))
	area := 0.0
	for i, p := range panels {
		x0, y0, x1, y1 := p.FlatBox()
		slots[i] = slot{panel: i, x0: x0, y0: y0, width: (x1-x0)/n + 2*bleed, height: (y1-y0)/n + 2*bleed}
		area += slots[i].width * slots[i].height
	}
	// On shelves, the highest first, on a square that grows until all fit.
	order := slices.Clone(slots)
	slices.SortStableFunc(order, func(a, b slot) int { return cmp.Compare(b.height, a.height) })
	side := math.Sqrt(area)
	for _, s := range order {
		side = max(side, s.width, s.height)
	}
	for !shelve(order, side) {
		side *= 1.04
	}
	for _, s := range order {
		slots[s.panel] = s
	}
	out := Solid{Sheet: side, Zones: []string{}, Faces: []PaintSheet{}}
	number := map[string]int{}
	space := func(v form.Vec) [3]float32 {
		return [3]float32{float32(v[0] / n), float32(v[2] / n), float32(-v[1] / n)}
	}
	drawn := map[[2][3]float32]bool{}
	low, high, _ := form.Extent(panels, func(string) bool { return true })
	for k := range 3 {
		a, b := space(low), space(high)
		out.Low[k], out.High[k] = float64(min(a[k], b[k])), float64(max(a[k], b[k]))
	}
	for i, p := range panels {
		s := slots[i]
		on := func(q [2]float64) [2]float64 {
			return [2]float64{s.x + bleed + (q[0]-s.x0)/n, s.y + bleed + (q[1]-s.y0)/n}
		}
		zone, known := number[p.Zone]
		if !known {
			zone = len(out.Zones)
			number[p.Zone] = zone
			out.Zones = append(out.Zones, p.Zone)
		}
		normal := space(form.Vec{p.Normal[0] * n, p.Normal[1] * n, p.Normal[2] * n})
		face := PaintSheet{Zone: p.Zone}
		for _, piece := range p.Pieces {
			var ring form.Ring
			for _, c := range piece {
				ring = append(ring, on(p.Flat(c)))
			}
			face.Rings = append(face.Rings, ring)
			for k := 1; k+1 < len(piece); k++ {
				for _, c := range []int{0, k, k + 1} {
					at := space(piece[c])
					out.Positions = append(out.Positions, at[:]...)
					out.Normals = append(out.Normals, normal[:]...)
					out.UVs = append(out.UVs, float32(ring[c][0]/side), float32(ring[c][1]/side))
				}
				out.Of = append(out.Of, zone)
			}
		}
		for _, region := range laid.Painted(p) {
			patch := form.Patch{Colour: region.Colour, Opacity: region.Opacity}
			for _, r := range region.Rings {
				ring := make(form.Ring, len(r))
				for k, q := range r {
					ring[k] = on(q)
				}
				patch.Rings = append(patch.Rings, ring)
			}
			face.Patches = append(face.Patches, patch)
		}
		out.Faces = append(out.Faces, face)
		for _, l := range p.Lines {
			a, b := space(l.A), space(l.B)
			if strings.HasPrefix(p.Zone, "gear.") { // so many of them: painted on the sheet instead
				break
			}
			if l.Smooth || l.Slight(p) || drawn[[2][3]float32{b, a}] {
				continue
			}
			drawn[[2][3]float32{a, b}] = true
			out.Edges = append(out.Edges, a[0], a[1], a[2], b[0], b[1], b[2])
		}
	}
	return out
}

// shelve lays faces, highest first, in rows on a square; false when they do not fit.
func shelve(order []slot, side float64) bool {
	x, y, row := 0.0, 0.0, 0.0
	for i := range order {
		s := &order[i]
		if x+s.width > side {
			x, y, row = 0, y+row, 0
		}
		s.x, s.y = x, y
		x += s.width
		row = max(row, s.height)
		if y+s.height > side {
			return false
		}
	}
	return true
}
