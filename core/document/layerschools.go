package document

import (
	"slices"

	"cinderpath/core/colour"
	"cinderpath/core/strata"
)

// The questions whose answers put layers in or take them out.
const (
	SchoolFilter = "filter"
	SchoolClear  = "clear"
)

// Answers to them.
const (
	always = "yes"
	never  = "no"
	thin   = "no: a thinner wash does it"
)

// layerSchools tells what of the stack follows from an answer. What was laid already stays.
var layerSchools = map[string]func(b Build, m means) []strata.Layer{
	SchoolFilter: func(b Build, m means) []strata.Layer {
		answer := b.School(SchoolFilter)
		wanted := answer == always || answer != thin && len(b.Scheme.Colours) > 1
		return beforeWash(b, m, strata.Filter, wanted, strata.Filter.Fresh())
	},
	SchoolClear: func(b Build, m means) []strata.Layer {
		fresh := strata.Clear.Fresh()
		fresh.Name, fresh.Sheen = "Gloss coat", colour.Gloss
		return beforeWash(b, m, strata.Clear, b.School(SchoolClear) != never, fresh)
	},
}

// beforeWash puts a layer of a kind in before the first wash, or takes out those that lie between
// the last colour and it.
func beforeWash(b Build, m means, kind strata.Kind, wanted bool, fresh strata.Layer) []strata.Layer {
	wash := slices.IndexFunc(b.Layers, func(l strata.Layer) bool { return l.Kind == strata.Wash })
	if wash < 0 {
		return b.Layers
	}
	from := 0
	for i, l := range b.Layers[:wash] {
		if l.Kind == strata.Colour || l.Kind == strata.ChippingWork {
			from = i + 1
		}
	}
	between := b.Layers[from:wash]
	has := slices.ContainsFunc(between, func(l strata.Layer) bool { return l.Kind == kind })
	out := slices.Clone(b.Layers)
	switch {
	case wanted && !has && !laid(m, b.Layers[wash]):
		fresh.ID = m.newID()
		at := wash
		if kind == strata.Clear { // below what is worked wet
			for at > from && b.Layers[at-1].Kind == strata.Filter {
				at--
			}
		}
		out = slices.Insert(out, at, fresh)
	case !wanted && has:
		out = slices.DeleteFunc(out, func(l strata.Layer) bool {
			return l.Kind == kind && !laid(m, l) &&
				slices.ContainsFunc(between, func(o strata.Layer) bool { return o.ID == l.ID })
		})
	}
	return out
}

// laid tells whether a layer was begun.
func laid(m means, l strata.Layer) bool { return m.now.Laid != nil && m.now.Laid(l) }

// setSchool answers a question; what of the stack follows from the answer is done to what is still to come.
func setSchool(b *Build, e Edit, m means) error {
	b.Schools = saidOf(b.Schools, e.School, e.Text)
	if acts, ok := layerSchools[e.School]; ok {
		b.Layers = acts(*b, m)
	} else if e.Text != "" {
		b.Layers = worked(*b, m, e.School, e.Text)
	}
	switch {
	case e.School == SchoolHidden && e.Text == HiddenSkipped:
		return unseenLeftOut(b, m)
	case e.School == SchoolWornColour:
		return b.wornOtherwise(m)
	}
	return nil
}
