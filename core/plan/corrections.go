package plan

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"cinderpath/core/document"
	"cinderpath/core/scheme"
)

// Correction is what is done where a colour went too far over another: overspray, bleed, a field too large.
type Correction struct {
	Above  int     `json:"above"`  // the colour that went astray, the first is 1
	Below  int     `json:"below"`  // the one that is sprayed back
	EdgeMM float64 `json:"edgeMm"` // along which it can happen, on the model
	Words  string  `json:"words"`
}

// corrections lists them, the longest edges first: along each edge between two colours the lower one is
// sprayed back, then in their order those above it that meet it there.
func corrections(b document.Build, told []scheme.Told) []Correction {
	n := len(b.Scheme.Colours)
	meet := make([][]float64, n)
	for c := range meet {
		meet[c] = make([]float64, n)
	}
	for _, t := range told {
		for below, edge := range t.Over {
			meet[t.Colour][below] += edge / float64(b.Scale)
		}
	}
	out := []Correction{}
	for above := range n {
		for below := range above {
			edge := meet[above][below]
			if edge < leastEdge {
				continue
			}
			back, over := b.Scheme.Colours[below].Name, []string{}
			for c := below + 1; c < n; c++ {
				if c != above && meet[c][below] >= leastEdge {
					over = append(over, b.Scheme.Colours[c].Name)
				}
			}
			words := fmt.Sprintf("%s too far over %s: spray %s back along it from the kept mix",
				b.Scheme.Colours[above].Name, back, back)
			if len(over) > 0 {
				words += ", then " + strings.Join(over, " and ") + " where it was touched"
			}
			if b.Scheme.Mist {
				words += ", the closing mist last"
			}
			out = append(out, Correction{above + 1, below + 1, edge, words})
		}
	}
	slices.SortStableFunc(out, func(a, b Correction) int {
		return cmp.Compare(b.EdgeMM, a.EdgeMM)
	})
	return out
}

// leastEdge is the shortest edge that is worth a word, mm on the model.
const leastEdge = 2.0
