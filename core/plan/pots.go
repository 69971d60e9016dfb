package plan

import (
	"cinderpath/core/document"
	"cinderpath/core/order"
	"cinderpath/core/paint"
	"cinderpath/core/strata"
	"fmt"
	"strings"
	"time"
)

// PotLine is what a layer, or a colour of the scheme, is laid from, or could be.
type PotLine struct {
	Layer  string       `json:"layer,omitempty"`
	Supply string       `json:"supply,omitempty"` // a kind of product that steps take besides their layers'
	Part   string       `json:"part,omitempty"`   // a detail, by id
	Title  string       `json:"title,omitempty"`  // of a supply or a detail
	Colour int          `json:"colour,omitempty"` // of the scheme, from 1
	Family string       `json:"family"`           // of product
	Pot    string       `json:"pot,omitempty"`
	Hex    string       `json:"hex,omitempty"`
	Lost   bool         `json:"lost,omitempty"` // it names a jar that is not on the shelf
	Near   []paint.Like `json:"near,omitempty"` // where none is named: owned ones to choose from, the likest first
	Words  string       `json:"words"`
}

// potLines tells of each layer what it is laid from.
func potLines(b document.Build, w document.Workshop, takes map[string][]order.Taking, asOf time.Time) []PotLine {
	out := []PotLine{}
	day := asOf.Format(time.DateOnly)
	tell := func(l PotLine, named string, p paint.Pot, family string) {
		l.Family, l.Pot, l.Lost = family, p.ID, named != "" && p.ID == ""
		if p.ID == "" {
			l.Near = standIns(w, Buy{Family: family, Hex: l.Hex}, day)
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
			l.Words += "; nothing on the shelf is " + strings.ToLower(paint.KindName(family))
		}
		out = append(out, l)
	}
	add := func(layer string, n int, named string, p paint.Pot, family, hex string) {
		tell(PotLine{Layer: layer, Colour: n, Hex: hex}, named, p, family)
	}
	for _, l := range b.Layers {
		if l.Kind == strata.Decals || l.Kind.Works() {
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
	for _, x := range supplies(takes) {
		if x.Part != "" {
			p, _ := w.Paint.Pot(x.Jar)
			tell(PotLine{Part: x.Part, Title: x.Name}, x.Jar, p, x.Family)
			continue
		}
		p, _ := w.Paint.Pot(b.Supplies[x.Family])
		title := fmt.Sprintf("%s, %.1f ml in all", paint.KindName(x.Family), x.ML)
		tell(PotLine{Supply: x.Family, Title: title}, b.Supplies[x.Family], p, x.Family)
	}
	return out
}
