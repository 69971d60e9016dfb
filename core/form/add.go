package form

import (
	"fmt"
	"math"
	"slices"
)

// PartKinds are the kinds of parts that With adds.
var PartKinds = []string{"hull", "turret", "gun", "fender", "skirt"}

// free is a name that no part has: the word, or the word with a number.
func (b Body) free(word string) string {
	taken := b.Pieces()
	name := word
	for n := 2; slices.Contains(taken, name); n++ {
		name = fmt.Sprintf("%s-%d", word, n)
	}
	return name
}

// extent is the box about the part that others stand on, real mm: the main hull, or the
// imported body.
func (b Body) extent() (low, high Vec) {
	low, high = Vec{-2000, -1000, 400}, Vec{2000, 1000, 1200} // where there is nothing yet
	if s := b.Shell; s != nil {
		all := make([]Vec, len(s.Points))
		for i, p := range s.Points {
			all[i] = p
		}
		return box(all)
	}
	if len(b.Hulls) == 0 {
		return low, high
	}
	h := b.Hulls[max(0, slices.IndexFunc(b.Hulls, func(h Hull) bool { return h.ID == "hull" }))]
	x0, x1, z0, z1 := h.bounds()
	return Vec{x0, -h.Width / 2, z0}, Vec{x1, h.Width / 2, z1}
}

// With adds a part of a kind, of a size and in a place from which it is easily seen and
// shaped: a hull on top of all, a second turret on the one before.
func (b Body) With(kind string) (Body, error) {
	low, high := b.extent()
	long, wide, top, middle := high[0]-low[0], high[1]-low[1], high[2], (low[0]+high[0])/2
	whole := func(v float64) float64 { return math.Round(v/10) * 10 }
	on := b.mainPart()
	switch kind {
	case "hull":
		for _, s := range b.hosts() {
			top = max(top, s.high[2])
		}
		b.Hulls = append(slices.Clone(b.Hulls), Hull{ID: b.free(kind), Width: whole(wide / 2), Profile: [][2]float64{
			{
				whole(middle - long/10),
				top,
			},
			{whole(middle + long/10), top},
			{whole(middle + long/12), top + 300},
			{whole(middle - long/12), top + 300},
		}})
	case "turret":
		t := Turret{ID: b.free(kind), On: on, X: whole(middle), Ring: wide / 8, Height: 300}
		if n := len(b.Turrets); n > 0 {
			below := b.Turrets[n-1]
			t.On, t.X, t.Y, t.Ring, t.Height = below.ID, below.X, below.Y, 0.4*below.Ring, 0.4*below.Height
		}
		r := 1.3 * t.Ring
		t.InFront, t.InRear, t.InSide = r/8, r/8, r/8
		t.Plan = [][2]float64{{r, r / 2}, {0, r}, {-r, r / 2}}
		b.Turrets = append(slices.Clone(b.Turrets), t)
	case "gun":
		if len(b.Turrets) > 0 {
			on = b.Turrets[0].ID
		}
		b.Guns = append(
			slices.Clone(b.Guns),
			Gun{
				ID:     b.free(kind),
				On:     on,
				X:      whole(middle),
				Z:      whole(top + 150),
				Barrel: [][2]float64{{0, 40}, {whole(long / 3), 32}},
			},
		)
	case "fender":
		b.Fenders = append(
			slices.Clone(b.Fenders),
			Fender{ID: b.free(kind), Inner: whole(wide / 3), Outer: whole(wide/2 + 100), Thick: 5,
				Line: [][2]float64{{whole(high[0]), whole(low[2])}, {whole(low[0]), whole(low[2])}}},
		)
	case "skirt":
		b.Skirts = append(
			slices.Clone(b.Skirts),
			Skirt{
				ID:       b.free(kind),
				Rear:     whole(middle - long/3),
				Front:    whole(middle + long/3),
				Base:     whole(low[2] / 2),
				Top:      whole(low[2]),
				Out:      whole(wide/2 + 150),
				Thick:    6,
				Sections: 5,
			},
		)
	default:
		return b, fmt.Errorf("%q is no part; use hull, turret, gun, fender or skirt", kind)
	}
	return b, nil
}

// common sizes of fittings, along, across and out, real mm; those not listed are as large
// as a box.
var commonSize = map[string][3]float64{
	"box": {
		500,
		220,
		160,
	},
	"aerial": {60, 60, 1200},
	"post":   {200, 200, 120},
	"hatch":  {520, 520, 50},
	"cap":    {170, 170, 45},
	"hook":   {150, 150, 110},
	"tool":   {1000, 170, 90},
	"lamp": {
		190,
		190,
		190,
	},
	"rail":  {800, 34, 110},
	"plate": {500, 300, 15},
	"links": {390, 480, 100},
	"can":   {350, 160, 460},
	"jib":   {2000, 600, 800},
}

// WithFitting puts a fitting of a common size on a face, where it was clicked.
func (b Body) WithFitting(kind, on string, at Vec) Body {
	size, known := commonSize[kind]
	if !known {
		size = commonSize["box"]
	}
	for k := range at {
		at[k] = math.Round(at[k])
	}
	b.Fittings = append(
		slices.Clone(b.Fittings),
		Fitting{ID: b.free(kind), Kind: kind, On: on, At: at, Size: size, Count: 3},
	)
	return b
}

// WithName gives the face of an imported body at a place a zone.
func (b Body) WithName(zone string, at Vec) (Body, error) {
	if b.Shell == nil {
		return b, fmt.Errorf("only the faces of an imported body are named; the parts of this one name themselves")
	}
	shell := *b.Shell
	shell.Seeds = append(slices.Clone(shell.Seeds), Seed{at, zone})
	b.Shell = &shell
	return b, nil
}
