package kit

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"cinderpath/core/colour"
)

// Inside is what is seen of an inside through its openings, and what is done about it before its
// halves are closed.
type Inside struct {
	Part  string   `json:"part"`            // of the body: hull, turret
	State string   `json:"state"`           // of Insides
	Works []string `json:"works,omitempty"` // of Works, where it is detailed
	Hex   string   `json:"hex,omitempty"`   // that it is painted, where that is said
}

// What an inside is.
const (
	Shut     = "closed"   // nothing is seen: its openings are closed
	Glimpsed = "glimpsed" // a dark hole: darkened
	Detailed = "detailed" // built, painted and worn
)

// Works are what is done to a detailed inside, in their order.
var Works = []string{"prime", "paint", "details", "chips", "wash"}

// Does lists what is done to an inside, in working order; all of it where nothing is said.
func (i Inside) Does() []string {
	if i.State != Detailed || len(i.Works) == 0 {
		return slices.Clone(Works)
	}
	return slices.DeleteFunc(slices.Clone(Works), func(w string) bool { return !slices.Contains(i.Works, w) })
}

// pale is what most insides are painted, so that one sees in them.
const pale = "#d8d4c4"

// Paint is the colour of an inside.
func (i Inside) Paint() string { return cmp.Or(i.Hex, pale) }

func (i Inside) check() error {
	switch {
	case i.Part == "" || len(i.Part) > 64:
		return fmt.Errorf("an inside belongs to no part; name the hull or a turret")
	case !slices.Contains([]string{Shut, Glimpsed, Detailed}, i.State):
		return fmt.Errorf("the inside of the %s is %q; use closed, glimpsed or detailed", i.Part, i.State)
	}
	if i.Hex != "" {
		if _, err := colour.Parse(i.Hex); err != nil {
			return fmt.Errorf("the inside of the %s: %w", i.Part, err)
		}
	}
	for _, w := range i.Works {
		if !slices.Contains(Works, w) {
			return fmt.Errorf("the inside of the %s gets %q; use %s", i.Part, w, strings.Join(Works, ", "))
		}
	}
	return nil
}

// InsideOf is what is said of the inside of a part of the body; closed where nothing is.
func (k Kit) InsideOf(part string) Inside {
	if at := slices.IndexFunc(k.Insides, func(i Inside) bool { return i.Part == part }); at >= 0 {
		return k.Insides[at]
	}
	return Inside{Part: part, State: Shut}
}

// OpenOver are the parts that stand open over an inside.
func (k Kit) OpenOver(part string) []Part {
	return slices.DeleteFunc(k.Used(), func(p Part) bool { return p.Pose != "open" || p.Assembly != part })
}

// gaping tells of hatches that stand open over an inside that is not built.
func (k Kit) gaping() (out []Hint) {
	for _, p := range k.Used() {
		if p.Pose != "open" {
			continue
		}
		if k.InsideOf(p.Assembly).State != Shut {
			continue
		}
		closed := p
		closed.Pose = "closed"
		out = append(out, Hint{
			Part: p.ID, Rule: "B15",
			Reason: fmt.Sprintf("%s is open over an inside of the %s that is not detailed", p.Name, p.Assembly),
			Mends: []Mend{
				{Label: "Close it", Part: &closed},
				{Label: "Darken the inside", Inside: &Inside{Part: p.Assembly, State: Glimpsed}},
				{Label: "Build and paint the inside", Inside: &Inside{Part: p.Assembly, State: Detailed}},
			},
		})
	}
	return out
}
