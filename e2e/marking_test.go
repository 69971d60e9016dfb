package e2e

import (
	"slices"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"cinderpath/core/document"
	"cinderpath/core/strata"
)

// A marking is added, drawn, placed by a click on both sides, and is seen on the vehicle; it is painted
// through a stencil after that, which is a step of its own.
func TestAMarkingIsDrawnAndPlaced(t *testing.T) {
	a := demo(t)
	window := browser(t)
	do(
		t, window,
		chromedp.Navigate(a.url+"/builds/"+varrow+"/paint/markings"),
		see(text("small", "12.0 × 7.7 mm on the model, in 2 places")),
		click(`//button[@aria-expanded="false"][.//strong[.="hull number 37"]]`),
		see(text("p", "tow rope goes on over it")),
		retype(field("Wide, mm real"), "350"),
		chromedp.KeyEvent(kb.Enter),
		see(text("small", "10.0 × 6.4 mm on the model")),
		chromedp.SendKeys(cell("Name of a new marking"), "column sign", chromedp.BySearch),
		click(text("button", "Add a marking")),
		see(text("small", "11.4 × 16.0 mm on the model, not placed yet")),
	)
	var before string
	do(
		t, window,
		pick("It shows", "diamond"),
		see(text("small", "11.4 × 11.4 mm on the model, not placed yet")),
		chromedp.AttributeValue(`[data-look]`, "data-look", &before, nil, chromedp.ByQuery),
		click(`//label[.="on both sides"]`),
		click(text("button", "Place it on the vehicle")),
		see(text("p", "Click where the middle of column sign shall be")),
		onView("left", 115, 31),
		see(text("small", "in 2 places")),
		see(`//ul[@aria-label="Where column sign stands"]/li[2]`),
	)
	until(t, window, `document.querySelector('[data-look]').dataset.look !== '`+before+`' ? 'new' : 'old'`, "new")
	var stored document.Build
	var state struct{ Build *document.Build }
	state.Build = &stored
	a.get(t, "/api/builds/"+varrow, &state)
	last := stored.Kit.Decals[len(stored.Kit.Decals)-1]
	require.Len(t, last.Places, 2)
	assert.Equal(t, "turret.left", last.Places[0].Zone)
	assert.Equal(t, "turret.right", last.Places[1].Zone)
	do(
		t, window,
		click(`(//button[starts-with(@aria-label, "Take out column sign, ")])[2]`),
		see(text("small", "in 1 place")),
	)
}

// A winter wash is brushed over a scheme: it stands on the path with its chipping coat, the plate turns
// white, and it is taken off again.
func TestAWinterWashIsBrushedOver(t *testing.T) {
	a := demo(t)
	window := browser(t)
	do(
		t, window,
		chromedp.Navigate(a.url+"/builds/"+drumble+"/paint/scheme"),
		click(text("button", "Brush a winter wash over it")),
		see(text("span", "Winter wash over it, on cab")),
		see(on("Chipping coat")),
		see(on("Work the chipping coat")),
		pick("Markings under a winter wash", "painted round"),
		click(`//button[@aria-label="Take out Winter wash"]`),
		see(text("button", "Brush a winter wash over it")),
		chromedp.WaitNotPresent(on("Work the chipping coat"), chromedp.BySearch),
		chromedp.WaitNotPresent(on("Chipping coat"), chromedp.BySearch),
	)
}

// A wheel came from another vehicle: it is clicked, gets a colour of its own, and a step.
func TestAWheelFromAnotherVehicle(t *testing.T) {
	a := demo(t)
	window := browser(t)
	do(
		t, window,
		chromedp.Navigate(a.url+"/builds/"+drumble+"/paint/scheme"),
		click(text("button", "A part came from another vehicle")),
		see(text("p", "Click on the wheel, section or fitting")),
		onView("left", 24, 28.5),
		see(`//section[@aria-label="Parts from another vehicle"]//span[.="running gear, road wheel 2 left"]`),
		see(on("From another vehicle: running gear, road wheel 2 left")),
		retype(cell("Colour of From another vehicle: running gear, road wheel 2 left"), "#b8a070"),
		chromedp.KeyEvent(kb.Enter),
	)
	require.Eventually(t, func() bool {
		var state struct{ Build document.Build }
		a.get(t, "/api/builds/"+drumble, &state)
		return slices.ContainsFunc(state.Build.Layers, func(l strata.Layer) bool { return l.Hex == "#b8a070" })
	}, time.Minute, 100*time.Millisecond)
	do(
		t, window,
		click(`//button[@aria-label="Take out From another vehicle: running gear, road wheel 2 left"]`),
		chromedp.WaitNotPresent(on("From another vehicle"), chromedp.BySearch),
	)
	// It may wear all of another scheme: one of the book.
	do(
		t, window,
		retype(cell("Name in the book"), "of its first vehicle"),
		click(text("button", "Keep this one")),
		click(text("button", "A part came from another vehicle")),
		see(text("p", "Click on the wheel, section or fitting")),
		onView("left", 24, 28.5),
		pick("It wore a scheme", "of its first vehicle"),
		chromedp.WaitNotPresent(on("From another vehicle"), chromedp.BySearch),
		see(`//section[@aria-label="Scheme"]//*[contains(., ", running gear, road wheel 2 left")]`),
	)
	lookAt(t, window, "part")
}

// Tracks get what is their own with one click: base colour, mud in the links, wiped ends.
func TestTracksArePaintedAndWorn(t *testing.T) {
	a := demo(t)
	window := browser(t)
	do(
		t, window,
		chromedp.Navigate(a.url+"/builds/"+drumble+"/paint/layers"),
		click(text("button", "Paint and wear the tracks")),
		see(on("Track base")),
		see(on("Mud in the tracks")),
		chromedp.WaitNotPresent(text("button", "Paint and wear the tracks"), chromedp.BySearch),
	)
}
