package sheets

import (
	"fmt"
	"io"
	"strconv"
	"strings"

	"cinderpath/core/paint"
	"cinderpath/core/plan"
)

// WriteJars writes the jars of a shelf as CSV, as paint.ReadList reads it.
func WriteJars(w io.Writer, s paint.Shelf) error {
	rows := [][]string{paint.Columns()}
	for _, j := range s.Jars {
		rows = append(rows, j.Row())
	}
	return writeTable(w, rows)
}

// WriteShopping writes what is to be bought as CSV.
func WriteShopping(w io.Writer, s plan.Shopping) error {
	rows := [][]string{
		{
			"name",
			"family",
			"swatch",
			"short_ml",
			"wanted_ml",
			"left_ml",
			"jars",
			"price",
			"first_step",
			"build",
			"day",
			"last_order",
			"stand_in",
			"difference",
		},
	}
	number := func(v float64) string { return strconv.FormatFloat(v, 'f', 1, 64) }
	for _, b := range s.Buy {
		day, like, difference := "", "", ""
		if !b.First.At.IsZero() {
			day = b.First.At.Format("2006-01-02")
		}
		if len(b.Like) > 0 {
			like, difference = b.Like[0].Name, number(b.Like[0].Difference)
		}
		rows = append(rows, []string{
			b.Name, b.Family, b.Hex, number(b.Short), number(b.Wanted), number(b.Left), strconv.Itoa(b.Jars), number(b.Price),
			b.First.Title, b.First.Name, day, b.Last, like, difference,
		})
	}
	return writeTable(w, rows)
}

// PrintShopping prints what is to be bought, to be ticked off.
func PrintShopping(w io.Writer, s plan.Shopping, p Paper) error {
	b := newBook(p, "Shopping, "+s.Day)
	if len(s.Buy) == 0 {
		b.say(11, false, 0, "Nothing is missing: the shelf holds what all open steps want.")
	}
	for _, x := range s.Buy {
		b.need(24)
		name := x.Name
		if x.Jars > 0 {
			name = fmt.Sprintf("%d × %s", x.Jars, name)
		}
		b.tick(13, 0, name)
		b.say(10, false, 8, x.Words)
		var more []string
		if x.Last != "" {
			more = append(more, "order by "+x.Last)
		}
		if x.Comes != "" {
			more = append(more, "on order, arrives "+x.Comes)
		}
		for _, l := range x.Like {
			more = append(more, fmt.Sprintf("or %s (ΔE00 %.1f)", l.Name, l.Difference))
		}
		if len(more) > 0 {
			b.say(9, false, 8, strings.Join(more, "; "))
		}
		b.gap(5, true)
	}
	return b.write(w)
}
