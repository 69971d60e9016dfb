package strata

import (
	"embed"
	"sync"

	"cinderpath/core/table"
	"cinderpath/core/unit"
)

//go:embed tables/*.csv
var tableFiles embed.FS

// Family is a kind of product with its starting values at 20 °C and 50 % humidity.
type Family struct {
	ID           string       `json:"id"`
	Name         string       `json:"name"`
	Thinner      string       `json:"thinner"`
	Brings       string       `json:"brings"` // carrier; "carrier" means as the product says; "none" attacks nothing
	Touch        unit.Minutes `json:"touchMin"`
	NextCoat     unit.Minutes `json:"nextCoatMin"`
	Handle       unit.Minutes `json:"handleMin"`
	Cured        unit.Minutes `json:"curedMin"`
	PerMM        bool         `json:"perMm"`
	TakeBackFrom unit.Minutes `json:"takeBackFromMin"`
	TakeBackTo   unit.Minutes `json:"takeBackToMin"`
	Work         unit.Minutes `json:"workMin"`
	Solids       float64      `json:"volumeSolids"`
	FilmBrush    float64      `json:"filmBrushUm"`
	FilmSpray    float64      `json:"filmSprayUm"`
	Sheen        string       `json:"sheen"`
	Note         string       `json:"note"`
}

type attackKey struct{ brings, below string }

type attack struct{ brushed, misted byte }

type tables struct {
	families []Family
	byID     map[string]Family
	attacks  map[attackKey]attack
}

var products = sync.OnceValue(func() tables {
	t := tables{byID: map[string]Family{}, attacks: map[attackKey]attack{}}
	for _, row := range table.Read(tableFiles, "families") {
		f := Family{
			ID:           row["id"],
			Name:         row["name"],
			Thinner:      row["thinner"],
			Brings:       row["brings"],
			Touch:        unit.Minutes(row.Number("touch_min")),
			NextCoat:     unit.Minutes(row.Number("next_coat_min")),
			Handle:       unit.Minutes(row.Number("handle_min")),
			Cured:        unit.Minutes(row.Number("cured_min")),
			PerMM:        row.Is("per_mm"),
			TakeBackFrom: unit.Minutes(row.Number("takeback_from_min")),
			TakeBackTo:   unit.Minutes(row.Number("takeback_to_min")),
			Work:         unit.Minutes(row.Number("work_min")),
			Solids:       row.Number("volume_solids"),
			FilmBrush:    row.Number("film_brush_um"),
			FilmSpray:    row.Number("film_spray_um"),
			Sheen:        row["sheen"],
			Note:         row["note"],
		}
		t.families = append(t.families, f)
		t.byID[f.ID] = f
	}
	for _, row := range table.Read(tableFiles, "attacks") {
		t.attacks[attackKey{row["brings"], row["below"]}] = attack{row["brushed"][0], row["misted"][0]}
	}
	return t
})

// Families lists the kinds of product in the order of the table.
func Families() []Family { return append([]Family(nil), products().families...) }

// FamilyOf looks a family up by id.
func FamilyOf(id string) (Family, bool) {
	f, ok := products().byID[id]
	return f, ok
}

// surfaces maps a family to the row of the attack table it is below.
var surfaces = map[string]string{
	"oil_thin":         "oil",
	"oil_thick":        "oil",
	"pigment_dry":      "pigment_loose",
	"pastel":           "pigment_loose",
	"pigment_wet":      "pigment_wet_set",
	"pigment_fixer":    "pigment_fixed",
	"spray_can_primer": "primer_lacquer",
	"spray_can_colour": "lacquer",
	"wet_gloss":        "clear_acrylic",
	"putty_solvent":    "putty",
	"putty_sprue":      "putty",
	"putty_epoxy":      "putty",
}

func surfaceOf(family string) string {
	if s, ok := surfaces[family]; ok {
		return s
	}
	return family
}

// attackOf is the letter of the table: what the carrier does to the surface.
// Carriers and surfaces that the table does not list are safe.
func attackOf(brings, surface string, applied Application) byte {
	a, ok := products().attacks[attackKey{brings, surface}]
	switch {
	case !ok:
		return 'S'
	case applied == Misted:
		return a.misted
	default:
		return a.brushed
	}
}
