package form

import (
	"cmp"
	"container/heap"
	"encoding/json"
	"math"
	"slices"
	"strconv"

	"cinderpath/core/length"
)

// Side names a view.
type Side string

// The five views. They are laid out so that neighbouring faces meet: the top lies
// above the left side, the front and the rear beside it.
const (
	Left  Side = "left"
	Right Side = "right"
	Top   Side = "top"
	Front Side = "front"
	Rear  Side = "rear"
)

// Sides lists the views in drawing order.
var Sides = []Side{Left, Top, Front, Rear, Right}

// Ring is a closed outline in a view, in model mm, x to the right and y down.
type Ring [][2]float64

// MarshalJSON writes x, y, x, y … in hundredths of a millimetre, finer than any pen.
func (r Ring) MarshalJSON() ([]byte, error) {
	out := append(make([]byte, 0, 14*len(r)+2), '[')
	for i, p := range r {
		for k, v := range p {
			if i+k > 0 {
				out = append(out, ',')
			}
			out = strconv.AppendFloat(out, math.Round(v*100)/100+0, 'f', -1, 64)
		}
	}
	return append(out, ']'), nil
}

// UnmarshalJSON reads what MarshalJSON wrote.
func (r *Ring) UnmarshalJSON(data []byte) error {
	var flat []float64
	if err := json.Unmarshal(data, &flat); err != nil {
		return err
	}
	*r = make(Ring, len(flat)/2)
	for i := range *r {
		(*r)[i] = [2]float64{flat[2*i], flat[2*i+1]}
	}
	return nil
}

// Patch is a region of one colour on a shape.
type Patch struct {
	Colour  int     `json:"colour"`  // index into the scheme's colours
	Opacity float64 `json:"opacity"` // below 1 on a feathered edge
	Rings   []Ring  `json:"rings"`   // filled by the even-odd rule
}

// Shape is a face as it is seen in a view, or pieces of it.
type Shape struct {
	Zone    string  `json:"zone"`
	Rings   []Ring  `json:"rings"`           // its pieces, side by side
	Light   float64 `json:"light"`           // 0 to 1, how far the face looks upward
	Heavy   Ring    `json:"heavy,omitempty"` // edges by pairs of points: where the part ends
	Plain   Ring    `json:"plain,omitempty"` // where two faces meet
	Fine    Ring    `json:"fine,omitempty"`  // where they meet nearly flat
	Patches []Patch `json:"patches,omitempty"`

	panel  *Panel
	pieces []int
}

// Dimension is a measured distance drawn beside a view.
type Dimension struct {
	Name  string     `json:"name"`
	From  [2]float64 `json:"from"`
	To    [2]float64 `json:"to"`
	Real  string     `json:"real"`
	Model string     `json:"model"`
}

// View is a drawing of one side at model size, its top left corner at (0, 0).
type View struct {
	Side       Side        `json:"side"`
	X          float64     `json:"x"` // place on the sheet, model mm
	Y          float64     `json:"y"`
	Width      float64     `json:"width"`
	Height     float64     `json:"height"`
	Origin     [2]float64  `json:"origin"` // where the vehicle's origin lies in the view, model mm
	Shapes     []Shape     `json:"shapes"`
	Dimensions []Dimension `json:"dimensions,omitempty"`

	frame Frame
}

// Painted is a region of one colour in a panel's flat frame, real mm.
type Painted struct {
	Colour  int
	Opacity float64
	Rings   [][][2]float64
}

// axes gives a view's right, down and toward-the-viewer directions.
func (s Side) axes() (right, down, toward Vec) {
	switch s {
	case Top:
		return Vec{-1, 0, 0}, Vec{0, 1, 0}, Vec{0, 0, 1}
	case Front:
		return Vec{0, 1, 0}, Vec{0, 0, -1}, Vec{1, 0, 0}
	case Rear:
		return Vec{0, -1, 0}, Vec{0, 0, -1}, Vec{-1, 0, 0}
	case Right:
		return Vec{1, 0, 0}, Vec{0, 0, -1}, Vec{0, -1, 0}
	default: // Left
		return Vec{-1, 0, 0}, Vec{0, 0, -1}, Vec{0, 1, 0}
	}
}

// gap is the room between views and around them, model mm, as a share of the longest side.
const gap = 0.06

// Views draws all five sides, bare. Faces that look away or are wholly covered are left
// out; of two that overlap, the nearer comes later in the list.
func Views(panels []*Panel, scale length.Scale) []View {
	lo, hi, _ := Extent(panels, everything)
	edged := make([][][]Line, len(panels))
	for i, p := range panels {
		edged[i] = p.pieceLines()
	}
	views := make([]View, len(Sides))
	Each(len(Sides), func(i int) { views[i] = draw(Sides[i], panels, edged, lo, hi, scale) })
	arrange(views)
	return views
}

// Paint gives the views with the colour regions of their panels.
func Paint(views []View, paint func(*Panel) []Painted) []View {
	out := slices.Clone(views)
	for i := range out {
		v := &out[i]
		v.Dimensions = nil
		v.Shapes = slices.Clone(v.Shapes)
		for k := range v.Shapes {
			s := &v.Shapes[k]
			all := s.panel.FlatPieces()
			for _, region := range paint(s.panel) {
				patch := Patch{Colour: region.Colour, Opacity: region.Opacity}
				for _, piece := range s.pieces {
					for _, ring := range region.Rings {
						if len(all) > 1 {
							ring = clip(ring, all[piece])
						}
						out := make(Ring, len(ring))
						for i, q := range ring {
							out[i] = v.frame.Flat(s.panel.Space(q[0], q[1]))
						}
						if len(out) >= 3 {
							patch.Rings = append(patch.Rings, out)
						}
					}
				}
				if len(patch.Rings) > 0 {
					s.Patches = append(s.Patches, patch)
				}
			}
		}
	}
	return out
}

// pieceLines gives each piece of a panel those parts of the panel's lines that run
// along its rim.
func (p *Panel) pieceLines() [][]Line {
	out := make([][]Line, len(p.Pieces))
	for i, piece := range p.Pieces {
		for k, a := range piece {
			b := piece[(k+1)%len(piece)]
			along := b.sub(a)
			long := along.length()
			if long < 1e-6 {
				continue
			}
			along = along.times(1 / long)
			for _, l := range p.Lines {
				s, t := l.A.sub(a), l.B.sub(a)
				u, v := s.dot(along), t.dot(along)
				if s.sub(along.times(u)).length() > 2*touching || t.sub(along.times(v)).length() > 2*touching {
					continue
				}
				u, v = max(min(u, v), 0), min(max(u, v), long)
				if v-u > 1e-3 {
					part := l
					part.A, part.B = a.plus(along.times(u)), a.plus(along.times(v))
					out[i] = append(out[i], part)
				}
			}
		}
	}
	return out
}

// seen is a piece in a view: its outline, and its depth toward the viewer, which is
// base + x · dx + y · dy at a place of the view.
type seen struct {
	panel        *Panel
	piece        int
	outline      Ring
	lines        []Line
	low, high    [2]float64
	base, dx, dy float64
	mean         float64
}

func (s *seen) depth(q [2]float64) float64 { return s.base + q[0]*s.dx + q[1]*s.dy }

func draw(side Side, panels []*Panel, edged [][][]Line, lo, hi Vec, scale length.Scale) View {
	frame := newFrame(side, lo, hi, scale)
	size := hi.sub(lo)
	extent := func(axis Vec) float64 { return math.Abs(size.dot(axis)) / float64(scale) }
	view := View{Side: side, Width: extent(frame.right), Height: extent(frame.down), frame: frame, Origin: frame.Flat(Vec{})}
	var all []*seen
	for i, p := range panels {
		facing := p.Normal.dot(frame.toward)
		if facing <= 1e-6 {
			continue
		}
		for k, piece := range p.Pieces {
			s := &seen{panel: p, piece: k, lines: edged[i][k]}
			for _, c := range piece {
				s.outline = append(s.outline, frame.Flat(c))
			}
			s.low[0], s.low[1], s.high[0], s.high[1] = bounds(s.outline)
			if polygonArea(s.outline) < 1e-3 {
				continue // on edge
			}
			n := float64(scale)
			s.dx, s.dy = -n*p.Normal.dot(frame.right)/facing, -n*p.Normal.dot(frame.down)/facing
			s.base = piece[0].dot(frame.toward) - s.outline[0][0]*s.dx - s.outline[0][1]*s.dy
			s.mean = s.depth(middle(s.outline))
			all = append(all, s)
		}
	}
	for _, group := range inOrder(uncovered(all, view.Width, view.Height)) {
		p := group[0].panel
		shape := Shape{Zone: p.Zone, Light: math.Round((p.Normal[2]+1)*50) / 100, panel: p}
		for _, s := range group {
			shape.Rings, shape.pieces = append(shape.Rings, s.outline), append(shape.pieces, s.piece)
			for _, l := range s.lines {
				shape.rule(l, p, frame)
			}
		}
		view.Shapes = append(view.Shapes, shape)
	}
	return view
}

// rule adds an edge with its weight.
func (s *Shape) rule(l Line, p *Panel, f Frame) {
	ends := []([2]float64){f.Flat(l.A), f.Flat(l.B)}
	away := l.Beyond.dot(f.toward) <= 1e-6
	switch {
	case !l.Joint && !l.Hollow && away && l.Beyond != Vec{}:
		s.Heavy = append(s.Heavy, ends...)
	case l.Smooth:
	case l.Slight(p):
		s.Fine = append(s.Fine, ends...)
	default:
		s.Plain = append(s.Plain, ends...)
	}
}

func middle(c [][2]float64) (m [2]float64) {
	for _, q := range c {
		m[0] += q[0] / float64(len(c))
		m[1] += q[1] / float64(len(c))
	}
	return m
}

// uncovered leaves out what is covered wholly, found on a raster of a quarter of a
// millimetre: a piece stays when it is the nearest anywhere, its corners included.
func uncovered(all []*seen, width, height float64) []*seen {
	step := max(0.25, width/1600, height/1600)
	nx, ny := int(width/step)+2, int(height/step)+2
	nearest := make([]float64, nx*ny)
	for i := range nearest {
		nearest[i] = math.Inf(-1)
	}
	for _, s := range all {
		s.sweep(step, nx, ny, func(at int, depth float64) bool {
			nearest[at] = max(nearest[at], depth)
			return false
		})
	}
	return slices.DeleteFunc(all, func(s *seen) bool {
		slack := touching + step*(math.Abs(s.dx)+math.Abs(s.dy))
		shows := s.sweep(step, nx, ny, func(at int, depth float64) bool { return depth >= nearest[at]-touching })
		m := middle(s.outline)
		for _, c := range append([][2]float64{m}, s.outline...) {
			q := [2]float64{c[0] + 0.1*(m[0]-c[0]), c[1] + 0.1*(m[1]-c[1])}
			at := int(q[1]/step)*nx + int(q[0]/step)
			shows = shows || at >= 0 && at < len(nearest) && s.depth(q) >= nearest[at]-slack
		}
		return !shows
	})
}

// sweep visits the raster's nodes within a convex piece until f is content.
func (s *seen) sweep(step float64, nx, ny int, f func(at int, depth float64) bool) bool {
	c := s.outline
	for j := max(0, int(math.Ceil(s.low[1]/step-0.5))); j < ny; j++ {
		y := (float64(j) + 0.5) * step
		if y > s.high[1] {
			break
		}
		low, high := math.Inf(1), math.Inf(-1)
		for i, a := range c {
			b := c[(i+1)%len(c)]
			if (a[1] > y) != (b[1] > y) {
				x := a[0] + (b[0]-a[0])*(y-a[1])/(b[1]-a[1])
				low, high = min(low, x), max(high, x)
			}
		}
		for i := max(0, int(math.Ceil(low/step-0.5))); i < nx; i++ {
			x := (float64(i) + 0.5) * step
			if x > high {
				break
			}
			if f(j*nx+i, s.depth([2]float64{x, y})) {
				return true
			}
		}
	}
	return false
}

// inOrder sorts pieces so that of any two that overlap the farther comes first: each
// such pair is compared where they overlap, and the pairs are sorted topologically. The
// pieces of a panel stay together; only where that cannot be, each goes for itself.
// Should pieces cover each other in a ring, the farther by their middles goes first.
func inOrder(all []*seen) [][]*seen {
	slices.SortStableFunc(all, func(a, b *seen) int { return cmp.Compare(a.mean, b.mean) })
	pairs := overlaps(all)
	group, number := make([]int32, len(all)), map[*Panel]int32{}
	for i, s := range all {
		if _, known := number[s.panel]; !known {
			number[s.panel] = int32(len(number))
		}
		group[i] = number[s.panel]
	}
	order, ring := sorted(len(number), group, pairs)
	if ring {
		for i := range group {
			group[i] = int32(i)
		}
		order, _ = sorted(len(all), group, pairs)
	}
	place := make([]int, len(order))
	for i, g := range order {
		place[g] = i
	}
	out := make([][]*seen, len(order))
	for i, s := range all {
		at := place[group[i]]
		out[at] = append(out[at], s)
	}
	return out
}

// overlaps gives the pairs of pieces that overlap, the farther first.
func overlaps(all []*seen) (pairs [][2]int32) {
	byLeft := make([]int, len(all))
	for i := range byLeft {
		byLeft[i] = i
	}
	slices.SortFunc(byLeft, func(a, b int) int { return cmp.Compare(all[a].low[0], all[b].low[0]) })
	var open []int
	for _, i := range byLeft {
		s := all[i]
		kept := open[:0]
		for _, j := range open {
			o := all[j]
			if o.high[0] <= s.low[0] {
				continue
			}
			kept = append(kept, j)
			if o.panel == s.panel || o.high[1] <= s.low[1] || s.high[1] <= o.low[1] {
				continue
			}
			common := clip(s.outline, o.outline)
			if len(common) < 3 || polygonArea(common) < 1e-4 {
				continue
			}
			m := middle(common)
			switch by := s.depth(m) - o.depth(m); {
			case by > 1e-3:
				pairs = append(pairs, [2]int32{int32(j), int32(i)})
			case by < -1e-3:
				pairs = append(pairs, [2]int32{int32(i), int32(j)})
			}
		}
		kept = append(kept, i)
		open = kept
	}
	return pairs
}

// sorted puts n groups of pieces in an order in which the first of each pair precedes
// the second, of several that may go the lowest number; ring tells that there was none.
func sorted(n int, group []int32, pairs [][2]int32) (order []int, ring bool) {
	after, waits := make([][]int32, n), make([]int, n)
	for _, p := range pairs {
		a, b := group[p[0]], group[p[1]]
		if a != b {
			after[a] = append(after[a], b)
			waits[b]++
		}
	}
	ready := &indices{}
	for i, w := range waits {
		if w == 0 {
			heap.Push(ready, i)
		}
	}
	done := make([]bool, n)
	for next := 0; len(order) < n; {
		if ready.Len() == 0 {
			ring = true
			for done[next] {
				next++
			}
			heap.Push(ready, next)
		}
		i := heap.Pop(ready).(int)
		if done[i] {
			continue
		}
		done[i] = true
		order = append(order, i)
		for _, k := range after[i] {
			if waits[k]--; waits[k] == 0 && !done[k] {
				heap.Push(ready, int(k))
			}
		}
	}
	return order, ring
}

type indices []int

func (x indices) Len() int           { return len(x) }
func (x indices) Less(i, j int) bool { return x[i] < x[j] }
func (x indices) Swap(i, j int)      { x[i], x[j] = x[j], x[i] }
func (x *indices) Push(v any)        { *x = append(*x, v.(int)) }
func (x *indices) Pop() any {
	old := *x
	v := old[len(old)-1]
	*x = old[:len(old)-1]
	return v
}

// arrange places the views on one sheet: top above left, front and rear beside
// left, right below.
func arrange(views []View) {
	by := map[Side]*View{}
	for i := range views {
		by[views[i].Side] = &views[i]
	}
	space := gap * by[Left].Width
	columns := by[Front].Width + 2*space
	by[Front].X, by[Left].X, by[Top].X, by[Right].X = space, columns, columns, columns
	by[Rear].X = columns + by[Left].Width + 2*space // room for the height's dimension
	by[Top].Y = space
	middle := by[Top].Y + by[Top].Height + space
	by[Left].Y, by[Front].Y, by[Rear].Y = middle, middle, middle
	by[Right].Y = middle + by[Left].Height + 3*space // room for the length's dimension
}

// SheetSize is the room that the arranged views take, model mm.
func SheetSize(views []View) (width, height float64) {
	for _, v := range views {
		width, height = math.Max(width, v.X+v.Width), math.Max(height, v.Y+v.Height)
	}
	margin := gap * views[0].Width
	return width + margin, height + margin
}
