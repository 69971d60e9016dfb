package measure

import (
	"embed"
	"fmt"
	"math"
	"slices"
	"sort"
	"strings"
	"sync"

	"cinderpath/core/length"
	"cinderpath/core/table"
)

//go:embed tables/*.csv
var tableFiles embed.FS

// Kinds of stock.
const (
	Rod    = "rod"
	Wire   = "wire"
	Tube   = "tube"
	Sheet  = "sheet"
	Strip  = "strip"
	Thread = "thread"
	Mesh   = "mesh"
	Drill  = "drill"
	Tape   = "tape"
)

// Kinds lists the kinds in the order of the table.
var Kinds = []string{Sheet, Strip, Rod, Tube, Wire, Thread, Mesh, Drill, Tape}

// Item is one size of stock, a drill or a tape. Size is the diameter, thickness,
// width of a tape or opening of a mesh; Second the width of a strip, the bore of a
// tube or the wire of a mesh, else 0.
type Item struct {
	ID       string       `json:"id"`
	Kind     string       `json:"kind"`
	Material string       `json:"material"`
	Name     string       `json:"name"` // as it is asked for at the bench
	Size     length.Model `json:"sizeMm"`
	Second   length.Model `json:"secondMm,omitempty"`
}

var builtin = sync.OnceValue(func() []Item {
	var out []Item
	for _, r := range table.Read(tableFiles, "stock") {
		out = append(out, Item{
			Kind:     r["kind"],
			Material: r["material"],
			Name:     r["name"],
			Size:     length.Model(r.Number("a_mm")),
			Second:   length.Model(r.Number("b_mm")),
		})
	}
	for _, r := range table.Read(tableFiles, "drills") {
		out = append(out, Item{Kind: Drill, Material: "steel", Name: r["name"], Size: length.Model(r.Number("diameter_mm"))})
	}
	for i := range out {
		out[i].ID = out[i].Kind + ":" + out[i].Name
	}
	return out
})

// Shelf is what a workshop changed in the table of stock, and what it owns.
type Shelf struct {
	Own   []string           `json:"own,omitempty"`   // ids
	Added []Item             `json:"added,omitempty"` // own sizes, or corrected ones under the id of the table
	Gone  []string           `json:"gone,omitempty"`  // ids taken out of the table
	Bend  map[string]float64 `json:"bend,omitempty"`  // least bend radius in diameters, by kind
}

const mostShelf = 1000

// Check reports the first fault of a shelf.
func (s Shelf) Check() error {
	if len(s.Own)+len(s.Added)+len(s.Gone) > mostShelf {
		return &Fault{"stock", fmt.Sprintf("more than %d changes to the table", mostShelf), "take some out"}
	}
	seen := map[string]bool{}
	for i, it := range s.Added {
		if err := it.check(); err != nil {
			return At(fmt.Sprintf("stock.added[%d]", i), err)
		}
		if seen[it.ID] {
			return &Fault{fmt.Sprintf("stock.added[%d]", i), fmt.Sprintf("%q is there twice", it.Name), "keep one of them"}
		}
		seen[it.ID] = true
	}
	for kind, k := range s.Bend {
		if !slices.Contains([]string{Wire, Thread, Rod, stiffCable}, kind) || !(k >= 0 && k <= 100) {
			return &Fault{
				"stock.bend",
				fmt.Sprintf("%s at %g diameters is no bend", kind, k),
				"give wire, thread, rod or cable 0 to 100 diameters",
			}
		}
	}
	return nil
}

func (it Item) check() error {
	switch {
	case it.ID == "" || strings.TrimSpace(it.Name) == "" || len(it.Name) > longName || len(it.Material) > longName:
		return &Fault{"name", "an item needs a name", "write it as you would ask for it, such as 0.45 mm wire"}
	case !slices.Contains(Kinds, it.Kind):
		return &Fault{"kind", fmt.Sprintf("%q is no kind of stock", it.Kind), "use " + strings.Join(Kinds, ", ")}
	case !(it.Size > 0 && it.Size <= 500):
		return &Fault{"sizeMm", "it must lie above 0 and up to 500 mm", "give its size in mm"}
	case !(it.Second >= 0 && it.Second <= 500):
		return &Fault{"secondMm", "it must lie between 0 and 500 mm", "give the width, bore or wire in mm"}
	case it.Kind == Tube && !(it.Second < it.Size):
		return &Fault{"secondMm", "a tube's bore is smaller than its diameter", "give the bore in mm"}
	}
	return nil
}

// Stocked is an item of the table as a workshop sees it.
type Stocked struct {
	Item
	Owned   bool `json:"owned"`
	Changed bool `json:"changed"` // added or corrected by the workshop
}

// Table is the built-in table with the workshop's changes, by kind and size.
func (s Shelf) Table() []Stocked {
	own, gone, changed := map[string]bool{}, map[string]bool{}, map[string]Item{}
	for _, id := range s.Own {
		own[id] = true
	}
	for _, id := range s.Gone {
		gone[id] = true
	}
	for _, it := range s.Added {
		changed[it.ID] = it
	}
	var out []Stocked
	for _, it := range builtin() {
		_, ours := changed[it.ID]
		if !gone[it.ID] && !ours {
			out = append(out, Stocked{Item: it, Owned: own[it.ID]})
		}
	}
	for _, it := range s.Added {
		if !gone[it.ID] {
			out = append(out, Stocked{Item: it, Owned: own[it.ID], Changed: true})
		}
	}
	sort.SliceStable(out, func(i, j int) bool {
		a, b := out[i], out[j]
		if ka, kb := slices.Index(Kinds, a.Kind), slices.Index(Kinds, b.Kind); ka != kb {
			return ka < kb
		}
		return a.Size < b.Size || a.Size == b.Size && a.Second < b.Second
	})
	return out
}

// Of gives the items of the kinds; owned leaves out what the workshop has not.
func (s Shelf) Of(owned bool, kinds ...string) []Stocked {
	var out []Stocked
	for _, it := range s.Table() {
		if slices.Contains(kinds, it.Kind) && (it.Owned || !owned) {
			out = append(out, it)
		}
	}
	return out
}

// Near is the stock next to a wanted size.
type Near struct {
	Stocked
	Error float64      // (size - wanted) / wanted
	Full  length.Real  // what the item measures at full size
	Off   length.Model // size - wanted
}

func near(it Stocked, wanted length.Model, scale length.Scale) Near {
	return Near{
		Stocked: it,
		Error:   float64(it.Size-wanted) / float64(wanted),
		Full:    scale.ToReal(it.Size),
		Off:     it.Size - wanted,
	}
}

// exact is how far two sizes of stock may lie apart and still be one, model mm.
const exact length.Model = 0.0005

// Around gives the nearest item at or under the wanted size and the nearest over
// it; nil where there is none. An exact size is both.
func Around(items []Stocked, wanted length.Model, scale length.Scale) (under, over *Near) {
	for _, it := range items {
		n := near(it, wanted, scale)
		if n.Off <= exact && (under == nil || n.Size > under.Size) {
			under = &n
		}
		if n.Off >= -exact && (over == nil || n.Size < over.Size) {
			over = &n
		}
	}
	return under, over
}

// Nearest gives the item that is closest to the wanted size; of equal ones an owned
// one, then the first of the table. Without any item ok is false.
func Nearest(items []Stocked, wanted length.Model, scale length.Scale) (best Near, ok bool) {
	for _, it := range items {
		n := near(it, wanted, scale)
		closer := math.Abs(float64(n.Off)) - math.Abs(float64(best.Off))
		if !ok || closer < -float64(exact) || closer < float64(exact) && n.Owned && !best.Owned {
			best, ok = n, true
		}
	}
	return best, ok
}
