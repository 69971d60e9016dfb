package paint

import (
	"fmt"
	"slices"

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
