package scheme

import (
	"cmp"
	"fmt"
	"slices"

	"cinderpath/core/colour"
	"cinderpath/core/form"
	"cinderpath/core/paint"
	"cinderpath/core/unit"
	"cinderpath/core/zone"
)

// Colour is one colour of a scheme, in spraying order.
type Colour struct {
	Name  string     `json:"name"`
	Hex   string     `json:"hex"`           // as the eye sees it, #rrggbb
	Share unit.Share `json:"share"`         // wanted part of the painted surface, 0 to 1; the first colour takes what is left
	Jar   string     `json:"jar,omitempty"` // the jar or the mix that it is sprayed from; its swatch rules

	Pot paint.Pot `json:"-"` // what is known of it
}

// Pattern is the rule that a scheme follows.
type Pattern struct {
	Colours []Colour `json:"colours"`
	Width   float64  `json:"width"`   // of a band, real mm
	Feather float64  `json:"feather"` // width of the soft edge, real mm; 0 is hard
	Seed    uint64   `json:"seed"`
	Without []string `json:"without,omitempty"` // zones, or first halves of zones, that stay in the first colour
}

// usual are colours to begin with, in the order in which they are sprayed.
var usual = []Colour{
	{Name: "lichen green", Hex: "#66704f"},
	{Name: "basalt grey", Hex: "#50524f", Share: 0.3},
	{Name: "kelp brown", Hex: "#5d4836", Share: 0.25},
}

// New is a vehicle in one colour, its bands fitted to its length, real mm.
func New(length float64) Pattern {
	return Pattern{Colours: slices.Clone(usual[:1]), Width: length / 9, Feather: length / 110, Seed: 1}
}

// WithColour adds the next usual colour that the pattern has not. It takes its share from
// the colour that has most, half of that at most.
func (p Pattern) WithColour() Pattern {
	p.Colours = slices.Clone(p.Colours)
	colours := p.Colours
	most, left := 0, unit.Share(1)
	for i := 1; i < len(colours); i++ {
		left -= colours[i].Share
		if colours[i].Share > colours[most].Share {
			most = i
		}
	}
	next := usual[slices.IndexFunc(usual, func(u Colour) bool {
		return !slices.ContainsFunc(colours, func(c Colour) bool { return c.Name == u.Name })
	})]
	next.Share = cmp.Or(next.Share, 0.25)
	if colours[most].Share > left {
		next.Share = min(next.Share, colours[most].Share/2)
		colours[most].Share -= next.Share
	} else {
		next.Share = min(next.Share, left/2)
	}
	p.Colours = append(p.Colours, next)
	return p
}

// Laid is the pattern without what does not move it: names and swatches.
func (p Pattern) Laid() Pattern {
	p.Colours = slices.Clone(p.Colours)
	for i := range p.Colours {
		p.Colours[i] = Colour{Name: "x", Hex: "#000000", Share: p.Colours[i].Share}
	}
	return p
}

// MostColours is what a band pattern can carry.
const MostColours = 3

// Check reports the first thing that makes a pattern impossible.
func (p Pattern) Check() error {
	if len(p.Colours) == 0 || len(p.Colours) > MostColours {
		return fmt.Errorf("a scheme has one to %d colours, this one has %d", MostColours, len(p.Colours))
	}
	sum := unit.Share(0)
	for i, c := range p.Colours {
		if c.Name == "" {
			return fmt.Errorf("colour %d has no name", i+1)
		}
		if _, err := colour.Parse(c.Hex); err != nil {
			return fmt.Errorf("colour %s: %w", c.Name, err)
		}
		if len(c.Jar) > 64 {
			return fmt.Errorf("colour %s: that is not the id of a jar; choose one of the shelf", c.Name)
		}
		if i > 0 {
			if !(c.Share > 0 && c.Share < 1) {
				return fmt.Errorf("colour %s: its share must lie between 0 and 100 %%", c.Name)
			}
			sum += c.Share
		}
	}
	switch {
	case sum > 0.95:
		return fmt.Errorf(
			"the colours above %s take %.0f %% together; leave it at least 5 %%",
			p.Colours[0].Name,
			sum.Of(100),
		)
	case len(p.Colours) > 1 && !(p.Width >= 50 && p.Width <= 5000):
		return fmt.Errorf("a band width of %.0f mm; give 50 to 5000 mm at full size", p.Width)
	case !(p.Feather >= 0 && p.Feather <= p.Width):
		return fmt.Errorf("a soft edge of %.0f mm; give 0 to the width of a band", p.Feather)
	}
	return nil
}

func (p Pattern) leavesOut(name string) bool {
	return len(p.Without) > 0 && zone.Among(name, p.Without)
}

// Layout is a pattern laid over a surface: all that is told of it and all that is drawn of
// it come from the same texels.
type Layout struct {
	Shares []unit.Share            // of each colour on the whole painted surface
	Zones  map[string][]unit.Share // of each colour by zone
	// Cover: by colour, none for the first: how much of it lies on each texel of the grid, 255 for all
	Cover [][]uint8
}

// Lay finds the thresholds that give each colour its share over the texels of the surface,
// the top colour first, the others on what it leaves. The same surface and seed give the
// same layout.
func Lay(p Pattern, g *form.Grid) (*Layout, error) {
	if err := p.Check(); err != nil {
		return nil, err
	}
	n := len(p.Colours)
	out := &Layout{Shares: make([]unit.Share, n), Zones: map[string][]unit.Share{}, Cover: make([][]uint8, n)}
	l := laying{pattern: p, grid: g, taken: make([]uint8, g.Count), values: make([]float32, g.Count)}
	for i, t := range g.Texels {
		if zone.Bare(t.Zone) {
			continue
		}
		for _, a := range t.Area {
			l.whole += float64(a)
		}
		if !p.leavesOut(t.Zone) {
			l.panels = append(l.panels, i)
		}
	}
	free := l.whole
	for c := n - 1; c > 0; c-- {
		want := p.Colours[c].Share.Of(l.whole)
		out.Cover[c] = l.lay(newField(p.Seed, c, p.Width, want/free), uint8(c), want)
		free -= want
	}
	l.weigh(out)
	return out, nil
}

// laying is a pattern on its way over a grid.
type laying struct {
	pattern Pattern
	grid    *form.Grid
	panels  []int   // those that take the scheme
	taken   []uint8 // by texel: its colour, 0 while free
	values  []float32
	whole   float64 // area of what is painted
}

// each runs f over the panels that take the scheme, on all cores.
func (l *laying) each(f func(t *form.Texels)) {
	form.Each(len(l.panels), func(i int) { f(l.grid.Texels[l.panels[i]]) })
}

// lay gives a colour its share of the free texels and tells how much of it lies on each.
func (l *laying) lay(f field, colour uint8, want float64) []uint8 {
	l.each(func(t *form.Texels) {
		for k, a := range t.Area {
			if a > 0 {
				l.values[t.First+k] = float32(f.at(t.Point(k)))
			}
		}
	})
	level := l.grid.Threshold(l.panels, l.values, l.taken, want)
	cover := make([]uint8, l.grid.Count)
	feather := float32(l.pattern.Feather)
	l.each(func(t *form.Texels) {
		for k, a := range t.Area {
			if a == 0 {
				continue
			}
			at := t.First + k
			v := l.values[at] - level
			if v > 0 && l.taken[at] == 0 {
				l.taken[at] = colour
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
	return cover
}

// weigh sums the colours by area.
func (l *laying) weigh(out *Layout) {
	n := len(out.Shares)
	whole, zones := make([]float64, n), map[string][]float64{}
	for _, t := range l.grid.Texels {
		if zone.Bare(t.Zone) {
			continue
		}
		if zones[t.Zone] == nil {
			zones[t.Zone] = make([]float64, n)
		}
		for k, a := range t.Area {
			zones[t.Zone][l.taken[t.First+k]] += float64(a)
			whole[l.taken[t.First+k]] += float64(a)
		}
	}
	out.Shares = parts(whole, l.whole)
	for name, areas := range zones {
		out.Zones[name] = parts(areas, sum(areas))
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
