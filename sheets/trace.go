package sheets

import (
	"bytes"
	"encoding/base64"
	"image"

	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/measure"
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
	data, err := base64.StdEncoding.DecodeString(q.Image)
	if err != nil {
		return plan.Traced{}, measure.Refuse("image", "it is not base64", "send the file's bytes in base64")
	}
	picture, err := ReadPhoto(data)
	if err != nil {
		return plan.Traced{}, err
	}
	img, _, err := image.Decode(bytes.NewReader(picture.Data))
	if err != nil {
		return plan.Traced{}, measure.Refuse("image", err.Error(), "save it again")
	}
	r := scheme.Reading{Side: q.Side, Picks: q.Picks, Far: q.Far}
	for _, p := range q.Pairs {
		r.Pairs = append(r.Pairs, scheme.Pair{Pixel: p.Pixel, At: p.At})
	}
	return d.Trace(w, b, img, r)
}
