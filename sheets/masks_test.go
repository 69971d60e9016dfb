package sheets_test

import (
	"bytes"
	"math"
	"testing"

	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/kit"
	"cinderpath/core/marking"
	"cinderpath/core/plan"
	"cinderpath/core/vehicle"
	"cinderpath/samples"
	"cinderpath/sheets"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// box is how wide and high what is drawn is, mm.
func box(s stroke) (wide, high float64) {
	low, top := [2]float64{math.Inf(1), math.Inf(1)}, [2]float64{math.Inf(-1), math.Inf(-1)}
	for _, p := range s.points {
		for k, v := range p {
			low[k], top[k] = min(low[k], v), max(top[k], v)
		}
	}
	return top[0] - low[0], top[1] - low[1]
}

// A mask sheet measured with a ruler is right: in the drawing commands of the PDF each panel that is
// masked is as wide and as high as the vehicle's plate at the model's scale, told by the body and not by
// the sheet; no piece is larger than its panel; every page has its check bar.
func TestMasksAreTrueToSizeOnPaper(t *testing.T) {
	documents, err := samples.Documents()
	require.NoError(t, err)
	d, b := documents[0], varrow(t)
	panels, err := vehicle.Panels(b)
	require.NoError(t, err)
	m, err := new(plan.Deriver).MasksOf(d.Workshop, b)
	require.NoError(t, err)
	require.NotEmpty(t, m.Panels)
	var out bytes.Buffer
	require.NoError(t, sheets.Masks(m, sheets.MaskStyle{}).WritePDF(&out, sheets.A4))
	pages := strokes(t, out.Bytes())
	require.NotEmpty(t, pages)
	var drawn [][2]float64
	for i, page := range pages {
		assert.True(t, has(spans(page), sheets.Bar), "page %d: no bar of 50.00 ± 0.05 mm", i+1)
		for _, s := range page {
			if len(s.points) > 2 {
				w, h := box(s)
				drawn = append(drawn, [2]float64{w, h})
			}
		}
	}
	checked := 0
	for _, p := range m.Panels {
		panel := panels[p.Net.Members[0].Panel]
		if len(p.Net.Members) > 1 || len(panel.Pieces) > 1 || len(p.Outline) != 1 {
			continue // its outline is more than one line, or it is unrolled
		}
		wide, high := sizeOf(panel, float64(b.Scale))
		found := false
		for _, at := range drawn {
			found = found || math.Abs(at[0]-wide) < 0.05 && math.Abs(at[1]-high) < 0.05
		}
		assert.True(t, found, "%s: no outline of %.2f × %.2f mm", p.Name, wide, high)
		checked++
	}
	assert.Greater(t, checked, 5)
}

// sizeOf is how wide and high a panel is in its flat frame at a scale, mm.
func sizeOf(p *form.Panel, scale float64) (wide, high float64) {
	x0, y0, x1, y1 := p.FlatBox()
	return (x1 - x0) / scale, (y1 - y0) / scale
}

// A sign on the sheet of markings has the size that it has on the model, in print too.
func TestMarkingsArePrintedAtTheirSize(t *testing.T) {
	b := varrow(t)
	b.Kit.Decals = []kit.Decal{{
		ID: "d", Name: "column sign", Zone: "hull.left", SizeMM: 420,
		Drawn:  &marking.Drawing{Shape: marking.Square, Hex: "#ffffff"},
		Places: []marking.Place{{Zone: "hull.left", At: form.Vec{0, 1300, 1300}}},
	}}
	all, err := new(plan.Deriver).Markings(b, document.Workshop{})
	require.NoError(t, err)
	var pdf bytes.Buffer
	require.NoError(t, sheets.Markings(b.Name, b.Scale.String(), all).WritePDF(&pdf, sheets.A4))
	found := false
	for _, page := range strokes(t, pdf.Bytes()) {
		for _, s := range page {
			wide, high := box(s)
			found = found || math.Abs(wide-12) < 0.02 && math.Abs(high-12) < 0.02
		}
	}
	assert.True(t, found, "no square of 420 mm at 1:35, 12.00 mm")
	assert.Contains(t, svg(t, sheets.Markings(b.Name, "1:35", all)), "column sign, 12.0 mm")
}
