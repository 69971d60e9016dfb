package paint

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"cinderpath/core/colour"
	"cinderpath/core/measure"
)

// Words say what a difference ΔE00 means to the eye.
func Words(difference float64) string {
	switch {
	case difference < 1:
		return "not seen side by side"
	case difference < 2:
		return "seen by a trained eye"
	case difference < 5:
		return "plainly another shade"
	}
	return "another colour"
}

// SpectrumQuestion asks what a swatch tells of a surface.
type SpectrumQuestion struct {
	Hex   string       `json:"hex"`
	Sheen colour.Sheen `json:"sheen,omitempty"` // with which it is seen; matt when empty
}

// SpectrumAnswer tells it: 36 bands, 380 to 730 nm by 10.
type SpectrumAnswer struct {
	Solved     []float64   `json:"solved"`   // as seen, before any bound acts
	Internal   []float64   `json:"internal"` // below the skin
	Clamped    int         `json:"clamped"`  // bands in which a bound acted
	Lab        colour.Lab  `json:"lab"`
	Seen       string      `json:"seen"`       // swatch of what comes back
	Difference float64     `json:"difference"` // ΔE00 to what was asked
	Why        measure.Why `json:"why"`
}

// AskSpectrum answers it.
func AskSpectrum(q SpectrumQuestion) (SpectrumAnswer, error) {
	c, err := colour.Parse(q.Hex)
	if err != nil {
		return SpectrumAnswer{}, measure.At("hex", err)
	}
	sheen, err := sheenOf(q.Sheen)
	if err != nil {
		return SpectrumAnswer{}, err
	}
	r := colour.Spectrum(c, sheen)
	seen := sheen.Seen(r.Internal).XYZ()
	back, _ := seen.RGB()
	return SpectrumAnswer{
		Solved: r.Solved[:], Internal: r.Internal[:], Clamped: r.Clamped, Lab: c.Lab(), Seen: back.Hex(),
		Difference: colour.Difference(c.Lab(), seen.Lab()),
		Why: measure.Because(
			"the smoothest reflectance of the colour (Burns 2020), less its skin (Saunderson 1942)",
			[]string{
				"swatch " + c.Hex() + ", seen " + string(sheen),
				fmt.Sprintf("bounds 0.002 and 0.99 acted in %d of 36 bands", r.Clamped),
			},
		),
	}, nil
}

func sheenOf(s colour.Sheen) (colour.Sheen, error) {
	switch s {
	case "":
		return colour.Matt, nil
	case colour.Matt, colour.Satin, colour.Gloss, colour.Loose:
		return s, nil
	}
	return s, measure.Refuse("sheen", fmt.Sprintf("%q is not a sheen", s), "use gloss, satin, matt or none")
}

// DifferenceQuestion asks how far two swatches are apart.
type DifferenceQuestion struct {
	A string `json:"a"`
	B string `json:"b"`
}

// DifferenceAnswer tells it.
type DifferenceAnswer struct {
	Difference float64     `json:"difference"` // ΔE00
	Words      string      `json:"words"`
	LabA       colour.Lab  `json:"labA"`
	LabB       colour.Lab  `json:"labB"`
	Why        measure.Why `json:"why"`
}

// AskDifference answers it.
func AskDifference(q DifferenceQuestion) (DifferenceAnswer, error) {
	a, err := colour.Parse(q.A)
	if err != nil {
		return DifferenceAnswer{}, measure.At("a", err)
	}
	b, err := colour.Parse(q.B)
	if err != nil {
		return DifferenceAnswer{}, measure.At("b", err)
	}
	d := colour.Difference(a.Lab(), b.Lab())
	return DifferenceAnswer{
		d,
		Words(d),
		a.Lab(),
		b.Lab(),
		measure.Because("CIEDE2000", []string{labWords(a), labWords(b)}),
	}, nil
}

func labWords(c colour.RGB) string {
	l := c.Lab()
	return fmt.Sprintf("%s is L %.1f, a %.1f, b %.1f", c.Hex(), l[0], l[1], l[2])
}

// AmountQuestion asks what a job takes.
type AmountQuestion struct {
	Area     float64 `json:"areaCm2"`
	Film     float64 `json:"filmUm"`           // dry, of one coat; 0 as the family has it
	Coats    int     `json:"coats"`            // 0 for one
	Family   string  `json:"family,omitempty"` // for solids and film where they are not given
	Solids   float64 `json:"solids,omitempty"`
	Thinner  float64 `json:"thinner"` // parts to one of paint
	Transfer float64 `json:"transfer,omitempty"`
	Sprayed  bool    `json:"sprayed,omitempty"`
	Fills    int     `json:"fills,omitempty"` // of the cup; 0 for one
}

// AmountAnswer tells it.
type AmountAnswer struct {
	ML      float64     `json:"ml"` // unthinned
	Drops   int         `json:"drops"`
	Thinner int         `json:"thinnerDrops"`
	Why     measure.Why `json:"why"`
}

// AskAmount answers it.
func AskAmount(q AmountQuestion) (AmountAnswer, error) {
	f, known := FamilyOf(q.Family)
	if q.Family != "" && !known {
		return AmountAnswer{}, measure.Refuse(
			"family",
			fmt.Sprintf("%q is not a kind of product", q.Family),
			"choose one of the table",
		)
	}
	way := Brush
	if q.Sprayed {
		way = Airbrush
	}
	job := Job{
		Area:    q.Area,
		Film:    Film(q.Film),
		Coats:   max(q.Coats, 1),
		Solids:  q.Solids,
		Thinner: q.Thinner,
		Fills:   max(q.Fills, 1),
		Way:     way,
	}
	if job.Film == 0 && q.Sprayed {
		job.Film = Film(f.FilmSpray)
	} else if job.Film == 0 {
		job.Film = Film(f.FilmBrush)
	}
	if job.Solids == 0 {
		job.Solids = f.Solids
	}
	if q.Transfer > 0 {
		job.Way.Transfer = q.Transfer
	}
	switch {
	case !(job.Solids > 0 && job.Solids <= 1):
		return AmountAnswer{}, measure.Refuse("solids", "the volume solids are not known", "give 0.01 to 1, or a family")
	case !(job.Film > 0):
		return AmountAnswer{}, measure.Refuse("filmUm", "the film is not known", "give its thickness, or a family")
	case !(q.Area > 0):
		return AmountAnswer{}, measure.Refuse("areaCm2", "there is no area", "give the area on the model")
	}
	a := job.Need()
	return AmountAnswer{a.ML, a.Drops, a.Thinner, job.Why()}, nil
}

// Why tells what an amount follows from.
func (j Job) Why() measure.Why {
	inputs := []string{
		fmt.Sprintf("%.1f cm² on the model", j.Area),
		fmt.Sprintf("%g µm of dry film, %d coats", math.Round(float64(j.Film)*100)/100, j.Coats),
		fmt.Sprintf("%.0f %% of the paint is solids, %.0f %% of it arrives", 100*j.Solids, 100*j.Way.Transfer),
	}
	if j.Way.Loss > 0 {
		inputs = append(
			inputs,
			fmt.Sprintf("%.1f ml of thinned mix stay in the cup at each of %d fills", j.Way.Loss, j.Fills),
		)
	}
	if j.Thinner > 0 {
		inputs = append(inputs, fmt.Sprintf("thinned 1 : %g", math.Round(j.Thinner*100)/100))
	}
	return measure.Because("area · film · coats / (solids · transfer) + loss · fills / (1 + thinner)", inputs)
}

// CoatsQuestion asks how many coats of a paint hide a ground, or how many passes show.
type CoatsQuestion struct {
	Hex    string       `json:"hex"`
	Family string       `json:"family,omitempty"`
	Hiding float64      `json:"hiding,omitempty"` // contrast ratio; 0 as the family usually has
	Ground string       `json:"ground"`           // swatch
	Film   float64      `json:"filmUm"`           // dry, of one coat
	Wanted float64      `json:"wanted,omitempty"` // ΔE00 to the ground that is wanted; 0 asks for hiding
	Sheen  colour.Sheen `json:"sheen,omitempty"`
}

// CoatsAnswer tells it.
type CoatsAnswer struct {
	Coats int         `json:"coats"`
	Ever  bool        `json:"ever"` // false: never, whatever the number
	Words string      `json:"words"`
	After []string    `json:"after"` // swatches after each, the first ten
	Why   measure.Why `json:"why"`
}

// AskCoats answers it.
func AskCoats(q CoatsQuestion) (CoatsAnswer, error) {
	sheen, err := sheenOf(q.Sheen)
	if err != nil {
		return CoatsAnswer{}, err
	}
	j := Jar{Family: q.Family, Hex: q.Hex, Hiding: Hiding(q.Hiding), Sheen: sheen}
	if j.Family == "" {
		j.Family = "waterborne_acrylic"
	}
	p, ok := j.Paint()
	if !ok {
		return CoatsAnswer{}, measure.Refuse(
			"hex",
			"the paint has no swatch, or its family no film",
			"give a swatch like #66704f",
		)
	}
	ground, err := colour.Parse(q.Ground)
	if err != nil {
		return CoatsAnswer{}, measure.At("ground", err)
	}
	if !(q.Film > 0) {
		return CoatsAnswer{}, measure.Refuse("filmUm", "there is no film", "give the dry film of one coat, such as 10 µm")
	}
	pigment, below := p.Pigment(), colour.Spectrum(ground, sheen).Internal
	out := CoatsAnswer{After: []string{}}
	if q.Wanted > 0 {
		out.Coats, out.Ever = pigment.Passes(Film(q.Film), below, q.Wanted, sheen)
		out.Words = fmt.Sprintf("%d passes show by ΔE00 %g", out.Coats, q.Wanted)
		if !out.Ever {
			out.Words = "it never shows so much, however thick"
		}
	} else {
		out.Coats, out.Ever = pigment.Coats(Film(q.Film), below, sheen)
		out.Words = fmt.Sprintf("%d coats until the ground is not seen", out.Coats)
		if !out.Ever {
			out.Words = fmt.Sprintf("it does not cover in %d coats", MostCoats)
		}
	}
	for n := 1; n <= min(out.Coats, 10); n++ {
		c, _ := sheen.Seen(pigment.Film(Film(n)*Film(q.Film), below)).XYZ().RGB()
		out.After = append(out.After, c.Hex())
	}
	out.Why = measure.Because("Kubelka–Munk, coat by coat, until ΔE00 to a film that hides all is below 1", []string{
		"paint " + p.Swatch.Hex() + fmt.Sprintf(
			", contrast ratio %.3g of 15 µm",
			float64(p.Hiding),
		),
		"ground " + ground.Hex(),
		fmt.Sprintf("%g µm of dry film each", q.Film),
	})
	return out, nil
}

// MixQuestion asks what some drops of some jars give.
type MixQuestion struct {
	Jars  []Jar        `json:"jars,omitempty"` // the workshop's when left out
	Parts []Part       `json:"parts"`
	Sheen colour.Sheen `json:"sheen,omitempty"`
}

// MixAnswer tells it.
type MixAnswer struct {
	Hex     string      `json:"hex"` // dry
	Lab     colour.Lab  `json:"lab"`
	Solids  float64     `json:"solids"`
	Hiding  float64     `json:"hiding"` // contrast ratio
	ML      float64     `json:"ml"`
	Becomes []Becomes   `json:"becomes"`
	Like    []Like      `json:"like"` // the likest on the shelf
	Why     measure.Why `json:"why"`
}

// Becomes is how a mix looks under something.
type Becomes struct {
	Under      string  `json:"under"`
	Hex        string  `json:"hex"`
	Difference float64 `json:"difference"` // ΔE00 to the mix dry and matt
}

// Like is a pot that looks like something.
type Like struct {
	Pot        string  `json:"pot"`
	Name       string  `json:"name"`
	Hex        string  `json:"hex"`
	Difference float64 `json:"difference"`
}

// AskMix answers it.
func AskMix(q MixQuestion) (MixAnswer, error) {
	sheen, err := sheenOf(q.Sheen)
	if err != nil {
		return MixAnswer{}, err
	}
	if len(q.Parts) == 0 {
		return MixAnswer{}, measure.Refuse("parts", "nothing is mixed", "say how many drops of which jars")
	}
	shelf := Shelf{Jars: q.Jars}
	drops := 0
	var inputs []string
	for i, p := range q.Parts {
		if p.Drops < 1 || p.Drops > 10_000 {
			return MixAnswer{}, measure.Refuse(
				fmt.Sprintf("parts[%d].drops", i),
				fmt.Sprintf("%d drops", p.Drops),
				"give 1 to 10000",
			)
		}
		drops += p.Drops
		if j, ok := shelf.Jar(p.Jar); ok {
			inputs = append(
				inputs,
				fmt.Sprintf("%d of %s, %s, contrast ratio %.3g", p.Drops, j.Said(), j.Hex, float64(j.Hides())),
			)
		}
	}
	p, _, err := shelf.Mixed(q.Parts)
	if err != nil {
		return MixAnswer{}, err
	}
	seen := sheen.Seen(p.Infinite()).XYZ()
	c, _ := seen.RGB()
	return MixAnswer{
		Hex: c.Hex(), Lab: seen.Lab(), Solids: p.Solids, Hiding: p.Opacity(hidingFilm), ML: float64(drops) * Drop,
		Becomes: becomes(p, nil), Like: shelf.likest(c, 3),
		Why: measure.Because("K and S of each paint, weighted by its solids (Kubelka–Munk, two constants)", inputs),
	}, nil
}

func (s Shelf) likest(c colour.RGB, n int) []Like {
	out := []Like{}
	ids, differences := s.Like(c)
	for i, id := range ids[:min(n, len(ids))] {
		p, _ := s.Pot(id)
		out = append(out, Like{id, p.Name, p.Paint.Swatch.Hex(), differences[i]})
	}
	return out
}

// Above is something that lies over a colour at the end, with its name.
type Above struct {
	Name  string       `json:"name"`
	Hex   string       `json:"hex,omitempty"` // none for a clear coat
	Ratio float64      `json:"hiding,omitempty"`
	Film  float64      `json:"filmUm"`
	Loose bool         `json:"loose,omitempty"`
	Sheen colour.Sheen `json:"sheen,omitempty"` // that it leaves; none keeps what was there
}

// coat is the film that lies above, and the sheen of the skin once it is on.
func (a Above) coat() (Coat, error) {
	if a.Hex == "" {
		return Coat{}, nil
	}
	c, err := colour.Parse(a.Hex)
	if err != nil {
		return Coat{}, err
	}
	sheen := colour.Matt
	if a.Loose {
		sheen = colour.Loose
	}
	hiding := Hiding(a.Ratio)
	if hiding == 0 {
		hiding = Glaze
	}
	return Coat{Paint{Swatch: c, Sheen: sheen, Hiding: hiding, Solids: 0.3}.Pigment(), Film(a.Film), a.Loose}, nil
}

// through gives what lies over a colour once all of it is on.
func through(all []Above) (Over, error) {
	skin := colour.Matt
	var films []Coat
	for i, a := range all {
		c, err := a.coat()
		if err != nil {
			return Over{}, measure.At(fmt.Sprintf("above[%d].hex", i), err)
		}
		if a.Hex != "" {
			films = append(films, c)
		}
		if a.Sheen != "" && a.Sheen != colour.Loose {
			skin = a.Sheen
			for k := range films {
				films[k].Loose = false // what has a binder takes powder under its skin
			}
		}
	}
	return Seen(skin, films...), nil
}

// becomes tells how a paint looks dry, under gloss, and under each thing more that is planned.
func becomes(p Pigment, above []Above) []Becomes {
	inner := p.Infinite()
	matt, gloss := Seen(colour.Matt), Seen(colour.Gloss)
	dry := matt.Lab(inner)
	out := []Becomes{}
	say := func(under string, o *Over) {
		xyz := o.Of(inner).XYZ()
		c, _ := xyz.RGB()
		out = append(out, Becomes{under, c.Hex(), colour.Difference(dry, xyz.Lab())})
	}
	say("dry and matt", &matt)
	say("under gloss", &gloss)
	for i := range above {
		if o, err := through(above[:i+1]); err == nil {
			say("under "+strings.ToLower(above[i].Name), &o)
		}
	}
	return out
}

// group numbers the jars by what mixes with what.
func group(jars []Jar) (out []int) {
	other := 100
	for _, j := range jars {
		if n, ok := mixes[j.Family]; ok {
			out = append(out, n)
			continue
		}
		other++
		out = append(out, other) // with nothing
	}
	return out
}

// mixable keeps the jars that a colour can be mixed from.
func mixable(jars []Jar) (out []Jar) {
	for _, j := range jars {
		_, mixes := mixes[j.Family]
		if p, ok := j.Paint(); mixes && ok && p.Hiding > 0 {
			out = append(out, j)
		}
	}
	return out
}

func indexOf(jars []Jar, ids []string) (out []int) {
	for _, id := range ids {
		if i := slices.IndexFunc(jars, func(j Jar) bool { return j.ID == id }); i >= 0 {
			out = append(out, i)
		}
	}
	return out
}

// LikeQuestion asks what on the shelf looks like a colour.
type LikeQuestion struct {
	Jars  []Jar     `json:"jars,omitempty"` // the workshop's when left out
	Mixes []Mixture `json:"mixes,omitempty"`
	Hex   string    `json:"hex"`
}

// AskLike answers it, the likest first.
func AskLike(q LikeQuestion) ([]Like, error) {
	c, err := colour.Parse(q.Hex)
	if err != nil {
		return nil, measure.At("hex", err)
	}
	return Shelf{Jars: q.Jars, Mixes: q.Mixes}.likest(c, MostJars+MostMixes), nil
}
