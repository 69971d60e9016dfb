package e2e

import (
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
)

// on is a step of the path by its name.
func on(name string) string { return `//nav//button[contains(@aria-label, "` + name + `")]` }

// A vehicle gets a base: it is drawn, its board follows from the margin, what is strewn is told at
// its size in life, and its steps stand on the path.
func TestABaseIsGiven(t *testing.T) {
	a := demo(t)
	window := browser(t)
	do(
		t, window,
		chromedp.Navigate(a.url+"/builds/"+varrow+"/finish/base"),
		see(text("span", "no base is on the path")),
		click(text("button", "Give it a base")),
		see(text("p", "Its steps stand on the path")),
		see(on("Lay the ground of the base")),
		see(on("Fix the vehicle on its base")),
		retype(field("Margin, mm"), "50"),
		chromedp.KeyEvent(kb.Enter),
		see(text("dd", "50 mm round the running gear")),
		see(`//*[name()="svg"][contains(@aria-label, "The base from above")]`),
		click(text("button", "add")),
		see(text("dd", "gravel of 0.9 mm is 32 mm in life")),
		retype(field("Size of gravel, mm"), "3"),
		chromedp.KeyEvent(kb.Enter),
		see(text("dd", "larger than any gravel")),
		see(on("Strew the ground: gravel")),
		click(text("button", "Show it on a shelf instead")),
		see(text("span", "no base is on the path")),
		chromedp.WaitNotPresent(on("Fix the vehicle on its base"), chromedp.BySearch),
	)
}

// An inside is asked for; its steps come before what closes it.
func TestAnInsideIsAskedFor(t *testing.T) {
	a := demo(t)
	window := browser(t)
	do(
		t,
		window,
		chromedp.Navigate(a.url+"/builds/"+drumble+"/build/parts"),
		see(`//summary[.="Insides"]`),
		see(on("Darken the inside of the cab")),
		pick("Inside of cab", "detailed"),
		see(on("Prime the inside of the cab")),
		see(on("Wash the inside of the cab")),
		chromedp.Poll(
			`[...document.querySelectorAll('img[alt^="Inside of cab"]')].filter((i) => i.naturalWidth > 50).length === 2`,
			nil,
		),
		click(`//label[.="washed"]`),
		chromedp.WaitNotPresent(on("Wash the inside of the cab"), chromedp.BySearch),
		see(on("Chips in the cab")),
	)
}

// jibHead opens what is known of a part of the Drumble.
func jibHead(a *app) chromedp.Action {
	return chromedp.Tasks{
		chromedp.Navigate(a.url + "/builds/" + drumble + "/build/parts"),
		click(`//div[@role="button"][starts-with(@aria-label, "jib head:")]`),
	}
}

// A part comes with a fault: it is said, met, and stands on the path.
func TestAPartComesWithAFault(t *testing.T) {
	a := demo(t)
	window := browser(t)
	do(
		t, window,
		jibHead(a),
		chromedp.SendKeys(field("What is wrong with it"), "a bubble", chromedp.BySearch),
		click(text("button", "Keep it")),
		see(text("p", "jib head came, but: a bubble")),
		click(text("button", "Repair it")),
		see(on("Repair what came: jib head: a bubble")),
		see(text("small", "Arrived, but a bubble: it is repaired")),
	)
}

// A part is painted apart with the first colour of the scheme, and goes on before the second.
func TestAPartGoesOnBetweenTwoColours(t *testing.T) {
	a := demo(t)
	window := browser(t)
	do(
		t, window,
		jibHead(a),
		pick("Goes on after", "Camouflage: harbour grey"),
		click(text("button", "Keep it")),
		click(on("Put back: jib head")),
		click(`//section[@aria-label="The step you stand on"]//button[@aria-expanded="false"]`),
		see(`//*[contains(., "jib head stays off until this colour is on")]`),
	)
}

// The leaflet is corrected: what is wrong is told at the step that it is about.
func TestACorrectionReachesItsStep(t *testing.T) {
	a := demo(t)
	window := browser(t)
	do(
		t, window,
		chromedp.Navigate(a.url+"/builds/"+drumble+"/build/version"),
		click(`//summary[starts-with(., "The leaflet")]`),
		chromedp.SendKeys(
			`//textarea[@id=//label[starts-with(., "Type or paste steps")]/@for]`,
			"step;text;correction\n12;Fit the winch;the drum sits 1 mm lower",
			chromedp.BySearch,
		),
		click(text("button", "Take these steps")),
		see(text("div", "Corrected: the drum sits 1 mm lower")),
		pickIn(cell("Step 12 is about"), "winch"),
		click(on("Fit parts to the winch")),
		click(`//section[@aria-label="The step you stand on"]//button[@aria-expanded="false"]`),
		see(text("p[@role='note']", "leaflet step 12 is wrong: the drum sits 1 mm lower")),
		see(text("li", "winch on the winch: super glue")),
	)
}

// A second vehicle stands on the base that another has: its other earth is told, and the mend takes the same.
func TestASecondVehicleStandsOnABase(t *testing.T) {
	a := demo(t)
	window := browser(t)
	const copied = "Varrow II medium tank, copy"
	told := `//article[contains(@aria-label, "is mixed from other earth than the base of ` + copied + `")]`
	do(
		t, window,
		chromedp.Navigate(a.url),
		click(`//button[@aria-label="More for Varrow II medium tank"]`),
		click(`//button[@role="menuitem"][.="Duplicate"]`),
		click(text("h2", copied)+"//a"),
		tab("Base"),
		click(text("button", "Give it a base")),
		see(text("p", "Its steps stand on the path")),
		chromedp.Navigate(a.url+"/builds/"+varrow+"/finish/base"),
		see(text("span", "no base is on the path")),
		pickIn(cell("On the base of another build"), copied),
		see(text("span", "It stands on the base of")),
		see(on("Fix the vehicle on the base of")),
		see(text("p[@role='note']", "of the same earth as")),
		chromedp.Navigate(a.url),
		click(text("h2", copied)+"//a"),
		tab("Base"),
		see(text("p", "Varrow II medium tank stands here too")),
		pick("Its earth is painted from", "44 ochre clay"),
		found,
		see(`//article[contains(@aria-label, "The ground is painted from another mix")]`),
		chromedp.Navigate(a.url+"/builds/"+varrow+"/finish/base"),
		see(text("p[@role='note']", "of other earth than")),
	)
	lookAt(t, window, "beside")
	do(
		t, window,
		found,
		see(told),
	)
	lookAt(t, window, "beside-finding")
	do(
		t, window,
		click(told+`//button[starts-with(., "Take ")]`),
		chromedp.WaitNotPresent(told, chromedp.BySearch),
		see(text("p[@role='note']", "of the same earth as")),
	)
}
