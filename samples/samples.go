// Package samples carries the demo builds, as the same JSON that import reads.
// Their logs count back in minutes from the moment of loading.
package samples

import (
	"bytes"
	"embed"
	"fmt"

	"cinderpath/sheets"
)

//go:embed *.json
var files embed.FS

// names in the order in which home shows them.
var names = []string{"varrow", "pellick", "drumble"}

// Documents reads the demo builds; their times are still relative.
func Documents() ([]sheets.Document, error) {
	var out []sheets.Document
	for _, name := range names {
		data, err := files.ReadFile(name + ".json")
		if err != nil {
			return nil, err
		}
		d, err := sheets.Read(bytes.NewReader(data))
		if err != nil {
			return nil, fmt.Errorf("sample %s: %w", name, err)
		}
		out = append(out, d)
	}
	return out, nil
}
