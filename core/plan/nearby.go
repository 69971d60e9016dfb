package plan

import (
	"image"
	"math"
	"slices"

	"cinderpath/core/form"
	"cinderpath/core/look"
)

// How near a picture is for which marks are drawn anew, with the outlines that they have: where a texel is
// wider than so many points; and how many of the finer texels that may take.
const (
	blurred   = 3.0
	mostFine  = 250_000
	mostTimes = 8 // times finer
)

// nearby is a picture from so near that the surface's texels would show, from finer ones; nothing where
// they would not, or where too much of the surface is seen.
func (d *Deriver) nearby(all *dressing, n int, q PictureQuestion) (image.Image, error) {
	if q.Side == Worn || !(q.Pixel > 0) {
		return nil, nil
	}
	s, err := d.surface(all.build)
	if err != nil {
		return nil, err
	}
	coarse, err := d.grid(all.build, s)
	if err != nil {
		return nil, err
	}
	texel := coarse.Step / float64(all.build.Scale)
	if texel < blurred*q.Pixel {
		return nil, nil
	}
	sights, err := d.sights(all.build, s)
	if err != nil {
		return nil, err
	}
	i := slices.IndexFunc(sights, func(x form.Sight) bool { return x.Side == q.Side })
	if i < 0 || q.Box.Width <= 0 || q.Box.Height <= 0 || q.Box.Width/q.Pixel*q.Box.Height/q.Pixel > mostPixels {
		return nil, nil // what is wrong is told by whoever paints it
	}
	windows := sights[i].Windows(q.Box, coarse)
	count := 0
	for _, w := range windows {
		count += (w.I1 - w.I0) * (w.J1 - w.J0)
	}
	times := min(int(math.Ceil(texel/q.Pixel/1.5)), mostTimes)
	for times > 1 && count*times*times > mostFine {
		times--
	}
	if times < 2 {
		return nil, nil
	}
	laid, err := d.scheme(all.build, s)
	if err != nil {
		return nil, err
	}
	fine := coarse.Finer(windows, times)
	state := look.Bare(fine)
	for _, c := range all.coats[:n] {
		deposit, err := d.coat(all.build, s, laid, c)
		if err != nil {
			return nil, err
		}
		c.onto(state, fine, deposit.Finer(c.layer, coarse, fine))
	}
	return d.shot(all.build, s, fine, sights, state.Frame(), q)
}
