package e2e

import (
	"fmt"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A mesh of one's own becomes the body; a face of it gets its zone by a click; undone,
// the old body is there again.
func TestOwnMeshAsTheBody(t *testing.T) {
	a := demo(t)
	window := browser(t)
	do(
		t,
		window,
		chromedp.Navigate(a.url+"/builds/"+drumble),
		tab("Body"),
		choose("An own part as the body", "Winch"),
		see(
			text("span", "triangles"),
		),
		retype(field("Zone of a face"), "hull.flange"),
		click(text("button", "name a face")),
		see(text("p[@role='status']", "Click on the face that is hull.flange")),
	)
	var middle []float64
	// On the part that was imported, wherever it lies in the view.
	do(
		t,
		window,
		chromedp.Evaluate(
			`(() => { const all = [...document.querySelectorAll('[data-view=left] [data-zone]')].filter((g) => !g.dataset.zone.startsWith('gear')); const b = all.at(-1).getBoundingClientRect(); return [b.x + b.width / 2, b.y + b.height / 2]; })()`,
			&middle,
		),
	)
	do(t, window, chromedp.MouseClickXY(middle[0], middle[1]))
	until(t, window, `String(document.querySelectorAll('[data-zone="hull.flange"]').length > 0)`, "true")
	var state struct {
		Build struct {
			Body struct {
				Shell struct{ Seeds []struct{ Zone string } }
			}
		}
	}
	a.get(t, "/api/builds/"+drumble, &state)
	require.Len(t, state.Build.Body.Shell.Seeds, 1)
	assert.Equal(t, "hull.flange", state.Build.Body.Shell.Seeds[0].Zone)
	do(t, window, chromedp.Evaluate(`document.activeElement.blur()`, nil), click(`//header//button[.="Undo"]`))
	until(t, window, `String(document.querySelectorAll('[data-zone="hull.flange"]').length)`, "0")
	do(t, window, click(`//header//button[.="Undo"]`), see(room("Body")+`//button[.="cab"]`))
}

// Places are typed in any unit; what cannot be read is told with its remedy and stays in
// its cell; a section of a fender is lost and mended.
func TestTypedPlacesAndDamage(t *testing.T) {
	a := demo(t)
	window := browser(t)
	point := cell("hull: point 5 x")
	do(
		t,
		window,
		chromedp.Navigate(a.url+"/builds/"+varrow),
		tab("Body"),
		click(room("Body")+`//button[.="upper hull"]`),
		see(point),
		retype(point, "-6 ft 2 in"),
		chromedp.KeyEvent(kb.Enter),
	)
	until(t, window, `document.querySelector('input[aria-label="hull: point 5 x"]').value`, "-1879.6")
	do(
		t,
		window,
		retype(point, "behind"),
		chromedp.KeyEvent(kb.Enter),
		see(text("p[@role='alert']", "not a number with a unit")),
	)
	var kept string
	do(t, window, chromedp.Value(point, &kept, chromedp.BySearch))
	assert.Equal(t, "behind", kept)
	do(t, window, click(text("button", "leave it as it was")))

	shapes := `[...document.querySelectorAll('[data-zone="hull.fender.left"]')].map((p) => p.getAttribute('d')).join()`
	var whole string
	do(
		t,
		window,
		chromedp.Evaluate(shapes, &whole),
		click(room("Body")+`//button[.="fender"]`),
		click(room("Damage to fender")+`//button[.="Add"]`),
		see(text("p", "left section 1 missing")),
	)
	until(t, window, fmt.Sprintf(`%s === %q ? 'as before' : 'bared'`, shapes, whole), "bared")
	do(t, window, click(`//p[contains(., "left section 1 missing")]//button[.="mend"]`))
	until(t, window, shapes, whole)

	// A turret more stands where it is seen, and can be taken out.
	do(
		t,
		window,
		click(`//button[@aria-label="Add a turret"]`),
		click(room("Body")+`//button[.="turret 2"]`),
		see(room("Numbers of turret-2")),
	)
	until(t, window, `String(document.querySelectorAll('[data-zone^="turret-2."]').length > 0)`, "true")
	do(
		t,
		window,
		click(room("Numbers of turret-2")+`//button[@aria-label="Take out turret 2"]`),
		chromedp.WaitNotPresent(room("Body")+`//button[.="turret 2"]`, chromedp.BySearch),
	)
}

// Left and right are drawn at the moment of fitting, with arms and the way of the links.
func TestHandednessAtTheMomentOfFitting(t *testing.T) {
	a := demo(t)
	window := browser(t)
	do(
		t,
		window,
		chromedp.Navigate(a.url+"/builds/"+varrow),
		click(`//nav//button[@title="Put wheels and tracks back on"]`),
	)
	hands := `//aside//figure[@aria-label="Left and right"]`
	do(
		t,
		window,
		see(text("h2", "Put wheels and tracks back on")),
		opened,
		see(hands+`//*[@aria-label="left side: the front is at the left"]`),
		see(hands+`//*[@aria-label="right side: the front is at the right"]`),
	)
	// On the left the pivots lie to the left of their wheels, on the right to the right.
	var ahead []float64
	do(
		t,
		window,
		chromedp.Evaluate(
			`[...document.querySelectorAll('aside figure[aria-label="Left and right"] svg')].map((s) => { const [wheel, pivot] = s.querySelector('path[stroke-linecap=round]').parentNode.querySelectorAll('circle'); return pivot.cx.baseVal.value - wheel.cx.baseVal.value; })`,
			&ahead,
		),
	)
	require.Len(t, ahead, 2)
	assert.Negative(t, ahead[0])
	assert.Positive(t, ahead[1])
	assert.InDelta(t, -ahead[0], ahead[1], 1e-6)
}

// Wheels set in a row and a make of track chosen: the count and what the make asks for
// follow; the sheets offer what there is.
func TestRowOfWheelsAndMakeOfTrack(t *testing.T) {
	a := demo(t)
	window := browser(t)
	do(
		t,
		window,
		chromedp.Navigate(a.url+"/builds/"+varrow),
		tab("Gear"),
		retype(field("Road wheels"), "5"),
		retype(field("spacing, mm"), "900"),
		click(text("button", "Set in a row")),
		chromedp.WaitNotPresent(cell("road wheel 6: x"), chromedp.BySearch),
		see(cell("road wheel 5: x")),
	)
	asks := `//ul[@aria-label="What its make asks for"]`
	do(
		t,
		window,
		choose("Made of", "metal links on wire pins"),
		see(asks+`/li[contains(., "measure a pin hole")]`),
		retype(cell("Track: pin, model mm"), "0,5"),
		chromedp.KeyEvent(kb.Enter),
		see(
			asks+`/li[contains(., "holes, drill 0.5")]`,
		),
		click(asks+`/li[starts-with(., "pins")]//button`),
		see(text("li", "wear eye protection")),
		chromedp.KeyEvent(kb.Escape),
		chromedp.WaitNotPresent(text("li", "wear eye protection"), chromedp.BySearch),
	)
	do(
		t,
		window,
		retype(cell("Track: minutes a link"), "many"),
		chromedp.KeyEvent(kb.Enter),
		see(text("p[@role='alert']", "is not a number")),
		click(text("button", "leave it as it was")),
	)
	do(
		t,
		window,
		tab("Sheets"),
		see(`//article[@aria-label="Wheel masks"]//img`),
		see(text("p", "An arm template comes once the ground")),
	)
}
