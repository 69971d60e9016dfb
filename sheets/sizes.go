package sheets

import (
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"slices"
	"strconv"
	"strings"

	"cinderpath/core/document"
	"cinderpath/core/length"
	"cinderpath/core/measure"
	"cinderpath/core/plan"
)

// Limits of a pasted table.
const (
	longestTable = 256 << 10 // bytes
	longestCell  = 400
)

// SizeFault is a row that could not be read; its text is kept, so that nothing is lost.
type SizeFault struct {
	Row    int    `json:"row"`
	Text   string `json:"text"`
	Field  string `json:"field"`
	Reason string `json:"reason"`
	Remedy string `json:"remedy"`
}

// SizeTable is what was read from a pasted table.
type SizeTable struct {
	Rows    []document.DimensionEdit `json:"rows"`
	Faults  []SizeFault              `json:"faults"`
	Columns []string                 `json:"columns"` // how each column was understood
}

// Columns of a table of sizes.
const (
	colGroup  = "group"
	colName   = "name"
	colReal   = "real"
	colKit    = "kit"
	colPlus   = "plusMinus"
	colFrom   = "from"
	colAlong  = "along"
	colSeen   = "seen"
	colSource = "source"
	colOther  = "not read"
)

// headings are the words that a column is known by.
var headings = map[string]string{
	"group":       colGroup,
	"part":        colGroup,
	"name":        colName,
	"dimension":   colName,
	"what":        colName,
	"size":        colReal,
	"real":        colReal,
	"full size":   colReal,
	"kit":         colKit,
	"caliper":     colKit,
	"measured":    colKit,
	"plus_minus":  colPlus,
	"±":           colPlus,
	"+/-":         colPlus,
	"+-":          colPlus,
	"uncertainty": colPlus,
	"from":        colFrom,
	"along":       colAlong,
	"seen":        colSeen,
	"source":      colSource,
	"note":        colSource,
}

// ReadSizes reads a table of dimensions as a spreadsheet copies or saves it:
// separated by tabs, semicolons or commas, with a line of headings or without. A
// bare number is in mm unless its heading names a unit ("real (m)"). Rows that
// cannot be read are given back with field, reason and remedy; the others stand.
func ReadSizes(text string) (SizeTable, error) {
	out := SizeTable{Rows: []document.DimensionEdit{}, Faults: []SizeFault{}, Columns: []string{}}
	if len(text) > longestTable {
		return out, &measure.Fault{
			Field:  "table",
			Reason: fmt.Sprintf("longer than %d kB", longestTable>>10),
			Remedy: "paste it in parts",
		}
	}
	text = strings.TrimPrefix(text, "\ufeff")
	r := csv.NewReader(strings.NewReader(text))
	r.Comma, r.LazyQuotes, r.FieldsPerRecord = separator(text), true, -1
	r.TrimLeadingSpace = r.Comma != '\t' // a tab is a space too: empty cells would be lost
	units := map[int]string{}
	for first := true; ; {
		row, err := r.Read()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			return out, &measure.Fault{Field: "table", Reason: err.Error(), Remedy: "copy the cells again"}
		}
		line, _ := r.FieldPos(0)
		for i := range row {
			row[i] = asWritten(strings.TrimSpace(row[i]))
		}
		if strings.Join(row, "") == "" {
			continue
		}
		if first {
			first = false
			if columns, u, ok := heading(row); ok {
				out.Columns, units = columns, u
				continue
			}
			out.Columns = guess(row)
		}
		if len(out.Rows)+len(out.Faults) >= measure.MostDimensions {
			return out, &measure.Fault{
				Field:  "table",
				Reason: fmt.Sprintf("more than %d rows", measure.MostDimensions),
				Remedy: "paste it in parts",
			}
		}
		edit, err := rowEdit(row, out.Columns, units)
		if err != nil {
			f := SizeFault{Row: line, Text: clip([]byte(strings.Join(row, " | "))), Field: "row", Reason: err.Error()}
			var fault *measure.Fault
			if errors.As(err, &fault) {
				f.Field, f.Reason, f.Remedy = fault.Field, fault.Reason, fault.Remedy
			}
			out.Faults = append(out.Faults, f)
			continue
		}
		out.Rows = append(out.Rows, edit)
	}
	if len(out.Rows)+len(out.Faults) == 0 {
		return out, &measure.Fault{
			Field:  "table",
			Reason: "there is no row in it",
			Remedy: "paste rows of name, real size and kit size",
		}
	}
	return out, nil
}

// separator is the one of tab, semicolon and comma that the first line has; a
// comma only where neither of the others is there, since it may be a decimal one.
func separator(text string) rune {
	line, _, _ := strings.Cut(text, "\n")
	for _, s := range "\t;" {
		if strings.ContainsRune(line, s) {
			return s
		}
	}
	return ','
}

// heading reads a first row of headings; ok is false when it is data.
func heading(row []string) (columns []string, units map[int]string, ok bool) {
	units = map[int]string{}
	known := 0
	for i, cell := range row {
		word := strings.ToLower(cell)
		unit := ""
		word = strings.Trim(strings.NewReplacer("(", " ", ")", " ", "[", " ", "]", " ").Replace(word), " ")
		for _, u := range []string{"mm", "cm", "m", "in", "ft"} {
			for _, gap := range []string{" ", "_"} {
				if w, cut := strings.CutSuffix(word, gap+u); cut {
					word, unit = strings.TrimSpace(w), u
				}
			}
		}
		col, is := headings[word]
		if !is || slices.Contains(columns, col) {
			col = colOther
		} else {
			known++
		}
		columns = append(columns, col)
		units[i] = unit
	}
	return columns, units, slices.Contains(columns, colName) && known >= 2
}

// guess names the columns of a table without headings: a group when the first cell
// is one, then name, real size, kit size, uncertainty.
func guess(row []string) []string {
	order := []string{colName, colReal, colKit, colPlus, colSource}
	if slices.Contains(measure.Groups, strings.ToLower(row[0])) {
		order = append([]string{colGroup}, order...)
	}
	for len(order) < len(row) {
		order = append(order, colOther)
	}
	return order[:len(row)]
}

func rowEdit(row, columns []string, units map[int]string) (document.DimensionEdit, error) {
	e := document.DimensionEdit{ByName: true}
	for i, cell := range row {
		if i >= len(columns) || cell == "" {
			continue
		}
		if len(cell) > longestCell {
			return e, &measure.Fault{Field: columns[i], Reason: "the cell is longer than any size or name", Remedy: "shorten it"}
		}
		if unit := units[i]; unit != "" && strings.Trim(cell, "0123456789.,/ ") == "" {
			cell += " " + unit
		}
		value := cell
		switch columns[i] {
		case colGroup:
			value = strings.ToLower(value)
			if !slices.Contains(measure.Groups, value) {
				return e, &measure.Fault{
					Field:  colGroup,
					Reason: fmt.Sprintf("%q is not a group", cell),
					Remedy: "use " + strings.Join(measure.Groups, ", "),
				}
			}
			e.Group = &value
		case colName:
			e.Name = &value
		case colReal:
			if _, err := length.ParseReal(value, length.Millimetre); err != nil {
				return e, measure.At(colReal, err)
			}
			e.Real = &value
		case colKit:
			if _, err := length.ParseModel(value, length.Millimetre); err != nil {
				return e, measure.At(colKit, err)
			}
			e.Kit = &value
		case colPlus:
			value = strings.TrimSpace(strings.TrimLeft(value, "±+-/ "))
			e.PlusMinus = &value
		case colFrom:
			e.From = &value
		case colAlong:
			e.Along = &value
		case colSeen:
			e.Seen = &value
		case colSource:
			e.Source = &value
		}
	}
	switch {
	case e.Name == nil:
		return e, &measure.Fault{
			Field:  colName,
			Reason: "the row has no name",
			Remedy: "write what is measured in its first column",
		}
	case e.Real == nil:
		return e, &measure.Fault{
			Field:  colReal,
			Reason: "the row has no real size",
			Remedy: "write it in the column after the name",
		}
	case e.Kit == nil:
		e.PlusMinus, e.From = nil, nil
	}
	return e, nil
}

// WriteSizes writes the size sheet as CSV, which ReadSizes reads back. Lengths are
// numbers in mm with a decimal point.
func WriteSizes(w io.Writer, p plan.Plan) error {
	mm := func(x float64) string { return strconv.FormatFloat(x, 'f', -1, 64) }
	rows := [][]string{
		{
			"group",
			"name",
			"real_mm",
			"model_mm",
			"kit_mm",
			"plus_minus_mm",
			"from",
			"deviation_mm",
			"along",
			"seen",
			"source",
		},
	}
	for _, l := range p.Sizes {
		row := []string{
			l.Group,
			l.Name,
			mm(l.RealMM),
			fmt.Sprintf("%.3f", l.ModelMM),
			"",
			"",
			"",
			"",
			l.Along,
			l.Seen,
			l.Source,
		}
		if l.Kit != nil {
			row[4], row[5], row[6], row[7] = mm(l.Kit.MM), mm(l.Kit.Plus), l.Kit.From, fmt.Sprintf("%.3f", l.Kit.MM-l.ModelMM)
		}
		rows = append(rows, row)
	}
	return writeTable(w, rows)
}
