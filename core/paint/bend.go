package paint

import "cinderpath/core/colour"

// bend turns a reflectance R into (a + b R) / (c + d R): what a film or a skin does in one
// band, and what many of them do one after the other.
type bend struct{ a, b, c, d float64 }

func (m bend) of(r float64) float64 { return (m.a + m.b*r) / (m.c + m.d*r) }

// then is m first and n over it.
func (m bend) then(n bend) bend {
	return bend{
		n.a*m.c + n.b*m.a, n.a*m.d + n.b*m.b,
		n.c*m.c + n.d*m.a, n.c*m.d + n.d*m.b,
	}
}

// Over is what lies over a paint: how the eye sees a reflectance below it.
type Over [colour.Count]bend

// Coat is a film over a paint.
type Coat struct {
	Pigment Pigment
	Film    Film
	Loose   bool // powder without a binder, which lies on the skin
}

// Seen gives what lies over a paint: films from below, and the skin of the topmost binder.
// Powder that something with a binder covers is taken under its skin.
func Seen(skin colour.Sheen, films ...Coat) Over {
	var out Over
	a, b, c := skin.Skin()
	top := len(films) // from here on powder lies on the skin
	for top > 0 && films[top-1].Loose {
		top--
	}
	for band := range out {
		m := bend{b: 1, c: 1}
		for i, f := range films {
			if i == top {
				m = m.then(skinned(a, b, c))
			}
			p, q, r := f.Pigment.Over(f.Film, band)
			m = m.then(bend{p, q, 1, -r})
		}
		if top == len(films) {
			m = m.then(skinned(a, b, c))
		}
		out[band] = m
	}
	return out
}

// skinned is a + b R / (1 − c R).
func skinned(a, b, c float64) bend { return bend{a, b - a*c, 1, -c} }

// Of is what is seen of a reflectance.
func (o *Over) Of(inner colour.Bands) (out colour.Bands) {
	for i, r := range inner {
		out[i] = o[i].of(r)
	}
	return out
}

// Lab is the colour that is seen of a reflectance.
func (o *Over) Lab(inner colour.Bands) colour.Lab { return o.Of(inner).XYZ().Lab() }
