package base

import (
	"embed"
	"fmt"
	"slices"
	"strings"

	"cinderpath/core/measure"
	"cinderpath/core/table"
)

//go:embed tables
var files embed.FS

// Base is what is wanted of the ground a vehicle stands on. On the model in mm but for Sink.
type Base struct {
	Margin  float64  `json:"margin"`         // round the running gear
	Long    float64  `json:"long,omitempty"` // a board of one's own; what the gear and the margin ask when nought
	Wide    float64  `json:"wide,omitempty"`
	Turn    float64  `json:"turn,omitempty"` // of the vehicle on the board, degrees, its front to the left
	Board   float64  `json:"board"`          // how thick it is
	Depth   float64  `json:"depth"`          // of the ground at its shallowest
	Sink    float64  `json:"sink"`           // of track and wheels into the ground, real mm
	Screw   float64  `json:"screw"`          // its diameter; nought where the vehicle is glued
	Screws  int      `json:"screws"`
	Figures int      `json:"figures"`
	Strewn  []Grain  `json:"strewn"`
	Meant   []string `json:"meant,omitempty"` // rules that the modeller overrules
	Jar     string   `json:"jar,omitempty"`   // the jar or the mix that its earth is painted from
	Of      string   `json:"of,omitempty"`    // the build on whose base it stands, where it has none of its own
}

// Grain is something that is strewn.
type Grain struct {
	Kind string  `json:"kind"` // of Grains
	MM   float64 `json:"mm"`   // on the model; of grass its height, of twigs their thickness
}

// Ends of what can be asked; the document's table of ranges states the same.
const (
	MostMargin = 500.0
	MostBoard  = 2000.0
	MostThick  = 100.0
	MostDepth  = 60.0
	MostSink   = 1000.0 // real mm
	MostScrew  = 12.0
	MostFigure = 40
	MostGrain  = 50.0
	mostStrewn = 12
)

// soft is how far a ground gives way, real mm, starting values by the ground a vehicle drove on.
var soft = func() map[string]table.Row {
	out := map[string]table.Row{}
	for _, r := range table.Read(files, "grounds") {
		out[r["ground"]] = r
	}
	return out
}()

// Kind of what is strewn, with the size above which it would be called something else.
type Kind struct {
	ID    string
	Most  float64 // real mm
	Words string
}

// Grains lists what is strewn.
var Grains = func() (out []Kind) {
	for _, r := range table.Read(files, "grains") {
		out = append(out, Kind{r["kind"], r.Number("most_mm"), r["words"]})
	}
	return out
}()

// Usual is a base to begin from, on such a ground.
func Usual(ground string) Base {
	b := Base{Margin: 30, Board: 10, Depth: 3, Screw: 3, Screws: 2, Strewn: []Grain{}}
	if r, ok := soft[ground]; ok {
		b.Sink = r.Number("sink_mm")
	} else {
		b.Sink = soft["dry loam"].Number("sink_mm")
	}
	return b
}

// Check reports the first fault of what is wanted.
func (b Base) Check() error {
	for _, x := range []struct {
		field       string
		at          float64
		least, most float64
		unit        string
	}{
		{"margin", b.Margin, 0, MostMargin, "mm on the model"},
		{"long", b.Long, 0, MostBoard, "mm"},
		{"wide", b.Wide, 0, MostBoard, "mm"},
		{"turn", b.Turn, -360, 360, "degrees"},
		{"board", b.Board, 1, MostThick, "mm"},
		{"depth", b.Depth, 0, MostDepth, "mm on the model"},
		{"sink", b.Sink, 0, MostSink, "mm in life"},
		{"screw", b.Screw, 0, MostScrew, "mm"},
		{"screws", float64(b.Screws), 0, 2, ""},
		{"figures", float64(b.Figures), 0, MostFigure, ""},
	} {
		if !(x.at >= x.least && x.at <= x.most) {
			return measure.Refuse(
				x.field,
				fmt.Sprintf("%g is outside what a base has", x.at),
				strings.TrimSpace(fmt.Sprintf("give %g to %g %s", x.least, x.most, x.unit)),
			)
		}
	}
	if len(b.Strewn) > mostStrewn {
		return measure.Refuse("strewn", fmt.Sprintf("more than %d kinds", mostStrewn), "take some out")
	}
	for i, g := range b.Strewn {
		at := fmt.Sprintf("strewn[%d]", i)
		switch {
		case KindOf(g.Kind) == nil:
			return measure.Refuse(at+".kind", fmt.Sprintf("%q is not known", g.Kind), "use "+kindNames())
		case !(g.MM >= 0.01 && g.MM <= MostGrain):
			return measure.Refuse(at+".mm", fmt.Sprintf("%g mm on the model", g.MM), "give 0.01 to 50 mm")
		}
	}
	for _, m := range b.Meant {
		if m != "F3" {
			return measure.Refuse("meant", fmt.Sprintf("%q is no rule of a base", m), "use F3")
		}
	}
	if len(b.Of) > 64 {
		return measure.Refuse("of", "more than 64 characters", "choose a build of the workshop")
	}
	if len(b.Jar) > 64 {
		return measure.Refuse("jar", "more than 64 characters", "choose one of the shelf")
	}
	return nil
}

// Stones are the kinds of grit by their size.
var Stones = []string{"sand", "gravel", "stones"}

// KindOf finds what is strewn by its name.
func KindOf(id string) *Kind {
	if i := slices.IndexFunc(Grains, func(k Kind) bool { return k.ID == id }); i >= 0 {
		return &Grains[i]
	}
	return nil
}

func kindNames() string {
	var names []string
	for _, k := range Grains {
		names = append(names, k.ID)
	}
	return strings.Join(names, ", ")
}

// Real is what a grain would be in life: its size, mm, and whether it is larger than what it is
// called.
func (g Grain) Real(scale float64) (mm float64, tooLarge bool) {
	mm = g.MM * scale
	k := KindOf(g.Kind)
	return mm, k != nil && mm > k.Most*(1+1e-9)
}

// Words say what a grain would be in life.
func (g Grain) Words(scale float64) string {
	mm, large := g.Real(scale)
	k := KindOf(g.Kind)
	words := fmt.Sprintf("%s of %.2g mm is %s in life", k.Words, g.MM, size(mm))
	if large {
		words += fmt.Sprintf(", larger than any %s (%s)", k.Words, size(k.Most))
	}
	return words
}

func size(mm float64) string {
	switch {
	case mm < 10:
		return fmt.Sprintf("%.1f mm", mm)
	case mm < 1000:
		return fmt.Sprintf("%.0f mm", mm)
	}
	return fmt.Sprintf("%.1f m", mm/1000)
}
