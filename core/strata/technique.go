package strata

import (
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"
	"sync"

	"cinderpath/core/landing"
	"cinderpath/core/paint"
	"cinderpath/core/table"
	"cinderpath/core/unit"
)

// Technique is a way of working a layer: where it lands, how much of it, in which size.
type Technique struct {
	ID     string            `json:"id"`
	Name   string            `json:"name"`
	Kind   Kind              `json:"kind"`
	Kinds  []Kind            `json:"kinds"`   // of layers that may be worked so
	Lands  string            `json:"landing"` // formula
	Where  string            `json:"where"`   // it in words
	Amount float64           `json:"amount"`  // µm where it is a film, a share of 1 where it is a share
	Share  bool              `json:"share"`   // the amount is a share
	Of     string            `json:"of,omitempty"`
	Size   [2]float64        `json:"sizeMm"` // of marks, real mm; 0 for films
	Long   [2]float64        `json:"longMm"` // of streaks
	Along  landing.Direction `json:"along,omitempty"`
	Check  string            `json:"check"` // what to look at before going on

	// Per is how long each Unit takes, a starting value: cm² on the model that are worked, cm of lines or of
	// marks, or pieces. Of a film that runs in lines, Line is the width of an even one that holds as much,
	// real mm.
	Per  unit.Minutes `json:"-"`
	Air  bool         `json:"-"` // at that pace with an airbrush only
	Unit string       `json:"-"`
	Line float64      `json:"-"`

	formula landing.Formula
	shapes  bool
}

// What techniques are counted in, on the model.
const (
	Areas  = "cm2"
	Lines  = "cm"
	Pieces = "piece"
)

// Units is how much of a technique a zone asks for, on a model of a scale, by what lies there; ok is false
// where that does not tell: of marks that are dabbed over a face, the face does, of fittings their number.
func (t Technique) Units(s Spread, full, scale float64) (units float64, ok bool) {
	switch {
	case t.Unit == Areas && !t.shapes:
		return s.Worked / (scale * scale) / 100, true
	case t.Unit == Lines && t.shapes:
		return s.Long / scale / 10, true
	case t.Unit == Lines && t.Line > 0 && full > 0:
		return s.Film / full / t.Line / scale / 10, true
	}
	return 0, false
}

// of what a share is taken.
const (
	ofZone  = "zone"
	ofLayer = "layer"
)

// techniques is the table.
var techniques = sync.OnceValue(func() (out []Technique) {
	for _, r := range table.Read(tableFiles, "techniques") {
		formula, err := landing.Read(
			strings.NewReplacer(" light", "", " dark", "", "; recess", "+recess").Replace(r["landing"]),
		)
		if err != nil {
			panic(fmt.Sprintf("table techniques: %s: %v", r["id"], err))
		}
		t := Technique{
			ID:      r["id"],
			Name:    r["name"],
			Kind:    Kind(r["layer_kind"]),
			Lands:   r["landing"],
			Where:   landing.Words(r["landing"]),
			Amount:  math.Abs(r.Number("amount")), // what is taken off is told as less than nothing
			Share:   r["amount_kind"] == "share",
			Of:      r["of"],
			Along:   along(r["direction"]),
			Check:   r["check"],
			Per:     unit.Minutes(r.Number("per_unit_min")),
			Line:    r.Number("line_real_mm"),
			Air:     r.Is("by_airbrush"),
			formula: formula,
			shapes:  r["model"] == "shape",
		}
		t.Unit, _, _ = strings.Cut(r["unit"], " ") // whose passes are counted beside
		for i, part := range strings.Split(r["size_real_mm"], ";") {
			size := sizes(part)
			if i == 0 {
				t.Size = size
			} else {
				t.Long = size
			}
		}
		for _, k := range append([]Kind{t.Kind}, also[t.ID]...) {
			if k.known() {
				t.Kinds = append(t.Kinds, k)
			}
		}
		if len(t.Kinds) > 0 {
			out = append(out, t)
		}
	}
	return out
})

// along reads a direction of the table.
func along(text string) landing.Direction {
	switch {
	case strings.HasPrefix(text, "along travel"):
		return landing.Travel
	case strings.HasPrefix(text, "against travel"):
		return landing.Flung
	case text == "down":
		return landing.Falls
	}
	return landing.Any
}

// sizes reads "4-40", "8-25 wide" and the like; it panics where the table says something else.
func sizes(text string) (out [2]float64) {
	text, _, _ = strings.Cut(strings.TrimSpace(text), " ")
	if text == "" {
		return out
	}
	low, high, ok := strings.Cut(text, "-")
	a, err := strconv.ParseFloat(low, 64)
	b, err2 := strconv.ParseFloat(high, 64)
	if !ok || err != nil || err2 != nil {
		panic(fmt.Sprintf("table techniques: size %q", text))
	}
	return [2]float64{a, b}
}

// Techniques lists them.
func Techniques() []Technique { return slices.Clone(techniques()) }

// TechniqueOf finds a technique by its id.
func TechniqueOf(id string) (Technique, bool) {
	all := techniques()
	i := slices.IndexFunc(all, func(t Technique) bool { return t.ID == id })
	if i < 0 {
		return Technique{}, false
	}
	return all[i], true
}

// also are the kinds of layers that may be worked by techniques which the table has for another.
var also = map[string][]Kind{
	"chipping_work": {ChippingWork},
	"streak_rust":   {Rust},
	"dust_pigment":  {Pigment},
	"shell_dirt":    {Pigment},
	"rust_base":     {Pigment},
	"mud_clods":     {Mud},
	"dry_brush":     {Highlight},

	"lighten_panels": {Lighter},
	"relight":        {Lighter},
	"wear_rub":       {Rubbed},
	"rub_clean":      {RubClean},
}

// Suits tells whether a layer of a kind may be worked so.
func (t Technique) Suits(k Kind) bool { return slices.Contains(t.Kinds, k) }

// Worked is the technique by which a layer is worked: its own, or the usual one of its kind; ok is
// false of paint that simply goes all over, and of what is not seen.
func (l Layer) Worked() (t Technique, ok bool) {
	id := l.Technique
	if id == "" {
		id = l.Kind.About().Usual
	}
	if t, ok = TechniqueOf(id); !ok {
		return t, false
	}
	t, _ = t.lived(l.Kind, l.Lived)
	if l.Amount != nil {
		t.Amount = *l.Amount
	}
	if len(l.SizeMM) == 2 {
		t.Size = [2]float64(l.SizeMM)
	}
	if f, err := landing.Read(l.By); l.By != "" && err == nil {
		t.Lands, t.formula = l.By, f
	}
	return t, true
}

// MostFilm is the thickest film that a layer may be asked for, µm.
const MostFilm = 2000

// MostSize is the largest mark that a layer may be made of, real mm.
const MostSize = 2000

// Marked tells of a layer that is made of marks, and of which sizes they are, real mm.
func (l Layer) Marked() (size [2]float64, ok bool) {
	t, worked := l.Worked()
	return t.Size, worked && t.shapes && t.Size[0] > 0
}

// Lands tells whether where the layer lands hangs on a term of its formula.
func (l Layer) Lands(term string) bool {
	t, worked := l.Worked()
	return worked && strings.Contains(t.Lands, term)
}

// soundSizes tells of a smallest and a largest mark that can be.
func soundSizes(mm []float64) bool {
	return len(mm) == 2 && mm[0] >= 1 && mm[1] >= mm[0] && mm[1] <= MostSize
}

// checkTechnique reports what is wrong with a layer's technique and amount.
func (l Layer) checkTechnique() error {
	t, ok := l.Worked()
	switch {
	case l.Technique != "" && !ok:
		return fmt.Errorf("layer %s: technique %q is not in the table; choose one of it", l.Name, l.Technique)
	case l.Technique != "" && !t.Suits(l.Kind):
		return fmt.Errorf("layer %s: %s is no way of working %s; choose another", l.Name, t.Name, l.Kind.About().Name)
	case len(l.SizeMM) > 0 && !(ok && t.shapes && t.Size[0] > 0):
		return fmt.Errorf("layer %s: it is not made of marks that have a size; leave the size out", l.Name)
	case len(l.SizeMM) > 0 && !soundSizes(l.SizeMM):
		return fmt.Errorf(
			"layer %s: sizes %v mm; give the smallest and the largest mark, 1 to %d mm real",
			l.Name,
			l.SizeMM,
			MostSize,
		)
	case l.Amount == nil:
		return nil
	case !ok:
		return fmt.Errorf("layer %s: what goes all over has no amount; give coats", l.Name)
	case t.Share && !(*l.Amount >= 0 && *l.Amount <= 1):
		return fmt.Errorf("layer %s: amount %g; a share lies between 0 and 1", l.Name, *l.Amount)
	case !(*l.Amount >= 0 && *l.Amount <= MostFilm):
		return fmt.Errorf("layer %s: amount %g µm; a film lies between 0 and %d µm", l.Name, *l.Amount, MostFilm)
	}
	return nil
}

// marked tells whether marks are set one by one: of what covers so much that they would run into
// each other, the landing itself says where it lies.
func (t Technique) marked() bool {
	const few = 0.25
	return t.shapes && t.Share && t.Size[0] > 0 && (t.Of == ofLayer || t.Of == ofZone && t.Amount <= few)
}

// wanted is the area that a share asks for, real mm².
func (t Technique) wanted(whole, landed float64) float64 {
	switch t.Of {
	case ofZone:
		return unit.Share(t.Amount).Of(whole)
	default:
		return unit.Share(t.Amount).Of(landed)
	}
}

// thick is the film of a technique that is one, µm.
func (t Technique) thick() paint.Film { return paint.Film(t.Amount) }

// GoesBy names what lies below by which the layer lands: kinds of layers and techniques.
func (l Layer) GoesBy() []string {
	how, ok := l.Worked()
	if !ok {
		return nil
	}
	return append(slices.Clone(how.formula.Beneath), how.formula.Falls...)
}

// called are other names of kinds of layers, as formulas have them.
var called = map[string]Kind{"markings": Decals, "deep chips": Chips}

// Answers tells whether a formula means the layer by a name.
func (l Layer) Answers(name string) bool {
	how, _ := l.Worked()
	return string(l.Kind) == name || called[name] == l.Kind || how.ID == name
}

// Beneath gives, by name, what lies of some layers and the marks that they are made of.
func Beneath(layers []Layer, deposits []Deposit) (laid func(string) []float32, marks func(string) []landing.Mark) {
	var known sync.Map // it is asked for panel by panel
	laid = func(name string) (out []float32) {
		if kept, ok := known.Load(name); ok {
			return kept.([]float32) //nolint:forcetypeassert // nothing else is stored
		}
		defer func() { known.Store(name, out) }()
		for i, l := range layers {
			if !l.Answers(name) || deposits[i].Film == nil {
				continue
			}
			part := deposits[i].Part()
			if out == nil {
				out = part
				continue
			}
			for k, v := range part {
				out[k] = max(out[k], v)
			}
		}
		return out
	}
	marks = func(name string) (out []landing.Mark) {
		for i, l := range layers {
			if l.Answers(name) {
				out = append(out, deposits[i].Marks...)
			}
		}
		return out
	}
	return laid, marks
}

// Least and most of an effort, beside the usual one.
const (
	leastEffort = 0.5
	mostEffort  = 2.0
)

// Effort is how many times as long as usual it takes to lay a layer whose amount is other than usual at
// its scale: the root of how much more there is, since more of it is laid over the same faces. A starting
// value, which the log corrects.
func (l Layer) Effort() float64 {
	now, ok := l.Worked()
	if !ok {
		return 1
	}
	plain := l
	plain.Amount, plain.Lived.Life = nil, nil
	usual, _ := plain.Worked()
	if usual.Amount <= 0 || now.Amount == usual.Amount || now.shapes && now.Unit != Areas { // their marks are counted
		return 1
	}
	return min(max(math.Sqrt(now.Amount/usual.Amount), leastEffort), mostEffort)
}
