package samples_test

import (
	"slices"
	"testing"
	"time"

	"cinderpath/core/document"
	"cinderpath/core/paint"
	"cinderpath/core/plan"
	"cinderpath/core/strata"
	"cinderpath/samples"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The demo's shelf holds nearly every family; its shopping list is what one works out by hand.
func TestTheDemosShelfAndWhatItLacks(t *testing.T) {
	shelf, err := samples.Shelf()
	require.NoError(t, err)
	families := map[string]bool{}
	for _, j := range shelf.Jars {
		families[j.Family] = true
	}
	assert.GreaterOrEqual(t, len(shelf.Jars), 45)
	assert.Greater(t, len(families), 24)
	for _, state := range []paint.State{paint.Expired, paint.Ordered, paint.Empty, paint.HalfDry, paint.Settled} {
		assert.True(t, slices.ContainsFunc(shelf.Jars, func(j paint.Jar) bool { return j.State == state }), string(state))
	}

	documents, err := samples.Documents()
	require.NoError(t, err)
	now := time.Date(2026, 11, 23, 12, 0, 0, 0, time.UTC)
	var items []document.Item
	for _, d := range documents {
		items = append(items, d.Resolve(now).Items...)
	}
	var d plan.Deriver
	all, err := d.All(documents[0].Resolve(now).Workshop, items, now)
	require.NoError(t, err)

	// Mud lies in corners and behind wheels, as deep as it says; 70 % of the paste is solid and
	// 95 % arrives. Satin goes all over: 10 µm, 30 % solids, half is lost, 0.2 ml stay at each fill
	// of 7 ml, thinned 1 : 0.5.
	mud, satin := 0.0, 0.0
	for i, p := range all.Plans {
		for _, s := range p.Steps {
			if s.Status.Over() || s.Status.Done() {
				continue
			}
			at := slices.IndexFunc(items[i].Build.Layers, func(l strata.Layer) bool { return l.ID == s.Layer })
			switch {
			case s.Kind == "baseearth":
				require.Equal(t, "48 ochre mud", s.Needs[0].Name, "the ground is of the vehicle's own earth")
				mud += s.Needs[0].ML
			case s.Kind == "mud":
				mud += s.Needs[0].ML
				covered := s.Needs[0].ML * 0.7 * 0.95 / (items[i].Build.Layers[at].DepthMM / 10)
				assert.Greater(t, covered, 0.02*s.AreaCM, "cm² of it")
				assert.Less(t, covered, 0.3*s.AreaCM)
			case s.Kind == "clear" && items[i].Build.Layers[at].Sheen == "satin":
				ml := s.AreaCM * 10e-4 / (0.3 * 0.5)
				fills := 1.0
				if (ml+0.2)*1.5 > 7 {
					fills = 2
				}
				satin += ml + 0.2*fills
			}
		}
	}
	list := map[string]plan.Buy{}
	for _, b := range all.Shopping.Buy {
		list[b.Name] = b
	}
	assert.InDelta(t, mud-6, list["48 ochre mud"].Short, 0.15)
	assert.InDelta(t, satin-9, list["37 satin coat"].Short, 0.05)
	assert.Len(t, list, 2, "of all else there is enough")
}

// Every kind of layer of the table is used by one of the demos.
func TestTheDemosUseEveryKindOfLayer(t *testing.T) {
	documents, err := samples.Documents()
	require.NoError(t, err)
	used := map[strata.Kind]bool{}
	for _, d := range documents {
		for _, it := range d.Resolve(time.Date(2026, 11, 23, 12, 0, 0, 0, time.UTC)).Items {
			for _, l := range it.Build.Layers {
				used[l.Kind] = true
			}
		}
	}
	for _, about := range strata.Abouts() {
		assert.True(t, used[about.ID], "no demo has %s", about.ID)
	}
}
