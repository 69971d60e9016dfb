package paint

import (
	"cinderpath/core/colour"
	"cinderpath/core/measure"
	"fmt"
	"math"
)

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
