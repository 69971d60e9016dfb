package scheme

import (
	"embed"
	"slices"
	"sync"

	"cinderpath/core/form"
	"cinderpath/core/table"
	"cinderpath/core/unit"
)

//go:embed tables/*.csv
var tables embed.FS

// Family is a way in which a colour is laid. Its usual values are of the table of camouflage.
type Family struct {
	ID      string  `json:"id"`
	Name    string  `json:"name"`
	Width   float64 `json:"width"` // usual, real mm; 0 where it has none
	Least   float64 `json:"widthMin"`
	Most    float64 `json:"widthMax"`
	Feather float64 `json:"feather"` // usual soft edge, real mm
	Bend    float64 `json:"bend"`    // usual waviness, roundness, curl or branching, 0 to 1
	Bends   string  `json:"bends,omitempty"`
	Angled  bool    `json:"angled,omitempty"` // it runs at an angle
	Framed  bool    `json:"framed,omitempty"` // the ground stays as a frame
	Note    string  `json:"note"`

	Fixed bool `json:"fixed,omitempty"` // its share follows from zones and width

	make func(m making) field
}

// The families by id.
const (
	Single     = "single"
	Bands      = "bands"
	Blotches   = "blotches"
	Mottle     = "mottle"
	Spots      = "spots"
	Splinters  = "splinter"
	Panes      = "panes"
	Stripes    = "stripes"
	Lines      = "lines"
	Strokes    = "strokes"
	Outlines   = "outline"
	Whitewash  = "whitewash"
	byStandard = Bands
)

// making is what a field is made from.
type making struct {
	grid   *form.Grid
	panels []int // those that it may lie on
	seed   uint64
	width  float64    // real mm
	part   unit.Share // of what is still free on its panels
	bend   float64    // 0 to 1
	angle  float64    // radians
	frame  float64    // real mm
	below  edgesBelow // of the colours under it
}

// place is where a field is asked: a point of a panel, in its own frame and in space.
type place struct {
	panel int
	x, y  float64
	at    form.Vec
	face  form.Vec      // normal
	edge  float64       // to the nearest outer corner edge, real mm; beyond reach a great number
	zone  *form.Texels  // of the panel
	near  *form.Lattice // noise of who goes along it; may be none
}

// field tells how far a place lies inside a colour. The values that lie above a level get the
// colour; where the family has soft edges they are real mm from the middle line on.
type field interface {
	at(p place) float64
}

// shaped is a field of shapes: a pin moves shapes instead of bending the field.
type shaped interface {
	pin(p place, inside bool)
}

// made tells what the table does not: what of it can be set, and how the field is made.
var made = map[string]Family{
	Single:    {Fixed: true, make: func(making) field { return everywhere{} }},
	Bands:     {Bend: 0.5, Bends: "waviness", make: newBands},
	Blotches:  {Bend: 0.6, Bends: "roundness", make: newBlotches},
	Mottle:    {Bend: 0.8, Bends: "roundness", make: newBlotches},
	Spots:     {Bend: 0.9, Bends: "roundness", make: newSpots},
	Splinters: {make: newSplinters},
	Panes:     {Framed: true, make: newPanes},
	Stripes:   {Angled: true, make: newStripes},
	Lines:     {Bend: 0.7, Bends: "curl", make: newLines},
	Strokes:   {Angled: true, make: newStrokes},
	Outlines:  {Fixed: true, make: newOutline},
	Whitewash: {Bend: 0.5, Bends: "wear at edges", make: newWhitewash},
}

var families = sync.OnceValue(func() (out []Family) {
	for _, row := range table.Read(tables, "camouflage") {
		f := made[row["id"]]
		f.ID, f.Name, f.Note = row["id"], row["name"], row["note"]
		f.Width, f.Least, f.Most = row.Number("width_real_mm"), row.Number("width_min"), row.Number("width_max")
		f.Feather = row.Number("feather_real_mm")
		out = append(out, f)
	}
	return out
})

// Families lists them in the order of the table.
func Families() []Family { return slices.Clone(families()) }

// FamilyOf finds a family by its id.
func FamilyOf(id string) (Family, bool) {
	i := slices.IndexFunc(families(), func(f Family) bool { return f.ID == id })
	if i < 0 {
		return Family{}, false
	}
	return families()[i], true
}

// everywhere is a field without an outside.
type everywhere struct{}

func (everywhere) at(place) float64 { return 1e6 }
