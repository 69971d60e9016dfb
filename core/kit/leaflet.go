package kit

import (
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"slices"
	"strconv"
	"strings"
	"time"
)

func isDate(s string) bool {
	_, err := time.Parse(time.DateOnly, s)
	return err == nil
}

// Leaf is one step of the kit's leaflet, with what other builders say of it.
type Leaf struct {
	Step       string   `json:"step"` // its number, as printed
	Text       string   `json:"text"`
	Parts      []string `json:"parts,omitempty"` // as numbered there
	Note       string   `json:"note,omitempty"`
	Correction string   `json:"correction,omitempty"`
	For        []string `json:"for,omitempty"` // ids of the parts, openings and decals that it is about
}

// columns of a leaflet's CSV: step and text are asked for.
var columns = []string{"step", "text", "parts", "note", "correction"}

// ReadLeaflet reads steps from CSV with a heading line: step, text, parts (separated by
// blanks), note, correction; semicolons and tabs part columns as well as commas.
func ReadLeaflet(text string) ([]Leaf, error) {
	head, _, _ := strings.Cut(text, "\n")
	r := csv.NewReader(strings.NewReader(text))
	r.FieldsPerRecord = -1
	r.TrimLeadingSpace = true
	for _, sep := range ";\t" {
		if strings.ContainsRune(head, sep) {
			r.Comma = sep
		}
	}
	names, err := r.Read()
	if err != nil {
		return nil, errors.New("nothing is written; paste lines with a heading: step, text, parts, note, correction")
	}
	at := map[string]int{}
	for i, n := range names {
		n = strings.ToLower(strings.TrimSpace(strings.TrimPrefix(n, "\ufeff")))
		if !slices.Contains(columns, n) {
			return nil, fmt.Errorf("column %q is not known; use %s", n, strings.Join(columns, ", "))
		}
		at[n] = i
	}
	if _, ok := at["text"]; !ok {
		return nil, errors.New(
			"there is no column text; the first line names the columns: step, text, parts, note, correction",
		)
	}
	var out []Leaf
	for line := 2; ; line++ {
		row, err := r.Read()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			return nil, fmt.Errorf("line %d cannot be read: %w; put text with commas in quotes", line, err)
		}
		cell := func(name string) string {
			if i, ok := at[name]; ok && i < len(row) {
				return strings.TrimSpace(row[i])
			}
			return ""
		}
		leaf := Leaf{
			Step:       cell("step"),
			Text:       cell("text"),
			Parts:      strings.Fields(strings.ReplaceAll(cell("parts"), ",", " ")),
			Note:       cell("note"),
			Correction: cell("correction"),
		}
		if leaf.Text == "" && leaf.Step == "" && len(leaf.Parts) == 0 {
			continue
		}
		if leaf.Step == "" {
			leaf.Step = strconv.Itoa(len(out) + 1)
		}
		if leaf.Text == "" {
			return nil, fmt.Errorf("line %d, step %s, has no text; say what is done there", line, leaf.Step)
		}
		out = append(out, leaf)
	}
	if len(out) == 0 {
		return nil, errors.New("there is a heading and no step below it; add lines")
	}
	if len(out) > most {
		return nil, fmt.Errorf("%d steps are more than one leaflet has; at most %d", len(out), most)
	}
	return out, nil
}
