package form

import (
	"cmp"
	"maps"
	"math"
	"slices"
)

// Net is what one sheet can cover: panels that meet without an edge, unrolled side by side into one flat
// frame, that of its first panel. A panel that flows into nothing is a net of its own.
type Net struct {
	Members []Member
}

// Member is a panel in a net, and how it lies there. A strip of a round shape lies as wide as its arc and
// not as its chord: what is laid round the part is as long as the part's girth.
type Member struct {
	Panel int
	Folds []int // its lines over which a panel of the net goes on

	turn [2][2]float64 // from the panel's flat frame to the net's, columns
	at   [2]float64
}

// Flat is a place of the panel's flat frame in the net's.
func (m *Member) Flat(q [2]float64) [2]float64 {
	return [2]float64{
		m.at[0] + m.turn[0][0]*q[0] + m.turn[1][0]*q[1],
		m.at[1] + m.turn[0][1]*q[0] + m.turn[1][1]*q[1],
	}
}

// Along is a direction of the panel's flat frame in the net's, unit.
func (m *Member) Along(d [2]float64) [2]float64 {
	x, y := m.turn[0][0]*d[0]+m.turn[1][0]*d[1], m.turn[0][1]*d[0]+m.turn[1][1]*d[1]
	long := math.Hypot(x, y)
	return [2]float64{x / long, y / long}
}

// Back is a place of the net's frame in the panel's.
func (m *Member) Back(q [2]float64) [2]float64 {
	x, y := q[0]-m.at[0], q[1]-m.at[1]
	det := m.turn[0][0]*m.turn[1][1] - m.turn[1][0]*m.turn[0][1]
	return [2]float64{
		(m.turn[1][1]*x - m.turn[1][0]*y) / det,
		(m.turn[0][0]*y - m.turn[0][1]*x) / det,
	}
}

// Limits of nets.
const (
	mostMembers = 400
	meeting     = 0.5                   // how near edges that are shared lie to each other in a net, real mm
	bulging     = 0.003                 // how far the angles about a flat corner may be from a full turn, radians
	opened      = 235 * math.Pi / 180.0 // how much of a turn is joined about a corner that bulges
)

// netting is what nets are made from.
type netting struct {
	panels []*Panel
	across map[Other]Other // lines over which the surface goes on, in one zone
	bulges map[spotKey]bool
	net    []int // by panel, its net; below 0: none yet
	by     ranking
	made   []Member
	lain   []shape // what each of them covers
}

// shape is what a member covers, with the box about it.
type shape struct {
	pieces         [][][2]float64
	x0, y0, x1, y1 float64
}

// Other is the panel on the other side of a line, and which of its lines that is.
type Other struct {
	Panel int // below 0: none
	Line  int
}

// Beyond tells for each line of each panel what lies on its other side.
func Beyond(panels []*Panel) [][]Other {
	owners := owners(panels)
	out := make([][]Other, len(panels))
	for i, p := range panels {
		out[i] = make([]Other, len(p.Lines))
		for k, l := range p.Lines {
			out[i][k].Panel = -1
			if o, ok := owners[keyOf(l.B, l.A)]; ok && o.Panel != i && !l.Joint {
				out[i][k] = o
			}
		}
	}
	return out
}

func owners(panels []*Panel) map[edgeKey]Other {
	out := map[edgeKey]Other{}
	for i, p := range panels {
		for k, l := range p.Lines {
			if l.Beyond != (Vec{}) {
				out[keyOf(l.A, l.B)] = Other{i, k}
			}
		}
	}
	return out
}

// Nets unrolls all panels: over edges that only part strips of a round shape, or pieces of one face, as
// far as the surface lies flat without stretching or overlap. Cylinders and cones unroll whole, domes in
// rings or in gores, whichever are fewer in a zone. It is cut open below and behind.
func Nets(panels []*Panel) []Net {
	n := &netting{panels: panels, across: map[Other]Other{}}
	owners := owners(panels)
	for i, p := range panels {
		for k, l := range p.Lines {
			if o, ok := owners[keyOf(l.B, l.A)]; ok && l.Smooth && !l.Joint {
				n.across[Other{i, k}] = o
			}
		}
	}
	n.findBulges()
	maps.DeleteFunc(n.across, func(s, o Other) bool { return panels[s.Panel].Zone != panels[o.Panel].Zone })
	first := make([]int, len(panels))
	for i := range first {
		first[i] = i
	}
	// Grown from what is above and in front, so that the seam lies below and behind.
	slices.SortStableFunc(first, func(a, b int) int {
		p, q := panels[a].Normal, panels[b].Normal
		for _, k := range [3]int{2, 0, 1} {
			if d := p[k] - q[k]; math.Abs(d) > 1e-6 {
				return int(math.Copysign(1, -d))
			}
		}
		return a - b
	})
	best := map[string][]Net{}
	for _, n.by = range [2]ranking{mostTurned, longest} {
		n.net = slices.Repeat([]int{-1}, len(panels))
		zones := map[string][]Net{}
		for k, i := range first {
			if n.net[i] < 0 {
				zones[panels[i].Zone] = append(zones[panels[i].Zone], n.grow(i, k))
			}
		}
		for zone, nets := range zones {
			if old, ok := best[zone]; !ok || len(nets) < len(old) {
				best[zone] = nets
			}
		}
	}
	out := make([]Net, 0, len(panels))
	for _, nets := range best {
		out = append(out, nets...)
	}
	// In the order of the panels, by the first that each has.
	slices.SortFunc(out, func(a, b Net) int { return a.lowest() - b.lowest() })
	return out
}

// ranking tells which of two lines a net grows over first, by how much the surface turns there, as a
// cosine, and by their length.
type ranking func(turnA, longA, turnB, longB float64) int

func mostTurned(turnA, longA, turnB, longB float64) int {
	return cmp.Or(cmp.Compare(turnA, turnB), cmp.Compare(longB, longA))
}

func longest(turnA, longA, turnB, longB float64) int {
	return cmp.Or(cmp.Compare(longB, longA), cmp.Compare(turnA, turnB))
}

func (n Net) lowest() int {
	low := n.Members[0].Panel
	for _, m := range n.Members {
		low = min(low, m.Panel)
	}
	return low
}

// angleAt is the angle of a panel at the first corner of one of its lines.
func (n *netting) angleAt(s Other) float64 {
	p := n.panels[s.Panel]
	l := p.Lines[s.Line]
	for _, before := range p.Lines {
		if before.Beyond != (Vec{}) && spot(before.B) == spot(l.A) {
			a, b := l.A.Sub(before.A), l.B.Sub(l.A)
			return math.Pi - math.Atan2(a.Cross(b).Dot(p.Normal), a.Dot(b))
		}
	}
	return 0
}

// findBulges finds the corners all round which the surface goes on, but not flat.
func (n *netting) findBulges() {
	n.bulges = map[spotKey]bool{}
	sum, open := map[spotKey]float64{}, map[spotKey]bool{}
	for i, p := range n.panels {
		for k, l := range p.Lines {
			if l.Beyond == (Vec{}) {
				continue
			}
			if _, on := n.across[Other{i, k}]; !on {
				open[spot(l.A)], open[spot(l.B)] = true, true
				continue
			}
			sum[spot(l.A)] += n.angleAt(Other{i, k})
		}
	}
	for c, turn := range sum {
		n.bulges[c] = !open[c] && math.Abs(turn-2*math.Pi) > bulging
	}
}

// grow makes the net that begins with a panel.
func (n *netting) grow(first, number int) Net {
	n.made = []Member{{Panel: first, turn: n.stretched(first)}}
	n.net[first] = number
	n.lain = []shape{n.shape(&n.made[0])}
	joined := map[spotKey]float64{} // how much of a turn is joined about a corner that bulges
	n.count(first, joined)
	var front []Other
	front = n.fringe(front, first)
	for len(front) > 0 && len(n.made) < mostMembers {
		s := front[0]
		front = front[1:]
		o := n.across[s]
		if n.net[o.Panel] >= 0 {
			continue
		}
		next, ok := n.beside(s, o)
		if !ok {
			continue
		}
		covers := n.shape(&next)
		if slices.ContainsFunc(n.lain, covers.overlaps) || !n.count(o.Panel, joined) {
			continue
		}
		n.net[o.Panel] = number
		n.made, n.lain = append(n.made, next), append(n.lain, covers)
		front = n.fringe(front, o.Panel)
	}
	n.fold(number)
	return Net{Members: n.made}
}

// fringe adds the lines of a panel over which the net may grow, in their order.
func (n *netting) fringe(front []Other, panel int) []Other {
	p := n.panels[panel]
	for k := range p.Lines {
		if o, ok := n.across[Other{panel, k}]; ok && n.net[o.Panel] < 0 {
			front = append(front, Other{panel, k})
		}
	}
	rank := func(s Other) (turn, long float64) {
		l := n.panels[s.Panel].Lines[s.Line]
		return math.Round(100 * n.panels[s.Panel].Normal.Dot(l.Beyond)), math.Round(l.B.Sub(l.A).Length())
	}
	slices.SortStableFunc(front, func(a, b Other) int {
		ta, la := rank(a)
		tb, lb := rank(b)
		return n.by(ta, la, tb, lb)
	})
	return front
}

// count joins a panel's angles about corners that bulge; false, and nothing joined, where that is too much.
func (n *netting) count(panel int, joined map[spotKey]float64) bool {
	p := n.panels[panel]
	more := map[spotKey]float64{}
	for k, l := range p.Lines {
		if c := spot(l.A); l.Beyond != (Vec{}) && n.bulges[c] {
			more[c] += n.angleAt(Other{panel, k})
		}
	}
	for c, turn := range more {
		if joined[c] > 0 && joined[c]+turn > opened {
			return false
		}
	}
	for c, turn := range more {
		joined[c] += turn
	}
	return true
}

// member gives a panel of the net that is being made.
func (n *netting) member(panel int) *Member {
	return &n.made[slices.IndexFunc(n.made, func(m Member) bool { return m.Panel == panel })]
}

// beside lays a panel beside one of the net, over the line that they share.
func (n *netting) beside(s, o Other) (Member, bool) {
	l, own := n.panels[s.Panel].Lines[s.Line], n.panels[o.Panel]
	from := n.member(s.Panel)
	a, b := from.Flat(n.panels[s.Panel].Flat(l.A)), from.Flat(n.panels[s.Panel].Flat(l.B))
	out := Member{Panel: o.Panel, turn: n.stretched(o.Panel)}
	p, q := out.Flat(own.Flat(l.A)), out.Flat(own.Flat(l.B))
	long := math.Hypot(q[0]-p[0], q[1]-p[1])
	if long < meeting {
		return out, false
	}
	// The turn that takes p → q to a → b.
	dx, dy, ex, ey := q[0]-p[0], q[1]-p[1], b[0]-a[0], b[1]-a[1]
	cos, sin := dx*ex+dy*ey, dx*ey-dy*ex
	r := math.Hypot(cos, sin)
	cos, sin = cos/r, sin/r
	for k, c := range out.turn {
		out.turn[k] = [2]float64{cos*c[0] - sin*c[1], sin*c[0] + cos*c[1]}
	}
	p, q = out.Flat(own.Flat(l.A)), out.Flat(own.Flat(l.B))
	out.at = [2]float64{(a[0] + b[0] - p[0] - q[0]) / 2, (a[1] + b[1] - p[1] - q[1]) / 2}
	return out, true
}

// Pieces are the pieces of a panel in the net.
func (m *Member) Pieces(p *Panel) [][][2]float64 {
	out := p.FlatPieces()
	for _, piece := range out {
		for k, q := range piece {
			piece[k] = m.Flat(q)
		}
	}
	return out
}

func (n *netting) shape(m *Member) (s shape) {
	s.pieces = m.Pieces(n.panels[m.Panel])
	s.x0, s.y0, s.x1, s.y1 = span(s.pieces)
	return s
}

// overlaps tells whether one would lie over another.
func (s shape) overlaps(o shape) bool {
	return o.x0 < s.x1 && o.x1 > s.x0 && o.y0 < s.y1 && o.y1 > s.y0 &&
		(lies(s.pieces, o.pieces) || lies(o.pieces, s.pieces))
}

// lies tells whether the inside of some piece reaches into one of others.
func lies(own, other [][][2]float64) bool {
	for _, piece := range own {
		middle := [2]float64{}
		for _, q := range piece {
			middle[0] += q[0] / float64(len(piece))
			middle[1] += q[1] / float64(len(piece))
		}
		for k := -1; k < len(piece); k++ {
			at := middle
			if k >= 0 {
				at = [2]float64{0.9*piece[k][0] + 0.1*middle[0], 0.9*piece[k][1] + 0.1*middle[1]}
			}
			for _, o := range other {
				if within(o, at) {
					return true
				}
			}
		}
	}
	return false
}

// fold names the lines of each member over which the net goes on.
func (n *netting) fold(number int) {
	for i := range n.made {
		m := &n.made[i]
		p := n.panels[m.Panel]
		for k, l := range p.Lines {
			o, ok := n.across[Other{m.Panel, k}]
			if !ok || n.net[o.Panel] != number {
				continue
			}
			other, q := n.member(o.Panel), n.panels[o.Panel]
			if apart(m.Flat(p.Flat(l.A)), other.Flat(q.Flat(l.A))) < meeting &&
				apart(m.Flat(p.Flat(l.B)), other.Flat(q.Flat(l.B))) < meeting {
				m.Folds = append(m.Folds, k)
			}
		}
	}
}

func apart(a, b [2]float64) float64 { return math.Hypot(a[0]-b[0], a[1]-b[1]) }
