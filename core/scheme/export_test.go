package scheme

import "cinderpath/core/form"

// Widths are the widths along the middle lines of a colour's fields on a panel.
func (l *Layout) Widths(panel, colour int) (out []float64) {
	t := l.grid.Texels[panel]
	for _, r := range l.middleLines(t, colour) {
		out = append(out, r.width)
	}
	return out
}

// Away is how far each texel of a panel lies from where a colour ends, in texels.
func (l *Layout) Away(panel, colour int) []float64 {
	return l.raster(l.grid.Texels[panel], colour).away()
}

// Discs are the spots on a panel: x, y, radius.
func (l *Layout) Discs(panel, colour int) (out [][3]float64) {
	for _, here := range l.laid[colour].field.(*spots).by[panel] {
		for _, d := range here {
			out = append(out, [3]float64{d.x, d.y, d.r})
		}
	}
	return out
}

// OnSheet asks the colour at a place of a mask.
func (l *Layout) OnSheet(panels []*form.Panel, m PanelMask, x, y float64) int {
	return l.sheet(panels, m.Net).at(x, y)
}

// Grid that it is laid on.
func (l *Layout) Grid() *form.Grid { return l.grid }

// PackSquares and Read are how a trace is kept.
func PackSquares(all []uint8, wide int) []string { return packSquares(all, wide) }

func (t Trace) Read() ([]uint8, error) { return t.squares() }
