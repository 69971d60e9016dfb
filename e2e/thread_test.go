package e2e

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"cinderpath/store/cluster"

	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// drawing is the outline of the left side's faces, as the browser holds it.
const drawing = `String([...document.querySelectorAll('[aria-label="Left side"] path')].reduce((h, p) => { const d = p.getAttribute('d'); for (let i = 0; i < d.length; i += 7) { h = (h * 31 + d.charCodeAt(i)) | 0; } return h; }, 7))`

// The whole thread: from a real length to the bench, and back after a reload.
func TestFromLengthToBench(t *testing.T) {
	a := demo(t)
	w := browser(t)
	var before, links string
	do(t, w, chromedp.Navigate(a.url), click(text("h2/a", "Varrow")), see(text("h2", "Chips")),
		tab("Sizes"), see(text("span", "182.9 mm")), see(`//*[@data-view="left"]//*[@data-zone]`),
		chromedp.Text(`[data-links]`, &links, chromedp.ByQuery), chromedp.Evaluate(drawing, &before))
	assert.Equal(t, "95", links)

	// A new length in feet and inches reaches kit size, drawing, scheme and links.
	do(t, w, retype(cell("Hull length, real"), "23 ft 4 in"+kb.Enter), see(text("span", "203.2 mm")),
		chromedp.Text(`[data-links]`, &links, chromedp.ByQuery))
	assert.NotEqual(t, "95", links)
	until(t, w, fmt.Sprintf(`%s === %q ? 'as before' : 'drawn anew'`, drawing, before), "drawn anew")

	// Strong solvent brushed over the oil of the rust streaks.
	var steps, stepsMended []*cdp.Node
	do(
		t,
		w,
		tab("Layers"),
		click(text("button", "Add a layer on top")),
		retype(field("Name"), "Hot dust"),
		retype(field("Product"), "lacquer"),
		click(`//div[@role="option"][normalize-space(.)="lacquer"]`),
		// The list lies over the next field until it is gone.
		chromedp.WaitNotVisible(`//div[@role="option"][normalize-space(.)="lacquer"]`, chromedp.BySearch),
		click(
			field("Where"),
		),
		chromedp.KeyEvent("turret"),
		// Lists of other rooms, unseen, have a turret too.
		click(`(//div[@role="option"][normalize-space(.)="turret"])[last()]`),
		chromedp.KeyEvent(kb.Escape),
		click(text("button", "Add this layer")),
		found,
		see(
			text("h3", "Hot dust destroys rust streaks"),
		),
		see(text("p", "Strong solvent brushed dissolves rust streaks, cured or not.")),
		chromedp.Nodes(`nav [data-index]`, &steps, chromedp.ByQueryAll),
	)

	// Its first mend: a barrier, which waits for the oil to cure.
	do(
		t,
		w,
		click(
			`//article[contains(@aria-label, "Hot dust destroys rust streaks")]//button[contains(., "Put a barrier between")]`,
		),
		chromedp.WaitNotPresent(text("h3", "Hot dust destroys rust streaks"), chromedp.BySearch),
		chromedp.Nodes(`nav [data-index]`, &stepsMended, chromedp.ByQueryAll),
		click(`//nav//button[@title="Clear coat, lacquer"]`),
		see(text("h2", "Clear coat, lacquer")),
		opened,
		see(`//li[contains(., "2 days") and contains(., "after Rust streaks (cured")]`),
	)
	assert.Len(t, stepsMended, len(steps)+1)

	// At the bench: start and finish what is next.
	do(
		t,
		w,
		chromedp.Navigate(a.url+"/builds/"+varrow+"/bench?step=chips%3A01997a00-0000-7000-8000-0000c1de0008%3A1"),
		see(text("h1", "Chips")),
		click(`//main//button[contains(., "Start")]`),
		see(text("p", "Under way")),
		click(`//main//button[.="Done"]`),
		see(text("span", "Chips: done.")),
	)

	// Everything is there after a reload.
	do(
		t,
		w,
		chromedp.Navigate(a.url+"/builds/"+varrow),
		see(`//nav//button[contains(@aria-label, "Chips, ")][contains(@aria-label, "dr") or contains(@aria-label, "done")]`),
		see(`//nav//button[@title="Clear coat, lacquer"]`),
		tab("Sizes"),
		see(text("span", "203.2 mm")),
	)
}

// Two windows on one build: the stale one is told and keeps its typing.
func TestTwoWindows(t *testing.T) {
	a := demo(t)
	first := browser(t)
	do(t, first, chromedp.Navigate(a.url+"/builds/"+varrow), tab("Sizes"), see(cell("Width, real")))
	second := another(t, first)
	do(
		t,
		second,
		chromedp.Navigate(a.url+"/builds/"+varrow),
		tab("Sizes"),
		retype(cell("Width, real"), "3.2 m"+kb.Enter),
		see(text("span", "91.4 mm")),
	)

	var kept, width string
	do(t, first, retype(cell("Hull length, real"), "6.6 m"+kb.Enter), see(text("p", "Changed in another window")),
		chromedp.Value(cell("Hull length, real"), &kept, chromedp.BySearch), see(text("span", "91.4 mm")),
		chromedp.Value(cell("Width, real"), &width, chromedp.BySearch))
	assert.Equal(t, "6.6 m", kept, "what was typed is kept")
	assert.Equal(t, "3.2 m", width, "the newer state is shown")
	do(t, first, retype(cell("Hull length, real"), "6.6 m"+kb.Enter), see(text("span", "188.6 mm")))
}

// A build from nothing, with a slip on the way; then copied, removed and brought back.
func TestNewBuild(t *testing.T) {
	a := demo(t)
	w := browser(t)
	do(
		t,
		w,
		chromedp.Navigate(a.url),
		click(text("button", "New build")),
		retype(
			field("Name"),
			"Tussock carrier",
		),
		retype(field("Real hull length"), "5,250"),
		retype(field("Real width"), "8 ft 6 in"),
		retype(field("Real height"), "2.3 m"),
		click(text("button", "Start the build")),
		see(text("p", "5250 or 5.250")),
		retype(field("Real hull length"), "5.25 m"),
		click(text("button", "Start the build")),
		see(text("h1", "Tussock carrier")),
		tab("Sizes"),
		see(text("span", "150.0 mm")),
	)
	do(
		t,
		w,
		chromedp.KeyEvent("h"),
		click(`//button[@aria-label="More for Tussock carrier"]`),
		click(text("button", "Duplicate")),
		see(text("h2", "Tussock carrier, copy")),
		click(
			`//button[@aria-label="More for Tussock carrier, copy"]`,
		),
		click(text("button", "Rename")),
		retype(field("Name of the build"), "Tussock two"+kb.Enter),
		see(text("h2", "Tussock two")),
		click(`//button[@aria-label="More for Tussock two"]`),
		click(text("button", "Remove")),
		chromedp.WaitNotPresent(
			text("h2", "Tussock two"),
			chromedp.BySearch,
		),
		click(text("button", "Bring it back")),
		see(text("h2", "Tussock two")),
	)
}

// The rule, the picked zone, a number asked why, and undo; by keyboard where it can be.
func TestRuleWhyAndUndo(t *testing.T) {
	a := demo(t)
	w := browser(t)
	do(
		t,
		w,
		chromedp.Navigate(a.url+"/builds/"+varrow),
		see(text("h2", "Chips")),
		chromedp.KeyEvent(
			kb.ArrowRight,
		),
		see(text("h2", "Dry brushing")),
		chromedp.KeyEvent("n"),
		see(text("h2", "Chips")),
		press("/"),
		chromedp.KeyEvent("28mm"+kb.Enter),
		see(text("output", "0.80 mm")),
		see(text("output", "drill")),
		tab(
			"Sizes",
		),
		click(`//button[@aria-label="Hull length on the model: why this number?"]`),
		see(text("code", "model = real / N")),
		chromedp.KeyEvent(kb.Escape),
		chromedp.Click(`[data-view="rear"] [data-zone="turret.bin"]`, chromedp.ByQuery),
		picked("turret, bin"),
		retype(cell("Height, real"), "2.6 m"+kb.Enter),
		see(text("span", "74.3 mm")),
		click(`//header//button[.="Undo"]`),
		see(text("span", "72.0 mm")),
		retype(cell("Height, real"), "10 km"+kb.Enter),
		see(text("p", "longer than one kilometre")),
	)
}

// calc plan gives the plan of the app from its export, byte for byte.
func TestCalcPlanIsThePlanOfTheApp(t *testing.T) {
	a := demo(t)
	export, err := http.Get(a.url + "/api/builds/" + varrow + "/export")
	require.NoError(t, err)
	document, err := io.ReadAll(export.Body)
	require.NoError(t, err)
	export.Body.Close()
	answer, err := http.Post(a.url+"/api/calc/plan", "application/json", bytes.NewReader(document))
	require.NoError(t, err)
	want, err := io.ReadAll(answer.Body)
	require.NoError(t, err)
	answer.Body.Close()
	require.Equal(t, http.StatusOK, answer.StatusCode, "%s", want)

	calc := exec.Command(binary, "calc", "plan")
	calc.Stdin = bytes.NewReader(document)
	got, err := calc.Output()
	require.NoError(t, err)
	assert.Equal(t, string(want), string(got))

	// And the app shows that very plan, unless the minute turned between the two.
	var state struct {
		Plan json.RawMessage `json:"plan"`
	}
	var exported struct {
		AsOf string `json:"asOf"`
	}
	require.NoError(t, json.Unmarshal(document, &exported))
	a.get(t, "/api/builds/"+varrow, &state)
	if strings.Contains(string(state.Plan), exported.AsOf) {
		assert.Equal(t, strings.TrimSpace(string(got)), string(state.Plan))
	}
}

// A warmer room dries faster, and hours that cannot be are refused with their reason.
func TestHoursAndRoom(t *testing.T) {
	a := demo(t)
	w := browser(t)
	room := `//input[@id=//label[.="Room, °C"]/@for]`
	do(
		t,
		w,
		chromedp.Navigate(a.url+"/builds/"+varrow),
		opened,
		see(`//li[contains(., "4 h") and contains(., "after Take back the pin wash")]`),
		tab("Hours"),
		retype(room, "30"),
		click(text("button", "Keep these hours")),
		tab("Layers"),
		see(`//li[contains(., "2 h") and contains(., "after Take back the pin wash")]`),
		tab("Hours"),
		retype(
			`//input[@aria-label="Monday from"]`,
			"late",
		),
		click(text("button", "Keep these hours")),
		see(text("p", "times of day")),
	)
}

// Another server than the private one: its database is used, and kept.
func TestAnotherServer(t *testing.T) {
	server, err := cluster.Start(t.Context(), dataDir(t))
	require.NoError(t, err)
	defer func() { require.NoError(t, server.Stop()) }()
	data := dataDir(t)
	a := startApp(t, data, "--database-url", server.URL)
	require.Equal(t, http.StatusOK, a.post("/api/calc/length", `{"text":"1 m","scale":"1:35"}`))
	assert.NoDirExists(t, filepath.Join(data, "postgres"))
	doctor, err := exec.Command(binary, "doctor", "--data", data, "--database-url", server.URL).Output()
	require.NoError(t, err)
	assert.Contains(t, string(doctor), "it answers")
	stop, err := exec.Command(binary, "stop", "--data", data).Output()
	require.NoError(t, err)
	assert.Contains(t, string(stop), "Stopped")
}

// Export and import on the command line, beside the running app.
func TestExportAndImportBesideTheApp(t *testing.T) {
	a := startApp(t, dataDir(t))
	document, err := exec.Command(binary, "export", "--data", a.data, "--build", varrow, "--only").Output()
	require.NoError(t, err)
	file := filepath.Join(t.TempDir(), "varrow.json")
	require.NoError(t, os.WriteFile(file, document, 0o600))
	said, err := exec.Command(binary, "import", "--data", a.data, file).Output()
	require.NoError(t, err)
	assert.Contains(t, string(said), "Varrow II medium tank, imported")
	var home struct {
		Builds []struct{ Glance struct{ Name string } }
	}
	a.get(t, "/api/home", &home)
	assert.Len(t, home.Builds, 4)
}
