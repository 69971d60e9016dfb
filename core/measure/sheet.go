package measure

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"cinderpath/core/length"
)

// Size is a real length as it was typed and as it was read, mm.
type Size struct {
	MM    float64 `json:"mm"`
	Typed string  `json:"typed"`
}

// Where a kit's size comes from.
const (
	Caliper = "caliper" // measured on the part
	Leaflet = "leaflet" // printed in the instructions
)

// Reading is what the kit gives for a dimension, model mm.
type Reading struct {
	MM    float64 `json:"mm"`
	Typed string  `json:"typed"`
	Plus  float64 `json:"plusMinusMm,omitempty"` // standard deviation; 0 means the default
	From  string  `json:"from,omitempty"`        // Caliper (also when empty) or Leaflet
}

// What is done about a size that does not fit.
const (
	Cut     = "cut"
	Extend  = "extend"
	Replace = "replace"
	Accept  = "accept"
)

// Decision is what the modeller chose for a size that does not fit.
type Decision struct {
	Act    string  `json:"act"`
	Factor float64 `json:"factor"` // over or under scale when it was decided: kit · N / real
}

// Groups are the parts of a vehicle that dimensions are sorted by.
var Groups = []string{"hull", "turret", "gun", "running gear", "fittings"}

// Ways a dimension runs; a thickness is not drawn.
const (
	AlongLength = "length"
	AlongWidth  = "width"
	AlongHeight = "height"
	Thickness   = "thickness"
)

var ways = []string{AlongLength, AlongWidth, AlongHeight, Thickness}

// What of a thick plate is seen.
const (
	SeenEdge = "edge" // only its edge
	SeenArea = "area" // its face, through openings or from behind
)

// Span is where a dimension was placed on a view: two points, real mm in the
// view's own frame (right, down).
type Span struct {
	Side string     `json:"side"`
	From [2]float64 `json:"from"`
	To   [2]float64 `json:"to"`
}

// Dimension is a named size of the vehicle with what the kit gives for it.
type Dimension struct {
	ID       string    `json:"id"`
	Group    string    `json:"group"`
	Name     string    `json:"name"`
	Real     Size      `json:"real"`
	RealPlus float64   `json:"realPlusMinusMm,omitempty"` // standard deviation of the real size
	Along    string    `json:"along,omitempty"`
	Seen     string    `json:"seen,omitempty"` // of a thickness
	At       *Span     `json:"at,omitempty"`
	Source   string    `json:"source,omitempty"` // where the real size comes from
	Kit      *Reading  `json:"kit,omitempty"`
	Decision *Decision `json:"decision,omitempty"`
}

// Limits of a size sheet.
const (
	MostDimensions = 400
	longName       = 120
)

// Check reports the first fault of a dimension.
func (d Dimension) Check() error {
	switch {
	case d.ID == "":
		return &Fault{"id", "a dimension needs an identity", "give it one"}
	case strings.TrimSpace(d.Name) == "":
		return &Fault{"name", "nothing is written", "say what is measured, such as road wheel, diameter"}
	case len(d.Name) > longName || len(d.Source) > longName:
		return &Fault{"name", fmt.Sprintf("longer than %d characters", longName), "shorten it"}
	case !slices.Contains(Groups, d.Group):
		return &Fault{"group", fmt.Sprintf("%q is not a group", d.Group), "use " + strings.Join(Groups, ", ")}
	case !(d.Real.MM > 0 && d.Real.MM <= length.Longest):
		return &Fault{"real", "it must lie above zero and below one kilometre", "type the real size"}
	case !(d.RealPlus >= 0 && d.RealPlus <= d.Real.MM):
		return &Fault{"realPlus", "the uncertainty is larger than the size", "give one standard deviation"}
	case d.Along != "" && !slices.Contains(ways, d.Along):
		return &Fault{"along", fmt.Sprintf("%q is not a way to run", d.Along), "use " + strings.Join(ways, ", ")}
	case d.Seen != "" && d.Seen != SeenEdge && d.Seen != SeenArea:
		return &Fault{"seen", fmt.Sprintf("%q is not known", d.Seen), "use edge or area"}
	case d.At != nil && !finite(d.At.From[0], d.At.From[1], d.At.To[0], d.At.To[1]):
		return &Fault{"at", "a point without a place", "pick both points again"}
	}
	return CheckKit(d.Kit, d.Decision)
}

// CheckKit reports the first fault of a kit's size and of what was decided on it.
func CheckKit(k *Reading, d *Decision) error {
	if k != nil {
		switch {
		case !(k.MM > 0 && k.MM <= length.Longest):
			return &Fault{"kit", "it must lie above zero", "type what the caliper shows"}
		case !(k.Plus >= 0 && k.Plus <= k.MM):
			return &Fault{
				"plusMinus",
				"the uncertainty is larger than the size",
				"give one standard deviation in mm, such as 0.05",
			}
		case k.From != "" && k.From != Caliper && k.From != Leaflet:
			return &Fault{"from", fmt.Sprintf("%q is no source of a kit's size", k.From), "use caliper or leaflet"}
		}
	}
	if d != nil {
		if !slices.Contains([]string{Cut, Extend, Replace, Accept}, d.Act) {
			return &Fault{"act", fmt.Sprintf("%q is nothing that can be done", d.Act), "use cut, extend, replace or accept"}
		}
		if !(d.Factor > 0) || !finite(d.Factor) {
			return &Fault{"factor", "it is not a factor", "decide again"}
		}
	}
	return nil
}

// Standard deviations where none is given, model mm.
const (
	CaliperPlus length.Model = 0.05
	MouldPlus   length.Model = 0.05
)

// Deviation is how far the kit's size lies from the wanted one.
type Deviation struct {
	Typed   string  `json:"typed"`
	MM      float64 `json:"mm"`
	Plus    float64 `json:"plusMinusMm"`
	From    string  `json:"from"`
	Model   string  `json:"model"`   // on the model, signed
	Real    string  `json:"real"`    // at full size, signed
	Percent string  `json:"percent"` // signed
	Told    bool    `json:"told"`    // larger than two standard deviations of the measurement
	Why     Why     `json:"why"`
}

// Deviate compares a kit's size with a real one at a scale.
func Deviate(r length.Real, realPlus float64, k Reading, scale length.Scale) Deviation {
	want := scale.ToModel(r)
	off := k.MM - float64(want)
	plus := k.Plus
	if plus == 0 {
		plus = float64(CaliperPlus)
	}
	sigma := math.Sqrt(plus*plus + math.Pow(realPlus/float64(scale), 2) + float64(MouldPlus*MouldPlus))
	from := k.From
	if from == "" {
		from = Caliper
	}
	return Deviation{
		Typed: k.Typed,
		MM:    k.MM,
		Plus:  plus,
		From:  from,
		Model: signed(off, 2) + " mm",
		Real: signed(
			off*float64(scale),
			0,
		) + " mm",
		Percent: signed(100*off/float64(want), 1) + " %",
		Told:    math.Abs(off) > 2*sigma,
		Why: Why{
			"deviation = kit − real / N; at full size × N; in % of real / N",
			[]string{
				fmt.Sprintf("kit %s mm ± %s, %s", number(k.MM, 3), number(plus, 3), from),
				"real " + r.String(),
				scaleInput(scale),
				fmt.Sprintf(
					"told when above 2 σ = %s mm (caliper, real size and mould ± %s mm together)",
					number(2*sigma, 2),
					number(float64(MouldPlus), 2),
				),
			},
		},
	}
}

// Thick says how a plate's thickness compares with the real one and what to thin.
type Thick struct {
	Factor float64 `json:"factor"`
	Target float64 `json:"targetMm"` // model mm
	Words  string  `json:"words"`
	Why    Why     `json:"why"`
}

// What plastic bears after thinning, model mm.
const (
	LeastEdge length.Model = 0.25
	LeastArea length.Model = 0.5
)

// OverScale judges a moulded thickness. seen is SeenEdge (the default) or SeenArea.
func OverScale(r length.Real, kit length.Model, scale length.Scale, seen string) Thick {
	least, where := LeastEdge, "the visible edge"
	if seen == SeenArea {
		least, where = LeastArea, "the whole plate"
	}
	want := scale.ToModel(r)
	factor := scale.ToReal(kit) / r
	target := max(want, least)
	t := Thick{Factor: float64(factor), Target: float64(target), Why: Why{
		"factor = kit · N / real; target = the larger of real / N and what plastic bears",
		[]string{
			"kit " + kit.String(),
			"real " + r.String() + ", that is " + want.String() + " on the model",
			scaleInput(scale),
			fmt.Sprintf("plastic bears %s at an edge, %s in area", LeastEdge, LeastArea),
		},
	}}
	switch {
	case float64(kit) <= float64(target)*1.05:
		t.Words = fmt.Sprintf("%s × scale: nothing to thin.", number(float64(factor), 2))
	default:
		t.Words = fmt.Sprintf("%s × too thick. Thin %s to %s", number(float64(factor), 1), where, target)
		if target > want {
			t.Words += fmt.Sprintf(" (stands for %s; thinner does not hold)", scale.ToReal(target))
		}
		if seen != SeenArea {
			t.Words += "; leave the middle"
		}
		t.Words += "."
	}
	return t
}
