package sheets

import (
	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/plan"
	"cinderpath/core/scheme"
)

// TraceQuestion asks what a picture of one side tells of a build's scheme.
type TraceQuestion struct {
	Image string        `json:"image"` // JPEG or PNG, base64
	Side  form.Side     `json:"side"`
	Pairs []TracePair   `json:"pairs"`
	Picks []scheme.Pick `json:"picks,omitempty"`
	Far   string        `json:"far,omitempty"`
}

// TracePair says that a place of the picture is a place of the view, model mm.
type TracePair struct {
	Pixel [2]float64 `json:"pixel"`
	At    [2]float64 `json:"at"`
}

// AskTrace answers it: the build's scheme with what the picture told.
func AskTrace(d *plan.Deriver, w document.Workshop, b document.Build, q TraceQuestion) (plan.Traced, error) {
	img, err := sent(q.Image)
	if err != nil {
		return plan.Traced{}, err
	}
	r := scheme.Reading{Side: q.Side, Picks: q.Picks, Far: q.Far}
	for _, p := range q.Pairs {
		r.Pairs = append(r.Pairs, scheme.Pair{Pixel: p.Pixel, At: p.At})
	}
	return d.Trace(w, b, img, r)
}
