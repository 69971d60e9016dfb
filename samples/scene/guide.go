package scene

import (
	"errors"
	"image"
	"image/color"
	"image/draw"
	"math"
	"slices"
	"time"

	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/plan"
	"cinderpath/core/scheme"
	"cinderpath/core/strata"

	xdraw "golang.org/x/image/draw"
)

// Size of the painting guide, pixels, and how far the vehicle stands from its edge.
const (
	guideWide = 640
	guideRoom = 28.0
)

// Guide draws what a painting guide would show of a build's scheme: its left side, small, on paper that
// has yellowed unevenly. Pairs tell where three places of it lie in the view, model mm.
func Guide(b document.Build, w document.Workshop) (*image.Paletted, []scheme.Pair, error) {
	b.Scheme.Traces = nil
	b.Layers = slices.DeleteFunc(slices.Clone(b.Layers), func(l strata.Layer) bool {
		return l.Kind != strata.Prime && l.Kind != strata.Colour
	})
	var d plan.Deriver
	plans, err := d.Plans(w, []document.Item{{Build: b}}, time.Date(2026, 11, 23, 12, 0, 0, 0, time.UTC))
	if err != nil {
		return nil, nil, err
	}
	if plans[0].Trouble != nil || len(plans[0].Steps) == 0 {
		return nil, nil, errors.New("the sample has no plan")
	}
	seen, err := d.Portraits(plans[0].Steps[len(plans[0].Steps)-1].Look)
	if err != nil {
		return nil, nil, err
	}
	side := seen[slices.IndexFunc(seen, func(p plan.Portrait) bool { return p.Side == form.Left })]
	pixel := (guideWide - 2*guideRoom) / side.Width // of the guide for each model mm
	high := int(math.Ceil(side.Height*pixel + 2*guideRoom))
	out := image.NewNRGBA(image.Rect(0, 0, guideWide, high))
	draw.Draw(out, out.Bounds(), image.NewUniform(color.NRGBA{238, 233, 219, 255}), image.Point{}, draw.Src)
	onto := image.Rect(
		int(
			guideRoom,
		),
		int(guideRoom),
		int(math.Round(guideRoom+side.Width*pixel)),
		int(math.Round(guideRoom+side.Height*pixel)),
	)
	xdraw.CatmullRom.Scale(out, onto, side.Image, side.Image.Bounds(), draw.Over, nil)
	age(out)
	var pairs []scheme.Pair
	for _, part := range [][2]float64{{0.1, 0.6}, {0.9, 0.55}, {0.5, 0.15}} {
		pairs = append(pairs, scheme.Pair{
			Pixel: [2]float64{guideRoom + part[0]*side.Width*pixel, guideRoom + part[1]*side.Height*pixel},
			At:    [2]float64{part[0] * side.Width, part[1] * side.Height},
		})
	}
	return paletted(out), pairs, nil
}

// age darkens paper and print towards one corner.
func age(img *image.NRGBA) {
	box := img.Bounds()
	for y := range box.Dy() {
		for x := range box.Dx() {
			at := img.PixOffset(x, y)
			dark := 1 - 0.12*float64(x)/float64(box.Dx())*float64(y)/float64(box.Dy())
			for k := range 3 {
				img.Pix[at+k] = uint8(min(max(float64(img.Pix[at+k])*dark, 0), 255))
			}
		}
	}
}

// Traced reads the guide back, as a modeller would: by three places that both have.
func Traced(
	b document.Build,
	w document.Workshop,
	img image.Image,
	pairs []scheme.Pair,
	hash string,
) ([]scheme.Trace, error) {
	var d plan.Deriver
	b.Scheme.Traces = nil
	told, err := d.Trace(w, b, img, scheme.Reading{Pairs: pairs, Side: form.Left})
	if err != nil {
		return nil, err
	}
	told.Scheme.Traces[0].Photo = hash
	return told.Scheme.Traces, nil
}
