package strata

import (
	"embed"
	"sync"

	"cinderpath/core/paint"
	"cinderpath/core/table"
)

//go:embed tables/*.csv
var tableFiles embed.FS

type attackKey struct{ brings, below string }

type attack struct{ brushed, misted byte }

// attacks is what carriers do to surfaces.
var attacks = sync.OnceValue(func() map[attackKey]attack {
	out := map[attackKey]attack{}
	for _, row := range table.Read(tableFiles, "attacks") {
		out[attackKey{row["brings"], row["below"]}] = attack{row["brushed"][0], row["misted"][0]}
	}
	return out
})

// familyOf gives a kind of products by its id; nothing of one that is not in the table.
func familyOf(id string) paint.Family {
	f, _ := paint.FamilyOf(id)
	return f
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
	a, ok := attacks()[attackKey{brings, surface}]
	switch {
	case !ok:
		return 'S'
	case applied == Misted:
		return a.misted
	default:
		return a.brushed
	}
}
