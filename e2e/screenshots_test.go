package e2e

import (
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"
)

// TestScreenshots takes the pictures of docs/screenshots (make screenshots). In an
// ordinary run it only checks that every main view opens without an error.
func TestScreenshots(t *testing.T) {
	a := startApp(t, dataDir(t))
	window := browser(t)
	into := os.Getenv("CINDERPATH_SHOTS")
	shot := func(name string) {
		var png []byte
		do(t, window, chromedp.Sleep(400*time.Millisecond), chromedp.CaptureScreenshot(&png))
		require.NotEmpty(t, png)
		if into != "" {
			require.NoError(t, os.WriteFile(filepath.Join(into, name+".png"), png, 0o600))
		}
	}
	do(t, window, chromedp.Navigate(a.url), see(text("h2", "Drumble")))
	shot("home")
	do(t, window, click(text("h2/a", "Varrow")), see(text("h2", "Chips")))
	shot("plate")
	do(t, window, click(text("button", "Sizes")), see(text("span", "track links a side")))
	shot("sizes")
	do(t, window, click(text("button", "Scheme")), see(text("span", "Take this scheme")))
	shot("scheme")
	do(t, window, click(text("button", "Evenings")))
	shot("evenings")
	// A finding, made as a user would make it: decals moved before the gloss coat.
	do(t, window, click(text("button[@role='tab']", "Layers")), click(`//ol//button[contains(., "Gloss coat")]`), click(`//li[contains(., "Gloss coat")]//button[.="Later"]`),
		see(text("h3", "silver")), chromedp.ScrollIntoView(text("h3", "silver"), chromedp.BySearch))
	shot("finding")
	do(t, window, click(`//header//button[.="Undo"]`), chromedp.WaitNotPresent(text("h3", "silver"), chromedp.BySearch))
	do(t, window, chromedp.Navigate(a.url+"/builds/"+varrow+"/bench"), see(text("h1", "Chips")))
	shot("bench")
}
