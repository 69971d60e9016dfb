package e2e

import (
	"bytes"
	"context"
	"fmt"
	"math"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"cinderpath/samples"
	"cinderpath/samples/scene"
	"cinderpath/sheets"

	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/cdproto/runtime"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

const pellick = "01997a00-0000-7000-8000-0000c1de002b"

// A size sheet filled by the keyboard alone: from the room's tab to the verdict.
func TestSizeSheetByKeyboardOnly(t *testing.T) {
	a := demo(t)
	w := browser(t)
	var focused string
	do(
		t,
		w,
		chromedp.Navigate(a.url+"/builds/"+pellick),
		see(text("h1", "Pellick")),
		chromedp.Focus(stage("Measure"), chromedp.BySearch),
		chromedp.KeyEvent(kb.Enter),
		see(cell("New dimension, name")),
	)
	// Three kit sizes down the column: each Enter takes one and goes to the next row.
	do(t, w, chromedp.Focus(cell("Hull length, in the kit"), chromedp.BySearch))
	var state struct {
		Build struct {
			Scale float64
			Sizes struct{ Length, Width, Height struct{ MM float64 } }
		}
	}
	a.get(t, "/api/builds/"+pellick, &state)
	for _, mm := range []float64{state.Build.Sizes.Length.MM, state.Build.Sizes.Width.MM, state.Build.Sizes.Height.MM} {
		do(t, w, chromedp.KeyEvent(fmt.Sprintf("%.2f", mm/state.Build.Scale)), chromedp.KeyEvent(kb.Enter))
	}
	do(t, w, see(`//section[@aria-label="Size sheet"]//button[contains(@aria-label, "Height, deviation")]`),
		chromedp.Evaluate(`document.activeElement.getAttribute("aria-label")`, &focused))
	assert.NotEqual(t, "Height, in the kit", focused, "Enter went on")
	// Two new rows: name, real, part, kit, Enter; the cursor waits in the next name.
	do(
		t,
		w,
		chromedp.Focus(cell("New dimension, name"), chromedp.BySearch),
		chromedp.KeyEvent(
			"Tyre diameter"+kb.Tab+"39 in"+kb.Tab,
		),
		chromedp.KeyEvent("r"),
		chromedp.KeyEvent(kb.Tab+"20.64"),
		chromedp.KeyEvent(kb.Enter),
		see(
			cell("Tyre diameter, real"),
		),
		see(`//section[@aria-label="Size sheet"]//button[contains(@aria-label, "Tyre diameter, deviation")]`),
	)
	do(
		t,
		w,
		chromedp.Poll(`document.activeElement.getAttribute("aria-label") === "New dimension, name"`, nil),
		chromedp.KeyEvent(
			"Gun barrel"+kb.Tab+"1.5 m"+kb.Tab+kb.Tab+"27",
		),
		chromedp.KeyEvent(kb.Enter),
		see(`//section[@aria-label="Size sheet"]//button[contains(@aria-label, "Gun barrel, deviation")]`),
	)
	// A slip is told beneath its row and kept in its cell; Escape takes it back.
	do(
		t,
		w,
		chromedp.Focus(cell("Gun barrel, real"), chromedp.BySearch),
		chromedp.KeyEvent("a", chromedp.KeyModifiers(2)),
		chromedp.KeyEvent("1,500"),
		chromedp.KeyEvent(kb.Enter),
		see(
			text("p[@role='alert']", "1500 or 1.500"),
		),
		chromedp.Focus(cell("Gun barrel, real"), chromedp.BySearch),
		chromedp.KeyEvent(kb.Escape),
	)
	do(t, w, chromedp.Value(cell("Gun barrel, real"), &focused, chromedp.BySearch))
	assert.Equal(t, "1.5 m", focused)
	// The barrel of 27 mm stands for 1.3 m: the check names it, and one button decides.
	do(
		t,
		w,
		chromedp.Focus(`//a[@role="tab"][.="Kit check"]`, chromedp.BySearch),
		chromedp.KeyEvent(kb.Enter),
		see(text("p", "it is what the box says")),
		see(text("p", "Gun barrel is 4.")),
	)
	do(
		t,
		w,
		chromedp.Focus(`//article[@aria-label="Gun barrel"]//button[contains(., "Extend it by")]`, chromedp.BySearch),
		chromedp.KeyEvent(kb.Enter),
		see(text("p", "Decided: extend")),
	)
}

// Ten rows from a spreadsheet, one of them bad: nine are taken, the bad one stays to be mended.
func TestPasteTenRows(t *testing.T) {
	a := demo(t)
	w := browser(t)
	rows := []string{"Part\tName\tReal\tKit"}
	for i := range 9 {
		rows = append(rows, fmt.Sprintf("fittings\tBox %d length\t%d mm\t%.2f", i+1, 400+100*i, float64(400+100*i)/48))
	}
	rows = append(rows, "fittings\tCrate height\t1,200\t25")
	area := `//textarea[@aria-label="Table of dimensions"]`
	do(
		t,
		w,
		chromedp.Navigate(a.url+"/builds/"+pellick),
		tab("Sizes"),
		click(text("button", "Paste a table")),
		see(area),
		chromedp.Focus(area, chromedp.BySearch),
		input.InsertText(strings.Join(rows, "\n")),
		see(text("p", "9 rows read, 1 not")),
		see(text("li", "Row 11, real")),
		click(text("button", "Take 9 rows")),
		see(cell("Box 9 length, real")),
	)
	var left string
	do(
		t,
		w,
		chromedp.Poll(`document.querySelector("textarea").value.startsWith("fittings")`, nil),
		chromedp.Value(area, &left, chromedp.BySearch),
	)
	assert.Equal(t, "fittings\tCrate height\t1,200\t25", left)
	do(
		t,
		w,
		chromedp.Focus(area, chromedp.BySearch),
		chromedp.KeyEvent("a", chromedp.KeyModifiers(2)),
		input.InsertText("fittings\tCrate height\t1200\t25"),
		see(
			text("button", "Take 1 row"),
		),
		chromedp.KeyEvent(kb.Enter, chromedp.KeyModifiers(input.ModifierCtrl)),
		see(cell("Crate height, real")),
		chromedp.WaitNotPresent(area, chromedp.BySearch),
	)
	// One undo takes the nine back together, since they came together.
	do(t, w, click(`//header//button[.="Undo"]`), chromedp.WaitNotPresent(cell("Crate height, real"), chromedp.BySearch),
		click(`//header//button[.="Undo"]`), chromedp.WaitNotPresent(cell("Box 9 length, real"), chromedp.BySearch))
}

// The picture of the sample, opened as a photograph of another build: four corners
// marked, a length measured within its interval and sent to the sheet.
func TestPhotoRule(t *testing.T) {
	a := demo(t)
	w := browser(t)
	documents, err := samples.Documents()
	require.NoError(t, err)
	b := documents[0].Items[0].Build
	files, err := samples.Files()
	require.NoError(t, err)
	picture := filepath.Join(t.TempDir(), "left side.png")
	require.NoError(t, os.WriteFile(picture, files[b.Photos[0].Hash], 0o600))
	bad := filepath.Join(t.TempDir(), "poem.png")
	require.NoError(t, os.WriteFile(bad, []byte("not a picture"), 0o600))

	chooser := `//section[@aria-label="Photographs"]//input[@type="file"]`
	do(
		t,
		w,
		chromedp.Navigate(a.url+"/builds/"+pellick),
		tab("Photos"),
		see(text("p", "one thing of known size")),
		chromedp.SetUploadFiles(
			chooser,
			[]string{bad},
			chromedp.BySearch,
		),
		see(text("p[@role='alert']", "neither a JPEG nor a PNG")),
		chromedp.SetUploadFiles(
			chooser,
			[]string{picture},
			chromedp.BySearch,
		),
		see(`//*[local-name()="svg"][@aria-label="Photograph left side with its marks"]`),
		see(text("p[@role='alert']", "length across is not given")),
		retype(
			field("Across, 1 to 2, real"),
			fmt.Sprintf("%g mm", scene.BoardLong)+kb.Enter,
		),
		retype(field("Down, 2 to 3, real"), fmt.Sprintf("%g mm", scene.BoardHigh)+kb.Enter),
	)

	// Clicks where the camera saw the corners, as a user's hand would: to the pixel of the screen.
	at := func(x, y float64) chromedp.Action {
		return chromedp.ActionFunc(func(ctx context.Context) error {
			var p []float64
			script := fmt.Sprintf(
				`(() => { const m = document.querySelector('svg[role=application]').getScreenCTM(); const p = new DOMPoint(%g, %g).matrixTransform(m); return [p.x, p.y]; })()`,
				x,
				y,
			)
			if err := chromedp.Evaluate(script, &p).Do(ctx); err != nil {
				return err
			}
			return chromedp.MouseClickXY(math.Round(p[0]), math.Round(p[1])).Do(ctx)
		})
	}
	do(t, w, click(text("button", "Mark its four corners")))
	for i, c := range scene.Board(b) {
		x, y := scene.See(c)
		do(t, w, see(text("button", fmt.Sprintf("Click corner %d of 4", i+1))), at(x, y))
	}
	do(t, w, see(text("button", "Mark its four corners")), click(text("button", "Measure a length")))
	ends := scene.Edge(b)
	for _, e := range ends {
		x, y := scene.See(e)
		do(t, w, at(x, y))
	}
	var reading string
	do(
		t,
		w,
		retype(`//article[@aria-label="Length 1"]//input[@type="text" or not(@type)]`, "Hull edge"+kb.Enter),
		see(`//article[@aria-label="Hull edge"]//button[contains(@aria-label, "why this number")]`),
		chromedp.Text(
			`//article[@aria-label="Hull edge"]//button[contains(@aria-label, "why this number")]`,
			&reading,
			chromedp.BySearch,
		),
	)
	var mm, half float64
	_, err = fmt.Sscanf(reading, "%g ± %g mm", &mm, &half)
	require.NoError(t, err, "%q", reading)
	assert.InDelta(t, b.Sizes.Length.MM, mm, half, "the truth lies in the interval: %s", reading)
	assert.Less(t, half, 200.0)

	// Nudged by the arrow keys a point moves by a pixel, and the length with it.
	var before, after string
	corner := `//*[@data-point="c1"]`
	do(
		t,
		w,
		chromedp.Focus(corner, chromedp.BySearch),
		chromedp.AttributeValue(corner, "aria-valuetext", &before, nil, chromedp.BySearch),
		chromedp.KeyEvent(kb.ArrowRight),
		chromedp.AttributeValue(corner, "aria-valuetext", &after, nil, chromedp.BySearch),
	)
	var x0, y0, x1, y1 float64
	_, err = fmt.Sscanf(before+" "+after, "%g, %g px %g, %g px", &x0, &y0, &x1, &y1)
	require.NoError(t, err)
	assert.InDelta(t, 1, x1-x0, 1e-9)
	assert.InDelta(t, y0, y1, 1e-9)
	do(t, w, chromedp.KeyEvent(kb.ArrowLeft), see(`//*[local-name()="svg"][contains(@class, "loupe")]`))

	// To the size sheet with its source; not in the plane it carries its caution.
	do(
		t,
		w,
		click(`//article[@aria-label="Hull edge"]//button[.="To the size sheet"]`),
		see(text("p", "It is on the size sheet")),
		chromedp.Focus(
			`//article[@aria-label="Hull edge"]//input[@type="checkbox"]`,
			chromedp.BySearch,
		),
		chromedp.KeyEvent(" "),
		see(text("p", "Not in the plane of what is known")),
		tab(
			"Sizes",
		),
		see(cell("Hull edge, real")),
		chromedp.Focus(cell("Hull edge, real"), chromedp.BySearch),
		see(text("span", "photograph left side")),
	)
	// All of it is there after a reload.
	do(
		t,
		w,
		chromedp.Navigate(a.url+"/builds/"+pellick),
		tab("Photos"),
		see(`//article[@aria-label="Hull edge"]`),
		see(text("p", "Not in the plane of what is known")),
	)
}

// Three questions and more to the rule; its history; its answer on the sheet.
func TestAskTheRule(t *testing.T) {
	a := demo(t)
	w := browser(t)
	var recalled string
	ask := func(q string) chromedp.Action {
		return chromedp.Tasks{
			chromedp.Focus(`#rule`, chromedp.ByQuery),
			chromedp.KeyEvent("a", chromedp.KeyModifiers(2)),
			chromedp.KeyEvent(q + kb.Enter),
		}
	}
	do(
		t,
		w,
		chromedp.Navigate(a.url+"/builds/"+varrow),
		see(text("h2", "Chips")),
		ask("rope 28mm"),
		see(text("output", "2 strands of 0.40 mm brass wire (yours)")),
		ask(
			"drill 18mm",
		),
		see(text("output", "no. 76 (yours)")),
		ask("1:35 → 1:48 42mm"),
		see(text("output", "30.6 mm")),
		ask("rope long"),
		see(text("output", "is not a number")),
		ask("0.5 -> real"),
		see(text("output", "17.5 mm (3/4 in)")),
		click(
			`//output//button[contains(@aria-label, "real: why")]`,
		),
		see(text("code", "real = model · N")),
		chromedp.KeyEvent(kb.Escape),
		chromedp.Focus(
			`#rule`,
			chromedp.ByQuery,
		),
		chromedp.KeyEvent(kb.ArrowUp+kb.ArrowUp+kb.ArrowUp),
		chromedp.Value(`#rule`, &recalled, chromedp.ByQuery),
	)
	assert.Equal(t, "1:35 → 1:48 42mm", recalled)
	do(
		t,
		w,
		chromedp.KeyEvent(kb.Enter),
		see(text("output", "30.6 mm")),
		click(`//form[@aria-label="The rule"]//button[.="To the size sheet"]`),
		see(cell("From the rule: 1:35 → 1:48 42mm, real")),
	)
}

// Stock: looked up, owned, taken out of the table and brought back.
func TestStockRoom(t *testing.T) {
	a := demo(t)
	w := browser(t)
	inStock := func(label string) string {
		return fmt.Sprintf(`//section[@aria-label="Stock"]//input[@id=//label[contains(normalize-space(.), %q)]/@for]`, label)
	}
	need := func(kind string) chromedp.Action {
		return chromedp.Tasks{
			click(inStock("I need")),
			click(fmt.Sprintf(`//div[@role="option"][normalize-space(.)=%q]`, kind)),
		}
	}
	do(
		t,
		w,
		chromedp.Navigate(a.url+"/builds/"+varrow),
		tab("Stock"),
		retype(inStock("Tightest bend, model"), "2 mm"),
		click(text("button", "Look it up")),
		see(`//tbody/tr[1]/td[contains(., "2 strands of 0.40 mm thread")]`),
		need(
			"sheet, laminate",
		),
		retype(inStock("Thickness, real"), "22 mm"),
		click(text("button", "Look it up")),
		see(text("td", "0.13 mm sheet + 0.50 mm sheet")),
		need(
			"hole",
		),
		retype(inStock("Diameter, real"), "75 mm"),
		retype(inStock("Bored from, model"), "2.6"),
		click(text("button", "Look it up")),
		see(
			`//ol[@aria-label="Boring sequence"]/li[5]`,
		),
		see(text("strong", "it breaks out")),
		see(text("p", "Cut away from the hand")),
		need(
			"weld beads",
		),
		retype(inStock("Width of bead, real"), "21 mm"),
		retype(inStock("All seams, real"), "7 m"),
		click(text("button", "Look it up")),
		see(text("dd", "0.028 ml")),
	)
	do(
		t,
		w,
		click(text("button", "Table and what I own")),
		click(`//input[@aria-label="I own 0.10 mm tin wire"]`),
		see(`//tr[@data-owned]/td[contains(., "0.10 mm tin wire")]`),
		click(
			`//button[@aria-label="Take out 0.10 mm brass wire"]`,
		),
		chromedp.WaitNotPresent(`//td[contains(., "0.10 mm brass wire")]`, chromedp.BySearch),
		click(text("button", "Bring back 1 taken out")),
		see(`//td[contains(., "0.10 mm brass wire")]`),
		retype(
			inStock("Add wire"),
			"fuse wire",
		),
		retype(inStock("Size, mm"), "0.12"),
		click(text("button", "Add to the table")),
		see(`//td[contains(., "fuse wire")]`),
	)
}

// onView clicks a view of the plate at a place in model mm, as a user's hand would.
func onView(side string, x, y float64) chromedp.Action {
	return chromedp.ActionFunc(func(ctx context.Context) error {
		var p []float64
		script := fmt.Sprintf(
			`(() => { const m = document.querySelector('[data-view=%s]').getScreenCTM(); const p = new DOMPoint(%g, %g).matrixTransform(m); return [p.x, p.y]; })()`,
			side,
			x,
			y,
		)
		if err := chromedp.Evaluate(script, &p).Do(ctx); err != nil {
			return err
		}
		return chromedp.MouseClickXY(p[0], p[1]).Do(ctx)
	})
}

// A dimension is placed on the plate by two clicks, and drawn there; a mistaken kit
// size is corrected and the verdict follows; the check can aim at the box instead.
func TestPlaceADimensionAndFitTheBox(t *testing.T) {
	a := demo(t)
	w := browser(t)
	do(
		t,
		w,
		chromedp.Navigate(a.url+"/builds/"+varrow),
		tab("Sizes"),
		click(`//button[@aria-label="Turret length: more"]`),
		click(text("button", "Place it on the plate")),
		see(
			text("p", "click one end on a view"),
		),
		onView("top", 60, 44),
		see(text("p", "its other end on the same view")),
		onView("top", 129.5, 44),
		chromedp.WaitNotPresent(
			text("p", "its other end"),
			chromedp.BySearch,
		),
		chromedp.Focus(cell("Turret length, real"), chromedp.BySearch),
		see(`//*[@aria-label="Turret length: 69.5 mm on the model"]`),
	)
	var state struct {
		Build struct {
			Dimensions []struct {
				Name string
				At   *struct {
					Side     string
					From, To [2]float64
				}
			}
		}
	}
	placed := func() bool {
		a.get(t, "/api/builds/"+varrow, &state)
		for _, d := range state.Build.Dimensions {
			if d.Name == "Turret length" && d.At != nil {
				assert.Equal(t, "top", d.At.Side)
				assert.InDelta(t, 69.5*35, d.At.To[0]-d.At.From[0], 35)
				return true
			}
		}
		return false
	}
	require.Eventually(t, placed, time.Minute, 50*time.Millisecond, "the ends are kept")
	do(
		t,
		w,
		tab("Kit check"),
		see(`//article[@aria-label="Barrel length"]//span[.="−4.04 mm"]`),
		click(
			`//label[contains(., "fit the box")]`,
		),
		see(`//article[@aria-label="Barrel length"]//span[.="−3.17 mm"]`),
		see(text("p", "Barrel length is 3.2 mm too short")),
		tab("Sizes"),
		retype(cell("Barrel length, in the kit"), "75.84"+kb.Enter),
		tab("Kit check"),
		chromedp.WaitNotPresent(`//article[@aria-label="Barrel length"]`, chromedp.BySearch),
	)
}

// A point dragged by the mouse under the magnifier; one known length instead of a
// rectangle; a table opened as a file.
func TestDragAPointAndOpenATable(t *testing.T) {
	a := demo(t)
	w := browser(t)
	var where struct{ X, Y float64 }
	corner := `document.querySelector('[data-point="c0"]')`
	do(
		t,
		w,
		chromedp.Navigate(a.url+"/builds/"+varrow),
		tab("Photos"),
		see(text("span", "6400 ± ")),
		chromedp.Sleep(time.Second), // the picture has come and stands still
		chromedp.Evaluate(
			`(() => { const r = `+corner+`.getBoundingClientRect(); return {X: r.x + r.width / 2, Y: r.y + r.height / 2}; })()`,
			&where,
		),
	)
	do(t, w, chromedp.MouseEvent(input.MousePressed, where.X, where.Y, chromedp.Button("left"), chromedp.ClickCount(1)),
		chromedp.MouseEvent(input.MouseMoved, where.X-20, where.Y, chromedp.Button("left")),
		see(`//*[local-name()="svg"][contains(@class, "loupe")]`),
		chromedp.MouseEvent(input.MouseReleased, where.X-20, where.Y, chromedp.Button("left")),
		chromedp.WaitNotPresent(text("span", "6400 ± "), chromedp.BySearch))
	var moved struct {
		Build struct {
			Photos []struct{ Corners [][]float64 }
		}
	}
	require.Eventually(t, func() bool {
		a.get(t, "/api/builds/"+varrow, &moved)
		return moved.Build.Photos[0].Corners[0][0] < 680
	}, 30*time.Second, 100*time.Millisecond, "the drag was not kept")
	// The wheel of 604.8 mm known, the edge reads as far as it is square on.
	do(t, w, click(`//label[contains(., "one length")]`), see(text("p[@role='alert']", "known length is not given")),
		retype(field("Known length A–B, real"), "2.4 m"+kb.Enter), see(text("button", "Mark its ends")))

	table := filepath.Join(t.TempDir(), "sizes.csv")
	require.NoError(
		t,
		os.WriteFile(table, []byte("group,name,real_mm,kit_mm\nfittings,Jerrycan height,470,13.6\n"), 0o600),
	)
	do(
		t,
		w,
		tab("Sizes"),
		click(text("button", "Paste a table")),
		chromedp.SetUploadFiles(
			`//section[@aria-label="Size sheet"]//input[@type="file"]`,
			[]string{table},
			chromedp.BySearch,
		),
		see(
			text("button", "Take 1 row"),
		),
		chromedp.Focus("textarea", chromedp.ByQuery),
		chromedp.KeyEvent(kb.Enter, chromedp.KeyModifiers(input.ModifierCtrl)),
		see(cell("Jerrycan height, real")),
	)
}

// What the track takes: under the sizes the count, in the gear room sag by span with its
// why and the choices, and a jig to print whose gauge follows a change of scale.
func TestTrackAndItsJig(t *testing.T) {
	a := demo(t)
	w := browser(t)
	var jig string
	fetch := chromedp.Evaluate(`fetch('/api/builds/`+varrow+`/sheets/track-jig.svg').then(r => r.text())`, &jig, awaited)
	do(
		t,
		w,
		chromedp.Navigate(a.url+"/builds/"+varrow),
		tab("Sizes"),
		see(text("span", "track links a side")),
		click(text("a", "Sag, runs, fewer and more links")),
		see(
			text("li", "return roller 3 to return roller 2"),
		),
		click(`//ul[@aria-label="Sag, span by span"]/li[starts-with(., "return roller 2 to return roller 1")]//button`),
		see(text("li", "slack 2.31 mm on the model")),
		chromedp.KeyEvent(kb.Escape),
		see(
			`//ul[@aria-label="One fewer, one more"]/li[contains(., "94") and contains(., "does not close")]`,
		),
		see(`//ul[@aria-label="One fewer, one more"]/li[contains(., "95") and contains(., "slack 2.31 mm")]`),
		fetch,
	)
	assert.Contains(t, jig, "28 links of 3.749 mm, pin to pin 104.96 mm")
	do(t, w, tab("Sizes"), retype(field("Scale"), "1:72"+kb.Enter), see(text("span", "88.9 mm")), fetch)
	assert.Contains(t, jig, "28 links of 1.822 mm")
}

// A cable's path picked on the plate: its cut length follows the clicks.
func TestCablePickedOnThePlate(t *testing.T) {
	a := demo(t)
	w := browser(t)
	do(
		t,
		w,
		chromedp.Navigate(a.url+"/builds/"+varrow),
		tab("Cables"),
		see(text("p", "The leaflet's 131 mm is 4.7 mm too long")),
		click(text("button", "New cable or pipe")),
		see(text("button", "Picking: click along the plate")),
	)
	// Two points 60 mm apart along the hull's side.
	do(
		t,
		w,
		onView("left", 60, 48),
		see(`//article[@aria-label="New cable"]//summary[contains(., "1 points")]`),
		onView("left", 120, 48),
		see(`//article[@aria-label="New cable"]//summary[contains(., "2 points")]`),
	)
	var cut string
	number := `//article[@aria-label="New cable"]//button[contains(@aria-label, "length to cut")]`
	do(t, w, chromedp.Text(number, &cut, chromedp.BySearch))
	assert.True(t, strings.HasPrefix(cut, "60.") || strings.HasPrefix(cut, "59."), cut)
	do(
		t,
		w,
		onView("left", 2, 2),
		see(text("p", "nothing of the vehicle at that place")),
		click(`//p[@role="status"]//button[.="done"]`),
	)
}

// An own part: sent, measured while one looks, judged on another printer.
func TestOwnParts(t *testing.T) {
	a := demo(t)
	w := browser(t)
	var stl bytes.Buffer
	require.NoError(t, sheets.WriteSTL(&stl, scene.Winch(), "winch"))
	good, bad := filepath.Join(t.TempDir(), "spare winch.stl"), filepath.Join(t.TempDir(), "bad.stl")
	require.NoError(t, os.WriteFile(good, stl.Bytes(), 0o600))
	require.NoError(t, os.WriteFile(bad, stl.Bytes()[:500], 0o600))
	chooser := `//section[@aria-label="Own parts"]//input[@type="file"]`
	do(
		t,
		w,
		chromedp.Navigate(a.url+"/builds/"+pellick),
		tab("Own parts"),
		chromedp.SetUploadFiles(chooser, []string{bad}, chromedp.BySearch),
		see(text("p[@role='alert']", "the file ends after 8 of 768 triangles")),
		chromedp.SetUploadFiles(
			chooser,
			[]string{good},
			chromedp.BySearch,
		),
		see(`//article[@aria-label="spare winch"]//dd[contains(., "12.1 × 8.8 × 8.8 mm")]`),
		see(
			`//article[@aria-label="spare winch"]//div[dt="Thinnest wall"]/dd[contains(., "0.29 mm, too thin")]`,
		),
		see(text("p", "print at 1:")),
		click(
			`//article[@aria-label="spare winch"]//input[@id=//label[.="Printer"]/@for]`,
		),
		click(`//div[@role="option"][normalize-space(.)="Resin printer"]`),
		see(
			`//article[@aria-label="spare winch"]//div[dt="Thinnest wall"]/dd[normalize-space(.)="0.29 mm"]`,
		),
		see(text("p", "nitrile gloves")),
	)
	var piece []byte
	do(t, w, chromedp.ActionFunc(func(ctx context.Context) error {
		var text string
		err := chromedp.Evaluate(
			`fetch(document.querySelector('a[href$="calibration.stl"]').href).then(r => r.arrayBuffer()).then(b => String.fromCharCode(...new Uint8Array(b)))`,
			&text,
			awaited,
		).Do(
			ctx,
		)
		for _, r := range text {
			piece = append(piece, byte(r))
		}
		return err
	}))
	m, err := sheets.ReadSTL(bytes.NewReader(piece), nil)
	require.NoError(t, err)
	assert.True(t, m.Measure().Closed)
	assert.InDelta(t, 0.05, m.Walls(m.Measure(), nil, nil).Thinnest, 1e-3, "one pixel of the resin printer")
}

// awaited waits for a promise's value.
func awaited(p *runtime.EvaluateParams) *runtime.EvaluateParams { return p.WithAwaitPromise(true) }
