package landing

import (
	"math"
	"slices"
	"sort"

	"cinderpath/core/form"
)

// Mark is one chip, speck, splash or stroke on a panel: an irregular patch in its flat frame, real
// mm, or a streak.
type Mark struct {
	Panel      int
	X, Y       float64
	Long, Wide float64 // of the patch
	Turn       float64 // of its long way, radians from the frame's first axis
	Seed       uint64
	Film       float64 // of the full one
	Runs       bool    // a streak: from X, Y straight down, fading from Fade to Gone of its length
	Fade, Gone float64
}

// Brush says what marks are made.
type Brush struct {
	Size      [2]float64 // the smaller and the larger, real mm
	Long      [2]float64 // of streaks
	Reach     float64    // the longest of them, real mm
	Least     float64    // that a hand can make, real mm: smaller ones merge into fewer
	Direction Direction
}

// Direction is along what marks are drawn out.
type Direction string

// The directions.
const (
	Any    Direction = ""
	Falls  Direction = "down"           // streaks
	Travel Direction = "along travel"   // scratches
	Flung  Direction = "against travel" // splashes, up and back
)

// between gives a size between two, log-normal: nine in ten lie between them, and the others are drawn
// again, so that none is larger than life.
func between(size [2]float64, h uint64) float64 {
	low, high := math.Log(size[0]), math.Log(max(size[1], size[0]))
	for range 8 {
		// A sum of twelve even chances is nearly normal.
		sum := -6.0
		for range 12 {
			h = form.Hash(h)
			sum += form.Unit(h)
		}
		if drawn := (low+high)/2 + sum*(high-low)/3.29; drawn >= low && drawn <= high {
			return math.Exp(drawn)
		}
	}
	return math.Exp((low + high) / 2)
}

const (
	// mostMarks bounds what one layer is made of.
	mostMarks = 200_000
	// crowded is how many streaks may begin on a piece of edge as long as they are wide.
	crowded = 0.7
)

// Marks sets marks where a landing says until they cover an area, real mm², of some panels. The
// same seed sets the same marks in the same order, so that more of them contain fewer. It gives the
// marks and what part of each texel they cover.
func (s *Site) Marks(
	panels []int,
	lands []float32,
	b Brush,
	area float64,
	seed uint64,
) (marks []Mark, cover []float32) {
	cover = make([]float32, s.Grid.Count)
	var at []int32      // texels with a chance, by number in the grid
	var of []int32      // their panels
	var until []float64 // sum of chances so far
	sum := 0.0
	for _, i := range panels {
		t := s.Grid.Texels[i]
		for k, a := range t.Area {
			if c := float64(a) * float64(lands[t.First+k]); c > 0 {
				sum += c
				at, of, until = append(at, int32(t.First+k)), append(of, int32(i)), append(until, sum)
			}
		}
	}
	if sum == 0 {
		return nil, cover
	}
	covered := 0.0
	for n := uint64(0); covered < area && len(marks) < mostMarks; n++ {
		h := form.Hash(seed ^ form.Hash(n))
		k := min(sort.SearchFloat64s(until, sum*form.Unit(h)), len(at)-1)
		t := s.Grid.Texels[of[k]]
		place := int(at[k]) - t.First
		x := t.X0 + (float64(place%t.NX)+form.Unit(form.Hash(h^1)))*t.Step
		y := t.Y0 + (float64(place/t.NX)+form.Unit(form.Hash(h^2)))*t.Step
		m := Mark{Panel: int(of[k]), X: x, Y: y, Wide: max(between(b.Size, form.Hash(h^3)), b.Least), Seed: h, Film: 1}
		m.Long = m.Wide * (1 + 0.9*form.Unit(form.Hash(h^4)))
		m.Turn = math.Pi * form.Unit(form.Hash(h^5))
		b.drawn(&m, &t.Plane, h)
		marks = append(marks, m)
		covered += m.onto(t, own(t, cover))
	}
	return marks, cover
}

// drawn turns a mark along its direction.
func (b Brush) drawn(m *Mark, p *form.Plane, h uint64) {
	var along form.Vec
	switch b.Direction {
	case Travel:
		along = form.Vec{1, 0, 0}
		m.Long = max(between([2]float64{b.Size[0], b.Size[1]}, form.Hash(h^6)), m.Wide)
		m.Wide = max(b.Least, min(m.Wide, b.Size[0]*2))
	case Flung:
		along = form.Vec{-0.7, 0, 0.7}
		m.Long = m.Wide * (1.2 + 1.6*form.Unit(form.Hash(h^6)))
	default:
		return
	}
	u, v := along.Dot(p.U), along.Dot(p.V)
	if math.Hypot(u, v) > 0.2 {
		m.Turn = math.Atan2(v, u) + 0.25*(form.Unit(form.Hash(h^7))-0.5)
	}
}

// Drawn is what part of each texel of a grid marks cover.
func Drawn(marks []Mark, g *form.Grid) (cover []float32) {
	cover = make([]float32, g.Count)
	for i := range marks {
		if t := g.Texels[marks[i].Panel]; len(t.Area) > 0 {
			marks[i].onto(t, own(t, cover))
		}
	}
	return cover
}

// onto adds a mark to the cover of its panel's texels and gives the area that it covers anew.
func (m *Mark) onto(t *form.Texels, cover []float32) (added float64) {
	if m.Runs {
		return m.streak(t, cover)
	}
	r := outermost*max(m.Long, m.Wide)/2 + t.Step
	i0, i1 := max(0, int((m.X-r-t.X0)/t.Step)), min(t.NX-1, int((m.X+r-t.X0)/t.Step))
	j0, j1 := max(0, int((m.Y-r-t.Y0)/t.Step)), min(t.NY-1, int((m.Y+r-t.Y0)/t.Step))
	const fine = 4 // points each way of a texel
	o := m.outline()
	near := math.Sqrt2 * t.Step / min(m.Wide, m.Long) // from a texel's middle to its corner, in the oval's own measure
	for j := j0; j <= j1; j++ {
		for i := i0; i <= i1; i++ {
			k := j*t.NX + i
			if t.Area[k] == 0 {
				continue
			}
			in := 0
			switch d, _ := o.of(t.X0+(float64(i)+0.5)*t.Step, t.Y0+(float64(j)+0.5)*t.Step); {
			case d > outermost+near:
			case d < innermost-near:
				in = fine * fine
			default:
				for p := range fine * fine {
					x := t.X0 + (float64(i)+(float64(p%fine)+0.5)/fine)*t.Step
					y := t.Y0 + (float64(j)+(float64(p/fine)+0.5)/fine)*t.Step
					if o.holds(x, y) {
						in++
					}
				}
			}
			if in > 0 {
				c := float32(in) / (fine * fine)
				added += float64(t.Area[k] * c * (1 - cover[k]))
				cover[k] += c * (1 - cover[k])
			}
		}
	}
	return added
}

// oval is the outline of a patch: an oval with a torn rim.
type oval struct {
	m        *Mark
	sin, cos float64
	phase    [4]float64
}

// waves of a torn rim: so many about it, so deep.
var waves = [4]struct{ n, deep float64 }{{2, 0.22}, {3, 0.13}, {5, 0.12}, {9, 0.08}}

// Where a rim lies at the least and at the most, of an oval that is 1.
const (
	shrunk    = 0.9 // so that torn rims cover as much as whole ones
	innermost = shrunk * (1 - 0.55)
	outermost = shrunk * (1 + 0.55)
)

func (m *Mark) outline() (o oval) {
	o.m = m
	o.sin, o.cos = math.Sincos(m.Turn)
	h := m.Seed
	for i := range o.phase {
		o.phase[i] = 2 * math.Pi * form.Unit(h)
		h = form.Hash(h)
	}
	return o
}

// of gives how far out a place of the panel's flat frame is, in the oval's own measure, and where
// about it.
func (o *oval) of(x, y float64) (d, angle float64) {
	dx, dy := x-o.m.X, y-o.m.Y
	u, v := (dx*o.cos+dy*o.sin)/(o.m.Long/2), (dy*o.cos-dx*o.sin)/(o.m.Wide/2)
	return math.Hypot(u, v), math.Atan2(v, u)
}

// holds tells whether a place lies in the patch.
func (o *oval) holds(x, y float64) bool {
	d, angle := o.of(x, y)
	if d < innermost || d > outermost {
		return d < innermost
	}
	rim := 1.0
	for i, w := range waves {
		rim += w.deep * math.Sin(w.n*angle+o.phase[i])
	}
	return d <= shrunk*rim
}

// streak adds a piece of a streak: widest and fullest where it starts, gone where it ends.
func (m *Mark) streak(t *form.Texels, cover []float32) (added float64) {
	j1 := min(t.NY-1, int((m.Y-t.Y0)/t.Step))
	j0 := max(0, int((m.Y-m.Long-t.Y0)/t.Step))
	for j := j0; j <= j1; j++ {
		y := t.Y0 + (float64(j)+0.5)*t.Step
		part := m.Fade + (m.Gone-m.Fade)*min(max((m.Y-y)/max(m.Long, 1e-9), 0), 1)
		wide := m.Wide * (1 - 0.7*part)
		full := float32(m.Film * (1 - part) * (1 - part*part))
		x := m.X + 0.35*m.Wide*form.Noise(m.Seed, y/120, 0, 0)
		for i := max(0, int((x-wide-t.X0)/t.Step)); i <= min(t.NX-1, int((x+wide-t.X0)/t.Step)); i++ {
			k := j*t.NX + i
			if t.Area[k] == 0 {
				continue
			}
			left, right := t.X0+float64(i)*t.Step, t.X0+float64(i+1)*t.Step
			in := (min(right, x+wide/2) - max(left, x-wide/2)) / t.Step
			if in <= 0 {
				continue
			}
			c := float32(in) * full
			added += float64(t.Area[k] * c * (1 - cover[k]))
			cover[k] += c * (1 - cover[k])
		}
	}
	return added
}

// Sources are where streaks begin: along upper edges, or at what gives them a reason.
type Sources struct {
	Edges []float32 // by texel, the chance of an edge there; nil for all edges
	Marks []Mark    // of chips, the larger the likelier
}

// Streaks sets streaks that run down from their sources until they cover an area, real mm², of some
// panels. The same seed sets the same ones in the same order. It gives them and what part of each texel
// they cover.
func (s *Site) Streaks(panels []int, from Sources, b Brush, area float64, seed uint64) (marks []Mark, cover []float32) {
	cover = make([]float32, s.Grid.Count)
	on := map[int]bool{}
	for _, i := range panels {
		on[i] = true
	}
	begin, most := s.beginning(on, from, b)
	covered := 0.0
	for n := uint64(0); covered < area && n < most; n++ {
		h := form.Hash(seed ^ form.Hash(n))
		panel, x, y, ok := begin(h)
		if !ok {
			continue
		}
		wide := max(between(b.Size, form.Hash(h^3)), b.Least)
		long := min(between(b.Long, form.Hash(h^4)), b.Reach)
		for _, r := range s.trail(panel, x, y, long) {
			if !on[r.panel] {
				break
			}
			m := r.mark(h, wide, long)
			marks = append(marks, m)
			t := s.Grid.Texels[r.panel]
			covered += m.onto(t, own(t, cover))
		}
	}
	return marks, cover
}

// perMark is how many streaks are tried from a mark in the mean.
const perMark = 4

// beginning gives what draws the places where streaks begin on some panels, and how often it is asked at
// most: half of them at marks, where there are some.
func (s *Site) beginning(
	on map[int]bool,
	from Sources,
	b Brush,
) (begin func(h uint64) (panel int, x, y float64, ok bool), most uint64) {
	lines := s.from(on)
	until, sum := make([]float64, len(lines)), 0.0
	for i, f := range lines {
		sum += math.Hypot(f.b[0]-f.a[0], f.b[1]-f.a[1])
		until[i] = sum
	}
	var chips []Mark
	var large []float64 // sum of their areas so far
	all := 0.0
	for _, m := range from.Marks {
		if p := s.Panels[m.Panel]; on[m.Panel] && !stands(p) && p.Normal[2] >= hangs {
			all += m.Wide * m.Long
			chips, large = append(chips, m), append(large, all)
		}
	}
	most = min(uint64(crowded*sum/math.Sqrt(b.Size[0]*b.Size[1]))+uint64(perMark*len(chips)), mostMarks)
	return func(h uint64) (panel int, x, y float64, ok bool) {
		u, where := form.Unit(form.Hash(h^1)), form.Unit(h)
		if len(chips) > 0 && (len(lines) == 0 || form.Unit(form.Hash(h^8)) < 0.5) {
			m := chips[min(sort.SearchFloat64s(large, all*where), len(chips)-1)]
			return m.Panel, m.X + (u-0.5)*m.Wide, m.Y, true
		}
		if sum == 0 {
			return 0, 0, 0, false
		}
		f := lines[min(sort.SearchFloat64s(until, sum*where), len(lines)-1)]
		x, y = f.a[0]+u*(f.b[0]-f.a[0]), f.a[1]+u*(f.b[1]-f.a[1])
		return f.panel, x, y, from.Edges == nil || s.chance(f.panel, x, y, from.Edges, form.Unit(form.Hash(h^2)))
	}, most
}

// chance tells whether a field takes a place, with a share of its chance.
func (s *Site) chance(panel int, x, y float64, where []float32, u float64) bool {
	t := s.Grid.Texels[panel]
	i := min(max(int((x-t.X0)/t.Step), 0), t.NX-1)
	j := min(max(int((y-t.Y0)/t.Step), 0), t.NY-1)
	best := float32(0)
	for dj := -2; dj <= 1; dj++ {
		if jj := j + dj; jj >= 0 && jj < t.NY {
			best = max(best, where[t.First+jj*t.NX+i])
		}
	}
	return u < float64(best)
}

// Shrunk sets marks of half the size inside others until they cover an area, real mm².
func (s *Site) Shrunk(of []Mark, area float64) (marks []Mark, cover []float32) {
	cover = make([]float32, s.Grid.Count)
	covered := 0.0
	for _, m := range of {
		if covered >= area {
			break
		}
		m.Long, m.Wide = m.Long/2, m.Wide/2
		marks = append(marks, m)
		t := s.Grid.Texels[m.Panel]
		covered += m.onto(t, own(t, cover))
	}
	return marks, cover
}

// reasoned is how far from a thing rust still has it for its reason, real mm.
const reasoned = 60.0

// Reasons is where streaks may begin that go by things: under fittings of some kinds, at deep chips.
func (s *Site) Reasons(of []string) []float32 {
	out := make([]float32, s.Grid.Count)
	blocks := s.blocks(kindsOf(of))
	bolts := slices.Contains(of, "rows of bolts")
	form.Each(len(s.Grid.Texels), func(i int) {
		t := s.Grid.Texels[i]
		into := own(t, out)
		s.laid(i, of, into)
		r := s.reliefs(i)
		fill(t, into, func(k int) float32 {
			v := into[k]
			if bolts && r.bolt != nil {
				v = max(v, bell(r.bolt[k], about))
			}
			p := t.Point(k)
			for _, b := range blocks {
				v = max(v, bell(float32(b.distance(p)), reasoned))
			}
			return v
		})
	})
	return out
}
