package measure

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"sort"

	"cinderpath/core/length"
)

// Strands lists the numbers of equal strands that twist into a round rope.
var Strands = []int{2, 3, 4, 7, 19}

// Outer gives the outer diameter of a rope of n strands, in strand diameters:
// 2: 2; 3: 1 + 2/√3; 4: 1 + √2; 7: 3; 19: 5 (1 + 6 + 12). ok is false for other n.
func Outer(n int) (diameters float64, ok bool) {
	switch n {
	case 2:
		return 2, true
	case 3:
		return 1 + 2/math.Sqrt(3), true
	case 4:
		return 1 + math.Sqrt2, true
	case 7:
		return 3, true
	case 19:
		return 5, true
	}
	return 0, false
}

// RopeLayer is the strands of a rope that run at one distance from its middle.
type RopeLayer struct {
	Count  int     `json:"count"`
	Circle float64 `json:"circleMm"` // diameter of the circle of their centres, model mm
	Cut    float64 `json:"cutMm"`    // length of one strand to cut, model mm
}

// RopeLayers gives the layers of a rope of n strands of diameter d with lay p for
// a rope of length l, all model mm. A strand on a circle of diameter c follows a
// helix: l √(1 + (π c / p)²); a core strand is straight.
func RopeLayers(n int, d, lay, l float64) []RopeLayer {
	layer := func(count int, circle float64) RopeLayer {
		return RopeLayer{count, circle, l * math.Hypot(1, math.Pi*circle/lay)}
	}
	outer, _ := Outer(n)
	switch n {
	case 7:
		return []RopeLayer{layer(1, 0), layer(6, 2*d)}
	case 19:
		return []RopeLayer{layer(1, 0), layer(6, 2*d), layer(12, 4*d)}
	}
	return []RopeLayer{layer(n, (outer-1)*d)}
}

// RopeQuestion asks for a rope of a real diameter. Texts are typed lengths; a bare
// number is in mm.
type RopeQuestion struct {
	Diameter string  `json:"diameter"`         // real
	Length   string  `json:"length,omitempty"` // of the rope on the model; 100 mm when empty
	Lay      float64 `json:"lay,omitempty"`    // in outer diameters; 6 when 0
	Bend     string  `json:"bend,omitempty"`   // tightest bend wanted, radius on the model
	Scale    string  `json:"scale"`
	Owned    bool    `json:"owned,omitempty"` // only what the workshop owns
	Shelf    *Shelf  `json:"shelf,omitempty"`
}

// RopeWay is one way to make the rope.
type RopeWay struct {
	Strands  int         `json:"strands"`
	Item     Stocked     `json:"item"`
	Also     []string    `json:"also"` // other materials of the same kind and size
	Outer    float64     `json:"outerMm"`
	Error    float64     `json:"errorPercent"`
	Full     string      `json:"full"`
	Lay      float64     `json:"layMm"`
	Layers   []RopeLayer `json:"layers"`
	Total    float64     `json:"totalMm"` // of strand to cut in all
	Bend     float64     `json:"leastBendMm"`
	BendsOK  bool        `json:"bendsOk"`
	Words    string      `json:"words"`
	Why      Why         `json:"why"`
	distance float64
}

// RopeAnswer lists ways to make a rope, the nearest diameters first.
type RopeAnswer struct {
	Real     string    `json:"real"`
	Model    string    `json:"model"`
	ModelMM  float64   `json:"modelMm"`
	Ways     []RopeWay `json:"ways"`
	Notes    []string  `json:"notes"`
	Cautions []string  `json:"cautions"`
	Why      Why       `json:"why"`
}

// mostWays is how many ways to make a thing are worth reading.
const mostWays = 8

// ropeAsk is a question about a rope, read.
type ropeAsk struct {
	scale length.Scale
	real  length.Real
	want  length.Model // outer diameter
	long  float64      // on the model, mm
	bend  float64      // tightest radius, on the model, mm; 0 for any
	lay   float64      // outer diameters
	owned bool
	shelf Shelf
}

func (q RopeQuestion) read() (a ropeAsk, err error) {
	if a.scale, err = length.ParseScale(q.Scale); err != nil {
		return a, At("scale", err)
	}
	if a.real, err = length.ParseReal(q.Diameter, length.Millimetre); err != nil {
		return a, At("diameter", err)
	}
	if a.long, err = optional(q.Length, 100); err != nil {
		return a, At("length", err)
	}
	if a.bend, err = optional(q.Bend, 0); err != nil {
		return a, At("bend", err)
	}
	a.lay = cmp.Or(q.Lay, 6)
	if !(a.lay >= 2 && a.lay <= 40) {
		return a, &Fault{
			"lay",
			fmt.Sprintf("a lay of %g diameters does not twist", a.lay),
			"give 2 to 40 outer diameters; 6 is usual",
		}
	}
	a.owned, a.want = q.Owned, a.scale.ToModel(a.real)
	a.shelf, err = shelfOf(q.Shelf)
	return a, err
}

// AskRope answers a question about a rope.
func AskRope(q RopeQuestion) (RopeAnswer, error) {
	a, err := q.read()
	if err != nil {
		return RopeAnswer{}, err
	}
	out := RopeAnswer{
		Real:     a.real.String(),
		Model:    a.want.String(),
		ModelMM:  float64(a.want),
		Ways:     a.ways(),
		Notes:    []string{},
		Cautions: []string{cautionBlades},
		Why:      Why{"model = real / N", []string{"real " + a.real.String(), scaleInput(a.scale)}},
	}
	switch {
	case len(out.Ways) == 0:
		out.Notes = append(out.Notes, "No wire or thread of the table twists to within 25 % of this: "+ownedHint(q.Owned))
	case a.bend > 0 && !out.Ways[0].BendsOK:
		out.Notes = append(
			out.Notes,
			fmt.Sprintf("None of these follows a bend of %s mm radius: take thread, or a wider bend.", number(a.bend, 1)),
		)
	}
	out.Notes = append(
		out.Notes,
		"Seal braided or twisted ends with thin glue before the cut; add what your fingers hold at both ends.",
	)
	return out, nil
}

// ways are the ropes that the shelf twists to, the nearest that bends enough first.
func (a ropeAsk) ways() []RopeWay {
	out := []RopeWay{}
	for _, n := range Strands {
		for _, it := range a.shelf.Of(a.owned, Wire, Thread) {
			same := slices.IndexFunc(out, func(w RopeWay) bool {
				return w.Strands == n && w.Item.Kind == it.Kind && w.Item.Size == it.Size
			})
			if same >= 0 {
				out[same].alike(it)
			} else if w, near := a.twist(n, it); near {
				out = append(out, w)
			}
		}
	}
	sort.SliceStable(out, func(i, j int) bool {
		a, b := out[i], out[j]
		if a.BendsOK != b.BendsOK {
			return a.BendsOK
		}
		if math.Abs(a.distance-b.distance) > 1e-9 {
			return a.distance < b.distance
		}
		return a.Item.Owned && !b.Item.Owned
	})
	return out[:min(len(out), mostWays)]
}

// alike adds another material of the same size; one that is owned is named first.
func (w *RopeWay) alike(it Stocked) {
	if it.Owned && !w.Item.Owned {
		w.Item, it = it, w.Item
		w.Words = ropeWords(w.Strands, w.Item)
	}
	w.Also = append(w.Also, it.Material)
}

func ropeWords(strands int, it Stocked) string {
	return fmt.Sprintf("%d strands of %s", strands, it.Name)
}

// twist is the rope of some strands, and whether it comes within 25 % of what is wanted.
func (a ropeAsk) twist(n int, it Stocked) (RopeWay, bool) {
	k, _ := Outer(n)
	outer := k * float64(it.Size)
	off := outer/float64(a.want) - 1
	if math.Abs(off) > 0.25 {
		return RopeWay{}, false
	}
	pitch := a.lay * outer
	w := RopeWay{
		Strands:  n,
		Item:     it,
		Words:    ropeWords(n, it),
		Also:     []string{},
		Outer:    outer,
		Error:    100 * off,
		Full:     a.scale.ToReal(length.Model(outer)).String(),
		Lay:      pitch,
		Layers:   RopeLayers(n, float64(it.Size), pitch, a.long),
		distance: math.Abs(off),
	}
	for _, l := range w.Layers {
		w.Total += float64(l.Count) * l.Cut
	}
	factor, kind := a.shelf.bend(stiffCable), "twisted wire"
	if it.Kind == Thread {
		factor, kind = a.shelf.bend(Thread), "thread"
	}
	w.Bend = factor * outer
	w.BendsOK = a.bend == 0 || a.bend >= w.Bend
	w.Why = Why{
		"outer = strand · " + outerFormula(n) + "; strand = L √(1 + (π c / p)²); least bend = factor · outer",
		[]string{
			fmt.Sprintf("strand %s mm, wanted %s", number(float64(it.Size), 3), a.want),
			fmt.Sprintf(
				"rope L = %s mm, lay p = %s × outer = %s mm", number(a.long, 1), number(a.lay, 1), number(pitch, 2),
			),
			layerInput(w.Layers),
			fmt.Sprintf("%s bends to %s × its outer diameter", kind, number(factor, 1)),
		},
	}
	return w, true
}

func layerInput(layers []RopeLayer) string {
	s := ""
	for i, l := range layers {
		if i > 0 {
			s += "; "
		}
		if l.Circle == 0 {
			s += fmt.Sprintf("core strand straight, %s mm", number(l.Cut, 1))
			continue
		}
		s += fmt.Sprintf("%d on a circle c = %s mm, %s mm each", l.Count, number(l.Circle, 3), number(l.Cut, 1))
	}
	return s
}

func outerFormula(n int) string {
	return map[int]string{2: "2", 3: "(1 + 2/√3)", 4: "(1 + √2)", 7: "3", 19: "5"}[n]
}

func ownedHint(owned bool) string {
	if owned {
		return "look beyond what you own."
	}
	return "add a size to the table."
}

// shelfOf gives the shelf of a question, the plain table where there is none.
func shelfOf(s *Shelf) (Shelf, error) {
	if s == nil {
		return Shelf{}, nil
	}
	return *s, s.Check()
}

// optional reads a length on the model; empty gives the default.
func optional(text string, otherwise float64) (float64, error) {
	if text == "" {
		return otherwise, nil
	}
	m, err := length.ParseModel(text, length.Millimetre)
	return float64(m), err
}
