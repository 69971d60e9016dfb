package plan

import (
	"fmt"
	"slices"
	"strings"

	"cinderpath/core/bench"
	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/look"
	"cinderpath/core/marking"
	"cinderpath/core/measure"
	"cinderpath/core/scheme"
	"cinderpath/core/strata"
)

// coated is a layer, or a colour of the scheme, on its way onto the surface.
type coated struct {
	layer  strata.Layer
	colour int    // of the scheme, the first is 1
	hex    string // of it
	strong string // how strong it is laid
	key    string // of the surface once it is on
}

// wears lists what goes onto the surface along the path, in the order in which it is first
// laid, and how much of it is on after each step.
func wears(b document.Build, steps []Step) (coats []coated, after []int) {
	after = make([]int, len(steps))
	known := map[[2]string]bool{}
	for i, s := range steps {
		at := slices.IndexFunc(b.Layers, func(l strata.Layer) bool { return l.ID == s.Layer })
		id := [2]string{s.Layer, fmt.Sprint(s.Colour)}
		if s.Kind == "mist" || s.Kind == stencil {
			id[1] = s.Kind + s.Part
		}
		if at >= 0 && s.Layer != "" && bench.KindOf(s.Kind).Lays && !s.Again && !known[id] {
			known[id] = true
			c := coated{layer: b.Layers[at], colour: s.Colour}
			if c.layer.IsScheme() {
				of := b.Scheme.Colour(s.Colour)
				c.hex, c.strong, c.layer.Pot = of.Hex, of.Strength, of.Pot
				if s.Kind == "mist" {
					c.strong = scheme.Mist
				}
			}
			coats = append(coats, c.apart(s)...)
		}
		after[i] = len(coats)
	}
	return coats, after
}

// stencil is the step that paints a marking by hand.
const stencil = "stencil"

// apart are the coats that a step lays: of markings, the one that it paints or all that are not painted, each
// colour by itself.
func (c coated) apart(s Step) (out []coated) {
	if len(c.layer.Drawn) == 0 {
		return []coated{c}
	}
	all := slices.DeleteFunc(slices.Clone(c.layer.Drawn), func(d marking.Drawn) bool {
		if s.Kind == stencil {
			return d.ID != s.Part
		}
		return d.Painted
	})
	for _, hex := range marking.Colours(all) {
		one := c
		one.layer.Drawn, one.hex = marking.InColour(all, hex), hex
		out = append(out, one)
	}
	return out
}

// visible names what of a layer the eye could see: what else changes does not paint anew.
func visible(l strata.Layer) []any {
	return []any{
		l.ID,
		l.Kind,
		l.Family,
		l.Zones,
		l.Applied,
		l.Coats,
		l.Hex,
		l.Sheen,
		l.DepthMM,
		l.Pot.Paint,
		l.Technique,
		l.Amount,
		l.SizeMM,
		l.Touches,
		l.Lived,
		l.Under,
		l.Drawn,
		l.Spares,
		l.Rubber,
	}
}

// effect of a coat: what lies below a scheme is kept before its first colour.
func (c coated) effect() strata.Effect {
	e := c.layer.Effect()
	if c.layer.IsScheme() && (c.colour > 1 || c.strong == scheme.Mist) {
		e.Keeps = 0
	}
	return e
}

// looks gives the surface's coats along the path with the keys of what is seen after each,
// the bare surface first.
func looks(
	b document.Build,
	drawing, laid string,
	steps []Step,
) (coats []coated, keys []string, after []int, err error) {
	coats, after = wears(b, steps)
	key, err := keyOf("bare", drawing)
	if err != nil {
		return nil, nil, nil, err
	}
	keys = []string{key}
	for i := range coats {
		c := &coats[i]
		inputs := []any{key, visible(c.layer), c.hex}
		if c.layer.IsScheme() {
			inputs = append(inputs, c.colour, c.strong, laid)
		}
		if key, err = keyOf("look", inputs); err != nil {
			return nil, nil, nil, err
		}
		c.key = key
		keys = append(keys, key)
	}
	return coats, keys, after, nil
}

// dressing is a build with all that goes onto its surface along the path.
type dressing struct {
	build document.Build
	coats []coated
	keys  []string // of what is seen after each coat, the bare surface first
}

// dress says of each step what is seen after it, and gives what pictures of it need.
func (d *Deriver) dress(b document.Build, w document.Workshop, p *Plan) (*dressing, error) {
	shape, err := d.shaped(b, w)
	if err != nil {
		return nil, err
	}
	coats, keys, after, err := looks(b, p.Drawing, shape.laid, p.Steps)
	if err != nil {
		return nil, err
	}
	sides := map[string][]form.Side{} // by places, which many steps share
	for i := range p.Steps {
		s := &p.Steps[i]
		at := strings.Join(s.Zones, " ")
		if _, known := sides[at]; !known {
			sides[at] = sidesOf(shape.shown, s.Zones)
		}
		s.Look, s.Sides = nameOf(keys[after[i]]), sides[at]
	}
	p.Bare = nameOf(keys[0])
	return &dressing{b, coats, keys}, nil
}

// nameOf is the part of a key that is fit for an address.
func nameOf(key string) string {
	_, name, _ := strings.Cut(key, " ")
	return name
}

// between checkpoints lie so many coats: so many are laid anew at most when one changes.
const between = 5

// frame gives what is seen when so many coats are on. It starts from the nearest state laid
// by below, and keeps all that it passes.
func (d *Deriver) frame(
	b document.Build,
	s surface,
	laid camouflage,
	coats []coated,
	keys []string,
	n int,
) (look.Frame, error) {
	d.developing.Lock()
	defer d.developing.Unlock()
	return stage(d, "frame", keys[n], func() (look.Frame, error) {
		g, err := d.grid(b, s)
		if err != nil {
			return nil, err
		}
		state, from := d.resumed(g, keys, n)
		for i := from; i < n; i++ {
			if err := d.lay(b, s, laid, g, state, coats[i]); err != nil {
				return nil, err
			}
			if (i+1)%between == 0 {
				if err := d.put("checkpoint", keys[i+1], state.Checkpoint()); err != nil {
					return nil, err
				}
			}
			if i+1 < n {
				if err := d.put("frame", keys[i+1], state.Frame()); err != nil {
					return nil, err
				}
			}
		}
		d.live, d.liveKey = state, keys[n]
		return state.Frame(), nil
	})
}

// resumed takes up the nearest state below: the one that was painted last where it is on
// the way, or one laid by, or the bare surface.
func (d *Deriver) resumed(g *form.Grid, keys []string, n int) (*look.State, int) {
	live := slices.Index(keys[:n+1], d.liveKey)
	for i := n / between * between; i > max(live, 0); i -= between {
		if c, ok := got[look.Checkpoint](d, "checkpoint", keys[i]); ok {
			return c.Resume(g), i
		}
	}
	if live >= 0 {
		state := d.live
		d.live, d.liveKey = nil, ""
		return state, live
	}
	return look.Bare(g), 0
}

// lay puts a coat on.
func (d *Deriver) lay(
	b document.Build,
	s surface,
	laid camouflage,
	g *form.Grid,
	state *look.State,
	c coated,
) error {
	deposit, err := d.coat(b, s, laid, c)
	if err != nil {
		return err
	}
	c.onto(state, g, deposit)
	return nil
}

// coat is what a coat leaves on the surface.
func (d *Deriver) coat(b document.Build, s surface, laid camouflage, c coated) (strata.Deposit, error) {
	if !c.layer.IsScheme() {
		return d.deposited(b, s, c.layer)
	}
	at := min(max(c.colour-1, 0), len(laid.Cover)-1)
	strength := c.strong
	if at == 0 && strength != scheme.Mist {
		strength = scheme.Full
	}
	inputs := []any{s.drawing, visible(c.layer), laid.key, c.colour, strength}
	return stage(d, "deposit", inputs, func() (strata.Deposit, error) {
		site, err := d.site(b, s)
		if err != nil {
			return strata.Deposit{}, err
		}
		return c.layer.SchemeDeposit(site, laid.Laid(at, strength)), nil
	})
}

// onto puts a coat's deposit on what is seen.
func (c coated) onto(state *look.State, g *form.Grid, deposit strata.Deposit) {
	bares := c.barest()
	if c.hex != "" {
		c.layer.Hex = c.hex
	}
	material, ok := c.layer.Material()
	state.Lay(look.Coat{Deposit: deposit, Effect: c.effect(), Paint: material, Clear: !ok})
	if bares {
		for _, u := range strata.Undressed(g, c.layer.Rubber) {
			state.Lay(look.Coat{Deposit: u.Deposit, Effect: strata.Effect{Sheen: u.Paint.Sheen}, Paint: u.Paint})
		}
	}
}

// barest tells of a scheme's first colour: track and rubber are left as they are.
func (c coated) barest() bool { return c.layer.IsScheme() && c.colour <= 1 && c.strong != scheme.Mist }

// below are the layers of a build under one by which it lands, the lowest first.
func below(b document.Build, l strata.Layer) (out []strata.Layer) {
	for _, x := range b.Layers {
		if x.ID == l.ID {
			break
		}
		if slices.ContainsFunc(l.GoesBy(), x.Answers) {
			out = append(out, x)
		}
	}
	return out
}

// beneath names what of the layers under one it lands by.
func beneath(b document.Build, l strata.Layer) (out []any) {
	for _, x := range below(b, l) {
		out = append(out, visible(x), beneath(b, x))
	}
	return out
}

// deposited is what a layer leaves on the surface.
func (d *Deriver) deposited(b document.Build, s surface, l strata.Layer) (strata.Deposit, error) {
	return stage(d, "deposit", []any{s.drawing, visible(l), beneath(b, l)}, func() (strata.Deposit, error) {
		return d.landed(b, s, l, d.deposited)
	})
}

// lands lays a layer on the surface, to be summed up only: deposits are large, and are not kept.
func (d *Deriver) lands(b document.Build, s surface, l strata.Layer) (strata.Deposit, error) {
	return d.landed(b, s, l, d.lands)
}

// landed lays a layer on the surface; lower gives those by which it lands.
func (d *Deriver) landed(
	b document.Build,
	s surface,
	l strata.Layer,
	lower func(document.Build, surface, strata.Layer) (strata.Deposit, error),
) (strata.Deposit, error) {
	site, err := d.site(b, s)
	if err != nil {
		return strata.Deposit{}, err
	}
	layers := below(b, l)
	deposits := make([]strata.Deposit, len(layers))
	for i, x := range layers {
		if deposits[i], err = lower(b, s, x); err != nil {
			return strata.Deposit{}, err
		}
	}
	return l.Deposit(site.With(strata.Beneath(layers, deposits))), nil
}

// Worn asks for the sheet that the turning vehicle wears.
const Worn form.Side = "worn"

// mostPixels of one picture.
const mostPixels = 6_000_000

// ErrForgotten says that no build that was derived lately looks so: derive it, and ask again.
var ErrForgotten = measure.Refuse("look", "the build does not look so any more", "ask for the plan again")

// printed is how fine pictures are printed, model mm to a point.
const printed = 0.2

// mostSides of a step that are worth a picture; one shows at least so much of what the best
// shows.
const (
	mostSides = 3
	worth     = 0.25
)
