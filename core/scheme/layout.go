package scheme

import (
	"cinderpath/core/form"
	"cinderpath/core/unit"
	"cinderpath/core/zone"
	"fmt"
	"math"
)

// Layout is a pattern laid over a surface: all that is told of it and all that is drawn of
// it come from the same texels and the same fields.
type Layout struct {
	Shares []unit.Share            // of each colour on the whole painted surface
	Zones  map[string][]unit.Share // of each colour by zone
	// Cover: by colour, none for the first: how much of it lies on each texel of the grid, 255 for all
	Cover [][]uint8
	Taken []uint8  // by texel: its colour
	Notes []string // what could not be as it was wanted
	Lost  []Lost   // pins that do not hold

	pattern Pattern
	grid    *form.Grid
	laid    []laidColour // by colour; none for the first
	traced  *traced      // what pictures told
}

// Lost is a pin that does not hold, and why.
type Lost struct {
	Anchor int    `json:"anchor"`
	Why    string `json:"why"`
}

// weigh sums the colours by area.
func (l *laying) weigh() {
	n := len(l.Shares)
	whole, zones := make([]float64, n), map[string][]float64{}
	for _, t := range l.grid.Texels {
		if zone.Bare(t.Zone) {
			continue
		}
		if zones[t.Zone] == nil {
			zones[t.Zone] = make([]float64, n)
		}
		for k, a := range t.Area {
			zones[t.Zone][l.Taken[t.First+k]] += float64(a)
			whole[l.Taken[t.First+k]] += float64(a)
		}
	}
	l.Shares = parts(whole, l.whole)
	for name, areas := range zones {
		l.Zones[name] = parts(areas, sum(areas))
	}
	for c := 1; c < n; c++ {
		set := l.pattern.Set(c)
		if away := float64(set.Share - l.Shares[c]); set.family().ID == Spots && away > 0.005 {
			l.Notes = append(l.Notes, fmt.Sprintf(
				"%s: spots of %.0f mm that keep their distance cover %.1f %%, %.0f %% were wanted: smaller ones find more room",
				set.Name, set.Width, l.Shares[c].Of(100), set.Share.Of(100)))
		}
	}
}

// parts are the shares of a whole; of nothing the first has all.
func parts(areas []float64, whole float64) []unit.Share {
	out := make([]unit.Share, len(areas))
	if whole <= 0 {
		out[0] = 1
		return out
	}
	for i, a := range areas {
		out[i] = unit.ShareOf(a, whole)
	}
	return out
}

func sum(x []float64) float64 {
	total := 0.0
	for _, v := range x {
		total += v
	}
	return total
}

// At is the colour at a place of a panel, real mm in its flat frame.
func (l *Layout) At(panel int, x, y float64) int {
	return l.colourAt(l.placeOn(panel, x, y))
}

func (l *Layout) placeOn(panel int, x, y float64) place {
	t := l.grid.Texels[panel]
	p := place{panel: panel, x: x, y: y, at: t.Space(x, y), face: t.Normal, edge: math.Inf(1), zone: t}
	if k, ok := t.At(x, y); ok {
		p.edge = float64(t.Convex[k])
	}
	return p
}

// middleOf is the middle of a texel in its panel's frame.
func middleOf(t *form.Texels, k int) (x, y float64) {
	return t.X0 + (float64(k%t.NX)+0.5)*t.Step, t.Y0 + (float64(k/t.NX)+0.5)*t.Step
}

// colourAt is the topmost colour at a place; edge lines lie over the fields whose edges they follow.
func (l *Layout) colourAt(p place) int {
	for c := len(l.laid) - 1; c > 0; c-- {
		if l.line(c) && l.liesAt(c, p) {
			return c
		}
	}
	if c, ok := l.traced.told(p); ok {
		return c
	}
	for c := len(l.laid) - 1; c > 0; c-- {
		if !l.line(c) && l.liesAt(c, p) {
			return c
		}
	}
	return 0
}

// line tells of a colour that runs along the edges of others.
func (l *Layout) line(c int) bool { return l.pattern.Colours[c].Family == Outlines }

// liesAt tells whether a colour lies at a place, whatever lies over it: as a picture says, or by its
// field; not before it is laid.
func (l *Layout) liesAt(c int, p place) bool {
	of := &l.laid[c]
	if of.bent == nil || !l.pattern.takes(c, p.zone.Zone) {
		return false
	}
	if told, ok := l.traced.told(p); ok && !l.line(c) {
		return told == c
	}
	return float32(of.at(p)) > of.level
}
