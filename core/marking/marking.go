package marking

import (
	"fmt"
	"slices"
	"strings"

	"cinderpath/core/colour"
	"cinderpath/core/form"
	"cinderpath/core/measure"
	"cinderpath/core/zone"
)

// Shape says what a marking looks like.
type Shape string

// The shapes.
const (
	Text     Shape = "text"
	Disc     Shape = "disc"
	Ring     Shape = "ring"
	Square   Shape = "square"
	Triangle Shape = "triangle"
	Diamond  Shape = "diamond"
	Bar      Shape = "bar"
	Chevron  Shape = "chevron"
	Anchor   Shape = "anchor"
	Pennant  Shape = "pennant"
)

// Shapes lists them.
var Shapes = []Shape{Text, Disc, Ring, Square, Triangle, Diamond, Bar, Chevron, Anchor, Pennant}

// Drawing is what a marking looks like.
type Drawing struct {
	Shape  Shape   `json:"shape"`
	Text   string  `json:"text,omitempty"`
	Hex    string  `json:"hex"`
	Edge   string  `json:"edge,omitempty"`   // colour of a line about it
	EdgeMM float64 `json:"edgeMm,omitempty"` // how wide that line is, real mm
}

// Usual is a marking to begin from: a white number.
var Usual = Drawing{Shape: Text, Text: "1", Hex: "#e9e7df"}

// Place is where a marking stands: its middle on the surface, real mm, turned to the left by degrees.
// Upright it reads along the ground; on a flat its head points forward.
type Place struct {
	Zone string   `json:"zone"`
	At   form.Vec `json:"at"`
	Turn float64  `json:"turnDeg,omitempty"`
}

// Mirrored is the place on the other side of the vehicle.
func (p Place) Mirrored() Place {
	p.Zone, p.Turn = zone.Mirrored(p.Zone), -p.Turn
	p.At[1] = -p.At[1]
	return p
}

// Bounds of markings.
const (
	MostText   = 12
	MostPlaces = 24
	MostEdge   = 200.0 // real mm
)

// Check reports what is wrong with a drawing.
func (d Drawing) Check() error {
	_, unsound := colour.Parse(d.Hex)
	_, unedged := colour.Parse(d.Edge)
	switch missing, ok := written(d.Text); {
	case !slices.Contains(Shapes, d.Shape):
		return measure.Refuse("shape", fmt.Sprintf("%q is no shape of a marking", d.Shape), "use "+shapeNames())
	case d.Shape == Text && strings.TrimSpace(d.Text) == "":
		return measure.Refuse("text", "it says nothing", "type the number or the letters")
	case len(d.Text) > MostText:
		return measure.Refuse("text", fmt.Sprintf("%d letters", len(d.Text)), fmt.Sprintf("use at most %d", MostText))
	case !ok:
		return measure.Refuse(
			"text",
			fmt.Sprintf("there is no letter %q", missing),
			"use A to Z, 0 to 9, point, dash and slash",
		)
	case unsound != nil:
		return measure.Refuse("hex", fmt.Sprintf("%q is no colour", d.Hex), "give six figures after #, such as that of white")
	case d.Edge != "" && unedged != nil:
		return measure.Refuse("edge", fmt.Sprintf("%q is no colour", d.Edge), "give six figures after #, or leave it out")
	case !(d.EdgeMM >= 0 && d.EdgeMM <= MostEdge):
		return measure.Refuse("edgeMm", fmt.Sprintf("%g mm", d.EdgeMM), fmt.Sprintf("give 0 to %g mm real", MostEdge))
	}
	return nil
}

// Check reports what is wrong with a place.
func (p Place) Check() error {
	if !zone.Valid(p.Zone) {
		return measure.Refuse("zone", fmt.Sprintf("%q is no zone", p.Zone), "click on the vehicle where it stands")
	}
	if !(p.Turn >= -360 && p.Turn <= 360) {
		return measure.Refuse("turnDeg", fmt.Sprintf("%g degrees", p.Turn), "give -360 to 360")
	}
	return nil
}

func shapeNames() string {
	out := make([]string, len(Shapes))
	for i, s := range Shapes {
		out[i] = string(s)
	}
	return strings.Join(out, ", ")
}
