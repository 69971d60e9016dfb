package kit

import (
	"fmt"
	"slices"
	"strings"
)

// Ruling is a question on which references contradict each other, settled once for the build.
type Ruling struct {
	ID      string   `json:"id"`
	About   string   `json:"about"`           // what is asked: where the rope hangs
	Says    []Source `json:"says"`            // what each reference says
	Rules   string   `json:"rules,omitempty"` // the name of the one that is followed
	Because string   `json:"because,omitempty"`
	For     []string `json:"for,omitempty"` // ids of parts, openings and decals that it is about
}

// Source is what a reference says.
type Source struct {
	Name string `json:"name"` // leaflet, photograph, restored vehicle
	Says string `json:"says"`
}

func (r Ruling) check() error {
	switch {
	case strings.TrimSpace(r.About) == "":
		return fmt.Errorf("a contradiction is about nothing; say what is asked")
	case len(r.Says) > 12 || len(r.About)+len(r.Because) > 1000:
		return fmt.Errorf("%s is longer than what one settles; shorten it", r.About)
	case r.Rules != "" && !slices.ContainsFunc(r.Says, func(s Source) bool { return s.Name == r.Rules }):
		return fmt.Errorf("%s: %q is none of its references; choose one of them", r.About, r.Rules)
	}
	return nil
}

// Open tells that it is not settled.
func (r Ruling) Open() bool { return r.Rules == "" }

// Words say what is followed.
func (r Ruling) Words() string {
	if r.Open() {
		return r.About + ": not settled yet"
	}
	for _, s := range r.Says {
		if s.Name == r.Rules {
			words := fmt.Sprintf("%s: %s (%s rules", r.About, s.Says, s.Name)
			if r.Because != "" {
				words += ", because " + r.Because
			}
			return words + ")"
		}
	}
	return r.About
}

// Corrected lists, for some parts, openings or decals, what the leaflet says wrong of them and what
// was settled.
func (k Kit) Corrected(ids ...string) []string {
	about := func(list []string) bool {
		return slices.ContainsFunc(list, func(x string) bool { return slices.Contains(ids, x) })
	}
	out := []string{}
	for _, l := range k.Leaflet {
		if l.Correction != "" && about(l.For) {
			out = append(out, fmt.Sprintf("leaflet step %s is wrong: %s", l.Step, l.Correction))
		}
	}
	for _, r := range k.Rulings {
		if about(r.For) {
			out = append(out, r.Words())
		}
	}
	return out
}

// Loose lists the corrections that are about nothing yet: no step will tell of them but the first.
func (k Kit) Loose() []string {
	out := []string{}
	for _, l := range k.Leaflet {
		if l.Correction != "" && len(l.For) == 0 {
			out = append(out, fmt.Sprintf("leaflet step %s is wrong: %s", l.Step, l.Correction))
		}
	}
	for _, r := range k.Rulings {
		if len(r.For) == 0 {
			out = append(out, r.Words())
		}
	}
	return out
}
