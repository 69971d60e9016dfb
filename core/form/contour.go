package form

import "math"

// lattice is a net of values: NX × NY nodes, node (i, j) at X0 + i DX, Y0 + j DY.
type lattice struct {
	NX, NY int
	X0, Y0 float64
	DX, DY float64
}

// contour walks the cells (marching squares). Nodes beyond the rim count as
// below the level, so that every outline closes.
func contour(l lattice, values []float64, level float64) [][][2]float64 {
	nx, ny := l.NX, l.NY
	above := func(i, j int) bool {
		return i >= 0 && j >= 0 && i < nx && j < ny && values[j*nx+i] > level
	}
	at := func(i, j int) float64 {
		if i < 0 || j < 0 || i >= nx || j >= ny {
			return math.Inf(-1)
		}
		return values[j*nx+i]
	}
	// An edge of the lattice, by number: between node (i, j) and its right (0) or
	// upper (1) neighbour, one row and column of nodes beyond the rim included.
	edge := func(i, j, dir int) int32 { return int32(2*((j+1)*(nx+2)+i+1) + dir) }
	point := func(e int32) [2]float64 {
		dir, node := int(e%2), int(e/2)
		i, j := node%(nx+2)-1, node/(nx+2)-1
		a, b := at(i, j), at(i+1-dir, j+dir)
		t := 0.0
		switch {
		case math.IsInf(a, -1):
			t = 1
		case !math.IsInf(b, -1):
			t = (level - a) / (b - a)
		}
		return [2]float64{l.X0 + (float64(i)+t*float64(1-dir))*l.DX, l.Y0 + (float64(j)+t*float64(dir))*l.DY}
	}
	follow := make([]int32, 2*(nx+2)*(ny+2)) // the edge a line goes on to, plus one; 0 for none
	order := make([]int32, 0, 4*(nx+ny))
	link := func(a, b int32) {
		follow[a] = b + 1
		order = append(order, a)
	}
	for j := -1; j < ny; j++ {
		for i := -1; i < nx; i++ {
			index := 0
			for bit, on := range [4]bool{above(i, j), above(i+1, j), above(i+1, j+1), above(i, j+1)} {
				if on {
					index |= 1 << bit
				}
			}
			if index == 0 || index == 15 {
				continue
			}
			bottom, right, top, left := edge(i, j, 0), edge(i+1, j, 1), edge(i, j+1, 0), edge(i, j, 1)
			// Each line keeps the region on its left.
			switch index {
			case 1:
				link(bottom, left)
			case 2:
				link(right, bottom)
			case 3:
				link(right, left)
			case 4:
				link(top, right)
			case 6:
				link(top, bottom)
			case 7:
				link(top, left)
			case 8:
				link(left, top)
			case 9:
				link(bottom, top)
			case 11:
				link(right, top)
			case 12:
				link(left, right)
			case 13:
				link(bottom, right)
			case 14:
				link(left, bottom)
			case 5, 10: // two corners across: joined when the middle lies above
				joined := (at(i, j)+at(i+1, j)+at(i+1, j+1)+at(i, j+1))/4 > level
				switch {
				case index == 5 && joined:
					link(bottom, right)
					link(top, left)
				case index == 5:
					link(bottom, left)
					link(top, right)
				case joined:
					link(left, bottom)
					link(right, top)
				default:
					link(right, bottom)
					link(left, top)
				}
			}
		}
	}
	var rings [][][2]float64
	for _, start := range order {
		var ring [][2]float64
		for e := start; follow[e] != 0; {
			next := follow[e] - 1
			follow[e] = 0
			ring = append(ring, point(e))
			e = next
		}
		if len(ring) >= 3 {
			rings = append(rings, ring)
		}
	}
	return rings
}
