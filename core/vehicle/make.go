package vehicle

import (
	"fmt"
	"strings"

	"cinderpath/core/document"
	"cinderpath/core/gear"
	"cinderpath/core/length"
	"cinderpath/core/measure"
	"cinderpath/core/unit"
)

// make words what the make of the track asks for.
func (g *GearLine) make(b document.Build, lies Stance, shelf measure.Shelf) {
	loop := lies.Loop
	links := 2 * loop.Links
	minutes := b.Link.Work() * unit.Minutes(links)
	add := func(name, words, formula string, inputs ...string) {
		g.Facts = append(g.Facts, RunLine{Name: name, Words: words, Why: measure.Because(formula, inputs)})
	}
	add(
		"assembling",
		minutes.String()+" for both sides",
		"minutes = links · minutes per link",
		fmt.Sprintf("%d links on both sides", links),
		fmt.Sprintf("%.1f min a link", float64(b.Link.Work())),
	)
	if n := 2 * (b.Link.Supplied - loop.Links); b.Link.Supplied > 0 && n > 0 {
		add(
			"spare",
			fmt.Sprintf("%d links on both sides, for the hull or for losses", n),
			"spare = 2 · (supplied − needed)",
			fmt.Sprintf("supplied %d a side", b.Link.Supplied),
			fmt.Sprintf("needed %d", loop.Links),
		)
	}
	if b.Link.Travel > 0 {
		add(
			"idler",
			fmt.Sprintf("moves %s each way", b.Scale.ToModel(length.Real(b.Link.Travel))),
			"as noted",
			"the choices of links stay within it",
		)
	}
	switch b.Link.Make {
	case gear.Pinned:
		g.pins(b, links, shelf, add)
	case gear.Band:
		g.band(b, lies, add)
	}
}

func (g *GearLine) pins(
	b document.Build,
	links int,
	shelf measure.Shelf,
	add func(name, words, formula string, inputs ...string),
) {
	if b.Link.Pin <= 0 {
		add("pins", "measure a pin hole to find drill and wire", "as noted", "no pin diameter is given")
		return
	}
	pin := length.Model(b.Link.Pin)
	wide := float64(b.Scale.ToModel(length.Real(b.Link.Width)))
	wire, _ := measure.Around(shelf.Of(false, measure.Wire), pin, b.Scale)
	_, drill := measure.Around(shelf.Of(false, measure.Drill), pin, b.Scale)
	words := fmt.Sprintf("%d holes", links)
	if drill != nil {
		words += ", drill " + drill.Name
	}
	if wire != nil {
		words += ", wire " + wire.Name
	}
	add(
		"pins",
		fmt.Sprintf("%s: %.0f mm of wire in all", words, float64(links)*wide*1.1),
		"wire: the largest not above the pin; drill: the smallest not below it; length = links · width and "+
			"a tenth for the ends",
		fmt.Sprintf(
			"pin %s",
			pin,
		),
		fmt.Sprintf("%d links, %s wide", links, length.Model(wide)),
		"wear eye protection: cut wire flies",
	)
}

func (g *GearLine) band(b document.Build, lies Stance, add func(name, words, formula string, inputs ...string)) {
	need := float64(b.Scale.ToModel(length.Real(lies.Loop.Length)))
	if band := b.Link.Band; band > 0 {
		words := fmt.Sprintf("%s too long: shorten it by that, or move the idler", length.Model(band-need))
		if band < need {
			words = fmt.Sprintf("must stretch by %.1f %%", 100*(need/band-1))
			if need/band > 1.03 {
				words += ": too much, it would bend the axles; move the idler in or splice a piece"
			}
		}
		add(
			"band",
			words,
			"stretch = taut loop / band − 1",
			fmt.Sprintf("band %s joined", length.Model(band)),
			fmt.Sprintf("taut loop %s", length.Model(need)),
			"above 3 % it pulls axles out of true",
		)
		g.Facts[len(g.Facts)-1].Tight = need/band > 1.03
	} else {
		add(
			"band",
			"measure its length, joined, to know how it stretches",
			"stretch = taut loop / band − 1",
			fmt.Sprintf("taut loop %s", length.Model(need)),
		)
	}
	var down []string
	for _, w := range lies.run.Supports {
		down = append(down, g.Names[w])
	}
	add(
		"glue down",
		"on the "+strings.Join(down, ", "),
		"a band does not hang by its weight: it is glued where a track of links would lie",
		"from the hanging upper run with the slack of whole links",
	)
}

// linkLines words what fewer and more links do; model prints a real length at scale.
func linkLines(choices []gear.Choice, model func(float64) string) []LinkLine {
	out := []LinkLine{}
	for _, c := range choices {
		l := LinkLine{Links: c.Links, Words: fmt.Sprintf("slack %s, hangs %s at the deepest", model(c.Slack), model(c.Sag))}
		if c.Slack < 0 {
			l.Words = fmt.Sprintf("does not close, %s are missing", model(-c.Slack))
		}
		switch {
		case c.CanMove && c.TakeUp > 0:
			l.Words += fmt.Sprintf("; taut with the idler %s farther out", model(c.TakeUp))
		case c.CanMove:
			l.Words += fmt.Sprintf("; closes with the idler %s farther in", model(-c.TakeUp))
		}
		l.Why = measure.Because(
			"slack = links · pitch − taut loop; the idler moves along until the taut loop is links · pitch long",
			[]string{
				fmt.Sprintf(
					"%d links",
					c.Links,
				),
				"sag from the upper run with all the slack in it",
				"the idler is not moved farther than its travel, or its own radius where that is not noted",
			},
		)
		out = append(out, l)
	}
	return out
}
