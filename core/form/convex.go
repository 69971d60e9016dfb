package form

import "slices"

// convexParts cuts a simple polygon (in a plane, counter-clockwise) into convex ones,
// given by the numbers of its corners: ears are cut off, then triangles are joined
// again while they stay convex (Hertel and Mehlhorn, 1983).
func convexParts(c [][2]float64) [][]int {
	left := make([]int, len(c))
	for i := range left {
		left[i] = i
	}
	if convex(c, left) {
		return [][]int{left}
	}
	var parts [][]int
	for len(left) > 3 {
		ear := slices.IndexFunc(left, func(v int) bool { return isEar(c, left, slices.Index(left, v)) })
		if ear < 0 {
			break // nearly flat corners only: what is left is taken whole
		}
		n := len(left)
		parts = append(parts, []int{left[(ear+n-1)%n], left[ear], left[(ear+1)%n]})
		left = slices.Delete(left, ear, ear+1)
	}
	parts = append(parts, left)
	for joined := true; joined; {
		joined = false
		for i := 0; i < len(parts) && !joined; i++ {
			for j := i + 1; j < len(parts) && !joined; j++ {
				if both := join(parts[i], parts[j]); both != nil && convex(c, both) {
					parts[i] = both
					parts = slices.Delete(parts, j, j+1)
					joined = true
				}
			}
		}
	}
	return parts
}

func turn(a, b, c [2]float64) float64 {
	return (b[0]-a[0])*(c[1]-a[1]) - (b[1]-a[1])*(c[0]-a[0])
}

func convex(c [][2]float64, part []int) bool {
	n := len(part)
	for i := range part {
		if turn(c[part[i]], c[part[(i+1)%n]], c[part[(i+2)%n]]) < -1e-6 {
			return false
		}
	}
	return true
}

func isEar(c [][2]float64, left []int, i int) bool {
	n := len(left)
	a, b, d := left[(i+n-1)%n], left[i], left[(i+1)%n]
	if turn(c[a], c[b], c[d]) <= 1e-9 {
		return false
	}
	for _, v := range left {
		if v == a || v == b || v == d {
			continue
		}
		if turn(c[a], c[b], c[v]) >= 0 && turn(c[b], c[d], c[v]) >= 0 && turn(c[d], c[a], c[v]) >= 0 {
			return false
		}
	}
	return true
}

// join unites two polygons along a common edge; nil when they have none.
func join(p, q []int) []int {
	for i := range p {
		a, b := p[i], p[(i+1)%len(p)]
		for j := range q {
			if q[j] == b && q[(j+1)%len(q)] == a {
				both := slices.Clone(p[:i+1])
				for k := 2; k < len(q); k++ {
					both = append(both, q[(j+k)%len(q)])
				}
				return append(both, p[i+1:]...)
			}
		}
	}
	return nil
}

// crossing tells which edges of a closed polygon meet that should not, by the numbers
// of their first corners; ok is true when none do.
func crossing(c [][2]float64) (i, j int, ok bool) {
	n := len(c)
	for i := range n {
		for j := i + 2; j < n; j++ {
			if i == 0 && j == n-1 {
				continue
			}
			a, b, p, q := c[i], c[(i+1)%n], c[j], c[(j+1)%n]
			if turn(a, b, p)*turn(a, b, q) <= 0 && turn(p, q, a)*turn(p, q, b) <= 0 &&
				!(turn(a, b, p) == 0 && turn(a, b, q) == 0) {
				return i, j, false
			}
		}
	}
	return 0, 0, true
}
