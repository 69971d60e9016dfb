package sheets_test

import (
	"bytes"
	"encoding/xml"
	"math"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"testing"

	"cinderpath/core/form"
	"cinderpath/core/plan"
	"cinderpath/core/scheme"
	"cinderpath/sheets"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// written is a word on a page of a PDF: its lower left corner, mm from the page's.
type written struct {
	word string
	at   [2]float64
}

// writtenOn reads the words of the first page of a PDF with another program.
func writtenOn(t testing.TB, pdf []byte) (out []written) {
	path := filepath.Join(t.TempDir(), "page.pdf")
	require.NoError(t, os.WriteFile(path, pdf, 0o600))
	text, err := exec.Command("pdftotext", "-bbox", "-l", "1", path, "-").Output()
	require.NoError(t, err)
	var page struct {
		Pages []struct {
			Height float64 `xml:"height,attr"`
			Words  []struct {
				X    float64 `xml:"xMin,attr"`
				Y    float64 `xml:"yMax,attr"`
				Text string  `xml:",chardata"`
			} `xml:"word"`
		} `xml:"body>doc>page"`
	}
	require.NoError(t, xml.Unmarshal(text, &page))
	require.NotEmpty(t, page.Pages)
	for _, w := range page.Pages[0].Words {
		out = append(out, written{w.Text, [2]float64{w.X / 72 * 25.4, (page.Pages[0].Height - w.Y) / 72 * 25.4}})
	}
	return out
}

func gap(a, b [2]float64) float64 { return math.Hypot(a[0]-b[0], a[1]-b[1]) }

// laidMask is a mask as it is read from paper: its outline and the marks on it.
type laidMask struct {
	outline [][2]float64
	marks   map[string][][2]float64
}

// masksOnPaper reads outlines and named marks from a page: a mark is a line of 2 mm that begins on an
// outline and ends beside its name.
func masksOnPaper(page []stroke, words []written) (out []laidMask) {
	named := regexp.MustCompile(`^\d+\.\d+[a-z]+$`)
	var lines [][2][2]float64
	for _, s := range page {
		switch {
		case len(s.points) == 2 && !s.curved && math.Abs(gap(s.points[0], s.points[1])-2) < 0.01:
			lines = append(lines, [2][2]float64{s.points[0], s.points[1]})
		case len(s.points) > 3:
			out = append(out, laidMask{outline: s.points, marks: map[string][][2]float64{}})
		}
	}
	for _, w := range words {
		if !named.MatchString(w.word) {
			continue
		}
		best, nearest := [2]float64{}, 1.0
		for _, l := range lines {
			for k := range 2 {
				a, b := l[k], l[1-k]
				// Its name stands a little farther in, and a little down and left of that; it ends there where that
				// is to the left.
				at := [2]float64{a[0] + 1.2*(b[0]-a[0]) - 1, a[1] + 1.2*(b[1]-a[1]) - 1.5}
				if b[0]-a[0] < -0.6 {
					at[0] -= float64(len(w.word)) - 1
				}
				if d := gap(at, w.at); d < nearest {
					best, nearest = a, d
				}
			}
		}
		if nearest == 1.0 {
			continue
		}
		for i := range out {
			if onLine(out[i].outline, best) < 0.02 {
				out[i].marks[w.word] = append(out[i].marks[w.word], best)
			}
		}
	}
	return out
}

func onLine(ring [][2]float64, q [2]float64) float64 {
	best := math.Inf(1)
	for k, a := range ring {
		b := ring[(k+1)%len(ring)]
		dx, dy := b[0]-a[0], b[1]-a[1]
		if long := dx*dx + dy*dy; long > 0 {
			u := min(max(((q[0]-a[0])*dx+(q[1]-a[1])*dy)/long, 0), 1)
			best = min(best, gap(q, [2]float64{a[0] + u*dx, a[1] + u*dy}))
		}
	}
	return best
}

// onFace lays a rectangular mask on a face with these corners, against the clock seen from outside, its
// first corner on one of them; ok is false where it does not fit without stretching.
func (m laidMask) onFace(corners []form.Vec, first int) (at map[string]form.Vec, ok bool) {
	var ring [][2]float64
	for _, q := range m.outline {
		if len(ring) == 0 || gap(q, ring[len(ring)-1]) > 0.01 && gap(q, ring[0]) > 0.01 {
			ring = append(ring, q)
		}
	}
	n := len(corners)
	if len(ring) != n {
		return nil, false
	}
	twice := 0.0
	for k, a := range ring {
		b := ring[(k+1)%n]
		twice += a[0]*b[1] - b[0]*a[1]
	}
	turned := func(k int) [2]float64 {
		if twice < 0 {
			return ring[(n-k)%n]
		}
		return ring[k%n]
	}
	o, u := corners[first], corners[(first+1)%n].Sub(corners[first]).Unit()
	normal := u.Cross(corners[(first+2)%n].Sub(corners[(first+1)%n])).Unit()
	v := normal.Cross(u)
	a, b := turned(0), turned(1)
	ex, ey := (b[0]-a[0])/gap(a, b), (b[1]-a[1])/gap(a, b)
	lay := func(q [2]float64) form.Vec {
		dx, dy := q[0]-a[0], q[1]-a[1]
		return o.Plus(u.Times(dx*ex + dy*ey)).Plus(v.Times(dy*ex - dx*ey))
	}
	for k := range n {
		if lay(turned(k)).Sub(corners[(first+k)%n]).Length() > 0.1 {
			return nil, false
		}
	}
	at = map[string]form.Vec{}
	for name, all := range m.marks {
		for _, q := range all {
			at[name] = lay(q)
		}
	}
	return at, true
}

// meeting sums how far marks of one name lie apart on two laid masks, and the farthest.
func meeting(a, b map[string]form.Vec) (n int, sum, most float64) {
	for name, p := range a {
		if q, ok := b[name]; ok {
			d := p.Sub(q).Length()
			n, sum, most = n+1, sum+d, max(most, d)
		}
	}
	return n, sum, most
}

// The masks of a body, read from the PDF alone and laid on its faces, rigidly or rolled by the radius,
// meet at their marks within 0.15 mm: what is cut along the lines fits the model.
func TestMasksReadFromPaperMeetOnTheBody(t *testing.T) {
	const l, w, h, r, long, k = 4200.0, 2500.0, 1000.0, 420.0, 1500.0, 35.0
	body := form.Body{
		Hulls: []form.Hull{{ID: "hull", Width: w, Profile: [][2]float64{{-l / 2, 0}, {l / 2, 0}, {l / 2, h}, {-l / 2, h}}}},
		Guns:  []form.Gun{{ID: "gun", On: "hull", X: 20000, Z: 4000, Barrel: [][2]float64{{0, r}, {long, r}}}},
	}
	panels, err := form.Panels(body, form.Running{})
	require.NoError(t, err)
	pattern := scheme.New(l)
	for len(pattern.Colours) < 3 {
		pattern = pattern.WithColour()
	}
	for c := range pattern.Colours {
		pattern.Colours[c].Width = 700
	}
	laid, err := scheme.Lay(pattern, form.NewGrid(panels, 17))
	require.NoError(t, err)
	masks, err := laid.Masks(panels, k)
	require.NoError(t, err)
	var pdf bytes.Buffer
	require.NoError(t, sheets.Masks(plan.MaskSheet{
		Name: "box", Scale: "1:35", K: k, Colours: pattern.Colours, Masked: []bool{true, true, true}, Panels: masks,
	}, sheets.MaskStyle{}).WritePDF(&pdf, sheets.Paper{Name: "roll", Width: 700, Height: 900}))
	pages := strokes(t, pdf.Bytes())
	require.Len(t, pages, 1)
	read := masksOnPaper(pages[0], writtenOn(t, pdf.Bytes()))

	at := func(x, y, z float64) form.Vec { return form.Vec{x * l / 2 / k, y * w / 2 / k, (z + 1) * h / 2 / k} }
	faces := map[string][]form.Vec{
		"left":  {at(1, 1, -1), at(-1, 1, -1), at(-1, 1, 1), at(1, 1, 1)},
		"right": {at(-1, -1, -1), at(1, -1, -1), at(1, -1, 1), at(-1, -1, 1)},
		"front": {at(1, -1, -1), at(1, 1, -1), at(1, 1, 1), at(1, -1, 1)},
		"rear":  {at(-1, 1, -1), at(-1, -1, -1), at(-1, -1, 1), at(-1, 1, 1)},
		"deck":  {at(-1, -1, 1), at(1, -1, 1), at(1, 1, 1), at(-1, 1, 1)},
		"belly": {at(-1, 1, -1), at(1, 1, -1), at(1, -1, -1), at(-1, -1, -1)},
	}
	// Each sheet that fits a face, in each way in which it does; the box is put together of those that agree.
	type way struct {
		mask  int
		marks map[string]form.Vec
	}
	fits := map[string][]way{}
	for name, corners := range faces {
		for i, m := range read {
			for first := range corners {
				if marks, ok := m.onFace(corners, first); ok && len(marks) > 0 {
					fits[name] = append(fits[name], way{i, marks})
				}
			}
		}
		require.NotEmpty(t, fits[name], name)
	}
	best := -1
	for _, deck := range fits["deck"] {
		placed := map[string]way{"deck": deck}
		pairs := 0
		for _, name := range []string{"left", "right", "front", "rear", "belly"} {
			most := -1
			for _, f := range fits[name] {
				n := 0
				for _, p := range placed {
					if p.mask == f.mask {
						n = -100
					}
					if k, _, far := meeting(p.marks, f.marks); far < 0.15 {
						n += k
					} else {
						n = -100
					}
				}
				if n > most {
					most, placed[name] = n, f
				}
			}
			pairs += max(most, 0)
		}
		best = max(best, pairs)
	}
	assert.Equal(t, 24, best, "two marks on each of twelve edges, all of which meet")

	// The barrel's sheet is a rectangle as wide as the girth; rolled up, both marks of its seam meet, and
	// those at its ends lie on the rim's corners.
	rolled := 0
	for _, m := range read {
		low, high := m.outline[0], m.outline[0]
		for _, q := range m.outline {
			for i := range 2 {
				low[i], high[i] = min(low[i], q[i]), max(high[i], q[i])
			}
		}
		wide, tall := high[0]-low[0], high[1]-low[1]
		across := 0
		if math.Abs(tall-2*math.Pi*r/k) < 0.05 {
			wide, tall, across = tall, wide, 1
		}
		if math.Abs(wide-2*math.Pi*r/k) > 0.05 || math.Abs(tall-long/k) > 0.05 || len(m.marks) == 0 {
			continue
		}
		for name, all := range m.marks {
			if len(all) == 2 { // on both sides of the seam
				assert.InDelta(t, 2*math.Pi*r/k, math.Abs(all[0][across]-all[1][across]), 0.15, name)
				assert.InDelta(t, all[0][1-across], all[1][1-across], 0.15, name)
				rolled++
				continue
			}
			turn := (all[0][across] - low[across]) / wide * 14
			assert.InDelta(t, math.Round(turn), turn, 0.15/(wide/14), "%s lies where a strip begins", name)
			rolled++
		}
	}
	assert.GreaterOrEqual(t, rolled, 10)
}
