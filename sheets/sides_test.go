package sheets_test

import (
	"math"
	"testing"

	"cinderpath/core/colour"
	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/measure"
	"cinderpath/core/plan"
	"cinderpath/samples"
	"cinderpath/sheets"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// onCard are the corners of the card on cardPhoto, and a patch in its hole.
var (
	onCard  = [4]measure.Pixel{{40, 40}, {540, 40}, {540, 540}, {40, 540}}
	inAHole = [2]measure.Pixel{{170, 170}, {410, 410}}
)

// Passes of a layer are told from photographs of both sides: what the column of two places of the sample has
// of dust, found back from the colours that it has there.
func TestBothSidesAreMatched(t *testing.T) {
	documents, err := samples.Documents()
	require.NoError(t, err)
	d := documents[0].Resolve(now)
	d.AsOf = now
	var deriver plan.Deriver
	p, err := d.Plan(&deriver)
	require.NoError(t, err)
	var dust, chips plan.Step
	for _, s := range p.Steps {
		switch s.Title {
		case "Dust":
			dust = s
		case "Chips":
			chips = s
		}
	}
	require.NotEmpty(t, dust.Layer)
	require.NotEmpty(t, chips.Layer)
	// Two places of its left side, one with more of it.
	type place struct {
		film float64
		seen colour.RGB
	}
	var most, least place
	least.film = math.Inf(1)
	for _, v := range p.Views {
		if v.Side != form.Left {
			continue
		}
		for x := 0.1; x < 1; x += 0.1 {
			for y := 0.35; y < 1; y += 0.08 {
				c, err := deriver.Core(
					plan.CoreQuestion{Look: dust.Look, Side: form.Left, At: [2]float64{x * v.Width, y * v.Height}},
				)
				if err != nil {
					continue
				}
				for _, ply := range c.Plies {
					if ply.Layer != dust.Layer {
						continue
					}
					here := place{ply.FilmUM, colour.Of(ply.After)}
					if here.film > most.film {
						most = here
					}
					if here.film < least.film && here.film > 0.3 {
						least = here
					}
				}
			}
		}
	}
	require.Greater(t, most.film, 1.3*least.film, "the sample has more of it in one place than in another")
	q := sheets.SidesQuestion{
		Look: dust.Look, Layer: dust.Layer,
		Left:  sheets.SidePhoto{Image: cardPhoto(t, most.seen), Corners: onCard, Patch: inAHole},
		Right: sheets.SidePhoto{Image: cardPhoto(t, least.seen), Corners: onCard, Patch: inAHole},
	}
	got, err := sheets.AskSides(&deriver, p, q)
	require.NoError(t, err)
	t.Log(most, least, got.Words, got.Ground, got.Sides)
	assert.True(t, got.InPasses)
	assert.InDelta(t, most.film, got.Sides[0].FilmUM, 2*got.Sides[0].Within*got.PassUM+0.15*most.film)
	assert.InDelta(t, least.film, got.Sides[1].FilmUM, 2*got.Sides[1].Within*got.PassUM+0.15*most.film)
	assert.Len(t, got.Words, 1)

	// Whoever counted learns what a pass of theirs leaves.
	q.Coats = &document.Coats{Left: 2, Right: 1}
	got, err = sheets.AskSides(&deriver, p, q)
	require.NoError(t, err)
	assert.InDelta(t, (got.Sides[0].FilmUM+got.Sides[1].FilmUM)/3, got.PassUM, 1e-9)

	// Chips are told by their number: a clean card has none on either side.
	q = sheets.SidesQuestion{Look: chips.Look, Layer: chips.Layer, Left: q.Left, Right: q.Right}
	got, err = sheets.AskSides(&deriver, p, q)
	require.NoError(t, err)
	assert.False(t, got.InPasses)
	assert.Contains(t, got.Words[0], "Marks: 0 to the cm² left, 0 right")
	// A card is 75 mm wide, here 500 pixels.
	assert.InDelta(t, 3.6*3.6, got.Sides[0].CM2, 0.1)

	for field, spoil := range map[string]func(*sheets.SidesQuestion){
		"left.image":    func(q *sheets.SidesQuestion) { q.Left.Image = "%%" },
		"right.corners": func(q *sheets.SidesQuestion) { q.Right.Corners[1] = q.Right.Corners[0] },
		"left.patch":    func(q *sheets.SidesQuestion) { q.Left.Patch[1] = q.Left.Patch[0] },
		"layer":         func(q *sheets.SidesQuestion) { q.Layer = "none" },
	} {
		bad := q
		spoil(&bad)
		_, err := sheets.AskSides(&deriver, p, bad)
		var fault *measure.Fault
		require.ErrorAs(t, err, &fault, field)
		assert.Equal(t, field, fault.Field)
	}
}
