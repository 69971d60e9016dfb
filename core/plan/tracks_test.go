package plan_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cinderpath/core/document"
	"cinderpath/core/path"
	"cinderpath/core/plan"
	"cinderpath/core/rule"
	"cinderpath/core/strata"
	"cinderpath/core/zone"
)

// Tracks get a base colour, rust, a wash, mud, wiped ends and bright cleats, in that order, on nothing else;
// what is there already stays the only one of its kind.
func TestTracksGetTheirOwnSequence(t *testing.T) {
	b := tank(t)
	var d plan.Deriver
	dressed, err := d.Apply(workshop(), document.Item{Build: b}, []document.Edit{{Op: document.Tracks}}, other(), monday)
	require.NoError(t, err)
	var kinds []strata.Kind
	for _, l := range dressed.Layers {
		if slices.Equal(l.Zones, []string{zone.Track(zone.Left), zone.Track(zone.Right)}) {
			kinds = append(kinds, l.Kind)
		}
	}
	assert.Equal(t, []strata.Kind{
		strata.Colour, strata.Rust, strata.Mud, strata.RubClean, strata.Metal,
	}, kinds, "the pin wash covers them already")
	p := planOf(t, dressed)
	sound(t, p)
	for _, f := range p.Findings {
		assert.NotEqual(t, rule.Stop, f.Severity, f.Title)
	}
	base := step(t, p, "Track base")
	assert.True(
		t,
		slices.ContainsFunc(
			step(t, p, "Bright cleats").After,
			func(a path.Arrow) bool { return a.Wait > 0 || a.From != base.ID },
		),
	)
	all, err := d.LandingOf(workshop(), dressed)
	require.NoError(t, err)
	for _, l := range all.Layers {
		if l.Name == "Mud in the tracks" || l.Name == "Track base" {
			for z, lies := range l.Zones {
				assert.True(t, zone.IsTrack(z) || lies.Share == 0, "%s on %s", l.Name, z)
			}
			assert.Positive(t, l.Zones[zone.Track(zone.Left)].Share)
		}
	}
	_, err = d.Apply(workshop(), document.Item{Build: dressed}, []document.Edit{{Op: document.Tracks}}, other(), monday)
	require.ErrorContains(t, err, "have all of it already")
}
