package sheets

import (
	"fmt"
	"image/color"
	"strings"

	"cinderpath/core/plan"

	"gonum.org/v1/plot/vg"
)

// Trial draws the card on which a layer is tried: as it should be, beside too little and too much, at the
// model's own size, and a field for one's own hand.
func Trial(t plan.Trial) Drawing {
	const gap, words = 6.0, 8.0
	n := float64(len(t.Cards))
	d := Drawing{
		Title:  fmt.Sprintf("%s, %s.", t.Name, t.Scale),
		Width:  n*t.Wide + (n-1)*gap,
		Height: 2*(t.High+words) + 2*words,
	}
	field := func(c Pen, x, y, wide float64, said string) {
		c.SetColor(color.Black)
		c.Line(
			0.13,
			true,
			[2]float64{x, y},
			[2]float64{x + wide, y},
			[2]float64{x + wide, y + t.High},
			[2]float64{x, y + t.High},
		)
		c.Say(x, y-4, said)
	}
	d.Draw = func(c Pen) {
		c.SetColor(color.Black)
		c.Say(0, d.Height-4, fmt.Sprintf("%s: trial on card. To look at: %s.", t.Layer, strings.Join(t.Look, "; ")))
		y := d.Height - words - t.High
		for i, card := range t.Cards {
			x := float64(i) * (t.Wide + gap)
			c.DrawImage(vg.Rectangle{Min: point(x, y), Max: point(x+t.Wide, y+t.High)}, card.Image)
			field(c, x, y, t.Wide, card.Words)
		}
		field(c, 0, words, d.Width, "for your own hand: the colour first, and when it is dry as often as it takes")
	}
	return d
}
