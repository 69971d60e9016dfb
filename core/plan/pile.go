package plan

import (
	"math"
	"slices"

	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/look"
	"cinderpath/core/scheme"
	"cinderpath/core/strata"
)

// How many texels of a zone stand for all of it: where one asks, and where findings are looked for.
const (
	sampled = 2000
	glanced = 150
)

// sample are the texels of a build's surface that stand for all: so many of each zone at most.
func (d *Deriver) sample(b document.Build, s surface, most int) (look.Sample, error) {
	return stage(d, "sample", []any{s.drawing, most}, func() (look.Sample, error) {
		g, err := d.grid(b, s)
		if err != nil {
			return look.Sample{}, err
		}
		return look.NewSample(g, most), nil
	})
}

// heap is what a pile is heaped of: coats along the path, and what of each lies on the sample.
type heap struct {
	build  document.Build
	coats  []coated
	sample look.Sample
	most   int  // places of each zone that are wanted; all of the sample when 0
	brief  bool // only what findings ask for
	laid   camouflage
	lies   func(l strata.Layer) (strata.Deposit, error) // of a layer that lands unevenly
}

// pile heaps the coats; layers tells of each ply which coat it is.
func (h heap) pile() (p *look.Pile, coats []int, err error) {
	thin, places := h.sample, []int(nil)
	if h.most > 0 {
		thin, places = thin.Thinned(h.most)
	}
	var plies []look.Ply
	for i, c := range h.coats {
		deposit, err := h.deposit(c)
		if err != nil {
			return nil, nil, err
		}
		if h.most > 0 {
			deposit = look.Picked(deposit, places)
		}
		bares := c.barest()
		if c.hex != "" {
			c.layer.Hex = c.hex
		}
		material, ok := c.layer.Material()
		plies = append(plies, look.Ply{
			Coat:  look.Coat{Deposit: deposit, Effect: c.effect(), Paint: material, Clear: !ok},
			Meant: c.layer.Shows(),
		})
		coats = append(coats, i)
		if bares {
			for _, u := range strata.UndressedOn(h.zones(thin), c.layer.Rubber) {
				plies = append(
					plies,
					look.Ply{Coat: look.Coat{Deposit: u.Deposit, Effect: strata.Effect{Sheen: u.Paint.Sheen}, Paint: u.Paint}},
				)
				coats = append(coats, i)
			}
		}
	}
	for i := range plies {
		below := h.coats[coats[i]].layer
		for k := i + 1; k < len(plies) && h.coats[coats[k]].layer.ID == below.ID; k++ {
			plies[i].Until = k - i
		}
		for k := i + 1; k < len(plies); k++ {
			if slices.ContainsFunc(h.coats[coats[k]].layer.GoesBy(), below.Answers) {
				plies[i].With = append(plies[i].With, k)
			}
		}
	}
	return look.NewPile(thin, plies), coats, nil
}

// zones are those of the places.
func (h heap) zones(s look.Sample) []string {
	out := make([]string, len(s.At))
	for z, name := range s.Zones {
		for place := s.First[z]; place < s.First[z+1]; place++ {
			out[place] = name
		}
	}
	return out
}

// deposit is what of a coat lies on the sample.
func (h heap) deposit(c coated) (strata.Deposit, error) {
	if !c.layer.Even() {
		return h.lies(c.layer)
	}
	out := c.layer.EvenOn(h.zones(h.sample))
	if !c.layer.IsScheme() || out.Film == nil {
		return out, nil
	}
	at := min(max(c.colour-1, 0), len(h.laid.Cover)-1)
	strength := c.strong
	if at == 0 && strength != scheme.Mist {
		strength = scheme.Full
	}
	if cover := h.laid.Laid(at, strength); cover != nil {
		for i, texel := range h.sample.At {
			out.Film[i] = uint8(math.Round(float64(out.Film[i]) * float64(cover[texel]) / 255))
		}
	}
	return out, nil
}

// heapOf gives the heap of a build, from what its layers leave; few of a zone where findings are looked for
// in what was summed up of them already.
func (d *Deriver) heapOf(b document.Build, coats []coated, spreads map[string]spread) (heap, error) {
	s, laid, err := d.wearing(b)
	if err != nil {
		return heap{}, err
	}
	most := sampled
	if spreads != nil {
		most = glanced
	}
	sample, err := d.sample(b, s, most)
	if err != nil {
		return heap{}, err
	}
	return heap{
		build: b, coats: coats, sample: sample, laid: laid, brief: spreads != nil,
		lies: func(l strata.Layer) (strata.Deposit, error) {
			if spreads != nil {
				return spreads[l.ID].glanced, nil
			}
			deposit, err := d.deposited(b, s, l)
			return sample.Gathered(deposit), err
		},
	}, nil
}

// column gives the heap of one place.
func (d *Deriver) column(b document.Build, coats []coated, g *form.Grid, texel int) (heap, error) {
	s, laid, err := d.wearing(b)
	if err != nil {
		return heap{}, err
	}
	one := look.OnePlace(g, texel)
	return heap{
		build: b, coats: coats, sample: one, laid: laid,
		lies: func(l strata.Layer) (strata.Deposit, error) {
			deposit, err := d.deposited(b, s, l)
			return one.Gathered(deposit), err
		},
	}, nil
}

// texelAt is the texel at a place that was picked on a zone; ok is false beside it.
func texelAt(g *form.Grid, name string, at form.Vec) (texel int, ok bool) {
	near := math.Inf(1)
	for _, t := range g.Texels {
		if t.Zone != name {
			continue
		}
		flat := t.Flat(at)
		k, on := t.At(flat[0], flat[1])
		if off := math.Abs(t.Normal.Dot(at.Sub(t.Origin))); on && t.Area[k] > 0 && off < near {
			texel, near, ok = t.First+k, off, true
		}
	}
	return texel, ok
}
