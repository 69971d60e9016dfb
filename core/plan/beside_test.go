package plan_test

import (
	"strings"
	"testing"

	"cinderpath/core/base"
	"cinderpath/core/document"
	"cinderpath/core/plan"
	"cinderpath/core/strata"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// pairOnABase are two vehicles on one base: the second stands on that of the first.
func pairOnABase(t *testing.T) []document.Item {
	host, guest := boxed(t), boxed(t)
	host.ID, host.Name = "host", "Host"
	host.Schools = map[string]string{document.SchoolDisplay: document.OnABase}
	guest.ID, guest.Name = "guest", "Guest"
	usual := base.Usual("")
	usual.Of = host.ID
	guest.Base = &usual
	return []document.Item{{Build: host}, {Build: guest}}
}

// earthOf sets what a build's earth is mixed from.
func earthOf(t *testing.T, b *document.Build, jar string) {
	l, ok := b.EarthLayer()
	require.True(t, ok)
	for i := range b.Layers {
		if b.Layers[i].ID == l.ID {
			b.Layers[i].Jar = jar
		}
	}
}

func findingOf(p plan.Plan, id string) (strata.Finding, bool) {
	for _, f := range p.Findings {
		if f.ID == id {
			return f, true
		}
	}
	return strata.Finding{}, false
}

// A second vehicle on a base carries the same earth: other earth is found, by whichever of the two it
// changed, and each mend settles it (F3).
func TestASecondVehicleOnABaseCarriesItsEarth(t *testing.T) {
	items := pairOnABase(t)
	plans := func() []plan.Plan {
		out, err := made.Plans(workshop(), items, monday)
		require.NoError(t, err)
		return out
	}
	_, found := findingOf(plans()[1], "F3:beside")
	require.False(t, found, "both are of one colour, and no jar is named")

	earthOf(t, &items[0].Build, "another")
	now := plans()
	f, found := findingOf(now[1], "F3:beside")
	require.True(t, found, "the first one's earth was changed")
	assert.Contains(t, f.Title, "the base of Host")
	_, onHost := findingOf(now[0], "F3:beside")
	assert.False(t, onHost)
	require.Len(t, f.Mends, 2)

	guest := document.WithHosts(items)[1]
	before := len(now[1].Findings)
	for _, m := range f.Mends {
		next, err := made.Apply(workshop(), guest,
			[]document.Edit{{Op: document.ApplyMend, Finding: f.ID, Mend: m.ID}}, other(), monday)
		require.NoError(t, err, m.Label)
		items[1].Build = next
		after := plans()[1]
		_, still := findingOf(after, f.ID)
		assert.False(t, still, m.Label)
		assert.Less(t, len(after.Findings), before, "%s brings nothing new", m.Label)
		items[1].Build = guest.Build
	}

	// Of the ground's own jar as well.
	items = pairOnABase(t)
	own := base.Usual("")
	own.Jar = "clay"
	items[0].Build.Base = &own
	_, found = findingOf(plans()[1], "F3:beside")
	assert.True(t, found, "the ground is painted from another jar")
	earthOf(t, &items[1].Build, "clay")
	_, found = findingOf(plans()[1], "F3:beside")
	assert.False(t, found)
}

// It is fixed on the other's base, and lays none of its own; with the other gone it stands on a shelf.
func TestASecondVehicleIsFixedOnTheOthersBase(t *testing.T) {
	items := pairOnABase(t)
	titles := func(p plan.Plan) string {
		var all []string
		for _, s := range p.Steps {
			all = append(all, s.Title)
		}
		return strings.Join(all, "\n")
	}
	d := &made
	plans, err := d.Plans(workshop(), items, monday)
	require.NoError(t, err)
	assert.Contains(t, titles(plans[1]), "Fix the vehicle on the base of Host")
	assert.Contains(t, titles(plans[1]), "Fill what gapes under the tracks")
	assert.NotContains(t, titles(plans[1]), "Lay the ground")
	assert.Contains(t, titles(plans[0]), "Lay the ground of the base")

	room, err := d.Ground(items[1].Build, workshop(), items)
	require.NoError(t, err)
	require.NotNil(t, room.Beside)
	assert.Equal(t, "Host", room.Beside.Name)
	assert.InDelta(t, room.Laid.Long-2*room.Wants.Margin, room.Beside.Long, 1e-6, "a board less its margins")
	assert.Equal(t, []plan.NamedLine{{ID: "host", Name: "Host"}}, room.Hosts)
	own, err := d.Ground(items[0].Build, workshop(), items)
	require.NoError(t, err)
	assert.Equal(t, []plan.NamedLine{{ID: "guest", Name: "Guest"}}, own.Guests)

	larger := items[0]
	larger.Build.Scale /= 2
	plans, err = d.Plans(workshop(), []document.Item{larger, items[1]}, monday)
	require.NoError(t, err)
	assert.NotContains(t, titles(plans[1]), "Fix the vehicle", "nobody stands on a base of another scale")

	alone := items[1:]
	plans, err = d.Plans(workshop(), alone, monday)
	require.NoError(t, err)
	assert.NotContains(t, titles(plans[0]), "Fix the vehicle")
	room, err = d.Ground(alone[0].Build, workshop(), alone)
	require.NoError(t, err)
	assert.True(t, room.Beside.Gone)

	items[1].Build.Base.Of = "guest"
	assert.ErrorContains(t, items[1].Build.Check(), "it is the build itself")
}
