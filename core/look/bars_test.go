package look_test

import (
	"fmt"
	"regexp"
	"testing"

	"cinderpath/core/landing"
	"cinderpath/core/look"
	"cinderpath/core/strata"

	"github.com/stretchr/testify/assert"
)

var landingWord = regexp.MustCompile(`[a-z_]+`)

// everyLanding is a painted vehicle with as few layers as use every word of the techniques' landings, and as many
// more as make twenty at least.
func everyLanding() (list []strata.Layer, words map[string]bool) {
	list = stack()[:3]
	words = map[string]bool{}
	fresh := func(t strata.Technique) (n int) {
		seen := map[string]bool{}
		for _, w := range landingWord.FindAllString(t.Lands, -1) {
			if !words[w] && !seen[w] {
				seen[w] = true
				n++
			}
		}
		return n
	}
	for { // always the one with most words that are new
		best, most := strata.Technique{}, 0
		for _, t := range strata.Techniques() {
			if n := fresh(t); n > most {
				best, most = t, n
			}
		}
		if most == 0 {
			break
		}
		for _, w := range landingWord.FindAllString(best.Lands, -1) {
			words[w] = true
		}
		l := best.Kind.Fresh()
		l.Technique = best.ID
		list = append(list, l)
	}
	for i := range list {
		list[i].ID, list[i].Name = fmt.Sprintf("layer %d", i), string(list[i].Kind)
	}
	strata.Stacked(list)
	return list, words
}

// The bars are measured over a stack that leaves no way of landing out.
func TestTheBarsUseEveryLanding(t *testing.T) {
	list, words := everyLanding()
	assert.GreaterOrEqual(t, len(list), 20)
	for _, w := range []string{
		"sky", "behind", "crew", "throw", "fall", "pool", "near", "contact", "waterline", "border", "inside", "noise",
		"recess", "edge", "low", "up", "upright", "middle",
	} {
		assert.True(t, words[w], w)
	}
	on := site(tank(t), 3*texel)
	landed := 0
	for _, l := range list {
		if d := l.Deposit(on); d.Full > 0 || len(d.Marks) > 0 || d.Film != nil {
			landed++
		}
	}
	assert.GreaterOrEqual(
		t,
		landed,
		len(list)*5/6,
		"each leaves something, but for what wants a fitting that this vehicle has not",
	)
}

// Bars of look.md over a stack that uses every landing: all landings cold, the whole look, one layer anew.
func BenchmarkEveryLanding(b *testing.B) {
	panels := tank(b)
	list, _ := everyLanding()
	on := site(panels, texel)
	for _, n := range []int{20, len(list)} { // the bar is for twenty; those with most ways of landing come first
		b.Run(fmt.Sprintf("landings of %d layers cold", n), func(b *testing.B) {
			for b.Loop() {
				b.StopTimer()
				cold := site(panels, texel)
				b.StartTimer()
				for _, l := range list[:n] {
					l.Deposit(cold)
				}
			}
			b.ReportMetric(float64(on.Grid.Count), "texels")
		})
	}
	coats := laidOn(list, on)
	b.Run("whole", func(b *testing.B) {
		for b.Loop() {
			s := look.Bare(on.Grid)
			for _, c := range coats {
				s.Lay(c)
				s.Frame()
			}
		}
	})
	b.Run("memory", func(b *testing.B) { // all bands of all texels, read and written once for each layer
		all := make([]float32, on.Grid.Count*look.Bands)
		for b.Loop() {
			for range coats {
				for i := range all {
					all[i] = 0.5*all[i] + 0.1
				}
			}
		}
	})
	below := len(coats) * 3 / 4
	s := look.Bare(on.Grid)
	for _, c := range coats[:below] {
		s.Lay(c)
	}
	laid := s.Checkpoint()
	b.Run("changed", func(b *testing.B) { // one layer, with those above it
		for b.Loop() {
			s := laid.Resume(on.Grid)
			for i, c := range coats[below:] {
				if i == 0 {
					c.Deposit = list[below].Deposit(on)
				}
				s.Lay(c)
			}
			s.Frame()
		}
	})
}

func laidOn(list []strata.Layer, on *landing.Site) (coats []look.Coat) {
	for _, l := range list {
		coats = append(coats, coatOf(l, on))
	}
	return coats
}
