package plan

import (
	"cinderpath/core/document"
	"cinderpath/core/measure"
	"cinderpath/core/order"
	"cinderpath/core/paint"
	"cinderpath/core/path"
	"cinderpath/core/strata"
	"fmt"
	"maps"
	"slices"
	"strings"
)

// supplies sums what all steps take of each kind of product; details stand one by one.
func supplies(takes map[string][]order.Taking) (out []order.Taking) {
	sum := map[[2]string]float64{} // by family and jar
	for _, id := range slices.Sorted(maps.Keys(takes)) {
		for _, x := range takes[id] {
			if x.Part != "" {
				out = append(out, x)
				continue
			}
			sum[[2]string{x.Family, x.Jar}] += x.ML
		}
	}
	keys := slices.SortedFunc(maps.Keys(sum), func(a, b [2]string) int { return slices.Compare(a[:], b[:]) })
	for _, k := range keys {
		out = append(out, order.Taking{Family: k[0], Jar: k[1], ML: sum[k]})
	}
	return out
}

// poured is what is taken of a pot beside what its layer takes; of a mix, the drops of each jar too.
func poured(w document.Workshop, p paint.Pot, ml float64, why measure.Why) Need {
	n := Need{Pot: p.ID, Name: p.Name, Family: p.Family, ML: ml, Short: max(0, ml-p.Left), Why: why}
	if p.Seen {
		n.Hex = p.Paint.Swatch.Hex()
	}
	if m, ok := w.Paint.Mix(p.ID); ok {
		n.Split = split(w, m, ml)
	}
	return n
}

// supplied are the needs of a step besides its layer's: the same jar stands once.
func supplied(b document.Build, w document.Workshop, takes []order.Taking) (out []Need) {
	type taken struct {
		pot   paint.Pot
		known bool
		order.Taking
		of []string // details
	}
	var all []taken
	for _, x := range takes {
		jar := x.Jar
		if x.Part == "" && jar == "" {
			jar = b.Supplies[x.Family]
		}
		t := taken{Taking: x}
		if t.pot, t.known = w.Paint.Pot(jar); x.Part != "" {
			t.of = []string{x.Name}
		}
		i := slices.IndexFunc(all, func(o taken) bool { return o.pot.ID == t.pot.ID && (t.known || o.Family == x.Family) })
		if i < 0 {
			all = append(all, t)
			continue
		}
		all[i].ML += x.ML
		all[i].of = append(all[i].of, t.of...)
		all[i].From = append(slices.Clone(all[i].From), x.From...)
	}
	for _, t := range all {
		why := measure.Because("amount for one · how many", t.From)
		n := Need{Name: paint.KindName(t.Family), Family: t.Family, ML: t.ML, Why: why}
		if t.known {
			n = poured(w, t.pot, t.ML, why)
		}
		n.For = t.of
		out = append(out, n)
	}
	return out
}

// leastTouchUp is how much a touch-up wants to find in its jar, ml: less cannot be measured out.
const leastTouchUp = 0.3

// spots is what mending a spot takes of the pot that was laid there, and what the last touch-ups
// take of each colour of the scheme (P10).
func spots(b document.Build, w document.Workshop, t path.Task) (out []Need) {
	var pots []paint.Pot
	switch at := slices.IndexFunc(b.Layers, func(l strata.Layer) bool { return l.ID == t.Layer }); {
	case t.Kind == "touchup":
		for _, c := range b.Scheme.Colours {
			pots = append(pots, c.Pot)
		}
	case t.Kind != "repair" || at < 0:
	case b.Layers[at].IsScheme():
		pots = append(pots, b.Scheme.Colour(t.Colour).Pot)
	default:
		pots = append(pots, b.Layers[at].Pot)
	}
	why := measure.Because(
		"a spot takes the least that can be measured out",
		[]string{fmt.Sprintf("%.1f ml, a starting value", leastTouchUp)},
	)
	for _, p := range pots {
		if p.ID != "" {
			out = append(out, poured(w, p, leastTouchUp, why))
		}
	}
	return out
}

// leastSaid is the amount below which one says a drop, ml.
const leastSaid = 0.05

// listed says some needs in one line.
func listed(needs []Need) string {
	var out []string
	for _, n := range needs {
		much := fmt.Sprintf("%.1f ml", n.ML)
		if n.ML < leastSaid {
			much = "a drop"
		}
		if much += " of " + n.Name; len(n.For) > 0 {
			much += " for " + strings.Join(n.For, ", ")
		}
		out = append(out, much)
	}
	return strings.Join(out, "; ")
}
