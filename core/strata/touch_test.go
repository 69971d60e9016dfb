package strata_test

import (
	"testing"

	"cinderpath/core/form"
	"cinderpath/core/landing"
	"cinderpath/core/strata"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A person's marks rule over where a layer lands: none where none is wanted, only there, or more there and
// as much as before elsewhere.
func TestMarksOfOnesOwnRuleOverTheLanding(t *testing.T) {
	panels, err := form.Panels(form.NewBody(form.Wheeled, 5000, 2400, 2200), form.Running{})
	require.NoError(t, err)
	g := form.NewGrid(panels, 25)
	site := landing.NewSite(panels, g, nil, landing.Running{}, 35)
	var at form.Vec
	found := false
	for i, x := range g.Texels {
		if x.Facing() == "upright" && x.NX > 20 && x.NY > 20 && !found {
			at, found = x.Point(x.NY/2*x.NX+x.NX/2), true
			require.NotNil(t, panels[i])
		}
	}
	require.True(t, found)
	const radius = 200.0
	sums := func(l strata.Layer) (inside, beyond float64) {
		d := l.Deposit(site)
		for _, x := range g.Texels {
			for k, a := range x.Area {
				p := x.Point(k).Sub(at)
				far := p.Dot(p)
				film := float64(a) * float64(d.Full) * float64(d.Film[x.First+k])
				switch {
				case far < 0.6*0.6*radius*radius:
					inside += film
				case far > (radius+80)*(radius+80): // marks reach over the rim
					beyond += film
				}
			}
		}
		return inside, beyond
	}
	for _, kind := range []strata.Kind{strata.Filter, strata.Dust, strata.Chips} {
		t.Run(string(kind), func(t *testing.T) {
			l := kind.Fresh()
			l.ID = "x"
			in, out := sums(l)
			l.Touches = []strata.Touch{{What: strata.NoneHere, At: at, Radius: radius}}
			none, rest := sums(l)
			assert.Zero(t, none)
			assert.Positive(t, rest)
			l.Touches[0].What = strata.OnlyHere
			only, nothing := sums(l)
			assert.Zero(t, nothing)
			if kind != strata.Chips {
				assert.InEpsilon(t, out, rest, 0.02, "elsewhere as before")
				assert.InEpsilon(t, in, only, 0.02)
				l.Touches[0].What = strata.MoreHere
				more, same := sums(l)
				assert.InEpsilon(t, 3*in, more, 0.03)
				assert.InEpsilon(t, out, same, 0.03)
			}
		})
	}
	bad := strata.Filter.Fresh()
	bad.ID, bad.Touches = "x", []strata.Touch{{What: "some", At: at, Radius: 10}}
	require.ErrorContains(t, bad.Check(), "no mark")
	bad.Touches[0] = strata.Touch{What: strata.MoreHere, Radius: -1}
	require.ErrorContains(t, bad.Check(), "radius")
}
