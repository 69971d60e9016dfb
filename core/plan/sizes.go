package plan

import (
	"strings"

	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/length"
	"cinderpath/core/measure"
	"cinderpath/core/zone"
)

// SizeLine is one dimension: real, on the model, and what the kit gives for it.
type SizeLine struct {
	Key      string             `json:"key"`
	Group    string             `json:"group"`
	Name     string             `json:"name"`
	Fixed    bool               `json:"fixed"` // an overall size: it cannot be renamed or dropped
	Typed    string             `json:"typed"`
	RealMM   float64            `json:"realMm"`
	RealPlus float64            `json:"realPlusMinusMm"`
	Real     string             `json:"real"`
	Imperial string             `json:"imperial"`
	Model    string             `json:"model"`
	ModelMM  float64            `json:"modelMm"`
	Along    string             `json:"along"`
	Seen     string             `json:"seen"`
	Source   string             `json:"source"`
	Kit      *measure.Deviation `json:"kit,omitempty"`
	Thick    *measure.Thick     `json:"thick,omitempty"`
	Decision *measure.Decision  `json:"decision,omitempty"`
	Drawn    *DrawnSize         `json:"drawn,omitempty"`
	Why      measure.Why        `json:"why"`
}

// DrawnSize is where a dimension is drawn on a view, model mm in the view's frame.
type DrawnSize struct {
	Side form.Side  `json:"side"`
	From [2]float64 `json:"from"`
	To   [2]float64 `json:"to"`
}

func sizeLines(b document.Build) []SizeLine {
	out := []SizeLine{}
	for i, d := range b.AllDimensions() {
		real := length.Real(d.Real.MM)
		model := b.Scale.ToModel(real)
		inputs := []string{
			"real " + real.String() + ", typed as “" + d.Real.Typed + "”",
			"N = " + strings.TrimPrefix(b.Scale.String(), "1:"),
		}
		if d.Source != "" {
			inputs = append(inputs, "source: "+d.Source)
		}
		l := SizeLine{
			Key:      d.ID,
			Group:    d.Group,
			Name:     d.Name,
			Fixed:    i < len(document.Overalls),
			Typed:    d.Real.Typed,
			RealMM:   d.Real.MM,
			RealPlus: d.RealPlus,
			Real:     real.String(),
			Imperial: real.Imperial(),
			Model:    model.String(),
			ModelMM:  float64(model),
			Along:    d.Along,
			Seen:     d.Seen,
			Source:   d.Source,
			Decision: d.Decision,
			Why:      measure.Why{Formula: "model = real / N", Inputs: inputs},
		}
		if d.Kit != nil {
			k := measure.Deviate(real, d.RealPlus, *d.Kit, b.Scale)
			l.Kit = &k
			if d.Along == measure.Thickness {
				t := measure.OverScale(real, length.Model(d.Kit.MM), b.Scale, d.Seen)
				l.Thick = &t
			}
		}
		out = append(out, l)
	}
	return out
}

// zonesOf are the zones that a group's dimensions are drawn at.
var zonesOf = map[string][]string{
	"hull": {"hull", "lower"}, "turret": {"turret", "cupola"}, "gun": {"gun"}, "running gear": {"gear"},
}

// drawn finds where a dimension is drawn: where it was placed, else along its part.
func drawn(d measure.Dimension, scale length.Scale, panels []*form.Panel) *DrawnSize {
	if d.At != nil {
		at := func(p [2]float64) [2]float64 {
			return [2]float64{float64(scale.ToModel(length.Real(p[0]))), float64(scale.ToModel(length.Real(p[1])))}
		}
		return &DrawnSize{form.Side(d.At.Side), at(d.At.From), at(d.At.To)}
	}
	if d.Along == "" || d.Along == measure.Thickness {
		return nil
	}
	low, high, ok := form.Extent(panels, func(name string) bool {
		return len(zonesOf[d.Group]) > 0 && zone.Among(name, zonesOf[d.Group])
	})
	if !ok {
		low, high, _ = form.Extent(panels, func(string) bool { return true })
	}
	size := d.Real.MM
	side, from, to := form.Left, form.Vec{high[0], 0, low[2]}, form.Vec{high[0] - size, 0, low[2]}
	switch d.Along {
	case measure.AlongWidth:
		middle := (low[1] + high[1]) / 2
		side, from, to = form.Front, form.Vec{0, middle - size/2, low[2]}, form.Vec{0, middle + size/2, low[2]}
	case measure.AlongHeight:
		from, to = form.Vec{low[0], 0, low[2]}, form.Vec{low[0], 0, low[2] + size}
	}
	f := form.NewFrame(side, panels, scale)
	return &DrawnSize{side, f.Flat(from), f.Flat(to)}
}
