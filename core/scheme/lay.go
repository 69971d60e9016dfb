package scheme

import (
	"fmt"
	"math"

	"cinderpath/core/form"
	"cinderpath/core/unit"
	"cinderpath/core/zone"
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

// laidColour is a colour's field with the level above which it lies.
type laidColour struct {
	*bent
	level   float32
	feather float64
}

// Lay finds the thresholds that give each colour its share over the texels of the surface,
// the top colour first, the others on what it leaves. The same surface and pattern give the
// same layout.
func Lay(p Pattern, g *form.Grid) (*Layout, error) {
	if err := p.Check(); err != nil {
		return nil, err
	}
	n := len(p.Colours)
	out := &Layout{
		Shares: make([]unit.Share, n), Zones: map[string][]unit.Share{}, Cover: make([][]uint8, n),
		Taken: make([]uint8, g.Count), pattern: p, grid: g, laid: make([]laidColour, n),
	}
	l := laying{Layout: out, values: make([]float32, g.Count)}
	for i, t := range g.Texels {
		l.area = append(l.area, 0)
		for _, a := range t.Area {
			l.area[i] += float64(a)
		}
		if !zone.Bare(t.Zone) {
			l.whole += l.area[i]
		}
	}
	labels, err := l.trace()
	if err != nil {
		return nil, err
	}
	l.settle(labels)
	for _, a := range p.Anchors {
		at, ok := out.place(a)
		l.pins = append(l.pins, pin{at, a.Colour, ok})
	}
	if labels != nil {
		l.border(labels)
	}
	// Edge lines follow the edges of all that lies below them: that is laid first.
	order := []int{}
	for c := n - 1; c > 0; c-- {
		if p.Set(c).Family != Outlines {
			order = append(order, c)
		}
	}
	for _, c := range order {
		l.lay(c, p.Set(c))
	}
	for c := 1; c < n; c++ {
		if p.Set(c).Family == Outlines {
			l.lay(c, p.Set(c))
		}
	}
	l.unsettle(labels)
	l.weigh()
	l.judge()
	return out, nil
}

// settled marks the first colour where a picture shows it, while others are laid.
const settled = 254

// settle gives texels the colours that pictures show, so that nothing else is laid there.
func (l *laying) settle(labels []uint8) {
	if labels == nil {
		return
	}
	n := len(l.Shares)
	sums, seen := make([]float64, n), 0.0
	for c := 1; c < n; c++ {
		l.Cover[c] = make([]uint8, l.grid.Count)
	}
	for _, t := range l.grid.Texels {
		if zone.Bare(t.Zone) {
			continue
		}
		for k, a := range t.Area {
			at := t.First + k
			c := labels[at]
			if a == 0 || c == unknown {
				continue
			}
			sums[c] += float64(a)
			seen += float64(a)
			if l.Taken[at] = c; c == 0 {
				l.Taken[at] = settled
			} else {
				l.Cover[c][at] = 255
			}
		}
	}
	l.guess, l.parts = l.whole-seen, parts(sums, seen)
}

// unsettle gives the first colour its number back.
func (l *laying) unsettle(labels []uint8) {
	for at, c := range labels {
		if c == 0 && l.Taken[at] == settled {
			l.Taken[at] = 0
		}
	}
}

// laying is a pattern on its way over a grid.
type laying struct {
	*Layout
	values []float32
	guess  float64      // area of what no picture shows, where pictures show some
	parts  []unit.Share // of each colour on what they show
	area   []float64    // by panel
	whole  float64      // area of what is painted
	pins   []pin
}

type pin struct {
	place
	colour int
	on     bool // it lies on the surface
}

// rounds in which ranks are made anew for pins.
const rounds = 8

// each runs f over panels, on all cores.
func (l *laying) each(panels []int, f func(i int, t *form.Texels)) {
	form.Each(len(panels), func(k int) { f(panels[k], l.grid.Texels[panels[k]]) })
}

// lay gives a colour its share of the free texels and tells how much of it lies on each.
func (l *laying) lay(c int, set Colour) {
	var panels []int
	for i, t := range l.grid.Texels {
		if l.pattern.takes(c, t.Zone) && l.area[i] > 0 {
			panels = append(panels, i)
		}
	}
	line := set.Family == Outlines
	frees := make([]float64, len(l.grid.Texels))
	l.each(panels, func(i int, t *form.Texels) {
		for k, a := range t.Area {
			if l.Taken[t.First+k] == 0 {
				frees[i] += float64(a)
			}
		}
	})
	free := sum(frees)
	want := set.Share.Of(l.whole)
	if l.parts != nil {
		want = l.parts[c].Of(l.guess) // as on what is seen
	}
	fixed := set.family().Fixed
	if want > 0.999*free && !fixed {
		l.Notes = append(l.Notes, fmt.Sprintf("%s: %.0f %% were wanted, and its zones have only %.1f %%",
			set.Name, set.Share.Of(100), 100*free/l.whole))
		want = 0.999 * free
	}
	m := making{
		grid: l.grid, panels: panels, seed: set.Seed, width: set.Width, bend: *set.Bend,
		angle: set.Angle * math.Pi / 180, frame: set.Frame, below: func() []form.Vec { return l.edges(c) },
	}
	if free > 0 {
		m.part = unit.ShareOf(want, free)
	}
	f := &bent{field: set.family().make(m), width: set.Width}
	if set.Width == 0 {
		f.width = 300
	}
	l.laid[c] = laidColour{bent: f, feather: *set.Feather}
	l.pinShapes(c, f)
	l.measure(panels, f, nil)
	level := float32(0)
	for round := range rounds {
		if !fixed {
			level = l.level(panels, f, want, free, line)
		}
		l.laid[c].level = level
		moved := l.pull(c, f, level)
		if len(moved) == 0 || round == rounds-1 {
			break
		}
		l.measure(panels, f, moved)
	}
	l.cover(c, panels, float32(*set.Feather), line)
}

// level above which the wanted area lies, no lower than the family bears.
func (l *laying) level(panels []int, f *bent, want, free float64, line bool) float32 {
	taken := l.Taken
	if line {
		taken = nil
	}
	level := float32(math.Inf(1))
	if free > 0 && want > 0 {
		level = l.grid.Threshold(panels, l.values, taken, want)
	}
	if least, ok := f.field.(interface{ least() float64 }); ok {
		level = max(level, float32(least.least()))
	}
	return level
}

// measure asks the field at all texels that no picture shows, or adds new bumps to what it said.
func (l *laying) measure(panels []int, f *bent, bumps []bump) {
	_, line := f.field.(*outline) // which runs over what pictures show too
	fresh := bent{width: f.width}
	fresh.bend(bumps)
	l.each(panels, func(i int, t *form.Texels) {
		p := place{panel: i, face: t.Normal, zone: t}
		du, dv := t.U, t.V
		for j := range t.NY {
			y := t.Y0 + (float64(j)+0.5)*t.Step
			for k, at := j*t.NX, 0; at < t.NX; k, at = k+1, at+1 {
				if t.Area[k] == 0 {
					continue
				}
				x := t.X0 + (float64(at)+0.5)*t.Step
				for q := range 3 {
					p.at[q] = t.Origin[q] + x*du[q] + y*dv[q]
				}
				if l.traced != nil && !line && l.traced.seen[t.First+k] > 0 {
					continue
				}
				if bumps != nil {
					if v := fresh.bumped(p.at); v != 0 {
						l.values[t.First+k] += float32(v)
					}
					continue
				}
				p.x, p.y, p.edge = x, y, float64(t.Convex[k])
				l.values[t.First+k] = float32(f.at(p))
			}
		}
	})
}

// cover takes the texels above the level.
func (l *laying) cover(c int, panels []int, feather float32, line bool) {
	cover := l.Cover[c] // with what a picture shows of it
	if cover == nil {
		cover = make([]uint8, l.grid.Count)
	}
	level := l.laid[c].level
	l.each(panels, func(_ int, t *form.Texels) {
		for k, a := range t.Area {
			if a == 0 {
				continue
			}
			at := t.First + k
			if l.traced != nil && l.traced.seen[at] > 0 && !line {
				continue
			}
			v := l.values[at] - level
			if v > 0 && (l.Taken[at] == 0 || line) {
				l.Taken[at] = uint8(c)
			}
			switch {
			case v > feather/2:
				cover[at] = 255
			case v > -feather/2:
				x := v/feather + 0.5
				cover[at] = uint8(255 * x * x * (3 - 2*x))
			}
		}
	})
	if feather == 0 {
		l.smooth(c, panels, cover)
	}
	l.Cover[c] = cover
}

// within is into how many places each way a texel on a hard edge is parted.
const within = 3

// smooth tells of texels on a hard edge how much of them is covered.
func (l *laying) smooth(c int, panels []int, cover []uint8) {
	of := &l.laid[c]
	l.each(panels, func(i int, t *form.Texels) {
		differs := func(k, x, y, dx, dy int) bool {
			return !beside(t, x+dx, y+dy) && (cover[t.First+k+dy*t.NX+dx] > 127) != (cover[t.First+k] > 127)
		}
		var edge []int
		for k, a := range t.Area {
			if x, y := k%t.NX, k/t.NX; a > 0 && (differs(k, x, y, 1, 0) || differs(k, x, y, -1, 0) ||
				differs(k, x, y, 0, 1) || differs(k, x, y, 0, -1)) {
				edge = append(edge, k)
			}
		}
		for _, k := range edge {
			inside := 0
			for n := range within * within {
				x := float64(k%t.NX) + (float64(n%within)+0.5)/within
				y := float64(k/t.NX) + (float64(n/within)+0.5)/within
				if p := l.placeOn(i, t.X0+x*t.Step, t.Y0+y*t.Step); float32(of.at(p)) > of.level {
					inside++
				}
			}
			share := float64(inside) / (within * within)
			if l.values[t.First+k] > of.level {
				share = max(share, 0.51) // it counts as covered
			} else {
				share = min(share, 0.49)
			}
			cover[t.First+k] = uint8(255 * share)
		}
	})
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
	if k, ok := texelAt(t, x, y); ok {
		p.edge = float64(t.Convex[k])
	}
	return p
}

func texelAt(t *form.Texels, x, y float64) (int, bool) {
	i, j := int(math.Floor((x-t.X0)/t.Step)), int(math.Floor((y-t.Y0)/t.Step))
	if i < 0 || j < 0 || i >= t.NX || j >= t.NY {
		return 0, false
	}
	return j*t.NX + i, true
}

func (l *Layout) colourAt(p place) int { return l.topmost(p, len(l.laid)) }

// topmost of the colours below one; edge lines lie over the fields whose edges they follow.
func (l *Layout) topmost(p place, below int) int {
	lies := func(c int) bool {
		of := &l.laid[c]
		return of.bent != nil && c != below && l.pattern.takes(c, p.zone.Zone) && float32(of.at(p)) > of.level
	}
	for c := len(l.laid) - 1; c > 0; c-- {
		if l.pattern.Colours[c].Family == Outlines && lies(c) {
			return c
		}
	}
	if c, ok := l.traced.told(p); ok {
		return c
	}
	for c := len(l.laid) - 1; c > 0; c-- {
		if l.pattern.Colours[c].Family != Outlines && lies(c) {
			return c
		}
	}
	return 0
}

// Colours gives the names in spraying order.
func (l *Layout) Colours() []string {
	var out []string
	for _, c := range l.pattern.Colours {
		out = append(out, c.Name)
	}
	return out
}

// Least is how little of a colour there must be to be looked at, of the surface.
const Least unit.Share = 1e-4
