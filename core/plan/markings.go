package plan

import (
	"cinderpath/core/document"
	"cinderpath/core/marking"
	"cinderpath/core/strata"
	"cinderpath/core/zone"
	"fmt"
)

// MarkingsRoom is what the markings of a build come to, in the order of its kit.
type MarkingsRoom struct {
	Shapes []marking.Shape `json:"shapes"`
	Lines  []MarkingLine   `json:"lines"`
	Fresh  marking.Drawing `json:"fresh"`            // to begin from
	Layer  string          `json:"layer,omitempty"`  // that puts them on
	Sealed string          `json:"sealed,omitempty"` // the layer that seals them
}

// MarkingLine is one of them.
type MarkingLine struct {
	ID      string         `json:"id"`
	Name    string         `json:"name"`
	Places  int            `json:"places"`         // that it stands in
	RealMM  float64        `json:"realMm"`         // how wide it is in life
	ModelMM float64        `json:"modelMm"`        // and on the model
	HighMM  float64        `json:"highMm"`         // and how high
	EdgeMM  float64        `json:"edgeMm"`         // how wide the line about it is in life; 0 for none
	Fine    string         `json:"fine,omitempty"` // its lines are finer than a hand cuts or paints them
	Figure  marking.Figure `json:"figure"`         // on the model, mm
	Under   []Under        `json:"under"`
	Lost    int            `json:"lost"` // places that lie on no face any more
	Worn    []string       `json:"worn"` // layers that wear it
}

// thinnest is the narrowest line that a hand cuts from a stencil or paints, mm on the model: a starting value.
const thinnest = 0.25

// tooFine says of a line of a marking that it is better taken as a decal.
func tooFine(line float64) string {
	if line == 0 || line >= thinnest {
		return ""
	}
	return fmt.Sprintf(
		"Its line is %.2f mm wide on the model, finer than a hand cuts a stencil or paints: take a decal.",
		line,
	)
}

// Under is what lies over a marking.
type Under struct {
	Words string  `json:"words"`
	Share float64 `json:"share,omitempty"` // of it that is hidden; 0 where only said to run beneath
}

// Markings answers what a build's markings come to.
func (d *Deriver) Markings(b document.Build, w document.Workshop) (MarkingsRoom, error) {
	b = w.Filled(b)
	s, err := d.surface(b)
	if err != nil {
		return MarkingsRoom{}, err
	}
	g, err := d.grid(b, s)
	if err != nil {
		return MarkingsRoom{}, err
	}
	out := MarkingsRoom{Shapes: marking.Shapes, Fresh: marking.Usual, Lines: []MarkingLine{}}
	laid := -1
	for i, l := range b.Layers {
		switch {
		case l.Kind == strata.Decals:
			laid, out.Layer = i, l.ID
		case laid >= 0 && out.Sealed == "" && l.Kind == strata.Clear:
			out.Sealed = l.Name
		}
	}
	for _, k := range b.Kit.Worn() {
		line := MarkingLine{
			ID:      k.ID,
			Name:    k.Name,
			Places:  len(k.Places),
			RealMM:  k.Wide(),
			ModelMM: k.Wide() / float64(b.Scale),
			Under:   []Under{},
			Worn:    []string{},
		}
		for _, p := range b.Kit.Above(k.ID) {
			line.Under = append(line.Under, Under{Words: p.Name})
		}
		if one, ok := k.Marking(); ok {
			line.Figure = one.Drawing.Figure(line.ModelMM)
			line.HighMM, line.EdgeMM, line.Fine = line.Figure.High, one.Drawing.EdgeMM, tooFine(line.Figure.Stroke)
			line.Lost = len(one.Lost(g))
			for _, h := range one.Over(g, s.panels) {
				line.Under = append(line.Under, Under{zone.Words(h.Zone), h.Share})
			}
		}
		for i, l := range b.Layers {
			if i > laid && laid >= 0 && l.Kind.About().Wears && l.Covers(k.Zone) {
				line.Worn = append(line.Worn, l.Name)
			}
		}
		out.Lines = append(out.Lines, line)
	}
	return out, nil
}
