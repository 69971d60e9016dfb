package landing

import (
	"cinderpath/core/form"
	"fmt"
)

// laid is what lies of some layers on the texels of a panel, the most of any; nothing where there
// is none.
func (s *Site) laid(panel int, names []string, out []float32) {
	clear(out)
	if s.Laid == nil {
		return
	}
	t := s.Grid.Texels[panel]
	for _, n := range names {
		field := s.Laid(n)
		if field == nil {
			continue
		}
		for k, v := range own(t, field) {
			out[k] = max(out[k], v)
		}
	}
}

// on lands where layers lie.
type on []string

func (l on) On(s *Site, panel int, _ uint64, out []float32) { s.laid(panel, l, out) }

// border lands where layers end, within a width.
type border struct {
	of    []string
	width float64
}

func (b border) On(s *Site, panel int, _ uint64, out []float32) {
	s.laid(panel, b.of, out)
	t := s.Grid.Texels[panel]
	r := max(int(b.width/2/t.Step), 1)
	blurred(out, t.NX, t.NY, r)
	fill(t, out, func(k int) float32 { return 4 * out[k] * (1 - out[k]) })
}

// blurred takes means over squares so many texels each way, rows first.
func blurred(v []float32, nx, ny, r int) {
	line := make([]float32, max(nx, ny))
	pass := func(n int, at func(i int) *float32) {
		for i := range n {
			line[i] = *at(i)
		}
		for i := range n {
			from, to := max(i-r, 0), min(i+r, n-1)
			sum := float32(0)
			for k := from; k <= to; k++ {
				sum += line[k]
			}
			*at(i) = sum / float32(to-from+1)
		}
	}
	for j := range ny {
		pass(nx, func(i int) *float32 { return &v[j*nx+i] })
	}
	for i := range nx {
		pass(ny, func(j int) *float32 { return &v[j*nx+i] })
	}
}

// Softened takes the steps off the rim of what covers some texels of a panel: each becomes the mean
// of those about it that the panel covers.
func Softened(t *form.Texels, cover []float32) {
	was := append([]float32(nil), cover...)
	fill(t, cover, func(k int) float32 {
		i, j := k%t.NX, k/t.NX
		sum, n := float32(0), float32(0)
		for b := max(j-1, 0); b <= min(j+1, t.NY-1); b++ {
			for a := max(i-1, 0); a <= min(i+1, t.NX-1); a++ {
				if o := b*t.NX + a; t.Area[o] > 0 {
					sum, n = sum+was[o], n+1
				}
			}
		}
		return sum / n
	})
}

// stains run down from what is of some kinds: a field, where other things are added.
type stains struct {
	kinds []string
	reach float64
}

// stainWidth is how wide a stain is where it starts, real mm.
const stainWidth = 60.0

// On follows a few drops from the lower rim of each block.
func (f stains) On(s *Site, panel int, seed uint64, out []float32) {
	name := fmt.Sprint("stains ", f.kinds, f.reach, seed)
	copy(out, own(s.Grid.Texels[panel], kept(s, name, func() []float32 {
		cover := make([]float32, s.Grid.Count)
		const drops = 4
		for n, b := range s.blocks(f.kinds) {
			for k := range uint64(drops) {
				h := form.Hash(seed ^ form.Hash(uint64(n)<<8|k))
				at := b.low
				for a := range 2 {
					at[a] += (b.high[a] - b.low[a]) * form.Unit(form.Hash(h^uint64(a)))
				}
				first, flat := s.nearest(-1, at, b.high.Sub(b.low).Length())
				if first < 0 || stands(s.Panels[first]) || s.Panels[first].Normal[2] < hangs {
					continue
				}
				long := f.reach * (0.4 + 0.6*form.Unit(form.Hash(h^7)))
				for _, r := range s.trail(first, flat[0], flat[1], long) {
					m := r.mark(h, stainWidth, long)
					t := s.Grid.Texels[r.panel]
					m.onto(t, own(t, cover))
				}
			}
		}
		return cover
	})))
}
