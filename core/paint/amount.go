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

// Need computes the unthinned paint for an area in cm² with a dry film in µm, a
// number of coats, the paint's share of volume solids and parts of thinner to one
// of paint. It is area · film · coats / (solids · transfer) + loss / (1 + thinner).
// Solids of zero (a decal, a pencil) give nothing.
func Need(area, film float64, coats int, solids, thinner float64, w Way) Amount {
	if solids <= 0 || area <= 0 {
		return Amount{}
	}
	ml := area*film*1e-4*float64(coats)/(solids*w.Transfer) + w.Loss/(1+thinner)
	return Amount{ML: ml, Drops: int(math.Ceil(ml/Drop - 1e-9)), Thinner: int(math.Ceil(ml*thinner/Drop - 1e-9))}
}
