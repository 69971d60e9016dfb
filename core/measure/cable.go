package measure

import (
	"fmt"
	"math"
	"strings"

	"cinderpath/core/length"
)

// Cable is the path of a cable or pipe on the model: points in model mm and what
// it needs beyond them at both ends.
type Cable struct {
	ID       string       `json:"id"`
	Name     string       `json:"name"`
	Points   [][3]float64 `json:"points"`
	Start    float64      `json:"startMm"`             // allowance at the first end, model mm
	End      float64      `json:"endMm"`               // allowance at the last end
	Leaflet  float64      `json:"leafletMm,omitempty"` // length the instructions name; 0 for none
	Diameter *Size        `json:"diameter,omitempty"`  // real
}

// MostPoints bounds a path.
const MostPoints = 200

// Check reports the first fault of a cable.
func (c Cable) Check() error {
	switch {
	case c.ID == "":
		return &Fault{"id", "a cable needs an identity", "give it one"}
	case strings.TrimSpace(c.Name) == "" || len(c.Name) > longName:
		return &Fault{"name", "nothing is written, or too much", "give it a short name, such as tow rope, left"}
	case len(c.Points) > MostPoints:
		return &Fault{"points", fmt.Sprintf("more than %d points", MostPoints), "leave some out"}
	case !(c.Start >= 0 && c.Start <= 1000 && c.End >= 0 && c.End <= 1000):
		return &Fault{"ends", "an allowance lies between 0 and 1000 mm", "give what the end fitting hides, in model mm"}
	case !(c.Leaflet >= 0 && c.Leaflet <= 10_000):
		return &Fault{"leaflet", "a length lies between 0 and 10 000 mm", "give the leaflet's length in model mm"}
	case c.Diameter != nil && !(c.Diameter.MM > 0 && c.Diameter.MM <= length.Longest):
		return &Fault{"diameter", "it must lie above zero", "type the real diameter"}
	}
	for i, p := range c.Points {
		for _, v := range p {
			if !(v >= -10_000 && v <= 10_000) {
				return &Fault{
					fmt.Sprintf("points[%d]", i),
					"it lies more than 10 m from the model",
					"check the unit: points are in model mm",
				}
			}
		}
	}
	return nil
}

// CableLine is what a path comes to.
type CableLine struct {
	ID       string  `json:"id"`
	Name     string  `json:"name"`
	Path     string  `json:"path"`
	Cut      string  `json:"cut"`
	CutMM    float64 `json:"cutMm"`
	Full     string  `json:"full"`
	Bend     string  `json:"bend,omitempty"` // tightest bend of the path
	BendMM   float64 `json:"bendMm,omitempty"`
	Leaflet  string  `json:"leaflet,omitempty"` // how the leaflet's length compares
	Differs  bool    `json:"differs"`           // by more than the larger of 1 mm and 3 %
	Advice   string  `json:"advice,omitempty"`  // what to make it from
	Why      Why     `json:"why"`
	BendWhy  Why     `json:"bendWhy"`
	Complete bool    `json:"complete"` // it has two points at least
}

// Lay measures a cable's path: a polyline plus its end allowances.
func (c Cable) Lay(scale length.Scale, shelf Shelf) CableLine {
	sum := 0.0
	segment := make([]float64, max(len(c.Points)-1, 0))
	for i := range segment {
		segment[i] = apart(c.Points[i], c.Points[i+1])
		sum += segment[i]
	}
	cut := sum + c.Start + c.End
	out := CableLine{
		ID:       c.ID,
		Name:     c.Name,
		Path:     length.Model(sum).String(),
		Cut:      length.Model(cut).String(),
		CutMM:    cut,
		Full:     scale.ToReal(length.Model(cut)).String(),
		Complete: len(c.Points) > 1,
		Why: Why{
			"cut = Σ distances between points + allowances at both ends",
			[]string{
				fmt.Sprintf("%d points, path %s mm", len(c.Points), number(sum, 2)),
				"ends " + number(c.Start, 2) + " mm and " + number(c.End, 2) + " mm",
			},
		},
		BendWhy: Why{
			"bend radius = half the shorter neighbour / tan(half the turn), the widest arc that fits the corner",
			[]string{},
		},
	}
	tightest := math.Inf(1)
	for i := 1; i+1 < len(c.Points); i++ {
		turn := turnAt(c.Points[i-1], c.Points[i], c.Points[i+1])
		if turn < 1e-6 {
			continue
		}
		if r := min(segment[i-1], segment[i]) / 2 / math.Tan(min(turn, math.Pi-1e-9)/2); r < tightest {
			tightest = r
			out.BendWhy.Inputs = []string{
				fmt.Sprintf(
					"tightest at point %d: turn %s°, neighbours %s and %s mm",
					i+1,
					number(turn*180/math.Pi, 0),
					number(segment[i-1], 1),
					number(segment[i], 1),
				),
			}
		}
	}
	if !math.IsInf(tightest, 1) {
		out.Bend, out.BendMM = length.Model(tightest).String(), tightest
	}
	if c.Leaflet > 0 && out.Complete {
		off := c.Leaflet - cut
		out.Differs = math.Abs(off) > max(1, 0.03*cut)
		out.Leaflet = fmt.Sprintf("The leaflet's %s mm fits.", number(c.Leaflet, 1))
		if out.Differs {
			how := "long"
			if off < 0 {
				how = "short"
			}
			out.Leaflet = fmt.Sprintf(
				"The leaflet's %s mm is %s mm too %s: cut to the path.",
				number(c.Leaflet, 1),
				number(math.Abs(off), 1),
				how,
			)
		}
	}
	if c.Diameter != nil && out.Complete {
		out.Advice = c.advice(scale, shelf, out)
	}
	return out
}

// advice names the rope or wire nearest to the cable's diameter.
func (c Cable) advice(scale length.Scale, shelf Shelf, line CableLine) string {
	want := scale.ToModel(length.Real(c.Diameter.MM))
	n, ok := Nearest(shelf.Of(false, Wire, Thread), want, scale)
	if !ok {
		return ""
	}
	factor := shelf.bend(n.Kind)
	s := fmt.Sprintf("%s for %s", n.Name, want)
	if line.BendMM > 0 && line.BendMM < factor*float64(n.Size) {
		s += fmt.Sprintf(
			"; it needs %s mm for a bend, the path has %s: use thread or ease the path",
			number(factor*float64(n.Size), 1),
			line.Bend,
		)
	}
	return s
}

func apart(a, b [3]float64) float64 {
	return math.Sqrt((a[0]-b[0])*(a[0]-b[0]) + (a[1]-b[1])*(a[1]-b[1]) + (a[2]-b[2])*(a[2]-b[2]))
}

// turnAt is the angle by which a path changes its direction at b, in radians.
func turnAt(a, b, c [3]float64) float64 {
	u, v := apart(a, b), apart(b, c)
	if u == 0 || v == 0 {
		return 0
	}
	dot := 0.0
	for k := range 3 {
		dot += (b[k] - a[k]) * (c[k] - b[k])
	}
	return math.Acos(max(-1, min(1, dot/u/v)))
}
