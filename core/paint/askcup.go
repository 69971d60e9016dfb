package paint

import (
	"cinderpath/core/colour"
	"cinderpath/core/measure"
	"fmt"
)

// CupQuestion asks what to add to a cup.
type CupQuestion struct {
	Jars   []Jar     `json:"jars,omitempty"` // the workshop's when left out
	Mixes  []Mixture `json:"mixes,omitempty"`
	Cup    []Part    `json:"cup"`
	Seen   string    `json:"seen,omitempty"` // swatch of how it dried
	Said   string    `json:"said,omitempty"` // or in words: too green, a little too dark
	Target Target    `json:"target"`
	Wanted float64   `json:"wanted,omitempty"` // ΔE00 that is near enough; 1 when left out
	Most   int       `json:"most,omitempty"`   // drops that may be added; 40 when left out
}

// CupAnswer tells it.
type CupAnswer struct {
	Add        []RecipePart `json:"add"`
	Is         string       `json:"is"` // swatch now
	Becomes    string       `json:"becomes"`
	Target     string       `json:"target"`
	Before     float64      `json:"before"` // ΔE00
	Difference float64      `json:"difference"`
	Words      string       `json:"words"`
	Enough     bool         `json:"enough"`
	Drops      int          `json:"drops"` // that the cup then holds
	ML         float64      `json:"ml"`
	Why        measure.Why  `json:"why"`
}

// AskCup answers it.
func AskCup(q CupQuestion) (CupAnswer, error) {
	jars := mixable(q.Jars)
	c := Cup{Skin: colour.Matt, Wanted: q.Wanted, Most: q.Most, Group: group(jars), Drops: make([]int, len(jars))}
	if c.Wanted == 0 {
		c.Wanted = 1
	}
	if c.Most == 0 {
		c.Most = 40
	}
	for _, j := range jars {
		p, _ := j.Paint()
		c.Shelf = append(c.Shelf, p.Pigment())
	}
	for i, p := range q.Cup {
		at := indexOf(jars, []string{p.Jar})
		if len(at) == 0 || p.Drops < 1 || p.Drops > 10_000 {
			return CupAnswer{}, measure.Refuse(
				fmt.Sprintf("cup[%d]", i),
				"it is no jar that mixes, or not 1 to 10000 drops",
				"choose a jar with a swatch",
			)
		}
		c.Drops[at[0]] += p.Drops
	}
	shelf := Shelf{Jars: q.Jars, Mixes: q.Mixes}
	var err error
	if c.Target, err = q.Target.lab(shelf); err != nil {
		return CupAnswer{}, err
	}
	if q.Seen != "" {
		s, err := colour.Parse(q.Seen)
		if err != nil {
			return CupAnswer{}, measure.At("seen", err)
		}
		c.Seen = &s
	} else if q.Said != "" {
		l, err := Faulty(c.Target, q.Said)
		if err != nil {
			return CupAnswer{}, err
		}
		s, _ := l.XYZ().RGB()
		c.Seen = &s
	}
	a, err := c.Mend()
	if err != nil {
		return CupAnswer{}, err
	}
	is, _ := a.Is.XYZ().RGB()
	then, _ := a.Seen.XYZ().RGB()
	target, _ := c.Target.XYZ().RGB()
	out := CupAnswer{
		Add:        []RecipePart{},
		Is:         is.Hex(),
		Becomes:    then.Hex(),
		Target:     target.Hex(),
		Before:     a.Before,
		Difference: a.Difference,
		Words:      Words(a.Difference),
		Enough:     a.Enough,
		Why: measure.Because("fewest drops to add whose mix comes within ΔE00 of the target", []string{
			fmt.Sprintf("%d ways were tried, of up to three jars", a.Tried),
			fmt.Sprintf("within ΔE00 %g, at most %d drops more", c.Wanted, c.Most),
		}),
	}
	for i, n := range a.Drops {
		out.Drops += n + c.Drops[i]
		if n > 0 {
			out.Add = append(out.Add, RecipePart{
				Jar:   jars[i].ID,
				Name:  jars[i].Said(),
				Hex:   jars[i].Hex,
				Parts: n,
				Drops: n,
				Short: float64(n)*Drop > jars[i].Left+1e-9,
			})
		}
	}
	out.ML = float64(out.Drops) * Drop
	return out, nil
}
