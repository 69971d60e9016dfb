package sheets_test

import (
	"bytes"
	"errors"
	"math"
	"os"
	"regexp"
	"strconv"
	"strings"
	"testing"
	"time"

	"cinderpath/core/measure"
	"cinderpath/core/plan"
	"cinderpath/samples"
	"cinderpath/sheets"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

var now = time.Date(2026, 11, 23, 19, 0, 0, 0, time.UTC)

func samplePlan(t testing.TB) plan.Plan {
	documents, err := samples.Documents()
	require.NoError(t, err)
	d := documents[0].Resolve(now)
	d.AsOf = now
	var deriver plan.Deriver
	p, err := d.Plan(&deriver)
	require.NoError(t, err)
	return p
}

// views are the five views of the sample as they print.
func views(t testing.TB) sheets.Drawing {
	documents, err := samples.Documents()
	require.NoError(t, err)
	d := documents[0].Resolve(now)
	d.AsOf = now
	var deriver plan.Deriver
	p, err := d.Plan(&deriver)
	require.NoError(t, err)
	seen, err := deriver.Portraits(p.Last())
	require.NoError(t, err)
	return sheets.Views(p, seen)
}

func TestSamplesAreWholeAndWithoutStops(t *testing.T) {
	documents, err := samples.Documents()
	require.NoError(t, err)
	require.Len(t, documents, 3)
	for _, d := range documents {
		r := d.Resolve(now)
		r.AsOf = now
		var deriver plan.Deriver
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
	p := samplePlan(t)
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
		"newer":         {strings.Replace(whole, `"version": 2`, `"version": 3`, 1), "update Cinder Path"},
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
		var fault *measure.Fault
		assert.True(t, errors.As(err, &fault), name)
	}
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
		var deriver plan.Deriver
		_, _ = d.Plan(&deriver)
	})
}
