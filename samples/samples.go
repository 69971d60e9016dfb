// Package samples carries the demo builds, as the same JSON that import reads.
// Their logs count back in minutes from the moment of loading.
package samples

import (
	"bytes"
	"crypto/sha256"
	"embed"
	"encoding/csv"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"strconv"
	"time"

	"cinderpath/core/paint"
	"cinderpath/core/path"
	"cinderpath/sheets"
)

//go:embed *.json weather.csv files/*
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
	shelf, err := Shelf()
	if err != nil {
		return nil, err
	}
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
		d.Workshop.Paint = shelf
		out = append(out, d)
	}
	return out, nil
}

// Shelf is the demo's jars and mixes; when an ordered one arrives is counted from the moment
// of loading.
func Shelf() (paint.Shelf, error) {
	var out paint.Shelf
	data, err := files.ReadFile("shelf.json")
	if err == nil {
		err = json.Unmarshal(data, &out)
	}
	return out, errors.Join(err, out.Check())
}

// Weather is a simulated late autumn on the coast, dated from a day on: a stand-in for a
// forecast.
func Weather(from time.Time) ([]path.Air, error) {
	data, err := files.ReadFile("weather.csv")
	if err != nil {
		return nil, err
	}
	rows, err := csv.NewReader(bytes.NewReader(data)).ReadAll()
	if err != nil {
		return nil, err
	}
	var out []path.Air
	for _, row := range rows[1:] {
		day, errDay := strconv.Atoi(row[0])
		temperature, errTemperature := strconv.ParseFloat(row[1], 64)
		humidity, errHumidity := strconv.ParseFloat(row[2], 64)
		if err := errors.Join(errDay, errTemperature, errHumidity); err != nil {
			return nil, err
		}
		out = append(
			out,
			path.Air{Date: from.AddDate(0, 0, day).Format(time.DateOnly), Temperature: temperature, Humidity: humidity / 100},
		)
	}
	return out, nil
}
