package document_test

import (
	"testing"

	"cinderpath/core/document"
	"cinderpath/core/scheme"
	"cinderpath/core/strata"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Answers about filter and clear coat put the layer in before the wash, or take it out; what was laid
// stays.
func TestSchoolsThatChangeTheStack(t *testing.T) {
	layer := func(k strata.Kind) strata.Layer {
		l := k.Fresh()
		l.ID = string(k)
		return l
	}
	b := document.Build{
		Scheme: scheme.Pattern{Colours: make([]scheme.Colour, 2)},
		Layers: []strata.Layer{layer(strata.Prime), layer(strata.Colour), layer(strata.Clear), layer(strata.Wash)},
	}
	kinds := func(b document.Build) (out []strata.Kind) {
		for _, l := range b.Layers {
			out = append(out, l.Kind)
		}
		return out
	}
	answer := func(b document.Build, school, text string, laid ...strata.Kind) document.Build {
		now := document.Standing{Laid: func(l strata.Layer) bool {
			for _, k := range laid {
				if l.Kind == k {
					return true
				}
			}
			return false
		}}
		next, err := document.Edited(b, document.Edit{Op: document.SetSchool, School: school, Text: text}, now)
		require.NoError(t, err)
		return next
	}
	with := []strata.Kind{strata.Prime, strata.Colour, strata.Clear, strata.Filter, strata.Wash}
	filtered := answer(b, document.SchoolFilter, "yes")
	assert.Equal(t, with, kinds(filtered))
	assert.Equal(t, with, kinds(answer(filtered, document.SchoolFilter, "yes")), "once is enough")
	assert.Equal(t, with, kinds(answer(b, document.SchoolFilter, "")), "two colours want one by themselves")
	assert.Equal(t, kinds(b), kinds(answer(filtered, document.SchoolFilter, "no: a thinner wash does it")))
	assert.Equal(t, with, kinds(answer(filtered, document.SchoolFilter, "no: a thinner wash does it", strata.Filter)),
		"what was laid stays")
	bare := answer(filtered, document.SchoolClear, "no")
	assert.Equal(t, []strata.Kind{strata.Prime, strata.Colour, strata.Filter, strata.Wash}, kinds(bare))
	assert.Equal(t, with, kinds(answer(bare, document.SchoolClear, "yes")), "below what is worked wet")
	assert.Equal(t, kinds(b), kinds(answer(b, document.SchoolFilter, "yes", strata.Wash)), "not below a wash that is on")
}
