package strata

import (
	"embed"
	"encoding/csv"
	"fmt"
	"strconv"
	"strings"
	"sync"
)

//go:embed tables/*.csv
var tableFiles embed.FS

// Family is a kind of product with its starting values at 20 °C and 50 % humidity.
type Family struct {
	ID           string  `json:"id"`
	Name         string  `json:"name"`
	Thinner      string  `json:"thinner"`
	Brings       string  `json:"brings"` // carrier; "carrier" means as the product says; "none" attacks nothing
	Touch        float64 `json:"touchMin"`
	NextCoat     float64 `json:"nextCoatMin"`
	Handle       float64 `json:"handleMin"`
	Cured        float64 `json:"curedMin"`
	PerMM        bool    `json:"perMm"`
	TakeBackFrom float64 `json:"takeBackFromMin"`
	TakeBackTo   float64 `json:"takeBackToMin"`
	Work         float64 `json:"workMin"`
	Solids       float64 `json:"volumeSolids"`
	FilmBrush    float64 `json:"filmBrushUm"`
	FilmSpray    float64 `json:"filmSprayUm"`
	Sheen        string  `json:"sheen"`
	Note         string  `json:"note"`
}

type attackKey struct{ brings, below string }

type attack struct{ brushed, misted byte }

type tables struct {
	families []Family
	byID     map[string]Family
	attacks  map[attackKey]attack
}

var table = sync.OnceValue(func() tables {
	t := tables{byID: map[string]Family{}, attacks: map[attackKey]attack{}}
	for _, row := range readTable("families") {
		n := func(name string) float64 {
			x, err := strconv.ParseFloat(row[name], 64)
			if err != nil && row[name] != "" {
				panic(fmt.Sprintf("families table: %s of %s: %v", name, row["id"], err))
			}
			return x
		}
		f := Family{ID: row["id"], Name: row["name"], Thinner: row["thinner"], Brings: row["brings"],
			Touch: n("touch_min"), NextCoat: n("next_coat_min"), Handle: n("handle_min"), Cured: n("cured_min"), PerMM: row["per_mm"] == "1",
			TakeBackFrom: n("takeback_from_min"), TakeBackTo: n("takeback_to_min"), Work: n("work_min"),
			Solids: n("volume_solids"), FilmBrush: n("film_brush_um"), FilmSpray: n("film_spray_um"), Sheen: row["sheen"], Note: row["note"]}
		t.families = append(t.families, f)
		t.byID[f.ID] = f
	}
	for _, row := range readTable("attacks") {
		t.attacks[attackKey{row["brings"], row["below"]}] = attack{row["brushed"][0], row["misted"][0]}
	}
	return t
})

// readTable reads a built-in table; a fault in it is a fault of the program.
func readTable(name string) []map[string]string {
	data, err := tableFiles.ReadFile("tables/" + name + ".csv")
	if err != nil {
		panic(err)
	}
	rows, err := csv.NewReader(strings.NewReader(string(data))).ReadAll()
	if err != nil {
		panic(fmt.Sprintf("%s table: %v", name, err))
	}
	var out []map[string]string
	for _, row := range rows[1:] {
		named := map[string]string{}
		for i, head := range rows[0] {
			named[head] = row[i]
		}
		out = append(out, named)
	}
	return out
}

// Families lists the kinds of product in the order of the table.
func Families() []Family { return append([]Family(nil), table().families...) }

// FamilyOf looks a family up by id.
func FamilyOf(id string) (Family, bool) {
	f, ok := table().byID[id]
	return f, ok
}

// surfaces maps a family to the row of the attack table it is below.
var surfaces = map[string]string{
	"oil_thin": "oil", "oil_thick": "oil", "pigment_dry": "pigment_loose", "pastel": "pigment_loose",
	"pigment_wet": "pigment_wet_set", "pigment_fixer": "pigment_fixed", "spray_can_primer": "primer_lacquer",
	"spray_can_colour": "lacquer", "wet_gloss": "clear_acrylic", "putty_solvent": "putty", "putty_sprue": "putty", "putty_epoxy": "putty",
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
	a, ok := table().attacks[attackKey{brings, surface}]
	switch {
	case !ok:
		return 'S'
	case applied == Misted:
		return a.misted
	default:
		return a.brushed
	}
}
