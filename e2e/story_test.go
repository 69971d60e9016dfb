package e2e

import (
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A story is told: the amounts answer with their reasons, the plate changes, and an amount that is
// set by hand stays when the story changes.
func TestAStoryIsTold(t *testing.T) {
	a := demo(t)
	window := browser(t)
	look := func() (last string) {
		var s struct {
			Plan struct {
				Steps []struct{ Look string }
			}
		}
		a.get(t, "/api/builds/"+varrow, &s)
		require.NotEmpty(t, s.Plan.Steps)
		return s.Plan.Steps[len(s.Plan.Steps)-1].Look
	}
	before := look()
	amount := func(name, words string) chromedp.Action {
		return see(`//ul[@aria-label="Amounts"]/li[strong[.="` + name + `"]]/small[contains(., "` + words + `")]`)
	}
	do(
		t,
		window,
		chromedp.Navigate(a.url+"/builds/"+varrow+"/earth/story"),
		see(pictured),
		amount("Mud", "60 %, as usual"),
		pick("Ground it drove on", "clay"),
		amount("Mud", "clay 3.6"),
		amount("Mud", "60 % → 84 %"),
	)
	lookAt(t, window, "story")
	told := look()
	assert.NotEqual(t, before, told, "the vehicle looks otherwise")
	do(
		t,
		window,
		chromedp.Navigate(a.url+"/builds/"+varrow+"/earth/layers"),
		click(text("span", "Mud")),
		see(`//section[@aria-label="How Mud is worked"]`),
		chromedp.Click(cell("Amount of Mud"), chromedp.BySearch),
		chromedp.KeyEvent(kb.End+strings.Repeat(kb.Backspace, 6)+"20"),
		click(text("h1", "Varrow")),
		see(text("button", "as its story has it")),
	)
	lookAt(t, window, "amount")
	do(
		t,
		window,
		chromedp.Navigate(a.url+"/builds/"+varrow+"/earth/story"),
		amount("Mud", "as you set it"),
		choose(
			"Used for",
			"recovery work",
		),
		amount("Mud", "20 %, as you set it"),
		amount("Chips", "recovery work 1.6"),
	)
	assert.NotEqual(t, told, look())
}

// Two stories stand beside each other, and the other one is taken.
func TestTwoStoriesStandBesideEachOther(t *testing.T) {
	a := demo(t)
	window := browser(t)
	do(
		t,
		window,
		chromedp.Navigate(a.url+"/builds/"+varrow+"/earth/story"),
		see(pictured),
		choose("Beside another story", "months of clay"),
		see(`//section[@aria-label="Beside: months of clay"]//img[contains(@alt, "months of clay")]`),
		chromedp.Poll(`[...document.querySelectorAll('figure img')].length === 2 &&
			[...document.querySelectorAll('figure img')].every((i) => i.complete && i.naturalWidth > 0)`, nil),
		chromedp.ScrollIntoView(`//section[@aria-label="Beside: months of clay"]`, chromedp.BySearch),
	)
	lookAt(t, window, "beside")
	do(
		t,
		window,
		click(text("button", "Take this story")),
		see(`//ul[@aria-label="Amounts"]/li[strong[.="Mud"]]/small[contains(., "clay 3.6")]`),
	)
}

// The layers that follow from a story are put in with a click.
func TestAStoryPutsItsLayersIn(t *testing.T) {
	a := demo(t)
	window := browser(t)
	do(
		t,
		window,
		chromedp.Navigate(a.url+"/builds/01997a00-0000-7000-8000-0000c1de0063/earth/story"),
		see(pictured),
		click(text("button", "Put in the layers that follow from it")),
		see(`//ul[@aria-label="Amounts"]/li[strong[.="Grime streaks"]]`),
		see(`//ul[@aria-label="Amounts"]/li[strong[.="Thrown earth"]]`),
	)
	lookAt(t, window, "proposed")
	do(
		t,
		window,
		click(text("button", "Put in the layers that follow from it")),
		see(text("span", "in the stack already")),
		chromedp.Navigate(a.url+"/builds/01997a00-0000-7000-8000-0000c1de0063/earth/layers"),
		see(text("span", "Thrown earth")),
	)
	lookAt(t, window, "stack")
}
