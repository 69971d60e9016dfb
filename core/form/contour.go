package form

import "math"

// lattice is a net of values: NX × NY nodes, node (i, j) at X0 + i DX, Y0 + j DY.
type lattice struct {
	NX, NY int
	X0, Y0 float64
	DX, DY float64
}

// turns tells, by which corners of a cell lie above the level (1 lower left, 2 lower
// right, 4 upper right, 8 upper left), the sides that a line comes in by and leaves by:
// each keeps the region on its left.
var turns = [16][][2]side{
	1:  {{bottom, left}},
	2:  {{right, bottom}},
	3:  {{right, left}},
	4:  {{top, right}},
	6:  {{top, bottom}},
	7:  {{top, left}},
	8:  {{left, top}},
	9:  {{bottom, top}},
	11: {{right, top}},
	12: {{left, right}},
	13: {{bottom, right}},
	14: {{left, bottom}},
}

// joined are the two cells with corners across from each other when their middle lies
// above too, parted when it does not.
var (
	joined = map[int][][2]side{5: {{bottom, right}, {top, left}}, 10: {{left, bottom}, {right, top}}}
	parted = map[int][][2]side{5: {{bottom, left}, {top, right}}, 10: {{right, bottom}, {left, top}}}
)

// side of a cell.
type side int

const (
	bottom side = iota
	right
	top
	left
)

// height is the value of a node; beyond the rim all lies below any level.
func (l lattice) height(values []float64, i, j int) float64 {
	if i < 0 || j < 0 || i >= l.NX || j >= l.NY {
		return math.Inf(-1)
	}
	return values[j*l.NX+i]
}

// edge is a side of the cell at a node, by number: between node (i, j) and its right (0)
// or upper (1) neighbour, one row and column of nodes beyond the rim included.
func (l lattice) edge(i, j int, s side) int32 {
	number := func(i, j, dir int) int32 { return int32(2*((j+1)*(l.NX+2)+i+1) + dir) }
	switch s {
	case bottom:
		return number(i, j, 0)
	case right:
		return number(i+1, j, 1)
	case top:
		return number(i, j+1, 0)
	}
	return number(i, j, 1)
}

// crossing is where the level crosses an edge.
func (l lattice) crossing(values []float64, level float64, e int32) [2]float64 {
	dir, node := int(e%2), int(e/2)
	i, j := node%(l.NX+2)-1, node/(l.NX+2)-1
	a, b := l.height(values, i, j), l.height(values, i+1-dir, j+dir)
	t := 0.0
	switch {
	case math.IsInf(a, -1):
		t = 1
	case !math.IsInf(b, -1):
		t = (level - a) / (b - a)
	}
	return [2]float64{l.X0 + (float64(i)+t*float64(1-dir))*l.DX, l.Y0 + (float64(j)+t*float64(dir))*l.DY}
}

// lines are those through the cell at a node.
func (l lattice) lines(values []float64, level float64, i, j int) [][2]side {
	corners := [4]float64{
		l.height(values, i, j), l.height(values, i+1, j), l.height(values, i+1, j+1), l.height(values, i, j+1),
	}
	index := 0
	for bit, v := range corners {
		if v > level {
			index |= 1 << bit
		}
	}
	if index != 5 && index != 10 {
		return turns[index]
	}
	if (corners[0]+corners[1]+corners[2]+corners[3])/4 > level {
		return joined[index]
	}
	return parted[index]
}

// contour walks the cells (marching squares). Nodes beyond the rim count as
// below the level, so that every outline closes.
func contour(l lattice, values []float64, level float64) [][][2]float64 {
	follow := make([]int32, 2*(l.NX+2)*(l.NY+2)) // the edge a line goes on to, plus one; 0 for none
	order := make([]int32, 0, 4*(l.NX+l.NY))
	for j := -1; j < l.NY; j++ {
		for i := -1; i < l.NX; i++ {
			for _, line := range l.lines(values, level, i, j) {
				from := l.edge(i, j, line[0])
				follow[from] = l.edge(i, j, line[1]) + 1
				order = append(order, from)
			}
		}
	}
	var rings [][][2]float64
	for _, start := range order {
		var ring [][2]float64
		for e := start; follow[e] != 0; {
			next := follow[e] - 1
			follow[e] = 0
			ring = append(ring, l.crossing(values, level, e))
			e = next
		}
		if len(ring) >= 3 {
			rings = append(rings, ring)
		}
	}
	return rings
}

// Contour gives the outlines of what lies above a level on a net of NX × NY values, in steps of the
// net from its first value; counter-clockwise, holes clockwise. Beyond the net nothing lies above.
func Contour(nx, ny int, values []float64, level float64) [][][2]float64 {
	return contour(lattice{NX: nx, NY: ny, DX: 1, DY: 1}, values, level)
}
