package strata

import (
	"fmt"
	"maps"
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"sync"

	"cinderpath/core/landing"
	"cinderpath/core/table"
)

// Life is what a vehicle went through, from which the amounts of its layers are argued: by axis of
// the table, what is said of it; what is not said is the table's first, which changes nothing.
type Life map[string]string

// Axis is a question about a vehicle's life.
type Axis struct {
	ID     string   `json:"id"`
	Values []Answer `json:"values"`
	First  bool     `json:"first"` // it is asked first
}

// Answer is one of an axis, with what it does to each kind of layer.
type Answer struct {
	Value string `json:"value"`
	Note  string `json:"note,omitempty"`
	times map[string]float64
}

// askedFirst are the five short questions; the others stand behind them.
var askedFirst = []string{"ground", "weather", "age", "use", "paint"}

var axes = sync.OnceValue(func() (out []Axis) {
	for _, r := range table.Read(tableFiles, "story") {
		at := slices.IndexFunc(out, func(a Axis) bool { return a.ID == r["axis"] })
		if at < 0 {
			at = len(out)
			out = append(out, Axis{ID: r["axis"], First: slices.Contains(askedFirst, r["axis"])})
		}
		a := Answer{Value: r["value"], Note: r["note"], times: map[string]float64{}}
		if a.Note == "default" {
			a.Note = ""
		}
		for name := range r {
			if name != "axis" && name != "value" && name != "note" {
				a.times[name] = r.Number(name)
			}
		}
		out[at].Values = append(out[at].Values, a)
	}
	return out
})

// Axes lists the questions with their answers.
func Axes() []Axis { return slices.Clone(axes()) }

// Check reports what of a life is not in the table.
func (v Life) Check() error {
	for _, id := range slices.Sorted(maps.Keys(v)) {
		value := v[id]
		at := slices.IndexFunc(axes(), func(a Axis) bool { return a.ID == id })
		if at < 0 {
			return fmt.Errorf("%q is nothing that is asked of a vehicle's life; use ground, weather, age and the like", id)
		}
		if _, ok := axes()[at].answer(value); !ok {
			return fmt.Errorf("%s: %q is no answer; choose one of the table", id, value)
		}
	}
	return nil
}

// answer is the one that is meant; the first for none.
func (a Axis) answer(value string) (Answer, bool) {
	if value == "" {
		return a.Values[0], true
	}
	i := slices.IndexFunc(a.Values, func(x Answer) bool { return x.Value == value })
	if i < 0 {
		return Answer{}, false
	}
	return a.Values[i], true
}

// mostTimes is the most that a life multiplies an amount by.
const mostTimes = 4

// times is by what a life multiplies a column of the table, and which answers make it.
func (v Life) times(column string) (m float64, from []string) {
	m = 1
	for _, axis := range axes() {
		a, ok := axis.answer(v[axis.ID])
		if x := a.times[column]; ok && x != 1 {
			m *= x
			from = append(from, fmt.Sprintf("%s %g", a.Value, x))
		}
	}
	if m > mostTimes {
		from = append(from, fmt.Sprintf("held at %d", mostTimes))
	}
	return min(m, mostTimes), from
}

// columns of the table by technique, and by kind of layer.
var (
	columnOf = map[string]string{
		"chips_core": "chips_core", "rust_deep": "chips_core", "scratches": "scratches", "streak_rust": "rust",
		"chipping_work": "chips",
	}
	columnsOf = map[Kind]string{
		Dust: "dust", Pigment: "dust", Mud: "mud", Splash: "splash", Wet: "wet", Chips: "chips", Rust: "rust",
		Streaks: "streaks", Grease: "grease", Soot: "soot", Metal: "metal", Dots: "fade",
	}
)

// Lived is what the life of its vehicle, and its scale, do to a layer.
type Lived struct {
	Life  Life
	Scale float64 // N of 1:N; 0 where it does not matter
}

// coarse are the layers of which smaller scales get less (handbook 10).
var coarse = []Kind{Chips, Splash}

// usualScale is the scale that the table's amounts are for.
const usualScale = 35

// lived is a technique as the vehicle's life has it, with the words for how.
func (t Technique) lived(k Kind, by Lived) (Technique, []string) {
	column := columnOf[t.ID]
	if column == "" {
		column = columnsOf[k]
	}
	if column == "" {
		return t, nil
	}
	m, from := by.Life.times(column)
	if t.Share {
		t.Amount = m * t.Amount / (1 + (m-1)*t.Amount)
	} else {
		t.Amount *= m
	}
	if by.Scale > usualScale && slices.Contains(coarse, k) {
		x := math.Sqrt(usualScale / by.Scale)
		t.Amount *= x
		from = append(from, fmt.Sprintf("1:%g takes %.2f of it", by.Scale, x))
	}
	if high, why := by.Life.times(column + "_height"); high != 1 && (column == "dust" || column == "mud") {
		t = t.higher(high)
		for _, w := range why {
			from = append(from, "height "+w)
		}
	}
	return t, from
}

// lows finds the heights up to which something lands.
var lows = regexp.MustCompile(`low\(([0-9.]+);([0-9.]+)\)`)

// raised are formulas as a life has them, by their text.
var raisedFormulas sync.Map

// higher scales the height to which a technique reaches.
func (t Technique) higher(by float64) Technique {
	text := lows.ReplaceAllStringFunc(t.Lands, func(term string) string {
		m := lows.FindStringSubmatch(term)
		b, err := strconv.ParseFloat(m[2], 64)
		if err != nil {
			return term
		}
		return fmt.Sprintf("low(%s;%.0f)", m[1], b*by)
	})
	if text == t.Lands {
		return t
	}
	kept, ok := raisedFormulas.Load(text)
	if !ok {
		f, err := landing.Read(text)
		if err != nil {
			return t
		}
		kept, _ = raisedFormulas.LoadOrStore(text, f)
	}
	t.Lands, t.formula = text, kept.(landing.Formula) //nolint:forcetypeassert // nothing else is stored
	return t
}

// Argued is how the amount of a layer came about.
type Argued struct {
	Layer string  `json:"layer"`
	Name  string  `json:"name"`
	Usual float64 `json:"usual"` // of the table
	Now   float64 `json:"now"`
	Share bool    `json:"share"`
	Own   bool    `json:"own,omitempty"` // overruled by the modeller
	Words string  `json:"words"`
}

// Argue tells how the amount of a layer came about; ok is false of what has none.
func (l Layer) Argue() (out Argued, ok bool) {
	id := l.Technique
	if id == "" {
		id = l.Kind.About().Usual
	}
	usual, ok := TechniqueOf(id)
	if !ok {
		return out, false
	}
	now, from := usual.lived(l.Kind, l.Lived)
	said := func(x float64) string {
		if usual.Share {
			return strconv.FormatFloat(100*x, 'g', 2, 64) + " %"
		}
		return strconv.FormatFloat(x, 'g', 2, 64) + " µm"
	}
	out = Argued{Layer: l.ID, Name: l.Name, Usual: usual.Amount, Now: now.Amount, Share: usual.Share}
	switch {
	case l.Amount != nil:
		out.Own, out.Now = true, *l.Amount
		out.Words = fmt.Sprintf("%s, as you set it; its life would make it %s", said(*l.Amount), said(now.Amount))
	case len(from) == 0:
		out.Words = said(usual.Amount) + ", as usual"
	default:
		out.Words = fmt.Sprintf("%s → %s: %s", said(usual.Amount), said(now.Amount), strings.Join(from, ", "))
	}
	return out, true
}

// Contradictions tells what of a life does not go together, or not with some layers.
func (v Life) Contradictions(layers []Layer) (out []string) {
	has := func(k Kind) bool { return slices.ContainsFunc(layers, func(l Layer) bool { return l.Kind == k }) }
	if v["age"] == "abandoned for years" && has(Metal) {
		out = append(out, "Abandoned for years, and yet polished where hands go: nothing shines any more.")
	}
	if v["ground"] == "dry sand" && (v["weather"] == "long rain" || has(Wet)) {
		out = append(out, "Dry sand, and yet fresh wet mud: one of them is not so.")
	}
	if v["age"] == "just issued" && (has(Rust) || v["paint"] == "in the field") {
		out = append(out, "Just issued, and yet rust or paint of the field: it has not had the time.")
	}
	if v["use"] == "parade" && has(Mud) {
		out = append(out, "On parade, and yet muddy: its mud is left out by its life.")
	}
	if v["age"] == "abandoned for years" && v["use"] != "" && v["use"] != "cross-country" {
		out = append(out, "Abandoned for years, and yet in use.")
	}
	return out
}
