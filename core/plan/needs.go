package plan

import (
	"errors"
	"fmt"
	"math"
	"slices"
	"strings"

	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/measure"
	"cinderpath/core/order"
	"cinderpath/core/paint"
	"cinderpath/core/strata"
)

// Need is what a step takes of one thing.
type Need struct {
	Pot     string      `json:"pot,omitempty"` // the jar or the mix; none where the layer names none
	Name    string      `json:"name"`
	For     []string    `json:"for,omitempty"` // details that are painted with it
	Family  string      `json:"family"`
	Hex     string      `json:"hex,omitempty"`
	ML      float64     `json:"ml"`              // unthinned
	Drops   int         `json:"drops,omitempty"` // of what is counted in drops
	Grams   float64     `json:"grams,omitempty"` // of powder
	Ratio   float64     `json:"ratio"`           // parts of thinner to one
	Thinner int         `json:"thinnerDrops,omitempty"`
	With    string      `json:"with,omitempty"` // the thinner
	Passes  int         `json:"passes,omitempty"`
	Split   []Dropped   `json:"split,omitempty"` // of a mix: drops of each jar
	Short   float64     `json:"shortMl,omitempty"`
	Why     measure.Why `json:"why"`
}

// Dropped is how many drops of one jar go into what a step takes of a mix.
type Dropped struct {
	Name  string `json:"name"`
	Hex   string `json:"hex,omitempty"`
	Drops int    `json:"drops"`
}

// Bulk is what a millilitre of loose pigment weighs, g.
const bulk = 0.8

// mostDrops is up to how many drops one counts them.
const mostDrops = 200

// cup is what an airbrush's cup holds, ml of thinned mix.
const cup = 7.0

// spread is what a layer leaves over all its zones, and on a typical face of hull and turret, µm.
type spread struct {
	strata.Spread
	by      map[string]float64 // by zone what there is to work, as its technique counts; nil where that tells nothing
	typical float64
	glanced strata.Deposit // on the places at which findings are looked for
	largest strata.Largest
}

// materials are what the steps' amounts follow from.
type materials struct {
	spreads map[string]spread  // by layer that lands unevenly
	areas   map[string]float64 // of its zones, model cm²

	forecasts map[string][]Forecast // by layer
	surface   order.Surface
}

// laying is one piece of a layer's work: a layer, or a colour or section of it.
type laying struct {
	layer  strata.Layer
	pot    paint.Pot
	named  string // jar that is named, there or not
	colour string // its name
	hex    string
	area   float64 // model cm² of this step
	film   float64 // mean dry film over that area, all coats, µm
}

// layingOf gives what of a layer a step lays; ok is false where it lays nothing that is poured.
func layingOf(s *Step, b document.Build, l strata.Layer, spread map[string]spread, whole float64) (laying, bool) {
	about := l.Kind.About()
	out := laying{layer: l, pot: l.Pot, named: l.Jar, hex: l.Hex, area: s.AreaCM}
	if l.IsScheme() {
		c := b.Scheme.Colour(s.Colour)
		out.pot, out.named, out.colour, out.hex = c.Pot, c.Jar, c.Name, c.Hex
	}
	if s.Kind != string(l.Kind) || l.Kind == strata.Decals || l.Kind.Works() {
		return out, false
	}
	strength := 1.0
	if l.IsScheme() && s.Colour > 1 {
		strength = b.Scheme.Colour(s.Colour).Film()
	}
	switch {
	case l.Even():
		out.film = l.EvenFilm() * strength
		if s.Round > 0 { // one coat of several, by brush
			out.film /= float64(max(l.Coats, 1))
		}
	case whole > 0:
		total := spread[l.ID]
		out.film = total.Film / (whole * float64(b.Scale*b.Scale) * 100)
	}
	return out, out.film > 0 && out.area > 0 && (about.Films || l.Pot.ID != "" || spread[l.ID].Film > 0)
}

// family of what is laid: the colour's own jar may be of another than its layer's.
func (l laying) family() paint.Family {
	id := l.layer.Family
	if l.pot.Family != "" {
		id = l.pot.Family
	}
	f, _ := paint.FamilyOf(id)
	return f
}

// thinned says how far it is thinned and what is set.
func (l laying) thinned(unit string, fine bool) (ratio float64, air string) {
	f := l.family()
	if l.layer.Applied == strata.Misted {
		ratio, air, _ = paint.AirbrushWords(f.ID, l.pot.Temper, unit, fine)
		return ratio, air
	}
	if f.Thinner == "none" {
		return 0, ""
	}
	if t := l.pot.Temper; t != nil && t.Brush != nil {
		return *t.Brush, ""
	}
	return l.layer.Kind.About().Thin.Usual(), ""
}

// need computes what it takes.
func (l laying) need(w document.Workshop, fine bool) Need {
	f := l.family()
	solids := f.Solids
	if l.pot.Seen && l.pot.Paint.Solids > 0 {
		solids = l.pot.Paint.Solids
	}
	ratio, _ := l.thinned(w.Pressure, fine)
	job := paint.Job{Area: l.area, Film: paint.Film(l.film), Coats: 1, Solids: solids, Thinner: ratio, Way: paint.Brush}
	switch {
	case strings.HasPrefix(f.ID, "spray_can"):
		job.Way = paint.Can
	case l.layer.Applied == strata.Misted:
		job.Way, job.Fills = paint.Airbrush, 1
		job.Fills = max(1, int(math.Ceil(job.Need().ML*(1+ratio)/cup-1e-9)))
	}
	a := job.Need()
	n := Need{
		Pot: l.pot.ID, Name: l.said(), Family: f.ID, Hex: l.hex, ML: a.ML, Ratio: ratio, Why: job.Why(),
	}
	if strings.HasPrefix(f.ID, "pigment_") && f.ID != "pigment_fixer" || f.ID == "pastel" {
		n.Grams = a.ML * bulk
		n.Why.Inputs = append(n.Why.Inputs, fmt.Sprintf("%.1f g of powder in a millilitre", bulk))
	} else if a.Drops <= mostDrops && l.layer.DepthMM == 0 {
		n.Drops, n.Thinner = a.Drops, a.Thinner
	}
	if ratio > 0 {
		n.With = f.Thinner
	}
	if l.layer.Applied == strata.Brushed && ratio > 1 { // thinned for effect: film by film
		n.Passes = max(1, int(math.Ceil(l.film/float64(paint.Thinned(paint.Film(f.FilmBrush), ratio))-1e-9)))
	}
	if l.pot.ID != "" {
		n.Short = max(0, a.ML-l.pot.Left)
	}
	if m, ok := w.Paint.Mix(l.pot.ID); ok {
		n.Split = split(w, m, a.ML)
	}
	return n
}

// split are the drops of each jar in so much of a mix, rounded up.
func split(w document.Workshop, m paint.Mixture, ml float64) (out []Dropped) {
	all := 0
	for _, p := range m.Parts {
		all += p.Drops
	}
	for _, p := range m.Parts {
		d := Dropped{Name: "a jar that is gone", Drops: int(math.Ceil(ml/paint.Drop*float64(p.Drops)/float64(all) - 1e-9))}
		if j, ok := w.Paint.Jar(p.Jar); ok {
			d.Name, d.Hex = j.Said(), j.Hex
		}
		out = append(out, d)
	}
	return out
}

// said is what is poured, as one says it.
func (l laying) said() string {
	f := l.family()
	switch {
	case l.pot.ID != "":
		return l.pot.Name
	case l.colour != "":
		return l.colour + ", " + f.Name
	}
	return f.Name
}

// words say a need in one line.
func (n Need) words() string {
	switch {
	case n.Grams > 0:
		return fmt.Sprintf("%.1f g of %s (%.1f ml)", n.Grams, n.Name, n.ML)
	case n.Drops == 0:
		return fmt.Sprintf("%.1f ml", n.ML)
	case n.Thinner == 0 && n.Drops == 1:
		return "a drop of paint"
	case n.Thinner == 0:
		return fmt.Sprintf("%.1f ml of paint (%d drops)", n.ML, n.Drops)
	}
	return fmt.Sprintf("%.1f ml of paint (%d %s) and %d %s of thinner",
		n.ML, n.Drops, plural(n.Drops, "drop", "drops"), n.Thinner, plural(n.Thinner, "drop", "drops"))
}

// mixing says how it is thinned for the brush.
func (n Need) mixing() string {
	if n.Ratio == 0 {
		return "as it comes"
	}
	out := paint.Ratio(n.Ratio) + " with " + n.With
	switch {
	case n.Passes > 1:
		out += fmt.Sprintf(", about %d thin passes", n.Passes)
	case n.Ratio <= 1:
		out += ", strokes one way"
	}
	return out
}

// spreads sums what each layer that lands unevenly leaves, over all its zones.
func (d *Deriver) spreads(b document.Build, s surface) (map[string]spread, error) {
	uneven := slices.DeleteFunc(slices.Clone(b.Layers), strata.Layer.Even)
	sums, faults := make([]spread, len(uneven)), make([]error, len(uneven))
	form.Each(len(uneven), func(i int) { // setting marks is one hand's work: others lay meanwhile
		l := uneven[i]
		sums[i], faults[i] = stage(d, "spread", []any{s.drawing, visible(l), beneath(b, l)}, func() (spread, error) {
			deposit, err := d.lands(b, s, l)
			if err != nil {
				return spread{}, err
			}
			g, err := d.grid(b, s)
			if err != nil {
				return spread{}, err
			}
			sample, err := d.sample(b, s, glanced)
			if err != nil {
				return spread{}, err
			}
			sum := spread{
				typical: deposit.Typical(g, strata.Typically), glanced: sample.Gathered(deposit), largest: deposit.Largest(g),
			}
			by := deposit.Spread(g)
			how, _ := l.Worked()
			for _, z := range s.zones { // in order: a sum must not hang on that of a map
				sum.Area += by[z].Area
				sum.Film += by[z].Film
				if units, ok := how.Units(by[z], float64(deposit.Full), float64(b.Scale)); ok {
					if sum.by == nil {
						sum.by = map[string]float64{}
					}
					sum.by[z] = units
				}
			}
			return sum, nil
		})
	})
	out := map[string]spread{}
	for i, l := range uneven {
		out[l.ID] = sums[i]
	}
	return out, errors.Join(faults...)
}
