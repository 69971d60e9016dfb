package sheets

import (
	"fmt"
	"image/color"
	"math"

	"cinderpath/core/vehicle"

	"gonum.org/v1/plot/vg"
)

// Room on a jig sheet, mm: the card below the curve, and between its parts.
const (
	cardDeep = 18.0
	between  = 16.0
)

// Jig draws a track jig: a card whose upper edge is the curve that the links of the upper
// run lie on, and a straight gauge with a tick at every pin.
func Jig(j vehicle.Jig) Drawing {
	wide, high := 0.0, 0.0
	for _, p := range j.Profile {
		wide, high = math.Max(wide, p[0]), math.Max(high, p[1])
	}
	long := float64(j.Links) * j.Pitch
	d := Drawing{
		Title:  fmt.Sprintf("%s, %s: track jig.", j.Name, j.Scale),
		Width:  math.Max(math.Max(wide, long), 150),
		Height: high + cardDeep + 3*between,
	}
	d.Draw = func(c Pen) {
		const gauge = 4.0
		c.Line(0.2, false, [2]float64{0, gauge}, [2]float64{long, gauge})
		for i := range j.Links + 1 {
			x := float64(i) * j.Pitch
			c.Line(0.2, false, [2]float64{x, gauge}, [2]float64{x, gauge + 5})
		}
		c.Say(0, gauge+7, fmt.Sprintf("Straight gauge: %d links of %.3f mm, pin to pin %.2f mm", j.Links, j.Pitch, long))
		foot := gauge + between
		top := foot + cardDeep
		card := [][2]float64{{0, foot}}
		for _, p := range j.Profile {
			card = append(card, [2]float64{p[0], top + p[1]})
		}
		last := j.Profile[len(j.Profile)-1]
		c.Line(0.2, true, append(card, [2]float64{last[0], foot})...)
		c.SetColor(color.Gray{Y: 120})
		for _, w := range j.Wheels {
			if x := w.X; x >= 0 && x <= last[0] {
				c.Line(0.1, false, [2]float64{x, foot}, [2]float64{x, foot + 4})
				c.Say(x+0.8, foot+1, w.Name)
			}
		}
		c.SetColor(color.Black)
		c.Say(2, foot+cardDeep/2, "Cut along the curve; the rear is at the left.")
		for i, words := range j.Words {
			c.Say(0, top+high+5+3.5*float64(len(j.Words)-1-i), words)
		}
	}
	return d
}

// WheelMasks draws the discs on their strips of tape, one ring of each size, and the
// compass settings.
func WheelMasks(s vehicle.MaskSheet) Drawing {
	const gap = 7.0
	width, height := 188.0, 4.0
	for _, strip := range s.Strips {
		width = math.Max(width, strip.Length)
		height += strip.Tape + gap
	}
	rings := 0.0
	for _, m := range s.Masks {
		rings = math.Max(rings, 2*m.Rim)
	}
	words := 4.0*float64(len(s.Words)) + 4
	d := Drawing{
		Title:  fmt.Sprintf("%s, %s: wheel masks.", s.Name, s.Scale),
		Width:  width,
		Height: height + rings + gap + words,
	}
	d.Draw = func(c Pen) {
		y := d.Height - 4
		for _, w := range s.Words {
			c.Say(0, y, w)
			y -= 4
		}
		y -= 4
		for _, strip := range s.Strips {
			y -= strip.Tape
			c.SetColor(color.Gray{Y: 150})
			c.Line(
				0.1,
				true,
				[2]float64{0, y},
				[2]float64{strip.Length, y},
				[2]float64{strip.Length, y + strip.Tape},
				[2]float64{0, y + strip.Tape},
			)
			c.SetColor(color.Black)
			for _, at := range strip.Discs {
				c.Circle(0.15, at[0], y+at[1], strip.Radius)
				c.Line(0.1, false, [2]float64{at[0] - 0.6, y + at[1]}, [2]float64{at[0] + 0.6, y + at[1]})
				c.Line(0.1, false, [2]float64{at[0], y + at[1] - 0.6}, [2]float64{at[0], y + at[1] + 0.6})
			}
			c.Say(
				0,
				y-3,
				fmt.Sprintf(
					"%s, %.0f mm of it: %d discs of %.2f mm across",
					strip.Name,
					strip.Length,
					len(strip.Discs),
					2*strip.Radius,
				),
			)
			y -= gap
		}
		x := 0.0
		for _, m := range s.Masks {
			x += m.Rim
			c.Circle(0.15, x, y-m.Rim, m.Rim)
			c.Circle(0.15, x, y-m.Rim, m.Hub)
			x += m.Rim + 4
			c.Say(x-2, y-m.Rim, fmt.Sprintf("ring, %s: %.2f and %.2f mm", m.Wheels, m.Rim, m.Hub))
			x += 55
		}
	}
	return d
}

// Arms draws the template for suspension arms on uneven ground.
func Arms(s vehicle.ArmSheet) Drawing {
	wide, high := 0.0, 0.0
	for _, p := range s.Ground {
		wide, high = math.Max(wide, p[0]), math.Max(high, p[1])
	}
	for _, a := range s.Arms {
		high = math.Max(math.Max(high, a.Wheel[1]+a.Radius), a.Pivot[1])
	}
	const foot = 12.0
	d := Drawing{
		Title:  fmt.Sprintf("%s, %s: arms on the ground.", s.Name, s.Scale),
		Width:  math.Max(wide, 150),
		Height: foot + high + 18,
	}
	d.Draw = func(c Pen) {
		at := func(p [2]float64) [2]float64 { return [2]float64{p[0], foot + p[1]} }
		card := [][2]float64{{0, 0}}
		for _, p := range s.Ground {
			card = append(card, at(p))
		}
		last := s.Ground[len(s.Ground)-1]
		c.Line(0.2, true, append(card, [2]float64{last[0], 0})...)
		for _, a := range s.Arms {
			c.SetColor(color.Gray{Y: 160})
			c.SetLineDash([]vg.Length{1 * mm, 1 * mm}, 0)
			c.Circle(0.1, at(a.Rest)[0], at(a.Rest)[1], a.Radius)
			c.SetLineDash(nil, 0)
			c.SetColor(color.Black)
			c.Circle(0.15, at(a.Wheel)[0], at(a.Wheel)[1], a.Radius)
			c.Line(0.3, false, at(a.Pivot), at(a.Wheel))
			c.Circle(0.2, at(a.Pivot)[0], at(a.Pivot)[1], 0.6)
			c.Say(at(a.Wheel)[0]-6, foot+high+3, fmt.Sprintf("%+.1f°", a.Angle))
			c.Say(at(a.Wheel)[0]-6, foot+high+6, a.Name)
		}
		for i, w := range s.Words {
			c.Say(0, foot+high+11+3.5*float64(len(s.Words)-1-i), w)
		}
	}
	return d
}

// lines joins points.
func lines(closed bool, points ...vg.Point) vg.Path {
	var p vg.Path
	for i, q := range points {
		if i == 0 {
			p.Move(q)
			continue
		}
		p.Line(q)
	}
	if closed {
		p.Close()
	}
	return p
}
