// Package samples carries the demo builds, as the same JSON that import reads.
// Their logs count back in minutes from the moment of loading.
package samples

import (
	"bytes"
	"crypto/sha256"
	"embed"
	"encoding/hex"
	"fmt"

	"cinderpath/sheets"
)

//go:embed *.json files/*
var files embed.FS

// Files gives the photographs and meshes that the demo builds name, by content hash
// (SHA-256, hex). Package scene draws them.
func Files() (map[string][]byte, error) {
	entries, err := files.ReadDir("files")
	if err != nil {
		return nil, err
	}
	out := map[string][]byte{}
	for _, e := range entries {
		data, err := files.ReadFile("files/" + e.Name())
		if err != nil {
			return nil, err
		}
		sum := sha256.Sum256(data)
		out[hex.EncodeToString(sum[:])] = data
	}
	return out, nil
}

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
