package scheme

// whitewash covers what it is put on and is worn off in patches, first at edges and along the
// fall line: a place is worth the more the longer it keeps its paint.
type whitewash struct {
	grain, wear float64
	seed        uint64
}

func newWhitewash(m making) field {
	return whitewash{grain: 1 / 260.0, wear: m.bend, seed: m.seed}
}

// nearEdge is how far from an edge hands and branches rub, real mm.
const nearEdge = 120.0

func (f whitewash) at(p place) float64 {
	x, y, z := p.at[0]*f.grain, p.at[1]*f.grain, p.at[2]*f.grain
	v := p.near.Noise(f.seed, x, y, z) +
		0.5*p.near.Noise(f.seed+1, 3*x, 3*y, 1.2*z) + 0.35*p.near.Noise(f.seed+2, 11*x, 11*y, 3.5*z) +
		0.25*p.near.Noise(f.seed+4, 29*x, 29*y, 17*z)
	if p.edge < nearEdge {
		v -= 1.6 * f.wear * (1 - p.edge/nearEdge)
	}
	return 100 * v
}
