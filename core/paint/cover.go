package paint

import "cinderpath/core/colour"

// Limits of what is counted coat by coat.
const (
	MostCoats  = 50
	MostPasses = 1000
)

// Unseen is a difference that nobody sees side by side, ΔE00.
const Unseen = 1.0

// Coats counts the coats of so much dry film each until the ground is no longer seen
// through them: ΔE00 to the infinite film below Unseen. ok is false where 50 do not cover.
func (p Pigment) Coats(each Film, ground colour.Bands, skin colour.Sheen) (n int, ok bool) {
	over := Seen(skin)
	full := over.Lab(p.Infinite())
	for n = 1; n <= MostCoats; n++ {
		if colour.Difference(over.Lab(p.Film(Film(n)*each, ground)), full) < Unseen {
			return n, true
		}
	}
	return MostCoats, false
}

// Passes counts the passes of so much dry film each until the ground looks different by
// more than is wanted, ΔE00; ok is false where even an infinite film stays at or below it.
func (p Pigment) Passes(each Film, ground colour.Bands, wanted float64, skin colour.Sheen) (n int, ok bool) {
	over := Seen(skin)
	bare := over.Lab(ground)
	if colour.Difference(over.Lab(p.Infinite()), bare) <= wanted {
		return 0, false
	}
	for n = 1; n <= MostPasses; n++ {
		if colour.Difference(over.Lab(p.Film(Film(n)*each, ground)), bare) > wanted {
			return n, true
		}
	}
	return 0, false
}
