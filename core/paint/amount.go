package paint

import "math"

// Drop is the volume of one drop, ml.
const Drop = 0.05

// CupLoss is what stays in the cup and the airbrush at each fill, ml of thinned mix.
const CupLoss = 0.3

// Way is how paint gets onto the model: the share of it that arrives, and the
// thinned mix that is lost at each fill.
type Way struct {
	Transfer float64
	Loss     float64
}

// The ways of painting, handbook 5.
var (
	Brush    = Way{Transfer: 0.95}
	Airbrush = Way{Transfer: 0.5, Loss: CupLoss}
	Small    = Way{Transfer: 0.3, Loss: CupLoss} // airbrush on small parts
	Can      = Way{Transfer: 0.25}
)

// Amount is what a step takes.
type Amount struct {
	ML      float64 // unthinned paint
	Drops   int     // of unthinned paint, rounded up
	Thinner int     // drops of thinner, rounded up
}

// Job is what an amount is asked for.
type Job struct {
	Area    float64 // on the model, cm²
	Film    Film    // dry, of one coat
	Coats   int
	Solids  float64 // volume solids of the paint, 0 to 1
	Thinner float64 // parts to one of paint
	Fills   int     // of the cup
	Way     Way
}

// Need computes the unthinned paint: area · film · coats / (solids · transfer) and what
// stays in the cup at each fill, loss / (1 + thinner). Solids of zero (a decal, a pencil)
// give nothing.
func (j Job) Need() Amount {
	if j.Solids <= 0 || j.Area <= 0 || j.Film <= 0 {
		return Amount{}
	}
	ml := j.Area*float64(
		j.Film,
	)*1e-4*float64(
		j.Coats,
	)/(j.Solids*j.Way.Transfer) + float64(
		j.Fills,
	)*j.Way.Loss/(1+j.Thinner)
	return Amount{ML: ml, Drops: drops(ml), Thinner: drops(ml * j.Thinner)}
}

// drops that so many ml take, rounded up.
func drops(ml float64) int { return int(math.Ceil(ml/Drop - 1e-9)) }
