package strata

import (
	"slices"

	"cinderpath/core/colour"
	"cinderpath/core/paint"
	"cinderpath/core/zone"
)

// About is all that is known of a kind of layer. It stands in one table, which everything
// else asks.
type About struct {
	ID   Kind   `json:"id"`
	Name string `json:"name"` // as people say it
	Wet  bool   `json:"wet"`  // may be worked into the layer below while that is wet

	Works bool   `json:"works,omitempty"` // lays nothing, and works on what lies there: no jar is wanted for it
	Usual string `json:"usual,omitempty"` // the technique by which it is usually worked; none for what goes all over
	Fresh Layer  `json:"fresh"`           // a new one, as it is usually done

	Wears  bool `json:"-"` // ages what was painted: details and markings are aged with it
	Loose  bool `json:"-"` // earth and powder, which forcing a part on rubs off
	Films  bool `json:"-"` // covers its zones with a film, so that an amount can be told
	Creeps bool `json:"-"` // runs under the edge of what is not sealed (M3)
	Ground bool `json:"-"` // gives the surface its sheen for what comes next

	Thin   paint.Thinning `json:"-"` // how far it is thinned for work by brush, handbook 2
	Milder []string       `json:"-"` // families for the same purpose, the mildest first

	family  string       // that is usually taken for it
	sprayed bool         // it is usually sprayed
	unseen  bool         // nothing of it is seen
	hiding  paint.Hiding // of its material, while no jar says better
	swatch  string       // of one that names no colour
	bares   Bared        // what it takes off, down to; nothing of its own is laid
}

// unsold is the family of what is worked with cloth and finger: nothing of it comes from a jar.
const unsold = "graphite"

var (
	paints  = []string{"waterborne_acrylic", "alcohol_acrylic"}
	effects = []string{"acrylic_wash", "enamel_effect"}
)

// abouts is the table, in the usual working order. Where layers land, and how much of them, their
// techniques say (handbook 9).
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
		hiding:  paint.Good,
		swatch:  "#6b6b6b",
	},
	{
		ID:      Undertone,
		Usual:   "undertone_dark",
		Name:    "Shading under the colour",
		family:  "waterborne_acrylic",
		sprayed: true,
		Thin:    paint.ByBrush,
		Milder:  paints,
		hiding:  paint.Good,
		swatch:  "#2a2a2b",
	},
	{
		ID:      ChippingCoat,
		unseen:  true,
		Name:    "Chipping coat",
		family:  "chipping_coat",
		sprayed: true,
		Films:   true,
		Thin:    paint.Unthinned,
	},
	{
		ID:      Colour,
		Name:    "Colour",
		family:  "waterborne_acrylic",
		sprayed: true,
		Films:   true,
		Ground:  true,
		Thin:    paint.ByBrush,
		Milder:  paints,
		hiding:  paint.Good,
		swatch:  "#808080",
	},
	{
		ID:     ChippingWork,
		Usual:  "chipping_work",
		Name:   "Work the chipping coat",
		family: "chipping_coat",
		bares:  bareCoat,
	},
	{ID: Decals, unseen: true, Name: "Decals", family: "decal", hiding: paint.Full},
	{
		ID:      Clear,
		Name:    "Clear coat",
		family:  "clear_acrylic",
		sprayed: true,
		Films:   true,
		Ground:  true,
		Thin:    paint.ByBrush,
		Milder:  []string{"clear_acrylic"},
	},
	{
		ID:      Lighter,
		Usual:   "lighten_panels",
		Name:    "Lighter panels",
		family:  "waterborne_acrylic",
		sprayed: true,
		Thin:    paint.ByBrush,
		Milder:  paints,
		hiding:  paint.Fair,
		swatch:  "#a3a890",
	},
	{
		ID:     Highlight,
		Usual:  "highlight_detail",
		Name:   "Highlights on detail",
		family: "waterborne_acrylic",
		Wears:  true,
		Milder: paints,
		hiding: paint.Fair,
		swatch: "#a9ad98",
	},
	{
		ID:     Filter,
		Usual:  "filter",
		Name:   "Filter",
		family: "enamel_effect",
		Wet:    true,
		Wears:  true,
		Films:  true,
		Creeps: true,
		Thin:   paint.ForFilter,
		Milder: effects,
		hiding: paint.Glaze,
		swatch: "#6a5a44",
	},
	{
		ID:     Wash,
		Usual:  "wash_pin",
		Name:   "Wash",
		family: "enamel_effect",
		Wet:    true,
		Wears:  true,
		Films:  true,
		Creeps: true,
		Thin:   paint.ForWash,
		Milder: effects,
		hiding: paint.Glaze,
		swatch: "#3b2f25",
	},
	{
		ID:     Chips,
		Usual:  "chips_sponge",
		Name:   "Chips",
		family: "waterborne_acrylic",
		Wears:  true,
		Milder: paints,
		hiding: paint.Good,
		swatch: "#8a8f7c",
	},
	{
		ID:     DryBrush,
		Usual:  "dry_brush",
		Name:   "Dry brushing",
		family: "waterborne_acrylic",
		Wears:  true,
		Milder: paints,
		hiding: paint.Glaze,
		swatch: "#b1b4a0",
	},
	{ID: Rubbed, Usual: "wear_rub", Name: "Paint rubbed thin", family: unsold, Wears: true, bares: bareColour},
	{
		ID:     Streaks,
		Usual:  "streak_grime",
		Name:   "Streaks",
		family: "enamel_effect",
		Wet:    true,
		Wears:  true,
		Creeps: true,
		Milder: effects,
		hiding: paint.Glaze,
		swatch: "#5a4c3c",
	},
	{
		ID:     Dots,
		Usual:  "oil_dots",
		Name:   "Dots of oil",
		family: "oil_thin",
		Wet:    true,
		Wears:  true,
		Creeps: true,
		Milder: effects,
		hiding: paint.Glaze,
		swatch: "#6a6450",
	},
	{
		ID:     Rust,
		Usual:  "streak_rust",
		Name:   "Rust",
		family: "oil_thin",
		Wet:    true,
		Wears:  true,
		Creeps: true,
		Milder: effects,
		hiding: 0.7,
		swatch: "#7a4a2c",
	},
	{
		ID:     Dust,
		Usual:  "dust_mist",
		Name:   "Dust",
		family: "enamel_effect",
		Wet:    true,
		Wears:  true,
		Loose:  true,
		Films:  true,
		Creeps: true,
		Thin:   paint.ForDust,
		Milder: effects,
		hiding: 0.7,
		swatch: "#a39a86",
	},
	{
		ID:     Mud,
		Usual:  "mud_paste",
		Name:   "Mud",
		family: "mud_paste",
		Wet:    true,
		Wears:  true,
		Loose:  true,
		Films:  true,
		Creeps: true,
		hiding: paint.Full,
		swatch: "#6d5b43",
	},
	{
		ID:     Splash,
		Usual:  "splash_flick",
		Name:   "Splashes",
		family: "enamel_effect",
		Wet:    true,
		Wears:  true,
		Loose:  true,
		Creeps: true,
		Milder: effects,
		hiding: paint.Fair,
		swatch: "#7a684e",
	},
	{
		ID:     Wet,
		Usual:  "wet_spots",
		Name:   "Wet spots",
		family: "wet_gloss",
		Wears:  true,
		hiding: paint.Glaze,
		swatch: "#4a3f33",
	},
	{
		ID:     Grease,
		Usual:  "oil_deck",
		Name:   "Grease, fuel, oil",
		family: "enamel_effect",
		Wears:  true,
		Milder: effects,
		hiding: paint.Glaze,
		swatch: "#2e2a26",
	},
	{
		ID:     Soot,
		Usual:  "soot",
		Name:   "Soot",
		family: "pigment_dry",
		Wears:  true,
		Loose:  true,
		hiding: paint.Fair,
		swatch: "#1e1d1c",
	},
	{
		ID:     Pigment,
		Usual:  "dust_pigment",
		Name:   "Pigment",
		family: "pigment_dry",
		Wears:  true,
		Loose:  true,
		Films:  true,
		hiding: 0.7,
		swatch: "#a08c6c",
	},
	{ID: RubClean, Usual: "rub_clean", Name: "Earth rubbed off", family: unsold, Wears: true, bares: bareEarth},
	{ID: Fix, Name: "Pigment fixer", family: "pigment_fixer", Films: true, Usual: "fix_pigment"},
	{
		ID:     Metal,
		Usual:  "metal_hands",
		Name:   "Bare metal",
		family: "graphite",
		hiding: paint.Full,
		swatch: "#8b8e90",
	},
}

// Abouts lists what is known of all kinds of layer, in the usual working order.
func Abouts() []About {
	out := slices.Clone(abouts)
	for i := range out {
		out[i].Fresh, out[i].Works = out[i].ID.Fresh(), out[i].ID.Works()
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

// Works tells of a layer that lays nothing and works on what lies there: no jar is wanted for it.
func (k Kind) Works() bool { return k.About().bares != 0 }

// Shows tells of a layer that is meant to be seen itself: no primer, clear coat, or what only serves others.
func (l Layer) Shows() bool {
	switch l.Kind {
	case Prime, Clear, ChippingCoat, Fix, Decals:
		return false
	}
	return true
}

// IsScheme tells a camouflage layer from a layer of one colour of its own.
func (l Layer) IsScheme() bool { return l.Kind == Colour && l.Hex == "" }

// Undressed are the swatches that track and rubber have while no step of their own paints
// them: they come with the scheme, which leaves them out.
var undressed = []bareZone{{"#4b4641", zone.IsTrack, false}, {"#3c3b3a", zone.IsRubber, true}}

// bareZone is track or rubber.
type bareZone struct {
	swatch string
	on     func(zone string) bool
	rubber bool
}

// of is the zone with another swatch of rubber, where one is named.
func (u bareZone) of(rubber string) bareZone {
	if u.rubber && rubber != "" {
		u.swatch = rubber
	}
	return u
}

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
