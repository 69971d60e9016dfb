package look

import "cinderpath/core/colour"

// Light is what is seen of a texel before it is written in eight bits.
func (s *State) Light(at int) (out [3]float64) {
	var seen spectrum
	if s.dusty != nil && s.dusty[at] {
		copy(seen[:], s.loose[at*Bands:])
	} else {
		s.skin(s.inner[at*Bands:at*Bands+Bands], s.sheen[at], seen[:])
	}
	for k := range 3 {
		for g, r := range seen {
			out[k] += float64(s.eye.light[k][g]) * float64(r)
		}
	}
	return out
}

// Lab is the same as a colour.
func (s *State) Lab(at int) colour.Lab { return colour.OfLight(s.Light(at)).Lab() }
