package look

import (
	"slices"

	"cinderpath/core/colour"
	"cinderpath/core/form"
	"cinderpath/core/paint"
	"cinderpath/core/strata"
)

// Coat is a layer, or one colour of it, as a surface gets it.
type Coat struct {
	strata.Deposit
	strata.Effect
	Paint paint.Paint
	Clear bool // nothing of it is seen but what its effect is
}

// The sheens by their number, as frames keep them; 0 is beside the panel.
var sheens = [...]colour.Sheen{"", colour.Matt, colour.Satin, colour.Gloss}

func numberOf(s colour.Sheen) uint8 {
	return uint8(max(slices.Index(sheens[:], s), 1))
}

// State is a surface on its way: what each texel reflects.
type State struct {
	grid  *form.Grid
	inner []float32           // below the skin, Bands for each texel
	sheen []uint8             // of the topmost binder
	loose []float32           // as seen, where powder lies on top; none while there is none
	dusty []bool              // where that is so
	under [strata.Bares]bared // what can be bared again
	seen  Frame
	eye   *eye
}

// bared is what a surface was: below its skin, and by its sheen.
type bared struct {
	inner []float32
	sheen []uint8
}

// Frame is what the eye sees of each texel: red, green, blue, and the number of its sheen,
// 0 where the texel lies beside its panel.
type Frame []uint8

// Plastic is what kits are moulded of, as seen, satin.
var Plastic = colour.RGB{0x9a, 0x9b, 0x9c}

// Bare is the surface as it comes out of the kit.
func Bare(g *form.Grid) *State {
	s := &State{
		grid:  g,
		inner: make([]float32, g.Count*Bands),
		sheen: make([]uint8, g.Count),
		seen:  make(Frame, 4*g.Count),
		eye:   daylight(),
	}
	ground := gathered(colour.Spectrum(Plastic, colour.Satin).Internal)
	form.Each(len(g.Texels), func(i int) {
		t := g.Texels[i]
		for k, a := range t.Area {
			if at := t.First + k; a > 0 {
				for g, r := range ground {
					s.inner[at*Bands+g] = float32(r)
				}
				s.sheen[at] = numberOf(colour.Satin)
				s.look(at)
			}
		}
	})
	return s
}

// Lay puts a coat on.
func (s *State) Lay(c Coat) {
	if c.Keeps != 0 {
		s.under[c.Keeps] = bared{slices.Clone(s.inner), slices.Clone(s.sheen)}
	}
	var f *film
	if !c.Clear {
		f = newFilm(c.Paint.Pigment(), c.Full)
	}
	if c.Loose && s.loose == nil {
		s.loose, s.dusty = make([]float32, len(s.inner)), make([]bool, len(s.sheen))
	}
	form.Each(len(c.Panels), func(n int) {
		t := s.grid.Texels[c.Panels[n]]
		for at := t.First; at < t.First+len(t.Area); at++ {
			step := c.Film[at]
			switch {
			case step == 0 || s.sheen[at] == 0:
				continue
			case c.Cover && step < strata.Steps:
				s.part(at, step, f, c.Effect)
			default:
				s.coat(at, step, f, c.Effect)
			}
			s.look(at)
		}
	})
}

// coat puts a film of so many steps on a texel.
func (s *State) coat(at int, step uint8, f *film, e strata.Effect) {
	inner := s.inner[at*Bands : at*Bands+Bands]
	if e.Reveals != 0 {
		if under := s.under[e.Reveals]; under.inner != nil {
			copy(inner, under.inner[at*Bands:])
			s.sheen[at] = under.sheen[at]
			s.settle(at)
		}
		return
	}
	if e.Loose && f != nil {
		loose := s.loose[at*Bands : at*Bands+Bands]
		if !s.dusty[at] {
			s.skin(inner, s.sheen[at], loose)
			s.dusty[at] = true
		}
		f.over(step, loose)
	} else {
		s.settle(at)
	}
	if f != nil {
		f.over(step, inner) // of powder too: what goes over it takes it under the skin
	}
	if e.Sheen != "" && 2*step >= strata.Steps {
		s.sheen[at] = numberOf(e.Sheen)
	}
}

// part puts a full film on a part of a texel: what is smaller than a texel shows as a mean of both.
func (s *State) part(at int, step uint8, f *film, e strata.Effect) {
	span := func(all []float32) []float32 { return all[at*Bands : at*Bands+Bands] }
	var inner, loose spectrum
	copy(inner[:], span(s.inner))
	dusty := s.dusty != nil && s.dusty[at]
	if s.loose != nil {
		if !dusty {
			s.skin(span(s.inner), s.sheen[at], span(s.loose)) // what is seen where no powder lies
		}
		copy(loose[:], span(s.loose))
	}
	sheen := s.sheen[at]
	s.coat(at, strata.Steps, f, e)
	c := float32(step) / strata.Steps
	if s.dusty != nil && (dusty || s.dusty[at]) {
		if !s.dusty[at] {
			s.skin(span(s.inner), s.sheen[at], span(s.loose))
		}
		for b, v := range span(s.loose) {
			span(s.loose)[b] = loose[b] + c*(v-loose[b])
		}
		s.dusty[at] = true
	}
	for b, v := range span(s.inner) {
		span(s.inner)[b] = inner[b] + c*(v-inner[b])
	}
	if 2*step < strata.Steps {
		s.sheen[at] = sheen
	}
}

// settle takes powder under the skin of what goes over it.
func (s *State) settle(at int) {
	if s.dusty != nil {
		s.dusty[at] = false
	}
}

// skin is how the eye sees what lies below a skin.
func (s *State) skin(inner []float32, sheen uint8, out []float32) {
	a, b, c := sheens[sheen].Skin()
	fa, fb, fc := float32(a), float32(b), float32(c)
	for g, r := range inner[:Bands] {
		out[g] = fa + fb*r/(1-fc*r)
	}
}

// look writes what the eye sees of a texel.
func (s *State) look(at int) {
	var seen spectrum
	if s.dusty != nil && s.dusty[at] {
		copy(seen[:], s.loose[at*Bands:])
	} else {
		s.skin(s.inner[at*Bands:at*Bands+Bands], s.sheen[at], seen[:])
	}
	out := s.seen[4*at : 4*at+4]
	s.eye.see(&seen, out)
	out[3] = s.sheen[at]
}

// Frame gives what is seen now.
func (s *State) Frame() Frame { return slices.Clone(s.seen) }

// laidBy is what can be bared again, in half the room.
type laidBy struct {
	inner []uint16
	sheen []uint8
}

// Checkpoint is a state laid by, in half the room.
type Checkpoint struct {
	inner, loose []uint16
	under        [strata.Bares]laidBy
	sheen        []uint8
	dusty        []bool
	seen         Frame
}

const whole = 65535

func packed(r []float32) []uint16 {
	if r == nil {
		return nil
	}
	out := make([]uint16, len(r))
	halves(len(r), func(from, to int) {
		for i, v := range r[from:to] {
			out[from+i] = uint16(v*whole + 0.5)
		}
	})
	return out
}

func unpacked(r []uint16) []float32 {
	if r == nil {
		return nil
	}
	out := make([]float32, len(r))
	halves(len(r), func(from, to int) {
		for i, v := range r[from:to] {
			out[from+i] = float32(v) / whole
		}
	})
	return out
}

// halves works on long lists in pieces, on all cores.
func halves(n int, f func(from, to int)) {
	const piece = 1 << 16
	form.Each((n+piece-1)/piece, func(i int) { f(i*piece, min((i+1)*piece, n)) })
}

// Checkpoint lays the state by.
func (s *State) Checkpoint() Checkpoint {
	c := Checkpoint{
		inner: packed(s.inner),
		loose: packed(s.loose),
		sheen: slices.Clone(s.sheen),
		dusty: slices.Clone(s.dusty),
		seen:  slices.Clone(s.seen),
	}
	for i, under := range s.under {
		c.under[i] = laidBy{packed(under.inner), slices.Clone(under.sheen)}
	}
	return c
}

// Resume takes a state up again on the grid that it was laid by of.
func (c Checkpoint) Resume(g *form.Grid) *State {
	s := &State{
		grid:  g,
		inner: unpacked(c.inner),
		loose: unpacked(c.loose),
		sheen: slices.Clone(c.sheen),
		dusty: slices.Clone(c.dusty),
		seen:  slices.Clone(c.seen),
		eye:   daylight(),
	}
	for i, under := range c.under {
		s.under[i] = bared{unpacked(under.inner), slices.Clone(under.sheen)}
	}
	return s
}
