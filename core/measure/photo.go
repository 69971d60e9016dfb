package measure

import (
	"fmt"
	"math"
	"strings"

	"cinderpath/core/length"
)

// Pixel is a point of a photograph, x to the right and y down, in pixels.
type Pixel [2]float64

// Ways to measure on a photograph.
const (
	ByReference = "reference" // one known length, everything in its plane and seen square on
	ByCorners   = "corners"   // four corners of a known rectangle, everything in its plane
)

// ClickSigma is the standard deviation of a click in each axis, pixels.
const ClickSigma = 1.0

// IsHash tells whether a text can be the hash of a file: SHA-256 in hex.
func IsHash(s string) bool { return len(s) == 64 && strings.Trim(s, "0123456789abcdef") == "" }

// PhotoLength is a length to be measured between two points.
type PhotoLength struct {
	ID   string `json:"id"`
	Name string `json:"name"`
	A    Pixel  `json:"a"`
	B    Pixel  `json:"b"`
	Off  bool   `json:"off,omitempty"` // it does not lie in the plane
}

// PhotoMarks are what a modeller marked on a photograph.
type PhotoMarks struct {
	Mode       string        `json:"mode"`
	A          Pixel         `json:"a"` // ends of the known length
	B          Pixel         `json:"b"`
	Real       Size          `json:"real"`
	RealPlus   float64       `json:"realPlusMinusMm,omitempty"`
	Corners    [4]Pixel      `json:"corners"` // round the rectangle, from the upper left
	Across     Size          `json:"across"`  // real length of the sides 1–2 and 4–3
	Down       Size          `json:"down"`    // real length of the sides 2–3 and 1–4
	AcrossPlus float64       `json:"acrossPlusMinusMm,omitempty"`
	DownPlus   float64       `json:"downPlusMinusMm,omitempty"`
	Lengths    []PhotoLength `json:"lengths"`
}

// Photo is a photograph of a build; its pixels are kept by content hash.
type Photo struct {
	ID     string `json:"id"`
	Name   string `json:"name"`
	Hash   string `json:"hash"`
	Width  int    `json:"width"` // pixels, upright
	Height int    `json:"height"`
	PhotoMarks
}

// MostLengths bounds what is measured on one photograph.
const MostLengths = 100

// Check reports the first fault of a photograph.
func (p Photo) Check() error {
	switch {
	case p.ID == "":
		return &Fault{"id", "a photograph needs an identity", "give it one"}
	case strings.TrimSpace(p.Name) == "" || len(p.Name) > longName:
		return &Fault{"name", "nothing is written, or too much", "give it a short name"}
	case !IsHash(p.Hash):
		return &Fault{"hash", "it is not a content hash", "upload the photograph first"}
	case p.Width < 1 || p.Height < 1 || p.Width > 100_000 || p.Height > 100_000:
		return &Fault{"width", "a photograph without a size", "upload it again"}
	}
	return p.check()
}

func (m PhotoMarks) check() error {
	if m.Mode != ByReference && m.Mode != ByCorners {
		return &Fault{"mode", fmt.Sprintf("%q is no way to measure", m.Mode), "use reference or corners"}
	}
	if len(m.Lengths) > MostLengths {
		return &Fault{"lengths", fmt.Sprintf("more than %d lengths", MostLengths), "take some off"}
	}
	points := []Pixel{m.A, m.B, m.Corners[0], m.Corners[1], m.Corners[2], m.Corners[3]}
	seen := map[string]bool{}
	for _, l := range m.Lengths {
		points = append(points, l.A, l.B)
		if l.ID == "" || seen[l.ID] || len(l.Name) > longName {
			return &Fault{"lengths", "a length without an identity of its own, or with too long a name", "measure it again"}
		}
		seen[l.ID] = true
	}
	for _, p := range points {
		if !(math.Abs(p[0]) <= 1e6 && math.Abs(p[1]) <= 1e6) {
			return &Fault{"points", "a point lies far outside the photograph", "set it again"}
		}
	}
	for _, s := range []Size{m.Real, m.Across, m.Down} {
		if !(s.MM >= 0 && s.MM <= length.Longest) {
			return &Fault{"real", "it must lie between zero and one kilometre", "type the real size"}
		}
	}
	if !(m.RealPlus >= 0 && m.AcrossPlus >= 0 && m.DownPlus >= 0) || !finite(m.RealPlus, m.AcrossPlus, m.DownPlus) {
		return &Fault{"plusMinus", "an uncertainty below zero", "give one standard deviation in mm"}
	}
	return nil
}

// Read reads the sizes that were typed; those left empty become 0. A bare number
// is in mm.
func (m *PhotoMarks) Read() error {
	for _, f := range []struct {
		field string
		size  *Size
	}{{"real", &m.Real}, {"across", &m.Across}, {"down", &m.Down}} {
		f.size.Typed = strings.TrimSpace(f.size.Typed)
		if f.size.Typed == "" {
			f.size.MM = 0
			continue
		}
		r, err := length.ParseReal(f.size.Typed, length.Millimetre)
		if err != nil {
			return At(f.field, err)
		}
		f.size.MM = float64(r)
	}
	return m.check()
}

// PhotoReading is one measured length.
type PhotoReading struct {
	ID       string   `json:"id"`
	Name     string   `json:"name"`
	MM       float64  `json:"mm"`            // real
	Plus     float64  `json:"plusMinusMm"`   // standard deviation
	Real     string   `json:"real"`          // with its 95 % interval
	Failed   string   `json:"failed"`        // why it has no length
	Cautions []string `json:"cautions"`      // what it must not be trusted for
	Percent  float64  `json:"plusMinusPart"` // 95 % half width, %
	Why      Why      `json:"why"`
}

// PhotoAnswer is what the marks measure.
type PhotoAnswer struct {
	Readings []PhotoReading `json:"readings"`
	Grid     [][2]Pixel     `json:"grid"` // lines of the plane, to see whether it lies right
	GridStep string         `json:"gridStep"`
	Notes    []string       `json:"notes"`
}

// AskPhoto measures the marked lengths. Typed sizes are read first.
func AskPhoto(m PhotoMarks) (PhotoAnswer, error) {
	if err := m.Read(); err != nil {
		return PhotoAnswer{}, err
	}
	out := PhotoAnswer{Readings: []PhotoReading{}, Grid: [][2]Pixel{}, Notes: []string{}}
	if m.Mode == ByCorners {
		return out, m.byCorners(&out)
	}
	return out, m.byReference(&out)
}

// leastReference is the shortest known length that is measured with, pixels.
const leastReference = 10

func (m PhotoMarks) byReference(out *PhotoAnswer) error {
	if m.Real.MM <= 0 {
		return &Fault{"real", "the known length is not given", "type its real size"}
	}
	known := dist(m.A, m.B)
	if known < leastReference {
		return &Fault{
			"a",
			fmt.Sprintf("the known length is only %s pixels long", number(known, 1)),
			"set its ends farther apart, or take a larger photograph",
		}
	}
	out.Notes = append(
		out.Notes,
		"True for what lies as far from the camera as the known length and is seen square on. On a surface "+
			"seen at an angle, mark four corners instead.",
	)
	for _, l := range m.Lengths {
		d := dist(l.A, l.B)
		r := PhotoReading{
			ID:       l.ID,
			Name:     l.Name,
			Cautions: []string{},
			Why: Why{
				"length = known · pixels / known pixels; u² = 2σ² (1/p² + 1/k²) + (u known / known)², relative",
				[]string{
					"known " + length.Real(
						m.Real.MM,
					).String() + " over " + number(
						known,
						1,
					) + " px",
					"measured " + number(d, 1) + " px",
					"clicks σ = 1 px in each axis; interval 95 % = 1.96 u",
				},
			},
		}
		if d < 1 {
			r.Failed = "its ends lie on each other"
			out.Readings = append(out.Readings, r)
			continue
		}
		r.MM = m.Real.MM * d / known
		relative := m.RealPlus / m.Real.MM
		r.Plus = r.MM * math.Sqrt(2*ClickSigma*ClickSigma*(1/(d*d)+1/(known*known))+relative*relative)
		r.finish(l)
		out.Readings = append(out.Readings, r)
	}
	return nil
}

// normal95 is the half width of a normal 95 % interval in standard deviations.
const normal95 = 1.959963984540054

func (r *PhotoReading) finish(l PhotoLength) {
	half := normal95 * r.Plus
	r.Percent = 100 * half / r.MM
	places := 0
	if half < 5 {
		places = 1
	}
	r.Real = fmt.Sprintf("%s ± %s mm", number(r.MM, places), number(half, places))
	if l.Off {
		r.Cautions = append(
			r.Cautions,
			"Not in the plane of what is known: nearer to the camera it reads too long, farther too short, by "+
				"about its distance from the plane over the distance of the camera.",
		)
	}
	if r.Percent > 5 {
		r.Cautions = append(r.Cautions, "More than 5 % uncertain: mark a larger known size, or a larger photograph.")
	}
}

func dist(a, b Pixel) float64 { return math.Hypot(a[0]-b[0], a[1]-b[1]) }

// Measure gives a length in the plane of four corners with its standard deviation
// by first-order propagation: of the clicks on corners and ends, and of the known
// sides.
func (m PhotoMarks) Measure(l PhotoLength) (mm, plus float64, ok bool) {
	mm, ok = between(m.Corners, m.Across.MM, m.Down.MM, l.A, l.B)
	if !ok {
		return 0, 0, false
	}
	variance := 0.0
	slope := func(move func(m *PhotoMarks, l *PhotoLength, by float64), step, sigma float64) {
		if sigma == 0 {
			return
		}
		up, down := m, m
		lu, ld := l, l
		move(&up, &lu, step)
		move(&down, &ld, -step)
		hi, okHi := between(up.Corners, up.Across.MM, up.Down.MM, lu.A, lu.B)
		lo, okLo := between(down.Corners, down.Across.MM, down.Down.MM, ld.A, ld.B)
		ok = ok && okHi && okLo
		moved := (hi - lo) / (2 * step) * sigma
		variance += moved * moved
	}
	const step = 0.01 // px: small beside the click, large beside the rounding
	for axis := range 2 {
		for i := range 4 {
			slope(func(m *PhotoMarks, _ *PhotoLength, by float64) { m.Corners[i][axis] += by }, step, ClickSigma)
		}
		slope(func(_ *PhotoMarks, l *PhotoLength, by float64) { l.A[axis] += by }, step, ClickSigma)
		slope(func(_ *PhotoMarks, l *PhotoLength, by float64) { l.B[axis] += by }, step, ClickSigma)
	}
	slope(func(m *PhotoMarks, _ *PhotoLength, by float64) { m.Across.MM += by }, m.Across.MM*1e-4, m.AcrossPlus)
	slope(func(m *PhotoMarks, _ *PhotoLength, by float64) { m.Down.MM += by }, m.Down.MM*1e-4, m.DownPlus)
	return mm, math.Sqrt(variance), ok
}

func (m PhotoMarks) byCorners(out *PhotoAnswer) error {
	if m.Across.MM <= 0 {
		return &Fault{"across", "the rectangle's length across is not given", "type its real size"}
	}
	if m.Down.MM <= 0 {
		return &Fault{"down", "the rectangle's height is not given", "type its real size"}
	}
	plane, err := NewPlane(m.Corners, m.Across.MM, m.Down.MM)
	if err != nil {
		return err
	}
	out.Notes = append(
		out.Notes,
		"True for what lies in the plane of the rectangle. Wide-angle pictures bend straight lines near "+
			"their rim: keep to the middle.",
	)
	for _, l := range m.Lengths {
		r := PhotoReading{
			ID:       l.ID,
			Name:     l.Name,
			Cautions: []string{},
			Why: Why{
				"both ends mapped to the rectangle's plane (homography of its four corners), then their " +
					"distance; u from corners and ends to first order",
				[]string{
					fmt.Sprintf(
						"rectangle %s × %s",
						length.Real(m.Across.MM),
						length.Real(m.Down.MM),
					),
					fmt.Sprintf("%s px between the ends", number(dist(l.A, l.B), 1)),
					"clicks σ = 1 px in each axis; interval 95 % = 1.96 u",
				},
			},
		}
		mm, plus, ok := m.Measure(l)
		switch {
		case !ok:
			r.Failed = "an end lies beyond the horizon of the plane"
		case dist(l.A, l.B) < 1:
			r.Failed = "its ends lie on each other"
		default:
			r.MM, r.Plus = mm, plus
			r.finish(l)
			for _, end := range []Pixel{l.A, l.B} {
				if q, _ := plane.On(end); q[0] < -m.Across.MM || q[0] > 2*m.Across.MM || q[1] < -m.Down.MM || q[1] > 2*m.Down.MM {
					r.Cautions = append(r.Cautions, "It reaches far beyond the rectangle: small errors of the corners grow there.")
					break
				}
			}
		}
		out.Readings = append(out.Readings, r)
	}
	out.grid(plane, m.Across.MM, m.Down.MM)
	return nil
}

// grid draws the plane's own squares, one rectangle beyond the known one each way,
// so that the eye sees whether the corners sit right.
func (a *PhotoAnswer) grid(plane Plane, across, down float64) {
	step := math.Pow(10, math.Floor(math.Log10(max(across, down)/2)))
	for max(across, down)/step > 12 {
		step *= 2
	}
	a.GridStep = length.Real(step).String()
	line := func(p, q [2]float64) {
		x, okX := plane.Pixel(p)
		y, okY := plane.Pixel(q)
		if okX && okY {
			a.Grid = append(a.Grid, [2]Pixel{x, y})
		}
	}
	reach := 0.5
	x0, x1, y0, y1 := -reach*across, (1+reach)*across, -reach*down, (1+reach)*down
	for x := math.Ceil(x0/step) * step; x <= x1; x += step {
		line([2]float64{x, y0}, [2]float64{x, y1})
	}
	for y := math.Ceil(y0/step) * step; y <= y1; y += step {
		line([2]float64{x0, y}, [2]float64{x1, y})
	}
}
