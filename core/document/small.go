package document

import (
	"slices"

	"cinderpath/core/measure"
	"cinderpath/core/relief"
)

// Details is the small relief of the build: its own, or what comes with every body while nobody says
// otherwise.
func (b Build) Details() []relief.Detail {
	if b.Small == nil {
		return relief.Usual()
	}
	return *b.Small
}

// The school of accuracy, and how much larger than life raised detail is made where it looks best so.
const (
	SchoolAccuracy = "accuracy"
	LooksBest      = "as it looks best"
	Exaggeration   = 1.5
)

// Raised is the small relief as it is made: larger than life where one's school has it so.
func (b Build) Raised() []relief.Detail {
	details := b.Details()
	if b.School(SchoolAccuracy) != LooksBest {
		return details
	}
	out := slices.Clone(details)
	for i, d := range out {
		out[i] = d.Larger(Exaggeration)
	}
	return out
}

// setSmall puts a detail on the plates of a zone, or changes the one that has its id: along all of their
// edges, at Place, or from Place to To.
func setSmall(b *Build, e Edit, m means) error {
	if e.Small == nil {
		return nothing(e.Op)
	}
	d := *e.Small
	if e.Place != nil {
		at := e.Place.point(b.Scale)
		d.At, d.Zone = &at, e.Place.On
	}
	if e.To != nil {
		to := e.To.point(b.Scale)
		d.To = &to
	}
	all := slices.Clone(b.Details())
	if d.ID == "" {
		d.ID = m.newID()
		all = append(all, d)
	} else {
		i := slices.IndexFunc(all, func(o relief.Detail) bool { return o.ID == d.ID })
		if i < 0 {
			return measure.Refuse("small", "it is not there any more", "look at the newer state")
		}
		all[i] = d
	}
	b.Small = &all
	return relief.Check(all)
}

// dropSmall takes the detail away that Text names.
func dropSmall(b *Build, e Edit, _ means) error {
	all := slices.Clone(b.Details())
	n := len(all)
	all = slices.DeleteFunc(all, func(o relief.Detail) bool { return o.ID == e.Text })
	if len(all) == n {
		return measure.Refuse("small", "it is not there any more", "look at the newer state")
	}
	b.Small = &all
	return nil
}

// usualSmall gives a build what comes with every body again.
func usualSmall(b *Build, _ Edit, _ means) error {
	b.Small = nil
	return nil
}
