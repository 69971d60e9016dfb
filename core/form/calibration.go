package form

import (
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"cinderpath/core/measure"
)

// Steps of a calibration piece, in nozzle widths or pixels of the printer.
var calibrationSteps = []float64{1, 1.5, 2, 3, 4, 6}

// Calibration is a test piece for a printer: a plate with a row of upright walls
// and a row of square pins, each as thick as calibrationSteps times the nozzle or
// pixel, rising from left to right, slots of the same widths through the plate, and
// an overall length to measure. Steps gives the thicknesses, mm, plate its sides.
func Calibration(p measure.Printer) (m *Mesh, steps []float64, plate [3]float64) {
	const high, room, deep = 3.0, 3.0, 4.0
	unit := p.Feature
	thick := 1.0
	at := room
	type piece struct{ from, to float64 }
	var row []piece
	for _, k := range calibrationSteps {
		row = append(row, piece{at, at + k*unit})
		steps = append(steps, k*unit)
		at += k*unit + room
	}
	long := max(20, at)
	if long < at+1 {
		long = at + 1
	}
	// Along y: slots, walls, pins, with plate between.
	ys := []float64{0, room, room + deep, 2*room + deep, 2*room + 2*deep, 3*room + 2*deep}
	pins := 3*room + 2*deep
	for _, s := range steps {
		ys = append(ys, pins+s)
	}
	wide := pins + steps[len(steps)-1] + room
	ys = append(ys, wide)
	xs := []float64{0, long}
	for _, s := range row {
		xs = append(xs, s.from, s.to)
	}
	xs, ys = tidy(xs), tidy(ys)
	zs := []float64{0, thick, thick + high}
	within := func(x, from, to float64) bool { return x > from && x < to }
	filled := func(i, j, k int) bool {
		x, y := (xs[i]+xs[i+1])/2, (ys[j]+ys[j+1])/2
		n := slices.IndexFunc(row, func(s piece) bool { return within(x, s.from, s.to) })
		if k == 0 {
			return n < 0 || !within(y, room, room+deep) // slots
		}
		return n >= 0 && (within(y, 2*room+deep, 2*room+2*deep) || within(y, pins, pins+steps[n]))
	}
	return Cells(xs, ys, zs, filled), steps, [3]float64{long, wide, thick + high}
}

func tidy(x []float64) []float64 {
	slices.Sort(x)
	return slices.CompactFunc(x, func(a, b float64) bool { return math.Abs(b-a) < 1e-9 })
}

// CalibrationWords says what to look for on a calibration piece.
func CalibrationWords(p measure.Printer) string {
	_, steps, plate := Calibration(p)
	var words []string
	for _, s := range steps {
		words = append(words, strconv.FormatFloat(math.Round(s*1000)/1000, 'f', -1, 64))
	}
	return fmt.Sprintf(
		"Slots, walls and square pins of %s mm, thinner to the left; the plate is %.1f × %.1f mm and 1 mm "+
			"thick. The first wall and pin that stand, and the first slot that is open, are your printer's "+
			"own limits; measure the plate to learn its error of scale.",
		strings.Join(words, ", "),
		plate[0],
		plate[1],
	)
}
