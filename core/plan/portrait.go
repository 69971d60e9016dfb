package plan

import (
	"image"
	"math"
	"slices"

	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/zone"
)

// Portrait is a view as it is printed: its picture without lines, and the lines.
type Portrait struct {
	form.View
	Image image.Image
	Pixel float64 // model mm
	Edges []form.Edge
}

// Portraits are the five views as a look names them, for print.
func (d *Deriver) Portraits(name string) ([]Portrait, error) {
	all, n, err := d.named(name)
	if err != nil {
		return nil, err
	}
	s, f, err := d.seen(all, n)
	if err != nil {
		return nil, err
	}
	sights, err := d.sights(all.build, s)
	if err != nil {
		return nil, err
	}
	out := make([]Portrait, len(sights))
	for i, sight := range sights {
		// Large models are printed coarser: they are looked at from farther off.
		pixel := max(printed, math.Sqrt(sight.Width*sight.Height/mostPixels*5))
		img, err := d.painted(all.build, s, f, PictureQuestion{Side: sight.Side, Pixel: pixel, small: true})
		if err != nil {
			return nil, err
		}
		out[i] = Portrait{sight.View, img, pixel, sight.Edges}
	}
	return out, nil
}

// shown is how much of each zone is seen from each side, points of a coarse raster.
func (d *Deriver) shown(b document.Build, s surface) (map[form.Side]map[string]int, error) {
	return stage(d, "shown", s.drawing, func() (map[form.Side]map[string]int, error) {
		sights, err := d.sights(b, s)
		if err != nil {
			return nil, err
		}
		out := map[form.Side]map[string]int{}
		for i := range sights {
			seen := map[string]int{}
			r := sights[i].Raster(sights[i].Whole(), max(1, sights[i].Width/200))
			for _, p := range r.Panel {
				if p >= 0 {
					seen[s.panels[p].Zone]++
				}
			}
			out[sights[i].Side] = seen
		}
		return out, nil
	})
}

// sidesOf are the views in which zones are seen best.
func sidesOf(shown map[form.Side]map[string]int, zones []string) []form.Side {
	count := map[form.Side]int{}
	for side, seen := range shown {
		for z, n := range seen {
			if zone.Among(z, zones) {
				count[side] += n
			}
		}
	}
	out := slices.Clone(form.Sides)
	slices.SortStableFunc(out, func(a, b form.Side) int { return count[b] - count[a] })
	best := count[out[0]]
	out = slices.DeleteFunc(
		out,
		func(s form.Side) bool { return float64(count[s]) < worth*float64(best) || count[s] == 0 },
	)
	return out[:min(len(out), mostSides)]
}
