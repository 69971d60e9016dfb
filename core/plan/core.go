package plan

import (
	"cmp"
	"fmt"
	"slices"

	"cinderpath/core/colour"
	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/look"
	"cinderpath/core/measure"
	"cinderpath/core/strata"
	"cinderpath/core/unit"
	"cinderpath/core/zone"
)

// CoreQuestion asks what lies at a place: where a view is picked, or at a typical place of a zone.
type CoreQuestion struct {
	Look string     `json:"look"` // as a step names it
	Zone string     `json:"zone,omitempty"`
	Side form.Side  `json:"side,omitempty"`
	At   [2]float64 `json:"at"` // in the view, model mm
}

// CoreSample is the column at a place of the surface, from the bare kit up.
type CoreSample struct {
	Zone    string       `json:"zone"`
	Where   string       `json:"where"`
	Seen    []PinAt      `json:"seen"` // where the place is in the views
	Plies   []CorePly    `json:"plies"`
	Ends    string       `json:"ends"` // colour seen on top
	Bare    string       `json:"bare"` // of the kit's plastic
	Sheen   colour.Sheen `json:"sheen"`
	FilmUM  float64      `json:"filmUm"` // of all of it
	Back    int          `json:"back"`   // plies from the top that can be taken back
	Words   string       `json:"words"`
	Missing []string     `json:"missing"` // layers that do not reach the place
	Why     measure.Why  `json:"why"`
}

// CorePly is one layer of the column.
type CorePly struct {
	Layer  string     `json:"layer"`
	Name   string     `json:"name"`
	Hex    string     `json:"hex,omitempty"` // of what it is made of
	Clear  bool       `json:"clear,omitempty"`
	FilmUM float64    `json:"filmUm"` // where it lies
	Cover  unit.Share `json:"cover"`  // of the place
	After  string     `json:"after"`  // colour seen once it is on
	Now    float64    `json:"now"`    // ΔE00 that it makes when it is laid
	End    float64    `json:"end"`    // and at the end
	Meant  bool       `json:"meant"`  // to be seen
	Part   unit.Share `json:"part"`   // of it that is still seen
	Back   string     `json:"back"`   // how it can be taken back, or why not
	Bares  bool       `json:"bares,omitempty"`
}

// Core answers.
func (d *Deriver) Core(q CoreQuestion) (CoreSample, error) {
	all, n, err := d.named(q.Look)
	if err != nil {
		return CoreSample{}, err
	}
	b := all.build
	s, err := d.surface(b)
	if err != nil {
		return CoreSample{}, err
	}
	g, err := d.grid(b, s)
	if err != nil {
		return CoreSample{}, err
	}
	var texel int
	if q.Side != "" {
		point, name, ok := form.Pick(q.Side, s.panels, b.Scale, q.At)
		if ok {
			texel, ok = texelAt(g, name, point)
		}
		if !ok {
			return CoreSample{}, measure.Refuse("at", "nothing of the vehicle is there", "click on the vehicle")
		}
	} else if texel, err = d.typical(b, s, all.coats[:n], q.Zone); err != nil {
		return CoreSample{}, err
	}
	h, err := d.column(b, all.coats[:n], g, texel)
	if err != nil {
		return CoreSample{}, err
	}
	out, err := h.core()
	if err != nil {
		return CoreSample{}, err
	}
	t, k := g.Find(texel)
	out.Seen = seenAt(s, b, out.Zone, t.Point(k))
	return out, nil
}

// typical is the texel of a zone on which half of its places have more.
func (d *Deriver) typical(b document.Build, s surface, coats []coated, name string) (int, error) {
	if !slices.Contains(s.zones, name) {
		return 0, measure.Refuse("zone", fmt.Sprintf("%q is no zone of the vehicle", name), "pick one on the plate")
	}
	h, err := d.heapOf(b, coats, nil)
	if err != nil {
		return 0, err
	}
	h.most = glanced
	pile, _, err := h.pile()
	if err != nil {
		return 0, err
	}
	z := slices.Index(pile.Zones, name)
	type thick struct {
		at   int
		film float64
	}
	var all []thick
	for place := pile.First[z]; place < pile.First[z+1]; place++ {
		all = append(all, thick{int(pile.At[place]), pile.Film(place)})
	}
	slices.SortFunc(all, func(a, b thick) int { return cmp.Or(cmp.Compare(a.film, b.film), cmp.Compare(a.at, b.at)) })
	return all[len(all)/2].at, nil
}

// core tells of the column of the one place.
func (h heap) core() (CoreSample, error) {
	pile, coats, err := h.pile()
	if err != nil {
		return CoreSample{}, err
	}
	out := CoreSample{
		Zone:    pile.Zones[0],
		Where:   zone.Words(pile.Zones[0]),
		Plies:   []CorePly{},
		Missing: []string{},
		Bare:    look.Plastic.Hex(),
		Why: measure.Because("films in order through Kubelka–Munk, each as it lies there", []string{
			fmt.Sprintf("a square of %.2f mm on the model", float64(texel)),
		}),
	}
	_, survives := pile.Survival()
	var below *strata.Layer
	place := look.NewPlace()
	end := pile.Top(0)
	for i := range pile.Plies {
		p := &pile.Plies[i]
		c := h.coats[coats[i]]
		place.Lay(p, 0)
		step := p.At(0)
		name := c.layer.Name
		switch {
		case c.layer.IsScheme() && !p.Meant:
			name = "Track and rubber as they come"
		case c.layer.IsScheme():
			name += ": " + h.build.Scheme.Colour(c.colour).Name
		}
		if step == 0 {
			if !c.layer.IsScheme() && p.Film != nil {
				out.Missing = append(out.Missing, name)
			}
			continue
		}
		ply := CorePly{
			Layer:  c.layer.ID,
			Name:   name,
			Clear:  p.Clear,
			Cover:  1,
			FilmUM: float64(p.Thick(step)),
			After:  place.Seen().Hex(),
			Meant:  p.Meant,
			Part:   unit.Share(survives[i].Part),
			Now:    survives[i].First,
			End:    survives[i].Difference,
			Bares:  p.Reveals != 0,
		}
		if p.Cover {
			ply.Cover = unit.Share(float64(step) / strata.Steps)
		}
		if !p.Clear {
			ply.Hex = p.Paint.Swatch.Hex()
		}
		ply.Back = "it lies on the bare kit"
		if below != nil {
			ply.Back = c.layer.TakenBack(*below).Words
		}
		out.FilmUM += ply.FilmUM * float64(ply.Cover)
		out.Plies = append(out.Plies, ply)
		layer := c.layer
		below = &layer
	}
	out.Ends, out.Sheen = end.Seen().Hex(), end.Sheen()
	out.Back, out.Words = h.back(out.Plies)
	return out, nil
}

// back counts the plies that can be taken back from the top, and says down to where.
func (h heap) back(plies []CorePly) (n int, words string) {
	layers := map[string]strata.Layer{}
	for _, l := range h.build.Layers {
		layers[l.ID] = l
	}
	for i := len(plies) - 1; i > 0; i-- {
		if !layers[plies[i].Layer].TakenBack(layers[plies[i-1].Layer]).OK {
			break
		}
		n++
	}
	switch {
	case len(plies) == 0:
		return 0, "Bare: nothing lies there yet"
	case n == 0:
		return 0, plies[len(plies)-1].Name + " lies on top and stays: " + plies[len(plies)-1].Back
	}
	return n, "Down to " + plies[len(plies)-1-n].Name + " it can be taken back, as long as it is in time"
}
