package plan

import (
	"math"

	"cinderpath/core/document"
	"cinderpath/core/scheme"
	"cinderpath/core/unit"
)

// SchemeAnswer is how a build's scheme lies: its colours' shares, and all that is told of it.
type SchemeAnswer struct {
	Colours []ColourLine            `json:"colours"`
	Zones   map[string][]unit.Share `json:"zones"` // of each colour
	Camouflage
}

// SchemeOf answers for a build of a workshop.
func (d *Deriver) SchemeOf(w document.Workshop, b document.Build) (SchemeAnswer, error) {
	c, err := d.CamouflageOf(w, b)
	if err != nil {
		return SchemeAnswer{}, err
	}
	s, err := d.shaped(w.Filled(b), w)
	return SchemeAnswer{s.plan.Colours, s.asked.Shares, c}, err
}

// MaskAnswer are the fields of a scheme on flat panels, mm on the model.
type MaskAnswer struct {
	Scale  string      `json:"scale"`
	Panels []MaskPanel `json:"panels"`
	Words  []string    `json:"words"`
}

// MaskPanel is one of them, in a frame of its own.
type MaskPanel struct {
	Zone    string        `json:"zone"`
	Name    string        `json:"name"`
	Outline []scheme.Ring `json:"outline"`
	Pieces  []MaskPiece   `json:"pieces"`
	Ticks   []MaskTick    `json:"ticks"`
}

// MaskPiece is one field: the outer ring first.
type MaskPiece struct {
	Colour int           `json:"colour"` // from 1
	Number int           `json:"number"`
	Of     int           `json:"of"`
	AreaMM float64       `json:"areaMm2"`
	Rings  []scheme.Ring `json:"rings"`
	Masked bool          `json:"masked"`
}

// MaskTick is a mark on an edge that two panels share.
type MaskTick struct {
	Name string     `json:"name"`
	At   [2]float64 `json:"at"`
}

// AskMasks answers for a build of a workshop.
func (d *Deriver) AskMasks(w document.Workshop, b document.Build) (MaskAnswer, error) {
	m, err := d.MasksOf(w, b)
	if err != nil {
		return MaskAnswer{}, err
	}
	out := MaskAnswer{Scale: m.Scale, Panels: []MaskPanel{}, Words: m.Words}
	onModel := func(all []scheme.Ring) []scheme.Ring {
		rings := make([]scheme.Ring, len(all))
		for i, r := range all {
			for _, q := range r {
				rings[i] = append(rings[i], m.onModel(q))
			}
		}
		return rings
	}
	for _, p := range m.Panels {
		q := MaskPanel{
			Zone: p.Zone, Name: p.Name, Outline: onModel(p.Outline), Pieces: []MaskPiece{}, Ticks: []MaskTick{},
		}
		for _, piece := range p.Pieces {
			q.Pieces = append(q.Pieces, MaskPiece{
				piece.Colour + 1, piece.Number, piece.Of, piece.Area / m.K / m.K, onModel(piece.Rings), m.Masked[piece.Colour],
			})
		}
		for _, t := range p.Ticks {
			if t.Name != "" {
				q.Ticks = append(q.Ticks, MaskTick{t.Name, m.onModel(t.At)})
			}
		}
		out.Panels = append(out.Panels, q)
	}
	return out, nil
}

// onModel rounds to a thousandth of a millimetre.
func (m MaskSheet) onModel(q [2]float64) [2]float64 {
	return [2]float64{math.Round(q[0]/m.K*1e3) / 1e3, math.Round(q[1]/m.K*1e3) / 1e3}
}

// TapeAnswer is the tape plan of a scheme with straight edges, mm on the model, the longest run of
// each panel first; tape and covered surface of all ways.
type TapeAnswer struct {
	TapeMM  float64   `json:"tapeWidthMm"`
	Runs    []TapeRun `json:"runs"`
	TotalCM float64   `json:"totalCm"` // of the runs, with what lies over at both ends
	TapeCM  float64   `json:"tapeCm"`  // of all edges that tape holds, curved ones too
	CoverCM float64   `json:"coverCm2"`
}

// AskTape answers for a build of a workshop.
func (d *Deriver) AskTape(w document.Workshop, b document.Build) (TapeAnswer, error) {
	m, err := d.MasksOf(w, b)
	if err != nil {
		return TapeAnswer{}, err
	}
	out := TapeAnswer{TapeMM: m.Tape, Runs: []TapeRun{}}
	for _, p := range m.Panels {
		for _, r := range m.Runs(p) {
			out.Runs = append(out.Runs, r)
			out.TotalCM += r.CutMM / 10
		}
	}
	b = w.Filled(b)
	s, err := d.shaped(b, w)
	if err != nil {
		return out, err
	}
	for _, h := range holds(b, w, s.told) {
		out.TapeCM += h.TapeCM
		out.CoverCM += h.CoverCM
	}
	return out, nil
}
