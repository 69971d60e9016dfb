package form

import "math"

// Window is a part of a panel's texels: columns and rows, the last of each left out.
type Window struct{ I0, I1, J0, J1 int }

// rim is by how many texels a window reaches beyond what is seen.
const rim = 2

// Windows are the parts of the panels' texels that show in a box of a view, by panel.
func (s *Sight) Windows(box Box, g *Grid) map[int]Window {
	const across = 240 // points looked at
	r := s.Raster(box, math.Max(box.Width, box.Height)/across)
	out := map[int]Window{}
	for n, p := range r.Panel {
		if p < 0 {
			continue
		}
		t := g.Texels[p]
		u, v := s.Flats[p].At(r.X+float64(n%r.NX)*r.Step, r.Y+float64(n/r.NX)*r.Step)
		i, j := int(math.Floor((u-t.X0)/t.Step)), int(math.Floor((v-t.Y0)/t.Step))
		w, known := out[int(p)]
		if !known {
			w = Window{I0: t.NX, J0: t.NY}
		}
		// Between two points that are looked at lies more than one texel from afar.
		reach := rim + int(math.Ceil(r.Step*s.steep(int(p))/t.Step))
		w.I0, w.I1 = max(min(w.I0, i-reach), 0), min(max(w.I1, i+1+reach), t.NX)
		w.J0, w.J1 = max(min(w.J0, j-reach), 0), min(max(w.J1, j+1+reach), t.NY)
		out[int(p)] = w
	}
	return out
}

// steep is how far one goes on a panel, at most, in a step of the view.
func (s *Sight) steep(panel int) float64 {
	a := s.Flats[panel]
	return math.Max(math.Hypot(a[1], a[4]), math.Hypot(a[2], a[5]))
}

// Finer are the texels of some windows, so many times finer each way; other panels have none. What part
// of a texel its panel covers is that of the one it lies in; how far edges are is not known.
func (g *Grid) Finer(windows map[int]Window, times int) *Grid {
	out := &Grid{Step: g.Step / float64(times), Texels: make([]*Texels, len(g.Texels)), Area: g.Area, Facings: g.Facings}
	for p, t := range g.Texels {
		w := windows[p]
		f := &Texels{
			Plane: t.Plane, Zone: t.Zone, First: out.Count, Step: out.Step,
			X0: t.X0 + float64(w.I0)*t.Step, Y0: t.Y0 + float64(w.J0)*t.Step,
			NX: max(w.I1-w.I0, 0) * times, NY: max(w.J1-w.J0, 0) * times,
		}
		f.Area = make([]float32, f.NX*f.NY)
		for k := range f.Area {
			from := (w.J0+k/f.NX/times)*t.NX + w.I0 + k%f.NX/times
			f.Area[k] = t.Area[from] / float32(times*times)
		}
		out.Texels[p] = f
		out.Count += len(f.Area)
	}
	return out
}
