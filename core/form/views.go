package form

import (
	"encoding/json"
	"math"
	"sort"
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

// Patch is a region of one colour on a shape.
type Patch struct {
	Colour  int     `json:"colour"`  // index into the scheme's colours
	Opacity float64 `json:"opacity"` // below 1 in the soft edge
	Rings   []Ring  `json:"rings"`   // filled by the even-odd rule
}

// Shape is one visible face in a view.
type Shape struct {
	Zone    string  `json:"zone"`
	Outline Ring    `json:"outline"`
	Round   bool    `json:"round,omitempty"` // drawn without an edge line
	Light   float64 `json:"light"`           // 0 to 1, how far the face looks upward
	Patches []Patch `json:"patches,omitempty"`
}

// Dimension is a measured distance drawn beside a view.
type Dimension struct {
	Name  string     `json:"name"`
	From  [2]float64 `json:"from"`
	To    [2]float64 `json:"to"`
	Real  string     `json:"real"`
	Model string     `json:"model"`
}

// View is a drawing of one side at model size, its top left corner at (0, 0).
type View struct {
	Side       Side        `json:"side"`
	X          float64     `json:"x"` // place on the sheet, model mm
	Y          float64     `json:"y"`
	Width      float64     `json:"width"`
	Height     float64     `json:"height"`
	Shapes     []Shape     `json:"shapes"`
	Dimensions []Dimension `json:"dimensions,omitempty"`
}

// Painted is a region of one colour in a panel's flat frame, real mm.
type Painted struct {
	Colour  int
	Opacity float64
	Rings   [][][2]float64
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

// gap is the room between views and around them, model mm, as a share of the longest side.
const gap = 0.06

// Views draws all five sides. Faces that look away are left out; nearer faces
// cover farther ones in the order of the list (painter's order, which is right for
// the convex blocks a body is made of). paint gives the colour regions of a panel.
func Views(panels []*Panel, scale length.Scale, paint func(*Panel) []Painted) []View {
	lo, hi, _ := Extent(panels, everything)
	views := make([]View, 0, len(Sides))
	for _, side := range Sides {
		views = append(views, draw(side, panels, lo, hi, scale, paint))
	}
	arrange(views)
	return views
}

func draw(side Side, panels []*Panel, lo, hi Vec, scale length.Scale, paint func(*Panel) []Painted) View {
	frame := newFrame(side, lo, hi, scale)
	size := hi.sub(lo)
	extent := func(axis Vec) float64 { return math.Abs(size.dot(axis)) / float64(scale) }
	view := View{Side: side, Width: extent(frame.right), Height: extent(frame.down)}

	type facing struct {
		panel *Panel
		depth float64
	}
	var seen []facing
	for _, p := range panels {
		if p.Normal.dot(frame.toward) > 1e-6 {
			seen = append(seen, facing{p, depth(p, frame.toward)})
		}
	}
	sort.SliceStable(seen, func(i, j int) bool { return seen[i].depth < seen[j].depth })
	for _, f := range seen {
		shape := Shape{Zone: f.panel.Zone, Round: f.panel.Round, Light: math.Round((f.panel.Normal[2]+1)*50) / 100}
		for _, c := range f.panel.Corners {
			shape.Outline = append(shape.Outline, frame.Flat(c))
		}
		for _, region := range paint(f.panel) {
			patch := Patch{Colour: region.Colour, Opacity: region.Opacity}
			for _, ring := range region.Rings {
				out := make(Ring, len(ring))
				for i, q := range ring {
					out[i] = frame.Flat(f.panel.Space(q[0], q[1]))
				}
				patch.Rings = append(patch.Rings, out)
			}
			if len(patch.Rings) > 0 {
				shape.Patches = append(shape.Patches, patch)
			}
		}
		view.Shapes = append(view.Shapes, shape)
	}
	return view
}

// depth is the distance of a panel toward the viewer, taken at its middle.
func depth(p *Panel, toward Vec) float64 {
	sum := 0.0
	for _, c := range p.Corners {
		sum += c.dot(toward)
	}
	return sum / float64(len(p.Corners))
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
