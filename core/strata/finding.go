package strata

import (
	"cinderpath/core/base"
	"cinderpath/core/rule"
	"cinderpath/core/unit"
)

// Finding says which rule a layer breaks, where, and why, with what would mend it.
type Finding struct {
	ID       string        `json:"id"` // rule:layer:below, survives unrelated edits
	Rule     string        `json:"rule"`
	Severity rule.Severity `json:"severity"`
	Layer    string        `json:"layer"` // id
	Below    string        `json:"below,omitempty"`
	Zones    []string      `json:"zones"`
	Where    string        `json:"where,omitempty"` // them as people say it
	Title    string        `json:"title"`
	Reason   string        `json:"reason"`
	Mends    []Mend        `json:"mends"`
}

// Mend is a change to the stack that settles a finding.
type Mend struct {
	ID    string `json:"id"`
	Label string `json:"label"`
	Edits []Edit `json:"edits"`

	// Of the scheme's colour Colour, from 1, the jar becomes Jar.
	Colour int    `json:"colour,omitempty"`
	Jar    string `json:"jar,omitempty"`
	// The scheme's soft edge becomes so wide, real mm; 0 is hard.
	Edge *float64 `json:"edgeMm,omitempty"`
	// Order is that in which the colours of the scheme are sprayed, each by its place now.
	Order []int `json:"order,omitempty"`
	Mist  bool  `json:"mist,omitempty"` // a mist of its first colour closes the scheme
	// What it stands on becomes Base.
	Base *base.Base `json:"base,omitempty"`
	// Trial is put in before a step.
	Trial *Trial `json:"trial,omitempty"`
}

// Trial is a try on scrap, before a task.
type Trial struct {
	Title  string `json:"title"`
	Before string `json:"before"`
}

// Wait is the least time between the end of one layer and the start of another,
// in minutes at 20 °C and 50 % humidity.
type Wait struct {
	From, To string // layer ids
	Minutes  unit.Minutes
	Most     unit.Minutes // greatest time, 0 for none
	Water    bool         // From dries by losing water
	Kind     rule.Need
	Rule     string
	Reason   string
}

// Gap tells how long after the end of one layer another was really begun, from
// the log, in minutes at table conditions; known is false while it is open.
type Gap func(from, to string) (minutes unit.Minutes, known bool)
