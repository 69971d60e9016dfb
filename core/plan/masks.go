package plan

import (
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
			"%d marks: pencil each on the edge, so many mm from the nearer corner, and spray from mark to mark.",
			marks,
		),
		"Letters are the colours on both sides, in spraying order.",
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
		Name: b.Name, Scale: b.Scale.String(), K: float64(b.Scale), Colours: b.Scheme.Colours, Tape: usualTape,
		Masked: make([]bool, len(b.Scheme.Colours)),
	}
	if len(b.Scheme.Colours) < 2 {
		return out, measure.Refuse("scheme", "one colour has no edges", "add a colour to the scheme first")
	}
	s, err := d.surface(b)
	if err != nil {
		return out, err
	}
	laid, err := d.scheme(b, s)
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
	for _, t := range w.Stock.Of(true, measure.Tape) {
		if mm := float64(t.Size); mm < out.Tape || out.Tape == usualTape && mm <= 3 {
			out.Tape = mm
			break
		}
	}
	out.Words = append(out.Words,
		"Cut fields on the line; where a field reaches the panel's rim cut 1 mm beyond it, and fold that over the edge.",
		"Ticks of one name meet where two panels share an edge. Cut away from your fingers.")
	narrow := 0
	out.Panels = slices.DeleteFunc(slices.Clone(out.Panels), func(m scheme.PanelMask) bool {
		if m.Narrow {
			narrow++
		}
		return m.Narrow || !slices.ContainsFunc(m.Pieces, func(p scheme.Piece) bool { return out.Masked[p.Colour] })
	})
	if narrow > 0 {
		out.Words = append(out.Words, fmt.Sprintf(
			"%d panels narrower than 8 mm are not on the sheet: strips of tape there, or the hand.", narrow))
	}
	if n, long := out.Runs(); n > 0 {
		out.Words = append(out.Words, fmt.Sprintf(
			"Tape plan: %d straight runs, %.0f cm of %.0f mm tape with 5 mm at each end; numbered on each panel, the longest first.",
			n,
			long/10,
			out.Tape,
		))
	}
	return out
}

// Runs counts the straight runs of tape and sums their length with 5 mm at each end, mm.
func (m MaskSheet) Runs() (n int, long float64) {
	for _, p := range m.Panels {
		for _, piece := range p.Pieces {
			for _, r := range piece.Runs {
				n++
				long += r.Length()/m.K + 10
			}
		}
	}
	return n, long
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
