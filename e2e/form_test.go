package e2e

import (
	"bytes"
	"context"
	"fmt"
	"image/png"
	"math"
	"os"
	"path/filepath"
	"strconv"
	"testing"
	"time"

	downloads "github.com/chromedp/cdproto/browser"
	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/cdproto/target"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// room is a section of the tray by its name.
func room(name string) string { return fmt.Sprintf(`//section[@aria-label=%q]`, name) }

// until waits for what a script gives to be what is wanted.
func until(t testing.TB, window context.Context, script, want string) {
	t.Helper()
	var got string
	for range 400 {
		// What is not there yet is no error: it is waited for.
		do(t, window, chromedp.Evaluate(`(() => { try { return `+script+` } catch { return '' } })()`, &got))
		if got == want {
			return
		}
		time.Sleep(100 * time.Millisecond)
	}
	picture(window)
	require.Equal(t, want, got, script)
}

// differing is the share of a picture's points that are not like its first.
func differing(t testing.TB, data []byte) float64 {
	img, err := png.Decode(bytes.NewReader(data))
	require.NoError(t, err)
	box := img.Bounds()
	r0, g0, b0, _ := img.At(box.Min.X, box.Min.Y).RGBA()
	n := 0
	for y := box.Min.Y; y < box.Max.Y; y++ {
		for x := box.Min.X; x < box.Max.X; x++ {
			if r, g, b, _ := img.At(x, y).RGBA(); r != r0 || g != g0 || b != b0 {
				n++
			}
		}
	}
	return float64(n) / float64(box.Dx()*box.Dy())
}

// choose picks an option of a list by its words.
func choose(label, option string) chromedp.Action {
	return chromedp.Tasks{
		click(fmt.Sprintf(`//input[@id=//label[contains(normalize-space(.), %q)]/@for]`, label)),
		click(text("div[@role='option']", option)),
	}
}

// middleOf is where an element of the page lies.
func middleOf(t testing.TB, window context.Context, label string) (x, y float64) {
	var at []float64
	do(
		t,
		window,
		see(fmt.Sprintf(`//*[@data-handle][@aria-label=%q]`, label)),
		chromedp.Evaluate(
			fmt.Sprintf(
				`(() => { const r = document.querySelector('[data-handle][aria-label=%q]').getBoundingClientRect(); return [r.x + r.width / 2, r.y + r.height / 2]; })()`,
				label,
			),
			&at,
		),
	)
	return at[0], at[1]
}

// dragBy drags a handle with the mouse; while it is held, during looks at the page.
func dragBy(t testing.TB, window context.Context, label string, dx, dy float64, during ...chromedp.Action) {
	x, y := middleOf(t, window, label)
	mouse := func(kind input.MouseType, x, y float64) chromedp.Action {
		return input.DispatchMouseEvent(kind, x, y).WithButton(input.Left).WithClickCount(1)
	}
	do(t, window, input.DispatchMouseEvent(input.MouseMoved, x, y), mouse(input.MousePressed, x, y))
	for k := 1.0; k <= 8; k++ {
		do(t, window, mouse(input.MouseMoved, x+dx*k/8, y+dy*k/8))
	}
	do(t, window, during...)
	do(t, window, mouse(input.MouseReleased, x+dx, y+dy))
}

// From nothing to a turning model: five answers and an outline, a vertex by number and
// by dragging, an impossible body told on the spot, a fitting placed, then it turns.
func TestBodyFromNothingToATurningModel(t *testing.T) {
	a := demo(t)
	window := browser(t)
	do(
		t,
		window,
		chromedp.Navigate(a.url),
		click(text("button", "New build")),
		choose("Outline to start from", "gun in the hull"),
	)
	for label, value := range map[string]string{"Name": "Tussock", "Scale": "1:48", "Real hull length": "6 m", "Real width": "2.9 m", "Real height": "2.1 m"} {
		do(t, window, retype(field(label), value))
	}
	do(
		t,
		window,
		click(text("button", "Start the build")),
		see(`//*[@data-view="left"]`),
		tab("Body"),
		click(room("Body")+`//button[.="upper hull"]`),
	)

	// By number.
	point := cell("hull: point 4 z")
	do(t, window, see(point), retype(point, "1900"), chromedp.KeyEvent(kb.Enter))
	until(t, window, `document.querySelector('input[aria-label="hull: point 4 z"]').value`, "1900")

	// By dragging: caught on whole steps of ten millimetres.
	var before, after string
	do(t, window, chromedp.Value(cell("hull: point 6 x"), &before, chromedp.BySearch))
	dragBy(t, window, "Point 6 of hull", 14, 0)
	moved := func() bool {
		do(t, window, chromedp.Value(cell("hull: point 6 x"), &after, chromedp.BySearch))
		return after != before
	}
	require.Eventually(t, moved, 30*time.Second, 100*time.Millisecond)
	x, err := strconv.ParseFloat(after, 64)
	require.NoError(t, err)
	assert.InDelta(t, 0, math.Mod(x, 10), 1e-9, "%s is a whole step", after)

	// Impossible: the profile would cross itself. It is told beside the drawing and undone.
	do(
		t,
		window,
		retype(cell("hull: point 2 x"), "-4000"),
		chromedp.KeyEvent(kb.Enter),
		see(text("p[@role='alert']", "crosses itself between points")),
		click(text("button", "leave it as it was")),
	)
	// Undone: what was dragged goes back.
	do(t, window, chromedp.Evaluate(`document.activeElement.blur()`, nil), click(`//header//button[.="Undo"]`))
	until(t, window, `document.querySelector('input[aria-label="hull: point 6 x"]').value`, before)

	// A fitting where one clicks.
	do(
		t,
		window,
		click(`//button[@aria-label="Place the fitting on the plate"]`),
		see(text("p[@role='status']", "Click on the face")),
	)
	do(t, window, onView("top", 40, 30), see(room("Body")+`//button[.="box"]`))

	do(t, window, click(text("button", "turn it")), see(`//canvas`), see(text("span", "triangles")))
	var triangles string
	do(t, window, chromedp.AttributeValue(`//span[@data-triangles]`, "data-triangles", &triangles, nil, chromedp.BySearch))
	n, err := strconv.Atoi(triangles)
	require.NoError(t, err)
	assert.Greater(t, n, 2000)
	assert.Greater(t, inked(t, window), 0.05, "the vehicle is seen")
}

// inked is the share of the turning view's points that are not its ground.
func inked(t testing.TB, window context.Context) float64 {
	var share float64
	require.Eventually(t, func() bool {
		var shot []byte
		do(t, window, chromedp.Screenshot(`canvas`, &shot, chromedp.ByQuery))
		share = differing(t, shot)
		return share > 0.05
	}, 20*time.Second, 300*time.Millisecond)
	return share
}

// A wheel is dragged: while it is held the number of links changes, and it stays when it
// rests; undone, it comes back. One road wheel more, set in a row.
func TestDragAWheelAndSeeTheLinksChange(t *testing.T) {
	a := demo(t)
	window := browser(t)
	do(t, window, chromedp.Navigate(a.url+"/builds/"+varrow), tab("Gear"), see(room("Running gear")+`//*[@data-links]`))
	links := func() int {
		var n string
		do(
			t,
			window,
			chromedp.AttributeValue(room("Running gear")+`//*[@data-links]`, "data-links", &n, nil, chromedp.BySearch),
		)
		out, err := strconv.Atoi(n)
		require.NoError(t, err)
		return out
	}
	before := links()
	assert.Equal(t, 95, before)
	held := 0
	dragBy(
		t,
		window,
		"idler",
		26,
		0,
		see(room("Running gear")+`//*[@data-live]`),
		chromedp.ActionFunc(func(context.Context) error {
			require.Eventually(t, func() bool { held = links(); return held > before }, 30*time.Second, 100*time.Millisecond)
			return nil
		}),
	)
	until(
		t,
		window,
		`document.querySelector('section[aria-label="Running gear"] [data-links]').dataset.live ?? 'rested'`,
		"rested",
	)
	assert.GreaterOrEqual(t, links(), held)
	var state struct {
		Plan struct{ Gear struct{ Links int } }
	}
	a.get(t, "/api/builds/"+varrow, &state)
	assert.Equal(t, links(), state.Plan.Gear.Links, "what is shown is what is kept")

	// Into the hull: told, and left as it was.
	do(t, window, retype(cell("idler: x"), "0"), chromedp.KeyEvent(kb.Enter))
	do(t, window, chromedp.Evaluate(`document.activeElement.blur()`, nil), click(`//header//button[.="Undo"]`))
	until(
		t,
		window,
		`document.querySelector('section[aria-label="Running gear"] [data-links]').dataset.links < `+strconv.Itoa(
			held+200,
		)+` ? 'there' : ''`,
		"there",
	)

	// Uneven ground: wheels follow it, the track takes what it takes.
	do(
		t,
		window,
		click(room("Ground")+`//button[.="make it uneven"]`),
		see(room("Running gear")+`//ul[@aria-label="Wheels on the ground"]/li`),
	)
	do(t, window, tab("Sheets"), see(`//article[@aria-label="Arm template"]//img`))
}

// The jig is fetched as a file: an SVG whose check bar is there.
func TestDownloadTheJig(t *testing.T) {
	a := demo(t)
	window := browser(t)
	dir := t.TempDir()
	do(
		t,
		window,
		chromedp.Navigate(a.url+"/builds/"+varrow),
		tab("Sheets"),
		see(`//article[@aria-label="Track jig"]//img`),
		chromedp.ActionFunc(func(ctx context.Context) error {
			c := chromedp.FromContext(ctx)
			ctx = cdp.WithExecutor(ctx, c.Browser)
			page, err := target.GetTargetInfo().WithTargetID(c.Target.TargetID).Do(ctx)
			if err != nil {
				return err
			}
			return downloads.SetDownloadBehavior(
				downloads.SetDownloadBehaviorBehaviorAllow,
			).WithBrowserContextID(
				page.BrowserContextID,
			).WithDownloadPath(
				dir,
			).Do(
				ctx,
			)
		}),
		click(`//article[@aria-label="Track jig"]//a[.="SVG"]`),
	)
	file := filepath.Join(dir, "track-jig.svg")
	var got []byte
	require.Eventually(t, func() bool {
		got, _ = os.ReadFile(file)
		return bytes.Contains(got, []byte("</svg>"))
	}, 20*time.Second, 200*time.Millisecond)
	assert.Contains(t, string(got), "This bar is 50 mm long")
	assert.Contains(t, string(got), "links a side in all")
	// All pictures of sheets are there.
	var broken int
	do(
		t,
		window,
		chromedp.Evaluate(
			`[...document.querySelectorAll('section[aria-label="Sheets"] img')].filter((i) => i.complete && i.naturalWidth === 0).length`,
			&broken,
		),
	)
	assert.Zero(t, broken)
}

// zoneField tells which zone is picked.
const zoneField = `document.querySelector('input[aria-label="Zone"]').value`

// picked waits until the zone of these words is picked.
func picked(words string) chromedp.Action {
	return chromedp.Poll(zoneField+fmt.Sprintf(` === %q`, words), nil)
}

// pictured is the plate once its pictures are there; looked names what they show.
const (
	pictured = `//*[@data-look]`
	looked   = `document.querySelector('[data-look]').dataset.look`
)

// The plate is drawn nearer and set to the model's true size after the ruler was asked.
func TestTrueSizeAfterTheRuler(t *testing.T) {
	a := demo(t)
	window := browser(t)
	do(
		t,
		window,
		chromedp.Navigate(a.url+"/builds/"+varrow),
		see(`//*[@data-view="left"]`),
		click(text("button", "true size")),
		retype(field("Length of the bar"), "100"),
		click(text("button", "keep it")),
		chromedp.WaitNotPresent(field("Length of the bar"), chromedp.BySearch), // the dialog is gone
		click(text("button", "true size")),
	)
	// 400 points are 100 mm: the hull's dimension of 182.9 mm is 731 points long.
	long := func() float64 {
		var out float64
		do(
			t,
			window,
			chromedp.Evaluate(
				`(() => { const p = [...document.querySelectorAll('[aria-label^="Hull length"] path')].at(-1).getBoundingClientRect(); return p.width; })()`,
				&out,
			),
		)
		return out
	}
	require.Eventually(
		t,
		func() bool { return math.Abs(long()-6400.0/35*4) < 6 },
		30*time.Second,
		100*time.Millisecond,
		"%v",
		long(),
	)
	// Picked in the drawing, the zone is picked in space, and the other way round.
	do(t, window, click(text("button", "whole")), click(`//*[@data-view="left"]//*[@data-zone="turret.left"]`))
	until(t, window, zoneField, "turret, left")
	do(t, window, click(text("button", "turn it")), see(`//canvas`))
	until(t, window, zoneField, "turret, left")
	require.Greater(t, inked(t, window), 0.05)
	var at []float64
	do(
		t,
		window,
		chromedp.Evaluate(
			`(() => { const r = document.querySelector('canvas').getBoundingClientRect(); return [r.x + r.width * 0.5, r.y + r.height * 0.66]; })()`,
			&at,
		),
	)
	do(t, window, chromedp.MouseClickXY(at[0], at[1]))
	other := func() bool {
		var zone string
		do(t, window, chromedp.Evaluate(zoneField, &zone))
		return zone != "turret, left" && zone != ""
	}
	require.Eventually(t, other, 30*time.Second, 100*time.Millisecond)
}

// The Varrow turns by itself for as long as it is let, on a canvas of a good size, and stands
// still when it is told to. How many frames a second that gives is BenchmarkTurning's.
func TestTheVarrowTurns(t *testing.T) {
	t.Parallel()
	a := startApp(t, dataDir(t))
	window := browser(t)
	turning(t, window, a.url)
	var size []float64
	do(
		t,
		window,
		chromedp.Evaluate(`(() => { const c = document.querySelector('canvas'); return [c.width, c.height]; })()`, &size),
	)
	require.GreaterOrEqual(t, size[0]*size[1], 960.0*600, "%v", size)
	const frames = `performance.getEntriesByName('turned').length`
	do(t, window,
		click(text("button", "let it turn")),
		chromedp.Poll(frames+` > 60`, nil),
		click(text("button", "hold still")),
		see(text("button", "let it turn")),
	)
	var before, after int
	do(t, window,
		chromedp.Evaluate(frames, &before),
		chromedp.Evaluate(`new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)))`, nil, promised),
		chromedp.Evaluate(frames, &after),
	)
	assert.LessOrEqual(t, after-before, 1, "it stands still")
}

// turning opens the Varrow to be turned.
func turning(t testing.TB, window context.Context, url string) {
	do(
		t,
		window,
		emulation.SetDeviceMetricsOverride(1400, 950, 1, false),
		chromedp.Navigate(url+"/builds/"+varrow),
		click(text("button", "turn it")),
		see(`//canvas`),
	)
	inked(t, window)
}
