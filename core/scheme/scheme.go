package scheme

import (
	"cmp"
	"fmt"
	"math"
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
	Share unit.Share `json:"share"`         // wanted part of what is painted, 0 to 1; the first takes what is left
	Jar   string     `json:"jar,omitempty"` // the jar or the mix that it is sprayed from; its swatch rules

	Family   string   `json:"family,omitempty"`   // how it is laid; bands where nothing is said
	Width    float64  `json:"width,omitempty"`    // of its fields, real mm; 0: as pattern or family
	Feather  *float64 `json:"feather,omitempty"`  // soft edge, real mm; 0 is hard; none: as pattern or family
	Bend     *float64 `json:"bend,omitempty"`     // waviness, roundness or curl, 0 to 1; none: as its family usually is
	Angle    float64  `json:"angle,omitempty"`    // of stripes and strokes, degrees from upright
	Frame    float64  `json:"frame,omitempty"`    // of panes, real mm; 0: as usual
	Seed     uint64   `json:"seed,omitempty"`     // 0: the pattern's
	Strength string   `json:"strength,omitempty"` // Full where nothing is said
	From     int      `json:"from,omitempty"`     // place in the order that its fields were laid at, from 1; 0: its own
	Zones    []string `json:"zones,omitempty"`    // it lies on these alone; none: everywhere
	Without  []string `json:"without,omitempty"`  // it keeps off these

	Pot paint.Pot `json:"-"` // what is known of it
}

// How strong a colour is laid.
const (
	Full   = ""
	Thin   = "thin"   // on purpose: looks worn without a chipping coat
	Mist   = "mist"   // of the first colour, over all at the end
	Rubbed = "rubbed" // rubbed back over what lies below, first at edges
)

// thinness is what of a full film a thin colour is.
const thinness = 0.4

// Film is what of a full coat a colour is laid with, in the mean.
func (c Colour) Film() float64 {
	if c.Strength == Thin {
		return thinness
	}
	return 1 // what is rubbed back was laid in full
}

// Anchor says that a place has a colour.
type Anchor struct {
	At     form.Vec `json:"at"`     // real mm
	Zone   string   `json:"zone"`   // on whose surface
	Colour int      `json:"colour"` // from 0
}

// Pattern is the rule that a scheme follows.
type Pattern struct {
	Colours []Colour `json:"colours"`
	Width   float64  `json:"width"`   // of a band, real mm
	Feather float64  `json:"feather"` // width of the soft edge, real mm; 0 is hard
	Seed    uint64   `json:"seed"`
	Without []string `json:"without,omitempty"` // zones, or first halves of zones, that stay in the first colour
	Anchors []Anchor `json:"anchors,omitempty"`
	Traces  []Trace  `json:"traces,omitempty"` // what pictures told
	Mist    bool     `json:"mist,omitempty"`   // a mist of the first colour closes it
}

// usual are colours to begin with, in the order in which they are sprayed.
var usual = []Colour{
	{Name: "lichen green", Hex: "#66704f"},
	{Name: "basalt grey", Hex: "#50524f", Share: 0.3},
	{Name: "kelp brown", Hex: "#5d4836", Share: 0.25},
	{Name: "sedge yellow", Hex: "#8f8152", Share: 0.15},
	{Name: "slate blue", Hex: "#4f5c66", Share: 0.12},
	{Name: "chalk white", Hex: "#d9d8cf", Share: 0.1},
	{Name: "peat black", Hex: "#2f2c29", Share: 0.08},
	{Name: "clay red", Hex: "#7a4f3d", Share: 0.06},
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
	next := usual[max(0, slices.IndexFunc(usual, func(u Colour) bool {
		return !slices.ContainsFunc(colours, func(c Colour) bool { return c.Name == u.Name })
	}))]
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
	p.Mist = false
	p.Colours = slices.Clone(p.Colours)
	for i := range p.Colours {
		c := &p.Colours[i]
		c.Name, c.Hex, c.Jar, c.Strength, c.Pot = "x", "#000000", "", "", paint.Pot{}
	}
	return p
}

// Limits of a scheme.
const (
	MostColours = 8
	MostAnchors = 200
)

// family of a colour.
func (c Colour) family() Family {
	f, _ := FamilyOf(cmp.Or(c.Family, byStandard))
	return f
}

// Set is a colour with all that is not said of it filled in.
func (p Pattern) Set(c int) Colour {
	out := p.Colours[c]
	f := out.family()
	out.Family = f.ID
	soft := f.Feather
	if f.ID == Bands {
		soft = p.Feather
		out.Width = cmp.Or(out.Width, p.Width)
	}
	out.Width = cmp.Or(out.Width, f.Width)
	if out.Feather == nil {
		out.Feather = &soft
	}
	if out.Bend == nil {
		out.Bend = &f.Bend
	}
	if f.Framed {
		out.Frame = cmp.Or(out.Frame, usualFrame)
	}
	place := uint64(c)
	if out.From > 0 {
		place = uint64(out.From - 1)
	}
	out.Seed = form.Hash(cmp.Or(out.Seed, p.Seed) + place*0x9e3779b97f4a7c15)
	return out
}

// hasWidth tells of a colour whose fields have a width that a picture can tell.
func (p Pattern) hasWidth(c int) bool {
	f := p.Set(c).family()
	return f.Width > 0 && f.ID != Outlines
}

// Fitted is the width that a colour's fields get after what is seen of them, real mm, in whole
// centimetres: their own where nothing was told, where the family has none, or where it would not bear it.
func (p Pattern) Fitted(c int, seen float64) float64 {
	wide := math.Round(seen/10) * 10
	if !p.hasWidth(c) || wide < 10 || wide > 5000 || wide < *p.Set(c).Feather {
		return p.Colours[c].Width
	}
	return wide
}

// Narrowest is the width of the narrowest fields above the first colour, real mm; ok is false where
// none has a width.
func (p Pattern) Narrowest() (width float64, ok bool) {
	for c := 1; c < len(p.Colours); c++ {
		if w := p.Set(c).Width; w > 0 && (!ok || w < width) {
			width, ok = w, true
		}
	}
	return width, ok
}

// widthOf is how wide a colour's fields are, real mm: of the first, and of one that has no width, as
// wide as the narrowest.
func (p Pattern) widthOf(c int) float64 {
	if c > 0 {
		if w := p.Set(c).Width; w > 0 {
			return w
		}
	}
	if w, ok := p.Narrowest(); ok {
		return w
	}
	return usualWidth
}

// usualWidth where no colour has one, real mm.
const usualWidth = 500.0

// Hard tells of a colour whose edges are not soft.
func (p Pattern) Hard(c int) bool { return *p.Set(c).Feather == 0 }

// widestLine along edges, real mm: beyond it no line is left.
const widestLine = 300.0

// usualFrame of panes, real mm.
const usualFrame = 60.0

// Check reports the first thing that makes a pattern impossible.
func (p Pattern) Check() error {
	if len(p.Colours) == 0 || len(p.Colours) > MostColours {
		return fmt.Errorf("a scheme has one to %d colours, this one has %d", MostColours, len(p.Colours))
	}
	sum := unit.Share(0)
	for i := range p.Colours {
		if err := p.checkColour(i); err != nil {
			return err
		}
		if i > 0 && !p.Colours[i].family().Fixed && len(p.Colours[i].Zones) == 0 {
			sum += p.Colours[i].Share
		}
	}
	if sum > 0.95 {
		return fmt.Errorf(
			"the colours above %s take %.0f %% together; leave it at least 5 %%",
			p.Colours[0].Name,
			sum.Of(100),
		)
	}
	if len(p.Anchors) > MostAnchors {
		return fmt.Errorf("%d pins; a scheme bears %d", len(p.Anchors), MostAnchors)
	}
	if len(p.Traces) > MostTraces {
		return fmt.Errorf("%d pictures; a scheme bears %d", len(p.Traces), MostTraces)
	}
	for _, t := range p.Traces {
		if err := t.check(len(p.Colours)); err != nil {
			return err
		}
	}
	for i, a := range p.Anchors {
		if a.Colour < 0 || a.Colour >= len(p.Colours) {
			return fmt.Errorf("pin %d: colour %d is not in the scheme; take the pin out", i+1, a.Colour+1)
		}
	}
	return nil
}

func (p Pattern) checkColour(i int) error {
	c := p.Colours[i]
	if c.Name == "" {
		return fmt.Errorf("colour %d has no name", i+1)
	}
	if _, err := colour.Parse(c.Hex); err != nil {
		return fmt.Errorf("colour %s: %w", c.Name, err)
	}
	if len(c.Jar) > 64 {
		return fmt.Errorf("colour %s: that is not the id of a jar; choose one of the shelf", c.Name)
	}
	if i == 0 {
		return nil
	}
	f := c.family()
	set := p.Set(i)
	switch {
	case f.ID == "":
		return fmt.Errorf("colour %s: %q is no way to lay a colour; choose one of the list", c.Name, c.Family)
	case !f.Fixed && !(c.Share > 0 && c.Share < 1):
		return fmt.Errorf("colour %s: its share must lie between 0 and 100 %%", c.Name)
	case f.Width > 0 && !(set.Width >= 10 && set.Width <= 5000):
		return fmt.Errorf("colour %s: a width of %.0f mm; give 10 to 5000 mm at full size", c.Name, set.Width)
	case f.ID == Outlines && set.Width > widestLine:
		return fmt.Errorf(
			"colour %s: an edge line of %.0f mm; give 10 to %.0f mm at full size",
			c.Name,
			set.Width,
			widestLine,
		)
	case !(*set.Feather >= 0 && *set.Feather <= max(set.Width, 100)):
		return fmt.Errorf("colour %s: a soft edge of %.0f mm; give 0 to the width of a field", c.Name, *set.Feather)
	case !(*set.Bend >= 0 && *set.Bend <= 1):
		return fmt.Errorf("colour %s: %g; give 0 to 1", c.Name, *set.Bend)
	case !(c.Angle >= -90 && c.Angle <= 90):
		return fmt.Errorf("colour %s: an angle of %g degrees; give -90 to 90 from upright", c.Name, c.Angle)
	case !(set.Frame >= 0 && set.Frame <= set.Width):
		return fmt.Errorf("colour %s: a frame of %.0f mm; give 0 to the width of a pane", c.Name, set.Frame)
	case c.Strength != Full && c.Strength != Thin && c.Strength != Rubbed:
		return fmt.Errorf("colour %s: it is laid full, thin or rubbed, not %q", c.Name, c.Strength)
	case f.ID == Stripes && len(c.Zones) == 0:
		return fmt.Errorf("colour %s: stripes lie on named zones only; name the skirts, the tail or the barrel", c.Name)
	}
	return nil
}

// takes tells whether a zone takes a colour.
func (p Pattern) takes(c int, name string) bool {
	of := p.Colours[c]
	out := func(places []string) bool { return len(places) > 0 && zone.Among(name, places) }
	return !zone.Bare(name) && !out(p.Without) && zone.Among(name, of.Zones) && !out(of.Without)
}
