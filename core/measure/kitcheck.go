package measure

import (
	"fmt"
	"math"
	"strings"

	"cinderpath/core/length"
)

// Pair is a real size with what the kit gives for it.
type Pair struct {
	ID       string
	Name     string
	Real     length.Real
	RealPlus float64 // standard deviation, real mm
	Kit      Reading
	Decision *Decision
}

// What an outlier is made to fit.
const (
	FitKit = "kit" // the scale that the rest of the kit has
	FitBox = "box" // the scale printed on the box
)

// Mend is one thing that can be done about an outlier.
type Mend struct {
	Act    string  `json:"act"`
	Label  string  `json:"label"`
	Factor float64 `json:"factor"` // recorded with the decision: kit · N / real
}

// PairResult is one pair as the check sees it.
type PairResult struct {
	ID       string    `json:"id"`
	Name     string    `json:"name"`
	From     string    `json:"from"`
	RealMM   float64   `json:"realMm"`
	KitMM    float64   `json:"kitMm"`
	OffMM    float64   `json:"offMm"` // kit − real / N of the scale in use, model mm
	Off      string    `json:"off"`
	OffReal  string    `json:"offReal"`
	Percent  float64   `json:"percent"`
	Sigma    float64   `json:"sigmaMm"`
	Weight   float64   `json:"weight"` // 0 to 1
	Outlier  bool      `json:"outlier"`
	Mends    []Mend    `json:"mends"`
	Decision *Decision `json:"decision,omitempty"`
	Why      Why       `json:"why"`
}

// KitReport is the verdict on a kit.
type KitReport struct {
	N       float64      `json:"n"` // implied scale 1:N
	Low     float64      `json:"low"`
	High    float64      `json:"high"` // 95 % interval; both 0 where there is none
	Box     float64      `json:"box"`
	Fit     string       `json:"fit"`
	Implied string       `json:"implied"`
	Verdict []string     `json:"verdict"`
	Pairs   []PairResult `json:"pairs"`
	Why     Why          `json:"why"`
}

// leastPairs is how many pairs it takes to call one of them wrong.
const leastPairs = 3

// CheckKitScale finds the scale 1:N that the pairs imply and the pairs that do not
// fit it. It minimises Σ ρ((k − r/N)/σ) in 1/N with Tukey's biweight, started from
// every single ratio; the interval comes from the sandwich variance (Huber, Robust
// Statistics, ch. 3), never narrower than the stated uncertainties allow, with
// Student's t for the few pairs there are. Fewer than three pairs get the plain
// least-squares answer and no outliers. No pair: ok is false. fit is FitKit or
// FitBox: what the mends aim at.
func CheckKitScale(pairs []Pair, box length.Scale, fit string) (report KitReport, ok bool) {
	if len(pairs) == 0 {
		return KitReport{}, false
	}
	robust := len(pairs) >= leastPairs
	theta := implied(pairs, robust)
	n := 1 / theta
	rep := KitReport{N: n, Box: float64(box), Fit: fit}
	if fit != FitBox {
		rep.Fit = FitKit
	}
	rep.Low, rep.High = interval(pairs, theta, robust)
	inUse, name := length.Scale(n), "implied N = "+number(n, 3)
	if rep.Fit == FitBox {
		inUse, name = box, "box "+scaleInput(box)
	}
	for _, p := range pairs {
		u, sigma := residual(p, theta)
		w := 1.0
		if robust {
			w = biweight(u)
		}
		want := float64(inUse.ToModel(p.Real))
		off := p.Kit.MM - want
		from := p.Kit.From
		if from == "" {
			from = Caliper
		}
		r := PairResult{
			ID:     p.ID,
			Name:   p.Name,
			From:   from,
			RealMM: float64(p.Real),
			KitMM:  p.Kit.MM,
			OffMM:  off,
			Off:    signed(off, 2) + " mm",
			OffReal: signed(
				off*float64(inUse),
				0,
			) + " mm",
			Percent:  100 * off / want,
			Sigma:    sigma,
			Weight:   w,
			Outlier:  w == 0,
			Decision: p.Decision,
			Mends:    []Mend{},
			Why: Why{
				"deviation = kit − real / N; weight = (1 − (u / 4.685)²)², u = (kit − real / implied N) / σ",
				[]string{
					"kit " + number(p.Kit.MM, 3) + " mm, " + from,
					"real " + p.Real.String(),
					name,
					fmt.Sprintf(
						"σ = %s mm from caliper, real size and mould",
						number(sigma, 3),
					),
					fmt.Sprintf("u = %s, weight %s", signed(u, 1), number(w, 2)),
				},
			},
		}
		if r.Outlier {
			r.Mends = mends(r, want, inUse)
		}
		rep.Pairs = append(rep.Pairs, r)
	}
	rep.Implied = printScale(n, rep.Low, rep.High)
	rep.Verdict = verdict(rep, box, robust)
	rep.Why = Why{
		"1/N minimises Σ ρ((kit − real/N)/σ), Tukey's biweight, c = 4.685, started from every single ratio",
		[]string{
			fmt.Sprintf(
				"%d pairs; σ² = caliper² + (real size's / N)² + mould², %s mm each where nothing is given",
				len(pairs),
				number(float64(CaliperPlus), 2),
			),
			"95 % interval from the sandwich variance, not below the stated uncertainties, Student's t",
		},
	}
	if !robust {
		rep.Why.Formula = "1/N = Σ real · kit / σ² / Σ real² / σ²: plain least squares, since fewer than " +
			"three pairs call none wrong"
	}
	return rep, true
}

// printScale prints a scale as finely as its interval allows.
func printScale(n, low, high float64) string {
	places := 2
	if high-low > 0.2 || high == 0 {
		places = 1
	}
	return "1:" + number(n, places)
}

func mends(r PairResult, want float64, scale length.Scale) []Mend {
	factor := r.KitMM / want
	target := length.Model(want).String()
	short := number(math.Abs(r.OffMM), 1) + " mm"
	out := []Mend{{Cut, "Cut off " + short, factor}}
	switch {
	case r.From == Leaflet:
		out = []Mend{{Cut, "Cut it to " + target + " instead of the leaflet's " + length.Model(r.KitMM).String(), factor}}
	case r.OffMM < 0:
		out = []Mend{{Extend, "Extend it by " + short, factor}}
	}
	if r.From != Leaflet {
		out = append(out, Mend{Replace, "Replace it, " + target, factor})
	}
	return append(
		out,
		Mend{
			Accept,
			fmt.Sprintf("Accept it at %s × of %s", number(factor, 3), length.Scale(math.Round(float64(scale)*100)/100)),
			factor,
		},
	)
}

// verdict says in words what the check found.
func verdict(rep KitReport, box length.Scale, robust bool) []string {
	off := 100 * (float64(box)/rep.N - 1)
	large := "large"
	if off < 0 {
		large = "small"
	}
	size := number(math.Abs(off), 1) + " % too " + large
	first := "The kit is " + rep.Implied
	if rep.High > 0 {
		first += fmt.Sprintf(" (95 %%: 1:%s to 1:%s)", number(rep.Low, 2), number(rep.High, 2))
	}
	switch {
	case rep.High == 0:
		first += fmt.Sprintf(" by plain division; one pair tells no more than that. The box says %s.", box)
	case float64(box) >= rep.Low && float64(box) <= rep.High:
		first += fmt.Sprintf(": it is what the box says, %s.", box)
	default:
		first += fmt.Sprintf(", not the %s on the box: %s.", box, size)
	}
	out := []string{first}
	if !robust && rep.High > 0 {
		out = append(out, "Two pairs cannot tell which of them is wrong: measure a third.")
	}
	wrong := 0
	for _, p := range rep.Pairs {
		if !p.Outlier {
			continue
		}
		wrong++
		how := "long"
		if p.OffMM < 0 {
			how = "short"
		}
		by := number(math.Abs(p.OffMM), 1) + " mm too " + how
		switch {
		case p.Decision != nil && p.Decision.Act == Accept:
			out = append(out, fmt.Sprintf("%s is accepted at %s × scale.", p.Name, number(p.Decision.Factor, 3)))
		case p.Decision != nil:
			out = append(out, fmt.Sprintf("%s, %s: %s, decided.", p.Name, by, p.Decision.Act))
		case p.From == Leaflet:
			out = append(out, fmt.Sprintf("The leaflet's %s does not fit the rest: %s.", lowerFirst(p.Name), by))
		default:
			out = append(out, fmt.Sprintf("%s is %s.", p.Name, by))
		}
	}
	switch {
	case wrong*2 >= len(rep.Pairs) && wrong > 0:
		out = append(
			out,
			fmt.Sprintf("Only %d of %d sizes agree: measure again before you cut.", len(rep.Pairs)-wrong, len(rep.Pairs)),
		)
	case wrong == 0 && robust:
		out = append(out, "No size falls out of the rest.")
	}
	return out
}

func lowerFirst(s string) string {
	for i, r := range s {
		return strings.ToLower(string(r)) + s[i+len(string(r)):]
	}
	return s
}

// KitQuestion asks what scale a kit has. Texts are typed lengths; a bare number is in mm.
type KitQuestion struct {
	Scale string     `json:"scale"` // printed on the box
	Fit   string     `json:"fit,omitempty"`
	Pairs []KitSizes `json:"pairs"`
}

// KitSizes is a real size with what the kit gives for it, as typed.
type KitSizes struct {
	Name     string  `json:"name"`
	Real     string  `json:"real"`
	Kit      string  `json:"kit"`
	RealPlus float64 `json:"realPlusMinusMm,omitempty"`
	KitPlus  float64 `json:"plusMinusMm,omitempty"`
	From     string  `json:"from,omitempty"`
}

// AskKit answers a question about a kit's scale.
func AskKit(q KitQuestion) (KitReport, error) {
	box, err := length.ParseScale(q.Scale)
	if err != nil {
		return KitReport{}, At("scale", err)
	}
	if len(q.Pairs) > MostDimensions {
		return KitReport{}, &Fault{"pairs", fmt.Sprintf("more than %d", MostDimensions), "leave some out"}
	}
	var pairs []Pair
	for i, p := range q.Pairs {
		field := fmt.Sprintf("pairs[%d]", i)
		r, err := length.ParseReal(p.Real, length.Millimetre)
		if err != nil {
			return KitReport{}, At(field+".real", err)
		}
		k, err := length.ParseModel(p.Kit, length.Millimetre)
		if err != nil {
			return KitReport{}, At(field+".kit", err)
		}
		d := Dimension{
			ID:       field,
			Group:    Groups[0],
			Name:     p.Name,
			Real:     Size{MM: float64(r)},
			RealPlus: p.RealPlus,
			Kit:      &Reading{MM: float64(k), Typed: p.Kit, Plus: p.KitPlus, From: p.From},
		}
		if err := d.Check(); err != nil {
			return KitReport{}, At(field, err)
		}
		pairs = append(pairs, Pair{ID: d.ID, Name: d.Name, Real: r, RealPlus: p.RealPlus, Kit: *d.Kit})
	}
	report, ok := CheckKitScale(pairs, box, q.Fit)
	if !ok {
		return report, &Fault{"pairs", "there is nothing to compare", "give real and kit sizes, three pairs or more"}
	}
	return report, nil
}
