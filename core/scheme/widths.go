package scheme

import (
	"cmp"
	"math"
	"slices"

	"cinderpath/core/form"
	"cinderpath/core/zone"
)

// ridge is a place on the middle line of a field.
type ridge struct {
	width float64
	at    form.Vec
}

// Tell reads edges, fields and widths of all colours from the texels.
func (l *Layout) Tell() []Told {
	type key struct {
		colour int
		zone   string
	}
	sums, ridges := map[key]*Told{}, map[key][]ridge{}
	n := len(l.grid.Texels)
	read := make([]panelTold, n)
	form.Each(n, func(i int) {
		if t := l.grid.Texels[i]; !zone.Bare(t.Zone) {
			read[i] = l.tellPanel(i, t)
		}
	})
	joined := l.join(read)
	for i, t := range l.grid.Texels {
		for c, of := range read[i].told {
			if of.Area == 0 {
				continue
			}
			k := key{c, t.Zone}
			if sums[k] == nil {
				sums[k] = &Told{Colour: c, Zone: t.Zone}
			}
			s := sums[k]
			s.Area += of.Area
			s.Edge += of.Edge
			if of.Over != nil && s.Over == nil {
				s.Over = make([]float64, len(of.Over))
			}
			for below, edge := range of.Over {
				s.Over[below] += edge
			}
			ridges[k] = append(ridges[k], read[i].middle[c]...)
		}
		for k, c := range read[i].colours {
			if s := sums[key{int(c), t.Zone}]; s != nil {
				s.Fields = append(s.Fields, joined.root(read[i].first+k))
			}
		}
	}
	out := []Told{}
	for k, s := range sums {
		slices.Sort(s.Fields)
		s.Fields = slices.Compact(s.Fields)
		if r := ridges[k]; len(r) > 0 {
			slices.SortFunc(r, func(a, b ridge) int {
				return cmp.Or(cmp.Compare(a.width, b.width), slices.Compare(a.at[:], b.at[:]))
			})
			low := r[len(r)/20]
			s.Least, s.At = low.width, low.at
		}
		out = append(out, *s)
	}
	slices.SortFunc(out, func(a, b Told) int {
		return cmp.Or(cmp.Compare(a.Colour, b.Colour), cmp.Compare(a.Zone, b.Zone))
	})
	return out
}

// panelTold is what is read from one panel.
type panelTold struct {
	told    []Told    // by colour
	middle  [][]ridge // by colour
	first   int       // number of its first field
	colours []uint8   // of its fields
	rim     []rimTexel
	of      []int32 // by texel: its field
}

// rimTexel is a texel at a panel's rim: its field may go on beyond.
type rimTexel struct {
	cell  [3]int32
	field int // of the panel
}

// fields are joined over the edges of panels.
type fields []int

func (f fields) root(i int) int {
	for f[i] != i {
		i = f[i]
	}
	return i
}

// join numbers all fields and joins those that go on over an edge.
func (l *Layout) join(read []panelTold) fields {
	var all fields
	for i := range read {
		read[i].first = len(all)
		for range read[i].colours {
			all = append(all, len(all))
		}
	}
	at := map[[3]int32][]int{}
	for i := range read {
		p := &read[i]
		for _, r := range p.rim {
			f := p.first + r.field
			for dx := int32(-1); dx <= 1; dx++ {
				for dy := int32(-1); dy <= 1; dy++ {
					for dz := int32(-1); dz <= 1; dz++ {
						for _, o := range at[[3]int32{r.cell[0] + dx, r.cell[1] + dy, r.cell[2] + dz}] {
							if a, b := all.root(f), all.root(o); a != b && l.colourOf(read, o) == p.colours[r.field] {
								all[max(a, b)] = min(a, b)
							}
						}
					}
				}
			}
		}
		for _, r := range p.rim {
			if f := p.first + r.field; !slices.Contains(at[r.cell], f) {
				at[r.cell] = append(at[r.cell], f)
			}
		}
	}
	return all
}

func (l *Layout) colourOf(read []panelTold, field int) uint8 {
	i, found := slices.BinarySearchFunc(read, field, func(p panelTold, f int) int { return cmp.Compare(p.first, f) })
	if !found {
		i--
	}
	for len(read[i].colours) == 0 || field >= read[i].first+len(read[i].colours) {
		i++
	}
	return read[i].colours[field-read[i].first]
}

// tellPanel reads one panel.
func (l *Layout) tellPanel(i int, t *form.Texels) panelTold {
	n := len(l.Shares)
	out := panelTold{told: make([]Told, n), middle: make([][]ridge, n)}
	many := make([]bool, n) // which colours have an edge here
	own := make([]int, n)
	covered := 0
	for k, a := range t.Area {
		if a == 0 {
			continue
		}
		covered++
		out.told[l.Taken[t.First+k]].Area += float64(a)
		for c := 1; c < n; c++ {
			if l.own(c, t.First+k) {
				own[c]++
			}
		}
	}
	if covered == 0 {
		return out
	}
	l.count(t, &out)
	for c := 1; c < n; c++ {
		many[c] = own[c] > 0 && own[c] < covered
	}
	if !slices.Contains(many, true) {
		return out
	}
	for _, s := range l.Edges(i) {
		out.told[s.Above].Edge += s.Length()
		if out.told[s.Above].Over == nil {
			out.told[s.Above].Over = make([]float64, n)
		}
		out.told[s.Above].Over[s.Below] += s.Length()
	}
	for c := 1; c < n; c++ {
		if many[c] {
			out.middle[c] = l.middleLines(t, c)
		}
	}
	return out
}

// own tells whether a colour's own field lies on a texel, whatever is sprayed over it later.
func (l *Layout) own(c, at int) bool { return l.Cover[c] != nil && l.Cover[c][at] >= 128 }

// count finds the fields on a panel.
func (l *Layout) count(t *form.Texels, out *panelTold) {
	out.of = make([]int32, len(t.Area))
	for k := range out.of {
		out.of[k] = none
	}
	var stack []int
	for start, a := range t.Area {
		if a == 0 || out.of[start] != none {
			continue
		}
		c := l.Taken[t.First+start]
		field := len(out.colours)
		out.colours = append(out.colours, c)
		stack = append(stack[:0], start)
		out.of[start] = int32(field)
		for len(stack) > 0 {
			k := stack[len(stack)-1]
			stack = stack[:len(stack)-1]
			x, y := k%t.NX, k/t.NX
			rim := false
			for _, d := range [4][2]int{{1, 0}, {-1, 0}, {0, 1}, {0, -1}} {
				i, j := x+d[0], y+d[1]
				if beside(t, i, j) {
					rim = true
					continue
				}
				if o := j*t.NX + i; out.of[o] == none && l.Taken[t.First+o] == c {
					out.of[o] = int32(field)
					stack = append(stack, o)
				}
			}
			if rim {
				p := t.Point(k)
				var cell [3]int32
				for q := range 3 {
					cell[q] = int32(math.Floor(p[q] / (1.5 * t.Step)))
				}
				if r := (rimTexel{cell, field}); len(out.rim) == 0 || out.rim[len(out.rim)-1] != r {
					out.rim = append(out.rim, r)
				}
			}
		}
	}
}

// raster tells of a rectangle of squares, row by row, which are of a field.
type raster struct {
	wide int
	of   []uint8
}

// What a raster tells of a square.
const (
	nobodyKnows = iota // beside the surface, hidden, or under what lies over the field
	another
	inField
)

// raster of a colour's own fields on a panel; beside the panel nobody knows.
func (l *Layout) raster(t *form.Texels, c int) raster {
	r := raster{t.NX, make([]uint8, len(t.Area))}
	for k, a := range t.Area {
		switch {
		case a == 0:
		case l.own(c, t.First+k):
			r.of[k] = inField
		default:
			r.of[k] = another
		}
	}
	return r
}

// away is how far each square lies from the nearest one that is not of the field, in squares, less one
// half; where nobody knows, nothing ends. Exact, by rows and columns of lowest parabolas (Felzenszwalb
// and Huttenlocher).
func (r raster) away() []float64 {
	high := len(r.of) / r.wide
	d := make([]float64, len(r.of))
	line := make([]float64, high)
	e := newEnvelope(max(r.wide, high))
	for k, of := range r.of {
		if d[k] = 1e12; of == another {
			d[k] = 0
		}
	}
	for x := range r.wide {
		for y := range high {
			line[y] = d[y*r.wide+x]
		}
		e.lower(line)
		for y := range high {
			d[y*r.wide+x] = line[y]
		}
	}
	for y := range high {
		e.lower(d[y*r.wide : (y+1)*r.wide])
	}
	for k := range d {
		d[k] = math.Sqrt(d[k]) - 0.5
	}
	return d
}

// envelope is room for the lowest parabolas of a line.
type envelope struct {
	at   []int
	from []float64
	was  []float64
}

func newEnvelope(n int) *envelope {
	return &envelope{make([]int, n), make([]float64, n+1), make([]float64, n)}
}

// lower replaces each value by the least of all others and the square of the way to them.
func (e *envelope) lower(f []float64) {
	n := len(f)
	copy(e.was, f)
	k := 0
	e.at[0], e.from[0], e.from[1] = 0, math.Inf(-1), math.Inf(1)
	for q := 1; q < n; q++ {
		s := e.meet(q, e.at[k])
		for s <= e.from[k] {
			k--
			s = e.meet(q, e.at[k])
		}
		k++
		e.at[k], e.from[k], e.from[k+1] = q, s, math.Inf(1)
	}
	k = 0
	for q := range n {
		for e.from[k+1] < float64(q) {
			k++
		}
		d := float64(q - e.at[k])
		f[q] = d*d + e.was[e.at[k]]
	}
}

func (e *envelope) meet(q, p int) float64 {
	return ((e.was[q] + float64(q*q)) - (e.was[p] + float64(p*p))) / float64(2*(q-p))
}

// slope at which the way to the edge rises along a middle line that runs into a tip or a corner:
// those are no widths.
const slope = 0.3

// reachOf is over how many texels a middle line's slope is looked at.
const reachOf = 2

// ridges are the squares on the middle line of fields, with how far they lie from the edge. A square is
// on it where none around it lies much farther from the edge; where nobody knows how wide a field goes on,
// there is none.
func (r raster) ridges() (at []int, far []float64) {
	all := r.away()
	high := len(r.of) / r.wide
	for j := range high {
		for i := range r.wide {
			k := j*r.wide + i
			if r.of[k] == inField && all[k] < 1e5 && r.middle(all, i, j) {
				at, far = append(at, k), append(far, all[k])
			}
		}
	}
	return at, far
}

// middle tells whether none around a square lies much farther from the edge.
func (r raster) middle(far []float64, i, j int) bool {
	d, high := far[j*r.wide+i], len(r.of)/r.wide
	for dj := -reachOf; dj <= reachOf; dj++ {
		for di := -reachOf; di <= reachOf; di++ {
			x, y := i+di, j+dj
			switch k := y*r.wide + x; {
			case di == 0 && dj == 0:
			case x < 0 || y < 0 || x >= r.wide || y >= high || r.of[k] == nobodyKnows:
				return false
			case r.of[k] == another || far[k] >= 1e5:
			case (far[k]-d)/math.Hypot(float64(di), float64(dj)) > slope:
				return false
			}
		}
	}
	return true
}

// middleLines are those of a colour's own fields on a panel.
func (l *Layout) middleLines(t *form.Texels, c int) (out []ridge) {
	at, far := l.raster(t, c).ridges()
	for n, k := range at {
		x, y := middleOf(t, k)
		out = append(out, ridge{2 * far[n] * t.Step, t.Space(x, y)})
	}
	return out
}

func beside(t *form.Texels, i, j int) bool {
	return i < 0 || j < 0 || i >= t.NX || j >= t.NY || t.Area[j*t.NX+i] == 0
}
