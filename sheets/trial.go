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
	n := float64(len(t.Cards) + 1)
	d := Drawing{
		Title:  fmt.Sprintf("%s, %s: trial of %s. To look at: %s.", t.Name, t.Scale, t.Layer, strings.Join(t.Look, "; ")),
		Width:  2*t.Wide + gap,
		Height: 2 * (t.High + words + gap),
	}
	d.Draw = func(c Pen) {
		for i := range int(n) {
			x := float64(i%2) * (t.Wide + gap)
			y := d.Height - float64(i/2+1)*(t.High+words+gap) + words
			box := [][2]float64{{x, y}, {x + t.Wide, y}, {x + t.Wide, y + t.High}, {x, y + t.High}}
			said := "your own hand: put the card's colour on first"
			if i < len(t.Cards) {
				c.DrawImage(vg.Rectangle{Min: point(x, y), Max: point(x+t.Wide, y+t.High)}, t.Cards[i].Image)
				said = t.Cards[i].Words
			}
			c.SetColor(color.Black)
			c.Line(0.13, true, box...)
			c.Say(x, y-4, said)
		}
	}
	return d
}
