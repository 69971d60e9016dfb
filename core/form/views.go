package form

import (
	"encoding/json"
	"math"
	"strconv"

	"cinderpath/core/length"
)

// Side names a view.
type Side string

// The five views. They are laid out so that neighbouring faces meet: the top lies
// above the left side, the front and the rear beside it.
const (
	Left  Side = "left"
	Right Side = "right"
	Top   Side = "top"
	Front Side = "front"
	Rear  Side = "rear"
)

// Sides lists the views in drawing order.
var Sides = []Side{Left, Top, Front, Rear, Right}

// Ring is a closed outline in a view, in model mm, x to the right and y down.
type Ring [][2]float64

// MarshalJSON writes x, y, x, y … in hundredths of a millimetre, finer than any pen.
func (r Ring) MarshalJSON() ([]byte, error) {
	out := append(make([]byte, 0, 14*len(r)+2), '[')
	for i, p := range r {
		for k, v := range p {
			if i+k > 0 {
				out = append(out, ',')
			}
			out = strconv.AppendFloat(out, math.Round(v*100)/100+0, 'f', -1, 64)
		}
	}
	return append(out, ']'), nil
}

// UnmarshalJSON reads what MarshalJSON wrote.
func (r *Ring) UnmarshalJSON(data []byte) error {
	var flat []float64
	if err := json.Unmarshal(data, &flat); err != nil {
		return err
	}
	*r = make(Ring, len(flat)/2)
	for i := range *r {
		(*r)[i] = [2]float64{flat[2*i], flat[2*i+1]}
	}
	return nil
}

// Dimension is a measured distance drawn beside a view.
type Dimension struct {
	Name  string     `json:"name"`
	From  [2]float64 `json:"from"`
	To    [2]float64 `json:"to"`
	Real  string     `json:"real"`
	Model string     `json:"model"`
}

// View is where one side is drawn at model size, its top left corner at (0, 0).
type View struct {
	Side       Side        `json:"side"`
	X          float64     `json:"x"` // place on the sheet, model mm
	Y          float64     `json:"y"`
	Width      float64     `json:"width"`
	Height     float64     `json:"height"`
	Origin     [2]float64  `json:"origin"` // where the vehicle's origin lies in the view, model mm
	Dimensions []Dimension `json:"dimensions,omitempty"`
}

// axes gives a view's right, down and toward-the-viewer directions.
func (s Side) axes() (right, down, toward Vec) {
	switch s {
	case Top:
		return Vec{-1, 0, 0}, Vec{0, 1, 0}, Vec{0, 0, 1}
	case Front:
		return Vec{0, 1, 0}, Vec{0, 0, -1}, Vec{1, 0, 0}
	case Rear:
		return Vec{0, -1, 0}, Vec{0, 0, -1}, Vec{-1, 0, 0}
	case Right:
		return Vec{1, 0, 0}, Vec{0, 0, -1}, Vec{0, -1, 0}
	default: // Left
		return Vec{-1, 0, 0}, Vec{0, 0, -1}, Vec{0, 1, 0}
	}
}

// Axes are the directions of a view in space: to its right, down, and toward the viewer.
func (s Side) Axes() (right, down, toward Vec) { return s.axes() }

// Right is the direction that runs to the right in a view.
func (s Side) Right() Vec {
	right, _, _ := s.axes()
	return right
}

// gap is the room between views and around them, model mm, as a share of the longest side.
const gap = 0.06

// Views places all five sides on a sheet.
func Views(panels []*Panel, scale length.Scale) []View {
	low, high, _ := Extent(panels, everything)
	size := high.Sub(low)
	views := make([]View, len(Sides))
	for i, side := range Sides {
		f := newFrame(side, low, high, scale)
		extent := func(axis Vec) float64 { return math.Abs(size.Dot(axis)) / float64(scale) }
		views[i] = View{Side: side, Width: extent(f.right), Height: extent(f.down), Origin: f.Flat(Vec{})}
	}
	arrange(views)
	return views
}

// arrange places the views on one sheet: top above left, front and rear beside
// left, right below.
func arrange(views []View) {
	by := map[Side]*View{}
	for i := range views {
		by[views[i].Side] = &views[i]
	}
	space := gap * by[Left].Width
	columns := by[Front].Width + 2*space
	by[Front].X, by[Left].X, by[Top].X, by[Right].X = space, columns, columns, columns
	by[Rear].X = columns + by[Left].Width + 2*space // room for the height's dimension
	by[Top].Y = space
	middle := by[Top].Y + by[Top].Height + space
	by[Left].Y, by[Front].Y, by[Rear].Y = middle, middle, middle
	by[Right].Y = middle + by[Left].Height + 3*space // room for the length's dimension
}

// SheetSize is the room that the arranged views take, model mm.
func SheetSize(views []View) (width, height float64) {
	for _, v := range views {
		width, height = math.Max(width, v.X+v.Width), math.Max(height, v.Y+v.Height)
	}
	margin := gap * views[0].Width
	return width + margin, height + margin
}
