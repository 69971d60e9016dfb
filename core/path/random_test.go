package path_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"sync/atomic"
	"testing"
	"time"

	"cinderpath/core/path"
	"cinderpath/core/unit"
	"cinderpath/proof"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

var zone = sync()

func sync() *time.Location {
	l, err := time.LoadLocation("Europe/Lisbon")
	if err != nil {
		panic(err)
	}
	return l
}

// hidden makes a workshop and lays tasks into it at random; arrows are then drawn so
// that this plan keeps them. A plan therefore exists.
func hidden(rnd *rand.Rand, most int) path.Request {
	asOf := time.Date(2026, time.Month(1+rnd.IntN(12)), 1+rnd.IntN(28), rnd.IntN(24), rnd.IntN(60), 0, 0, zone)
	r := path.Request{
		AsOf:     asOf,
		Calendar: path.Calendar{Temperature: 14 + float64(rnd.IntN(12)), Humidity: 0.3 + 0.3*rnd.Float64()},
	}
	for day := range 7 {
		if rnd.IntN(4) > 0 || day == 3 {
			from := 17 + rnd.IntN(4)
			r.Calendar.Weekly = append(
				r.Calendar.Weekly,
				path.Window{
					Day:  day,
					From: fmt.Sprintf("%02d:00", from),
					To:   fmt.Sprintf("%02d:%02d", from+1+rnd.IntN(3), 30*rnd.IntN(2)),
				},
			)
		}
	}
	for k := range 20 {
		date := asOf.AddDate(0, 0, k).Format("2006-01-02")
		r.Calendar.Room = append(
			r.Calendar.Room,
			path.Air{Date: date, Temperature: 8 + float64(rnd.IntN(20)), Humidity: 0.3 + 0.6*rnd.Float64()},
		)
		r.Calendar.Weather = append(
			r.Calendar.Weather,
			path.Air{Date: date, Temperature: float64(rnd.IntN(25)), Humidity: 0.3 + 0.6*rnd.Float64()},
		)
		if rnd.IntN(9) == 0 {
			e := path.Exception{Date: date}
			if rnd.IntN(2) == 0 {
				e.Windows = []path.Window{{From: "10:00", To: "13:00"}}
			}
			r.Calendar.Exceptions = append(r.Calendar.Exceptions, e)
		}
	}
	if rnd.IntN(2) == 0 {
		least := 9.0
		r.Calendar.Places = []path.Place{{ID: path.Booth, Name: "garage", Outside: rnd.IntN(2) == 0, Least: &least}}
	}
	r.Airbrush = []path.Airbrush{{ID: "fine", Nozzle: 0.2}, {ID: "wide", Nozzle: 0.4, Paint: "grey", Changes: rnd.IntN(4)}}
	evenings := r.Calendar.Evenings(asOf)
	n := 3 + rnd.IntN(most-2)
	type laid struct {
		task  int
		build int
		span  path.Span
	}
	builds := 1 + rnd.IntN(3)
	orders := make([]path.Order, builds)
	for b := range orders {
		orders[b] = path.Order{Build: fmt.Sprint("b", b), Priority: rnd.IntN(3)}
	}
	var done []laid
	at, now := 0, evenings[0].From
	for len(done) < n && at < len(evenings)-1 {
		t := path.Task{Minutes: unit.Minutes(5 * (1 + rnd.IntN(14)))}
		switch rnd.IntN(4) {
		case 0:
			t.Place, t.Spray = path.Booth, true
			t.Airbrush, t.Paint = []string{"fine", "wide"}[rnd.IntN(2)], []string{"grey", "green", "brown"}[rnd.IntN(3)]
			t.Fine = t.Airbrush == "fine"
			now = now.Add(15 * time.Minute) // room for a strip
		case 1:
			t.Place = []path.PlaceID{path.Bench, path.Booth, path.Outdoors}[rnd.IntN(3)]
		case 2:
			t.Split = true
		}
		span := path.Span{From: now, To: now.Add(time.Duration(t.Minutes) * time.Minute)}
		if t.Airbrush != "" {
			span.From = span.From.Add(-15 * time.Minute)
		}
		if span.To.After(evenings[at].To) || !open(r, &t, span) {
			at++
			now = evenings[at].From
			continue
		}
		if t.Airbrush != "" {
			span.From = now
		}
		b := rnd.IntN(builds)
		t.ID = fmt.Sprintf("t%d", len(done))
		t.Title = t.ID
		for _, d := range done {
			recent := len(done)-d.task*builds < 8
			if d.build != b || rnd.IntN(3) > 0 || (!recent && rnd.IntN(4) > 0) {
				continue
			}
			a := path.Arrow{From: orders[b].Tasks[d.task].ID, Water: rnd.IntN(2) == 0, Kind: "next coat", Reason: "of the test"}
			gap := dried(r, d.span.To, span.From, a.Water)
			a.Wait = unit.Minutes(gap * rnd.Float64())
			// Windows are those of things that set: hours, or up to three days.
			if within := span.To.Sub(d.span.To); rnd.IntN(3) == 0 && !t.Split && within < 72*time.Hour {
				a.Most = unit.Minutes(dried(r, d.span.To, span.To, a.Water) * (1 + 0.5*rnd.Float64()))
				a.Same = session(r, d.span.From) == session(r, span.From) && rnd.IntN(2) == 0
			} else if rnd.IntN(4) == 0 {
				a.Wait = unit.Minutes(gap) // no minute to spare
			}
			t.After = append(t.After, a)
		}
		orders[b].Tasks = append(orders[b].Tasks, t)
		done = append(done, laid{task: len(orders[b].Tasks) - 1, build: b, span: span})
		now = span.To.Add(time.Duration(5*rnd.IntN(8)) * time.Minute)
		if rnd.IntN(4) == 0 {
			at++
			now = evenings[at].From
		}
	}
	r.Orders = orders
	r.Nodes = 20_000
	return r
}

// every is how many instances are tried: a sixth of those that were tried once and for all where a
// proof is asked for, so that it ends within minutes.
func every(n int) int { return proof.Rounds(max(n/24, 5), n/6) }

// Whatever the workshop: plans are found where there is one, and none breaks anything.
func TestHiddenPlansAreFoundAndNothingIsBroken(t *testing.T) {
	t.Parallel()
	n := every(1500)
	var solved atomic.Int32
	t.Run("workshops", func(t *testing.T) {
		for part := range 4 {
			t.Run(fmt.Sprint(part), func(t *testing.T) {
				t.Parallel()
				for seed := part; seed < n; seed += 4 {
					r := hidden(rand.New(rand.NewPCG(uint64(seed), 7)), 40)
					s, err := path.Lay(r)
					require.NoError(t, err)
					for _, v := range violations(r, s) {
						t.Errorf("instance %d: %s", seed, v)
					}
					if len(s.Conflicts) == 0 {
						solved.Add(1)
					} else {
						t.Logf("instance %d: %s", seed, s.Conflicts[0].Words())
						assert.False(
							t,
							s.Conflicts[0].Proven,
							"instance %d has a plan, and the contradiction said to be proven cannot be",
							seed,
						)
					}
				}
			})
		}
	})
	t.Logf("%d of %d solved", solved.Load(), n)
	assert.GreaterOrEqual(t, float64(solved.Load()), 0.99*float64(n))
}

// contradiction plants one of five kinds in a workshop; it gives the arrows of it, as
// "from to", and the place whose hours belong to it.
func contradiction(rnd *rand.Rand, r *path.Request) (arrows []string, place path.PlaceID) {
	b := slices.IndexFunc(r.Orders, func(o path.Order) bool { return len(o.Tasks) > 0 })
	o := &r.Orders[b]
	o.Tasks = slices.Clone(o.Tasks)
	add := func(id string, minutes unit.Minutes, after ...path.Arrow) {
		for i := range after {
			after[i].Reason, after[i].Kind = "planted", "yours"
			arrows = append(arrows, after[i].From+" "+id)
		}
		o.Tasks = append(o.Tasks, path.Task{ID: id, Title: id, Minutes: minutes, After: after})
	}
	switch kind := rnd.IntN(5); kind {
	case 0: // a circle of two to four
		n := 2 + rnd.IntN(3)
		for i := range n {
			add(fmt.Sprint("p", i), 10, path.Arrow{From: fmt.Sprint("p", (i+n-1)%n), Wait: unit.Minutes(60 * rnd.IntN(3))})
		}
	case 1: // waits longer than the window about them
		add("p0", 10)
		wait := unit.Minutes(60 + rnd.IntN(600))
		add("p1", 10, path.Arrow{From: "p0", Wait: wait})
		add("p2", 10, path.Arrow{From: "p1", Wait: 60}, path.Arrow{From: "p0", Most: wait + unit.Minutes(rnd.IntN(60))})
	case 2: // too long for any evening
		add("p0", 600)
		place = path.Bench
	case 3: // a window that closes before the hands are back
		add("p0", 10)
		add("p1", 10, path.Arrow{From: "p0", Wait: 400, Same: true})
		place = path.Bench
	case 4: // each fits into the window, together they do not
		add("p0", 10)
		add("p1", 25, path.Arrow{From: "p0"})
		add("p2", 25, path.Arrow{From: "p0"})
		add(
			"p3",
			5,
			path.Arrow{From: "p1"},
			path.Arrow{From: "p2"},
			path.Arrow{From: "p0", Most: unit.Minutes(8 + rnd.Float64()*7)},
		)
		// In the coldest room of the tests 50 min of work are 8 dry minutes or more.
		r.Calendar.Room = nil
		r.Calendar.Temperature = 20
		o.Tasks[len(o.Tasks)-1].After[2].Most = unit.Minutes(40 + 14*rnd.Float64())
	}
	return arrows, place
}

// What contradicts itself is told: the planted reasons, nothing that could be left out,
// and the rest is planned.
func TestPlantedContradictionsAreTold(t *testing.T) {
	t.Parallel()
	n := every(500)
	for seed := range n {
		rnd := rand.New(rand.NewPCG(uint64(seed), 11))
		r := hidden(rnd, 14)
		for _, o := range r.Orders { // no window but those that are planted
			for i := range o.Tasks {
				for k := range o.Tasks[i].After {
					o.Tasks[i].After[k].Most, o.Tasks[i].After[k].Same = 0, false
				}
			}
		}
		arrows, place := contradiction(rnd, &r)
		r.Nodes = 20_000
		s, err := path.Lay(r)
		require.NoError(t, err)
		for _, v := range violations(r, s) {
			t.Errorf("instance %d: %s", seed, v)
		}
		if !assert.NotEmpty(t, s.Conflicts, "instance %d: %v at %s", seed, arrows, place) {
			continue
		}
		var told []string
		places := map[path.PlaceID]bool{}
		for _, reason := range s.Conflicts[0].Reasons {
			if reason.From != "" {
				told = append(told, reason.From+" "+reason.To)
			} else if reason.Place != "" {
				places[reason.Place] = true
			}
		}
		assert.True(t, s.Conflicts[0].Proven, "instance %d", seed)
		assert.ElementsMatch(t, arrows, told, "instance %d: %s", seed, s.Conflicts[0].Words())
		if place != "" {
			assert.True(t, places[place], "instance %d: the hours belong to it", seed)
		} else {
			assert.Empty(t, places, "instance %d: the hours do not", seed)
		}
		// None of the arrows can be left out.
		for _, a := range s.Conflicts[0].Reasons {
			if a.From == "" {
				continue
			}
			less := r
			less.Orders = slices.Clone(r.Orders)
			for b := range less.Orders {
				less.Orders[b].Tasks = slices.Clone(less.Orders[b].Tasks)
				for i := range less.Orders[b].Tasks {
					task := &less.Orders[b].Tasks[i]
					if less.Orders[b].Build == a.Build && task.ID == a.To {
						task.After = slices.DeleteFunc(slices.Clone(task.After), func(x path.Arrow) bool { return x.From == a.From })
					}
				}
			}
			again, err := path.Lay(less)
			require.NoError(t, err)
			assert.Empty(t, again.Conflicts, "instance %d without %s: a plan exists", seed, a.Words)
		}
	}
}
