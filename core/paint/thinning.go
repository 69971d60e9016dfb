package paint

import (
	"fmt"
	"math"
	"strconv"
	"strings"
	"sync"

	"cinderpath/core/table"
)

// Thinning is how far a paint is thinned: parts of thinner to one of paint, from and to.
type Thinning struct{ From, To float64 }

// Usual is the ratio that is taken where nobody says otherwise, the middle of the range.
func (t Thinning) Usual() float64 { return math.Round((t.From+t.To)/2*100) / 100 }

// Thinning of paint for work by brush, and for effects, handbook 2.
var (
	ByBrush   = Thinning{0.2, 0.5}
	ForWash   = Thinning{2, 6}
	ForFilter = Thinning{10, 20}
	ForDust   = Thinning{10, 30}
	Unthinned = Thinning{}
)

// Ratio writes parts of thinner as one says it.
func Ratio(thinner float64) string {
	if thinner == 0 {
		return "as it comes"
	}
	return "1 : " + strconv.FormatFloat(math.Round(thinner*100)/100, 'f', -1, 64)
}

// Setting is what an airbrush is set to for a kind of product.
type Setting struct {
	Thin Thinning
	Bar  [2]float64
}

var settings = sync.OnceValue(func() map[string]Setting {
	out := map[string]Setting{}
	for _, r := range table.Read(tableFiles, "airbrush") {
		out[r["family"]] = Setting{
			Thinning{r.Number("thin_from"), r.Number("thin_to")},
			[2]float64{r.Number("bar_from"), r.Number("bar_to")},
		}
	}
	return out
})

// AirbrushFor gives the starting values of a kind of product; ok is false where it is not
// sprayed, or comes in a can.
func AirbrushFor(family string) (Setting, bool) {
	s, ok := settings()[family]
	return s, ok
}

// psi in one bar.
const psi = 14.5

// Pressure in the unit that one likes, "bar" or "psi".
func Pressure(bar [2]float64, unit string) string {
	format := func(v float64) string { return strconv.FormatFloat(math.Round(v*10)/10, 'f', -1, 64) }
	if unit == "psi" {
		format = func(v float64) string { return strconv.FormatFloat(math.Round(v*psi), 'f', 0, 64) }
	} else {
		unit = "bar"
	}
	if bar[0] == bar[1] {
		return format(bar[0]) + " " + unit
	}
	return fmt.Sprintf("%s–%s %s", format(bar[0]), format(bar[1]), unit)
}

// FinestLine is the width of the finest line that a nozzle holds, and FinestEdge of its
// finest soft edge; bore in mm, on the model in mm (handbook 2).
func FinestLine(bore float64) float64 { return 3 * bore }

// FinestEdge is twice the finest line.
func FinestEdge(bore float64) float64 { return 2 * FinestLine(bore) }

// AirbrushWords says thinning, pressure and distance, by a jar's temper where it has one.
func AirbrushWords(family string, t *Temper, unit string, fine bool) (thinner float64, said string, ok bool) {
	s, ok := AirbrushFor(family)
	if !ok {
		return 0, "", false
	}
	f, _ := FamilyOf(family)
	thinner, bar, distance := s.Thin.Usual(), s.Bar, "80–120 mm away"
	if fine { // lines want the thin end of the range, little pressure, and to be near
		thinner, bar, distance = s.Thin.To, [2]float64{0.5, 0.9}, "10–25 mm away"
	}
	by := ""
	if t != nil && t.Thinner != nil {
		thinner, by = *t.Thinner, " (as this jar wants it)"
	}
	if t != nil && t.Pressure > 0 {
		bar = [2]float64{t.Pressure, t.Pressure}
	}
	how := Ratio(thinner)
	if thinner > 0 {
		how += " with " + f.Thinner
	}
	said = strings.Join([]string{how + by, Pressure(bar, unit), distance}, ", ")
	if t != nil && t.Note != "" {
		said += "; this jar " + t.Note
	}
	return thinner, said, true
}
