package scheme_test

import (
	"image"
	"image/color"
	"math"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"cinderpath/core/colour"
	"cinderpath/core/form"
	"cinderpath/core/scheme"
	"cinderpath/core/unit"
	"cinderpath/core/zone"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// photograph is a picture of the left side of a surface that wears a scheme: tilted, unevenly lit,
// blurred and noisy. at maps a place of the view's plane onto it.
func photograph(l *scheme.Layout, p scheme.Pattern, wide int) (img *image.NRGBA, at func(u, v float64) [2]float64) {
	g := l.Grid()
	right, down, toward := form.Left.Axes()
	dot := func(a, b form.Vec) float64 { return a[0]*b[0] + a[1]*b[1] + a[2]*b[2] }
	type hit struct {
		depth, u, v float64
		colour      int
	}
	near := map[[2]int]hit{}
	low, high := [2]float64{1e9, 1e9}, [2]float64{-1e9, -1e9}
	for _, t := range g.Texels {
		if dot(t.Normal, toward) <= 0 {
			continue
		}
		for k, a := range t.Area {
			if a == 0 {
				continue
			}
			q := t.Point(k)
			u, v := dot(q, right), dot(q, down)
			low, high = [2]float64{min(low[0], u), min(low[1], v)}, [2]float64{max(high[0], u), max(high[1], v)}
			c := int(l.Taken[t.First+k])
			if zone.Bare(t.Zone) {
				c = -1
			}
			cell := [2]int{int(math.Floor(u / g.Step)), int(math.Floor(v / g.Step))}
			if h, ok := near[cell]; !ok || dot(q, toward) > h.depth {
				near[cell] = hit{dot(q, toward), u, v, c}
			}
		}
	}
	size := float64(wide) / (high[0] - low[0]) * 0.9
	sin, cos := math.Sincos(0.06)
	at = func(u, v float64) [2]float64 {
		x, y := (u-low[0])*size, (v-low[1])*size*1.03 // a little sheared by a lens
		return [2]float64{12 + x*cos - y*sin, 30 + x*sin + y*cos}
	}
	tall := int(at(low[0], high[1])[1]) + 40
	sum, n := make([][3]float64, wide*tall), make([]float64, wide*tall)
	for _, h := range near {
		c := colour.RGB{40, 40, 42}
		if h.colour >= 0 {
			c = colour.Of(p.Colours[h.colour].Hex)
		}
		q := at(h.u, h.v)
		x, y := int(q[0]), int(q[1])
		if x < 0 || y < 0 || x >= wide || y >= tall {
			continue
		}
		lit := c.Linear()
		uneven := 0.75 + 0.5*float64(x)/float64(wide) - 0.15*float64(y)/float64(tall)
		for k := range lit {
			sum[y*wide+x][k] += lit[k] * uneven
		}
		n[y*wide+x]++
	}
	random := rand.New(rand.NewPCG(1, 2))
	img = image.NewNRGBA(image.Rect(0, 0, wide, tall))
	for y := range tall {
		for x := range wide {
			var c [3]float64
			weight := 0.0
			for dy := -1; dy <= 1; dy++ { // blur
				for dx := -1; dx <= 1; dx++ {
					if xx, yy := x+dx, y+dy; xx >= 0 && yy >= 0 && xx < wide && yy < tall && n[yy*wide+xx] > 0 {
						w := 1.0 / float64(1+dx*dx+dy*dy)
						for k := range c {
							c[k] += w * sum[yy*wide+xx][k] / n[yy*wide+xx]
						}
						weight += w
					}
				}
			}
			out := [3]uint8{200, 205, 210}
			if weight > 0 {
				for k := range c {
					out[k] = uint8(min(max(255*colour.Encode(c[k]/weight)+random.NormFloat64()*4, 0), 255))
				}
			}
			img.SetNRGBA(x, y, color.NRGBA{out[0], out[1], out[2], 255})
		}
	}
	return img, at
}

// pointedAt are three places of a picture of the left side with where they are on the vehicle.
func pointedAt(at func(u, v float64) [2]float64) (pairs []scheme.Pair) {
	for _, q := range [][2]float64{{-3000, -600}, {2800, -700}, {500, -2300}} {
		pairs = append(pairs, scheme.Pair{Pixel: at(q[0], q[1]), At: q})
	}
	return pairs
}

// readBack photographs a scheme from the left and lays what is read of the picture, by another rule of
// chance: all that is right comes of the picture.
func readBack(
	t *testing.T, truth scheme.Pattern, worn *scheme.Layout, panels []*form.Panel,
) (told scheme.PictureTold, again scheme.Pattern, laid *scheme.Layout) {
	img, at := photograph(worn, truth, 300)
	// Colours are picked where a hand would: in the middle of fields.
	var picks []scheme.Pick
	for c := range truth.Colours {
		picks = append(picks, scheme.Pick{Pixel: middleOf(worn, panels, c, at), Colour: c})
	}
	told, err := truth.ReadPicture(img, scheme.Reading{Pairs: pointedAt(at), Picks: picks, Side: form.Left}, worn.Grid())
	require.NoError(t, err)
	again = truth
	again.Seed = 99
	again.Traces = []scheme.Trace{told.Trace}
	again.Colours = slices.Clone(truth.Colours)
	for c := range again.Colours[1:] { // as they are taken with a picture
		again.Colours[c+1].Share = unit.Share(told.Shares[c+1])
	}
	laid, err = scheme.Lay(again, worn.Grid())
	require.NoError(t, err)
	return told, again, laid
}

// Whatever the scheme, what is guessed goes on where what is seen ends, over the edges of panels and
// where other parts stand on them.
func TestWhatIsGuessedGoesOnWhereAPictureEnds(t *testing.T) {
	panels := tank(t)
	g := form.NewGrid(panels, 25)
	for _, family := range []string{scheme.Bands, scheme.Blotches} {
		for seed := range uint64(2) {
			truth := three
			truth.Colours = slices.Clone(three.Colours)
			truth.Width, truth.Seed = 600+400*float64(seed), 10+seed
			for c := range truth.Colours[1:] {
				truth.Colours[c+1].Family = family
			}
			worn, err := scheme.Lay(truth, g)
			require.NoError(t, err)
			_, _, laid := readBack(t, truth, worn, panels)
			assert.Greater(t, alongTheRim(laid), 0.98, "%s %d", family, seed)
		}
	}
}

// How wide fields are is read from what is seen of them, whatever was thought before.
func TestWidthsAreReadFromAPicture(t *testing.T) {
	panels := tank(t)
	g := form.NewGrid(panels, 25)
	for _, width := range []float64{350, 600, 1000} {
		truth := three
		truth.Colours = slices.Clone(three.Colours)
		truth.Width, truth.Feather = width, 30
		worn, err := scheme.Lay(truth, g)
		require.NoError(t, err)
		told, again, _ := readBack(t, truth, worn, panels)
		top := len(truth.Colours) - 1
		assert.InDelta(t, width, told.Widths[top], 0.25*width)
		again.Colours = slices.Clone(again.Colours)
		again.Colours[top].Width = 2 * width
		doubted := truth
		doubted.Width = 1.8 * width
		doubted.Seed = 5
		told, _, _ = readBack(t, doubted, worn, panels)
		assert.InDelta(t, width, told.Widths[top], 0.25*width, "though it was thought to be wider")
		assert.InDelta(t, width, again.Fitted(top, told.Widths[top]), 0.25*width+5)
		assert.InDelta(t, 2*width, again.Fitted(top, 0), 0, "nothing was told")
	}
}

// A known scheme is photographed from the left, and read back: what is seen gets its colours, what is
// not goes on from there, in the same shares.
func TestASchemeFromOnePicture(t *testing.T) {
	panels := tank(t)
	g := form.NewGrid(panels, 25)
	truth := three
	truth.Colours = slices.Clone(three.Colours)
	truth.Width = 900
	worn, err := scheme.Lay(truth, g)
	require.NoError(t, err)
	img, at := photograph(worn, truth, 300)
	pairs := pointedAt(at)
	told, again, laid := readBack(t, truth, worn, panels)

	right, seen := 0, 0
	shown := make([]float64, 3)
	guess := make([]float64, 3)
	for i, tx := range g.Texels {
		if zone.Bare(tx.Zone) {
			continue
		}
		far := [3][]float64{nil, worn.Away(i, 1), worn.Away(i, 2)}
		for k, a := range tx.Area {
			at := tx.First + k
			if a == 0 {
				continue
			}
			if laid.Guessed(at) {
				guess[laid.Taken[at]] += float64(a)
				continue
			}
			shown[laid.Taken[at]] += float64(a)
			// Edges within 1.5 pixels, 35 mm, are blurred: only what lies inside a field is asked.
			c := int(worn.Taken[at])
			if c == 0 || far[c] == nil || far[c][k]*g.Step < 40 {
				continue
			}
			seen++
			if laid.Taken[at] == worn.Taken[at] {
				right++
			}
		}
	}
	require.Greater(t, seen, 2000)
	assert.Greater(t, float64(right)/float64(seen), 0.99)
	total := func(x []float64) float64 { return x[0] + x[1] + x[2] }
	for c := range 3 {
		assert.InDelta(t, shown[c]/total(shown), guess[c]/total(guess), 0.05, "colour %d", c)
	}
	assert.Greater(t, total(guess), 0.3*total(shown), "much of a vehicle is on no side view")

	assert.Greater(t, alongTheRim(laid), 0.98, "what is guessed goes on where what is seen ends")

	// Without picks the colours are found by themselves.
	alone, err := truth.ReadPicture(img, scheme.Reading{Pairs: pairs, Side: form.Left}, g)
	require.NoError(t, err)
	for c := range 3 {
		assert.InDelta(t, told.Shares[c], alone.Shares[c], 0.06, "colour %d", c)
	}

	// Mirrored, the far side shows what the near one does.
	again.Traces[0].Far = scheme.Mirrored
	both, err := scheme.Lay(again, g)
	require.NoError(t, err)
	same, all := 0, 0
	for i, p := range panels {
		if p.Zone != "hull.left" && p.Zone != "turret.left" {
			continue
		}
		tx := g.Texels[i]
		for k, a := range tx.Area {
			if a == 0 || both.Guessed(tx.First+k) {
				continue
			}
			q := tx.Point(k)
			q[1] = -q[1]
			if c, ok := both.Where(scheme.Anchor{At: q, Zone: zone.Mirrored(p.Zone)}); ok {
				all++
				if c == int(both.Taken[tx.First+k]) {
					same++
				}
			}
		}
	}
	require.Greater(t, all, 500)
	assert.Greater(t, float64(same)/float64(all), 0.97)
}

// An edge line follows the fields of a picture too; places and texels tell the same.
func TestAnEdgeLineRunsOverWhatAPictureShows(t *testing.T) {
	g := form.NewGrid(tank(t), 25)
	p := three
	p.Colours = append(slices.Clone(three.Colours), scheme.Colour{
		Name: "peat black", Hex: "#2f2c29", Family: scheme.Outlines, Width: 120,
	})
	rows := make([]string, 60)
	for j := range rows {
		rows[j] = "a60 b60 c60"
		rows[j] = strings.ReplaceAll(rows[j], " ", "")
	}
	p.Traces = []scheme.Trace{{
		Side: form.Left, Origin: [2]float64{-3300, -2600}, Pixel: 45, Wide: 180, High: 60, Rows: rows, Far: scheme.Mirrored,
	}}
	l, err := scheme.Lay(p, g)
	require.NoError(t, err)
	assert.Empty(t, l.Lost)
	same, all, line := 0, 0, 0
	for i, tx := range g.Texels {
		for k, a := range tx.Area {
			if a == 0 || zone.Bare(tx.Zone) || k%5 > 0 {
				continue
			}
			x, y := tx.X0+(float64(k%tx.NX)+0.5)*tx.Step, tx.Y0+(float64(k/tx.NX)+0.5)*tx.Step
			all++
			if l.At(i, x, y) == int(l.Taken[tx.First+k]) {
				same++
			}
			if l.Taken[tx.First+k] == 3 && !l.Guessed(tx.First+k) {
				line++
			}
		}
	}
	assert.Greater(t, float64(same)/float64(all), 0.995)
	assert.Greater(t, line, 20, "over what is seen")
}

// alongTheRim is on what part of the rim between what is seen and what is guessed both have the same
// colour: each guessed texel is asked for the nearest seen one within a texel and a half, over the
// edges of panels too.
func alongTheRim(l *scheme.Layout) float64 {
	g := l.Grid()
	type place struct {
		at     form.Vec
		colour uint8
	}
	key := func(p form.Vec) (k [3]int) {
		for q := range 3 {
			k[q] = int(math.Floor(p[q] / (1.5 * g.Step)))
		}
		return k
	}
	seen := map[[3]int][]place{}
	each := func(f func(at int, p form.Vec)) {
		for _, tx := range g.Texels {
			for k, a := range tx.Area {
				if a > 0 && !zone.Bare(tx.Zone) {
					f(tx.First+k, tx.Point(k))
				}
			}
		}
	}
	each(func(at int, p form.Vec) {
		if !l.Guessed(at) {
			seen[key(p)] = append(seen[key(p)], place{p, l.Taken[at]})
		}
	})
	same, all := 0.0, 0.0
	each(func(at int, p form.Vec) {
		if !l.Guessed(at) {
			return
		}
		best, near := place{}, 1.5*g.Step
		k := key(p)
		for dx := -1; dx <= 1; dx++ {
			for dy := -1; dy <= 1; dy++ {
				for dz := -1; dz <= 1; dz++ {
					for _, o := range seen[[3]int{k[0] + dx, k[1] + dy, k[2] + dz}] {
						if d := away(o.at, p); d < near {
							best, near = o, d
						}
					}
				}
			}
		}
		if near < 1.5*g.Step {
			all++
			if best.colour == l.Taken[at] {
				same++
			}
		}
	})
	return same / max(all, 1)
}

// middleOf is a place on a picture of the left side with nothing but a colour about it.
func middleOf(l *scheme.Layout, panels []*form.Panel, c int, at func(u, v float64) [2]float64) [2]float64 {
	right, down, _ := form.Left.Axes()
	dot := func(a, b form.Vec) float64 { return a[0]*b[0] + a[1]*b[1] + a[2]*b[2] }
	for i, tx := range l.Grid().Texels {
		if z := panels[i].Zone; z != "hull.left" && z != "turret.left" && z != "lower.left" {
			continue
		}
		for k := range tx.Area {
			alone := true
			for d := -4; d <= 4 && alone; d++ {
				for _, o := range []int{k + d, k + d*tx.NX, k + d*(tx.NX+1)} {
					alone = alone && o >= 0 && o < len(tx.Area) && tx.Area[o] > 0 && int(l.Taken[tx.First+o]) == c
				}
			}
			if alone && (k/tx.NX) > tx.NY/2 { // above the wheels
				q := tx.Point(k)
				return at(dot(q, right), dot(q, down))
			}
		}
	}
	return [2]float64{}
}

// What a trace keeps is read as it was written; what is broken is refused.
func TestSquaresAreReadAsWritten(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		all := rapid.SliceOfN(rapid.SampledFrom([]uint8{0, 1, 2, 255}), 12, 12).Draw(t, "squares")
		p := three
		p.Traces = []scheme.Trace{{Side: form.Left, Pixel: 20, Wide: 4, High: 3, Rows: scheme.PackSquares(all, 4)}}
		require.NoError(t, p.Check())
		back, err := p.Traces[0].Read()
		require.NoError(t, err)
		assert.Equal(t, all, back)
	})
	for squares, want := range map[string]string{"a4 a3 a4": "3 of 4", "a4 a5 a4": "more than", "a4 z4 a4": "no colour", "a4 d4 a4": "has not", "a4 a4": "2 rows"} {
		p := three
		p.Traces = []scheme.Trace{{Side: form.Left, Pixel: 20, Wide: 4, High: 3, Rows: strings.Fields(squares)}}
		assert.ErrorContains(t, p.Check(), want)
	}
}

func FuzzSquares(f *testing.F) {
	f.Add("a3b a4 b4", 4, 3)
	f.Add(".4 .4 .4", 4, 3)
	f.Fuzz(func(t *testing.T, s string, wide, high int) {
		p := three
		p.Traces = []scheme.Trace{{Side: form.Left, Pixel: 20, Wide: wide, High: high, Rows: strings.Fields(s)}}
		if p.Check() == nil {
			all, err := p.Traces[0].Read()
			require.NoError(t, err)
			require.Len(t, all, wide*high)
		}
	})
}

// Reading a picture of 1000 pixels, beside reading all its pixels.
func BenchmarkReadPicture(b *testing.B) {
	panels := tank(b)
	g := form.NewGrid(panels, texel)
	worn, err := scheme.Lay(three, g)
	require.NoError(b, err)
	img, at := photograph(worn, three, 1000)
	var pairs []scheme.Pair
	for _, q := range [][2]float64{{-3000, -600}, {2800, -700}, {500, -2300}} {
		pairs = append(pairs, scheme.Pair{Pixel: at(q[0], q[1]), At: q})
	}
	b.Run("read", func(b *testing.B) {
		for b.Loop() {
			if _, err := three.ReadPicture(img, scheme.Reading{Pairs: pairs, Side: form.Left}, g); err != nil {
				b.Fatal(err)
			}
		}
	})
	told, err := three.ReadPicture(img, scheme.Reading{Pairs: pairs, Side: form.Left}, g)
	require.NoError(b, err)
	p := three
	p.Traces = []scheme.Trace{told.Trace}
	b.Run("lay", func(b *testing.B) {
		for b.Loop() {
			if _, err := scheme.Lay(p, g); err != nil {
				b.Fatal(err)
			}
		}
	})
	b.Run("pixels", func(b *testing.B) {
		for b.Loop() {
			sum := 0
			for _, v := range img.Pix {
				sum += int(v)
			}
			if sum == 0 {
				b.Fatal("black")
			}
		}
	})
}

// With a picture behind it a scheme still has the shares that are asked for: what is seen counts, the rest is
// laid for what is wanting.
func TestSharesAreMetBesideAPicture(t *testing.T) {
	panels := tank(t)
	g := form.NewGrid(panels, 25)
	worn, err := scheme.Lay(three, g)
	require.NoError(t, err)
	_, again, _ := readBack(t, three, worn, panels)
	for c, more := range map[int]unit.Share{1: 0.08, 2: -0.06} {
		p := again
		p.Colours = slices.Clone(again.Colours)
		p.Colours[c].Share += more
		laid, err := scheme.Lay(p, g)
		require.NoError(t, err)
		for k := 1; k < len(p.Colours); k++ {
			assert.InDelta(t, float64(p.Colours[k].Share), float64(laid.Shares[k]), 0.006, "colour %d of %d", k, c)
		}
	}
}
