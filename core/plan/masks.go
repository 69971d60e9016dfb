package plan

import (
	"cmp"
	"fmt"
	"slices"

	"cinderpath/core/document"
	"cinderpath/core/measure"
	"cinderpath/core/scheme"
)

// MaskSheet is what the masks of a scheme are cut from.
type MaskSheet struct {
	Name    string
	Scale   string
	K       float64 // real mm to one of the model
	Colours []scheme.Colour
	Masked  []bool // by colour: its edges are masked somewhere
	Panels  []scheme.PanelMask
	Tape    float64 // of tape that is owned, or usual, mm wide
	Words   []string
}

// MaskAllowance is how far beyond the rim of its panel a mask is cut, mm.
const MaskAllowance = 1.0

// usualTape is how wide tape is where none is owned, mm.
const usualTape = 2.0

// CrossingsOf tells where the edges that are sprayed freehand run over the edges of panels: marks to
// pencil on, without drawing whole lines that show.
func (d *Deriver) CrossingsOf(w document.Workshop, b document.Build) (MaskSheet, error) {
	out, err := d.sheetOf(w, b)
	if err != nil {
		return out, err
	}
	masked := out.Masked
	out.Panels = slices.Clone(out.Panels)
	marks := 0
	for i := range out.Panels {
		p := &out.Panels[i]
		p.Crossed = slices.DeleteFunc(slices.Clone(p.Crossed), func(c scheme.Crossing) bool { return masked[c.Above] })
		marks += len(p.Crossed)
	}
	out.Panels = slices.DeleteFunc(out.Panels, func(p scheme.PanelMask) bool { return len(p.Crossed) == 0 || p.Narrow })
	out.Words = []string{
		fmt.Sprintf(
			"%d marks: pencil each on the edge, so many mm from the corner that it names, and spray from mark to mark.",
			marks,
		),
		"Small letters are the colours on both sides, in spraying order. A round foot is told from its top.",
	}
	return out, nil
}

// MasksOf cuts the masks of a build's scheme: of all colours whose edges are masked somewhere, or of
// all where none is.
func (d *Deriver) MasksOf(w document.Workshop, b document.Build) (MaskSheet, error) {
	out, err := d.sheetOf(w, b)
	if err != nil {
		return out, err
	}
	return out.masked(w), nil
}

// sheetOf is what sheets of panels are drawn from.
func (d *Deriver) sheetOf(w document.Workshop, b document.Build) (MaskSheet, error) {
	b = w.Filled(b)
	out := MaskSheet{
		Name: b.Name, Scale: b.Scale.String(), K: float64(b.Scale), Colours: b.Scheme.Colours,
		Masked: make([]bool, len(b.Scheme.Colours)),
	}
	if len(b.Scheme.Colours) < 2 {
		return out, measure.Refuse("scheme", "one colour has no edges", "add a colour to the scheme first")
	}
	s, laid, err := d.wearing(b)
	if err != nil {
		return out, err
	}
	shape, err := d.shaped(b, w)
	if err != nil {
		return out, err
	}
	if out.Panels, err = stage(d, "masks", laid.key, func() ([]scheme.PanelMask, error) {
		return laid.Masks(s.panels, float64(b.Scale))
	}); err != nil {
		return out, err
	}
	for _, h := range holds(b, w, shape.told) {
		if h.Way.Masked() {
			out.Masked[h.Colour-1] = true
		}
	}
	return out, nil
}

// masked leaves what has masks on the sheet, and says what is to be known of them.
func (out MaskSheet) masked(w document.Workshop) MaskSheet {
	out.Masked = slices.Clone(out.Masked)
	if !slices.Contains(out.Masked, true) {
		for c := 1; c < len(out.Masked); c++ {
			out.Masked[c] = true
		}
		out.Words = append(
			out.Words,
			"All edges are sprayed freehand: these outlines are for the eye, or for loose paper masks.",
		)
	}
	out.Tape = narrowestTape(w)
	out.Words = append(out.Words,
		fmt.Sprintf("Cut fields on the line; where a field reaches the panel's rim cut on the dashed one, %g mm beyond it,",
			MaskAllowance),
		"and fold that over the edge.",
		"Ticks of one name meet: 3.7a is where number 3 and number 7 share an edge. Other words beside a tick name what",
		"is there without a mask. Cut away from your fingers.")
	narrow := 0
	out.Panels = scheme.Kept(out.Panels, func(m scheme.PanelMask) bool {
		if m.Narrow {
			narrow++
		}
		return !m.Narrow && slices.ContainsFunc(m.Pieces, func(p scheme.Piece) bool { return out.Masked[p.Colour] })
	})
	if narrow > 0 {
		out.Words = append(out.Words, fmt.Sprintf(
			"%d panels narrower than 8 mm are not on the sheet: strips of tape there, or the hand.", narrow))
	}
	n, long := 0, 0.0
	for _, p := range out.Panels {
		for _, r := range out.Runs(p) {
			n++
			long += r.CutMM / 10
		}
	}
	if n > 0 {
		out.Words = append(out.Words, fmt.Sprintf(
			"Tape plan: %d straight runs, %.0f cm of %g mm tape with %g mm at each end; "+
				"numbered on each panel, the longest first.",
			n, long, out.Tape, scheme.Overlap,
		))
	}
	return out
}

// narrowestTape that a workshop owns, mm: it follows corners best.
func narrowestTape(w document.Workshop) float64 {
	owned := w.Stock.Of(true, measure.Tape)
	if len(owned) == 0 {
		return usualTape
	}
	return float64(slices.MinFunc(owned, func(a, b measure.Stocked) int { return cmp.Compare(a.Size, b.Size) }).Size)
}

// TapeRun is a straight run of tape, mm on the model.
type TapeRun struct {
	Panel  string  `json:"panel"`
	Colour int     `json:"colour"` // from 1
	Number int     `json:"number"` // on its panel, the longest is 1
	LongMM float64 `json:"lengthMm"`
	CutMM  float64 `json:"cutMm"` // with what lies over at both ends

	Middle [2]float64 `json:"-"` // in the panel's flat frame, real mm
}

// Runs are the straight runs along the masked fields of a panel, the longest first.
func (m MaskSheet) Runs(p scheme.PanelMask) (out []TapeRun) {
	for _, piece := range p.Pieces {
		if !m.Masked[piece.Colour] {
			continue
		}
		for _, r := range piece.Runs {
			long := r.Length() / m.K
			out = append(out, TapeRun{
				Panel: p.Name, Colour: piece.Colour + 1, LongMM: long, CutMM: long + 2*scheme.Overlap,
				Middle: [2]float64{(r.A[0] + r.B[0]) / 2, (r.A[1] + r.B[1]) / 2},
			})
		}
	}
	slices.SortStableFunc(out, func(a, b TapeRun) int { return cmp.Compare(b.LongMM, a.LongMM) })
	for i := range out {
		out[i].Number = i + 1
	}
	return out
}

// Guide is what a painting guide of one's own says beside its pictures.
type Guide struct {
	Name, Scale string
	Look        string // the last step of the scheme
	Lines       []GuideLine
}

// GuideLine is one colour of it.
type GuideLine struct {
	Hex   string
	Words string
}

// GuideOf tells of a plan's scheme: colours, what they are mixed of, shares, how they are laid.
func GuideOf(w document.Workshop, b document.Build, p Plan) Guide {
	b = w.Filled(b)
	out := Guide{Name: p.Name, Scale: p.Scale, Look: p.Bare}
	for _, s := range p.Steps {
		for _, l := range b.Layers {
			if l.ID == s.Layer && l.IsScheme() {
				out.Look = s.Look
			}
		}
	}
	for i, c := range b.Scheme.Colours {
		words := fmt.Sprintf("%d  %s, %.0f %%", i+1, c.Name, p.Colours[i].Share.Of(100))
		if i > 0 {
			set := b.Scheme.Set(i)
			f, _ := scheme.FamilyOf(set.Family)
			edge := "hard edges"
			if *set.Feather > 0 {
				edge = fmt.Sprintf("soft edges of %.1f mm", *set.Feather/float64(b.Scale))
			}
			words += ", " + f.Name
			if set.Width > 0 {
				words += fmt.Sprintf(" about %.0f mm wide", set.Width/float64(b.Scale))
			}
			words += ", " + edge
		}
		out.Lines = append(out.Lines, GuideLine{c.Hex, words + ": " + made(w, c)})
	}
	return out
}

// made says what a colour is sprayed from.
func made(w document.Workshop, c scheme.Colour) string {
	m, ok := w.Paint.Mix(c.Jar)
	if !ok {
		if c.Pot.ID != "" {
			return c.Pot.Name
		}
		return c.Hex + ", no jar is named"
	}
	words := m.Name + " ("
	for i, p := range m.Parts {
		name := "a jar that is gone"
		if j, ok := w.Paint.Jar(p.Jar); ok {
			name = j.Said()
		}
		if i > 0 {
			words += " + "
		}
		words += fmt.Sprintf("%d × %s", p.Drops, name)
	}
	return words + ")"
}
