package plan_test

import (
	"bytes"
	"fmt"
	"image/png"
	"slices"
	"strings"
	"sync"
	"testing"
	"time"

	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/plan"
	"cinderpath/core/strata"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Whatever is forgotten in mid-flight, a plan and its pictures stay what they are: stages meet
// by ids and indices, and what is remembered goes one by one.
func TestForgettingInMidFlightChangesNothing(t *testing.T) {
	b := tank(t)
	items := []document.Item{{Build: b}}
	var calm plan.Deriver
	want, err := calm.Plans(workshop(), items, monday)
	require.NoError(t, err)
	picture := func(d *plan.Deriver, p plan.Plan) []byte {
		data, err := d.Picture(plan.PictureQuestion{Look: p.Last(), Side: form.Left, Pixel: 1, Lines: true})
		require.NoError(t, err)
		return data
	}
	shown := picture(&calm, want[0])
	require.NotEmpty(t, want[0].Zones[0].Shares)
	for run := range 3 {
		hasty := plan.Deriver{Most: 1 << (14 + 4*run)} // from next to nothing to a few megabytes
		var wait sync.WaitGroup
		for k := range 4 {
			wait.Go(func() {
				got, err := hasty.Plans(workshop(), items, monday)
				if assert.NoError(t, err) {
					assert.Equal(t, want[0].Colours, got[0].Colours, "run %d, reader %d", run, k)
					assert.Equal(t, want[0].Zones, got[0].Zones)
					assert.Equal(t, want[0].Last(), got[0].Last())
				}
			})
		}
		wait.Wait()
		got, err := hasty.Plans(workshop(), items, monday)
		require.NoError(t, err)
		if run > 1 {
			assert.Equal(t, shown, picture(&hasty, got[0]), "run %d", run)
		}
	}
}

// What is remembered stays within its bytes, and the stages in use stay; what an older plan named is still
// drawn: a picture that is asked for while an edit comes is no error.
func TestWhatIsRememberedIsBounded(t *testing.T) {
	d := plan.Deriver{Most: 48 << 20}
	b := tank(t)
	looks := []string{}
	for i := range 5 {
		b.Scheme.Seed = uint64(i)
		plans, err := d.Plans(workshop(), []document.Item{{Build: b}}, monday)
		require.NoError(t, err)
		_, err = d.Picture(plan.PictureQuestion{Look: plans[0].Last(), Side: form.Top, Pixel: 1})
		require.NoError(t, err)
		bytes, stages := d.Remembered()
		assert.LessOrEqual(t, bytes, int64(48<<20))
		assert.Greater(t, stages, 5, "never all at once")
		looks = append(looks, plans[0].Last())
	}
	for _, look := range looks {
		_, err := d.Picture(plan.PictureQuestion{Look: look, Side: form.Top, Pixel: 2})
		require.NoError(t, err)
	}
}

// Builds that fill more than is remembered are not planned again when the next minute comes:
// what took long and is small stays, what is large and soon made again goes.
func TestManyBuildsAreNotPlannedAgainEachMinute(t *testing.T) {
	d := plan.Deriver{Most: 24 << 20}
	items := make([]document.Item, 6)
	for i := range items {
		b := tank(t)
		b.ID = fmt.Sprintf("01997a00-0000-7000-8000-0000c1de1%03d", i)
		b.Scheme.Seed, b.Wheels[0].X = uint64(i), b.Wheels[0].X+float64(i)
		items[i] = document.Item{Build: b}
	}
	_, err := d.Plans(workshop(), items, monday)
	require.NoError(t, err)
	before := d.Computed()
	for i := range 5 {
		_, err := d.Plans(workshop(), items, monday.Add(time.Duration(i)*time.Minute))
		require.NoError(t, err)
	}
	for _, stage := range []string{"build", "shape", "worn", "scheme", "grid"} {
		assert.Equal(t, before[stage], d.Computed()[stage], stage)
	}
	assert.Greater(t, d.Made(), 2*d.Most, "and most of it was forgotten")
}

// A new swatch lays no pattern anew, and no size hangs on the body.
func TestAStageHangsOnItsOwnInputsOnly(t *testing.T) {
	var d plan.Deriver
	b := tank(t)
	first, err := d.Plans(workshop(), []document.Item{{Build: b}}, monday)
	require.NoError(t, err)
	before := d.Computed()
	b.Scheme.Colours = slices.Clone(b.Scheme.Colours)
	b.Scheme.Colours[1].Hex, b.Scheme.Colours[1].Name = "#203040", "night blue"
	second, err := d.Plans(workshop(), []document.Item{{Build: b}}, monday)
	require.NoError(t, err)
	after := d.Computed()
	for _, stage := range []string{"scheme", "grid", "body", "sizes", "gear", "views", "cables"} {
		assert.Equal(t, before[stage], after[stage], stage)
	}
	assert.NotEqual(t, first[0].Last(), second[0].Last(), "but it looks otherwise")
	assert.Equal(t, first[0].Bare, second[0].Bare)
	b.Body.Fittings = b.Body.Fittings[:len(b.Body.Fittings)-1]
	_, err = d.Plans(workshop(), []document.Item{{Build: b}}, monday)
	require.NoError(t, err)
	assert.Equal(t, after["sizes"], d.Computed()["sizes"], "sizes")
	assert.Greater(t, d.Computed()["body"], after["body"])
}

// A colour that is split stays that colour, whatever its parts are called.
func TestPartsOfASplitColourKeepIt(t *testing.T) {
	b := tank(t)
	p := planOf(t, b)
	i := slices.IndexFunc(p.Steps, func(s plan.Step) bool { return strings.HasSuffix(s.Title, ": kelp brown") })
	require.GreaterOrEqual(t, i, 0)
	whole := p.Steps[i]
	next, err := applied(
		b,
		[]document.Edit{{Op: document.SetOrder, Order: &document.OrderEdit{Do: "split", Task: whole.ID, Into: 2}}},
		ids(),
	)
	require.NoError(t, err)
	parts := 0
	for _, s := range planOf(t, next).Steps {
		if slices.Contains(s.From, whole.ID) {
			parts++
			assert.Equal(t, "#5d4836", s.Hex, s.Title)
			assert.Equal(t, whole.Product, s.Product, s.Title)
			assert.Equal(t, whole.Colour, s.Colour)
		}
	}
	assert.Equal(t, 2, parts)
}

// A test piece is primed with the model and tried before the colour, and is no beginning of it:
// whoever follows the plan is told nothing.
func TestATestPieceIsNoBeginningOfItsColour(t *testing.T) {
	b := tank(t)
	var log []document.Entry
	at := monday.Add(-90 * 24 * time.Hour)
	p := planOf(t, b)
	primed := false
	for _, s := range p.Steps {
		if s.Kind == "test" {
			assert.True(t, primed, "the test piece comes after the primer")
		}
		primed = primed || s.Kind == string(strata.Prime)
		// Each step begins when the plan would let it: a day after the one before.
		for _, kind := range []string{document.Started, document.Finished} {
			log = append(
				log,
				document.Entry{
					Key:      fmt.Sprint(len(log)),
					Kind:     kind,
					Task:     s.ID,
					Title:    s.Title,
					StepKind: s.Kind,
					Subject:  s.Subject,
					At:       at,
				},
			)
			at = at.Add(20 * time.Minute)
		}
		if s.Kind != "wash" { // a wash is taken back in its time
			at = at.Add(3 * 24 * time.Hour)
		}
	}
	require.True(t, primed)
	for _, f := range planOf(t, b, log...).Findings {
		assert.NotContains(t, f.Title, "too soon", f.Reason)
	}
	// A test piece sprayed long before the primer, out of order, is no beginning either.
	test := slices.IndexFunc(p.Steps, func(s plan.Step) bool { return s.Kind == "test" })
	require.GreaterOrEqual(t, test, 0)
	s := p.Steps[test]
	early := []document.Entry{}
	for k, kind := range []string{document.Started, document.Finished} {
		early = append(
			early,
			document.Entry{
				Key:      fmt.Sprint("early ", k),
				Kind:     kind,
				Task:     s.ID,
				Title:    s.Title,
				StepKind: s.Kind,
				Subject:  s.Subject,
				At:       monday.Add(-100 * 24 * time.Hour),
			},
		)
	}
	for _, e := range log {
		if e.Task != s.ID {
			early = append(early, e)
		}
	}
	for _, f := range planOf(t, b, early...).Findings {
		assert.NotContains(t, f.Title, "too soon", f.Reason)
	}
}

// Standing on any step shows what is on by then: the look changes with what is laid and with
// nothing else, and every look has its picture.
func TestTheLookFollowsThePath(t *testing.T) {
	b := tank(t)
	var d plan.Deriver
	plans, err := d.Plans(workshop(), []document.Item{{Build: b}}, monday)
	require.NoError(t, err)
	p := plans[0]
	assert.Equal(t, p.Bare, p.Steps[0].Look)
	changes, last := 0, p.Bare
	var shown []byte
	for _, s := range p.Steps {
		if s.Look == last {
			continue
		}
		changes++
		assert.NotEmpty(t, s.Layer, "%s lays nothing", s.Title)
		data, err := d.Picture(plan.PictureQuestion{Look: s.Look, Side: form.Left, Pixel: 2})
		require.NoError(t, err)
		img, err := png.Decode(bytes.NewReader(data))
		require.NoError(t, err)
		assert.InDelta(t, p.Views[0].Width/2, img.Bounds().Dx(), 1)
		if s.Kind != string(strata.Decals) && s.Kind != string(strata.Clear) &&
			s.Kind != string(strata.Chips) { // chips are too small here
			assert.NotEqual(t, shown, data, s.Title)
		}
		last, shown = s.Look, data
	}
	assert.GreaterOrEqual(t, changes, len(b.Layers))
	_, err = d.Picture(plan.PictureQuestion{Look: strings.Repeat("0", 32), Side: form.Left, Pixel: 2})
	assert.ErrorIs(t, err, plan.ErrForgotten)
	_, err = d.Picture(plan.PictureQuestion{Look: p.Last(), Side: form.Left, Pixel: 0.001})
	assert.ErrorContains(t, err, "larger points")
}

// Every zone is in the drawing by its name, in a view in which it shows.
func TestEveryZoneThatShowsIsDrawn(t *testing.T) {
	b := tank(t)
	var d plan.Deriver
	plans, err := d.Plans(workshop(), []document.Item{{Build: b}}, monday)
	require.NoError(t, err)
	p := plans[0]
	of, err := d.Drawn(p.Drawing)
	require.NoError(t, err)
	drawing, err := d.Drawing(of)
	require.NoError(t, err)
	_, err = d.Drawn("nothing of that name")
	require.ErrorIs(t, err, plan.ErrForgotten)
	shown := map[string]bool{}
	for _, v := range drawing.Views {
		for _, z := range v.Zones {
			shown[z.Zone] = true
			assert.Equal(t, p.Places[z.Zone], z.Words)
			assert.NotContains(t, z.Words, ".")
		}
	}
	for _, z := range p.Zones {
		if z.AreaCM > 2 && z.Zone != "lower.belly" && z.Zone != "lower.deck" &&
			z.Zone != "hull.sponson" { // seen from below only
			assert.True(t, shown[z.Zone], z.Zone)
		}
	}
}
