package measure

import (
	"embed"
	"encoding/csv"
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"
	"sync"

	"cinderpath/core/length"
)

//go:embed tables/*.csv
var tableFiles embed.FS

// Item is one size of stock, a drill or a tape.
type Item struct {
	Kind string       // rod, wire, tube, sheet, thread, drill, tape …
	Name string       // as it is asked for at the bench
	Size length.Model // diameter, thickness or width
}

var items = sync.OnceValue(func() []Item {
	var out []Item
	add := func(file string, item func(row []string) Item) {
		data, err := tableFiles.ReadFile("tables/" + file)
		if err != nil {
			panic(err)
		}
		rows, err := csv.NewReader(strings.NewReader(string(data))).ReadAll()
		if err != nil {
			panic(fmt.Sprintf("%s: %v", file, err))
		}
		for _, row := range rows[1:] {
			out = append(out, item(row))
		}
	}
	size := func(s string) length.Model {
		x, err := strconv.ParseFloat(s, 64)
		if err != nil {
			panic(fmt.Sprintf("table size %q: %v", s, err))
		}
		return length.Model(x)
	}
	add("stock.csv", func(r []string) Item {
		return Item{Kind: r[0], Name: r[4], Size: size(r[2])}
	})
	add("drills.csv", func(r []string) Item { return Item{Kind: "drill", Name: r[0], Size: size(r[1])} })
	return out
})

// Near is the stock next to a wanted size.
type Near struct {
	Item
	Error float64      // (size - wanted) / wanted
	Full  length.Real  // what the item measures at full size
	Off   length.Model // size - wanted
}

// Nearest gives the item of the kinds that is closest to the wanted size; of equal
// ones the first of the table. Without any such item ok is false.
func Nearest(wanted length.Model, scale length.Scale, kinds ...string) (near Near, ok bool) {
	best := math.Inf(1)
	for _, it := range items() {
		if !slices.Contains(kinds, it.Kind) {
			continue
		}
		if d := math.Abs(float64(it.Size - wanted)); d < best {
			best, ok = d, true
			near = Near{Item: it, Error: float64(it.Size-wanted) / float64(wanted), Full: scale.ToReal(it.Size), Off: it.Size - wanted}
		}
	}
	return near, ok
}
