package scheme

import (
	"fmt"
	"math"

	"cinderpath/core/form"
	"cinderpath/core/unit"
	"cinderpath/core/zone"
)

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
	for _, lines := range []bool{false, true} {
		for c := n - 1; c > 0; c-- {
			if out.line(c) == lines {
				l.lay(c, p.Set(c))
			}
		}
	}
	l.unsettle(labels)
	l.weigh()
	l.judge()
	return out, nil
}

// laying is a pattern on its way over a grid.
type laying struct {
	*Layout
	values []float32
	seen   []float64 // area of each colour that pictures show, where there are some
	area   []float64 // by panel
	whole  float64   // area of what is painted
	pins   []pin
	fine   []pin // along the rim of pictures
}

type pin struct {
	place
	colour int
	on     bool // it lies on the surface
}

// finer are how far the rounds reach in which a field is drawn to where edges run over the rim of a
// picture, of the width.
var finer = []float64{0.2, 0.1, 0.05, 0.03}

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
	line := l.line(c)
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
	if l.seen != nil {
		if more := l.seen[c] - want; more > 0.01*l.whole && !set.family().Fixed {
			l.Notes = append(l.Notes, fmt.Sprintf("%s: %.0f %% are wanted, and the picture alone shows %.0f %%",
				set.Name, set.Share.Of(100), 100*l.seen[c]/l.whole))
		}
		want = max(want-l.seen[c], 0) // what is seen of it counts
	}
	fixed := set.family().Fixed
	if want > 0.999*free && !fixed {
		l.Notes = append(l.Notes, fmt.Sprintf("%s: %.0f %% were wanted, and its zones have only %.1f %%",
			set.Name, set.Share.Of(100), 100*free/l.whole))
		want = 0.999 * free
	}
	m := making{
		grid: l.grid, panels: panels, seed: set.Seed, width: set.Width, bend: *set.Bend,
		angle: set.Angle * math.Pi / 180, frame: set.Frame, below: l.edges,
	}
	if free > 0 {
		m.part = unit.ShareOf(want, free)
	}
	f := &bent{field: set.family().make(m), width: l.pattern.widthOf(c)}
	l.laid[c] = laidColour{bent: f, feather: *set.Feather}
	l.pinShapes(c, f)
	l.measure(panels, f, line)
	level := float32(0)
	for round := range rounds {
		if !fixed {
			level = l.level(panels, f, want, free, line)
		}
		l.laid[c].level = level
		if round == rounds-1 {
			break // what is drawn is measured as well, or places and texels would tell different things
		}
		moved := l.pull(c, f, level)
		if len(moved) == 0 {
			break
		}
		l.raise(panels, moved, line)
	}
	for _, wide := range finer {
		moved := l.draw(c, f, wide)
		if len(moved) == 0 {
			continue
		}
		l.raise(panels, moved, line)
		if !fixed {
			l.laid[c].level = l.level(panels, f, want, free, line)
		}
	}
	l.cover(c, panels, line)
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

// raise adds new bumps to what a field said at all texels that no picture shows.
func (l *laying) raise(panels []int, bumps []bump, line bool) {
	l.each(panels, func(_ int, t *form.Texels) {
		for _, b := range bumps {
			i0, i1, j0, j1 := t.Near(b.at, b.radius)
			for j := j0; j < j1; j++ {
				for i := i0; i < i1; i++ {
					k := j*t.NX + i
					if t.Area[k] > 0 && (line || l.traced == nil || l.traced.seen[t.First+k] == 0) {
						l.values[t.First+k] += float32(b.of(t.Point(k)))
					}
				}
			}
		}
	})
}

// measure asks the field at all texels that no picture shows; edge lines run over what pictures show too.
func (l *laying) measure(panels []int, f *bent, line bool) {
	l.each(panels, func(i int, t *form.Texels) {
		p := place{panel: i, face: t.Normal, zone: t, near: new(form.Lattice)}
		du, dv := t.U, t.V
		for j := range t.NY {
			y := t.Y0 + (float64(j)+0.5)*t.Step
			for k, at := j*t.NX, 0; at < t.NX; k, at = k+1, at+1 {
				if t.Area[k] == 0 || l.traced != nil && !line && l.traced.seen[t.First+k] > 0 {
					continue
				}
				x := t.X0 + (float64(at)+0.5)*t.Step
				for q := range 3 {
					p.at[q] = t.Origin[q] + x*du[q] + y*dv[q]
				}
				p.x, p.y, p.edge = x, y, float64(t.Convex[k])
				l.values[t.First+k] = float32(f.at(p))
			}
		}
	})
}

// cover takes the texels above the level.
func (l *laying) cover(c int, panels []int, line bool) {
	cover := l.Cover[c] // with what a picture shows of it
	if cover == nil {
		cover = make([]uint8, l.grid.Count)
	}
	level, feather := l.laid[c].level, float32(l.laid[c].feather)
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
	l.smooth(c, panels, cover)
	l.Cover[c] = cover
}
