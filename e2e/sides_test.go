package e2e

import (
	"fmt"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
)

// At the bench the same patch of both sides is photographed through the neutral card: it is told which side is
// short of the layer, and that comes up again.
func TestTheSidesAreMatchedByPhotographs(t *testing.T) {
	a := demo(t)
	window := browser(t)
	dust := stepOf(t, a, "Dust").ID
	do(t, window, chromedp.Navigate(a.url+"/builds/"+varrow+"/bench?step="+dust), click(text("button", "Match sides")),
		see(`//aside[@aria-label="Match the sides"]`))
	for _, side := range []struct{ name, hex string }{{"left", "#807b6d"}, {"right", "#6a7350"}} {
		shot := fmt.Sprintf(`[aria-label="Photograph of the %s side"]`, side.name)
		do(t, window,
			chromedp.SetUploadFiles(fmt.Sprintf(`section[aria-label="The %s side"] input[type=file]`, side.name),
				[]string{photographed(t, side.hex)}, chromedp.ByQuery),
			see(text("p", "Click the upper left corner of the card")),
		)
		for i, at := range [][2]float64{{40, 40}, {440, 40}, {440, 440}, {40, 440}, {150, 150}, {330, 330}} {
			var place []float64
			do(
				t,
				window,
				chromedp.Evaluate(
					fmt.Sprintf(`(() => { const e = document.querySelector('%s'); e.scrollIntoView({ block: 'center' });
				const p = new DOMPoint(%g, %g).matrixTransform(e.getScreenCTM()); return [p.x, p.y]; })()`, shot, at[0], at[1]),
					&place,
				))
			do(t, window, chromedp.MouseClickXY(place[0], place[1]),
				chromedp.Poll(fmt.Sprintf(`document.querySelectorAll('%s circle').length === %d`, shot, i+1), nil),
			)
		}
	}
	verdict := `//section[@aria-label="How the sides compare"]`
	var told string
	do(t, window, see(verdict), chromedp.Text(verdict, &told, chromedp.BySearch))
	lookAt(t, window, "sides")
	assert.Contains(t, told, "Right is")
	assert.Contains(t, told, "short of left.")
	assert.Regexp(t, `left: [0-9.]+ ± [0-9.]+ passes`, told)
	do(t, window, click(text("button", "Keep as a lesson")), see(text("span", "It will come up")),
		chromedp.WaitNotPresent(`//aside[@aria-label="Match the sides"]`, chromedp.BySearch),
		see(text("p", "short of left")))
}
