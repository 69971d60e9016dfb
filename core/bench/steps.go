package bench

import (
	"embed"
	"fmt"
	"slices"

	"cinderpath/core/table"
	"cinderpath/core/unit"
)

// The stages of the path, in order.
const (
	Build  = "Build"
	Paint  = "Paint"
	Marks  = "Markings"
	Wear   = "Wear"
	Earth  = "Earth"
	Finish = "Finish"
)

// Stages lists them.
var Stages = []string{Build, Paint, Marks, Wear, Earth, Finish}

// Kind is a kind of step.
type Kind struct {
	ID      string       `json:"id"`
	Name    string       `json:"name"` // with %s where its subject goes
	Stage   string       `json:"stage"`
	SetUp   unit.Minutes `json:"setUpMin"`
	Per     unit.Minutes `json:"perUnitMin"`
	Unit    string       `json:"unit"` // cm2, piece, cm
	Place   string       `json:"place"`
	Split   bool         `json:"split"` // may be laid down and taken up again
	Lays    bool         `json:"lays"`  // puts its layer on
	Works   bool         `json:"works"` // goes on with a layer that is on: takes it back, softens it, lightens it
	Tools   []string     `json:"tools"`
	Checks  []string     `json:"checks"`  // before going on
	Hazards []string     `json:"hazards"` // of Cautions
	Wrong   []string     `json:"wrong"`   // ids of mishaps

	Takes []Take `json:"takes"` // of what stands on the shelf
}

// Take is what a step takes of one kind of product besides what its layer is laid from.
type Take struct {
	Family string  `json:"family"`
	Per    float64 `json:"mlPerUnit"` // ml for each of the step's units, a starting value
}

//go:embed tables/*.csv
var tables embed.FS

// kinds is the step library. Minutes are starting values: set-up, then per cm² of the
// model and coat, per piece, or per cm of seam or edge.
var kinds = readKinds()

func readKinds() (out []Kind) {
	for _, r := range table.Read(tables, "steps") {
		out = append(out, Kind{
			ID:      r["id"],
			Name:    r["name"],
			Stage:   r["stage"],
			SetUp:   unit.Minutes(r.Number("set_up_min")),
			Per:     unit.Minutes(r.Number("per_unit_min")),
			Unit:    r["unit"],
			Place:   r["place"],
			Split:   r.Is("split"),
			Lays:    r.Is("lays"),
			Works:   r.Is("works"),
			Tools:   r.List("tools"),
			Checks:  r.List("checks"),
			Hazards: r.List("hazards"),
			Wrong:   r.List("wrong"),
			Takes:   takes(r.List("takes")),
		})
	}
	return out
}

// takes reads products with their amounts; it panics where a table says something else.
func takes(list []string) []Take {
	out := []Take{}
	for _, one := range list {
		var t Take
		if _, err := fmt.Sscanf(one, "%s %g", &t.Family, &t.Per); err != nil {
			panic(fmt.Sprintf("table steps: takes %q: %v", one, err))
		}
		out = append(out, t)
	}
	return out
}

// Kinds lists the step library.
func Kinds() []Kind { return slices.Clone(kinds) }

// KindOf looks a kind up; an unknown one is a step of one's own.
func KindOf(id string) Kind {
	if i := slices.IndexFunc(kinds, func(k Kind) bool { return k.ID == id }); i >= 0 {
		return kinds[i]
	}
	k := kinds[slices.IndexFunc(kinds, func(k Kind) bool { return k.ID == "own" })]
	k.ID = id
	return k
}

// Minutes is the hands-on time of a step over so many of its units and coats, before
// anything was learned, whole minutes; and how it comes about.
func (k Kind) Minutes(units float64, coats int) (minutes unit.Minutes, inputs []string) {
	minutes = (k.SetUp + k.Per*unit.Minutes(units*float64(max(coats, 1)))).Whole()
	inputs = []string{"set-up " + k.SetUp.String()}
	each := map[string]string{"cm2": "cm² on the model", "piece": "pieces", "cm": "cm on the model"}[k.Unit]
	if k.Per > 0 {
		inputs = append(
			inputs,
			fmt.Sprintf("%.0f %s", units, each),
			fmt.Sprintf("%.3g min for each, a starting value", float64(k.Per)),
		)
	}
	if coats > 1 {
		inputs = append(inputs, fmt.Sprintf("%d coats", coats))
	}
	return minutes, inputs
}
