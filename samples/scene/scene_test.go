package scene_test

import (
	"bytes"
	"crypto/sha256"
	"encoding/json"
	"fmt"
	"image/png"
	"math"
	"os"
	"testing"
	"time"

	"cinderpath/core/measure"
	"cinderpath/samples"
	"cinderpath/samples/scene"
	"cinderpath/sheets"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// What ships is what is drawn. CINDERPATH_DRAW=1 draws it anew.
func TestWhatShipsIsWhatIsDrawn(t *testing.T) {
	documents, err := samples.Documents()
	require.NoError(t, err)
	img, err := scene.Draw(documents[0].Items[0].Build)
	require.NoError(t, err)
	varrow := documents[0].Resolve(time.Date(2026, 11, 23, 12, 0, 0, 0, time.UTC))
	drawn, pairs, err := scene.Guide(varrow.Items[0].Build, varrow.Workshop)
	require.NoError(t, err)
	var picture, guide, winch bytes.Buffer
	encoder := png.Encoder{CompressionLevel: png.BestCompression}
	require.NoError(t, encoder.Encode(&picture, img))
	require.NoError(t, encoder.Encode(&guide, drawn))
	require.NoError(t, sheets.WriteSTL(&winch, scene.Winch(), "winch drum, mm, real size"))
	if os.Getenv("CINDERPATH_DRAW") != "" {
		require.NoError(t, os.WriteFile("../files/varrow-side.png", picture.Bytes(), 0o600))
		require.NoError(t, os.WriteFile("../files/varrow-guide.png", guide.Bytes(), 0o600))
		require.NoError(t, os.WriteFile("../files/drumble-winch.stl", winch.Bytes(), 0o600))
	}
	for name, want := range map[string][]byte{
		"../files/varrow-side.png": picture.Bytes(), "../files/varrow-guide.png": guide.Bytes(), "../files/drumble-winch.stl": winch.Bytes(),
	} {
		got, err := os.ReadFile(name)
		require.NoError(t, err)
		assert.True(
			t,
			bytes.Equal(want, got),
			"%s differs from what is drawn: CINDERPATH_DRAW=1 go test ./samples/scene",
			name,
		)
	}
	// What the Varrow's scheme knows of its left side is read from the guide.
	hash := fmt.Sprintf("%x", sha256.Sum256(guide.Bytes()))
	read, err := scene.Traced(varrow.Items[0].Build, varrow.Workshop, drawn, pairs, hash)
	require.NoError(t, err)
	if os.Getenv("CINDERPATH_DRAW") != "" {
		told, err := json.Marshal(read)
		require.NoError(t, err)
		t.Logf("traces of the Varrow's scheme: %s", told)
	}
	assert.Equal(t, read, varrow.Items[0].Build.Scheme.Traces)
}

// The board's corners, as they lie in the picture, measure the hull's edge to the
// truth: the picture is a picture of something.
func TestThePictureMeasuresTrue(t *testing.T) {
	documents, err := samples.Documents()
	require.NoError(t, err)
	b := documents[0].Items[0].Build
	m := measure.PhotoMarks{
		Mode:   measure.ByCorners,
		Across: measure.Size{Typed: fmt.Sprint(scene.BoardLong)},
		Down:   measure.Size{Typed: fmt.Sprint(scene.BoardHigh)},
	}
	for i, c := range scene.Board(b) {
		m.Corners[i][0], m.Corners[i][1] = scene.See(c)
	}
	ends := scene.Edge(b)
	l := measure.PhotoLength{ID: "1", Name: "edge"}
	l.A[0], l.A[1] = scene.See(ends[0])
	l.B[0], l.B[1] = scene.See(ends[1])
	m.Lengths = []measure.PhotoLength{l}
	for _, p := range append(m.Corners[:], l.A, l.B) {
		assert.True(t, p[0] > 0 && p[0] < scene.Width && p[1] > 0 && p[1] < scene.Height, "%v lies outside", p)
	}
	a, err := measure.AskPhoto(m)
	require.NoError(t, err)
	assert.InEpsilon(t, b.Sizes.Length.MM, a.Readings[0].MM, 1e-9)
	t.Log("corners", m.Corners, "edge", l.A, l.B, a.Readings[0].Real)
}

func TestTheWinchIsASolid(t *testing.T) {
	s := scene.Winch().Measure()
	assert.True(t, s.Closed)
	// Rings of a regular polygon of 48 corners: flanges and drum less the bore.
	area := func(r float64) float64 { return 24 * r * r * math.Sin(2*math.Pi/48) }
	assert.InEpsilon(t, 28*area(210)+552*area(120)-580*area(104), s.Volume, 1e-6)
}
