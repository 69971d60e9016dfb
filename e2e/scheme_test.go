package e2e

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

const drumble = "01997a00-0000-7000-8000-0000c1de0063"

// scheming is what the program holds of the Varrow's scheme.
type scheming struct {
	Build struct {
		Scheme struct {
			Colours []struct {
				Name, Family string
				Width        float64
			}
			Anchors []struct {
				At     [3]float64
				Colour int
			}
		}
	}
	Plan struct {
		Steps []struct{ ID, Title, Amount string }
	}
}

// A family is picked for a colour, two places are pinned, a pin is dragged and a field moved: the
// plate follows, and what it takes in edges, masks and minutes is told beside it.
func TestAFamilyPinsAndAFieldThatMoves(t *testing.T) {
	a := demo(t)
	w := browser(t)
	now := func() (s scheming) {
		a.get(t, "/api/builds/"+varrow, &s)
		return s
	}
	var before string
	look := func() { do(t, w, chromedp.Evaluate(looked, &before)) }
	changed := func() {
		until(t, w, fmt.Sprintf(`%s === %q ? 'as before' : 'painted anew'`, looked, before), "painted anew")
	}
	do(
		t, w,
		chromedp.Navigate(a.url+"/builds/"+varrow), see(pictured), tab("Scheme"),
		click(`//article[@aria-label="kelp brown"]/button`),
	)
	look()
	do(
		t, w,
		choose("How it is laid", "splinters"),
		see(text("p", "straight edges; taped")),
		retype(labelled("Width, real mm"), "1000"+kb.Enter),
		click(text("button", "Take this scheme")),
		see(text("td", "straight tape")),
	)
	changed()
	brown := now().Build.Scheme.Colours[2]
	assert.Equal(t, "splinter", brown.Family)
	assert.InDelta(t, 1000, brown.Width, 0)

	// Two pins on the left side.
	look()
	do(
		t, w,
		click(text("button", "Pin basalt grey")),
		see(text("p", "Click where that colour shall be")),
		onView("left", 110, 42),
		see(text("span", "basalt grey, ")),
	)
	require.Len(t, now().Build.Scheme.Anchors, 1)
	do(
		t, w,
		chromedp.WaitNotPresent(`button[data-loading]`, chromedp.ByQuery),
		onView("left", 75, 54),
		see(`//section[@aria-label="Pins"]//li[2]`),
		click(text("button", "done")),
	)
	changed()
	pins := now().Build.Scheme.Anchors
	require.Len(t, pins, 2)
	assert.Equal(t, 1, pins[0].Colour)

	// One of them is dragged: it is where it was let go.
	dragBy(t, w, "Pin 2, basalt grey", 40, 0)
	require.Eventually(t, func() bool {
		to := now().Build.Scheme.Anchors
		return len(to) == 2 && to[1].At != pins[1].At
	}, 30*time.Second, 100*time.Millisecond)

	// And a field is brought to another place.
	look()
	do(
		t, w,
		click(text("button", "Move a field")),
		see(text("p", "Click on the field")),
		onView("left", 110, 42),
		see(text("p", "Click where the field shall be")),
		onView("left", 160, 42),
		click(text("button", "done")),
	)
	changed()
	lookAt(t, w, "scheme")
}

// What is kept in the book is taken on another build, at another scale.
func TestASchemeFromTheBook(t *testing.T) {
	a := demo(t)
	w := browser(t)
	do(
		t, w,
		chromedp.Navigate(a.url+"/builds/"+varrow+"/paint/scheme"), see(pictured),
		typed("Name in the book", "three bands"),
		click(text("button", "Keep this one")),
		see(labelled("Take one from the book")),
		chromedp.Navigate(a.url+"/builds/"+pellick+"/paint/scheme"), see(pictured),
		click(labelled("Take one from the book")),
		click(text("div[@role='option']", "three bands")),
		see(`//article[@aria-label="kelp brown"]`),
	)
	var s scheming
	a.get(t, "/api/builds/"+pellick, &s)
	assert.Len(t, s.Build.Scheme.Colours, 3)

	// It is sprayed sooner, then taken out again.
	do(
		t, w,
		click(`//article[@aria-label="kelp brown"]/button`),
		click(`//article[@aria-label="kelp brown"]//button[.="Sooner"]`),
		see(`//article[@aria-label="kelp brown"][following-sibling::article[@aria-label="basalt grey"]]`),
		chromedp.WaitNotPresent(`button[data-loading]`, chromedp.ByQuery),
		click(`//button[@aria-label="Take out kelp brown"]`),
		chromedp.WaitNotPresent(`//article[@aria-label="kelp brown"]`, chromedp.BySearch),
	)
	a.get(t, "/api/builds/"+pellick, &s)
	require.Len(t, s.Build.Scheme.Colours, 2)
	assert.Equal(t, "basalt grey", s.Build.Scheme.Colours[1].Name)
}

// A finer nozzle answers whether an edge can be sprayed freehand (P8), and a hard one is masked on
// a sheet at the model's size.
func TestMasksFollowTheEdges(t *testing.T) {
	a := demo(t)
	w := browser(t)
	do(
		t, w,
		chromedp.Navigate(a.url+"/builds/"+drumble), see(pictured), tab("Scheme"),
		see(text("td", "straight tape")),
		click(`//article[@aria-label="wet slate"]/button`),
		retype(labelled("Soft edge, real mm"), "20"+kb.Enter),
		click(text("button", "Take this scheme")),
		see(text("td", "putty roll")),
		found,
		see(text("h3", "wet slate is finer than the airbrush holds")),
		see(text("p", "your 0.2 mm nozzle holds 1.2")),
		click(text("button", "Mask it: a hard edge")),
		see(text("td", "straight tape")),
		chromedp.WaitNotPresent(text("h3", "finer than the airbrush"), chromedp.BySearch),
		tab("Sheets"),
		see(`//article[@aria-label="Masks"]//img`),
		see(`//article[@aria-label="Painting guide"]//img`),
	)
	until(
		t,
		w,
		`String([...document.querySelectorAll('article img')].every((i) => i.complete && i.naturalWidth > 0))`,
		"true",
	)
}

// One small picture of the near side is laid under the view by two places; its colours are found, the
// far side is mirrored, and what is guessed is told.
func TestASchemeFromAPicture(t *testing.T) {
	a := demo(t)
	w := browser(t)
	// The leaflet: the Varrow in blotches, from the left.
	var state struct {
		Build struct{ Scheme map[string]any }
	}
	a.get(t, "/api/builds/"+varrow, &state)
	other := state.Build.Scheme
	delete(other, "traces") // the Varrow's own picture
	for _, c := range other["colours"].([]any)[1:] {
		c.(map[string]any)["family"] = "blotches"
	}
	thought := other["colours"].([]any)[1].(map[string]any)["width"]
	body, err := json.Marshal(map[string]any{"schemes": []any{other}, "side": "left", "wide": 500})
	require.NoError(t, err)
	r, err := http.Post(a.url+"/api/builds/"+varrow+"/sketches", "application/json", bytes.NewReader(body))
	require.NoError(t, err)
	defer r.Body.Close()
	var drawn []struct{ Image []byte }
	require.NoError(t, json.NewDecoder(r.Body).Decode(&drawn))
	leaflet := filepath.Join(t.TempDir(), "leaflet.png")
	require.NoError(t, os.WriteFile(leaflet, drawn[0].Image, 0o600))

	// The same place of both: so much of their width and height.
	place := func(name string, x, y float64) chromedp.Action {
		return chromedp.ActionFunc(func(ctx context.Context) error {
			var p []float64
			script := fmt.Sprintf(`(() => { const s = document.querySelector('svg[aria-label=%q]'); const v = s.viewBox.baseVal;
				const q = new DOMPoint(%g * v.width, %g * v.height).matrixTransform(s.getScreenCTM()); return [q.x, q.y]; })()`, name, x, y)
			if err := chromedp.Evaluate(script, &p).Do(ctx); err != nil {
				return err
			}
			return chromedp.MouseClickXY(p[0], p[1]).Do(ctx)
		})
	}
	do(
		t, w,
		chromedp.Navigate(a.url+"/builds/"+varrow+"/paint/scheme"), see(pictured),
		see(text("h3", "From a picture")),
		chromedp.SetUploadFiles(`section[aria-label="From a picture"] input[type=file]`, []string{leaflet}, chromedp.ByQuery),
		see(`//*[@aria-label="The drawing"]`),
		place("The picture", 0.2, 0.8),
		see(text("p", "same place on the drawing")),
		place("The drawing", 0.2, 0.8),
		see(text("p", "1 more at least")),
		place("The picture", 0.85, 0.5),
		see(text("p", "same place on the drawing")),
		place("The drawing", 0.85, 0.5),
		see(text("p", "or read it now")),
	)
	lookAt(t, w, "align")
	var before string
	do(t, w, chromedp.Evaluate(looked, &before), click(text("button", "Read the scheme")))
	until(t, w, fmt.Sprintf(`%s === %q ? 'as before' : 'painted anew'`, looked, before), "painted anew")
	do(
		t, w,
		see(text("span", "Left side is read")),
		see(text("p", "Seen on pictures")),
		see(`//img[@alt="Right side, hatched where it is guessed"]`),
	)
	// It stays beside what was made of it.
	until(t, w, `[...document.querySelectorAll('section[aria-label="Beside its picture: Left side"] img')]
		.filter((i) => i.naturalWidth > 0).length.toString()`, "2")
	lookAt(t, w, "traced")
	a.get(t, "/api/builds/"+varrow, &state)
	traces := state.Build.Scheme["traces"].([]any)
	require.Len(t, traces, 1)
	assert.Equal(t, "mirrored", traces[0].(map[string]any)["far"])
	// How wide its fields are is read too, and stands at the colour.
	read := state.Build.Scheme["colours"].([]any)[1].(map[string]any)
	width := read["width"].(float64)
	assert.NotEqual(t, thought, width)
	do(t, w, see(fmt.Sprintf(`//article[@aria-label=%q]//*[contains(., ", %.0f mm")]`, read["name"], width)))
	lookAt(t, w, "fitted")
}

// A field is chosen from the list of a view and gets another colour: pins hold it.
func TestAFieldGetsAnotherColour(t *testing.T) {
	a := demo(t)
	w := browser(t)
	do(
		t, w,
		chromedp.Navigate(a.url+"/builds/"+varrow+"/paint/scheme"), see(pictured),
		click(text("button", "List the fields")),
		see(labelled("Colour of field 1")),
	)
	var before, other string
	do(t, w, chromedp.Evaluate(looked, &before), click(labelled("Colour of field 2")))
	// Its list is open: one that it has not is taken.
	const list = `(() => { const i = document.querySelector('input[aria-label="Colour of field 2"]');
		const box = document.getElementById(i.getAttribute('aria-controls'));
		const o = [...(box?.querySelectorAll('[role=option]') ?? [])].find((o) => o.textContent !== i.value);
		return o?.offsetParent ? o.id : ''; })()`
	until(t, w, fmt.Sprintf(`%s ? 'open' : 'shut'`, list), "open")
	do(
		t, w,
		chromedp.Evaluate(list, &other),
	)
	do(t, w, click(fmt.Sprintf(`//*[@id=%q]`, other)), see(`//section[@aria-label="Pins"]//li`))
	until(t, w, fmt.Sprintf(`%s === %q ? 'as before' : 'painted anew'`, looked, before), "painted anew")
	var s scheming
	a.get(t, "/api/builds/"+varrow, &s)
	assert.NotEmpty(t, s.Build.Scheme.Anchors)
}
