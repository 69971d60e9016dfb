package plan

import (
	"bytes"
	"encoding/base64"
	"image/png"
	"slices"

	"cinderpath/core/colour"
	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/look"
	"cinderpath/core/measure"
	"cinderpath/core/scheme"
	"cinderpath/core/strata"
	"cinderpath/core/unit"
	"cinderpath/core/zone"
)

// SketchQuestion asks how schemes that nobody has taken yet would look.
type SketchQuestion struct {
	Schemes []scheme.Pattern `json:"schemes"`
	Side    form.Side        `json:"side"`
	Wide    int              `json:"wide"`            // points
	Guess   bool             `json:"guess,omitempty"` // what no picture shows stands back
}

// Sketch is one of them: flat colours, without dirt.
type Sketch struct {
	Image  string       `json:"image"` // PNG, base64
	Shares []unit.Share `json:"shares"`
	Notes  []string     `json:"notes"`
}

// MostSketches are made in one go.
const MostSketches = 4

// Sketches draws schemes on a build.
func (d *Deriver) Sketches(b document.Build, q SketchQuestion) ([]Sketch, error) {
	if len(q.Schemes) == 0 || len(q.Schemes) > MostSketches || q.Wide < 40 || q.Wide > 1200 {
		return nil, measure.Refuse(
			"schemes",
			"none, too many, or too wide a picture",
			"ask for one to four, 40 to 1200 points wide",
		)
	}
	out := make([]Sketch, 0, len(q.Schemes))
	for _, p := range q.Schemes {
		b.Scheme = p
		s, laid, err := d.wearing(b)
		if err != nil {
			return nil, err
		}
		g, err := d.grid(b, s)
		if err != nil {
			return nil, err
		}
		sights, err := d.sights(b, s)
		if err != nil {
			return nil, err
		}
		i := slices.IndexFunc(sights, func(x form.Sight) bool { return x.Side == q.Side })
		if i < 0 {
			return nil, measure.Refuse("side", "there is no such view", "use left, right, top, front or rear")
		}
		box := sights[i].Whole()
		img := look.Paint(&sights[i], g, flat(p, laid.Layout, g, q.Guess), look.Picture{
			Box: box, Pixel: box.Width / float64(q.Wide), Lines: true,
		})
		var file bytes.Buffer
		if err := (&png.Encoder{CompressionLevel: png.BestSpeed}).Encode(&file, img); err != nil {
			return nil, err
		}
		out = append(out, Sketch{
			Image: base64.StdEncoding.EncodeToString(file.Bytes()), Shares: rounded(laid.Shares),
			Notes: append([]string{}, laid.Notes...),
		})
	}
	return out, nil
}

// guessed is how wide the hatching of what is guessed is, texels.
const guessed = 4

// flat is a scheme in its bare colours.
func flat(p scheme.Pattern, laid *scheme.Layout, g *form.Grid, guess bool) look.Frame {
	swatches := make([]colour.RGB, len(p.Colours))
	for i, c := range p.Colours {
		swatches[i] = colour.Of(c.Hex)
	}
	out := make(look.Frame, 4*g.Count)
	form.Each(len(g.Texels), func(i int) {
		t := g.Texels[i]
		bare := strata.Undress(t.Zone)
		for k, a := range t.Area {
			if a == 0 {
				continue
			}
			at := t.First + k
			c := swatches[laid.Taken[at]]
			if zone.Bare(t.Zone) {
				c = bare
			}
			if guess && laid.Guessed(at) && (k%t.NX+k/t.NX)/guessed%2 == 0 { // hatched
				for q := range c {
					c[q] = 255 - (255-c[q])/3
				}
			}
			out[4*at], out[4*at+1], out[4*at+2], out[4*at+3] = c[0], c[1], c[2], 1
		}
	})
	return out
}

// colourAt is the colour of a build's scheme at a place.
func (d *Deriver) colourAt(b document.Build, a scheme.Anchor) (int, error) {
	_, laid, err := d.wearing(b)
	if err != nil {
		return 0, err
	}
	c, ok := laid.Where(a)
	if !ok {
		return 0, measure.Refuse("pin.place", "nothing there takes a scheme", "click on painted metal")
	}
	return c, nil
}
