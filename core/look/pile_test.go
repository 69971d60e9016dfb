package look_test

import (
	"math/rand/v2"
	"testing"

	"cinderpath/core/colour"
	"cinderpath/core/form"
	"cinderpath/core/landing"
	"cinderpath/core/look"
	"cinderpath/core/paint"
	"cinderpath/core/strata"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// pile heaps layers on a sample of a site, without knowing of each other.
func pile(s look.Sample, on *landing.Site, layers []strata.Layer) *look.Pile {
	var plies []look.Ply
	for _, l := range layers {
		c := coatOf(l, on)
		c.Deposit = s.Gathered(c.Deposit)
		plies = append(plies, look.Ply{Coat: c, Meant: l.Shows()})
	}
	return look.NewPile(s, plies)
}

// What the pile shows on its sample is what the quick look of all texels shows there.
func TestAPileShowsWhatTheLookShows(t *testing.T) {
	on := site(tank(t), 2*texel)
	s := look.NewSample(on.Grid, 300)
	p := pile(s, on, stack())
	state := look.Bare(on.Grid)
	for _, l := range stack() {
		state.Lay(coatOf(l, on))
	}
	worst := 0.0
	for place, at := range s.At {
		top := p.Top(place)
		worst = max(worst, colour.Difference(top.Through(top.Sheen()), state.Lab(int(at))))
	}
	assert.Less(t, worst, 0.5)
	assert.Greater(t, len(s.At), 5000)
}

// A sample stands for all of each zone, and a thinner one too.
func TestASampleStandsForAllOfItsZones(t *testing.T) {
	g := form.NewGrid(tank(t), 2*texel)
	whole := look.NewSample(g, 400)
	thin, places := whole.Thinned(50)
	require.Len(t, places, len(thin.At))
	for _, s := range []look.Sample{whole, thin} {
		for z, name := range s.Zones {
			area := 0.0
			for place := s.First[z]; place < s.First[z+1]; place++ {
				area += s.Area[place]
			}
			assert.InEpsilon(t, g.Area[name], area, 1e-6, name)
		}
	}
	for i, place := range places {
		assert.Equal(t, whole.At[place], thin.At[i])
	}
	assert.Equal(t, whole, look.NewSample(g, 400), "the same again")
}

// brute tells of a layer on a zone what handbook 5 defines, the slow plain way: with and without it
// and what lies in it, all through the skin at the end.
func brute(coats []look.Coat, gone map[int]bool, of int, s look.Sample, z int) (part, last float64, seen bool) {
	pigments := make([]paint.Pigment, len(coats))
	for i, c := range coats {
		pigments[i] = c.Paint.Pigment()
	}
	on := func(upto int, without map[int]bool, at int) slowly {
		x := slowly{inner: colour.Spectrum(colour.Of("#9a9b9c"), colour.Satin).Internal, sheen: colour.Satin}
		for i, c := range coats[:upto] {
			if !without[i] {
				x.lay(c, pigments[i], at)
			}
		}
		return x
	}
	weight := 0.0
	for place := s.First[z]; place < s.First[z+1]; place++ {
		at := int(s.At[place])
		if coats[of].Film == nil || coats[of].Film[at] == 0 {
			continue
		}
		end := on(len(coats), nil, at)
		through := func(x slowly) colour.Lab { x.sheen = end.sheen; return x.seen() }
		first := colour.Difference(through(on(of+1, nil, at)), through(on(of, nil, at)))
		if first < 0.5 {
			continue
		}
		d := colour.Difference(through(end), through(on(len(coats), gone, at)))
		weight += s.Area[place]
		part += s.Area[place] * min(1, d/first)
		last += s.Area[place] * d
	}
	if weight == 0 {
		return 0, 0, false
	}
	return part / weight, last / weight, true
}

// Survival is what its definition says, on random stacks.
func TestSurvivalAgainstItsDefinition(t *testing.T) {
	on := site(tank(t), 6*texel)
	all := stack()
	random := rand.New(rand.NewPCG(3, 14))
	s := look.NewSample(on.Grid, 12)
	laid := make([]look.Coat, len(all))
	for i, l := range all {
		laid[i] = coatOf(l, on)
	}
	checked := 0
	for n := range 100 {
		var layers []strata.Layer
		var coats []look.Coat
		var plies []look.Ply
		for _, i := range random.Perm(len(all))[:6] {
			c := laid[i]
			layers, coats = append(layers, all[i]), append(coats, c)
			c.Deposit = s.Gathered(c.Deposit)
			plies = append(plies, look.Ply{Coat: c, Meant: all[i].Shows()})
		}
		p := look.NewPile(s, plies)
		// What lies in it goes with it: some of those above say so.
		of := random.IntN(len(layers))
		gone := map[int]bool{of: true}
		if with := of + 1 + random.IntN(3); with < len(layers) {
			p.Plies[of].With = []int{with}
			gone[with] = true
		}
		zones, _ := p.Survival()
		for range 3 {
			z := random.IntN(len(s.Zones))
			part, last, seen := brute(coats, gone, of, s, z)
			got := zones[of][z]
			if !p.Plies[of].Meant {
				assert.False(t, got.Seen)
				continue
			}
			require.Equal(t, seen, got.Seen, "stack %d, %s on %s", n, layers[of].Kind, s.Zones[z])
			assert.InDelta(t, part, got.Part, 1e-6)
			assert.InDelta(t, last, got.Difference, 1e-6)
			if seen {
				checked++
			}
		}
	}
	assert.Greater(t, checked, 50)
}

// More mud above never lets more of what is below be seen; what nothing lies on is seen whole.
func TestMoreMudNeverShowsMore(t *testing.T) {
	on := site(tank(t), 4*texel)
	s := look.NewSample(on.Grid, 200)
	base := stack()[:2]
	wash := strata.Layer{
		ID:      "w",
		Name:    "wash",
		Kind:    strata.Wash,
		Family:  "enamel_effect",
		Applied: strata.Brushed,
		Coats:   1,
	}
	before := 1.1
	for _, share := range []float64{0, 0.2, 0.4, 0.6, 0.8, 1} {
		mud := strata.Layer{
			ID:      "m",
			Name:    "mud",
			Kind:    strata.Mud,
			Family:  "mud_paste",
			Applied: strata.Brushed,
			Coats:   1,
			DepthMM: 1,
			Amount:  &share,
		}
		_, whole := pile(s, on, append(append([]strata.Layer{}, base...), wash, mud)).Survival()
		require.True(t, whole[2].Seen)
		assert.LessOrEqual(t, whole[2].Part, before+1e-9, "mud %g", share)
		if share == 0 {
			assert.InDelta(t, 1, whole[2].Part, 1e-9)
		}
		before = whole[2].Part
	}
	assert.Less(t, before, 0.95)
}

// Told how much stronger, and made so, it ends as it was wanted.
func TestOvershootEndsAsItIsWanted(t *testing.T) {
	on := site(tank(t), 4*texel)
	s := look.NewSample(on.Grid, 100)
	dots := strata.Layer{
		ID: "d", Name: "dots", Kind: strata.Dots, Family: "oil_thin", Applied: strata.Brushed, Coats: 1, Hex: "#c8c0a8",
	}
	filter := strata.Layer{
		ID:      "f",
		Name:    "filter",
		Kind:    strata.Filter,
		Family:  "enamel_effect",
		Applied: strata.Brushed,
		Coats:   2,
	}
	p := pile(s, on, append(append([]strata.Layer{}, stack()[:2]...), dots, filter))
	_, whole := p.Survival()
	require.Less(t, whole[2].Part, 0.99)
	times, ok := p.Overshoot(2)
	require.True(t, ok)
	require.Greater(t, times, 1.01)
	p.Plies[2].Full *= paint.Film(times)
	stronger := look.NewPile(s, p.Plies)
	_, after := stronger.Survival()
	// The mean that it makes at the end is what the plain one made at first, over the places where that counts.
	assert.InEpsilon(t, whole[2].First, after[2].Difference, 0.05)
	assert.Equal(t, 3, p.Coverer(2, []int{0, 1, 2, 3, 4, 5}), "the filter takes it from sight")
}

// The survival of all layers of the tank, as one asks for it, beside reading and writing the colours once.
func BenchmarkSurvival(b *testing.B) {
	on := site(tank(b), texel)
	s := look.NewSample(on.Grid, 2000)
	p := pile(s, on, stack())
	for b.Loop() {
		p.Survival()
	}
	b.ReportMetric(float64(len(s.At)), "places")
}
