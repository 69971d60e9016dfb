package vehicle

import (
	"fmt"
	"slices"
	"strings"

	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/gear"
	"cinderpath/core/length"
	"cinderpath/core/measure"
	"cinderpath/core/strata"
)

// FormQuestion asks about a body and its running gear, real mm.
type FormQuestion struct {
	Scale   string       `json:"scale"`
	Outline form.Kind    `json:"outline"`
	Width   float64      `json:"width"` // over all: it tells where the wheels' faces lie
	Body    form.Body    `json:"body"`
	Wheels  []gear.Wheel `json:"wheels,omitempty"`
	Link    gear.Link    `json:"link,omitzero"`
	Ground  gear.Terrain `json:"ground,omitempty"`
	MudMM   float64      `json:"mudMm,omitempty"` // on the running gear, model mm
}

// FormAnswer tells the surfaces of a vehicle.
type FormAnswer struct {
	Zones     []FormZone  `json:"zones"`
	AreaCM    float64     `json:"areaCm2"`   // of the model
	VolumeCM  float64     `json:"volumeCm3"` // of the body's parts, without wheels and tracks
	Parts     int         `json:"parts"`
	Closed    bool        `json:"closed"` // every part is a closed mesh
	Triangles int         `json:"triangles"`
	Why       measure.Why `json:"why"`
}

// FormZone is a zone with its area on the model.
type FormZone struct {
	Zone    string  `json:"zone"`
	AreaCM  float64 `json:"areaCm2"`
	Upright float64 `json:"uprightCm2"`
	Sloped  float64 `json:"slopedCm2"`
	Flat    float64 `json:"flatCm2"`
}

func (q FormQuestion) build() (document.Build, error) {
	scale, err := length.ParseScale(q.Scale)
	if err != nil {
		return document.Build{}, measure.At("scale", err)
	}
	b := document.Build{Scale: scale, Outline: q.Outline, Body: q.Body, Wheels: q.Wheels, Link: q.Link, Ground: q.Ground}
	b.Sizes.Width.MM = q.Width
	switch {
	case !slices.Contains(form.Kinds, q.Outline):
		return b, measure.Refuse("outline", fmt.Sprintf("%q is not known", q.Outline), "use "+form.KindNames())
	case !(q.Width > 0 && q.Width <= length.Longest):
		return b, measure.Refuse(
			"width",
			"it must lie above zero and below one kilometre",
			"give the vehicle's width over all in mm",
		)
	case !(q.MudMM >= 0 && q.MudMM <= 20):
		return b, measure.Refuse("mudMm", "a film lies between 0 and 20 mm on the model", "give its depth in mm")
	case len(b.Wheels) > document.MostWheels:
		return b, measure.Refuse(
			"wheels",
			"more than one side has",
			fmt.Sprintf("give at most %d", document.MostWheels),
		)
	}
	if err := document.Sensible(b); err != nil {
		return b, err
	}
	if err := b.Body.Check(); err != nil {
		return b, measure.At("body", err)
	}
	b.Layers = []strata.Layer{{Kind: strata.Mud, DepthMM: q.MudMM}}
	if len(b.Wheels) == 0 {
		return b, nil
	}
	return b, b.CheckGear()
}

// AskForm measures the surfaces of a vehicle.
func AskForm(q FormQuestion) (FormAnswer, error) {
	b, err := q.build()
	if err != nil {
		return FormAnswer{}, err
	}
	run := form.Running{}
	if len(b.Wheels) > 0 {
		if run, _, err = Stand(b); err != nil {
			return FormAnswer{}, measure.At("wheels", err)
		}
	}
	panels, err := form.Panels(b.Body, run)
	if err != nil {
		return FormAnswer{}, measure.At("body", err)
	}
	parts, err := form.Meshes(b.Body, run)
	if err != nil {
		return FormAnswer{}, measure.At("body", err)
	}
	n := float64(b.Scale)
	a := FormAnswer{
		Zones:  []FormZone{},
		Parts:  len(parts),
		Closed: true,
		Why: measure.Because(
			"model area = real area / N², what lies inside or against another part left out",
			[]string{
				"N = " + strings.TrimPrefix(b.Scale.String(), "1:"),
				"volume: the parts' signed volumes; where parts run into one another it counts twice",
			},
		),
	}
	for _, p := range parts {
		s := p.Mesh.Measure()
		a.Closed = a.Closed && s.Closed
		a.Triangles += s.Triangles
	}
	volume, err := form.Volume(b.Body)
	if err != nil {
		return a, measure.At("body", err)
	}
	a.VolumeCM = volume / (n * n * n) / 1000
	at := map[string]int{}
	for _, p := range panels {
		i, known := at[p.Zone]
		if !known {
			i = len(a.Zones)
			at[p.Zone] = i
			a.Zones = append(a.Zones, FormZone{Zone: p.Zone})
		}
		area := p.Area() / (n * n) / 100
		z := &a.Zones[i]
		z.AreaCM += area
		a.AreaCM += area
		switch p.Facing() {
		case "upright":
			z.Upright += area
		case "sloped":
			z.Sloped += area
		default:
			z.Flat += area
		}
	}
	return a, nil
}

// AskClearance tells the room that wheels and track have.
func AskClearance(q FormQuestion) ([]RunLine, error) {
	b, err := q.build()
	if err != nil {
		return nil, err
	}
	if len(b.Wheels) == 0 {
		return nil, measure.Refuse("wheels", "no wheel is given", "give the running gear")
	}
	_, lies, err := Stand(b)
	if err != nil {
		return nil, measure.At("wheels", err)
	}
	return GearOf(b, lies, measure.Shelf{}).Clearance, nil
}
