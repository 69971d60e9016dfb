package sheets

import (
	"encoding/csv"
	"io"
	"strconv"
	"strings"
)

// formula begins what a spreadsheet would compute instead of show.
const formula = "=+-@\t\r"

// writeTable writes rows as CSV. Text that a spreadsheet would take for a formula gets an
// apostrophe before it, which shown does not; numbers stay as they are.
func writeTable(w io.Writer, rows [][]string) error {
	for _, row := range rows {
		for i, cell := range row {
			if cell == "" || !strings.ContainsRune(formula, rune(cell[0])) {
				continue
			}
			if _, err := strconv.ParseFloat(cell, 64); err != nil {
				row[i] = "'" + cell
			}
		}
	}
	return csv.NewWriter(w).WriteAll(rows)
}

// asWritten takes the apostrophe of writeTable away again.
func asWritten(cell string) string {
	if len(cell) > 1 && cell[0] == '\'' && strings.ContainsRune(formula, rune(cell[1])) {
		return cell[1:]
	}
	return cell
}
