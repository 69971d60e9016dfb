package e2e

import (
	"fmt"
	"net/http"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// With many builds nobody waits for the search: who puts another build first sees at once how the mended
// order goes, is told that a better one is being looked for, and then sees that.
func TestABetterOrderFollows(t *testing.T) {
	t.Parallel()
	a := startApp(t, dataDir(t))
	for range 24 {
		require.Equal(t, http.StatusCreated, a.post("/api/builds/"+varrow+"/duplicate", ""))
	}
	var home struct {
		Provisional bool
		Builds      []struct{ Glance struct{ Name string } }
	}
	require.Eventually(t, func() bool {
		home.Provisional = false
		a.get(t, "/api/home", &home)
		return !home.Provisional
	}, time.Minute, 100*time.Millisecond)
	require.Len(t, home.Builds, 27)
	last := home.Builds[26].Glance.Name
	window := browser(t)
	more := fmt.Sprintf(`(//button[@aria-label=%q])[last()]`, "More for "+last)
	seeking := `//span[@role="status" and contains(., "a better one is being looked for")]`
	do(t, window,
		chromedp.Navigate(a.url),
		see(more),
		chromedp.ScrollIntoView(more, chromedp.BySearch),
		click(more),
		click(text("button", "Work on it first")+`[not(@data-disabled)]`),
		see(seeking),
		chromedp.WaitNotPresent(seeking, chromedp.BySearch),
		see(`(//article)[1][contains(., "`+last+`")]`),
	)
	a.get(t, "/api/home", &home)
	assert.Equal(t, last, home.Builds[0].Glance.Name)
}
