package order

import (
	"fmt"
	"slices"
	"strings"

	"cinderpath/core/bench"
	"cinderpath/core/document"
	"cinderpath/core/path"
	"cinderpath/core/strata"
	"cinderpath/core/zone"
)

// spot is where a mishap showed, and at which step.
type spot struct {
	b      document.Build
	l      Surface
	tasks  []path.Task
	at     int
	zones  []string
	done   map[string]path.Done
	ground bool // it is sanded down: what is on it is laid again from the ground
}

// rank is where a layer lies in the stack; -1 beside it.
func (s spot) rank(id string) int {
	return slices.IndexFunc(s.b.Layers, func(l strata.Layer) bool { return l.ID == id })
}

// laid tells whether a layer, or a colour of it, has been put on.
func (s spot) laid(id string, colour int) bool {
	return slices.ContainsFunc(s.tasks, func(t path.Task) bool {
		return t.Layer == id && (colour == 0 || t.Colour == colour) && bench.KindOf(t.Kind).Lays &&
			(t.ID == s.tasks[s.at].ID || !s.done[t.ID].Ended.IsZero())
	})
}

// kinds of layers that are painted anew, by what is asked for; the seen colour where nothing is said.
var painted = map[bench.Lying]strata.Kind{
	bench.Primer: strata.Prime, bench.Sealing: strata.Clear, bench.Washed: strata.Wash,
}

// lying finds what is painted anew: not what was being laid when it was seen, but what lies there.
func (s spot) lying(what bench.Lying) (path.Subject, bool) {
	seen := s.tasks[s.at].Subject
	if what == "" {
		return path.Subject{}, false
	}
	if what == bench.Same && seen.Layer != "" {
		return path.Subject{Layer: seen.Layer, Colour: seen.Colour}, true
	}
	top := len(s.b.Layers)
	if i := s.rank(seen.Layer); i >= 0 {
		top = i + 1
	}
	kind, known := painted[what]
	if !known {
		kind = strata.Colour
	}
	below := what == bench.Beneath
	for i := top - 1; i >= 0; i-- {
		x := s.b.Layers[i]
		if x.Kind != kind || !meets(x, s.zones) || !s.laid(x.ID, 0) ||
			s.ground && x.Temporary() { // it is worn off again: what it lies on is what has to be mended
			continue
		}
		if !x.IsScheme() {
			if below && x.ID == seen.Layer {
				below = false // its own colour: the one beneath is wanted
				continue
			}
			return path.Subject{Layer: x.ID}, true
		}
		return path.Subject{Layer: x.ID, Colour: s.colourOf(x, below)}, true
	}
	return path.Subject{}, false
}

// colourOf is the colour of a scheme that is seen most at the spot; below, of those under the one that
// was being laid.
func (s spot) colourOf(x strata.Layer, below bool) int {
	seen := s.tasks[s.at].Subject
	colours := len(s.b.Scheme.Colours)
	if below && x.ID == seen.Layer && seen.Colour > 1 {
		colours = seen.Colour - 1 // what the colour that went astray lies on
	}
	best, most := 1, -1.0
	for c := range colours {
		if colours > 1 && !s.laid(x.ID, c+1) {
			continue
		}
		if area := s.seenArea(x, c, colours); area > most {
			best, most = c+1, area
		}
	}
	return best
}

// seenArea is how much of a colour is seen on the spot's zones while only the first so many are on.
func (s spot) seenArea(layer strata.Layer, colour, of int) float64 {
	sum := 0.0
	for _, z := range s.l.Zones {
		shares := s.l.Shares[z]
		if !layer.Covers(z) || colour >= len(shares) || len(s.zones) > 0 && !zone.Among(z, s.zones) {
			continue
		}
		share := shares[colour]
		if colour == 0 { // it shows where later ones are not on yet
			for _, later := range shares[min(of, len(shares)):] {
				share += later
			}
		}
		sum += share.Of(s.l.Area[z])
	}
	return sum
}

// firstClear is the first clear coat over a colour that had been laid at the spot: it is laid once, and
// what lay over it comes after.
func (s spot) firstClear(over string) (path.Subject, bool) {
	for i := s.rank(over) + 1; i < len(s.b.Layers); i++ {
		x := s.b.Layers[i]
		switch {
		case !meets(x, s.zones) || !s.laid(x.ID, 0):
		case x.Kind == strata.Clear:
			return path.Subject{Layer: x.ID}, true
		case x.Kind == strata.Colour:
			return path.Subject{}, false
		}
	}
	return path.Subject{}, false
}

// again is a step of a layer that is repeated at a spot: its sections are one there.
type again struct {
	layer, kind   string
	colour, round int
}

// above are the layers that had been done over the colour that is sprayed anew, where the mishap shows:
// they are repeated there, each once and in their order. What a wash's window asks for holds there too.
func (s spot) above(
	e document.Entry, sprayed string, renewed []string, prev path.Arrow, why map[string][]string,
) (out []path.Task) {
	from := s.rank(sprayed)
	repeated := map[again]string{}
	by := map[string]string{} // what repeats a step
	for _, t := range s.tasks {
		i := s.rank(t.Layer)
		if t.Layer == "" || t.Again || i < 0 || i <= from ||
			s.b.Layers[i].Kind == strata.Prime || slices.Contains(renewed, t.Layer) {
			continue // priming and respraying are in the repair
		}
		end := s.done[t.ID].Ended
		if end.IsZero() || end.After(e.At) || s.done[t.ID].Skipped || !meets(s.b.Layers[i], s.zones) || !s.there(t) {
			continue
		}
		key := again{t.Layer, t.Kind, t.Colour, t.Round}
		if known := repeated[key]; known != "" {
			by[t.ID] = known // the spot lies in several of its sections
			continue
		}
		a := path.Task{
			ID:      fmt.Sprintf("again:%s:%d", shortKey(e.Key), len(out)+1),
			Title:   s.titleOf(t) + ", again on the mended spot",
			Stage:   t.Stage,
			Kind:    t.Kind,
			Minutes: 10,
			Place:   t.Place,
			Zones:   s.zones,
			Subject: t.Subject,
			After:   []path.Arrow{prev},
			From:    []string{t.ID},
		}
		a.Again, a.Section = true, 0
		for _, x := range t.After { // a take-back keeps its window
			if with := by[x.From]; with != "" && x.Most > 0 {
				x.From = with
				a.After = []path.Arrow{x}
			}
		}
		repeated[key], by[t.ID] = a.ID, a.ID
		why[a.ID] = []string{"10 min for a spot, a starting value"}
		out = append(out, a)
		prev = nextCoat(s.b, a, s.titleOf(t)+" comes first there")
	}
	return out
}

// there tells whether a section of a layer meets the spot.
func (s spot) there(t path.Task) bool {
	return t.Section == 0 || len(s.zones) == 0 || len(t.Zones) == 0 ||
		slices.ContainsFunc(t.Zones, func(z string) bool {
			return slices.ContainsFunc(s.zones, func(on string) bool { return zone.Meet(z, on) })
		})
}

// titleOf is a step without the section that it was done in.
func (s spot) titleOf(t path.Task) string {
	l := s.b.Layers[s.rank(t.Layer)]
	switch {
	case t.Section == 0:
		return t.Title
	case t.Kind == "takeback":
		return "Take back the " + strings.ToLower(l.Name)
	}
	return l.Name
}
