package plan

import (
	"cinderpath/core/document"
)

// TouchLine is a mark of one's own on where a layer lands, as it is shown.
type TouchLine struct {
	Layer  string  `json:"layer"`
	What   string  `json:"what"`
	Radius float64 `json:"radiusMm"` // on the model
	Seen   []PinAt `json:"seen"`     // where its middle is seen in the views
}

// touchLines tells where the marks of all layers are seen.
func touchLines(b document.Build, s surface) []TouchLine {
	out := []TouchLine{}
	for _, l := range b.Layers {
		for _, t := range l.Touches {
			out = append(out, TouchLine{l.ID, t.What, t.Radius / float64(b.Scale), seenAt(s, b, t.Zone, t.At)})
		}
	}
	return out
}
