package bench

import (
	"slices"

	"cinderpath/core/table"
	"cinderpath/core/unit"
)

// Move is one step of a repair.
type Move struct {
	Title   string       `json:"title"`
	Minutes unit.Minutes `json:"minutes"`
	Wait    unit.Minutes `json:"waitMin"` // after it, before the next, at 20 °C and 50 % humidity
	Water   bool         `json:"water,omitempty"`
	Place   string       `json:"place,omitempty"`
	Paints  Lying        `json:"paints,omitempty"` // with what lies there
}

// Lying is which of the layers that lie at a spot a move paints anew.
type Lying string

// What lies there: the layer of the step at which it happened, the colour that is seen there,
// the colour below that one, the primer, the topmost clear coat.
const (
	Same    Lying = "same"
	Colour  Lying = "colour"
	Beneath Lying = "beneath"
	Primer  Lying = "prime"
	Sealing Lying = "clear"
	Washed  Lying = "wash" // the topmost wash
)

// Mishap is something that goes wrong at the bench, with its repair.
type Mishap struct {
	ID     string   `json:"id"`
	Name   string   `json:"name"`
	Words  string   `json:"words"` // of the repair, in one line
	Moves  []Move   `json:"moves"`
	Above  bool     `json:"above"`           // the layers above are repeated there
	Leave  string   `json:"leave,omitempty"` // when it may be left
	Stages []string `json:"stages"`          // where it happens
	Lost   bool     `json:"lost,omitempty"`  // the part is gone
}

// mishaps follow the handbook's table.
var mishaps = readMishaps()

func readMishaps() (out []Mishap) {
	moves := map[string][]Move{}
	for _, r := range table.Read(tables, "moves") {
		moves[r["mishap"]] = append(moves[r["mishap"]], Move{
			Title:   r["title"],
			Minutes: unit.Minutes(r.Number("minutes")),
			Wait:    unit.Minutes(r.Number("wait_min")),
			Water:   r.Is("water"),
			Place:   r["place"],
			Paints:  Lying(r["paints"]),
		})
	}
	for _, r := range table.Read(tables, "mishaps") {
		out = append(out, Mishap{
			ID:     r["id"],
			Name:   r["name"],
			Words:  r["words"],
			Moves:  append([]Move{}, moves[r["id"]]...),
			Above:  r.Is("above"),
			Leave:  r["leave"],
			Stages: r.List("stages"),
			Lost:   r.Is("lost"),
		})
	}
	return out
}

// Mishaps lists what goes wrong; of one stage, or of all when it is empty. What is
// usual for a kind of step comes first.
func Mishaps(stage, kind string) []Mishap {
	var out []Mishap
	for _, m := range mishaps {
		if stage == "" || slices.Contains(m.Stages, stage) {
			out = append(out, m)
		}
	}
	usual := KindOf(kind).Wrong
	slices.SortStableFunc(out, func(a, b Mishap) int {
		x, y := slices.Contains(usual, a.ID), slices.Contains(usual, b.ID)
		switch {
		case x == y:
			return 0
		case x:
			return -1
		default:
			return 1
		}
	})
	return out
}

// MishapOf looks a mishap up.
func MishapOf(id string) (Mishap, bool) {
	i := slices.IndexFunc(mishaps, func(m Mishap) bool { return m.ID == id })
	if i < 0 {
		return Mishap{}, false
	}
	return mishaps[i], true
}
