package sheets

import (
	"image"
	"math"

	"cinderpath/core/document"
	"cinderpath/core/measure"
	"cinderpath/core/paint"
	"cinderpath/core/plan"
)

// SidesQuestion asks how a layer compares on both sides, by a photograph of each with the neutral card.
type SidesQuestion struct {
	Look  string          `json:"look"`
	Layer string          `json:"layer"`
	Left  SidePhoto       `json:"left"`
	Right SidePhoto       `json:"right"`
	Coats *document.Coats `json:"coats,omitempty"` // passes that were counted
}

// SidePhoto is a photograph of a side with the card in the plane of what is compared.
type SidePhoto struct {
	Image   string           `json:"image"`   // JPEG or PNG, base64
	Corners [4]measure.Pixel `json:"corners"` // of the card: upper left, upper right, lower right, lower left
	Patch   [2]measure.Pixel `json:"patch"`   // two opposite corners of what is compared
}

// mostCompared bounds how many pixels of a patch are read.
const mostCompared = 300_000

// AskSides answers it.
func AskSides(d *plan.Deriver, p plan.Plan, q SidesQuestion) (plan.SidesTold, error) {
	ask := plan.SidesQuestion{Look: q.Look, Layer: q.Layer, Steps: p.Steps}
	if q.Coats != nil {
		if err := document.Sensible(*q.Coats); err != nil {
			return plan.SidesTold{}, err
		}
		ask.Coats = [2]int{q.Coats.Left, q.Coats.Right}
	}
	for i, p := range []SidePhoto{q.Left, q.Right} {
		seen, err := p.seen()
		if err != nil {
			return plan.SidesTold{}, measure.At([]string{"left", "right"}[i], err)
		}
		ask.Seen[i] = seen
	}
	return d.Sides(ask)
}

// seen reads the photograph: the colour of the patch, evened by the card, and its pixels.
func (p SidePhoto) seen() (out plan.SideSeen, err error) {
	img, err := sent(p.Image)
	if err != nil {
		return out, err
	}
	plane, err := measure.NewPlane(p.Corners, 1, 1)
	if err != nil {
		return out, err
	}
	a, b := p.Patch[0], p.Patch[1]
	box := image.Rect(int(a[0]), int(a[1]), int(b[0]), int(b[1])).Canon().Intersect(img.Bounds())
	centre := measure.Pixel{float64(box.Min.X+box.Max.X) / 2, float64(box.Min.Y+box.Max.Y) / 2}
	at, ok := plane.On(centre)
	right, okRight := plane.On(measure.Pixel{centre[0] + 1, centre[1]})
	down, okDown := plane.On(measure.Pixel{centre[0], centre[1] + 1})
	if box.Empty() || !ok || !okRight || !okDown {
		return out, measure.Refuse("patch", "it is empty, or lies beyond the card's plane", "mark two opposite corners of it")
	}
	stride := 1
	for box.Dx()/stride*(box.Dy()/stride) > mostCompared {
		stride++
	}
	out.Patch.Pixel = cardWide * float64(stride) *
		math.Sqrt(math.Abs((right[0]-at[0])*(down[1]-at[1])-(right[1]-at[1])*(down[0]-at[0])))
	for y := box.Min.Y; y < box.Max.Y; y += stride {
		out.Patch.Wide = 0
		for x := box.Min.X; x < box.Max.X; x += stride {
			out.Patch.Light = append(out.Patch.Light, paint.Photographed(lightOf(img.At(x, y))))
			out.Patch.Wide++
		}
	}
	out.Colour, err = paint.Evened(
		fieldsOf(img, plane, p.Corners),
		at,
		mean(img, func(int, int) bool { return true }, box),
	)
	return out, err
}
