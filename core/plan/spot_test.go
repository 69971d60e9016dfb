package plan_test

import (
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cinderpath/core/document"
	"cinderpath/core/plan"
	"cinderpath/core/strata"
)

// whitened is a tank with gloss, decals, a seal, a wash in sections, and then a winter wash over a chipping
// coat that is worn off again.
func whitened(t *testing.T) document.Build {
	b := tank(t)
	at := slices.IndexFunc(b.Layers, func(l strata.Layer) bool { return l.Kind == strata.Wash })
	b.Layers = slices.Clone(b.Layers[:at+1])
	for i, k := range []strata.Kind{strata.Clear, strata.ChippingCoat, strata.Colour, strata.ChippingWork} {
		l := k.Fresh()
		l.ID, l.Zones = "winter "+string(k), []string{"hull", "turret"}
		if i == 0 {
			l.Name = "Seal below the winter wash"
		}
		if k == strata.Colour {
			l.Name, l.Hex, l.Family = "Winter wash", "#d8d8d0", "waterborne_acrylic"
		}
		b.Layers = append(b.Layers, l)
	}
	return b
}

// doneUpTo finishes all steps before one, a day apart, and gives the last.
func doneUpTo(t *testing.T, b document.Build, until func(s plan.Step) bool) (log []document.Entry) {
	at := monday.Add(-200 * 24 * time.Hour)
	for _, s := range planOf(t, b).Steps {
		if until(s) {
			break
		}
		at = at.Add(20 * time.Hour)
		log = append(log, document.Entry{
			Key: s.ID, Kind: document.Finished, Task: s.ID, Title: s.Title, At: at, Subject: s.Subject, StepKind: s.Kind,
		})
	}
	return log
}

// A mark is sanded down to the ground under a worn winter wash: the camouflage comes back first, one gloss
// coat, then what lay over it in its order, each once, the wash with its window, and the winter wash over
// its chipping coat last.
func TestARepairUnderAWornTemporaryWash(t *testing.T) {
	b := whitened(t)
	log := doneUpTo(t, b, func(s plan.Step) bool { return s.Stage == "Earth" || s.Stage == "Finish" })
	last := log[slices.IndexFunc(log, func(e document.Entry) bool { return strings.HasPrefix(e.Task, "chipping_work") })]
	mark := document.Entry{
		Key: "0190-mark", Kind: document.Mishap, Task: last.Task, Title: last.Title, Mishap: "cement",
		Choice: document.Repair, Zones: []string{"turret.left"}, At: monday,
	}
	var titles []string
	var steps []plan.Step
	for _, s := range planOf(t, b, append(log, mark)...).Steps {
		if s.Kind == "repair" || strings.Contains(s.Title, "mended spot") {
			titles = append(titles, strings.TrimSuffix(s.Title, ", again on the mended spot"))
			steps = append(steps, s)
		}
	}
	assert.Equal(t, []string{
		"Let the mark harden, sand it back", "Re-prime the spot", "Respray the spot from the kept mix", "Gloss the spot",
		"Decals", "Satin seal", "Pin wash", "Take back the pin wash",
		"Seal below the winter wash", "Chipping coat", "Winter wash", "Lighten panels and edges", "Work the chipping coat",
	}, titles)
	for i, s := range steps {
		switch s.Title {
		case "Respray the spot from the kept mix":
			assert.NotEqual(t, "winter colour", s.Layer, "not the winter wash: what lies under it")
			assert.Positive(t, s.Colour)
		case "Gloss the spot":
			assert.Equal(t, layerNamed(t, b, "Gloss coat"), s.Layer)
		case "Take back the pin wash, again on the mended spot":
			require.Len(t, s.After, 1)
			assert.Equal(t, steps[i-1].ID, s.After[0].From)
			assert.Positive(t, s.After[0].Most, "its window is kept")
			assert.Equal(t, steps[i-1].Spans[0].From.Day(), s.Spans[0].From.Day())
		}
		if i > 0 {
			assert.False(t, s.Spans[0].From.Before(steps[i-1].End()), "%s after %s", s.Title, steps[i-1].Title)
		}
	}
}

func layerNamed(t *testing.T, b document.Build, name string) string {
	i := slices.IndexFunc(b.Layers, func(l strata.Layer) bool { return l.Name == name })
	require.GreaterOrEqual(t, i, 0)
	return b.Layers[i].ID
}
