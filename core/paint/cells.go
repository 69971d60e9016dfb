package paint

import (
	"math"
	"sync"
)

// lattice are the recipes of so many paints, all of them used: whole parts, each ratio once.
func lattice(paints, parts int) (out [][]int) {
	v := make([]int, paints)
	var fill func(at, left int)
	fill = func(at, left int) {
		if at == paints {
			if common(v) == 1 {
				out = append(out, append([]int(nil), v...))
			}
			return
		}
		for p := 1; p <= left-(paints-at-1); p++ {
			v[at] = p
			fill(at+1, left-p)
		}
	}
	fill(0, parts)
	return out
}

// common is the greatest common divisor of some parts.
func common(v []int) int {
	d := 0
	for _, n := range v {
		for n != 0 {
			d, n = n, d%n
		}
	}
	return d
}

// cell is a piece of the range of shares: a segment, triangle or tetrahedron, halved again
// and again along its longest edge until few recipes lie in it.
type cell struct {
	corners []int // of the tree's points
	recipes []int // of the lattice; in leaves only
	halves  []*cell
}

// tree is the range of shares of so many paints, in pieces.
type tree struct {
	recipes [][]int
	points  [][]float64 // shares of each paint
	root    *cell
}

// fewRecipes are not worth another piece.
const fewRecipes = 3

type treeKey struct{ paints, parts int }

var trees sync.Map // by treeKey: they are the same for every shelf

func treeOf(paints, parts int) *tree {
	key := treeKey{paints, parts}
	if t, ok := trees.Load(key); ok {
		return t.(*tree) //nolint:forcetypeassert // nothing else is stored
	}
	t := &tree{recipes: lattice(paints, parts), root: &cell{}}
	for i := range paints {
		p := make([]float64, paints)
		p[i] = 1
		t.points = append(t.points, p)
		t.root.corners = append(t.root.corners, i)
	}
	all := make([]int, len(t.recipes))
	for i := range all {
		all[i] = i
	}
	known := map[[2]int]int{}
	t.split(t.root, all, known)
	kept, _ := trees.LoadOrStore(key, t)
	return kept.(*tree) //nolint:forcetypeassert // nothing else is stored
}

func (t *tree) split(c *cell, recipes []int, known map[[2]int]int) {
	if len(recipes) <= fewRecipes || len(c.corners) < 2 {
		c.recipes = recipes
		return
	}
	a, b, longest := 0, 1, -1.0
	for i := range c.corners {
		for k := i + 1; k < len(c.corners); k++ {
			if d := t.length(c.corners[i], c.corners[k]); d > longest+1e-12 {
				a, b, longest = i, k, d
			}
		}
	}
	// The halves part where the shares at a and b, counted in the cell's own corners, are even.
	edge := [2]int{min(c.corners[a], c.corners[b]), max(c.corners[a], c.corners[b])}
	middle, ok := known[edge]
	if !ok {
		middle = len(t.points)
		p := make([]float64, len(t.points[0]))
		for i := range p {
			p[i] = (t.points[edge[0]][i] + t.points[edge[1]][i]) / 2
		}
		t.points, known[edge] = append(t.points, p), middle
	}
	one, two := &cell{corners: swapped(c.corners, b, middle)}, &cell{corners: swapped(c.corners, a, middle)}
	var first, second []int
	for _, r := range recipes {
		if in := t.within(c, t.recipes[r]); in[a] >= in[b] {
			first = append(first, r)
		} else {
			second = append(second, r)
		}
	}
	for _, half := range []struct {
		c    *cell
		part []int
	}{{one, first}, {two, second}} {
		if len(half.part) > 0 {
			t.split(half.c, half.part, known)
			c.halves = append(c.halves, half.c)
		}
	}
}

func swapped(corners []int, at, by int) []int {
	out := append([]int(nil), corners...)
	out[at] = by
	return out
}

func (t *tree) length(i, k int) (sum float64) {
	for x := range t.points[i] {
		d := t.points[i][x] - t.points[k][x]
		sum += d * d
	}
	return sum
}

// within gives the shares of a recipe counted in the corners of a cell, by elimination.
func (t *tree) within(c *cell, recipe []int) []float64 {
	n := len(recipe)
	all := 0
	for _, p := range recipe {
		all += p
	}
	m := make([][]float64, n)
	for row := range m {
		m[row] = make([]float64, n+1)
		for col, corner := range c.corners {
			m[row][col] = t.points[corner][row]
		}
		m[row][n] = float64(recipe[row]) / float64(all)
	}
	for col := range n {
		pivot := col
		for row := col; row < n; row++ {
			if math.Abs(m[row][col]) > math.Abs(m[pivot][col]) {
				pivot = row
			}
		}
		m[col], m[pivot] = m[pivot], m[col]
		for row := range n {
			if row != col {
				f := m[row][col] / m[col][col]
				for x := col; x <= n; x++ {
					m[row][x] -= f * m[col][x]
				}
			}
		}
	}
	out := make([]float64, n)
	for i := range out {
		out[i] = m[i][n] / m[i][i]
	}
	return out
}
