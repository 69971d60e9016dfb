package e2e

import (
	"compress/gzip"
	"context"
	"io"
	"net/http"
	"regexp"
	"testing"

	"github.com/chromedp/cdproto/network"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"
)

// BenchmarkFirstPage is the time from an empty cache to a build that can be opened,
// with the compressed size of the scripts it takes; BenchmarkEmptyPage is the lower
// bound: the same browser on an answer of a few bytes.
func BenchmarkFirstPage(b *testing.B) {
	a := startApp(b, dataDir(b))
	w := eager(b)
	for b.Loop() {
		visit(b, w, a.url, text("h2", "Varrow"))
	}
	b.ReportMetric(scriptKB(b, a.url), "kB-script")
}

func BenchmarkEmptyPage(b *testing.B) {
	a := startApp(b, dataDir(b))
	w := eager(b)
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

// BenchmarkPlate is the time to the five views of the Varrow on a line of 400 kB a second, with
// an empty cache; what travels until then, divided by the line, is the lower bound.
func BenchmarkPlate(b *testing.B) {
	a := startApp(b, dataDir(b))
	w := eager(b)
	const line = 400_000
	if err := chromedp.Run(w, network.Enable(), network.SetCacheDisabled(true),
		network.EmulateNetworkConditions(false, 20, line, line)); err != nil {
		b.Fatal(err)
	}
	for b.Loop() {
		visit(b, w, a.url+"/builds/"+varrow, pictured)
	}
	bytes, _ := untilPlate(b, w)
	b.ReportMetric(bytes/line, "s-least")
}

// BenchmarkTurning is the time of one frame of the turning Varrow; the lower bound is a canvas
// with nothing on it, in the same browser.
func BenchmarkTurning(b *testing.B) {
	a := startApp(b, dataDir(b))
	w := eager(b)
	turning(b, w, a.url)
	var empty, frame float64
	const gap = `new Promise((done) => { const took = []; let last = performance.now();
		const next = (now) => { took.push(now - last); last = now; each();
			if (took.length < 100) return requestAnimationFrame(next);
			done(took.slice(20).sort((a, b) => a - b)[40]); };
		requestAnimationFrame(next); })`
	for b.Loop() {
		if err := chromedp.Run(w,
			chromedp.Evaluate(`(() => { const c = document.createElement('canvas'); c.width = 960; c.height = 600;
				const gl = c.getContext('webgl'); window.each = () => gl.clear(gl.COLOR_BUFFER_BIT); return 0; })()`, nil),
			chromedp.Evaluate(gap, &empty, promised),
			chromedp.Evaluate(`(() => { window.each = () => {}; return 0; })()`, nil),
			click(text("button", "let it turn")),
			chromedp.Evaluate(gap, &frame, promised),
			click(text("button", "hold still")),
		); err != nil {
			b.Fatal(err)
		}
	}
	b.ReportMetric(frame, "ms-frame")
	b.ReportMetric(empty, "ms-empty")
}
