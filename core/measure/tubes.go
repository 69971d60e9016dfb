package measure

import (
	"fmt"
	"math"
	"sort"

	"cinderpath/core/length"
)

// slides is the most play with which one tube still guides another, model mm.
const slides length.Model = 0.15

// telescope finds what slides into and over the tubes nearest to the wanted size.
func (a *stockAsk) telescope() {
	tubes := a.items(Tube)
	rods := a.items(Tube, Rod, Wire)
	under, over := Around(tubes, a.want, a.scale)
	if under != nil && over != nil && under.ID == over.ID {
		over = nil
	}
	for _, n := range []*Near{under, over} {
		if n == nil {
			continue
		}
		for _, inner := range rods {
			play := n.Second - inner.Size
			if play < -exact || play > slides {
				continue
			}
			a.out.Telescope = append(
				a.out.Telescope,
				Made{
					Words: fmt.Sprintf("%s slides into %s, play %s mm", inner.Name, n.Name, number(float64(max(play, 0)), 2)),
					MM:    float64(n.Size),
					Error: 100 * n.Error,
					Full:  n.Full.String(),
					Owned: n.Owned && inner.Owned,
					Why: Why{
						"play = bore − outer diameter of what goes in, from 0 to 0.15 mm",
						[]string{"bore " + number(float64(n.Second), 2) + " mm", "goes in: " + number(float64(inner.Size), 2) + " mm"},
					},
				},
			)
		}
	}
	nearestFirst(a.out.Telescope)
	if a.second > 0 {
		bore := rowsAround(asBore(tubes), a.second, a.scale)
		if len(bore) > 0 {
			a.out.Groups = append(a.out.Groups, StockGroup{"tube, by its bore", bore})
		}
	}
}

// asBore lists tubes by their bore instead of their diameter.
func asBore(tubes []Stocked) []Stocked {
	out := make([]Stocked, len(tubes))
	for i, t := range tubes {
		t.Size, t.Second = t.Second, t.Size
		out[i] = t
	}
	return out
}

// pairs finds strip by thickness and width, mesh by opening and wire: the smallest
// sum of both relative errors.
func (a *stockAsk) pairs() error {
	if a.second <= 0 {
		what := "the width of the strip"
		if a.q.Kind == Mesh {
			what = "the wire of the mesh"
		}
		return &Fault{"second", "only one of the two sizes is given", "give " + what + " too"}
	}
	x, y := a.want, a.second
	if a.q.Kind == Strip {
		x, y = min(x, y), max(x, y)
	}
	type candidate struct {
		it   Stocked
		a, b float64
	}
	var all []candidate
	for _, it := range a.items(a.q.Kind) {
		all = append(all, candidate{it, float64(it.Size/x - 1), float64(it.Second/y - 1)})
	}
	sort.SliceStable(all, func(i, j int) bool {
		return math.Abs(all[i].a)+math.Abs(all[i].b) < math.Abs(all[j].a)+math.Abs(all[j].b)
	})
	names := [2]string{"thickness", "width"}
	if a.q.Kind == Mesh {
		names = [2]string{"opening", "wire"}
	}
	rows := []StockRow{}
	for _, c := range all[:min(len(all), 4)] {
		rows = append(
			rows,
			StockRow{
				Side:  fmt.Sprintf("%s %s %%, %s %s %%", names[0], signed(100*c.a, 0), names[1], signed(100*c.b, 0)),
				Item:  c.it,
				Error: 100 * c.a,
				Full:  a.scale.ToReal(c.it.Size).String() + " × " + a.scale.ToReal(c.it.Second).String(),
				Why: Why{
					"error = (stock − wanted) / wanted, of both; the smallest sum comes first",
					[]string{
						fmt.Sprintf(
							"wanted %s × %s mm",
							number(float64(x), 3),
							number(float64(y), 3),
						),
						fmt.Sprintf("stock %s × %s mm", number(float64(c.it.Size), 3), number(float64(c.it.Second), 3)),
						scaleInput(a.scale),
					},
				},
			},
		)
	}
	if len(rows) > 0 {
		a.out.Groups = append(a.out.Groups, StockGroup{a.q.Kind, rows})
	}
	return nil
}
