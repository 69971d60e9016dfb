package e2e

import (
	"testing"

	"cinderpath/store/storetest"

	"github.com/chromedp/chromedp"
	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"
)

// A stored build from which nothing follows is shown with what is wrong; the others go on,
// and the hours can be reached from them.
func TestABuildThatCannotBePlannedIsShownAndLeft(t *testing.T) {
	t.Parallel()
	url := storetest.Database(t)
	a := startApp(t, dataDir(t), "--database-url", url)
	db, err := pgx.Connect(t.Context(), url)
	require.NoError(t, err)
	defer db.Close(t.Context())
	_, err = db.Exec(
		t.Context(),
		`UPDATE build SET doc = jsonb_set(doc, '{wheels}', jsonb_build_array(doc->'wheels'->0, doc->'wheels'->0)) WHERE id = $1`,
		varrow,
	)
	require.NoError(t, err)
	window := browser(t)
	do(
		t,
		window,
		chromedp.Navigate(a.url),
		see(
			`//article[@aria-label="Varrow II medium tank"]//p[@role="alert"][contains(., "Nothing can be planned from it")]`,
		),
		see(`//article[@aria-label="Pellick scout car"]//p[contains(., "steps done")]`),
		click(`//article[@aria-label="Varrow II medium tank"]//h2/a`),
		see(text("p[@role='alert']", "Nothing can be planned from it as it is stored")),
		see(text("a", "Export it")),
		click(text("a", "Home: all builds")),
		click(`//article[@aria-label="Pellick scout car"]//h2/a`),
		see(`//*[@data-view="left"]`),
	)
}
