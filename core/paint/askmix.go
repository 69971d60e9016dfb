package paint

import (
	"cinderpath/core/colour"
	"cinderpath/core/measure"
	"fmt"
)

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
