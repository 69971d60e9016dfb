package document_test

import (
	"testing"

	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/scheme"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Pins are set in model mm and kept at real size; one that would contradict another takes its place.
func TestPins(t *testing.T) {
	b := document.Build{Scale: 35, Scheme: scheme.Pattern{Width: 700, Colours: []scheme.Colour{
		{Name: "lichen green", Hex: "#66704f"}, {Name: "kelp brown", Hex: "#5d4836", Share: 0.3},
	}}}
	pin := func(b document.Build, e document.PinEdit, op string, now document.Standing) (document.Build, error) {
		next := b
		edited, err := document.Edited(next, document.Edit{Op: op, Pin: &e}, now)
		return edited, err
	}
	at := func(x float64) *document.Place { return &document.Place{On: "hull.left", At: [3]float64{x, 0, 20}} }
	b, err := pin(b, document.PinEdit{Colour: 1, Place: at(10)}, document.SetPin, document.Standing{})
	require.NoError(t, err)
	assert.Equal(t, []scheme.Anchor{{At: form.Vec{350, 0, 700}, Zone: "hull.left", Colour: 1}}, b.Scheme.Anchors)

	// Nearer than half a width: the newer one counts.
	b, err = pin(b, document.PinEdit{Colour: 0, Place: at(15)}, document.SetPin, document.Standing{})
	require.NoError(t, err)
	require.Len(t, b.Scheme.Anchors, 1)
	assert.Equal(t, 0, b.Scheme.Anchors[0].Colour)

	// A field that is moved pins both places: its colour there, and what was there here.
	there := document.Standing{Colour: func(_ document.Build, a scheme.Anchor) (int, error) {
		if a.At[0] > 2000 {
			return 0, nil
		}
		return 1, nil
	}}
	moved, err := pin(b, document.PinEdit{Place: at(30), To: at(90)}, document.MoveField, there)
	require.NoError(t, err)
	require.Len(t, moved.Scheme.Anchors, 3)
	assert.Equal(t, 1, moved.Scheme.Anchors[1].Colour)
	assert.InDelta(t, 90*35, moved.Scheme.Anchors[1].At[0], 1e-9)
	assert.Equal(t, 0, moved.Scheme.Anchors[2].Colour)
	_, err = pin(b, document.PinEdit{Place: at(80), To: at(90)}, document.MoveField, there)
	assert.ErrorContains(t, err, "has the colour already")

	dropped, err := pin(moved, document.PinEdit{Number: 1}, document.DropPin, document.Standing{})
	require.NoError(t, err)
	assert.Len(t, dropped.Scheme.Anchors, 2)
	_, err = pin(b, document.PinEdit{Number: 9}, document.DropPin, document.Standing{})
	assert.ErrorContains(t, err, "newer state")
	_, err = pin(b, document.PinEdit{Place: &document.Place{On: "gear.left.track"}}, document.SetPin, document.Standing{})
	assert.ErrorContains(t, err, "takes no scheme")
}
