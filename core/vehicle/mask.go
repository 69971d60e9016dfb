package vehicle

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/gear"
	"cinderpath/core/length"
	"cinderpath/core/measure"
)

// Mask is one size of disc that is cut of tape for wheels, model mm: it covers the hub
// while the rubber is painted, or as a ring the rubber while the hub is.
type Mask struct {
	Wheels string  `json:"wheels"` // which wheels it fits
	Count  int     `json:"count"`  // for both sides, spares not counted
	Hub    float64 `json:"hubMm"`  // radius of the disc, and the inner one of the ring
	Rim    float64 `json:"rimMm"`  // outer radius of the ring
}

// Strip is a length of tape with the discs cut of it. Discs lie in rows across the tape,
// square to each other; all of one size.
type Strip struct {
	Tape   float64      `json:"tapeMm"` // width
	Name   string       `json:"name"`
	Length float64      `json:"lengthMm"`
	Mask   int          `json:"mask"`  // index into the sheet's masks
	Discs  [][2]float64 `json:"discs"` // middles, along and across
	Radius float64      `json:"radiusMm"`
}

// MaskSheet is what wheel masks are cut from.
type MaskSheet struct {
	Name   string   `json:"name"`
	Scale  string   `json:"scale"`
	Masks  []Mask   `json:"masks"`
	Strips []Strip  `json:"strips"`
	Words  []string `json:"words"`
}

// between discs on a tape, model mm: what a blade needs.
const discGap = 0.8

// MasksOf packs the masks of a build's rubber-tyred wheels on the tapes that are owned,
// or on all that are made where none is.
func MasksOf(b document.Build, shelf measure.Shelf) (MaskSheet, error) {
	model := func(mm float64) float64 { return float64(b.Scale.ToModel(length.Real(mm))) }
	s := MaskSheet{Name: b.Name, Scale: b.Scale.String()}
	for _, w := range b.Wheels {
		if !w.Rubber() {
			continue
		}
		m := Mask{
			Wheels: map[gear.Kind]string{gear.Road: "road wheels", gear.Tyre: "wheels"}[w.Kind],
			Count:  2,
			Hub:    model(w.Radius * w.HubShare()),
			Rim:    model(w.Radius),
		}
		if i := slices.IndexFunc(
			s.Masks,
			func(o Mask) bool { return math.Abs(o.Hub-m.Hub) < 0.01 && math.Abs(o.Rim-m.Rim) < 0.01 },
		); i >= 0 {
			s.Masks[i].Count += 2
			continue
		}
		s.Masks = append(s.Masks, m)
	}
	if len(s.Masks) == 0 {
		return s, measure.Refuse("wheels", "no wheel has rubber to mask", "all are of steel: paint them in one go")
	}
	tapes := shelf.Of(true, measure.Tape)
	if len(tapes) == 0 {
		tapes = shelf.Of(false, measure.Tape)
		s.Words = append(s.Words, "No tape is ticked as owned: packed on the widths that are made.")
	}
	for i, m := range s.Masks {
		best, ok := packed(tapes, m)
		if !ok {
			if best, ok = packed(shelf.Of(false, measure.Tape), m); ok {
				s.Words = append(
					s.Words,
					fmt.Sprintf(
						"No tape you own takes discs of %.1f mm: packed on %s. Strips of a narrower one, laid side by "+
							"side on glass, do as well.",
						2*m.Hub,
						best.Name,
					),
				)
			}
		}
		if !ok {
			return s, measure.Refuse(
				"wheels",
				fmt.Sprintf("the discs of %.1f mm are wider than any tape", 2*m.Hub),
				"add a sheet of masking film to the stock by its width",
			)
		}
		best.Mask = i
		s.Strips = append(s.Strips, best)
		s.Words = append(
			s.Words,
			fmt.Sprintf(
				"%d %s: compass at %.2f mm for the disc (hub, half its diameter), %.2f mm for the ring's "+
					"outside. Measure one hub before you cut them all.",
				m.Count,
				m.Wheels,
				m.Hub,
				m.Rim,
			),
		)
	}
	s.Words = append(
		s.Words,
		"A narrow ring of hub may show beside the disc: it is left to the brush. Cut away from your fingers.",
	)
	return s, nil
}

// packed lays the discs of a mask on the tape that takes least of its area.
func packed(tapes []measure.Stocked, m Mask) (Strip, bool) {
	step := 2*m.Hub + discGap
	var all []Strip
	for _, t := range tapes {
		width := float64(t.Size)
		rows := int((width + discGap) / step)
		if rows < 1 {
			continue
		}
		s := Strip{Tape: width, Name: t.Name, Radius: m.Hub, Length: math.Ceil(float64(m.Count)/float64(rows)) * step}
		side := (width - (float64(rows)*step - discGap)) / 2
		for k := range m.Count {
			s.Discs = append(s.Discs, [2]float64{m.Hub + discGap/2 + float64(k/rows)*step, side + m.Hub + float64(k%rows)*step})
		}
		all = append(all, s)
	}
	if len(all) == 0 {
		return Strip{}, false
	}
	return slices.MinFunc(all, func(a, b Strip) int { return cmp.Compare(a.Tape*a.Length, b.Tape*b.Length) }), true
}

// SheetNames lists the sheets of a build that there is something on.
func SheetNames(b document.Build) []string {
	out := []string{"views"}
	if b.Outline.HasTrack() {
		out = append(out, "track-jig")
	}
	if slices.ContainsFunc(b.Wheels, gear.Wheel.Rubber) {
		out = append(out, "wheel-masks")
	}
	if len(b.Ground) > 0 && slices.ContainsFunc(b.Wheels, func(w gear.Wheel) bool { return w.Arm != nil }) {
		out = append(out, "arms")
	}
	if b.OnBase() {
		out = append(out, "base")
	}
	return out
}

// WheelsQuestion asks for masks of wheels, real mm.
type WheelsQuestion struct {
	Scale  string         `json:"scale"`
	Wheels []gear.Wheel   `json:"wheels"`
	Shelf  *measure.Shelf `json:"shelf,omitempty"`
}

// AskWheels packs the masks of wheels on tape.
func AskWheels(q WheelsQuestion) (MaskSheet, error) {
	scale, err := length.ParseScale(q.Scale)
	if err != nil {
		return MaskSheet{}, measure.At("scale", err)
	}
	b := document.Build{Scale: scale, Wheels: q.Wheels, Outline: form.Wheeled}
	if len(q.Wheels) > document.MostWheels {
		return MaskSheet{}, measure.Refuse(
			"wheels",
			"more than one side has",
			fmt.Sprintf("give at most %d", document.MostWheels),
		)
	}
	if err := document.Sensible(b); err != nil {
		return MaskSheet{}, err
	}
	b.Sizes.Width.MM = 1e6 // no hull stands beside these wheels
	if err := b.CheckGear(); err != nil {
		return MaskSheet{}, err
	}
	return MasksOf(b, shelfOr(q.Shelf))
}
