package measure

import (
	"cmp"
	"fmt"
	"math"

	"cinderpath/core/length"
	"cinderpath/core/unit"
)

// Cautions of the bench; the product's own sheet and local rules stand above them.
const (
	deferring     = " Follow the product's safety sheet and your local rules."
	cautionBlades = "Cut away from the hand; eye protection when nipping metal or drilling." + deferring
	cautionGlue   = "Super glue and putty: thin layers, ventilation." + deferring
	cautionLead   = "Lead wire: wash hands, no sanding, no food at the bench; tin serves as well." + deferring
	cautionResin  = "Fresh prints: nitrile gloves and eye protection until washed and fully cured; " +
		"cure the waste too." + deferring
	cautionSanding = "Sand wet, wear a particle mask." + deferring
)

// DrillQuestion asks for a hole, or for a tube bored out to it. Texts are typed
// lengths; a bare number is in mm.
type DrillQuestion struct {
	Hole    string       `json:"hole"`            // real diameter
	Outer   string       `json:"outer,omitempty"` // diameter on the model of what is bored out
	Metal   bool         `json:"metal,omitempty"` // it is metal, not plastic
	Count   int          `json:"count,omitempty"` // equal holes; 1 when 0
	Minutes unit.Minutes `json:"minutes,omitempty"`
	Scale   string       `json:"scale"`
	Owned   bool         `json:"owned,omitempty"`
	Shelf   *Shelf       `json:"shelf,omitempty"`
}

// Bore is one step of a boring sequence.
type Bore struct {
	Item  Stocked `json:"item"`
	Wall  float64 `json:"wallMm"` // what remains; -1 where no outer diameter is known
	Warn  string  `json:"warn,omitempty"`
	Pilot bool    `json:"pilot"`
	Why   Why     `json:"why"`
}

// StockRow is a size of stock beside the wanted one.
type StockRow struct {
	Side  string  `json:"side"` // under, over or exact
	Item  Stocked `json:"item"`
	Error float64 `json:"errorPercent"`
	Full  string  `json:"full"` // what it stands for at full size
	Why   Why     `json:"why"`
}

// DrillAnswer is the nearest drills and the way to the hole.
type DrillAnswer struct {
	Real     string       `json:"real"`
	Model    string       `json:"model"`
	ModelMM  float64      `json:"modelMm"`
	Rows     []StockRow   `json:"rows"`
	Steps    []Bore       `json:"steps"`
	Minutes  unit.Minutes `json:"minutes"`
	Time     string       `json:"time"`
	Notes    []string     `json:"notes"`
	Cautions []string     `json:"cautions"`
	Why      Why          `json:"why"`
	TimeWhy  Why          `json:"timeWhy"`
}

// Walls below which the material gives way, model mm.
const (
	leastPlasticWall = 0.3
	leastMetalWall   = 0.15
)

// minutesPerBore is the time that one drill takes in one hole by pin drill, marking
// included, where the user gives none.
const minutesPerBore = 0.75

// Boring gives the sequence of drills to a final one: a pilot, then each time the
// largest drill of the table that is larger by at most step = max(0.2 mm, a quarter
// of the final diameter). The pilot is the largest drill not above max(0.3 mm, step).
// Where the table has a gap wider than step, the next size is taken.
func Boring(drills []Stocked, final Stocked) []Stocked {
	const hair = 1e-9 // rounding, so that a drill of just the step's width counts
	step := max(0.2, final.Size/4)
	var out []Stocked
	at, reach := length.Model(0), max(0.3, step)
	for {
		var next *Stocked
		for i, d := range drills {
			if d.Size <= at+exact || d.Size > final.Size+exact {
				continue
			}
			if next == nil || d.Size <= at+reach+hair && d.Size > next.Size || d.Size < next.Size && next.Size > at+reach+hair {
				next = &drills[i]
			}
		}
		if next == nil {
			return out
		}
		out = append(out, *next)
		at, reach = next.Size, step
	}
}

// drillAsk is a question about a hole, read.
type drillAsk struct {
	scale length.Scale
	real  length.Real
	want  length.Model
	outer float64 // on the model, mm; 0 where nothing is bored out
	count int
	each  unit.Minutes
	least float64 // wall that holds, mm
	what  string  // it is of
	shelf Shelf
}

func (q DrillQuestion) read() (a drillAsk, err error) {
	if a.scale, err = length.ParseScale(q.Scale); err != nil {
		return a, At("scale", err)
	}
	if a.real, err = length.ParseReal(q.Hole, length.Millimetre); err != nil {
		return a, At("hole", err)
	}
	if a.outer, err = optional(q.Outer, 0); err != nil {
		return a, At("outer", err)
	}
	a.want, a.count, a.each = a.scale.ToModel(a.real), max(q.Count, 1), cmp.Or(q.Minutes, minutesPerBore)
	switch {
	case q.Count < 0 || q.Count > 10_000:
		return a, &Fault{"count", fmt.Sprintf("%d holes", q.Count), "give 1 to 10 000"}
	case !(a.each > 0 && a.each <= 600):
		return a, &Fault{"minutes", "no time for a hole", "give minutes above 0 and up to 600"}
	case a.outer > 0 && a.outer <= float64(a.want):
		return a, &Fault{
			"outer",
			fmt.Sprintf("%s mm is not wider than the hole of %s", number(a.outer, 2), a.want),
			"give the diameter of what is bored out, on the model",
		}
	}
	a.least, a.what = leastPlasticWall, "plastic"
	if q.Metal {
		a.least, a.what = leastMetalWall, "metal"
	}
	a.shelf, err = shelfOf(q.Shelf)
	return a, err
}

// AskDrill answers a question about a hole.
func AskDrill(q DrillQuestion) (DrillAnswer, error) {
	a, err := q.read()
	if err != nil {
		return DrillAnswer{}, err
	}
	drills := a.shelf.Of(q.Owned, Drill)
	out := DrillAnswer{
		Real:     a.real.String(),
		Model:    a.want.String(),
		ModelMM:  float64(a.want),
		Steps:    []Bore{},
		Notes:    []string{},
		Cautions: []string{cautionBlades},
		Rows:     rowsAround(drills, a.want, a.scale),
		Why:      Why{"model = real / N", []string{"real " + a.real.String(), scaleInput(a.scale)}},
	}
	final, ok := Nearest(drills, a.want, a.scale)
	if !ok || math.Abs(final.Error) > 0.5 {
		out.Notes = append(out.Notes, fmt.Sprintf("No drill near %s: %s", a.want, ownedHint(q.Owned)))
		out.Time = "–"
		out.TimeWhy = Why{"no drill, no time", []string{"wanted " + a.want.String()}}
		return out, nil
	}
	steps := []Stocked{final.Stocked}
	if a.outer > 0 || final.Size > 1 {
		steps = Boring(drills, final.Stocked)
	}
	for i, d := range steps {
		b := a.bore(d)
		b.Pilot = i == 0 && len(steps) > 1
		out.Steps = append(out.Steps, b)
	}
	if a.outer > 0 {
		out.Notes = append(
			out.Notes,
			"Centre the pilot with a point, turn the part, not only the drill: so the bore stays in the middle.",
		)
	}
	if final.Size < 0.4 && a.count > 20 {
		out.Notes = append(out.Notes, "Drills this thin break: have a spare.")
	}
	out.Minutes = unit.Minutes(a.count*len(steps)) * a.each
	out.Time = out.Minutes.String()
	out.TimeWhy = Why{
		"time = holes · drills in turn · minutes each",
		[]string{
			fmt.Sprintf("%d × %d", a.count, len(steps)),
			number(float64(a.each), 2) + " min by pin drill, marking included; give your own",
		},
	}
	return out, nil
}

// bore is a step with one drill, and the wall that it leaves.
func (a drillAsk) bore(d Stocked) Bore {
	b := Bore{
		Item: d,
		Wall: -1,
		Why: Why{
			"wall = (outer − bore) / 2; each step the largest drill that is larger by at most max(0.2 mm, a " +
				"quarter of the final diameter)",
			[]string{
				"bore " + number(float64(d.Size), 4) + " mm",
				"outer " + number(a.outer, 2) + " mm",
				fmt.Sprintf("%s bears %s mm", a.what, number(a.least, 2)),
			},
		},
	}
	if a.outer <= 0 {
		return b
	}
	b.Wall = (a.outer - float64(d.Size)) / 2
	if b.Wall < a.least-1e-9 {
		b.Warn = fmt.Sprintf(
			"%s mm of %s is left; below %s mm it breaks out", number(b.Wall, 2), a.what, number(a.least, 2),
		)
	}
	return b
}

// rowsAround lists the nearest stock under and over a size, one row where it is exact.
func rowsAround(items []Stocked, want length.Model, scale length.Scale) []StockRow {
	rows := []StockRow{}
	under, over := Around(items, want, scale)
	row := func(side string, n *Near) {
		if n == nil {
			return
		}
		rows = append(
			rows,
			StockRow{Side: side, Item: n.Stocked, Error: 100 * n.Error, Full: n.Full.String(), Why: Why{
				"error = (stock − wanted) / wanted; at full size stock · N",
				[]string{
					"stock " + number(float64(n.Size), 4) + " mm",
					"wanted " + number(float64(want), 4) + " mm",
					scaleInput(scale),
				},
			}},
		)
	}
	if under != nil && over != nil && under.ID == over.ID {
		row("exact", under)
		return rows
	}
	row("under", under)
	row("over", over)
	return rows
}
