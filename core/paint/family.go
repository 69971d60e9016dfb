package paint

import (
	"embed"
	"slices"
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
	Carrier      string       `json:"-"`
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

// families are the kinds of product in the order of the table, and each by its id.
var families = sync.OnceValues(func() (all []Family, byID map[string]Family) {
	byID = map[string]Family{}
	for _, row := range table.Read(tableFiles, "families") {
		f := Family{
			ID:           row["id"],
			Name:         row["name"],
			Carrier:      row["carrier"],
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
		all, byID[f.ID] = append(all, f), f
	}
	return all, byID
})

// Families lists the kinds of product in the order of the table.
func Families() []Family {
	all, _ := families()
	return append([]Family(nil), all...)
}

// FamilyOf looks a kind of product up by id.
func FamilyOf(id string) (Family, bool) {
	_, byID := families()
	f, ok := byID[id]
	return f, ok
}

// fluids are what a jar can hold besides: they are not laid as layers.
var fluids = sync.OnceValue(func() (out []Fluid) {
	for _, row := range table.Read(tableFiles, "fluids") {
		out = append(out, Fluid{row["id"], row["name"], row["brings"]})
	}
	return out
})

// Fluid is a thinner, or what is brushed on and leaves nothing.
type Fluid struct {
	ID     string `json:"id"`
	Name   string `json:"name"`
	Brings string `json:"brings"`
}

// Fluids lists them in the order of the table.
func Fluids() []Fluid { return slices.Clone(fluids()) }

// KindName is the name of what a jar holds, by family or fluid; its id where there is none.
func KindName(id string) string {
	if name, ok := kindName(id); ok {
		return name
	}
	return id
}

// kindName is the name of what a jar holds, by family or fluid; ok is false where there is
// none.
func kindName(id string) (name string, ok bool) {
	if f, ok := FamilyOf(id); ok {
		return f.Name, true
	}
	if i := slices.IndexFunc(fluids(), func(f Fluid) bool { return f.ID == id }); i >= 0 {
		return fluids()[i].Name, true
	}
	return "", false
}

// mixes are the families whose paints can be mixed for a colour, by the carrier that they
// share.
var mixes = map[string]int{
	"waterborne_acrylic": 1, "acrylic_wash": 1,
	"alcohol_acrylic": 2,
	"lacquer":         3,
	"enamel_paint":    4, "enamel_effect": 4,
	"oil_thin": 5, "oil_thick": 5,
	"pigment_dry": 6,
}
