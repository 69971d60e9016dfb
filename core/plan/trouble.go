package plan

import (
	"errors"
	"fmt"
	"time"

	"cinderpath/core/bench"
	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/kit"
	"cinderpath/core/measure"
	"cinderpath/core/strata"
)

// Trouble is why nothing can be derived from a build as it is stored.
type Trouble struct {
	Field  string `json:"field"`
	Reason string `json:"reason"`
	Remedy string `json:"remedy"`
}

// sound derives one build; where the program itself fails on it, that is an error of this
// build alone.
func (d *Deriver) sound(s shop, item document.Item, asOf time.Time) (b derived, err error) {
	defer failed(&err)
	return d.build(s, item, asOf)
}

// failed is deferred where the program itself may fail on a build: that is an error, and no other build's end.
func failed(err *error) {
	if r := recover(); r != nil {
		*err = &measure.Fault{
			Field:  "build",
			Reason: fmt.Sprintf("the program failed on it (%v)", r),
			Remedy: "take the last change back; an export of it helps to find out why",
		}
	}
}

// troubled is the plan of a build from which nothing can be derived: it can be opened,
// mended, exported and removed.
func troubled(b document.Build, asOf time.Time, err error) Plan {
	t := &Trouble{Field: "build", Reason: err.Error(), Remedy: "take the last change back, or remove it"}
	var fault *measure.Fault
	if errors.As(err, &fault) {
		t.Field, t.Reason, t.Remedy = fault.Field, fault.Reason, fault.Remedy
	}
	return Plan{
		Build:   b.ID,
		Name:    b.Name,
		Scale:   b.Scale.String(),
		AsOf:    asOf,
		Trouble: t,
		Stand: Stand{
			Stage:   bench.Build,
			Act:     "Nothing can be planned: " + t.Reason,
			Tonight: []string{},
			Waiting: []string{},
		},
		Sizes:     []SizeLine{},
		Cables:    []CableLine{},
		Pots:      []PotLine{},
		Views:     []form.View{},
		Sheets:    []string{},
		Zones:     []ZoneLine{},
		Places:    map[string]string{},
		Pieces:    map[string]string{},
		Colours:   []ColourLine{},
		Argued:    []strata.Argued{},
		Doubts:    []string{},
		Touched:   []TouchLine{},
		Findings:  []strata.Finding{},
		Steps:     []Step{},
		Advice:    []kit.Advice{},
		Reworked:  []ReworkLine{},
		Poses:     []kit.Hint{},
		Jobs:      []kit.Job{},
		Conflicts: []string{},
		Timers:    []Timer{},
	}
}
