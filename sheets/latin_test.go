package sheets_test

import (
	"bytes"
	"regexp"
	"strings"
	"testing"

	"cinderpath/core/path"
	"cinderpath/core/plan"
	"cinderpath/sheets"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/text/encoding/charmap"
)

// said are the words of a PDF's pages, in order, as a reader of such fonts decodes them.
func said(t testing.TB, pdf []byte) string {
	var out strings.Builder
	for _, m := range regexp.MustCompile(`(?s)stream\r?\n(.*?)endstream`).FindAllSubmatch(pdf, -1) {
		body, err := inflated(m[1])
		if err != nil || !bytes.Contains(body, []byte(" Tf")) {
			continue
		}
		for _, w := range regexp.MustCompile(`(?s)\(((?:\\.|[^)\\])*)\) ?Tj`).FindAllSubmatch(body, -1) {
			words, err := charmap.Windows1252.NewDecoder().Bytes(regexp.MustCompile(`\\(.)`).ReplaceAll(w[1], []byte("$1")))
			require.NoError(t, err)
			out.Write(words)
			out.WriteByte('\n')
		}
	}
	return out.String()
}

// Dashes, quotes and letters with marks are printed as they are written; what the fonts
// lack is written plainer. Cards come in the order in which the steps are laid.
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
	assert.Contains(t, words, "Airbrush: 1.2–1.5 bar, >= 80 mm -> far, ?")
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
