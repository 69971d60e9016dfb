package e2e

import (
	"bytes"
	"io"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"testing"
	"time"

	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"
)

// TestScreenshots takes the pictures of docs/screenshots (make screenshots). The other tests open every main view.
func TestScreenshots(t *testing.T) {
	into := os.Getenv("CINDERPATH_SHOTS")
	if into == "" {
		t.Skip("make screenshots takes them")
	}
	a := startApp(t, dataDir(t))
	window := browser(t)
	drawn := chromedp.Poll(
		`[...document.images].every((i) => i.complete && (i.naturalWidth > 0 || !i.offsetParent))`,
		nil,
		chromedp.WithPollingTimeout(time.Minute),
	)
	// The plate shows what is asked for, and no longer what stood there before.
	current := chromedp.Poll(
		`(() => { const p = document.querySelector('[data-look]'), a = document.querySelector('header a[href*="look="]');
			return !p || !a || a.href.endsWith('look=' + p.dataset.look); })()`,
		nil,
		chromedp.WithPollingTimeout(time.Minute),
	)
	aside := input.DispatchMouseEvent(input.MouseMoved, 640, 75) // nothing is lit by the hand
	shot := func(name string) {
		var png []byte
		do(t, window, aside, current, drawn)
		do(t, window, chromedp.Sleep(400*time.Millisecond), chromedp.CaptureScreenshot(&png))
		require.NotEmpty(t, png)
		require.NoError(t, os.WriteFile(filepath.Join(into, name+".png"), png, 0o600))
	}
	do(t, window, chromedp.Navigate(a.url), see(text("h2", "Drumble")))
	shot("home")
	do(t, window, click(text("h2/a", "Varrow")), see(text("h2", "Chips")), see(pictured))
	shot("plate")
	do(
		t,
		window,
		tab("Sizes"),
		see(text("span", "track links a side")),
		chromedp.Focus(cell("Barrel length, in the kit"), chromedp.BySearch),
	)
	shot("sizes")
	do(t, window, tab("Kit check"), see(text("strong", "The kit is 1:34.6")))
	do(t, window, tab("Stock"), click(text("button", "Look it up")), see(text("td", "2 strands of 0.40 mm brass wire")))
	do(t, window, tab("Cables"), see(text("p", "4.7 mm too long")))
	do(t, window, tab("Photos"), see(text("span", "6400 ± ")), chromedp.Focus(`[data-point="c1"]`, chromedp.ByQuery))
	do(t, window, tab("Body"), click(room("Body")+`//button[.="upper hull"]`), see(`//*[@data-handle]`))
	shot("body")
	do(t, window, tab("Gear"), see(room("Running gear")+`//*[@data-links]`))
	shot("running-gear")
	do(t, window, tab("Sheets"), see(`//article[@aria-label="Wheel masks"]//img`))
	do(t, window, tab("Scheme"), see(text("span", "Take this scheme")))
	shot("scheme")
	do(
		t,
		window,
		tab("Markings"),
		click(`//button[.//strong[.="guard anchor"]]`),
		see(text("button", "Place it on the vehicle")),
	)
	shot("markings")
	do(
		t,
		window,
		chromedp.Navigate(a.url+"/builds/"+varrow+"/earth/story"),
		see(pictured),
		choose("Ground it drove on", "wet loam"),
		see(text("small", "wet loam 2.8")),
	)
	shot("story")
	do(
		t,
		window,
		click(`//header//button[.="Undo"]`),
		chromedp.WaitNotPresent(text("small", "wet loam 2.8"), chromedp.BySearch),
	)
	do(
		t,
		window,
		chromedp.Navigate(a.url+"/builds/"+varrow+"/earth/core-sample"),
		see(pictured),
		onView("left", 60, 50),
		see(`//section[@aria-label="Core sample"]//ol/li`),
	)
	shot("core")
	do(t, window, tab("Version"), see(text("th", "Equipment")))
	do(t, window, tab("Evenings"), see(`//*[name()="svg"][contains(@aria-label, "Drying tails")]`))
	shot("evenings")
	do(t, window, tab("Layers"), click(text("button", "turn it")), see(`//canvas`))
	inked(t, window)
	shot("turning")
	do(t, window, click(text("button", "five views")))
	maskPage(t, a, into)
	do(t, window, tab("Layers"), click(text("button", "Six states")))
	until(t, window, statesDrawn, "6")
	shot("states")
	do(t, window, chromedp.Navigate(a.url+"/builds/"+varrow+"/bench"), see(text("h1", "Chips")))
	shot("bench")
	do(
		t,
		window,
		chromedp.Navigate(a.url+"/shelf"),
		click(text("button", "12 lichen green")),
		see(text("h3", "Test pieces")),
	)
	shot("shelf")
	do(
		t,
		window,
		chromedp.Navigate(a.url+"/shelf/mix"),
		typed("Colour that is wanted", "#6f7558"),
		choose("For", "Varrow II"),
		click(text("button", "Find recipes")),
		see(text("p", "these come closest")),
	)
	shot("mix")
	do(t, window, chromedp.Navigate(a.url+"/shelf/shopping"), see(text("h2", "48 ochre mud")))
	shot("shopping")
	do(t, window, chromedp.Navigate(a.url+"/builds/"+varrow+"/diary"), see(text("h2", "Learned")))
	shot("diary")
	do(
		t,
		window,
		chromedp.Navigate(a.url+"/builds/"+drumble+"/finish/base"),
		see(text("dd", "round the running gear")),
		chromedp.Poll(
			`document.querySelectorAll('main image, section image').length >= 7`,
			nil,
		),
	)
	// The vehicle stands on it once its pictures have come.
	until(t, window, `String([...document.querySelectorAll("section[aria-label=Base] image")].every((i) =>
		performance.getEntriesByName(new URL(i.href.baseVal, location.href).href).some((e) => e.responseEnd > 0)))`, "true")
	shot("base")
	do(
		t,
		window,
		chromedp.Navigate(a.url+"/builds/01997a00-0000-7000-8000-0000c1de0063"),
		tab("Own parts"),
		see(text("dt", "Thinnest wall")),
	)
}

// maskPage turns the first page of the masks of a scheme into a picture, where Debian's poppler-utils
// is installed.
func maskPage(t testing.TB, a *app, into string) {
	r, err := http.Get(a.url + "/api/builds/" + drumble + "/sheets/masks.pdf")
	require.NoError(t, err)
	defer r.Body.Close()
	data, err := io.ReadAll(r.Body)
	require.NoError(t, err)
	require.True(t, bytes.HasPrefix(data, []byte("%PDF-")))
	turner, err := exec.LookPath("pdftoppm")
	if err != nil {
		return
	}
	file := filepath.Join(t.TempDir(), "masks.pdf")
	require.NoError(t, os.WriteFile(file, data, 0o600))
	require.NoError(
		t,
		exec.Command(turner, "-png", "-r", "100", "-singlefile", file, filepath.Join(into, "mask-sheet")).Run(),
	)
}
