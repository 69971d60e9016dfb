package plan

import (
	"image"
	"math"
	"slices"

	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/measure"
	"cinderpath/core/scheme"
	"cinderpath/core/unit"
)

// Traced is a build's scheme with what a picture told of it, before it is taken.
type Traced struct {
	Scheme scheme.Pattern `json:"scheme"`
	Shares []unit.Share   `json:"shares"` // of each colour on what the picture shows
	Tints  []string       `json:"tints"`  // as the picture shows the colours
	Specks int            `json:"specks"` // squares too small to count
}

// Trace reads a picture of one side. Pairs are of the view, model mm. What is known of the side
// already is replaced; shares and widths become those that are seen.
func (d *Deriver) Trace(w document.Workshop, b document.Build, img image.Image, r scheme.Reading) (Traced, error) {
	b = w.Filled(b)
	if len(b.Scheme.Colours) < 2 {
		return Traced{}, measure.Refuse("scheme", "one colour has no fields", "add the picture's colours to the scheme first")
	}
	s, err := d.surface(b)
	if err != nil {
		return Traced{}, err
	}
	views, err := d.views(b, s)
	if err != nil {
		return Traced{}, err
	}
	i := slices.IndexFunc(views, func(v form.View) bool { return v.Side == r.Side })
	if i < 0 {
		return Traced{}, measure.Refuse("side", "there is no such view", "use left, right, top, front or rear")
	}
	r.Pairs = slices.Clone(r.Pairs)
	for k, p := range r.Pairs {
		for q := range 2 {
			r.Pairs[k].At[q] = (p.At[q] - views[i].Origin[q]) * float64(b.Scale)
		}
	}
	g, err := d.grid(b, s)
	if err != nil {
		return Traced{}, err
	}
	told, err := b.Scheme.ReadPicture(img, r, g)
	if err != nil {
		return Traced{}, err
	}
	out := Traced{Scheme: b.Scheme, Tints: told.Tints, Specks: told.Specks}
	out.Scheme.Traces = append(slices.DeleteFunc(slices.Clone(b.Scheme.Traces), func(t scheme.Trace) bool {
		return t.Side == r.Side
	}), told.Trace)
	out.Scheme.Colours = slices.Clone(b.Scheme.Colours)
	for c, share := range told.Shares {
		out.Shares = append(out.Shares, unit.Share(share))
		if c > 0 {
			set := &out.Scheme.Colours[c]
			set.Share = unit.Share(math.Min(math.Max(math.Round(share*1000)/1000, 0.01), 0.9))
			set.Width = b.Scheme.Fitted(c, told.Widths[c])
		}
	}
	return out, nil
}
