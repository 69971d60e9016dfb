package document

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"cinderpath/core/bench"
	"cinderpath/core/measure"
	"cinderpath/core/paint"
	"cinderpath/core/path"
	"cinderpath/core/strata"
	"cinderpath/core/unit"
)

// Rework is what the modeller changed about the generated order.
type Rework struct {
	Own    []OwnStep `json:"own,omitempty"`
	Split  []Cut     `json:"split,omitempty"`
	Merged []Merge   `json:"merged,omitempty"`
	Moved  []Move    `json:"moved,omitempty"`
	Left   []string  `json:"left,omitempty"`  // tasks that are not done at all
	Meant  []Meant   `json:"meant,omitempty"` // advice that was overruled
}

// OwnStep is a step of the modeller's own, of a kind of the library.
type OwnStep struct {
	ID      string       `json:"id"`
	Kind    string       `json:"kind"`
	Title   string       `json:"title"`
	Minutes unit.Minutes `json:"minutes"`         // 0: as the library has it for its kind, area or count
	After   string       `json:"after,omitempty"` // task
	Before  string       `json:"before,omitempty"`
	Wait    unit.Minutes `json:"waitMin,omitempty"` // after After, at 20 °C and 50 % humidity
	Place   path.PlaceID `json:"place,omitempty"`

	Zones  []string `json:"zones,omitempty"`  // where it is done; the whole vehicle when empty
	Count  float64  `json:"count,omitempty"`  // pieces, or cm of seam on the model, where its kind goes by these
	Family string   `json:"family,omitempty"` // of the product, whose times the step before which it stands waits for
}

// AsLayer is the step as a layer of its product, to read its times from.
func (s OwnStep) AsLayer() strata.Layer {
	l := strata.Layer{
		ID:      "own:" + s.ID,
		Name:    s.Title,
		Kind:    strata.Kind(s.Kind),
		Family:  s.Family,
		Zones:   s.Zones,
		Applied: strata.Brushed,
		Coats:   1,
	}
	if cmp.Or(s.Place, path.PlaceID(bench.KindOf(s.Kind).Place)) != path.Bench {
		l.Applied = strata.Misted
	}
	return l
}

// Cut parts a task into so many that follow each other.
type Cut struct {
	Task string `json:"task"`
	Into int    `json:"into"`
}

// Merge makes one task of several.
type Merge struct {
	Tasks []string `json:"tasks"`
	Title string   `json:"title"`
}

// Move puts a task after another.
type Move struct {
	Task  string `json:"task"`
	After string `json:"after"`
}

// Meant is an arrow of advice that the modeller overruled.
type Meant struct {
	From   string `json:"from"`
	To     string `json:"to"`
	Rule   string `json:"rule"`
	Reason string `json:"reason"`
}

// Limits of what may be changed by hand.
const (
	mostRework  = 200
	mostCuts    = 12
	LongestStep = 3000.0 // minutes
	mostPieces  = 2000
)

func isFamily(family string) bool {
	_, ok := paint.FamilyOf(family)
	return ok
}

// Check reports the first change that cannot be.
func (r Rework) Check() error {
	if len(r.Own)+len(r.Split)+len(r.Merged)+len(r.Moved)+len(r.Left) > mostRework {
		return measure.Refuse("order", fmt.Sprintf("more than %d changes to the order", mostRework), "take some back")
	}
	seen := map[string]bool{}
	for _, s := range r.Own {
		switch {
		case s.ID == "" || strings.TrimSpace(s.Title) == "" || len(s.Title) > longName:
			return measure.Refuse(
				"order.title",
				"a step of your own has no name, or a very long one",
				"say in a few words what is done",
			)
		case seen[s.ID]:
			return measure.Refuse("order.id", "two steps of your own have one id", "give each its own")
		case !(s.Minutes >= 0 && s.Minutes <= LongestStep):
			return measure.Refuse(
				"order.minutes",
				fmt.Sprintf("%s takes %.0f min", s.Title, s.Minutes),
				fmt.Sprintf("give 1 to %.0f, or nothing to have it from the library", LongestStep),
			)
		case s.Minutes == 0 && (s.Kind == "" || bench.KindOf(s.Kind).ID == "own"):
			return measure.Refuse(
				"order.minutes",
				s.Title+" is of no kind that the library knows the time of",
				"say how many minutes it takes, or choose its kind",
			)
		case !(s.Count >= 0 && s.Count <= mostPieces):
			return measure.Refuse(
				"order.count",
				fmt.Sprintf("%s is done to %g pieces", s.Title, s.Count),
				fmt.Sprintf("give 1 to %d", mostPieces),
			)
		case s.Family != "" && !isFamily(s.Family):
			return measure.Refuse(
				"order.family",
				fmt.Sprintf("%q is not a family of products", s.Family),
				"choose one of the table",
			)
		case !(s.Wait >= 0 && s.Wait <= 60*24*60):
			return measure.Refuse("order.wait", fmt.Sprintf("%s waits %.0f min", s.Title, s.Wait), "give 0 to 60 days")
		case s.Place != "" && !slices.Contains(path.Places, s.Place):
			return measure.Refuse(
				"order.place",
				fmt.Sprintf("%q is not a place of work", s.Place),
				"use bench, booth or outdoors",
			)
		}
		seen[s.ID] = true
	}
	for _, c := range r.Split {
		if c.Into < 2 || c.Into > mostCuts {
			return measure.Refuse("order.into", fmt.Sprintf("a step in %d", c.Into), fmt.Sprintf("give 2 to %d", mostCuts))
		}
	}
	return nil
}

// OrderEdit is one change to the order.
type OrderEdit struct {
	Do    string   `json:"do"` // add, split, merge, move, leave, or undo one of these by its id
	Task  string   `json:"task,omitempty"`
	Tasks []string `json:"tasks,omitempty"`
	After string   `json:"after,omitempty"`
	Into  int      `json:"into,omitempty"`
	Title string   `json:"title,omitempty"`
	Step  *OwnStep `json:"step,omitempty"`
}

// OrderMend is a change that gets round a refusal.
type OrderMend struct {
	Label string `json:"label"`
	Edits []Edit `json:"edits"`
}

// Refusal is a fault that a rule of the trade makes, with ways round it.
type Refusal struct {
	measure.Fault
	Rule  string
	Mends []OrderMend
}

func (r *Refusal) Error() string { return r.Fault.Error() }

// Unwrap gives the fault.
func (r *Refusal) Unwrap() error { return &r.Fault }
