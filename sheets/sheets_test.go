package sheets_test

import (
	"bytes"
	"encoding/xml"
	"errors"
	"io"
	"math"
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
	found := false
	for _, l := range straight(t, out.String()) {
		found = found || math.Abs(l-sheets.Bar) < 0.05
	}
	assert.True(t, found, "no line of 50.00 ± 0.05 mm")
}

// straight gives the lengths of all lines of two points in an SVG, mm.
func straight(t testing.TB, svg string) (out []float64) {
	number := func(s string) float64 {
		x, err := strconv.ParseFloat(s, 64)
		require.NoError(t, err)
		return x / 72 * 25.4
	}
	for _, m := range regexp.MustCompile(`"M([0-9.]+),([0-9.]+)L([0-9.]+),([0-9.]+)"`).FindAllStringSubmatch(svg, -1) {
		out = append(out, math.Hypot(number(m[3])-number(m[1]), number(m[4])-number(m[2])))
	}
	return out
}

// The track jig measured on its SVG: check bar, straight gauge, and a curve that is as
// wide as the upper run and dips as deep as the deepest sag says.
func TestTrackJigIsTrueToSize(t *testing.T) {
	documents, err := samples.Documents()
	require.NoError(t, err)
	b := documents[0].Items[0].Build
	j, err := build.JigOf(b)
	require.NoError(t, err)
	var svg, pdf bytes.Buffer
	require.NoError(t, sheets.JigSVG(&svg, j))
	require.NoError(t, sheets.JigPDF(&pdf, j))
	assert.True(t, bytes.HasPrefix(pdf.Bytes(), []byte("%PDF-")))
	has := func(length float64) bool {
		for _, l := range straight(t, svg.String()) {
			if math.Abs(l-length) < 0.05 {
				return true
			}
		}
		return false
	}
	assert.True(t, has(sheets.Bar), "the check bar")
	assert.True(t, has(float64(j.Links)*131.2/35), "the gauge: links of 131.2 mm at 1:35")
	card := regexp.MustCompile(`"M([0-9.,L]+)Z"`).FindStringSubmatch(svg.String())
	require.NotNil(t, card)
	low, high := math.Inf(1), math.Inf(-1)
	for _, point := range strings.Split(card[1], "L") {
		x, err := strconv.ParseFloat(strings.Split(point, ",")[0], 64)
		require.NoError(t, err)
		low, high = min(low, x), max(high, x)
	}
	profile := j.Profile
	assert.InDelta(t, profile[len(profile)-1][0]-profile[0][0], (high-low)/72*25.4, 0.05)
	// On the wheels the curve lies on their running surface.
	for _, w := range j.Wheels {
		nearest := math.Inf(1)
		for _, p := range profile {
			nearest = min(nearest, math.Abs(math.Hypot(p[0]-w.X, p[1]-w.Y)-w.Radius))
		}
		assert.Less(t, nearest, 0.05, w.Name)
	}
	_, err = build.JigOf(documents[1].Items[0].Build)
	assert.ErrorContains(t, err, "no track")
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
