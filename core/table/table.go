package table

import (
	"bytes"
	"encoding/csv"
	"fmt"
	"io/fs"
	"path"
	"strconv"
	"strings"
)

// Row is a line of a table, by the names at its head.
type Row map[string]string

// Read gives the rows of tables/name.csv in a file system; it panics when the table is not
// whole.
func Read(files fs.FS, name string) []Row {
	data, err := fs.ReadFile(files, path.Join("tables", name+".csv"))
	if err != nil {
		panic(err)
	}
	lines, err := csv.NewReader(bytes.NewReader(data)).ReadAll()
	if err != nil {
		panic(fmt.Sprintf("table %s: %v", name, err))
	}
	out := make([]Row, 0, len(lines)-1)
	for _, line := range lines[1:] {
		row := Row{}
		for i, head := range lines[0] {
			row[head] = line[i]
		}
		out = append(out, row)
	}
	return out
}

// Number reads a cell; an empty one is 0. It panics where there is something else.
func (r Row) Number(name string) float64 {
	if r[name] == "" {
		return 0
	}
	x, err := strconv.ParseFloat(r[name], 64)
	if err != nil {
		panic(fmt.Sprintf("table: %s in %v: %v", name, r, err))
	}
	return x
}

// Is tells of a cell that says 1.
func (r Row) Is(name string) bool { return r[name] == "1" }

// List gives what a cell lists, parted by bars; an empty one lists nothing.
func (r Row) List(name string) []string {
	if r[name] == "" {
		return []string{}
	}
	return strings.Split(r[name], "|")
}
