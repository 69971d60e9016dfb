package strata

import (
	"slices"

	"cinderpath/core/colour"
	"cinderpath/core/paint"
	"cinderpath/core/unit"
	"cinderpath/core/zone"
)

// About is all that is known of a kind of layer. It stands in one table, which everything
// else asks.
type About struct {
	ID   Kind   `json:"id"`
	Name string `json:"name"` // as people say it
	Wet  bool   `json:"wet"`  // may be worked into the layer below while that is wet

	Fresh Layer `json:"fresh"` // a new one, as it is usually done

	Wears  bool `json:"-"` // ages what was painted: details and markings are aged with it
	Loose  bool `json:"-"` // earth and powder, which forcing a part on rubs off
	Films  bool `json:"-"` // covers its zones with a film, so that an amount can be told
	Creeps bool `json:"-"` // runs under the edge of what is not sealed (M3)
	Ground bool `json:"-"` // gives the surface its sheen for what comes next

	Thin   paint.Thinning `json:"-"` // how far it is thinned for work by brush, handbook 2
	Milder []string       `json:"-"` // families for the same purpose, the mildest first

	family  string       // that is usually taken for it
	sprayed bool         // it is usually sprayed
	land    Landing      // where it lands; nil where nothing of it is seen
	film    paint.Film   // mean dry film where it lands; 0: as its family goes on, by its coats
	share   unit.Share   // of its zones that it covers, all or nothing; 0 for films
	hiding  paint.Hiding // of its material, while no jar says better
	swatch  string       // of one that names no colour
	reveals bool         // takes off what lies over the chipping coat
}

var (
	paints  = []string{"waterborne_acrylic", "alcohol_acrylic"}
	effects = []string{"acrylic_wash", "enamel_effect"}
)

// abouts is the table, in the usual working order. Landings and amounts are starting values
// (handbook 9), to be taken over by the techniques one by one.
var abouts = []About{
	{
		ID:      Prime,
		Name:    "Primer",
		family:  "primer_acrylic",
		sprayed: true,
		Films:   true,
		Ground:  true,
		Thin:    paint.ByBrush,
		Milder:  []string{"primer_acrylic"},
		land:    all{},
		hiding:  paint.Good,
		swatch:  "#6b6b6b",
	},
	{ID: ChippingCoat, Name: "Chipping coat", family: "chipping_coat", sprayed: true, Films: true, Thin: paint.Unthinned},
	{
		ID:      Colour,
		Name:    "Colour",
		family:  "waterborne_acrylic",
		sprayed: true,
		Films:   true,
		Ground:  true,
		Thin:    paint.ByBrush,
		Milder:  paints,
		land:    all{},
		hiding:  paint.Good,
		swatch:  "#808080",
	},
	{
		ID:      ChippingWork,
		Name:    "Work the chipping coat",
		family:  "chipping_coat",
		land:    times{plus{edge(60), scaled{0.3, low{0, 1200}}, scaled{0.2, up(2)}}, noise{120, 3}},
		share:   0.15,
		reveals: true,
	},
	{ID: Decals, Name: "Decals", family: "decal"},
	{
		ID:      Clear,
		Name:    "Clear coat",
		family:  "clear_acrylic",
		sprayed: true,
		Films:   true,
		Ground:  true,
		Thin:    paint.ByBrush,
		Milder:  []string{"clear_acrylic"},
		land:    all{},
	},
	{
		ID:     Filter,
		Name:   "Filter",
		family: "enamel_effect",
		Wet:    true,
		Wears:  true,
		Films:  true,
		Creeps: true,
		Thin:   paint.ForFilter,
		Milder: effects,
		land:   all{},
		film:   0.7,
		hiding: paint.Glaze,
		swatch: "#6a5a44",
	},
	{
		ID:     Wash,
		Name:   "Wash",
		family: "enamel_effect",
		Wet:    true,
		Wears:  true,
		Films:  true,
		Creeps: true,
		Thin:   paint.ForWash,
		Milder: effects,
		land:   plus{scaled{0.05, all{}}, recess(28)},
		film:   5,
		hiding: paint.Glaze,
		swatch: "#3b2f25",
	},
	{
		ID:     Chips,
		Name:   "Chips",
		family: "waterborne_acrylic",
		Wears:  true,
		Milder: paints,
		land:   times{edge(40), noise{80, 3}},
		share:  0.012,
		hiding: paint.Good,
		swatch: "#8a8f7c",
	},
	{
		ID:     Streaks,
		Name:   "Streaks",
		family: "enamel_effect",
		Wet:    true,
		Wears:  true,
		Creeps: true,
		Milder: effects,
		land:   times{upright{}, drawn{30, 500}},
		film:   1.2,
		hiding: paint.Glaze,
		swatch: "#5a4c3c",
	},
	{
		ID:     Dots,
		Name:   "Dots of oil",
		family: "oil_thin",
		Wet:    true,
		Wears:  true,
		Creeps: true,
		Milder: effects,
		land:   noise{200, 2},
		film:   2,
		hiding: paint.Glaze,
		swatch: "#6a6450",
	},
	{
		ID:     Rust,
		Name:   "Rust",
		family: "oil_thin",
		Wet:    true,
		Wears:  true,
		Creeps: true,
		Milder: effects,
		land:   plus{scaled{0.5, times{recess(45), drawn{60, 200}}}, times{upright{}, drawn{28, 420}}},
		film:   1.6,
		hiding: 0.7,
		swatch: "#7a4a2c",
	},
	{
		ID:     Dust,
		Name:   "Dust",
		family: "enamel_effect",
		Wet:    true,
		Wears:  true,
		Loose:  true,
		Films:  true,
		Creeps: true,
		Thin:   paint.ForDust,
		Milder: effects,
		land: plus{
			times{low{0, 1500}, plus{scaled{0.7, all{}}, scaled{0.3, upright{}}}},
			scaled{0.25, up(3)},
			scaled{0.3, times{recess(80), low{300, 2600}}},
		},
		film:   3,
		hiding: 0.7,
		swatch: "#a39a86",
	},
	{
		ID:     Mud,
		Name:   "Mud",
		family: "mud_paste",
		Wet:    true,
		Wears:  true,
		Loose:  true,
		Films:  true,
		Creeps: true,
		land:   times{low{0, 1000}, plus{scaled{0.45, all{}}, recess(150)}, noise{200, 2}},
		share:  0.35,
		hiding: paint.Full,
		swatch: "#6d5b43",
	},
	{
		ID:     Splash,
		Name:   "Splashes",
		family: "enamel_effect",
		Wet:    true,
		Wears:  true,
		Loose:  true,
		Creeps: true,
		Milder: effects,
		land:   times{low{0, 1400}, noise{35, 1}},
		share:  0.03,
		hiding: paint.Fair,
		swatch: "#7a684e",
	},
	{
		ID:     Wet,
		Name:   "Wet spots",
		family: "wet_gloss",
		Wears:  true,
		land:   times{low{0, 700}, recess(120), noise{150, 2}},
		share:  0.06,
		film:   4,
		hiding: paint.Glaze,
		swatch: "#4a3f33",
	},
	{
		ID:     Grease,
		Name:   "Grease, fuel, oil",
		family: "enamel_effect",
		Wears:  true,
		Milder: effects,
		land:   times{recess(70), noise{120, 3}},
		film:   4,
		hiding: paint.Glaze,
		swatch: "#2e2a26",
	},
	{
		ID:     Soot,
		Name:   "Soot",
		family: "pigment_dry",
		Wears:  true,
		Loose:  true,
		land:   times{recess(60), noise{120, 2}},
		film:   1.5,
		hiding: paint.Fair,
		swatch: "#1e1d1c",
	},
	{
		ID:     Pigment,
		Name:   "Pigment",
		family: "pigment_dry",
		Wears:  true,
		Loose:  true,
		Films:  true,
		land:   plus{times{up(2), recess(80)}, scaled{0.3, low{0, 900}}},
		film:   8,
		hiding: 0.7,
		swatch: "#a08c6c",
	},
	{ID: Fix, Name: "Pigment fixer", family: "pigment_fixer", Films: true, land: all{}},
	{
		ID:     Metal,
		Name:   "Bare metal",
		family: "graphite",
		land:   times{edge(14), noise{60, 2}},
		share:  0.12,
		hiding: paint.Full,
		swatch: "#8b8e90",
	},
}

// Abouts lists what is known of all kinds of layer, in the usual working order.
func Abouts() []About {
	out := slices.Clone(abouts)
	for i := range out {
		out[i].Fresh = out[i].ID.Fresh()
	}
	return out
}

// Fresh is a new layer of the kind as it is usually done, everywhere and without an id.
func (k Kind) Fresh() Layer {
	a := k.About()
	l := Layer{Name: a.Name, Kind: k, Family: a.family, Applied: Brushed, Coats: 1, Hex: a.swatch}
	if a.sprayed {
		l.Applied = Misted
	}
	return l
}

// About tells what is known of a kind; nothing of one that is not in the table.
func (k Kind) About() About {
	if i := slices.IndexFunc(abouts, func(a About) bool { return a.ID == k }); i >= 0 {
		return abouts[i]
	}
	return About{ID: k}
}

func (k Kind) known() bool {
	return slices.ContainsFunc(abouts, func(a About) bool { return a.ID == k })
}

// IsScheme tells a camouflage layer from a layer of one colour of its own.
func (l Layer) IsScheme() bool { return l.Kind == Colour && l.Hex == "" }

// Undressed are the swatches that track and rubber have while no step of their own paints
// them: they come with the scheme, which leaves them out.
var undressed = []struct {
	swatch string
	on     func(zone string) bool
}{{"#4b4641", zone.IsTrack}, {"#3c3b3a", zone.IsRubber}}

// Undress is the swatch of track and rubber while no step of their own paints them.
func Undress(name string) colour.RGB {
	for _, u := range undressed {
		if u.on(name) {
			return colour.Of(u.swatch)
		}
	}
	return colour.RGB{}
}

// Finish is the sheen that the layer leaves.
func (l Layer) Finish() colour.Sheen {
	if l.Sheen != "" {
		return l.Sheen
	}
	switch s := colour.Sheen(familyOf(l.Family).Sheen); s {
	case colour.Gloss, colour.Satin, colour.Matt:
		return s
	}
	return colour.Matt
}
