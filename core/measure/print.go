package measure

import (
	"fmt"
	"math"
	"strings"

	"cinderpath/core/length"
)

// Kinds of printer.
const (
	Filament = "filament" // Feature is the nozzle
	Resin    = "resin"    // Feature is the pixel
)

// Printer is what own parts are printed on. Lengths in mm.
type Printer struct {
	ID      string     `json:"id"`
	Name    string     `json:"name"`
	Kind    string     `json:"kind"`
	Bed     [3]float64 `json:"bed"`     // room along x, y and upward
	Feature float64    `json:"feature"` // nozzle or pixel
}

// Check reports the first fault of a printer.
func (p Printer) Check() error {
	switch {
	case p.ID == "" || strings.TrimSpace(p.Name) == "" || len(p.Name) > longName:
		return &Fault{"name", "a printer needs a name", "call it by what you see, such as the one on the shelf"}
	case p.Kind != Filament && p.Kind != Resin:
		return &Fault{"kind", fmt.Sprintf("%q is no kind of printer", p.Kind), "use filament or resin"}
	case !(p.Feature >= 0.005 && p.Feature <= 2):
		return &Fault{"feature", "a nozzle or pixel lies between 0.005 and 2 mm", "give it in mm, such as 0.4 or 0.05"}
	}
	for _, b := range p.Bed {
		if !(b >= 10 && b <= 5000) {
			return &Fault{"bed", "a bed's sides lie between 10 and 5000 mm", "give all three in mm"}
		}
	}
	return nil
}

// LeastWall is the thinnest wall the printer makes that holds: two lines of a
// nozzle, or four pixels and never below 0.2 mm. Starting values; the calibration
// piece tells the printer's own.
func (p Printer) LeastWall() float64 {
	if p.Kind == Resin {
		return max(4*p.Feature, 0.2)
	}
	return 2 * p.Feature
}

// LeastFeature is the smallest detail it shows: one line of a nozzle, or two pixels.
func (p Printer) LeastFeature() float64 {
	if p.Kind == Resin {
		return 2 * p.Feature
	}
	return p.Feature
}

// Units that a mesh may be drawn in, mm.
var Units = map[string]float64{"mm": 1, "cm": 10, "m": 1000, "in": length.Inch}

// Part is an own part: a mesh by content hash and how it was drawn.
type Part struct {
	ID      string       `json:"id"`
	Name    string       `json:"name"`
	Hash    string       `json:"hash"`
	Unit    string       `json:"unit"`              // one of Units
	DrawnAt length.Scale `json:"drawnAt"`           // 1 for real size
	Wanted  length.Scale `json:"wanted,omitempty"`  // scale to print at; 0 for the build's
	Printer string       `json:"printer,omitempty"` // id; empty for the workshop's first
}

// Check reports the first fault of a part.
func (p Part) Check() error {
	switch {
	case p.ID == "" || strings.TrimSpace(p.Name) == "" || len(p.Name) > longName:
		return &Fault{"name", "a part needs a name", "give it a short one"}
	case !IsHash(p.Hash):
		return &Fault{"hash", "it is not a content hash", "upload the mesh first"}
	case Units[p.Unit] == 0:
		return &Fault{"unit", fmt.Sprintf("%q is no unit a mesh is drawn in", p.Unit), "use mm, cm, m or in"}
	case !(p.DrawnAt >= length.FinestScale && p.DrawnAt <= length.CoarsestScale):
		return &Fault{"drawnAt", "it is not a scale", "1 for real size, 35 for 1:35"}
	case p.Wanted != 0 && !(p.Wanted >= length.FinestScale && p.Wanted <= length.CoarsestScale):
		return &Fault{"wanted", "it is not a scale", "35 for 1:35, or leave it out for the build's"}
	}
	return nil
}

// PartFacts is what a mesh measures in the unit of its file; see form.Solid and
// form.Walls. Thinnest and Feature are 0 while they are not known.
type PartFacts struct {
	Size      [3]float64
	Area      float64
	Volume    float64
	Closed    bool
	Open      int
	Crowded   int
	Shells    int
	Triangles int
	Walled    bool
	Thinnest  float64
	Feature   float64
	Spacing   float64
	Samples   int
}

// PartReport is what a part comes to at the wanted scale on a printer.
type PartReport struct {
	Facts    []Fact     `json:"facts"`
	Words    []string   `json:"words"`
	Cautions []string   `json:"cautions"`
	Box      [3]float64 `json:"box"`    // mm as printed
	Pieces   int        `json:"pieces"` // to cut it into for the bed
	Fits     bool       `json:"fits"`
}

// Judge compares a part with a printer at a scale.
func (p Part) Judge(f PartFacts, scale length.Scale, printer Printer) PartReport {
	if p.Wanted != 0 {
		scale = p.Wanted
	}
	unit := Units[p.Unit]
	k := unit * float64(p.DrawnAt) / float64(scale)
	mm := func(x float64) string { return length.Model(x).String() }
	turn := []string{
		fmt.Sprintf("drawn in %s (%s mm) at %s", p.Unit, number(unit, 1), p.DrawnAt),
		"wanted " + scale.String(),
		"factor " + number(k, 5),
	}
	var r PartReport
	for i, s := range f.Size {
		r.Box[i] = s * k
	}
	box := fmt.Sprintf("%.1f × %.1f × %.1f mm", r.Box[0], r.Box[1], r.Box[2])
	r.Facts = []Fact{
		{"Printed size", box, "model", Why{"size = box of the mesh · unit · drawn scale / wanted scale", turn}},
		{
			"At full size",
			fmt.Sprintf(
				"%s × %s × %s",
				scale.ToReal(length.Model(r.Box[0])),
				scale.ToReal(length.Model(r.Box[1])),
				scale.ToReal(length.Model(r.Box[2])),
			),
			"real",
			Why{"full size = printed size · N", []string{box, scaleInput(scale)}},
		},
		{
			"Surface",
			number(f.Area*k*k/100, 2) + " cm²",
			"model",
			Why{
				"area = Σ areas of the triangles · factor²",
				append([]string{fmt.Sprintf("%d triangles", f.Triangles)}, turn...),
			},
		},
	}
	if f.Closed {
		r.Facts = append(
			r.Facts,
			Fact{
				"Volume",
				number(math.Abs(f.Volume)*k*k*k/1000, 3) + " ml",
				"model",
				Why{"volume = Σ tetrahedra from the middle of the box (divergence theorem) · factor³", turn},
			},
		)
	} else {
		r.Words = append(
			r.Words,
			fmt.Sprintf(
				"The surface is not closed: %d open edges, %d edges with wrong faces. No volume; slicers may "+
					"fail on it. Repair it where it was drawn.",
				f.Open,
				f.Crowded,
			),
		)
	}
	if f.Closed && f.Volume < 0 {
		r.Words = append(r.Words, "The faces look inward: turn them round where it was drawn.")
	}
	if f.Shells > 1 {
		r.Words = append(
			r.Words,
			fmt.Sprintf("It is %d separate shells; where they overlap, walls are measured shell by shell.", f.Shells),
		)
	}
	if f.Walled {
		r.walls(f, k, scale, printer, mm)
	}
	r.bed(printer, box)
	r.Words = append(r.Words, "Print the calibration piece first; a prototype before the final part.")
	r.Cautions = []string{cautionSanding}
	if printer.Kind == Resin {
		r.Cautions = []string{cautionResin, cautionSanding}
	}
	return r
}

func (r *PartReport) walls(f PartFacts, k float64, scale length.Scale, printer Printer, mm func(float64) string) {
	nozzle := "nozzle"
	if printer.Kind == Resin {
		nozzle = "pixel"
	}
	inputs := []string{
		fmt.Sprintf(
			"%d rays inward, at most about %s apart on large faces; faces within 25° of parallel",
			f.Samples,
			mm(f.Spacing*k),
		),
		"factor " + number(k, 5),
		fmt.Sprintf("%s: %s %s mm", printer.Name, nozzle, number(printer.Feature, 3)),
	}
	judge := func(name string, size, least float64, rule string) {
		if size <= 0 || math.IsInf(size, 0) {
			r.Words = append(r.Words, name+": none was met.")
			return
		}
		value := mm(size * k)
		if size*k < least-1e-9 {
			value += ", too thin"
			bigger := float64(scale) * size * k / least
			r.Words = append(
				r.Words,
				fmt.Sprintf(
					"%s %s is below the %s that %s makes: thicken it %s ×, or print at 1:%s or larger.",
					name,
					mm(size*k),
					mm(least),
					printer.Name,
					number(least/(size*k), 2),
					number(math.Floor(bigger*10)/10, 1),
				),
			)
		}
		r.Facts = append(r.Facts, Fact{name, value, "model", Why{rule, inputs}})
	}
	least := map[string][2]string{Filament: {"2 nozzles", "1 nozzle"}, Resin: {"4 pixels, 0.2 mm at least", "2 pixels"}}
	judge(
		"Thinnest wall",
		f.Thinnest,
		printer.LeastWall(),
		"shortest way through from face to face · factor; least = "+least[printer.Kind][0],
	)
	judge(
		"Smallest feature",
		f.Feature,
		printer.LeastFeature(),
		"over the thinnest samples, the larger of thickness and least width across it · factor; least = "+
			least[printer.Kind][1],
	)
}

func (r *PartReport) bed(printer Printer, box string) {
	pieces, cut := Pieces(r.Box, printer.Bed)
	r.Pieces, r.Fits = pieces, pieces == 1
	long, wide, high := printer.Bed[0], printer.Bed[1], printer.Bed[2]
	bed := fmt.Sprintf("%s × %s × %s mm", number(long, 0), number(wide, 0), number(high, 0))
	value := "fits in one piece"
	if pieces > 1 {
		value = fmt.Sprintf("%d pieces, cut %d × %d × %d", pieces, cut[0], cut[1], cut[2])
	}
	r.Facts = append(
		r.Facts,
		Fact{
			"On the bed",
			value,
			"",
			Why{
				"the least product of ⌈side / bed side⌉ over the six ways to lay the box; one piece also when it " +
					"fits across a diagonal",
				[]string{"box " + box, printer.Name + ": " + bed},
			},
		},
	)
}

// Pieces is into how many boxes a box must be cut to fit a bed, over the six ways
// to lay it, and the cuts along each of its sides. A box that fits the bed's plan
// when turned (Carver, Amer. Math. Monthly 64, 1957) counts as one.
func Pieces(box, bed [3]float64) (n int, cut [3]int) {
	n = math.MaxInt
	for _, order := range [][3]int{{0, 1, 2}, {1, 0, 2}, {0, 2, 1}, {2, 0, 1}, {1, 2, 0}, {2, 1, 0}} {
		// Side order[i] of the box lies along side i of the bed.
		var c [3]int
		product := 1
		for i, side := range order {
			c[side] = max(1, int(math.Ceil(box[side]/bed[i]-1e-9)))
			product *= c[side]
		}
		if c[order[2]] == 1 && turned(box[order[0]], box[order[1]], bed[0], bed[1]) {
			c, product = [3]int{1, 1, 1}, 1
		}
		if product < n {
			n, cut = product, c
		}
	}
	return n, cut
}

// turned tells whether a rectangle p × q fits into a × b when it may be turned.
func turned(p, q, a, b float64) bool {
	p, q, a, b = max(p, q), min(p, q), max(a, b), min(a, b)
	if p <= a {
		return q <= b
	}
	return q <= b && b >= (2*p*q*a+(p*p-q*q)*math.Sqrt(p*p+q*q-a*a))/(p*p+q*q)
}
