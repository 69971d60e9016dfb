package look_test

import (
	"fmt"
	"image"
	"math/rand/v2"
	"slices"
	"testing"

	"cinderpath/core/colour"
	"cinderpath/core/form"
	"cinderpath/core/gear"
	"cinderpath/core/landing"
	"cinderpath/core/look"
	"cinderpath/core/paint"
	"cinderpath/core/scheme"
	"cinderpath/core/strata"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// tank is an outline on its tracks.
func tank(t testing.TB) []*form.Panel {
	const l, w, h = 6400, 3100, 2520
	wheels, link := form.NewWheels(form.Tracked, l, w, h)
	loop, err := gear.Taut(wheels, link)
	require.NoError(t, err)
	run, err := gear.Hang(wheels, link, loop, loop.Slack)
	require.NoError(t, err)
	pins := gear.Chain(run.Outline(loop, wheels, link), loop.Links)
	panels, err := form.Panels(
		form.NewBody(form.Tracked, l, w, h),
		form.Running{Wheels: wheels, Face: w/2 - 20, Width: link.Width, Link: link, Pins: pins},
	)
	require.NoError(t, err)
	return panels
}

const scale = 35

// texel of a plan, real mm.
const texel = 0.5 * scale

// stack is twenty layers that use every landing there is.
func stack() []strata.Layer {
	list := []strata.Layer{
		{Kind: strata.Prime, Family: "primer_acrylic", Applied: strata.Misted, Hex: "#6b6b6b"},
		{Kind: strata.Colour, Family: "waterborne_acrylic", Applied: strata.Misted, Coats: 2, Hex: "#66704f"},
		{Kind: strata.Clear, Family: "clear_acrylic", Applied: strata.Misted, Sheen: colour.Gloss},
		{Kind: strata.ChippingCoat, Family: "chipping_coat", Applied: strata.Misted},
		{Kind: strata.Colour, Family: "waterborne_acrylic", Applied: strata.Misted, Hex: "#d9d9d2"},
		{Kind: strata.ChippingWork, Family: "chipping_coat", Applied: strata.Brushed},
		{Kind: strata.Clear, Family: "clear_acrylic", Applied: strata.Misted, Sheen: colour.Satin},
		{Kind: strata.Filter, Family: "enamel_effect", Applied: strata.Brushed},
		{Kind: strata.Wash, Family: "enamel_effect", Applied: strata.Brushed},
		{Kind: strata.Chips, Family: "waterborne_acrylic", Applied: strata.Brushed},
		{Kind: strata.Dots, Family: "oil_thin", Applied: strata.Brushed},
		{Kind: strata.Streaks, Family: "oil_thin", Applied: strata.Brushed},
		{Kind: strata.Rust, Family: "oil_thin", Applied: strata.Brushed},
		{Kind: strata.Dust, Family: "enamel_effect", Applied: strata.Brushed},
		{Kind: strata.Mud, Family: "mud_paste", Applied: strata.Brushed, DepthMM: 1, Zones: []string{"lower", "gear"}},
		{Kind: strata.Splash, Family: "enamel_effect", Applied: strata.Brushed},
		{Kind: strata.Wet, Family: "wet_gloss", Applied: strata.Brushed},
		{Kind: strata.Pigment, Family: "pigment_dry", Applied: strata.Brushed},
		{Kind: strata.Fix, Family: "pigment_fixer", Applied: strata.Brushed},
		{Kind: strata.Metal, Family: "graphite", Applied: strata.Brushed, Zones: []string{"gear"}},
	}
	for i := range list {
		list[i].ID, list[i].Name = fmt.Sprintf("layer %d", i), string(list[i].Kind)
		list[i].Coats = max(list[i].Coats, 1)
	}
	strata.Stacked(list)
	return list
}

// site is the tank with texels of a size.
func site(panels []*form.Panel, step float64) *landing.Site {
	wheels, link := form.NewWheels(form.Tracked, 6400, 3100, 2520)
	run := landing.Running{Wheels: wheels, Face: 3100/2 - 20, Width: link.Width, Tracked: true}
	return landing.NewSite(panels, form.NewGrid(panels, step), nil, run, scale)
}

func coatOf(l strata.Layer, on *landing.Site) look.Coat {
	p, visible := l.Material()
	return look.Coat{Deposit: l.Deposit(on), Effect: l.Effect(), Paint: p, Clear: !visible}
}

// slowly is a texel in all 36 bands and without tables, coat by coat, as handbook 5 has it.
type slowly struct {
	inner colour.Bands
	under map[strata.Bared]slowly
	loose *colour.Bands
	sheen colour.Sheen
}

func (s *slowly) lay(c look.Coat, pigment paint.Pigment, at int) {
	if c.Keeps != 0 {
		if s.under == nil {
			s.under = map[strata.Bared]slowly{}
		}
		s.under[c.Keeps] = *s
	}
	if c.Film == nil || c.Film[at] == 0 {
		return
	}
	if c.Cover && c.Film[at] < strata.Steps {
		s.part(c, pigment, at)
		return
	}
	x := c.Full * paint.Film(c.Film[at]) / strata.Steps
	switch {
	case c.Reveals != 0:
		if under, ok := s.under[c.Reveals]; ok {
			s.inner, s.sheen, s.loose = under.inner, under.sheen, nil
		}
		return
	case c.Loose && !c.Clear:
		seen := s.sheen.Seen(s.inner)
		if s.loose != nil {
			seen = *s.loose
		}
		over := pigment.Film(x, seen)
		s.loose = &over
	default:
		s.loose = nil
	}
	if !c.Clear {
		s.inner = pigment.Film(x, s.inner)
	}
	if c.Sheen != "" && 2*c.Film[at] >= strata.Steps {
		s.sheen = c.Sheen
	}
}

func (s *slowly) seen() colour.Lab {
	r := s.sheen.Seen(s.inner)
	if s.loose != nil {
		r = *s.loose
	}
	return r.XYZ().Lab()
}

// part is a full film on a part of the texel: a mean of both.
func (s *slowly) part(c look.Coat, pigment paint.Pigment, at int) {
	share := float64(c.Film[at]) / strata.Steps
	whole := c
	whole.Film = make([]uint8, len(c.Film))
	whole.Film[at] = strata.Steps
	over := *s
	if s.loose != nil {
		kept := *s.loose
		over.loose = &kept
	}
	over.lay(whole, pigment, at)
	seen := func(x slowly) colour.Bands {
		if x.loose != nil {
			return *x.loose
		}
		return x.sheen.Seen(x.inner)
	}
	a, b := seen(*s), seen(over)
	dusty := s.loose != nil || over.loose != nil
	for i := range s.inner {
		s.inner[i] += share * (over.inner[i] - s.inner[i])
		a[i] += share * (b[i] - a[i])
	}
	if s.loose = nil; dusty {
		s.loose = &a
	}
	if share >= 0.5 {
		s.sheen = over.sheen
	}
}

// The quick way by tables and twelve bands shows on random texels what the slow one does.
func TestTheLookAgreesWithASlowPlainOne(t *testing.T) {
	on := site(tank(t), 2*texel)
	g := on.Grid
	coats, pigments := []look.Coat{}, []paint.Pigment{}
	list := stack()
	for i, k := range []strata.Kind{strata.Rubbed, strata.RubClean} { // what takes off again
		l := k.Fresh()
		l.ID, l.Zones = "rub", []string{"hull", "turret"}
		list = slices.Insert(list, 10+9*i, l)
	}
	strata.Stacked(list)
	for _, l := range list {
		c := coatOf(l, on)
		coats, pigments = append(coats, c), append(pigments, c.Paint.Pigment())
	}
	state := look.Bare(g)
	for i, c := range coats {
		state.Lay(c)
		if i == 9 { // laid by and taken up again on the way
			state = state.Checkpoint().Resume(g)
		}
	}
	frame := state.Frame()
	random := rand.New(rand.NewPCG(7, 8))
	checked, worst := 0, 0.0
	for checked < 2000 {
		t0 := g.Texels[random.IntN(len(g.Texels))]
		k := random.IntN(len(t0.Area))
		if t0.Area[k] == 0 {
			continue
		}
		checked++
		at := t0.First + k
		slow := slowly{inner: colour.Spectrum(colour.Of("#9a9b9c"), colour.Satin).Internal, sheen: colour.Satin}
		for i, c := range coats {
			slow.lay(c, pigments[i], at)
		}
		worst = max(worst, colour.Difference(slow.seen(), state.Lab(at)))
		px := frame[4*at : 4*at+4]
		require.NotZero(t, px[3])
		for k, light := range state.Light(at) {
			assert.InDelta(t, 255*colour.Encode(min(max(light, 0), 1)), float64(px[k]), 0.75, "written in steps of sRGB")
		}
	}
	assert.Less(t, worst, 0.5, "of 2 000 texels under twenty layers")
}

// What lies on a texel is told in steps: half a step more or less is not seen.
func TestStepsOfAFilmAreNotSeen(t *testing.T) {
	on := site(tank(t), 4*texel)
	for _, l := range stack() {
		c := coatOf(l, on)
		if c.Clear || l.Kind == strata.Mud || c.Film == nil {
			continue
		}
		p := c.Paint.Pigment()
		ground := paint.Paint{
			Swatch: colour.Of("#66704f"),
			Sheen:  colour.Matt,
			Hiding: paint.Good,
			Solids: 0.3,
		}.Pigment().Infinite()
		for step := 0; step < strata.Steps; step++ {
			a := c.Full * (paint.Film(step)) / strata.Steps
			b := c.Full * (paint.Film(step) + 0.5) / strata.Steps
			d := colour.Difference(
				colour.Matt.Seen(p.Film(a, ground)).XYZ().Lab(),
				colour.Matt.Seen(p.Film(b, ground)).XYZ().Lab(),
			)
			if c.Full < 40 { // thick ones lie all or nothing
				assert.Less(t, d, 1.0, "%s at step %d", l.Kind, step)
			}
		}
	}
}

// Films cover what landings say: all of the zones, none beside them, more below than above
// for earth, more in recesses for washes, only edges for chips; left and right differ.
func TestLayersLandWhereTheyWould(t *testing.T) {
	on := site(tank(t), texel)
	g := on.Grid
	layers := map[strata.Kind]strata.Layer{}
	for _, l := range stack() {
		layers[l.Kind] = l
	}
	mean := func(d strata.Deposit, where func(t *form.Texels, k int) bool) float64 {
		sum, area := 0.0, 0.0
		for _, tx := range g.Texels {
			for k, a := range tx.Area {
				if a > 0 && where(tx, k) {
					sum += float64(a) * float64(d.Film[tx.First+k])
					area += float64(a)
				}
			}
		}
		require.Positive(t, area)
		return sum / area
	}
	hull := func(tx *form.Texels, _ int) bool { return tx.Zone == "hull.left" || tx.Zone == "lower.left" }
	dust := layers[strata.Dust].Deposit(on)
	low := mean(dust, func(tx *form.Texels, k int) bool { return hull(tx, k) && tx.Point(k)[2] < 700 })
	high := mean(dust, func(tx *form.Texels, k int) bool { return tx.Point(k)[2] > 1700 && tx.Normal[2] < 0.3 })
	assert.Greater(t, low, 3*high, "dust is thickest below")
	wash := layers[strata.Wash].Deposit(on)
	corner := mean(wash, func(tx *form.Texels, k int) bool { return tx.Hollow[k] < 15 })
	open := mean(wash, func(tx *form.Texels, k int) bool { return tx.Hollow[k] > 120 })
	assert.Greater(t, corner, 5*open, "a pin wash runs into recesses")
	chips := layers[strata.Chips].Deposit(on)
	rim := mean(chips, func(tx *form.Texels, k int) bool { return tx.Convex[k] < 25 })
	plain := mean(chips, func(tx *form.Texels, k int) bool { return tx.Convex[k] > 100 })
	assert.Greater(t, rim, 20*plain, "chips sit on edges")
	mud := layers[strata.Mud].Deposit(on)
	assert.Zero(
		t,
		mean(mud, func(tx *form.Texels, _ int) bool { return tx.Zone == "turret.roof" }),
		"nothing beside its zones",
	)
	within := func(tx *form.Texels, _ int) bool { return layers[strata.Mud].Covers(tx.Zone) }
	covered := mean(mud, within) / strata.Steps
	how, err := landing.Read("low(0;1000)*(recess(150)+behind)*noise(200;2)")
	require.NoError(t, err)
	landed, area := 0.0, 0.0
	for i, tx := range g.Texels {
		out := make([]float32, len(tx.Area))
		how.On(on, i, 0, out)
		for k, a := range tx.Area {
			if within(tx, k) {
				landed += float64(a) * float64(out[k])
				area += float64(a)
			}
		}
	}
	// Another chance moves the patches, hardly how much of them there is.
	assert.InDelta(t, 0.6*landed/area, covered, 0.01, "its share of its landing")
	bared := mean(layers[strata.ChippingWork].Deposit(on), func(*form.Texels, int) bool { return true })
	assert.InDelta(t, 0.15, bared/strata.Steps, 0.005, "a share of its zones")
	prime := layers[strata.Prime].Deposit(on)
	assert.InDelta(t, strata.Steps, mean(prime, func(*form.Texels, int) bool { return true }), 1e-9)
	left := mean(mud, func(tx *form.Texels, _ int) bool { return tx.Zone == "gear.left.road" })
	right := mean(mud, func(tx *form.Texels, _ int) bool { return tx.Zone == "gear.right.road" })
	assert.NotEqual(t, left, right)
}

// The mean of a film where it lands, weighted by where it lands, is the amount.
func TestFilmsHaveTheirAmount(t *testing.T) {
	on := site(tank(t), texel)
	g := on.Grid
	for kind, want := range map[strata.Kind]float64{strata.Wash: 5, strata.Dust: 3, strata.Filter: 0.7, strata.Dots: 2} {
		l := strata.Layer{ID: "x", Name: "x", Kind: kind, Family: "enamel_effect", Applied: strata.Brushed, Coats: 1}
		d := l.Deposit(on)
		sum, square := 0.0, 0.0
		for _, tx := range g.Texels {
			for k, a := range tx.Area {
				f := float64(d.Full) * float64(d.Film[tx.First+k]) / strata.Steps
				sum += float64(a) * f
				square += float64(a) * f * f
			}
		}
		assert.InEpsilon(t, want, square/sum, 0.02, string(kind))
	}
}

// Two pictures of one frame at different densities agree where both see the same face; a
// picture of a part is the same as that part of the whole.
func TestPicturesAtAnyDensity(t *testing.T) {
	panels := tank(t)
	on := site(panels, texel)
	g := on.Grid
	sights := form.Sights(panels, scale)
	state := look.Bare(g)
	l, err := scheme.Lay(
		scheme.Pattern{
			Colours: []scheme.Colour{{Name: "a", Hex: "#66704f"}, {Name: "b", Hex: "#4b4d4e", Share: 0.4}},
			Width:   700,
			Feather: 60,
			Seed:    3,
		},
		g,
	)
	require.NoError(t, err)
	layer := strata.Layer{
		ID:      "c",
		Name:    "c",
		Kind:    strata.Colour,
		Family:  "waterborne_acrylic",
		Applied: strata.Misted,
		Coats:   2,
	}
	for c, hex := range []string{"#66704f", "#4b4d4e"} {
		deposit := layer.SchemeDeposit(on, l.Cover[c])
		colourless := layer
		colourless.Hex = hex
		p, _ := colourless.Material()
		state.Lay(look.Coat{Deposit: deposit, Effect: layer.Effect(), Paint: p})
	}
	frame, side := state.Frame(), &sights[0]
	coarse := look.Paint(side, g, frame, look.Picture{Box: side.Whole(), Pixel: 1})
	fine := look.Paint(side, g, frame, look.Picture{Box: side.Whole(), Pixel: 0.25})
	part := look.Paint(side, g, frame, look.Picture{Box: form.Box{X: 40, Y: 10, Width: 30, Height: 20}, Pixel: 0.25})
	for y := range 80 {
		for x := range 120 {
			assert.Equal(t, fine.NRGBAAt(160+x, 40+y), part.NRGBAAt(x, y), "(%d, %d) of the part", x, y)
		}
	}
	off, seen := 0.0, 0
	for y := range coarse.Bounds().Dy() {
		for x := range coarse.Bounds().Dx() {
			c := coarse.NRGBAAt(x, y)
			var sum [3]float64
			whole := c.A == 255
			for j := range 4 {
				for i := range 4 {
					if (image.Point{4*x + i, 4*y + j}).In(fine.Bounds()) {
						f := fine.NRGBAAt(4*x+i, 4*y+j)
						whole = whole && f.A == 255
						sum[0], sum[1], sum[2] = sum[0]+float64(f.R)/16, sum[1]+float64(f.G)/16, sum[2]+float64(f.B)/16
					} else {
						whole = false
					}
				}
			}
			if whole {
				seen++
				off += colour.Difference(
					colour.RGB{c.R, c.G, c.B}.Lab(),
					colour.RGB{uint8(sum[0]), uint8(sum[1]), uint8(sum[2])}.Lab(),
				)
			}
		}
	}
	require.Greater(t, seen, 3000)
	assert.Less(t, off/float64(seen), 1.0, "mean difference of %d pixels", seen)
}

// The sheet shows each texel where the turning body looks for it.
func TestTheSheetHoldsEveryTexelInItsPlace(t *testing.T) {
	panels := tank(t)
	on := site(panels, 2*texel)
	g := on.Grid
	state := look.Bare(g)
	for _, l := range stack()[:2] {
		state.Lay(coatOf(l, on))
	}
	frame := state.Frame()
	sheet := look.NewSheet(g)
	img := sheet.Paint(g, frame)
	checked := 0
	for i, tx := range g.Texels {
		if tx.Zone != "hull.left" && tx.Zone != "turret.roof" {
			continue
		}
		for k, a := range tx.Area {
			if a == 0 {
				continue
			}
			p := tx.Point(k)
			u, v := sheet.At(g, i, panels[i].Flat(p))
			c := img.NRGBAAt(int(u*float64(sheet.Side)), int(v*float64(sheet.Side)))
			at := 4 * (tx.First + k)
			require.Equal(t, [3]uint8(frame[at:at+3]), [3]uint8{c.R, c.G, c.B})
			checked++
		}
	}
	assert.Greater(t, checked, 1000)
}

// Bars of the look: whole, one changed layer, a picture of a step; beside the time to read
// and write the same memory.
func BenchmarkLook(b *testing.B) {
	panels := tank(b)
	on := site(panels, texel)
	g := on.Grid
	layers := stack()
	var coats []look.Coat
	for _, l := range layers {
		coats = append(coats, coatOf(l, on))
	}
	b.Run("landings", func(b *testing.B) {
		for b.Loop() {
			for _, l := range layers {
				l.Deposit(on)
			}
		}
	})
	b.Run("whole", func(b *testing.B) {
		for b.Loop() {
			s := look.Bare(g)
			for _, c := range coats {
				s.Lay(c)
				s.Frame()
			}
		}
		b.ReportMetric(float64(g.Count), "texels")
	})
	b.Run("memory", func(b *testing.B) { // twenty times all bands of all texels, read and written
		all := make([]float32, g.Count*look.Bands)
		for b.Loop() {
			for range coats {
				for i := range all {
					all[i] = 0.5*all[i] + 0.1
				}
			}
		}
	})
	s := look.Bare(g)
	for _, c := range coats[:15] {
		s.Lay(c)
	}
	laid := s.Checkpoint()
	b.Run("changed", func(b *testing.B) { // one layer, with those above it up to the end
		for b.Loop() {
			s := laid.Resume(g)
			for i, c := range coats[15:] {
				if i == 0 {
					c.Deposit = layers[15].Deposit(on)
				}
				s.Lay(c)
			}
			s.Frame()
		}
	})
	sights := form.Sights(panels, scale)
	frame := s.Frame()
	for i := range sights {
		b.Run("picture/"+string(sights[i].Side), func(b *testing.B) {
			for b.Loop() {
				look.Paint(&sights[i], g, frame, look.Picture{Box: sights[i].Whole(), Pixel: 0.35, Lines: true})
			}
		})
	}
}
