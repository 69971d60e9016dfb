package strata

import (
	"slices"
	"sync"

	"cinderpath/core/table"
)

// NamedLife is a life that one may begin from, or hold one's own against.
type NamedLife struct {
	Name string `json:"name"`
	Life Life   `json:"life"`
}

var lives = sync.OnceValue(func() (out []NamedLife) {
	for _, r := range table.Read(tableFiles, "lives") {
		n := NamedLife{Name: r["name"], Life: Life{}}
		for _, a := range axes() {
			if value := r[a.ID]; value != a.Values[0].Value { // what is usual changes nothing, and is not said
				n.Life[a.ID] = value
			}
		}
		if err := n.Life.Check(); err != nil {
			panic("table lives: " + err.Error())
		}
		out = append(out, n)
	}
	return out
})

// Lives lists them.
func Lives() []NamedLife { return slices.Clone(lives()) }
