package path_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"testing"
	"time"

	"cinderpath/core/path"
	"cinderpath/core/unit"
	"cinderpath/proof"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// crowdedShop is a workshop of several builds with great waits, places, weather and
// airbrushes, whose hands have a few short sessions a week.
func crowdedShop(seed uint64) path.Request {
	rnd := rand.New(rand.NewPCG(seed, 2026))
	asOf := time.Date(2026, 12, 15, 14, 39, 0, 0, zone)
	r := path.Request{AsOf: asOf, Calendar: path.Calendar{Temperature: 20, Humidity: 0.5}}
	for range 3 + rnd.IntN(3) {
		from := 9 + rnd.IntN(10)
		w := path.Window{
			Day: rnd.IntN(7), From: fmt.Sprintf("%02d:%02d", from, 15*rnd.IntN(4)),
			To: fmt.Sprintf("%02d:%02d", from+2+rnd.IntN(2), rnd.IntN(60)),
		}
		if !slices.ContainsFunc(r.Calendar.Weekly, func(v path.Window) bool { return v.Day == w.Day }) {
			r.Calendar.Weekly = append(r.Calendar.Weekly, w)
		}
	}
	for day := range 30 {
		if rnd.IntN(2) == 0 {
			r.Calendar.Room = append(r.Calendar.Room, path.Air{
				Date:        asOf.AddDate(0, 0, day).Format(time.DateOnly),
				Temperature: 6 + 20*rnd.Float64(), Humidity: 0.3 + 0.45*rnd.Float64(),
			})
		}
	}
	if rnd.IntN(2) == 0 {
		least := 12.0
		r.Calendar.Places = []path.Place{{ID: path.Booth, Name: "booth", Least: &least}}
	}
	for i := range 2 {
		r.Airbrush = append(r.Airbrush, path.Airbrush{
			ID: fmt.Sprint("a", i), Name: fmt.Sprint("a", i), Nozzle: 0.2, Changes: rnd.IntN(4),
			Flush: float64(rnd.IntN(8)), Strip: 20, Paint: []string{"", "grey"}[rnd.IntN(2)],
		})
	}
	n, builds := 10+rnd.IntN(31), 2+rnd.IntN(3)
	waits := []unit.Minutes{0, 15, 40, 120, 360, 720, 1440, 2400, 4320}
	for b := range builds {
		o := path.Order{Build: fmt.Sprint("b", b), Priority: 1 + rnd.IntN(2)}
		for i := range (n + builds - 1 - b) / builds {
			t := path.Task{
				ID: fmt.Sprintf("t%d.%d", b, i), Title: fmt.Sprintf("t%d.%d", b, i),
				Minutes: unit.Minutes(10 + rnd.IntN(55)),
			}
			if rnd.IntN(3) == 0 {
				t.Airbrush, t.Spray = fmt.Sprint("a", rnd.IntN(2)), true
				t.Paint, t.Fine = []string{"grey", "green", "red"}[rnd.IntN(3)], rnd.IntN(4) == 0
				t.Place = []path.PlaceID{path.Bench, path.Booth}[rnd.IntN(2)]
			}
			for k := max(0, i-4); k < i; k++ {
				if rnd.IntN(3) > 0 {
					continue
				}
				t.After = append(t.After, path.Arrow{
					From: o.Tasks[k].ID, Wait: waits[rnd.IntN(len(waits))], Water: rnd.IntN(2) == 0,
				})
			}
			o.Tasks = append(o.Tasks, t)
		}
		r.Orders = append(r.Orders, o)
	}
	return r
}

// rival is a search of the test's own, which shares nothing with the scheduler: it walks from
// order to order of the tasks with ever less heat, and lays each order minute by minute on
// tables made by the checker's own rules.
type rival struct {
	r       path.Request
	tasks   []path.Task
	build   []int
	before  [][]int
	waits   [][]float64
	wet     [][]bool
	room    [][]int32    // by task: for each minute, until when the work may go on; where it may not, when it may again, below 0
	dry     [2][]float64 // drying that has gone by, solvent and water
	weight  []float64
	placed  int // tasks laid
	ends    []int
	perTask []int
}

const rivalDays = 150

func newRival(r path.Request) *rival {
	v := &rival{r: r}
	minutes := rivalDays * 1440
	for w := range v.dry {
		v.dry[w] = make([]float64, minutes+1)
		for k := 0; k < minutes; k++ {
			if k%60 > 0 && midnight(v.at(k)).Equal(midnight(v.at(k-1))) {
				v.dry[w][k+1] = 2*v.dry[w][k] - v.dry[w][k-1] // within a day it dries evenly
				continue
			}
			v.dry[w][k+1] = v.dry[w][k] + dried(r, v.at(k), v.at(k+1), w == 1)
		}
	}
	rooms := map[string][]int32{}
	for b, o := range r.Orders {
		first := len(v.tasks)
		for _, t := range o.Tasks {
			key := fmt.Sprint(t.Place, t.Spray)
			if rooms[key] == nil {
				may := make([]int32, minutes)
				may[minutes-1] = int32(-minutes)
				for k := minutes - 2; k >= 0; k-- {
					is, was := open(r, &t, path.Span{From: v.at(k), To: v.at(k + 1)}), may[k+1] > 0
					switch {
					case is == was:
						may[k] = may[k+1]
					case is:
						may[k] = int32(k + 1)
					default:
						may[k] = int32(-k - 1)
					}
				}
				rooms[key] = may
			}
			var before []int
			var waits []float64
			var wet []bool
			for _, a := range t.After {
				before = append(before, first+indexOf(o.Tasks, a.From))
				waits, wet = append(waits, float64(a.Wait)), append(wet, a.Water)
			}
			v.tasks, v.build, v.room = append(v.tasks, t), append(v.build, b), append(v.room, rooms[key])
			v.before, v.waits, v.wet = append(v.before, before), append(v.waits, waits), append(v.wet, wet)
		}
	}
	// A minute of a build counts half of one of a build that goes before it.
	for _, o := range r.Orders {
		rank := 0
		seen := map[int]bool{}
		for _, other := range r.Orders {
			if other.Priority < o.Priority && !seen[other.Priority] {
				seen[other.Priority] = true
				rank++
			}
		}
		v.weight = append(v.weight, math.Pow(0.5, float64(rank)))
	}
	v.perTask, v.ends = make([]int, len(v.tasks)), make([]int, len(r.Orders))
	return v
}

func indexOf(tasks []path.Task, id string) int {
	return slices.IndexFunc(tasks, func(t path.Task) bool { return t.ID == id })
}

func (v *rival) at(minute int) time.Time { return v.r.AsOf.Add(time.Duration(minute) * time.Minute) }

// lay gives the weighted end of the tasks in an order.
func (v *rival) lay(seq []int) float64 {
	type state struct {
		paint   string
		changes int
	}
	brushes := map[string]state{}
	for _, b := range v.r.Airbrush {
		brushes[b.ID] = state{b.Paint, b.Changes}
	}
	hands := 0
	clear(v.ends)
	for _, id := range seq {
		v.placed++
		t := &v.tasks[id]
		ready := 0
		for k, b := range v.before[id] {
			ready = max(ready, v.dryAt(v.perTask[b], v.waits[id][k], v.wet[id][k]))
		}
		set := 0
		if t.Airbrush != "" && t.Paint != "" {
			s := brushes[t.Airbrush]
			limit := 3
			if t.Fine {
				limit = 2
			}
			brush := v.r.Airbrush[slices.IndexFunc(v.r.Airbrush, func(b path.Airbrush) bool { return b.ID == t.Airbrush })]
			switch {
			case s.changes >= limit:
				set, s.changes = int(orElse(brush.Strip, 15)), 0
			case s.paint != "" && s.paint != t.Paint:
				set = int(orElse(brush.Flush, 4))
				s.changes++
			}
			s.paint = t.Paint
			brushes[t.Airbrush] = s
		}
		need := int(math.Ceil(float64(t.Minutes)))
		// The airbrush may be made ready while the paint below still dries.
		from := max(hands, ready-set, 0)
		for from < len(v.room[id]) && int(v.room[id][from])-from < set+need {
			from = max(int(v.room[id][from]), -int(v.room[id][from]))
		}
		if from >= len(v.room[id]) {
			return math.Inf(1)
		}
		hands = from + set + need
		v.perTask[id] = hands
		v.ends[v.build[id]] = max(v.ends[v.build[id]], hands)
	}
	sum := 0.0
	for b, e := range v.ends {
		sum += v.weight[b] * float64(e)
	}
	return sum
}

// dryAt is the first minute by which so much has dried since another.
func (v *rival) dryAt(from int, wait float64, wet bool) int {
	w := 0
	if wet {
		w = 1
	}
	d := v.dry[w]
	low, high := from, len(d)-1
	for low < high {
		if mid := (low + high) / 2; d[mid]-d[from] >= wait-1e-6 {
			high = mid
		} else {
			low = mid + 1
		}
	}
	return low
}

// anneal walks until so many tasks are laid and gives the best weighted end.
func (v *rival) anneal(seed uint64, budget int) float64 {
	rnd := rand.New(rand.NewPCG(seed, 99))
	n := len(v.tasks)
	best := math.Inf(1)
	for try := range 4 {
		seq := make([]int, n)
		for i := range seq {
			seq[i] = i
		}
		if try > 0 {
			rnd.Shuffle(n, func(i, k int) { seq[i], seq[k] = seq[k], seq[i] })
			seq = v.sorted(seq)
		}
		now := v.lay(seq)
		best = min(best, now)
		begun := v.placed
		for v.placed-begun < budget/4 {
			heat := 0.03 * best * math.Pow(0.001, float64(v.placed-begun)/float64(budget/4))
			i, k := rnd.IntN(n), rnd.IntN(n)
			next := slices.Clone(seq)
			id := next[i]
			next = slices.Insert(slices.Delete(next, i, i+1), k, id)
			if !v.follows(next) {
				v.placed++
				continue
			}
			e := v.lay(next)
			if e <= now || rnd.Float64() < math.Exp((now-e)/heat) {
				seq, now = next, e
				best = min(best, e)
			}
		}
	}
	return best
}

// sorted brings a wish into an order that the arrows allow.
func (v *rival) sorted(wish []int) (out []int) {
	done := make([]bool, len(wish))
	for len(out) < len(wish) {
		for _, id := range wish {
			if !done[id] && !slices.ContainsFunc(v.before[id], func(b int) bool { return !done[b] }) {
				done[id] = true
				out = append(out, id)
				break
			}
		}
	}
	return out
}

func (v *rival) follows(seq []int) bool {
	at := make([]int, len(seq))
	for i, id := range seq {
		at[id] = i
	}
	for id, before := range v.before {
		for _, b := range before {
			if at[b] > at[id] {
				return false
			}
		}
	}
	return true
}

// told is the weighted end of a plan, from its times alone.
func (v *rival) told(s path.Schedule) float64 {
	sum := 0.0
	for b, o := range v.r.Orders {
		sum += v.weight[b] * math.Ceil(s.Ends[o.Build].Sub(v.r.AsOf).Minutes())
	}
	return sum
}

// Hardly a plan of ten to forty tasks is beaten by more than a hundredth by the test's own search with ten times
// the work of a plan at a glance, in a proof a hundred times, which sets out from four orders; half of them not at
// all. And nobody beats what is said that no plan can beat.
func TestNoRivalPlansBetter(t *testing.T) {
	t.Parallel()
	n, times := proof.Rounds(6, 12), proof.Rounds(10, 100)
	var worse []float64
	gaps, lost := 0.0, 0
	for i := range n {
		r := crowdedShop(uint64(i))
		r.Nodes = path.QuickNodes
		s, err := path.Lay(r)
		require.NoError(t, err)
		require.Empty(t, s.Conflicts)
		require.Empty(t, violations(r, s), "workshop %d", i)
		v := newRival(r)
		best := v.anneal(uint64(i), times*path.QuickNodes)
		beaten := v.told(s)/best - 1
		worse = append(worse, beaten)
		if beaten > 0.01 {
			t.Logf("workshop %d of %d tasks: %.0f, %.0f is possible", i, len(v.tasks), v.told(s), best)
			lost++
		}
		assert.LessOrEqual(t, beaten, 0.03, "workshop %d", i)
		// What is said that no plan can beat, nobody beats.
		early := 0.0
		for _, w := range v.weight {
			early += w * r.AsOf.Sub(r.Since()).Minutes()
		}
		least := (v.told(s)+early)/(1+s.Gap) - early
		assert.LessOrEqual(t, least, best+1, "workshop %d: the bound is beaten", i)
		gaps += 100 * s.Gap / float64(n)
		if s.Proven {
			assert.LessOrEqual(t, beaten, 1e-9, "workshop %d is said to be proven", i)
		}
	}
	slices.Sort(worse)
	t.Logf("%d workshops: beaten by %.2f %% (median), %.2f %% (worst); %.1f %% above the bound on average",
		n, 100*worse[n/2], 100*worse[n-1], gaps)
	assert.LessOrEqual(t, worse[n/2], 0.0)
	assert.LessOrEqual(t, lost, n/12, "that many may be beaten by more than a hundredth")
}
