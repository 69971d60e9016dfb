package kit

import (
	"fmt"
	"slices"
)

// The materials of parts.
const (
	Plastic = "plastic"
	Resin   = "resin"
	Etched  = "etched"
	Metal   = "metal"
	Printed = "printed"
	Wire    = "wire"
	Soft    = "soft"  // bands of soft plastic
	Clear   = "clear" // windows and lamps
)

// Materials lists them in the order in which mixed kits are built.
var Materials = []string{Plastic, Clear, Soft, Resin, Printed, Metal, Etched, Wire}

// Part is a part of the kit or an added one.
type Part struct {
	ID       string `json:"id"`
	Name     string `json:"name"`
	Count    int    `json:"count,omitempty"`
	Material string `json:"material"`
	Assembly string `json:"assembly"` // what it belongs to: hull, turret, wheels …
	// Kind: wheels, tracks, cable, skirt, guard, tool, gun, aerial, stowage, crew, inside, lamp
	Kind     string   `json:"kind,omitempty"`
	Joint    string   `json:"joint,omitempty"` // glued, removable, press
	Bears    bool     `json:"bears,omitempty"` // it carries load
	Pose     string   `json:"pose,omitempty"`  // gun up, hatch open
	Agrees   []Agrees `json:"agrees,omitempty"`
	Side     string   `json:"side,omitempty"`   // left or right: it fits the wrong way round as well
	Before   string   `json:"before,omitempty"` // it can only go in before this sub-assembly is closed
	Shadows  []string `json:"shadows,omitempty"`
	Over     []string `json:"over,omitempty"`  // ids of decals that run beneath it
	Holds    []string `json:"holds,omitempty"` // ids of parts that it carries
	Guards   string   `json:"guards,omitempty"`
	Forced   bool     `json:"forced,omitempty"` // it must be pushed on: loose layers would not survive
	Versions []string `json:"versions"`         // that carry it; null for all
	Late     string   `json:"late,omitempty"`   // the layer after which it goes on, where it is painted apart before that
	LateTo   int      `json:"lateTo,omitempty"` // the last of that scheme's colours before it, from 1; 0 for all
	Struck   bool     `json:"struck,omitempty"` // it is left off on this build, and said so
	Stay     string   `json:"stay,omitempty"`   // on or off: the modeller's word
	Ordered  *Ordered `json:"ordered,omitempty"`
	Note     string   `json:"note,omitempty"`
	Jar      string   `json:"jar,omitempty"` // details: the jar or the mix that it is painted from
}

// The joints.
const (
	Glued     = "glued"
	Removable = "removable"
	Press     = "press"
)

// Ordered is a part that was ordered: when it is expected, when it came, and whether it
// was right.
type Ordered struct {
	Expected string   `json:"expected"`          // date
	Arrived  string   `json:"arrived,omitempty"` // date
	Checked  []string `json:"checked,omitempty"` // of Arrival
	Fault    string   `json:"fault,omitempty"`   // what was wrong with it
	Remedy   string   `json:"remedy,omitempty"`  // what is done about it: repair, replace or spare
	Again    string   `json:"again,omitempty"`   // date: when the replacement is expected
}

// Arrival is what is looked at when an ordered part comes.
var Arrival = []string{"right subject", "no bubbles", "complete"}

// Passed tells whether everything was looked at and nothing was wrong.
func (o Ordered) Passed() bool {
	return o.Arrived != "" && o.Fault == "" && len(o.Checked) == len(Arrival)
}

// Brittle tells of a part that breaks when the model is held to fit others.
func (p Part) Brittle() bool { return slices.Contains([]string{"crew", "aerial", "gun"}, p.Kind) }

// Number of the part, at least one.
func (p Part) Number() int { return max(p.Count, 1) }

func (p Part) check(k Kit) error {
	id := func(list []string) bool {
		for _, x := range list {
			if !slices.ContainsFunc(k.Parts, func(q Part) bool { return q.ID == x }) {
				return false
			}
		}
		return true
	}
	switch {
	case !slices.Contains(Materials, p.Material):
		return fmt.Errorf("%s is of %q; use plastic, clear, soft, resin, printed, metal, etched or wire", p.Name, p.Material)
	case p.Assembly == "":
		return fmt.Errorf("%s belongs to no sub-assembly; name one, such as hull", p.Name)
	case p.Count < 0 || p.Count > 2000:
		return fmt.Errorf("%s is there %d times; give 1 to 2000", p.Name, p.Count)
	case len(p.Late) > 64:
		return fmt.Errorf("%s goes on after a layer of more than 64 characters; choose one of the stack", p.Name)
	case len(p.Jar) > 64:
		return fmt.Errorf("%s names a jar by more than 64 characters; choose one of the shelf", p.Name)
	case p.Joint != "" && p.Joint != Glued && p.Joint != Removable && p.Joint != Press:
		return fmt.Errorf("%s is joined by %q; use glued, removable or press", p.Name, p.Joint)
	case p.Side != "" && p.Side != "left" && p.Side != "right":
		return fmt.Errorf("%s goes on the %q; use left or right", p.Name, p.Side)
	case p.Stay != "" && p.Stay != "on" && p.Stay != "off":
		return fmt.Errorf("%s is to stay %q; use on or off", p.Name, p.Stay)
	case !id(p.Holds) || (p.Guards != "" && !id([]string{p.Guards})):
		return fmt.Errorf("%s holds or guards a part that is not in the list; add it first", p.Name)
	}
	for _, a := range p.Agrees {
		switch {
		case a.When == "":
			return fmt.Errorf("%s asks something of another part without saying in which pose; name the pose", p.Name)
		case a.Part == p.ID || !id([]string{a.Part}):
			return fmt.Errorf("%s asks something of a part that is not another of the list; choose one", p.Name)
		}
	}
	for _, d := range p.Over {
		if !slices.ContainsFunc(k.Decals, func(x Decal) bool { return x.ID == d }) {
			return fmt.Errorf("%s runs over a decal that is not in the list; add it first", p.Name)
		}
	}
	if o := p.Ordered; o != nil {
		if o.Remedy != "" && !slices.Contains([]string{Mended, Replaced, Spared}, o.Remedy) {
			return fmt.Errorf("%s came with a fault that is met by %q; use repair, replace or spare", p.Name, o.Remedy)
		}
		for _, date := range []string{o.Expected, o.Arrived, o.Again} {
			if date != "" && !isDate(date) {
				return fmt.Errorf("%s is expected on %q, which is not a date; write it like 2026-11-23", p.Name, date)
			}
		}
		if o.Expected == "" {
			return fmt.Errorf("%s was ordered without a date; say when it is expected", p.Name)
		}
	}
	return nil
}

// circle finds parts that hold or guard each other.
func (k Kit) circle() error {
	next := map[string][]string{}
	name := map[string]string{}
	for _, p := range k.Parts {
		name[p.ID] = p.Name
		next[p.ID] = append(next[p.ID], p.Holds...)
	}
	state := map[string]int{}
	var walk func(id string) error
	walk = func(id string) error {
		switch state[id] {
		case 1:
			return fmt.Errorf("%s holds itself by way of others; take one of them out", name[id])
		case 2:
			return nil
		}
		state[id] = 1
		for _, x := range next[id] {
			if err := walk(x); err != nil {
				return err
			}
		}
		state[id] = 2
		return nil
	}
	for _, p := range k.Parts {
		if err := walk(p.ID); err != nil {
			return err
		}
	}
	return nil
}
