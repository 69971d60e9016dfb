package build

import (
	"cinderpath/core/length"
)

// LengthQuestion is a length as it was typed, asked at a scale.
type LengthQuestion struct {
	Text  string `json:"text"`
	Scale string `json:"scale"`
}

// LengthAnswer reads the length both ways: as a real size to be built, and as a
// size measured on the model.
type LengthAnswer struct {
	Scale       string   `json:"scale"`
	Real        string   `json:"real"`
	Imperial    string   `json:"imperial"`
	Model       string   `json:"model"`
	ModelMM     float64  `json:"modelMm"`
	FullOfModel string   `json:"fullOfModel"`
	Near        []string `json:"near"`
	Why         Why      `json:"why"`
}

// Ask answers a question about a length. A bare number is read as millimetres.
func Ask(q LengthQuestion) (LengthAnswer, error) {
	scale, err := length.ParseScale(q.Scale)
	if err != nil {
		return LengthAnswer{}, fault("scale", err)
	}
	r, err := length.ParseReal(q.Text, length.Millimetre)
	if err != nil {
		return LengthAnswer{}, fault("text", err)
	}
	m := scale.ToModel(r)
	near := NearestOf(m, scale)
	if near == nil {
		near = []string{}
	}
	return LengthAnswer{Scale: scale.String(), Real: r.String(), Imperial: r.Imperial(), Model: m.String(), ModelMM: float64(m),
		FullOfModel: scale.ToReal(length.Model(r)).String(), Near: near,
		Why: Why{"model = real / N", []string{"real " + r.String(), "N = " + scale.String()[2:]}}}, nil
}
