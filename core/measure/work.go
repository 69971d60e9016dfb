package measure

import (
	"fmt"
	"math"
	"slices"
	"sort"

	"cinderpath/core/length"
	"cinderpath/core/unit"
)

// stiffCable is the kind of bend of wire twisted into a rope.
const stiffCable = "cable"

// BendFactors are the least bend radii in diameters where the workshop has noted
// none of its own.
var BendFactors = map[string]float64{Wire: 3, Thread: 1, stiffCable: 6, Rod: 10}

// Bends are the least bend radii in diameters, the workshop's own where it has noted them.
func (s Shelf) Bends() map[string]float64 {
	out := map[string]float64{}
	for kind := range BendFactors {
		out[kind] = s.bend(kind)
	}
	return out
}

func (s Shelf) bend(kind string) float64 {
	if k, ok := s.Bend[kind]; ok {
		return k
	}
	return BendFactors[kind]
}

// StockQuestion asks what to make a size from. Texts are typed lengths of the real
// vehicle; a bare number is in mm.
type StockQuestion struct {
	Kind string `json:"kind"` // a kind of stock, any, bolt, rivet or weld
	// Size: diameter, thickness, width of tape, opening of mesh; shank of a bolt; width of a bead
	Size   string `json:"size"`
	Second string `json:"second,omitempty"` // strip: width; tube: bore; mesh: wire
	Length string `json:"length,omitempty"` // weld: all seams together
	Bend   string `json:"bend,omitempty"`   // tightest bend wanted, radius on the model
	Scale  string `json:"scale"`
	Owned  bool   `json:"owned,omitempty"`
	Shelf  *Shelf `json:"shelf,omitempty"`
}

// StockGroup is the rows of one kind.
type StockGroup struct {
	Kind string     `json:"kind"`
	Rows []StockRow `json:"rows"`
}

// Made is something made from stock: two sheets glued together, a tube in a tube.
type Made struct {
	Words string  `json:"words"`
	MM    float64 `json:"mm"`
	Error float64 `json:"errorPercent"`
	Full  string  `json:"full"`
	Owned bool    `json:"owned"` // all of it
	Why   Why     `json:"why"`
}

// Fact is a number with its name, such as the putty that a seam takes.
type Fact struct {
	Name  string `json:"name"`
	Value string `json:"value"`
	Of    string `json:"of"` // real, model or empty
	Why   Why    `json:"why"`
}

// StockAnswer is what a size can be made from.
type StockAnswer struct {
	Real      string       `json:"real"`
	Model     string       `json:"model"`
	ModelMM   float64      `json:"modelMm"`
	Groups    []StockGroup `json:"groups"`
	Laminates []Made       `json:"laminates"`
	Telescope []Made       `json:"telescope"`
	Facts     []Fact       `json:"facts"`
	Notes     []string     `json:"notes"`
	Cautions  []string     `json:"cautions"`
	Why       Why          `json:"why"`
}

// Kinds of question besides those of stock.
const (
	AnyKind = "any"
	Bolt    = "bolt"
	Rivet   = "rivet"
	Weld    = "weld"
)

// AskStock answers what a size can be made from.
func AskStock(q StockQuestion) (StockAnswer, error) {
	scale, err := length.ParseScale(q.Scale)
	if err != nil {
		return StockAnswer{}, At("scale", err)
	}
	r, err := length.ParseReal(q.Size, length.Millimetre)
	if err != nil {
		return StockAnswer{}, At("size", err)
	}
	second, err := optionalReal(q.Second)
	if err != nil {
		return StockAnswer{}, At("second", err)
	}
	bend, err := optional(q.Bend, 0)
	if err != nil {
		return StockAnswer{}, At("bend", err)
	}
	shelf, err := shelfOf(q.Shelf)
	if err != nil {
		return StockAnswer{}, err
	}
	a := stockAsk{
		q:      q,
		scale:  scale,
		shelf:  shelf,
		r:      r,
		want:   scale.ToModel(r),
		second: scale.ToModel(second),
		bend:   bend,
	}
	a.out = StockAnswer{
		Real:      r.String(),
		Model:     a.want.String(),
		ModelMM:   float64(a.want),
		Groups:    []StockGroup{},
		Laminates: []Made{},
		Telescope: []Made{},
		Facts:     []Fact{},
		Notes:     []string{},
		Cautions:  []string{},
		Why:       Why{"model = real / N", []string{"real " + r.String(), scaleInput(scale)}},
	}
	switch q.Kind {
	case AnyKind, "":
		for _, kind := range []string{Rod, Wire, Thread, Tube, Sheet, Drill, Tape} {
			a.group(kind)
		}
	case Rod, Wire, Thread, Drill, Tape:
		a.group(q.Kind)
	case Tube:
		a.group(Tube)
		a.telescope()
	case Sheet:
		a.group(Sheet)
		a.laminates()
	case Strip, Mesh:
		if err := a.pairs(); err != nil {
			return StockAnswer{}, err
		}
	case Bolt, Rivet:
		a.heads()
	case Weld:
		if err := a.weld(); err != nil {
			return StockAnswer{}, err
		}
	default:
		return StockAnswer{}, &Fault{
			"kind",
			fmt.Sprintf("%q is nothing that is looked up here", q.Kind),
			"use any, rod, wire, thread, tube, sheet, strip, mesh, drill, tape, bolt, rivet or weld",
		}
	}
	a.bends()
	if len(a.out.Groups)+len(a.out.Laminates)+len(a.out.Telescope)+len(a.out.Facts) == 0 {
		a.out.Notes = append(a.out.Notes, "Nothing of the table comes near: "+ownedHint(q.Owned))
	}
	return a.out, nil
}

type stockAsk struct {
	q            StockQuestion
	scale        length.Scale
	shelf        Shelf
	r            length.Real
	want, second length.Model
	bend         float64
	out          StockAnswer
}

func (a *stockAsk) items(kinds ...string) []Stocked { return a.shelf.Of(a.q.Owned, kinds...) }

func (a *stockAsk) group(kind string) {
	items := a.items(kind)
	rows := rowsAround(items, a.want, a.scale)
	kept := rows[:0]
	for _, r := range rows {
		if math.Abs(r.Error) <= 100 || len(rows) == 1 && math.Abs(r.Error) <= 300 {
			kept = append(kept, r)
		}
	}
	if len(kept) > 0 {
		a.out.Groups = append(a.out.Groups, StockGroup{kind, kept})
	}
	if kind == Wire && len(kept) > 0 {
		a.out.Cautions = []string{cautionBlades, cautionLead}
	}
}

// laminates finds the sheets that glued together come nearest.
func (a *stockAsk) laminates() {
	sheets := a.items(Sheet)
	for i, s := range sheets {
		for _, t := range sheets[i:] {
			mm := s.Size + t.Size
			off := float64(mm/a.want - 1)
			if math.Abs(off) > 0.2 {
				continue
			}
			a.out.Laminates = append(a.out.Laminates, Made{
				Words: s.Name + " + " + t.Name,
				MM:    float64(mm),
				Error: 100 * off,
				Full:  a.scale.ToReal(mm).String(),
				Owned: s.Owned && t.Owned,
				Why: Why{
					"thickness = first sheet + second sheet",
					[]string{
						number(float64(s.Size), 3) + " mm + " + number(float64(t.Size), 3) + " mm",
						"wanted " + number(float64(a.want), 3) + " mm",
						scaleInput(a.scale),
					},
				},
			})
		}
	}
	nearestFirst(a.out.Laminates)
	a.out.Laminates = a.out.Laminates[:min(len(a.out.Laminates), mostWays)]
}

func nearestFirst(made []Made) {
	sort.SliceStable(made, func(i, j int) bool {
		x, y := math.Abs(made[i].Error), math.Abs(made[j].Error)
		if math.Abs(x-y) > 1e-9 {
			return x < y
		}
		return made[i].Owned && !made[j].Owned
	})
}

// Proportions of fasteners, in shank diameters: hexagon heads as ordinary metric
// bolts have them, round heads as ordinary rivets.
const (
	hexAcross, hexHigh     = 1.5, 0.65
	rivetAcross, rivetHigh = 1.7, 0.6
)

// heads gives the head of a bolt or rivet of a shank diameter and what to slice it from.
func (a *stockAsk) heads() {
	across, high, what := hexAcross, hexHigh, "across flats"
	if a.q.Kind == Rivet {
		across, high, what = rivetAcross, rivetHigh, "across the head"
	}
	wide, tall := a.want*length.Model(across), a.want*length.Model(high)
	from := "the given shank"
	a.out.Facts = append(
		a.out.Facts,
		Fact{
			"Head, " + what,
			wide.String(),
			"model",
			Why{
				fmt.Sprintf("head = %s · shank / N, the usual proportion", number(across, 2)),
				[]string{
					from + " " + a.r.String(),
					scaleInput(a.scale),
					"measure the real head where you can and ask for it as a rod",
				},
			},
		},
		Fact{
			"Head, height",
			tall.String(),
			"model",
			Why{
				fmt.Sprintf("height = %s · shank / N, the usual proportion", number(high, 2)),
				[]string{from + " " + a.r.String(), scaleInput(a.scale)},
			},
		},
	)
	for _, kind := range []string{Rod, Drill} {
		rows := rowsAround(a.items(kind), wide, a.scale)
		name := "head sliced from rod"
		if kind == Drill {
			name = "seat or hole by drill"
			rows = rowsAround(a.items(kind), a.want, a.scale)
		}
		if len(rows) > 0 {
			a.out.Groups = append(a.out.Groups, StockGroup{name, rows})
		}
	}
	if tall < 0.1 {
		a.out.Notes = append(a.out.Notes, "A head this low is a drop of glue or thick paint rather than a slice.")
	}
	a.out.Cautions = []string{cautionBlades}
}

// minutesPerSeam is what 10 mm of bead take on the model, laid, softened, textured.
const minutesPerSeam = 3.0

// weld gives what the beads of all seams take.
func (a *stockAsk) weld() error {
	seams, err := length.ParseReal(a.q.Length, length.Metre)
	if err != nil {
		return At("length", err)
	}
	long := a.scale.ToModel(seams)
	rod := rowsAround(a.items(Rod, Thread), a.want, a.scale)
	if len(rod) > 0 {
		a.out.Groups = append(a.out.Groups, StockGroup{"bead from rod or thread, softened", rod})
	}
	volume := math.Pi / 8 * float64(a.want*a.want) * float64(long)
	time := unit.Minutes(float64(long) / 10 * minutesPerSeam)
	a.out.Facts = append(
		a.out.Facts,
		Fact{"Bead, width", a.want.String(), "model", a.out.Why},
		Fact{
			"Seams in all",
			long.String(),
			"model",
			Why{"model = real / N", []string{"real " + seams.String(), scaleInput(a.scale)}},
		},
		Fact{
			"Putty, if the bead is rolled of it",
			number(volume/1000, 3) + " ml",
			"",
			Why{
				"volume = π w² / 8 · length, a half-round bead",
				[]string{"w = " + a.want.String(), "length " + long.String(), "have a third more: some is wiped off"},
			},
		},
		Fact{
			"Time",
			time.String(),
			"",
			Why{
				"time = length / 10 mm · minutes",
				[]string{"length " + long.String(), number(minutesPerSeam, 1) + " min for 10 mm laid and textured"},
			},
		},
	)
	if a.want < 0.25 {
		a.out.Notes = append(
			a.out.Notes,
			fmt.Sprintf(
				"A bead of %s hardly reads; some make it wider on purpose: 0.3 mm is %s × over scale.",
				a.want,
				number(0.3/float64(a.want), 1),
			),
		)
	}
	a.out.Cautions = []string{cautionGlue}
	return nil
}

// bends compares the least bend radius of what was found with the tightest bend wanted.
func (a *stockAsk) bends() {
	for _, g := range a.out.Groups {
		if a.bend == 0 || !slices.Contains([]string{Wire, Thread, Rod}, g.Kind) {
			continue
		}
		factor := a.shelf.bend(g.Kind)
		for _, r := range g.Rows {
			least := factor * float64(r.Item.Size)
			does := "follows it"
			if a.bend < least {
				does = "kinks or breaks there"
			}
			a.out.Facts = append(
				a.out.Facts,
				Fact{
					fmt.Sprintf("%s at a bend of %s mm", r.Item.Name, number(a.bend, 1)),
					fmt.Sprintf("least %s mm: %s", number(least, 2), does),
					"model",
					Why{
						"least bend radius = factor · diameter",
						[]string{
							fmt.Sprintf("%s: %s diameters", g.Kind, number(factor, 1)),
							"diameter " + number(float64(r.Item.Size), 3) + " mm",
						},
					},
				},
			)
		}
	}
}

func optionalReal(text string) (length.Real, error) {
	if text == "" {
		return 0, nil
	}
	return length.ParseReal(text, length.Millimetre)
}
