package plan

import (
	"time"

	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/kit"
	"cinderpath/core/length"
	"cinderpath/core/measure"
	"cinderpath/core/strata"
	"cinderpath/core/unit"
	"cinderpath/core/vehicle"
)

// Sheet is the room the five views take, model mm.
type Sheet struct {
	Width  float64 `json:"width"`
	Height float64 `json:"height"`
}

// ZoneLine is one zone with its area on the model.
type ZoneLine struct {
	Zone   string       `json:"zone"`
	Part   string       `json:"part"` // that it belongs to
	AreaCM float64      `json:"areaCm2"`
	Shares []unit.Share `json:"shares"` // of each colour

	Upright float64 `json:"uprightCm2,omitempty"` // of it, within 20° of upright
	Sloped  float64 `json:"slopedCm2,omitempty"`
	Flat    float64 `json:"flatCm2,omitempty"` // within 20° of level

	Why measure.Why `json:"why"`
}

// ColourLine is one colour of the scheme with what it takes.
type ColourLine struct {
	Name   string     `json:"name"`
	Hex    string     `json:"hex"`
	Wanted unit.Share `json:"wanted"`
	Share  unit.Share `json:"share"`
	AreaCM float64    `json:"areaCm2"`
}

// Plan is what follows from a build at an instant.
type Plan struct {
	Build   string    `json:"build"`
	Name    string    `json:"name"`
	Scale   string    `json:"scale"`
	AsOf    time.Time `json:"asOf"`
	Trouble *Trouble  `json:"trouble,omitempty"` // why nothing follows from it
	// Provisional tells that the schedule was mended or found at once and a better one is being looked for
	Provisional bool               `json:"provisional,omitempty"`
	Stand       Stand              `json:"stand"`
	Sizes       []SizeLine         `json:"sizes"`
	Kit         *measure.KitReport `json:"kit,omitempty"`
	Cables      []CableLine        `json:"cables"`
	Gear        *vehicle.GearLine  `json:"gear,omitempty"`
	Views       []form.View        `json:"views"`
	Drawing     string             `json:"drawing"` // names what is drawn of the vehicle: Deriver.Drawing
	Bare        string             `json:"bare"`    // names what is seen before the first step
	Sheet       Sheet              `json:"sheet"`
	Sheets      []string           `json:"sheets"` // those that there is something on
	Zones       []ZoneLine         `json:"zones"`
	Places      map[string]string  `json:"places"` // zones and parts as people say them
	Pieces      map[string]string  `json:"pieces"` // of the body, by id, as people say them
	Colours     []ColourLine       `json:"colours"`
	Argued      []strata.Argued    `json:"argued"`  // how the amounts of the layers came about
	Doubts      []string           `json:"doubts"`  // what of the vehicle's life does not go together
	Touched     []TouchLine        `json:"touched"` // marks of one's own on where layers land
	Findings    []strata.Finding   `json:"findings"`
	Steps       []Step             `json:"steps"`
	Pots        []PotLine          `json:"pots"` // what each layer is laid from, or could be

	Temporary string `json:"temporary,omitempty"` // the layer of a temporary paint

	Advice    []kit.Advice `json:"advice"`   // which parts stay off, and why
	Reworked  []ReworkLine `json:"reworked"` // changes of the modeller's own to the order
	Poses     []kit.Hint   `json:"poses"`    // what of the kit wants a decision
	Jobs      []kit.Job    `json:"jobs"`     // holes and marks of the version
	Conflicts []string     `json:"conflicts"`
	Timers    []Timer      `json:"timers"`
	Ends      time.Time    `json:"ends,omitzero"`
	Bound     time.Time    `json:"bound,omitzero"` // no plan of this build alone ends before
}

// Last names what is seen after the last step.
func (p Plan) Last() string {
	if len(p.Steps) == 0 {
		return p.Bare
	}
	return p.Steps[len(p.Steps)-1].Look
}

// addDimensions draws the overall sizes beside the views they are seen in.
func addDimensions(views []form.View, b document.Build, panels []*form.Panel) {
	half, wide := b.Sizes.Length.MM/2, b.Sizes.Width.MM/2
	_, high, _ := form.Extent(panels, func(string) bool { return true })
	for i := range views {
		v := &views[i]
		f := form.NewFrame(v.Side, panels, b.Scale)
		label := func(name string, s document.Overall, from, to form.Vec) {
			real := length.Real(s.MM)
			d := form.Dimension{
				Name:  name,
				From:  f.Flat(from),
				To:    f.Flat(to),
				Real:  real.String(),
				Model: b.Scale.ToModel(real).String(),
			}
			if from[2] == to[2] {
				d.From[1], d.To[1] = v.Height, v.Height
			} else {
				d.From[0], d.To[0] = v.Width, v.Width
			}
			v.Dimensions = append(v.Dimensions, d)
		}
		switch v.Side {
		case form.Left:
			label("Hull length", b.Sizes.Length, form.Vec{half, 0, 0}, form.Vec{-half, 0, 0})
			label("Height", b.Sizes.Height, form.Vec{-high[0], 0, b.Sizes.Height.MM}, form.Vec{-high[0], 0, 0})
		case form.Front:
			label("Width", b.Sizes.Width, form.Vec{0, -wide, 0}, form.Vec{0, wide, 0})
		}
	}
}
