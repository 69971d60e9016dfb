package e2e

import (
	"compress/gzip"
	"context"
	"io"
	"net/http"
	"regexp"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"
)

// BenchmarkFirstPage is the time from an empty cache to a build that can be opened,
// with the compressed size of the scripts it takes; BenchmarkEmptyPage is the lower
// bound: the same browser on an answer of a few bytes.
func BenchmarkFirstPage(b *testing.B) {
	a := startApp(b, dataDir(b))
	w := browser(b)
	for b.Loop() {
		visit(b, w, a.url, text("h2", "Varrow"))
	}
	b.ReportMetric(scriptKB(b, a.url), "kB-script")
}

func BenchmarkEmptyPage(b *testing.B) {
	a := startApp(b, dataDir(b))
	w := browser(b)
	for b.Loop() {
		visit(b, w, a.url+"/healthz", text("pre", "ok"))
	}
}

func visit(b *testing.B, w context.Context, url, until string) {
	// A blank page between the visits: each starts anew, from the server's own cache rules.
	if err := chromedp.Run(w, chromedp.Navigate("about:blank"), chromedp.Navigate(url), see(until)); err != nil {
		b.Fatal(err)
	}
}

// scriptKB is the size of the first page's scripts as they travel.
func scriptKB(b *testing.B, url string) float64 {
	page := fetch(b, url+"/", false)
	total := 0
	for _, m := range regexp.MustCompile(`src="(/assets/[^"]+\.js)"`).FindAllStringSubmatch(string(page), -1) {
		total += len(fetch(b, url+m[1], true))
	}
	require.Positive(b, total)
	return float64(total) / 1000
}

// fetch reads an address, packed as it travels or unpacked.
func fetch(b *testing.B, url string, packed bool) []byte {
	r, err := http.NewRequest(http.MethodGet, url, nil)
	require.NoError(b, err)
	r.Header.Set("Accept-Encoding", "gzip")
	answer, err := http.DefaultTransport.RoundTrip(r)
	require.NoError(b, err)
	defer answer.Body.Close()
	require.Equal(b, "gzip", answer.Header.Get("Content-Encoding"), url)
	var body io.Reader = answer.Body
	if !packed {
		body, err = gzip.NewReader(answer.Body)
		require.NoError(b, err)
	}
	data, err := io.ReadAll(body)
	require.NoError(b, err)
	return data
}
