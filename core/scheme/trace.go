package scheme

import (
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"cinderpath/core/form"
	"cinderpath/core/measure"
)

// Trace is what one picture told of one side: which colour is seen where. It lies in the plane of the
// view, at real size, so that it fits any scale.
type Trace struct {
	Side   form.Side  `json:"side"`
	Origin [2]float64 `json:"origin"` // of its upper left corner, to the right and down, real mm
	Pixel  float64    `json:"pixel"`  // side of a square, real mm
	Wide   int        `json:"wide"`
	High   int        `json:"high"`
	// Rows of squares from above: from the left a letter for each colour (a for the first), a point
	// for what is not known, and how many of them follow each other.
	Rows []string `json:"rows"`
	Far  string   `json:"far,omitempty"` // what the other side gets: Mirrored, Turned, or nothing
	// Photo is the hash of the picture it was read from, where that is kept with the build.
	Photo string `json:"photo,omitempty"`
}

// What the far side gets.
const (
	Mirrored = "mirrored"
	Turned   = "turned"
)

// Limits of a trace.
const (
	MostTraces  = 5
	mostSquares = 400_000
)

const unknown = 255

// packSquares writes squares as a trace keeps them.
func packSquares(all []uint8, wide int) (rows []string) {
	for from := 0; from < len(all); from += wide {
		rows = append(rows, packRow(all[from:from+wide]))
	}
	return rows
}

func packRow(all []uint8) string {
	var out strings.Builder
	for i := 0; i < len(all); {
		k := i
		for k < len(all) && all[k] == all[i] {
			k++
		}
		letter := byte('.')
		if all[i] != unknown {
			letter = 'a' + all[i]
		}
		out.WriteByte(letter)
		if k-i > 1 {
			out.WriteString(strconv.Itoa(k - i))
		}
		i = k
	}
	return out.String()
}

// squares reads them.
func (t Trace) squares() ([]uint8, error) {
	if len(t.Rows) != t.High {
		return nil, fmt.Errorf("a picture's squares: %d rows of %d; read the picture again", len(t.Rows), t.High)
	}
	out := make([]uint8, 0, t.Wide*t.High)
	for _, row := range t.Rows {
		all, err := readRow(row, t.Wide)
		if err != nil {
			return nil, err
		}
		out = append(out, all...)
	}
	return out, nil
}

func readRow(row string, n int) ([]uint8, error) {
	out := make([]uint8, 0, n)
	for i := 0; i < len(row); {
		c := row[i]
		v := c - 'a'
		if c == '.' {
			v = unknown
		} else if v >= MostColours {
			return nil, fmt.Errorf("a picture's squares: %q at %d is no colour; read the picture again", string(c), i+1)
		}
		i++
		k := i
		for k < len(row) && row[k] >= '0' && row[k] <= '9' {
			k++
		}
		count := 1
		if k > i {
			var err error
			if count, err = strconv.Atoi(row[i:k]); err != nil || count < 1 {
				return nil, fmt.Errorf("a picture's squares: %q is no count; read the picture again", row[i:k])
			}
		}
		if len(out)+count > n {
			return nil, fmt.Errorf("a picture's squares: more than %d in a row; read the picture again", n)
		}
		for range count {
			out = append(out, v)
		}
		i = k
	}
	if len(out) != n {
		return nil, fmt.Errorf("a picture's squares: %d of %d; read the picture again", len(out), n)
	}
	return out, nil
}

func (t Trace) check(colours int) error {
	if t.Photo != "" && !measure.IsHash(t.Photo) {
		return fmt.Errorf("the picture of a side is named %.20q; upload it first and give the hash told", t.Photo)
	}
	if !slices.Contains(form.Sides, t.Side) {
		return fmt.Errorf("a picture of %q is no view; use left, right, top, front or rear", t.Side)
	}
	if t.Far != "" && t.Far != Mirrored && t.Far != Turned {
		return fmt.Errorf("the far side of a picture is mirrored, turned or free, not %q", t.Far)
	}
	if t.Wide < 1 || t.High < 1 || t.Wide > mostSquares || t.High > mostSquares || t.Wide*t.High > mostSquares ||
		!(t.Pixel > 0) {
		return fmt.Errorf("a picture of %d × %d squares; read it again, at most %d of them", t.Wide, t.High, mostSquares)
	}
	all, err := t.squares()
	if err != nil {
		return err
	}
	for _, v := range all {
		if v != unknown && int(v) >= colours {
			return fmt.Errorf("a picture shows colour %d, which the scheme has not; read it again", v+1)
		}
	}
	return nil
}

// shown is a trace that a surface is looked at with: from its own side, or from the other one.
type shown struct {
	Trace
	all                 []uint8
	right, down, toward form.Vec
	flip                form.Vec // of a place, before it is looked up
	deep                map[[2]int32]float64
	cell                float64
}

// leastFacing is how far a face is turned to the viewer at least to be read.
const leastFacing = 0.35

// shownBy prepares the traces of a pattern, with what of the surface hides what.
func shownBy(p Pattern, g *form.Grid) (out []*shown, err error) {
	for _, t := range p.Traces {
		all, err := t.squares()
		if err != nil {
			return nil, err
		}
		right, down, toward := t.Side.Axes()
		out = append(out, &shown{Trace: t, all: all, right: right, down: down, toward: toward, flip: form.Vec{1, 1, 1}})
	}
	// What a picture shows itself goes before what is mirrored of another.
	for _, t := range p.Traces {
		if t.Far == "" {
			continue
		}
		all, err := t.squares()
		if err != nil {
			return nil, err
		}
		right, down, toward := t.Side.Axes()
		flip := form.Vec{1, 1, 1}
		for k := range 3 {
			if toward[k] != 0 || t.Far == Turned && right[k] != 0 {
				flip[k] = -1
			}
		}
		out = append(out, &shown{Trace: t, all: all, right: right, down: down, toward: toward, flip: flip})
	}
	for _, s := range out {
		s.look(g)
	}
	return out, nil
}

// look finds how near to the viewer the surface comes, by squares of a texel and a half.
func (s *shown) look(g *form.Grid) {
	s.cell, s.deep = 1.5*g.Step, map[[2]int32]float64{}
	for _, t := range g.Texels {
		if s.facing(t.Normal) <= 0 {
			continue
		}
		for k, a := range t.Area {
			if a == 0 {
				continue
			}
			p := s.flipped(t.Point(k))
			at := s.cellAt(p)
			if d := p.Dot(s.toward); d > s.deep[at] || s.deep[at] == 0 {
				s.deep[at] = d
			}
		}
	}
}

func (s *shown) flipped(p form.Vec) form.Vec {
	return form.Vec{p[0] * s.flip[0], p[1] * s.flip[1], p[2] * s.flip[2]}
}

func (s *shown) facing(n form.Vec) float64 { return s.flipped(n).Dot(s.toward) }

func (s *shown) cellAt(p form.Vec) [2]int32 {
	return [2]int32{int32(math.Floor(p.Dot(s.right) / s.cell)), int32(math.Floor(p.Dot(s.down) / s.cell))}
}

// colour is what is seen of a place; ok is false of what is turned away, hidden or not known.
func (s *shown) colour(p form.Vec, normal form.Vec) (c uint8, ok bool) {
	facing := s.facing(normal)
	if facing < leastFacing {
		return 0, false
	}
	p = s.flipped(p)
	// A slope falls back within a cell.
	if p.Dot(s.toward) < s.deep[s.cellAt(p)]-3*s.cell*math.Sqrt(max(1-facing*facing, 0.05))/facing {
		return 0, false
	}
	return s.read(p)
}

// read looks a place up: of the four squares about it the colour that has most of it, so that edges
// run slantwise through squares.
func (s *shown) read(p form.Vec) (uint8, bool) {
	x := (p.Dot(s.right)-s.Origin[0])/s.Pixel - 0.5
	y := (p.Dot(s.down)-s.Origin[1])/s.Pixel - 0.5
	i, j := int(math.Floor(x)), int(math.Floor(y))
	dx, dy := x-float64(i), y-float64(j)
	var weight [MostColours]float64
	for b := range 2 {
		for a := range 2 {
			if ii, jj := i+a, j+b; ii >= 0 && jj >= 0 && ii < s.Wide && jj < s.High {
				if v := s.all[jj*s.Wide+ii]; v != unknown {
					w := (dx*float64(a) + (1-dx)*float64(1-a)) * (dy*float64(b) + (1-dy)*float64(1-b))
					weight[v] += w
				}
			}
		}
	}
	best, most := 0, 0.0
	for c, w := range weight {
		if w > most {
			best, most = c, w
		}
	}
	return uint8(best), most > 0
}
