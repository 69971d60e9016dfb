package gear_test

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"cinderpath/core/gear"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A loop of a whole number of links closes with them, however its length was summed.
func TestAnExactlyTautTrackCloses(t *testing.T) {
	for teeth := 8; teeth <= 24; teeth++ {
		for links := 4; links < 40; links++ {
			l := gear.Link{Pitch: 123.4, Surface: 25, Ground: 20, Width: 300}
			apart := float64(links) * l.Pitch
			wheels := []gear.Wheel{
				{Kind: gear.Sprocket, X: 0.1, Z: 600, Radius: 200, Teeth: teeth},
				{Kind: gear.Sprocket, X: 0.1 + apart, Z: 600, Radius: 200, Teeth: teeth},
			}
			loop, err := gear.Taut(wheels, l)
			require.NoError(t, err)
			require.Equal(t, 2*links+teeth, loop.Links, "%d teeth, %d links apart", teeth, links)
			require.InDelta(t, 0, loop.Slack, 1e-6)
			require.GreaterOrEqual(t, loop.Slack, 0.0)
			for _, c := range gear.Choices(wheels, l, loop) {
				require.False(t, c.Links == loop.Links && c.Slack < 0)
			}
		}
	}
}

// Without slack nothing hangs, and with more of it nothing hangs higher.
func TestSagGoesToNoughtWithSlack(t *testing.T) {
	told := []gear.Wheel{
		{Kind: gear.Sprocket, X: 0, Z: 900, Radius: 200, Teeth: 12},
		{Kind: gear.Return, X: 1300, Z: 1120, Radius: 80},
		{Kind: gear.Idler, X: 2663.105, Z: 900, Radius: 220},
	}
	cases := [][]gear.Wheel{told}
	for seed := range 40 {
		cases = append(cases, random(rand.New(rand.NewPCG(uint64(seed), 3))))
	}
	l := gear.Link{Pitch: 130, Surface: 22, Ground: 20, Width: 300}
	for i, wheels := range cases {
		t.Run(fmt.Sprint(i), func(t *testing.T) {
			loop, err := gear.Taut(wheels, l)
			require.NoError(t, err)
			hang := func(slack float64) gear.Run {
				run, err := gear.Hang(wheels, l, loop, slack)
				require.NoError(t, err)
				return run
			}
			last := hang(0)
			for _, s := range last.Spans {
				assert.Less(t, s.Sag, 0.05, "taut, mm real")
			}
			for _, slack := range []float64{1e-6, 1e-3, 0.1, 1, 3, 10, 30, 60} {
				run := hang(slack)
				for x := last.Spans[0].From[0]; x < last.Spans[len(last.Spans)-1].To[0]; x += 7 {
					before, ok := height(last, x)
					after, there := height(run, x)
					if ok && there {
						require.LessOrEqual(t, after, before+0.1, "over %.0f, with %g mm of slack", x, slack)
					}
				}
				last = run
			}
		})
	}
}

// height is that of the hanging chain over x, where it hangs free.
func height(r gear.Run, x float64) (float64, bool) {
	for _, s := range r.Spans {
		if x >= s.From[0] && x <= s.To[0] {
			return s.Height(x), true
		}
	}
	return 0, false
}
