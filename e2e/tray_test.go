package e2e

import (
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Shares typed in the tray are met on the plate; another one by chance looks different;
// a share that cannot be is refused and what was typed stays.
func TestScheme(t *testing.T) {
	a := demo(t)
	w := browser(t)
	share := `//input[@aria-label="Share of basalt grey in per cent"]`
	var before, kept string
	do(
		t,
		w,
		chromedp.Navigate(a.url+"/builds/"+varrow),
		see(text("span", "basalt grey 30.0 %")),
		see(pictured),
		tab(
			"Scheme",
		),
		click(`//article[@aria-label="basalt grey"]/button`),
		retype(share, "40"),
		click(text("button", "Take this scheme")),
		see(text("span", "basalt grey 40.0 %")),
		chromedp.Evaluate(
			looked,
			&before,
		),
		click(text("button", "Show three")),
		click(`//button[@aria-label="Take number 2"]`),
		see(text("span", "basalt grey 40.0 %")),
	)
	until(t, w, fmt.Sprintf(`%s === %q ? 'as before' : 'painted anew'`, looked, before), "painted anew")
	do(
		t,
		w,
		retype(share, "85"),
		chromedp.WaitNotPresent(`button[data-loading]`, chromedp.ByQuery), // it takes no click while an edit is on its way
		click(text("button", "Take this scheme")),
		see(text("p[@role='alert']", "at least 5 %")),
		chromedp.Value(share, &kept, chromedp.BySearch),
	)
	assert.Contains(t, kept, "85")
}

// Layers are moved, changed and left out; a pinned wait that is too short is found,
// and its mend takes the pin away.
func TestLayers(t *testing.T) {
	a := demo(t)
	w := browser(t)
	do(
		t,
		w,
		chromedp.Navigate(a.url+"/builds/"+varrow),
		tab("Layers"),
		click(
			`//ol//button[contains(., "Mud")]`,
		),
		retype(field("Pinned wait after the layer below"), "5"),
		click(text("button", "Change this layer")),
		found,
		see(text("h3", "Mud too soon over dust")),
		see(text("p", "you pinned 5 min")),
		click(`//article[contains(@aria-label, "Mud too soon over dust")]//button[contains(., "Wait the")]`),
		chromedp.WaitNotPresent(text("h3", "too soon"), chromedp.BySearch),
	)
	do(
		t,
		w,
		click(`//ol//button[contains(., "Satin seal")]`),
		click(`//li[contains(., "Satin seal")]//button[.="take out"]`),
		chromedp.WaitNotPresent(`//ol//button[contains(., "Satin seal")]`, chromedp.BySearch),
		found,
		see(text("h3", "Pin wash over unsealed decals")),
		click(`//article[contains(@aria-label, "unsealed decals")]//button[.="Mark as meant"]`),
		chromedp.WaitNotPresent(text("h3", "unsealed decals"), chromedp.BySearch),
	)
}

// The bench by keys alone, and back; then a step that was not done after all.
func TestBenchByKeys(t *testing.T) {
	a := demo(t)
	w := browser(t)
	do(
		t,
		w,
		chromedp.Navigate(a.url+"/builds/"+varrow),
		see(text("h2", "Chips")),
		press("b"),
		see(text("h1", "Chips")),
		see(text("section[@aria-label='Timers']", "then: Chips")),
		chromedp.KeyEvent(
			kb.Enter,
		),
		see(text("p", "Under way")),
		chromedp.KeyEvent(kb.Enter),
		see(text("span", "Chips: done.")),
		chromedp.Navigate(a.url+"/builds/"+varrow+"/bench?step=clear%3A01997a00-0000-7000-8000-0000c1de0009%3A1"),
		see(text("h1", "Undo coat")),
		see(text("p", "Follow the product's safety sheet and your local rules.")),
		see(text("dd", "1.2–1.5 bar")),
		chromedp.KeyEvent(
			kb.Escape,
		),
		click(`//nav//button[@title="Chips"]`),
		click(text("button", "Not done after all")),
		see(text("span", "Wait until")),
	)
	// The early start stays in nobody's way: taken back, it leaves no finding.
	do(t, w, chromedp.WaitNotPresent(room("What would go wrong"), chromedp.BySearch))
}

// A build leaves by export and comes back by import on the home page; a file that
// is none is refused in words.
func TestImportOnHome(t *testing.T) {
	a := startApp(t, dataDir(t))
	w := browser(t)
	document, err := exec.Command(binary, "export", "--data", a.data, "--build", varrow, "--only").Output()
	require.NoError(t, err)
	good, bad := filepath.Join(t.TempDir(), "varrow.json"), filepath.Join(t.TempDir(), "poem.json")
	require.NoError(t, os.WriteFile(good, document, 0o600))
	require.NoError(t, os.WriteFile(bad, []byte("not a build"), 0o600))
	chooser := `input[type="file"]`
	do(
		t,
		w,
		chromedp.Navigate(a.url),
		see(text("h2", "Varrow")),
		chromedp.SetUploadFiles(chooser, []string{bad}, chromedp.ByQuery),
		see(text("p[@role='alert']", "not readable JSON")),
		chromedp.SetUploadFiles(
			chooser,
			[]string{good},
			chromedp.ByQuery,
		),
		see(text("h2", "Varrow II medium tank, imported")),
		click(
			text("button", "Darker"),
		),
		see(text("button", "Lighter")),
		click(text("button", "Lighter")),
		see(text("button", "Darker")),
	)
	// The whole workshop as one file, and back: what is there comes in as copies.
	archive := filepath.Join(t.TempDir(), "all.zip")
	require.NoError(t, exec.Command(binary, "backup", "--data", a.data, archive).Run())
	do(t, w,
		see(`//a[contains(., "Back up")][@href="/api/archive"]`),
		chromedp.SetUploadFiles(chooser, []string{archive}, chromedp.ByQuery),
		see(text("p[@role='status']", "4 builds came in, with")),
		see(text("p[@role='status']", "4 were here already")),
		see(text("p[@role='status']", "are those that were here")),
	)
}
