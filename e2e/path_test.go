package e2e

import (
	"context"
	"fmt"
	"io"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/cdproto/page"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// count is how many elements a script's selector finds.
func count(selector string) string {
	return `String(document.querySelectorAll(` + strconv.Quote(selector) + `).length)`
}

// planned finds a step in the list of steps.
func planned(title string) string {
	return `//ol[@aria-label="All steps in working order"]/li[contains(., "` + title + `")]`
}

// Another version of the kit is chosen in the table: what it asks for, its parts and the
// steps change, and it is said what changed.
func TestAnotherVersionChangesPartsAndSteps(t *testing.T) {
	a := demo(t)
	window := browser(t)
	do(t, window, chromedp.Navigate(a.url+"/builds/"+varrow), tab("Version"), see(text("li", "drill rack holes")),
		click(text("button[@role='radio']", "Command tank")), see(text("li", "drill hole for the second aerial")),
		see(text("li", "new: Drill hole for the second aerial")), see(text("li", "no longer planned: Drill rack holes")))
	do(t, window, tab("Parts"), see(text("strong", "second aerial")), see(text("strong", "map box")))
	do(t, window, tab("Steps"), see(planned("Put back: second aerial")))
	// Paint is on by now: the step that comes too late says so.
	do(
		t,
		window,
		click(
			`//nav//button[contains(@aria-label, "Fill openings of the turret bin") or contains(@aria-label, "Drill hole for the second aerial")]`,
		),
		see(text("p", "is done already, and should have come after it")),
	)
	// A cell of the table: the late series carries the map box too.
	cellOf := `button[aria-label="map box on Late series: carried"]`
	do(t, window, tab("Version"), click(`//button[@aria-label="map box on Late series: not carried"]`))
	until(t, window, count(cellOf), "1")
	// Taken from both versions that carried it, it is on none, also after loading anew.
	do(
		t,
		window,
		click(`//button[@aria-label="map box on Late series: carried"]`),
		see(`//button[@aria-label="map box on Late series: not carried"]`),
		click(
			`//button[@aria-label="map box on Command tank: carried"]`,
		),
		see(`//button[@aria-label="map box on Command tank: not carried"]`),
		chromedp.Reload(),
		tab("Version"),
		see(`//button[@aria-label="map box on Line tank: not carried"]`),
		see(`//button[@aria-label="map box on Late series: not carried"]`),
	)
	// A leaflet that cannot be read is told, and what was pasted stays.
	do(
		t,
		window,
		click(text("summary", "The leaflet")),
		chromedp.SendKeys(
			`//textarea[@id=//label[contains(., "Type or paste steps")]/@for]`,
			"step,words\n1,x",
			chromedp.BySearch,
		),
		click(text("button", "Take these steps")),
		see(text("p[@role='alert']", "is not known. To mend it")),
	)
}

// A part is moved to the other side by keys; its reason says whose choice it is.
func TestPartsAreMovedByKeys(t *testing.T) {
	a := demo(t)
	window := browser(t)
	piece := `[role=button][aria-label^="turret bin: on before paint"]`
	do(
		t,
		window,
		chromedp.Navigate(a.url+"/builds/"+varrow),
		tab("Parts"),
		see(text("strong", "turret bin")),
		chromedp.Focus(piece, chromedp.ByQuery),
		chromedp.KeyEvent(kb.ArrowRight),
	)
	until(t, window, count(`[role=button][aria-label^="turret bin: painted apart"]`), "1")
	do(t, window, see(text("small", "Moved by you")), tab("Steps"), see(planned("Put back: turret bin")))
}

// A part is dragged to the other side.
func TestPartsAreDragged(t *testing.T) {
	a := demo(t)
	window := browser(t)
	held := make(chan *input.DragData, 1)
	chromedp.ListenTarget(window, func(e any) {
		if drag, ok := e.(*input.EventDragIntercepted); ok {
			held <- drag.Data
		}
	})
	middle := func(selector string) (x, y float64) {
		var at []float64
		do(
			t,
			window,
			chromedp.WaitVisible(selector, chromedp.ByQuery),
			chromedp.ScrollIntoView(selector, chromedp.ByQuery),
			chromedp.Evaluate(
				fmt.Sprintf(
					`(() => { const r = document.querySelector(%q).getBoundingClientRect(); return [r.x + r.width / 2, r.y + 20]; })()`,
					selector,
				),
				&at,
			),
		)
		return at[0], at[1]
	}
	do(t, window, chromedp.Navigate(a.url+"/builds/"+varrow), tab("Parts"), input.SetInterceptDrags(true))
	toX, _ := middle(`[role=button][aria-label*=": painted apart"]`)
	x, y := middle(`[role=button][aria-label^="turret bin: on before paint"]`)
	mouse := func(kind input.MouseType, x, y float64) chromedp.Action {
		return input.DispatchMouseEvent(kind, x, y).WithButton(input.Left).WithClickCount(1)
	}
	do(
		t,
		window,
		mouse(input.MouseMoved, x, y),
		mouse(input.MousePressed, x, y),
		mouse(input.MouseMoved, x+8, y),
		mouse(input.MouseMoved, x+30, y),
	)
	var drag *input.DragData
	select {
	case drag = <-held:
	case <-time.After(10 * time.Second):
		t.Fatal("nothing is dragged")
	}
	do(
		t,
		window,
		input.DispatchDragEvent(input.DragEnter, toX, y, drag),
		input.DispatchDragEvent(input.DragOver, toX, y, drag),
		input.DispatchDragEvent(input.Drop, toX, y, drag),
		mouse(input.MouseReleased, toX, y),
	)
	until(t, window, count(`[role=button][aria-label^="turret bin: painted apart"]`), "1")
	do(t, window, see(text("small", "Moved by you")))
}

// pick opens a list and clicks one of its options, which other lists of the page have too.
func pick(label, option string) chromedp.Action { return pickIn(field(label), option) }

// pickIn does so in the list that an input opens.
func pickIn(input, option string) chromedp.Action {
	return chromedp.Tasks{click(input), chromedp.ActionFunc(func(ctx context.Context) error {
		var at, before []float64
		where := fmt.Sprintf(`(() => {
			const seen = [...document.querySelectorAll('[role=option]')].find((o) => o.offsetParent && o.textContent === %q);
			if (!seen) return [];
			seen.scrollIntoView({ block: 'nearest' });
			const r = seen.getBoundingClientRect();
			return [r.x + r.width / 2, r.y + r.height / 2];
		})()`, option)
		for len(at) == 0 || !slices.Equal(at, before) { // opened, and at rest
			before = at
			if err := (chromedp.Tasks{chromedp.Sleep(100 * time.Millisecond), chromedp.Evaluate(where, &at)}).Do(
				ctx,
			); err != nil {
				return err
			}
		}
		return chromedp.MouseClickXY(at[0], at[1]).Do(ctx)
	})}
}

// A pose that does not agree with another part's is told, and mended.
func TestPosesAreMadeToAgree(t *testing.T) {
	a := demo(t)
	window := browser(t)
	hint := text("div[@role='note']", "aerial is up, which goes with gun and mantlet shut; that is level, out of its lock")
	do(
		t,
		window,
		chromedp.Navigate(a.url+"/builds/"+varrow),
		tab("Parts"),
		click(`//div[@role="button"][starts-with(@aria-label, "aerial:")]`),
		see(`//form[@aria-label="The part aerial"]`),
		chromedp.SendKeys(
			field("Pose"),
			"up",
			chromedp.BySearch,
		),
		pick("When up, it asks of", "gun and mantlet"),
		chromedp.SendKeys(field("to be"), "shut", chromedp.BySearch),
		click(text("button", "Keep it")),
		see(hint),
		click(text("button", "Decide the pose of aerial later")),
		chromedp.WaitNotPresent(hint, chromedp.BySearch),
		see(
			`//form[@aria-label="The part aerial"]//input[@id=//label[.="Pose"]/@for][@value=""]`,
		),
		click(`//header//button[.="Undo"]`),
		see(hint),
		click(text("button", "Build gun and mantlet shut")),
		chromedp.WaitNotPresent(hint, chromedp.BySearch),
		click(`//div[@role="button"][starts-with(@aria-label, "gun and mantlet:")]`),
	)
	until(
		t,
		window,
		`document.querySelector('form[aria-label="The part gun and mantlet"] input[value="shut"]') ? 'shut' : ''`,
		"shut",
	)
}

// An order that a rule stops is refused with the rule and ways round it; one of them is
// taken.
func TestAWrongOrderIsRefusedAndMended(t *testing.T) {
	a := demo(t)
	window := browser(t)
	do(
		t,
		window,
		chromedp.Navigate(a.url+"/builds/"+varrow),
		tab("Steps"),
		click(`//nav//button[contains(@aria-label, "Mud")]`),
		see(text("h3", "Mud: change its place")),
		retype(
			field("Do it after"),
			"Put wheels",
		),
		chromedp.KeyEvent(kb.ArrowDown),
		chromedp.KeyEvent(kb.Enter),
		see(text("div[@role='alert']", "cannot be handled")),
		click(text("button", "Leave out: Mud")),
		see(text("li", "left out: Mud")),
	)
	// A step of one's own, of a kind of the library.
	do(
		t,
		window,
		click(text("summary", "Add a step of your own")),
		chromedp.SendKeys(field("What is done"), "Soot at the pipe", chromedp.BySearch),
		click(text("button", "Add it after")),
		see(text("div[@role='alert']", "say how many minutes it takes")),
	)
	// With its kind it takes what the library says of its area; nothing typed was lost.
	do(
		t,
		window,
		pick("Of the kind", "Soot at the exhaust"),
		click(text("button", "Add it after")),
		see(text("li", "yours: Soot at the pipe")),
		click(
			`//nav//button[contains(@aria-label, "Soot at the pipe")]`,
		),
		see(text("h2", "Soot at the pipe")),
		opened,
		see(text("section", "8 min")),
	)
}

// A layer of another kind, with its depth and worked wet into the one below: its step is
// on the path at once.
func TestALayerOfSplashesIsPlanned(t *testing.T) {
	a := demo(t)
	window := browser(t)
	do(
		t,
		window,
		chromedp.Navigate(a.url+"/builds/"+varrow),
		tab("Layers"),
		click(text("button", "Add a layer on top")),
		pick("What it is", "Splashes"),
		pick("Product", "mud paste (binder, pigment, grit)"),
		retype(
			field("Deep, mm on the model"),
			"0.5",
		),
		pick("Worked wet into", "Mud"),
		click(text("button", "Add this layer")),
		see(`//ol//button[contains(., "Splashes")]`),
		see(`//nav//button[contains(@aria-label, "Splashes")]`),
	)
	var s struct {
		Build struct {
			Layers []struct {
				Name, Kind, Together string
				DepthMM              float64
			}
		}
	}
	a.get(t, "/api/builds/"+varrow, &s)
	n := len(s.Build.Layers)
	top, below := s.Build.Layers[n-1], s.Build.Layers[n-2]
	assert.Equal(t, "splash", top.Kind)
	assert.InDelta(t, 0.5, top.DepthMM, 1e-9)
	assert.NotEmpty(t, top.Together)
	assert.Equal(t, top.Together, below.Together)
}

// Hands at one build watch the windows of another: its timer runs and rings here too.
func TestTimersOfOtherBuildsRunAtThisBench(t *testing.T) {
	a := demo(t)
	window := browser(t)
	var s struct {
		Timers []struct {
			Build, Name, Title string
			At                 time.Time
		}
	}
	a.get(t, "/api/evenings", &s)
	require.NotEmpty(t, s.Timers)
	other := s.Timers[0]
	require.Equal(t, varrow, other.Build)
	do(
		t,
		window,
		chromedp.Navigate(a.url+"/builds/01997a00-0000-7000-8000-0000c1de0063/bench"),
		see(text("section[@aria-label='Timers']", other.Name)),
	)
	ends := time.Until(s.Timers[0].At) + 5*time.Second
	do(
		t,
		window,
		chromedp.Evaluate(
			fmt.Sprintf(`(() => { const real = Date.now; Date.now = () => real() + %d; return true; })()`, ends.Milliseconds()),
			nil,
		),
		see(text("p[@role='alert']", s.Timers[0].Title)),
	)
}

// An evening at the bench: a step is begun, the page loaded anew in the middle, what was
// ticked is still ticked; done, two timers run and survive another reload; one rings.
func TestAnEveningAtTheBenchWithTimers(t *testing.T) {
	a := demo(t)
	window := browser(t)
	timers := count(`section[aria-label="Timers"] p`)
	act := `//main//button[@data-now or contains(., "Start")]`
	do(
		t,
		window,
		chromedp.Navigate(a.url+"/builds/"+varrow+"/bench?step=chips%3A01997a00-0000-7000-8000-0000c1de0008%3A1"),
		see(text("h1", "Chips")),
		see(act),
		press(
			"g",
		),
		see(text("aside", "Jars")),
		press("g"),
		press("1"),
		chromedp.KeyEvent(kb.Enter),
		see(text("button", "Done")),
		chromedp.Reload(),
		see(text("button", "Done")),
	)
	until(t, window, `String(document.querySelector('ul[aria-label="To check before going on"] input').checked)`, "true")
	// A value is read and kept with the step.
	do(
		t,
		window,
		press("n"),
		see(text("h2", "Note something")),
		chromedp.SendKeys(field("A value"), "brush", chromedp.BySearch),
		chromedp.SendKeys(`//input[@placeholder="1.4 bar"]`, "size 0", chromedp.BySearch),
		click(
			`//aside//button[.="Keep"]`,
		),
		see(text("strong", "size 0")),
		click(text("button", "close")),
		click(text("button", "Done")),
	)
	var before, after string
	until(t, window, `String(document.querySelectorAll('section[aria-label="Timers"] p').length >= 2)`, "true")
	do(
		t,
		window,
		see(text("section[@aria-label='Timers']", "dry to the touch")),
		chromedp.Evaluate(timers, &before),
		chromedp.Reload(),
		see(text("section[@aria-label='Timers']", "dry to the touch")),
		chromedp.Evaluate(timers, &after),
	)
	assert.Equal(t, before, after, "timers survive a reload")
	// Sixteen minutes later the touch is over: it is told.
	do(
		t,
		window,
		chromedp.Evaluate(`(() => { const real = Date.now; Date.now = () => real() + 16 * 60000; return true; })()`, nil),
		see(text("p[@role='alert']", "Chips: dry to the touch")),
	)
	var diary struct {
		Days []struct {
			Lines []struct {
				Title    string
				Checks   []string
				Measured []struct{ Name, Value string }
			}
		}
	}
	a.get(t, "/api/builds/"+varrow+"/diary", &diary)
	day := diary.Days[len(diary.Days)-1].Lines
	last := day[len(day)-1]
	assert.Equal(t, "Chips", last.Title)
	assert.Len(t, last.Checks, 1)
	require.Len(t, last.Measured, 1)
	assert.Equal(t, "size 0", last.Measured[0].Value)
}

// Less than three minutes before a window closes it is told: in words, with a sound and
// with a notification.
func TestAClosingWindowIsToldBefore(t *testing.T) {
	a := demo(t)
	window := browser(t)
	type state struct {
		Plan struct {
			Steps  []struct{ ID, Title, Status string }
			Timers []struct {
				Task, Kind string
				At         time.Time
			}
		}
	}
	// The last section was not washed yet after all, nor taken back; now it is washed.
	wash, back := "wash:01997a00-0000-7000-8000-0000c1de0007:3", "takeback:01997a00-0000-7000-8000-0000c1de0007:3"
	for _, x := range [][2]string{{"undone", back}, {"undone", wash}, {"done", wash}} {
		require.Equal(
			t,
			http.StatusOK,
			a.post(
				"/api/builds/"+varrow+"/log",
				fmt.Sprintf(`{"key":%q,"kind":%q,"task":%q,"title":"Pin wash, section 3"}`, uuid.NewString(), x[0], x[1]),
			),
		)
	}
	var s state
	a.get(t, "/api/builds/"+varrow, &s)
	var closes time.Time
	for _, x := range s.Plan.Timers {
		if x.Kind == "closes" {
			closes = x.At
		}
	}
	require.False(t, closes.IsZero(), "after a wash its take-back window is open")
	// The sound and the notification are recorded instead of played and shown.
	do(t, window, chromedp.ActionFunc(func(ctx context.Context) error {
		_, err := page.AddScriptToEvaluateOnNewDocument(`
			window.told = [];
			class Told { constructor(title, more) { window.told.push(more.body); } static permission = 'granted'; static requestPermission() { return Promise.resolve('granted'); } }
			window.Notification = Told;
			const start = OscillatorNode.prototype.start;
			OscillatorNode.prototype.start = function (...a) { window.told.push('a tone'); return start.apply(this, a); };
		`).Do(ctx)
		return err
	}), chromedp.Navigate(a.url+"/builds/"+varrow+"/bench"), see(text("section[@aria-label='Timers']", "window closes")), click(text("button", "ring for these")),
		chromedp.Evaluate(`window.told.splice(0)`, nil))
	ahead := int(time.Until(closes).Minutes()) - 4
	shift := `(() => { const real = Date.now; Date.now = () => real() + %d * 60000; return true; })()`
	soon := text("p[@role='alert']", "3 minutes until its window closes")
	do(
		t,
		window,
		chromedp.Evaluate(fmt.Sprintf(shift, ahead), nil),
		chromedp.Sleep(1500*time.Millisecond),
		chromedp.WaitNotPresent(soon, chromedp.BySearch),
		chromedp.Evaluate(fmt.Sprintf(shift, 2), nil),
		see(soon),
	)
	until(
		t,
		window,
		`String(window.told.includes('a tone') && window.told.some((x) => x.includes('3 minutes until its window closes')))`,
		"true",
	)
}

// The workshop as it is: a night off, a booth that is open when nobody is there, another
// airbrush. The plan follows, and says when there can be none.
func TestNightsOffBoothHoursAndAirbrushes(t *testing.T) {
	a := demo(t)
	window := browser(t)
	var before, after struct{ Sessions []struct{ From time.Time } }
	a.get(t, "/api/evenings", &before)
	require.NotEmpty(t, before.Sessions)
	night := before.Sessions[0].From.Format(time.DateOnly)
	keep := click(text("button", "Keep these hours"))
	do(
		t,
		window,
		chromedp.Navigate(a.url+"/builds/"+varrow),
		tab("Hours"),
		click(text("summary", "Days that differ")),
		chromedp.SendKeys(
			`//input[@aria-label="Date that differs"]`,
			night,
			chromedp.BySearch,
		),
		click(`//details[@open]//button[.="Put it in"]`),
		see(text("p", night+": no work")),
		keep,
	)
	require.Eventually(t, func() bool {
		a.get(t, "/api/evenings", &after)
		return len(after.Sessions) > 0 && after.Sessions[0].From.Format(time.DateOnly) > night
	}, 20*time.Second, 200*time.Millisecond, "that night is off")

	trouble := text("p[@role='alert']", "No plan keeps all of this")
	from, to := `(//label[.="daily from"])[1]/following::input[1]`, `(//label[.="to"])[1]/following::input[1]`
	do(t, window, click(text("summary", "Places")), retype(from, "05:00"), retype(to, "06:00"), keep, see(trouble),
		retype(from, "08:00"), retype(to, "23:30"), keep, chromedp.WaitNotPresent(trouble, chromedp.BySearch))
	do(
		t,
		window,
		click(text("summary", "Airbrushes (3)")),
		click(text("button", "Add an airbrush")),
		see(text("summary", "Airbrushes (4)")),
		keep,
		chromedp.Reload(),
		tab("Hours"),
		see(text("summary", "Airbrushes (4)")),
		see(text("summary", "Days that differ (1)")),
	)
}

// A mishap is reported: its repair stands in the plan, and the plan is shifted in words.
func TestAMishapIsRepairedAndThePlanShifts(t *testing.T) {
	a := demo(t)
	window := browser(t)
	do(
		t,
		window,
		chromedp.Navigate(a.url+"/builds/"+varrow+"/bench"),
		see(text("h1", "")),
		press("m"),
		see(text("h2", "What went wrong?")),
		choose("At which step", "Camouflage: lichen green"),
		click(
			text("button", "cement or super-glue mark"),
		),
		see(text("p", "sand back, re-prime the spot")),
		click(`//aside//button[.="upper hull"]`),
		click(text("button", "Repair it")),
		see(
			text("li", "new: Let the mark harden, sand it back"),
		),
		see(text("section[@aria-label='What changed in the plan']", "and ")),
	)
	do(
		t,
		window,
		chromedp.Navigate(a.url+"/builds/"+varrow),
		tab("Steps"),
		see(planned("Respray the spot from the kept mix")),
		see(planned("Decals, again on the mended spot")),
	)
	var state struct {
		Plan struct {
			Steps []struct {
				ID    string
				Spans []struct{ From, To time.Time }
			}
		}
	}
	a.get(t, "/api/builds/"+varrow, &state)
	var again, next time.Time
	for _, s := range state.Plan.Steps {
		switch {
		case strings.HasPrefix(s.ID, "again:") && s.Spans[0].To.After(again):
			again = s.Spans[0].To
		case strings.HasPrefix(s.ID, "chips:"):
			next = s.Spans[0].From
		}
	}
	assert.False(t, next.Before(again), "what comes next waits for the last layer on the spot")
}

// The diary is opened from the build; it prints, and the plan goes out as a calendar.
func TestTheDiaryIsOpened(t *testing.T) {
	a := demo(t)
	window := browser(t)
	do(
		t,
		window,
		chromedp.Navigate(a.url+"/builds/"+varrow),
		click(`//header//a[.="Diary"]`),
		see(text("h1", "Varrow II medium tank, 1:35: diary")),
		see(text("p", "nearly neat at 1.4 bar")),
		see(text("p", "3 coats left, 2 right")),
		see(`//main//*[name()="svg"][contains(@aria-label, "planned")]`),
	)
	for name, head := range map[string]string{"diary.pdf": "%PDF", "cards.pdf?paper=Letter": "%PDF", "plan.ics": "BEGIN:VCALENDAR", "plan.csv": "id,stage,title"} {
		r, err := http.Get(a.url + "/api/builds/" + varrow + "/sheets/" + name)
		require.NoError(t, err)
		data, err := io.ReadAll(r.Body)
		require.NoError(t, err)
		r.Body.Close()
		assert.Equal(t, http.StatusOK, r.StatusCode, name)
		assert.True(t, strings.HasPrefix(string(data), head), "%s begins %.20q", name, data)
	}
}

// What would change is shown side by side before it is taken; taken, it is the plan.
func TestWhatIfBesideNow(t *testing.T) {
	a := demo(t)
	window := browser(t)
	do(
		t,
		window,
		chromedp.Navigate(a.url+"/builds/"+varrow),
		tab("Evenings"),
		see(`//*[name()="svg"][contains(@aria-label, "Drying tails")]`),
		tab("What if"),
		click(text("button", "Try it")),
		see(text("p", "Then")),
		see(text("p", "ends ")),
	)
	// Taken with a click, it is in the hours that all builds share.
	do(
		t,
		window,
		click(`//button[.="Take it"]`),
		chromedp.WaitNotPresent(`//button[.="Take it"]`, chromedp.BySearch),
		tab("Hours"),
	)
	until(t, window, `document.querySelector('input[aria-label="Sunday again, 2 from"]').value`, "14:00")
	// A day off, and where the booth may be used: kept for all builds.
	do(
		t,
		window,
		click(text("summary", "Days that differ")),
		chromedp.SendKeys(cell("Date that differs"), "2026-12-24", chromedp.BySearch),
		click(`//details[contains(., "Days that differ")]//button[.="Put it in"]`),
		see(text("p", "2026-12-24: no work")),
		click(
			text("summary", "The air by day"),
		),
		click(text("button", "take the simulated weather")),
		click(text("button", "Keep these hours")),
		see(text("summary", "60 outside")),
	)
	var home struct {
		Workshop struct {
			Calendar struct {
				Exceptions []struct{ Date string }
				Weather    []struct{ Date string }
			}
		}
	}
	require.Eventually(
		t,
		func() bool { a.get(t, "/api/workshop", &home); return len(home.Workshop.Calendar.Exceptions) == 1 },
		30*time.Second,
		200*time.Millisecond,
	)
	assert.Len(t, home.Workshop.Calendar.Weather, 60)
}

// Home shows the next session over all builds, in order, and leads to its steps.
func TestTonightOverAllBuilds(t *testing.T) {
	a := demo(t)
	window := browser(t)
	var evenings struct {
		Tonight struct {
			Lines []struct{ Title, Build, Sense string }
			Tools []string
		}
	}
	a.get(t, "/api/evenings", &evenings)
	require.NotEmpty(t, evenings.Tonight.Lines)
	require.NotEmpty(t, evenings.Tonight.Tools)
	first := evenings.Tonight.Lines[0]
	require.NotEmpty(t, first.Sense)
	do(
		t,
		window,
		chromedp.Navigate(a.url+"/"),
		see(text("section[@aria-label='Tonight']//li", first.Sense)),
		see(text("section[@aria-label='Tonight']", evenings.Tonight.Tools[0])),
		click(`//section[@aria-label="Tonight"]//a[.="`+first.Title+`"]`),
		see(text("h1", first.Title)),
	)
	var at string
	do(t, window, chromedp.Location(&at))
	assert.Contains(t, at, first.Build)
}

// Where two builds want the same evening, the one that goes first is chosen at home.
func TestABuildIsWorkedOnFirst(t *testing.T) {
	a := demo(t)
	window := browser(t)
	do(
		t,
		window,
		chromedp.Navigate(a.url+"/"),
		click(`//button[@aria-label="More for Drumble recovery tractor"]`),
		click(text("button[@role='menuitem']", "Work on it first")),
	)
	first := `document.querySelector('main article h2')?.textContent.includes('Drumble') ? 'first' : ''`
	until(t, window, first, "first")
	do(t, window, chromedp.Reload())
	until(t, window, first, "first")
	do(
		t,
		window,
		click(`//button[@aria-label="More for Drumble recovery tractor"]`),
		click(text("button[@role='menuitem']", "Let it wait for the others")),
	)
	until(
		t,
		window,
		`[...document.querySelectorAll('main article h2')].at(-1)?.textContent.includes('Drumble') ? 'last' : ''`,
		"last",
	)
}

// A kit typed in: a decal, and a rope that runs over it, which therefore stays off until
// the decal is on; taken out again, the rope says what it misses.
func TestADecalAndWhatRunsOverIt(t *testing.T) {
	a := demo(t)
	window := browser(t)
	do(t, window, chromedp.Navigate(a.url+"/builds/01997a00-0000-7000-8000-0000c1de0063"), tab("Version"))
	do(
		t,
		window,
		see(text("button", "Add the version")),
		chromedp.SendKeys(field("Version"), "Harbour tug", chromedp.BySearch),
		click(text("button", "Add the version")),
		see(text("button[@role='radio']", "Harbour tug")),
		chromedp.SendKeys(
			field("Hole, opening, mark or decal"),
			"harbour number",
			chromedp.BySearch,
		),
		pick("It is", "decal"),
		click(text("button", "Add the line")),
		see(`//button[@aria-label="harbour number on Harbour tug: carried"]`),
	)
	do(
		t,
		window,
		tab("Parts"),
		click(text("summary", "Add a part")),
		chromedp.SendKeys(`//form[@aria-label="A new part"]`+field("Part"), "tow rope", chromedp.BySearch),
	)
	do(
		t,
		window,
		pick("A decal beneath it", "harbour number"),
		click(text("button", "Add the part")),
		see(`//div[@role="button"][starts-with(@aria-label, "tow rope: painted apart. harbour number")]`),
	)
	do(t, window, tab("Steps"), see(planned("Put back: tow rope")))
	do(
		t,
		window,
		tab("Version"),
		click(`//button[@aria-label="Take out harbour number"]`),
		see(text("p[@role='alert']", "tow rope")),
		see(`//button[@aria-label="harbour number on Harbour tug: carried"]`),
	)
}
