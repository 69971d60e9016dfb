package plan_test

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"testing"

	"cinderpath/core/document"
	"cinderpath/core/measure"
	"cinderpath/core/paint"
	"cinderpath/core/path"
	"cinderpath/core/plan"
	"cinderpath/core/scheme"
	"cinderpath/core/strata"
	"cinderpath/core/unit"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// edit draws an edit as a user might make it, sensible or not.
func edit(t *rapid.T, b document.Build) document.Edit {
	size := rapid.SampledFrom([]string{"3 m", "23 ft 4 in", "7,12 m", "9 m", "-1", "", "1,234"})
	layer := func() string {
		if len(b.Layers) == 0 {
			return "none"
		}
		return rapid.SampledFrom(b.Layers).Draw(t, "layer").ID
	}
	switch rapid.IntRange(0, 7).Draw(t, "what") {
	case 0:
		return document.Edit{
			Op:   rapid.SampledFrom([]string{document.SetLength, document.SetWidth, document.SetHeight}).Draw(t, "side"),
			Text: size.Draw(t, "size"),
		}
	case 1:
		return document.Edit{
			Op:   document.SetScale,
			Text: rapid.SampledFrom([]string{"1:35", "1:72", "48", "big"}).Draw(t, "scale"),
		}
	case 2:
		return document.Edit{Op: document.EditLayers, Layers: []strata.Edit{{Op: "drop", ID: layer()}}}
	case 3:
		return document.Edit{Op: document.EditLayers, Layers: []strata.Edit{{Op: "move", ID: layer(), Before: layer()}}}
	case 4:
		kind := rapid.SampledFrom(layerKinds()).Draw(t, "kind")
		family := rapid.SampledFrom(paint.Families()).Draw(t, "family")
		return document.Edit{Op: document.EditLayers, Layers: []strata.Edit{
			{
				Op:     "insert",
				Before: layer(),
				Layer: &strata.Layer{
					Name:    string(kind),
					Kind:    kind,
					Family:  family.ID,
					Applied: strata.Brushed,
					Coats:   rapid.IntRange(0, 3).Draw(t, "coats"),
				},
			},
		}}
	case 5:
		p := b.Scheme
		p.Seed = rapid.Uint64Range(0, 1<<50).Draw(t, "seed")
		p.Colours = append(
			slices.Clone(p.Colours[:1]),
			scheme.Colour{Name: "kelp brown", Hex: "#5d4836", Share: unit.Share(rapid.Float64Range(0, 1).Draw(t, "share"))},
		)
		return document.Edit{Op: document.SetScheme, Scheme: &p}
	case 6:
		link := b.Link
		link.Supplied = rapid.IntRange(0, 200).Draw(t, "links")
		return document.Edit{Op: document.SetLink, Link: &link}
	default:
		return document.Edit{Op: document.Rename, Text: rapid.SampledFrom([]string{"Varrow", " ", "Tussock"}).Draw(t, "name")}
	}
}

// Whatever is edited: a build that is taken is sound, reads back from its JSON as
// it was, and has a plan whose steps keep their order and their waits.
func TestAnyEditsLeaveASoundBuild(t *testing.T) {
	checks(t, 25)
	first := tank(t)
	var d plan.Deriver
	rapid.Check(t, func(t *rapid.T) {
		b, id := first, 0
		newID := func() string { id++; return fmt.Sprintf("n%d", id) }
		for range rapid.IntRange(1, 8).Draw(t, "edits") {
			next, err := applied(b, []document.Edit{edit(t, b)}, newID)
			if err != nil {
				var bad *measure.Fault
				require.ErrorAs(t, err, &bad)
				assert.NotEmpty(t, bad.Field)
				assert.NotEmpty(t, bad.Reason)
				continue
			}
			b = next
		}
		require.NoError(t, b.Check())
		data, err := json.Marshal(b)
		require.NoError(t, err)
		var back document.Build
		require.NoError(t, json.Unmarshal(data, &back))
		assert.Equal(t, b, back)

		plans, err := d.Plans(workshop(), []document.Item{{Build: b}}, monday)
		require.NoError(t, err)
		sound(t, plans[0])
		assert.InDelta(t, 1, total(plans[0].Colours), 1e-3)
	})
}

func total(colours []plan.ColourLine) (sum float64) {
	for _, c := range colours {
		sum += float64(c.Share)
	}
	return sum
}

// sound holds a plan against its own arrows.
func sound(t require.TestingT, p plan.Plan) {
	at := map[string]int{}
	for i, s := range p.Steps {
		_, twice := at[s.ID]
		require.False(t, twice, "two steps are called %s", s.ID)
		at[s.ID] = i
		for k, a := range s.After {
			from, known := at[a.From]
			require.True(t, known, "%s comes after %s, which does not stand before it", s.ID, a.From)
			if s.Failed != "" || p.Steps[from].Failed != "" || s.Status.Over() {
				continue // what happened is as it was
			}
			gap := unit.MinutesOf(s.Spans[0].From.Sub(p.Steps[from].End()))
			assert.GreaterOrEqual(t, float64(gap), s.Waits[k]-1e-6, "%s after %s", s.Title, p.Steps[from].Title)
			if a.Most > 0 {
				assert.LessOrEqual(t, gap+s.Minutes, a.Most+1e-6, "%s within the window of %s", s.Title, p.Steps[from].Title)
			}
			assert.NotEmpty(t, a.Reason)
		}
	}
}

// Several builds share one pair of hands: no two of their steps overlap.
func TestBuildsDoNotOverlap(t *testing.T) {
	a, b := tank(t), tank(t)
	b.ID, b.Priority = "other", 1
	var d plan.Deriver
	plans, err := d.Plans(workshop(), []document.Item{{Build: a}, {Build: b}}, monday)
	require.NoError(t, err)
	var spans []path.Span
	for _, p := range plans {
		sound(t, p)
		for _, s := range p.Steps {
			spans = append(spans, s.Spans...)
		}
	}
	slices.SortFunc(spans, func(x, y path.Span) int { return x.From.Compare(y.From) })
	for i := 1; i < len(spans); i++ {
		assert.False(t, spans[i].From.Before(spans[i-1].To), "hands are in two places at %s", spans[i].From)
	}
	assert.True(t, plans[1].Steps[0].Spans[0].From.Before(plans[0].Steps[0].Spans[0].From), "the lower number goes first")
}

// Each line of an evening says what its place is good for, and what it says holds.
func TestLinesOfAnEveningSayWhatTheyAreGoodFor(t *testing.T) {
	var d plan.Deriver
	all, err := d.All(workshop(), []document.Item{{Build: boxed(t)}}, monday)
	require.NoError(t, err)
	step := func(id string) plan.Step {
		return all.Plans[0].Steps[slices.IndexFunc(all.Plans[0].Steps, func(s plan.Step) bool { return s.ID == id })]
	}
	said := map[string]int{}
	for _, s := range all.Evenings.Sessions {
		for _, l := range s.Lines {
			if l.SetUp != nil {
				assert.Empty(t, l.Sense)
				continue
			}
			require.NotEmpty(t, l.Sense, l.Title)
			x := step(l.Task)
			ends := x.Spans[len(x.Spans)-1].To
			assert.Equal(t, ends.After(s.To), strings.HasPrefix(l.Sense, "goes on "), "%s: %s", l.Title, l.Sense)
			if strings.HasPrefix(l.Sense, "dries until ") {
				assert.Contains(t, l.Sense, x.Tail.Format("15:04"))
				assert.True(t, x.Tail.After(l.To))
			}
			assert.Equal(t, x.Chain, strings.Contains(l.Sense, "the end hangs on it"))
			if _, fills, ok := strings.Cut(l.Sense, "fits into the wait after "); ok {
				assert.True(t, slices.ContainsFunc(s.Lines, func(k plan.Line) bool {
					return strings.HasPrefix(fills, strings.ToLower(k.Title[:1])+k.Title[1:]) &&
						!k.To.After(l.From) && !l.To.After(k.Tail) && !k.Tail.After(s.To)
				}), "%s: %s", l.Title, l.Sense)
				said["fills"]++
			}
			said[strings.Fields(l.Sense)[0]]++
		}
	}
	for _, kind := range []string{"dries", "goes", "fills"} {
		assert.Positive(t, said[kind], kind)
	}
}

// layerKinds are all there are.
func layerKinds() (out []strata.Kind) {
	for _, a := range strata.Abouts() {
		out = append(out, a.ID)
	}
	return out
}
