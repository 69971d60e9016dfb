package sheets_test

import (
	"bytes"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"cinderpath/core/path"
	"cinderpath/core/plan"
	"cinderpath/sheets"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// said are the words of a PDF's pages, line by line, as another program reads them: Debian's
// poppler-utils, which make test installs.
func said(t testing.TB, data []byte) string {
	reader, err := exec.LookPath("pdftotext")
	require.NoError(t, err, "make packages installs it")
	file := filepath.Join(t.TempDir(), "words.pdf")
	require.NoError(t, os.WriteFile(file, data, 0o600))
	out, err := exec.Command(reader, "-layout", "-enc", "UTF-8", file, "-").Output()
	require.NoError(t, err)
	var lines []string
	for _, line := range strings.Split(string(out), "\n") {
		lines = append(lines, strings.TrimSpace(line))
	}
	return "\n" + strings.Join(lines, "\n")
}

// Every letter that the shipped font has is printed and can be read again as text: Latin with
// all its marks, Greek, Cyrillic. Only what it lacks becomes a question mark.
func TestEveryLetterOfTheFontIsPrinted(t *testing.T) {
	letters := map[string]string{
		"Latin":    "ÀÁÂÃÄÅÆÇÈÉÊËÌÍÎÏÐÑÒÓÔÕÖØÙÚÛÜÝÞßàáâãäåæçèéêëìíîïðñòóôõöøùúûüýþÿĀāĂăĄąĆćĈĉĊċČčĎďĐđĒēĔĕĖėĘęĚěĜĝĞğĠġĢģĤĥĦħĨĩĪīĬĭĮįİıĴĵĶķĸĹĺĻļĽľĿŀŁłŃńŅņŇňŊŋŌōŎŏŐőŒœŔŕŖŗŘřŚśŜŝŞşŠšŢţŤťŦŧŨũŪūŬŭŮůŰűŲųŴŵŶŷŸŹźŻżŽž",
		"Greek":    "ΑΒΓΔΕΖΗΘΙΚΛΜΝΞΟΠΡΣΤΥΦΧΨΩάέήίαβγδεζηθικλμνξοπρςστυφχψωόύώ",
		"Cyrillic": "АБВГДЕЖЗИЙКЛМНОПРСТУФХЦЧШЩЪЫЬЭЮЯабвгдежзийклмнопрстуфхцчшщъыьэюяЁЂЃЄЅІЇЈЉЊЋЌЎЏёђѓєѕіїјљњћќўџ",
		"signs":    "–—‘’“”…·×÷±½¼¾°µ≥≤≈−√→←",
	}
	for name, all := range letters {
		t.Run(name, func(t *testing.T) {
			p := samplePlan(t)
			p.Steps = p.Steps[:0]
			runes := []rune(all)
			for len(runes) > 0 { // in portions that fit a line
				n := min(len(runes), 40)
				p.Steps = append(
					p.Steps,
					plan.Step{
						Task:   path.Task{Title: string(runes[:n])},
						Placed: path.Placed{Status: path.IsReady, Spans: []path.Span{{From: now, To: now}}},
					},
				)
				runes = runes[n:]
			}
			var out bytes.Buffer
			require.NoError(t, sheets.WriteCards(&out, p, sheets.A4))
			words := said(t, out.Bytes())
			for _, s := range p.Steps {
				assert.Contains(t, words, s.Title)
			}
		})
	}
}

// Dashes, quotes and letters with marks are printed as they are written. Cards come in the order in which the steps
// are laid.
func TestCardsSayWhatIsWritten(t *testing.T) {
	p := samplePlan(t)
	i := 0
	for p.Steps[i].Status.Over() {
		i++
	}
	p.Name = "Bühne & “Öl”"
	p.Steps[i].Air = "1.2–1.5 bar, ≥ 80 mm → far, 漆"
	p.Steps[i].Status = path.IsReady
	var out bytes.Buffer
	require.NoError(t, sheets.WriteCards(&out, p, sheets.A4))
	words := said(t, out.Bytes())
	assert.Contains(t, words, "Airbrush: 1.2–1.5 bar, ≥ 80 mm → far, ?")
	assert.Contains(t, words, "Bühne & “Öl”, 1:35: bench cards")
	var last plan.Step
	at, found := -1, 0
	for _, s := range p.Steps {
		if s.Status.Over() {
			continue
		}
		k := strings.Index(words, "\n"+s.Title+"\n")
		if k < 0 {
			continue // a long title runs over two lines
		}
		found++
		if at >= 0 && s.Spans[0].From.After(last.Spans[0].From) {
			assert.Greater(t, k, at, "%s after %s", s.Title, last.Title)
		}
		if at < 0 || s.Spans[0].From.After(last.Spans[0].From) {
			last, at = s, k
		}
	}
	assert.Greater(t, found, 10)
}
