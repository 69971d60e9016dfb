package e2e

import (
	"fmt"
	"io"
	"net/http"
	"slices"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// insertDots lays oil dots below the camouflage, where nothing of them will be seen.
func insertDots(t *testing.T, a *app) {
	var s struct {
		Revision int
		Build    struct {
			Layers []struct{ ID, Kind string }
		}
	}
	a.get(t, "/api/builds/"+varrow, &s)
	before := ""
	for _, l := range s.Build.Layers {
		if l.Kind == "colour" {
			before = l.ID
		}
	}
	require.NotEmpty(t, before)
	body := fmt.Sprintf(
		`{"edits":[{"op":"layers","layers":[{"op":"insert","before":%q,"layer":{"id":"","name":"Early dots",`+
			`"kind":"dots","family":"oil_thin","applied":"brushed","coats":1,"hex":"#9a8a5a","zones":["turret"]}}]}]}`,
		before,
	)
	require.Equal(t, 200, a.post("/api/builds/"+varrow+"/edits", body, "If-Match", fmt.Sprintf(`"%d"`, s.Revision)))
}

// What will be seen of each layer is told, a layer of which nothing is seen is moved to where it shows,
// and the plate follows.
func TestWhatWillBeSeenIsAsked(t *testing.T) {
	a := demo(t)
	insertDots(t, a)
	window := browser(t)
	fate := func(name, words string) string {
		return `//ol[@aria-label="What will be seen"]/li//button[contains(., "` + name +
			`")][span[starts-with(normalize-space(.), "` + words + `")]]`
	}
	do(
		t,
		window,
		chromedp.Navigate(a.url+"/builds/"+varrow+"/earth/worth"),
		see(pictured),
		see(text("p", "Where time is short")),
		see(fate("Mud", "100 %")),
		click(fate("Early dots", "0 %")),
		see(text("p", "next to nothing is left of it")),
		see(text("th", "still seen")),
	)
	lookAt(t, window, "worth")
	do(
		t,
		window,
		click(`//section[@aria-label="Worth"]//button[contains(., "Move it after")]`),
		chromedp.WaitNotPresent(fate("Early dots", "0 %"), chromedp.BySearch),
		see(`//ol[@aria-label="What will be seen"]/li//button[contains(., "Early dots")][span[contains(., "%")]]`),
	)
}

// A core is cut where one clicks, and grows as one walks along the path.
func TestACoreIsCutOnThePlate(t *testing.T) {
	a := demo(t)
	window := browser(t)
	var plies, fewer string
	do(
		t,
		window,
		chromedp.Navigate(a.url+"/builds/"+varrow+"/earth/core-sample"),
		see(pictured),
		see(text("p", "Click anywhere on the vehicle")),
		onView("left", 95, 24),
		see(`//section[@aria-label="Core sample"]//ol/li`),
		chromedp.Evaluate(count(`section[aria-label="Core sample"] ol li`), &plies),
	)
	lookAt(t, window, "core")
	assert.NotContains(t, []string{"0", "1", "2"}, plies)
	do(
		t,
		window,
		chromedp.Evaluate(`document.querySelector('nav[aria-label^="The path"] button[aria-label^="Primer"]').click()`, nil),
		see(`//section[@aria-label="Core sample"]//ol[count(li) <= 2]`),
		chromedp.Evaluate(count(`section[aria-label="Core sample"] ol li`), &fewer),
	)
	assert.Equal(t, "1", fewer)
}

// stepOf is a step of the Varrow by its title; the last one for none.
func stepOf(t *testing.T, a *app, title string) (step struct{ ID, Title, Look string }) {
	var s struct {
		Plan struct {
			Steps []struct{ ID, Title, Look string }
		}
	}
	a.get(t, "/api/builds/"+varrow, &s)
	for _, step = range s.Plan.Steps {
		if step.Title == title {
			break
		}
	}
	return step
}

// look names what the Varrow looks like after a step.
func look(t *testing.T, a *app, title string) string { return stepOf(t, a, title).Look }

// The path plays like a film to its end; a step that is held stands at the left of a seam beside another.
func TestThePathPlaysAndTwoStepsAreCompared(t *testing.T) {
	a := demo(t)
	window := browser(t)
	var last string
	shown := `document.querySelector('svg[data-look]').dataset.look`
	do(
		t,
		window,
		chromedp.Navigate(a.url+"/builds/"+varrow+"/paint/layers"),
		see(pictured),
		chromedp.Evaluate(`document.querySelector('nav[aria-label^="The path"] button[aria-label^="Primer"]').click()`, nil),
		see(`//h2[contains(., "Primer")]`),
		click(text("button", "Hold to compare")),
		see(`//input[@aria-label="Seam between the two steps"]`),
	)
	first := look(t, a, "Primer")
	until(t, window, shown, first) // its pictures are there
	do(
		t,
		window,
		click(text("button", "Play the path")),
		see(text("button", "Stop")),
		chromedp.WaitNotPresent(text("button", "Stop"), chromedp.BySearch), // it has come to its end
		chromedp.Evaluate(shown, &last),
	)
	lookAt(t, window, "held")
	assert.NotEqual(t, first, last)
	assert.Equal(t, look(t, a, ""), last)
	var held string
	do(t, window, chromedp.Evaluate(`document.querySelector('g[clip-path] image').getAttribute('href')`, &held))
	assert.Contains(t, held, first, "the held step stands at the left")
	do(
		t,
		window,
		click(text("button", "Compare no more")),
		chromedp.WaitNotPresent(`//input[@aria-label="Seam between the two steps"]`, chromedp.BySearch),
	)
}

// Scripts that give the pictures of the six states, and how many of them are drawn.
const (
	statesSeen  = `[...document.querySelectorAll('section[aria-label="Six states along the path"] img')]`
	statesDrawn = statesSeen + `.filter((i) => i.complete && i.naturalWidth > 0).length.toString()`
)

// Six states along the path stand beside each other, from the bare model to the finished one, seen from any side;
// one of them leads to its step.
func TestSixStatesAlongThePath(t *testing.T) {
	a := demo(t)
	window := browser(t)
	do(t, window, chromedp.Navigate(a.url+"/builds/"+varrow), see(pictured), click(text("button", "Six states")))
	until(t, window, statesDrawn, "6")
	lookAt(t, window, "states")
	var urls []string
	do(t, window, chromedp.Evaluate(statesSeen+`.map((i) => i.getAttribute('src'))`, &urls))
	assert.Len(t, slices.Compact(slices.Sorted(slices.Values(urls))), 6, "six that differ")
	assert.Contains(t, urls[5], look(t, a, ""), "the last is the finished vehicle")
	do(t, window, click(text("button", "Right side")))
	until(
		t,
		window,
		statesSeen+`.filter((i) => i.getAttribute('src').includes('/right?') && i.naturalWidth > 0).length.toString()`,
		"6",
	)
	do(t, window, chromedp.Evaluate(statesSeen+`[0].closest('button').click()`, nil), see(pictured))
	until(t, window, `document.querySelector('svg[data-look]').dataset.look`, strings.Split(urls[0], "/")[5])
}

// A layer is told where it shall land: one click on the plate, and the plate answers; taken out, it looks as
// before.
func TestWhereALayerLandsIsSetOnThePlate(t *testing.T) {
	a := demo(t)
	window := browser(t)
	var before string
	shown := `document.querySelector('svg[data-look]').dataset.look`
	do(
		t,
		window,
		chromedp.Navigate(a.url+"/builds/"+varrow+"/earth/layers"),
		see(pictured),
		click(text("span", "Dust on flats")),
		see(`//section[@aria-label="How Dust on flats is worked"]`),
	)
	// Its trial card is a sheet to print.
	var card string
	do(t, window, chromedp.AttributeValue(text("a", "Trial card"), "href", &card, nil, chromedp.BySearch))
	r, err := http.Get(a.url + card)
	require.NoError(t, err)
	sheet, err := io.ReadAll(r.Body)
	require.NoError(t, err)
	require.NoError(t, r.Body.Close())
	assert.Equal(t, "%PDF", string(sheet[:4]))
	// The plate shows the layer once it is on.
	until(t, window, `String(document.querySelectorAll('svg[data-look]').length)`, "1")
	do(
		t,
		window,
		click(text("button", "Only here")),
		see(text("p", "Click where all of it shall be")),
		chromedp.Evaluate(shown, &before),
		onView("top", 60, 44),
		see(`//ul[@aria-label="Marks of Dust on flats"]/li[contains(., "Only here")]`),
	)
	until(t, window, fmt.Sprintf(`String(%s !== %q)`, shown, before), "true")
	until(t, window, `String(document.querySelectorAll('[data-view=top] circle').length > 0)`, "true")
	lookAt(t, window, "only")
	do(
		t,
		window,
		click(`//button[@aria-label="Take out mark 1"]`),
		chromedp.WaitNotPresent(`//ul[@aria-label="Marks of Dust on flats"]`, chromedp.BySearch),
	)
}

// A surface is said to be cast: a thin wash is warned of there, and thick oil is taken with a click.
func TestASurfaceIsCast(t *testing.T) {
	a := demo(t)
	window := browser(t)
	do(
		t,
		window,
		chromedp.Navigate(a.url+"/builds/01997a00-0000-7000-8000-0000c1de0063/wear/layers"),
		see(pictured),
		pickIn(cell("Zone"), "cab, front"),
		pickIn(cell("Surface of cab, front"), "cast"),
		found,
		see(text("h3", "Pin wash is too thin for the relief of cab, front")),
		click(text("button", "Take thick oil there")),
		see(text("span", "Pin wash, thick")),
		chromedp.WaitNotPresent(text("h3", "too thin for the relief"), chromedp.BySearch),
	)
	lookAt(t, window, "cast")
}

// Rivets go round a plate, one bolt where one clicks: the plate shows them, the list tells how many there
// are, and what was put is taken away again.
func TestBoltsGoOntoAPlate(t *testing.T) {
	a := demo(t)
	window := browser(t)
	shown := `document.querySelector('svg[data-look]').dataset.look`
	on := func(words string) string {
		return `//ul[@aria-label="Small relief on it"]/li[contains(., "` + words + `")]`
	}
	var before string
	do(
		t,
		window,
		chromedp.Navigate(a.url+"/builds/"+varrow+"/form/body"),
		see(pictured),
		see(text("h3", "Bolts, rivets, welds")),
		pickIn(cell("Zone"), "turret, roof"),
		see(on("bolts every 240 mm round it")),
		chromedp.Evaluate(shown, &before),
		pick("What stands out", "rivets"),
		click(text("button", "round turret, roof")),
		see(on("rivets every 90 mm round it")),
	)
	until(t, window, fmt.Sprintf(`String(%s !== %q)`, shown, before), "true")
	do(
		t,
		window,
		click(text("button", "one by one")),
		see(text("p", "rivets: click where one is")),
		onView("top", 112, 62),
		see(on("one of rivets")),
		click(text("button", "done")),
		click(`//button[starts-with(@aria-label, "Take away: one of rivets")]`),
		chromedp.WaitNotPresent(on("one of rivets"), chromedp.BySearch),
	)
	lookAt(t, window, "bolts")
	do(
		t,
		window,
		click(text("button", "as it comes with every body")),
		chromedp.WaitNotPresent(on("rivets every 90 mm round it"), chromedp.BySearch),
	)
	until(t, window, shown, before)
}
