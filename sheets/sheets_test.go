package sheets_test

import (
	"bytes"
	"encoding/xml"
	"errors"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
	"testing"
	"time"

	"cinderpath/core/build"
	"cinderpath/samples"
	"cinderpath/sheets"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

var now = time.Date(2026, 11, 23, 19, 0, 0, 0, time.UTC)

func plan(t testing.TB) build.Plan {
	documents, err := samples.Documents()
	require.NoError(t, err)
	d := documents[0].Resolve(now)
	d.AsOf = now
	var deriver build.Deriver
	p, err := d.Plan(&deriver)
	require.NoError(t, err)
	return p
}

func TestSamplesAreWholeAndWithoutStops(t *testing.T) {
	documents, err := samples.Documents()
	require.NoError(t, err)
	require.Len(t, documents, 3)
	for _, d := range documents {
		r := d.Resolve(now)
		r.AsOf = now
		var deriver build.Deriver
		p, err := r.Plan(&deriver)
		require.NoError(t, err)
		assert.Empty(t, p.Findings, p.Name)
		for _, s := range p.Steps {
			assert.Empty(t, s.Failed, "%s: %s", p.Name, s.Title)
		}
		for _, e := range r.Items[0].Log {
			assert.Nil(t, e.MinutesBefore)
			assert.False(t, e.At.After(now))
		}
	}
	p := plan(t)
	assert.NotEmpty(t, p.Stand.Waiting, "the main demo has things drying")
	assert.NotEmpty(t, p.Stand.Tonight)
}

func TestDocumentRoundTrip(t *testing.T) {
	data, err := os.ReadFile("../samples/varrow.json")
	require.NoError(t, err)
	d, err := sheets.Read(bytes.NewReader(data))
	require.NoError(t, err)
	var out bytes.Buffer
	require.NoError(t, sheets.Write(&out, d))
	again, err := sheets.Read(&out)
	require.NoError(t, err)
	assert.Equal(t, d, again)
}

func TestDocumentsThatCannotBeTakenAreToldWhy(t *testing.T) {
	data, err := os.ReadFile("../samples/varrow.json")
	require.NoError(t, err)
	whole := string(data)
	for name, c := range map[string]struct{ text, want string }{
		"newer":         {strings.Replace(whole, `"version": 1`, `"version": 2`, 1), "update Cinder Path"},
		"foreign":       {`{"format":"x","version":1}`, "not a document"},
		"no version":    {`{"format":"cinderpath"}`, "version is missing"},
		"unknown field": {strings.Replace(whole, `"workshop"`, `"shoe": 1, "workshop"`, 1), "shoe"},
		"wrong kind":    {strings.Replace(whole, `"scale": 35`, `"scale": "35"`, 1), "string stands where"},
		"bad scale":     {strings.Replace(whole, `"scale": 35`, `"scale": 0`, 1), "not a scale of a kit"},
		"cut short":     {whole[:len(whole)/2], "unexpected end"},
		"not JSON":      {"hello", "invalid character"},
	} {
		_, err := sheets.Read(strings.NewReader(c.text))
		require.Error(t, err, name)
		assert.Contains(t, err.Error(), c.want, name)
		var fault *build.Fault
		assert.True(t, errors.As(err, &fault), name)
	}
}

// The check bar of the SVG is 50 mm long, and the sheet is as large as it says.
func TestSVGIsTrueToSize(t *testing.T) {
	p := plan(t)
	var out bytes.Buffer
	require.NoError(t, sheets.ViewsSVG(&out, p))
	dec := xml.NewDecoder(bytes.NewReader(out.Bytes()))
	for {
		if _, err := dec.Token(); errors.Is(err, io.EOF) {
			break
		} else {
			require.NoError(t, err)
		}
	}
	size := regexp.MustCompile(`width="([0-9.]+)pt" height="([0-9.]+)pt"`).FindStringSubmatch(out.String())
	require.NotNil(t, size, out.String()[:300])
	width, err := strconv.ParseFloat(size[1], 64)
	require.NoError(t, err)
	assert.InDelta(t, p.Sheet.Width+20, width/72*25.4, 0.1)
	bar := regexp.MustCompile(`M([0-9.]+),([0-9.]+)L([0-9.]+),([0-9.]+)M`).FindAllStringSubmatch(out.String(), -1)
	found := false
	for _, m := range bar {
		x0, err0 := strconv.ParseFloat(m[1], 64)
		x1, err1 := strconv.ParseFloat(m[3], 64)
		found = found || err0 == nil && err1 == nil && (x1-x0)/72*25.4 > 49.95 && (x1-x0)/72*25.4 < 50.05
	}
	assert.True(t, found, "no line of 50.00 ± 0.05 mm")
}

// The PDF's page has the sheet's size; measured by an independent reader where
// Debian's poppler-utils is installed.
func TestPDFIsTrueToSize(t *testing.T) {
	p := plan(t)
	var out bytes.Buffer
	require.NoError(t, sheets.ViewsPDF(&out, p))
	require.True(t, bytes.HasPrefix(out.Bytes(), []byte("%PDF-")))
	box := regexp.MustCompile(`/MediaBox \[0 0 ([0-9.]+) ([0-9.]+)\]`).FindSubmatch(out.Bytes())
	require.NotNil(t, box)
	width, err := strconv.ParseFloat(string(box[1]), 64)
	require.NoError(t, err)
	assert.InDelta(t, p.Sheet.Width+20, width/72*25.4, 0.1)
	reader, err := exec.LookPath("pdfinfo")
	if err != nil {
		return
	}
	file := filepath.Join(t.TempDir(), "views.pdf")
	require.NoError(t, os.WriteFile(file, out.Bytes(), 0o600))
	info, err := exec.Command(reader, file).Output()
	require.NoError(t, err)
	assert.Contains(t, string(info), "Pages:           1")
}

func FuzzRead(f *testing.F) {
	for _, name := range []string{"varrow", "pellick", "drumble"} {
		data, err := os.ReadFile("../samples/" + name + ".json")
		require.NoError(f, err)
		f.Add(data)
	}
	f.Add([]byte(`{"format":"cinderpath","version":1,"items":[{"build":{"scale":1e400}}]}`))
	f.Fuzz(func(_ *testing.T, data []byte) {
		d, err := sheets.Read(bytes.NewReader(data))
		if err != nil || len(d.Items) == 0 {
			return
		}
		// Whatever is let in has a plan or a reason, and no panic.
		d.AsOf = now
		d = d.Resolve(now)
		var deriver build.Deriver
		_, _ = d.Plan(&deriver)
	})
}
