package e2e

import (
	"context"
	"image"
	"image/color"
	"image/png"
	"math"
	"net/url"
	"os"
	"path/filepath"
	"testing"
	"time"

	"cinderpath/core/colour"
	"cinderpath/core/paint"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// labelled is a field by its label, or by its name for screen readers.
func labelled(name string) string {
	return `//input[@aria-label="` + name + `" or @id=//label[contains(., "` + name + `")]/@for]`
}

// chosen picks from a list by typing a part of its words.
func chosen(name, option string) chromedp.Action {
	return chromedp.Tasks{
		click(labelled(name)),
		typed(name, option),
		chromedp.KeyEvent(kb.ArrowDown),
		chromedp.KeyEvent(kb.Enter),
	}
}

func typed(name, words string) chromedp.Action {
	return chromedp.SendKeys(labelled(name), words, chromedp.BySearch)
}

// A jar is entered by one line, found again by its likeness; what cannot be read is told and
// stays typed.
func TestAJarIsEnteredByOneLine(t *testing.T) {
	a := demo(t)
	window := browser(t)
	do(
		t,
		window,
		chromedp.Navigate(a.url),
		see(text("h2", "Drumble")),
		click(text("a", "Shelf")),
		see(text("span", "12 lichen green")),
		typed("A jar in one line", "61 fog blue, marmalade, #93a4ad, 17 ml"+kb.Enter),
		see(text("p", "was not understood")),
	)
	var still string
	do(t, window, chromedp.Value(labelled("A jar in one line"), &still, chromedp.BySearch))
	assert.Equal(t, "61 fog blue, marmalade, #93a4ad, 17 ml", still)
	do(
		t,
		window,
		retype(labelled("A jar in one line"), "61 fog blue, waterborne acrylic, #93a4ad, 17 ml, half dry"),
		press(kb.Enter),
		see(text("h2", "61 fog blue")),
		see(text("small", "half dry: thin and strain")),
	)
	// By its colour it is the likest.
	do(t, window, typed("Search", "#93a4ad"), see(text("h2", "the likest first")))
	until(t, window, `document.querySelector('[aria-label=Jars] li span').textContent`, "61 fog blue")
	// A test piece sets its swatch right.
	do(
		t,
		window,
		typed("How it dried", "#8a9ba4"),
		click(labelled("Held beside")),
		click(`//div[@role='option'][normalize-space(.)="04 river grey"]`),
		click(text("button", "Keep it")),
		see(text("p", "1 sprayed; the swatch was off by")),
		see(text("span", "beside 04 river grey ΔE00")),
	)
	var swatch string
	do(t, window, chromedp.Value(labelled("Swatch, dry"), &swatch, chromedp.BySearch))
	assert.Equal(t, "#8a9ba4", swatch)
	do(t, window, chromedp.Reload(), see(text("span", "61 fog blue")))
}

// A recipe is found for a colour, mixed and kept, and a colour of the scheme is sprayed from
// it: the plate changes, and the jars hold less.
func TestARecipeGoesToTheScheme(t *testing.T) {
	a := demo(t)
	window := browser(t)
	look := func() string {
		var s struct {
			Plan struct{ Steps []struct{ Look string } }
		}
		a.get(t, "/api/builds/"+varrow, &s)
		return s.Plan.Steps[len(s.Plan.Steps)-1].Look
	}
	before := look()
	do(
		t,
		window,
		chromedp.Navigate(a.url+"/shelf/mix"),
		typed("Colour that is wanted", "#8c7d54"),
		choose("For", "Varrow II"),
		click(text("button", "Find recipes")),
		see(text("p", "these come closest")),
	)
	lookAt(t, window, "mix")
	do(t, window, click(text("button", "Lighter, darker")), see(text("span", "three steps lighter")))
	do(
		t,
		window,
		typed("Name of the mix", "ochre for the bands"),
		click(text("button", "Mix it and keep it")),
		see(
			text("p", "It is kept"),
		),
		click(labelled("Colour of the scheme")),
		click(`//div[@role='option'][normalize-space(.)="basalt grey"]`),
		click(text("button", "Spray it with this")),
		click(text("a", "See the vehicle")),
		see(pictured),
		click(`//article[@aria-label="basalt grey"]/button`),
		see(`//input[@value="ochre for the bands"]`),
	)
	assert.NotEqual(t, before, look(), "the vehicle looks otherwise")
	do(t, window, chromedp.Navigate(a.url+"/shelf"), see(text("span", "ochre for the bands")))
	lookAt(t, window, "shelf")
	// It runs out: its jars are wanted.
	do(t, window, click(text("button", "ochre for the bands")), see(text("p", "ml left, made")),
		typed("Left of the mix, ml", "0.2"), click(text("button", "So much is left")), see(text("p", "0.2 ml left, made")))
}

// What steps take besides their layers is named in the parts' room, with what is left of it.
func TestSuppliesComeFromNamedJars(t *testing.T) {
	a := demo(t)
	window := browser(t)
	line := func(words string) chromedp.Action {
		return see(`//section[@aria-label="From the shelf"]//p[contains(., "` + words + `")]`)
	}
	do(
		t,
		window,
		chromedp.Navigate(a.url+"/builds/"+varrow+"/build/parts"),
		line("49 filler, grey, "),
		line("51 thin cement, "),
	)
	var state struct {
		Plan struct {
			Steps []struct {
				Kind  string
				Needs []struct{ Name string }
			}
		}
		Build struct{ Supplies map[string]string }
	}
	a.get(t, "/api/builds/"+varrow, &state)
	assert.Contains(t, state.Build.Supplies["putty_solvent"], "5e0049")
	// Another jar is taken: what is told of it follows, and it is kept.
	of := `//section[@aria-label="From the shelf"]//div[p[contains(., "49 filler, grey, ")]]` +
		`//input[@role="combobox" or @aria-haspopup]`
	do(
		t,
		window,
		pickIn(of, "50 two-part putty"),
		line("50 two-part putty, "),
		chromedp.Navigate(a.url+"/builds/"+varrow+"/build/parts"),
		line("50 two-part putty, "),
	)
	a.get(t, "/api/builds/"+varrow, &state)
	assert.Contains(t, state.Build.Supplies["putty_solvent"], "5e0050")
}

// What went astray is touched in from the mix that was kept: the repair names it with what is left,
// and ticked off with what was really used, the mix holds less.
func TestATouchUpTakesFromTheKeptMix(t *testing.T) {
	a := demo(t)
	window := browser(t)
	do(
		t,
		window,
		chromedp.Navigate(a.url+"/shelf/mix"),
		typed("Colour that is wanted", "#66704f"),
		choose("For", "Varrow II"),
		click(text("button", "Find recipes")),
		see(text("p", "these come closest")),
		typed("Name of the mix", "lichen, kept"),
		click(text("button", "Mix it and keep it")),
		see(text("p", "It is kept")),
		click(labelled("Colour of the scheme")),
		click(`//div[@role='option'][normalize-space(.)="lichen green"]`),
		click(text("button", "Spray it with this")),
		see(text("a", "See the vehicle")),
		chromedp.Navigate(a.url+"/builds/"+varrow+"/bench"),
		see(text("h1", "")),
		press("m"),
		see(text("h2", "What went wrong?")),
		choose("At which step", "Camouflage: kelp brown"),
		click(text("button", "overspray")),
		click(`//aside//button[.="turret"]`),
		click(text("button", "Repair it")),
		see(text("li", "new: Touch in with the colour beneath")),
	)
	var state struct {
		Plan struct {
			Steps []struct {
				ID, Kind string
				Needs    []struct {
					Pot, Name string
					ML        float64
				}
			}
		}
	}
	a.get(t, "/api/builds/"+varrow, &state)
	step := ""
	for _, s := range state.Plan.Steps {
		if s.Kind == "repair" && len(s.Needs) > 0 && s.Needs[0].Name == "lichen, kept" {
			step = s.ID
		}
	}
	require.NotEmpty(t, step, "the repair takes from the kept mix")
	kept := func() (left float64) {
		var shop struct {
			Shelf struct {
				Mixes []struct {
					Name string
					Left float64 `json:"leftMl"`
				}
			}
		}
		a.get(t, "/api/shelf", &shop)
		for _, m := range shop.Shelf.Mixes {
			if m.Name == "lichen, kept" {
				left = m.Left
			}
		}
		return left
	}
	before := kept()
	do(
		t,
		window,
		chromedp.Navigate(a.url+"/builds/"+varrow+"/bench?step="+url.QueryEscape(step)),
		see(text("dd", "lichen, kept")),
		press("n"),
		typed("Used of lichen, kept, ml", "0.5"),
	)
	lookAt(t, window, "touch-up")
	do(
		t,
		window,
		click(`//main//button[starts-with(normalize-space(.), "Start")]`),
		click(`//main//button[.="Done"]`),
		see(text("span[@role='status']", "done.")),
	)
	assert.InDelta(t, before-0.5, kept(), 1e-6, "the mix holds less")
}

// What is short is told with its step, its last day to order and what may stand in.
func TestShoppingTellsWhatIsShort(t *testing.T) {
	a := demo(t)
	window := browser(t)
	do(
		t,
		window,
		chromedp.Navigate(a.url+"/shelf/shopping"),
		see(text("h2", "48 ochre mud")),
		see(text("p", "Order by")),
	)
	lookAt(t, window, "shopping")
	do(
		t,
		window,
		chromedp.Navigate(a.url+"/shelf"),
		click(text("button", "17 scraped green")),
		retype(labelled("Left, ml"), "0"),
		click(text("button", "Keep")),
		see(text("small", "empty: buy")),
		click(
			text("button", "Shopping"),
		),
		see(text("h2", "17 scraped green")),
		click(text("button", "ml short")),
		see(text("code", "wanted − left")),
	)
}

// A cup that came out wrong is mended by the fewest drops.
func TestACupIsMended(t *testing.T) {
	a := demo(t)
	window := browser(t)
	do(
		t,
		window,
		chromedp.Navigate(a.url+"/shelf/cup"),
		chosen("Jar 1 in the cup", "02 soot black"),
		typed(
			"Colour it should be",
			"#50524f",
		),
		click(text("button", "What to add")),
		see(text("p", "then beside wanted")),
		see(text("p", "The cup then holds")),
	)
	lookAt(t, window, "cup")
	do(
		t,
		window,
		typed("How it looks", "too marmalade"),
		click(text("button", "What to add")),
		see(text("p", "was not understood")),
	)
}

// lookAt keeps a throwaway picture where one is asked for.
func lookAt(t *testing.T, window context.Context, name string) {
	into := os.Getenv("CINDERPATH_LOOK")
	if into == "" {
		return
	}
	var png []byte
	do(t, window, chromedp.Sleep(400*time.Millisecond), chromedp.CaptureScreenshot(&png))
	require.NoError(t, os.WriteFile(filepath.Join(into, name+".png"), png, 0o600))
}

// photographed draws the neutral card with a colour in its hole, under a warm lamp.
func photographed(t *testing.T, hex string) string {
	const side, edge = 400, 40
	c, err := colour.Parse(hex)
	require.NoError(t, err)
	inks := c.Linear()
	img := image.NewRGBA(image.Rect(0, 0, side+2*edge, side+2*edge))
	for y := range side + 2*edge {
		for x := range side + 2*edge {
			u, v := (float64(x)-edge+0.5)/side, (float64(y)-edge+0.5)/side
			part := [3]float64{0.3, 0.3, 0.3}
			if u > 0 && u < 1 && v > 0 && v < 1 {
				part = [3]float64{inks[0] / 0.86, inks[1] / 0.86, inks[2] / 0.86}
			}
			for _, f := range paint.Card() {
				if math.Abs(u-f.At[0]) < 0.1 && math.Abs(v-f.At[1]) < 0.1 {
					part = [3]float64{f.Part, f.Part, f.Part}
				}
			}
			var out [3]uint8
			for k, lamp := range [3]float64{0.8, 0.65, 0.45} {
				out[k] = uint8(255*colour.Encode(lamp*part[k]*math.Exp(-0.3*u)) + 0.5)
			}
			img.Set(x, y, color.RGBA{out[0], out[1], out[2], 255})
		}
	}
	file := filepath.Join(t.TempDir(), "card.png")
	f, err := os.Create(file)
	require.NoError(t, err)
	defer f.Close()
	require.NoError(t, png.Encode(f, img))
	return file
}

// A photograph of a sprayed chip hangs on its jar, also when one comes back, and is taken off again.
func TestASprayedChipHangsOnItsJar(t *testing.T) {
	a := demo(t)
	window := browser(t)
	chip := `//section[@aria-label="Sprayed chips"]//img[contains(@alt, "lichen green")]`
	do(
		t,
		window,
		chromedp.Navigate(a.url+"/shelf"),
		click(text("button", "12 lichen green")),
		see(text("button", "Add a photograph of a sprayed chip")),
		chromedp.SetUploadFiles(
			`section[aria-label="Sprayed chips"] + input[type=file], section[aria-label="Sprayed chips"] input[type=file]`,
			[]string{photographed(t, "#7d5a3c")}, chromedp.ByQuery),
		see(chip),
		chromedp.Poll(`document.querySelector('section[aria-label="Sprayed chips"] img').naturalWidth > 0`, nil),
	)
	lookAt(t, window, "chips")
	do(
		t,
		window,
		chromedp.Reload(),
		click(text("button", "12 lichen green")),
		see(chip),
		click(`//button[@aria-label="Take out photograph 1"]`),
		chromedp.WaitNotPresent(chip, chromedp.BySearch),
	)
}

// A swatch is read from a photograph that shows the neutral card.
func TestASwatchComesFromAPhotograph(t *testing.T) {
	a := demo(t)
	window := browser(t)
	do(t, window, chromedp.Navigate(a.url+"/shelf"), click(text("button", "12 lichen green")),
		chromedp.SetUploadFiles(`input[type=file][accept^="image"]`, []string{photographed(t, "#7d5a3c")}, chromedp.ByQuery),
		see(text("p", "Click upper left corner")))
	var box []float64
	do(
		t,
		window,
		chromedp.Evaluate(`(() => { const r = document.querySelector('[aria-label="The photograph"]').getBoundingClientRect();
		const k = Math.min(r.width / 480, r.height / 480); return [r.x + (r.width - 480 * k) / 2, r.y + (r.height - 480 * k) / 2, k]; })()`, &box),
	)
	for _, at := range [][2]float64{{40, 40}, {440, 40}, {440, 440}, {40, 440}, {240, 240}} {
		do(t, window, chromedp.MouseClickXY(box[0]+at[0]*box[2], box[1]+at[1]*box[2]))
	}
	do(t, window, see(text("button", "Take this swatch")))
	lookAt(t, window, "photo")
	do(t, window, click(text("button", "Take this swatch")))
	var hex string
	do(t, window, chromedp.Value(labelled("Swatch, dry"), &hex, chromedp.BySearch))
	want, err := colour.Parse("#7d5a3c")
	require.NoError(t, err)
	got, err := colour.Parse(hex)
	require.NoError(t, err)
	assert.Less(t, colour.Difference(want.Lab(), got.Lab()), 2.0, "told as %s", hex)
}
