package e2e

import (
	"context"
	"fmt"
	"slices"
	"testing"

	"github.com/chromedp/cdproto/network"
	"github.com/chromedp/cdproto/runtime"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// painted is what tests of pictures ask of a plan.
type painted struct {
	Plan struct {
		Bare  string
		Steps []struct{ ID, Title, Look string }
	}
}

// promised waits for a script's promise.
func promised(p *runtime.EvaluateParams) *runtime.EvaluateParams { return p.WithAwaitPromise(true) }

// Ten steps are stood on in turn, each of which changes the vehicle: each time the plate
// shows the pictures of that step. How long it took is told.
func TestEachStepShowsItsPicture(t *testing.T) {
	a := startApp(t, dataDir(t)) // alone: it measures
	w := eager(t)
	var s painted
	a.get(t, "/api/builds/"+varrow, &s)
	var at []int // the last steps that change something
	last := s.Plan.Bare
	for i, x := range s.Plan.Steps {
		if x.Look != last {
			at = append(at, i)
		}
		last = x.Look
	}
	require.GreaterOrEqual(t, len(at), 10, "steps that change what is seen")
	at = at[len(at)-10:]
	do(t, w, chromedp.Navigate(a.url+"/builds/"+varrow), see(pictured))
	var took []float64
	for _, i := range at {
		var ms float64
		look := s.Plan.Steps[i].Look
		do(t, w, chromedp.Evaluate(fmt.Sprintf(`new Promise((done) => {
			const from = performance.now();
			const plate = document.querySelector('[aria-label="The plate"]');
			const there = () => {
				const svg = plate.querySelector('[data-look]');
				const images = [...plate.querySelectorAll('image')];
				return svg?.dataset.look === %[1]q && images.length >= 5 && images.every((x) => x.getAttribute('href').includes(%[1]q));
			};
			const seen = new MutationObserver(() => there() && (seen.disconnect(), done(performance.now() - from)));
			seen.observe(plate, { subtree: true, childList: true, attributes: true });
			document.querySelector('[data-index="%[2]d"]').click();
			if (there()) done(0);
		})`, look, i), &ms, promised))
		took = append(took, ms)
		t.Logf("%s: %.0f ms", s.Plan.Steps[i].Title, ms)
	}
	slices.Sort(took)
	t.Logf("ten steps: median %.0f ms, longest %.0f ms", (took[4]+took[5])/2, took[9])
	var elements int
	do(t, w, chromedp.Evaluate(`document.querySelectorAll('*').length`, &elements))
	t.Logf("%d elements in the page", elements)
	assert.Less(t, elements, 2000)
}

// A zone is picked by the mouse on the plate, by keys alone, and from the list; the plate and
// the list tell the same, and in words.
func TestAZoneIsPickedByMouseKeyAndList(t *testing.T) {
	a := demo(t)
	w := eager(t)
	list := `//input[@aria-label="Zone"]`
	chosen := `String(document.querySelector('[data-picked]')?.dataset.zone)`
	do(
		t,
		w,
		chromedp.Navigate(a.url+"/builds/"+varrow),
		click(`//*[@data-view="left"]//*[@data-zone="turret.left"]`),
		picked("turret, left"),
	)
	until(t, w, chosen, "turret.left")
	// By keys: along the page to the list, a few letters, Enter.
	do(t, w, chromedp.Evaluate(`document.activeElement.blur()`, nil), chromedp.KeyEvent(kb.Escape))
	until(t, w, chosen, "undefined")
	reached := false
	for range 150 {
		do(
			t,
			w,
			chromedp.KeyEvent(kb.Tab),
			chromedp.Evaluate(`document.activeElement?.getAttribute('aria-label') === 'Zone'`, &reached),
		)
		if reached {
			break
		}
	}
	require.True(t, reached, "the list of zones is reached by the Tab key")
	do(
		t,
		w,
		chromedp.KeyEvent("glacis"),
		see(text("div[@role='option']", "upper hull, glacis")),
		chromedp.KeyEvent(kb.ArrowDown),
		chromedp.KeyEvent(kb.Enter),
		picked("upper hull, glacis"),
	)
	until(t, w, chosen, "hull.glacis")
	// From the list.
	do(t, w, click(list), click(`//div[@role="option"][.="lower hull, nose"]`), picked("lower hull, nose"))
	until(t, w, chosen, "lower.nose")
	var raw []string
	do(
		t,
		w,
		chromedp.Evaluate(
			`[...document.querySelectorAll('[data-zone]')].map((z) => z.getAttribute('aria-label')).filter((x) => x.includes('.'))`,
			&raw,
		),
	)
	assert.Empty(t, raw, "zones have names, not marks")
}

// At the bench the vehicle is seen where the step works; a press shows it as it is before.
func TestTheBenchShowsWhereBeforeAndAfter(t *testing.T) {
	a := demo(t)
	w := eager(t)
	var s painted
	a.get(t, "/api/builds/"+varrow, &s)
	i := slices.IndexFunc(s.Plan.Steps, func(x struct{ ID, Title, Look string }) bool { return x.Title == "Mud" })
	require.Positive(t, i)
	seen := `[...document.querySelectorAll('section[aria-label="Where it is done"] img')].filter((i) => i.complete && i.naturalWidth > 0 && getComputedStyle(i).visibility === 'visible').map((i) => i.dataset.look).filter((x, k, all) => all.indexOf(x) === k).join()`
	do(
		t,
		w,
		chromedp.Navigate(a.url+"/builds/"+varrow+"/bench?step="+s.Plan.Steps[i].ID),
		see(text("h1", "Mud")),
		see(text("dd", "lower hull; running gear")),
	)
	until(t, w, seen, s.Plan.Steps[i].Look)
	do(t, w, click(text("button", "After this step")), see(text("button", "Before this step")))
	until(t, w, seen, s.Plan.Steps[i-1].Look)
	assert.NotEqual(t, s.Plan.Steps[i].Look, s.Plan.Steps[i-1].Look)
}

// The five views are there after few bytes: over a slow network that is what one waits for.
func TestTheFirstPlateIsLight(t *testing.T) {
	a := demo(t)
	w := eager(t)
	do(
		t,
		w,
		network.Enable(),
		network.SetCacheDisabled(true),
		chromedp.Navigate(a.url+"/builds/"+varrow),
		see(pictured),
	)
	bytes, views := untilPlate(t, w)
	require.InDelta(t, 5, views, 0)
	require.Greater(t, bytes, 100_000.0, "bytes were counted")
	t.Logf("five views after %.0f kB", bytes/1000)
	assert.Less(t, bytes, 1_100_000.0, "three seconds at 400 kB a second")
}

// untilPlate is how many bytes came until the first five pictures were there.
func untilPlate(t testing.TB, w context.Context) (bytes, views float64) {
	var got []float64
	do(t, w, chromedp.Evaluate(`new Promise((done) => requestAnimationFrame(() => {
		const all = [...performance.getEntriesByType('navigation'), ...performance.getEntriesByType('resource')];
		const pictures = all.filter((e) => e.name.includes('/pictures/')).sort((a, b) => a.responseEnd - b.responseEnd).slice(0, 5);
		const end = Math.max(...pictures.map((e) => e.responseEnd));
		const by = all.filter((e) => e.responseEnd <= end).reduce((n, e) => n + e.transferSize, 0);
		done([by, pictures.length]);
	}))`, &got, promised))
	return got[0], got[1]
}
