package sheets

import (
	"fmt"
	"image/color"

	"cinderpath/core/base"
)

// Ground draws a base at its own size: the board with what presses into it and where it is drilled,
// and a card that the ground under a track is drawn along.
func Ground(name, scale string, l base.Laid) Drawing {
	const gap, card = 14.0, 8.0
	profile := 0.0
	for _, p := range l.Profile {
		profile = max(profile, p[1])
	}
	words := l.Words
	d := Drawing{
		Title:  fmt.Sprintf("%s, %s: base.", name, scale),
		Width:  max(l.Long, 150),
		Height: l.Wide + gap + profile + card + gap + 4*float64(len(words)) + 8,
	}
	d.Draw = func(c Pen) {
		foot := 4*float64(len(words)) + 8
		for i, w := range words {
			c.Say(0, foot-8-4*float64(i), w)
		}
		// The card: rear at the right, as the left side of the vehicle is seen.
		line := [][2]float64{}
		for _, p := range l.Profile {
			line = append(line, [2]float64{l.Long/2 - p[0], foot + card + p[1]})
		}
		n := len(line)
		c.Line(0.2, true, append(line, [2]float64{line[n-1][0], foot}, [2]float64{line[0][0], foot})...)
		c.Line(0.1, false, [2]float64{0, foot + card}, [2]float64{l.Long, foot + card})
		c.Say(2, foot+2, "Ground under each track, seen from the left; the thin line is the top of the board.")
		// The board from above, front at the left.
		x, y := l.Long/2, foot+card+profile+gap+l.Wide/2
		at := func(p [2]float64) [2]float64 { return [2]float64{x - p[0], y - p[1]} }
		all := func(list [][2]float64) (out [][2]float64) {
			for _, p := range list {
				out = append(out, at(p))
			}
			return out
		}
		half := [2]float64{l.Long / 2, l.Wide / 2}
		c.Line(0.25, true,
			[2]float64{x - half[0], y - half[1]}, [2]float64{x + half[0], y - half[1]},
			[2]float64{x + half[0], y + half[1]}, [2]float64{x - half[0], y + half[1]})
		for i, p := range l.Prints {
			c.Line(0.2, true, all(p)...)
			if i == 0 {
				q := at(p[0])
				c.Say(q[0]-30, q[1]+1, fmt.Sprintf("pressed in %.1f mm", l.Imprint))
			}
		}
		c.SetColor(color.Gray{Y: 130})
		c.Line(0.15, true, all(l.Gear)...)
		c.SetColor(color.Black)
		for _, s := range l.Screws {
			q := at(s.At)
			c.Circle(0.2, q[0], q[1], 1.5)
			c.Line(0.15, false, [2]float64{q[0] - 4, q[1]}, [2]float64{q[0] + 4, q[1]})
			c.Line(0.15, false, [2]float64{q[0], q[1] - 4}, [2]float64{q[0], q[1] + 4})
			c.Say(q[0]+2, q[1]+2, fmt.Sprintf("at least %.0f mm long", s.Least+0.5))
		}
		c.Say(x-half[0]+2, y+half[1]-5, fmt.Sprintf("Board %.1f × %.1f mm, front at the left", l.Long, l.Wide))
	}
	return d
}
