package plan

import (
	"cinderpath/core/document"
	"cinderpath/core/paint"
	"fmt"
	"strings"
	"time"
)

// PotLine is what a layer, or a colour of the scheme, is laid from, or could be.
type PotLine struct {
	Layer  string       `json:"layer"`
	Colour int          `json:"colour,omitempty"` // of the scheme, from 1
	Pot    string       `json:"pot,omitempty"`
	Hex    string       `json:"hex,omitempty"`
	Lost   bool         `json:"lost,omitempty"` // it names a jar that is not on the shelf
	Near   []paint.Like `json:"near,omitempty"` // where none is named: owned ones to choose from, the likest first
	Words  string       `json:"words"`
}

// potLines tells of each layer what it is laid from.
func potLines(b document.Build, w document.Workshop, asOf time.Time) []PotLine {
	out := []PotLine{}
	day := asOf.Format(time.DateOnly)
	add := func(layer string, n int, named string, p paint.Pot, family, hex string) {
		l := PotLine{Layer: layer, Colour: n, Pot: p.ID, Hex: hex, Lost: named != "" && p.ID == ""}
		if p.ID == "" {
			l.Near = standIns(w, Buy{Family: family, Hex: hex}, day)
		}
		switch {
		case p.ID != "":
			l.Words = fmt.Sprintf("%s, %.1f ml left", p.Name, p.Left)
		case l.Lost:
			l.Words = "the jar it named is not on the shelf any more"
		default:
			l.Words = "no jar is named"
		}
		if p.ID == "" && len(l.Near) > 0 {
			l.Words += "; nearest on the shelf: " + l.Near[0].Name
			if l.Near[0].Hex != "" {
				l.Words += fmt.Sprintf(", ΔE00 %.1f, %s", l.Near[0].Difference, paint.Words(l.Near[0].Difference))
			}
		} else if p.ID == "" {
			f, _ := paint.FamilyOf(family)
			l.Words += "; nothing on the shelf is " + strings.ToLower(f.Name)
		}
		out = append(out, l)
	}
	for _, l := range b.Layers {
		if l.Kind == "decals" || l.Kind == "chipping_work" {
			continue
		}
		if l.IsScheme() {
			for i, c := range b.Scheme.Colours {
				family := l.Family
				if c.Pot.Family != "" {
					family = c.Pot.Family
				}
				add(l.ID, i+1, c.Jar, c.Pot, family, c.Hex)
			}
			continue
		}
		hex := l.Hex
		if m, ok := l.Material(); ok && hex == "" {
			hex = m.Swatch.Hex()
		}
		add(l.ID, 0, l.Jar, l.Pot, l.Family, hex)
	}
	return out
}
