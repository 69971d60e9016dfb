package scheme

import (
	"cmp"
	"math"
	"slices"
	"sync"

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
	var lock sync.Mutex
	n := len(l.grid.Texels)
	panels := make([][]Told, n)
	middle := make([][][]ridge, n)
	form.Each(n, func(i int) {
		t := l.grid.Texels[i]
		if zone.Bare(t.Zone) {
			return
		}
		panels[i], middle[i] = l.tellPanel(i, t)
	})
	lock.Lock()
	defer lock.Unlock()
	for i, t := range l.grid.Texels {
		for c, of := range panels[i] {
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
			s.Fields += of.Fields
			s.Runs += of.Runs
			ridges[k] = append(ridges[k], middle[i][c]...)
		}
	}
	out := []Told{}
	for k, s := range sums {
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

// tellPanel reads one panel.
func (l *Layout) tellPanel(i int, t *form.Texels) ([]Told, [][]ridge) {
	n := len(l.Shares)
	told, middle := make([]Told, n), make([][]ridge, n)
	many := false
	first := -1
	for k, a := range t.Area {
		if a == 0 {
			continue
		}
		c := int(l.Taken[t.First+k])
		told[c].Area += float64(a)
		many = many || first >= 0 && c != first
		first = c
	}
	if !many {
		if first >= 0 {
			told[first].Fields = 1
		}
		return told, middle
	}
	for _, s := range l.Edges(i) {
		told[s.Above].Edge += s.Length()
	}
	l.count(t, told)
	far := l.away(t)
	for c := range n {
		if told[c].Area > 0 {
			middle[c] = l.ridges(t, far, c)
		}
	}
	return told, middle
}

// count finds the fields of each colour on a panel.
func (l *Layout) count(t *form.Texels, told []Told) {
	seen := make([]bool, len(t.Area))
	var stack []int
	for start, a := range t.Area {
		if a == 0 || seen[start] {
			continue
		}
		c := l.Taken[t.First+start]
		told[c].Fields++
		stack = append(stack[:0], start)
		seen[start] = true
		for len(stack) > 0 {
			k := stack[len(stack)-1]
			stack = stack[:len(stack)-1]
			x, y := k%t.NX, k/t.NX
			for _, d := range [4][2]int{{1, 0}, {-1, 0}, {0, 1}, {0, -1}} {
				i, j := x+d[0], y+d[1]
				if i < 0 || j < 0 || i >= t.NX || j >= t.NY {
					continue
				}
				if o := j*t.NX + i; t.Area[o] > 0 && !seen[o] && l.Taken[t.First+o] == c {
					seen[o] = true
					stack = append(stack, o)
				}
			}
		}
	}
}

// away is how far each texel lies from the nearest one of another colour, in texels, less one
// half; beside the panel nothing ends. Exact, by rows and columns of lowest parabolas
// (Felzenszwalb and Huttenlocher).
func (l *Layout) away(t *form.Texels) []float64 {
	n := len(t.Area)
	out := make([]float64, n)
	for k := range out {
		out[k] = math.Inf(1)
	}
	colours := map[uint8]bool{}
	for k, a := range t.Area {
		if a > 0 {
			colours[l.Taken[t.First+k]] = true
		}
	}
	line := make([]float64, max(t.NX, t.NY))
	d := make([]float64, n)
	e := newEnvelope(max(t.NX, t.NY))
	for c := range colours {
		for k, a := range t.Area {
			d[k] = 1e12
			if a > 0 && l.Taken[t.First+k] != c {
				d[k] = 0
			}
		}
		for x := range t.NX {
			for y := range t.NY {
				line[y] = d[y*t.NX+x]
			}
			e.lower(line[:t.NY])
			for y := range t.NY {
				d[y*t.NX+x] = line[y]
			}
		}
		for y := range t.NY {
			e.lower(d[y*t.NX : (y+1)*t.NX])
		}
		for k, a := range t.Area {
			if a > 0 && l.Taken[t.First+k] == c {
				out[k] = math.Sqrt(d[k]) - 0.5
			}
		}
	}
	return out
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

// ridges are the texels on the middle line of a colour's fields. A texel is on it where none
// around it lies much farther from the edge.
func (l *Layout) ridges(t *form.Texels, far []float64, c int) (out []ridge) {
	is := func(i, j int) (float64, bool) {
		if i < 0 || j < 0 || i >= t.NX || j >= t.NY {
			return 0, false
		}
		k := j*t.NX + i
		return far[k], t.Area[k] > 0 && int(l.Taken[t.First+k]) == c && !math.IsInf(far[k], 1) && far[k] < 1e5
	}
	for j := range t.NY {
		for i := range t.NX {
			d, ok := is(i, j)
			if !ok {
				continue
			}
			on := true
			for dj := -reachOf; dj <= reachOf && on; dj++ {
				for di := -reachOf; di <= reachOf; di++ {
					if di == 0 && dj == 0 {
						continue
					}
					o, inside := is(i+di, j+dj)
					if !inside && t.NX > 0 { // at the panel's rim nobody knows how wide it goes on
						if beside(t, i+di, j+dj) {
							on = false
							break
						}
						continue
					}
					if (o-d)/math.Hypot(float64(di), float64(dj)) > slope {
						on = false
						break
					}
				}
			}
			if on {
				x, y := t.X0+(float64(i)+0.5)*t.Step, t.Y0+(float64(j)+0.5)*t.Step
				out = append(out, ridge{2 * d * t.Step, t.Space(x, y)})
			}
		}
	}
	return out
}

func beside(t *form.Texels, i, j int) bool {
	return i < 0 || j < 0 || i >= t.NX || j >= t.NY || t.Area[j*t.NX+i] == 0
}
