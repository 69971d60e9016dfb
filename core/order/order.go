package order

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"cinderpath/core/base"
	"cinderpath/core/bench"
	"cinderpath/core/document"
	"cinderpath/core/path"
	"cinderpath/core/scheme"
	"cinderpath/core/strata"
	"cinderpath/core/unit"
	"cinderpath/core/zone"
)

// Waits of the joints while building, at 20 °C and 50 % humidity, families.csv.
const (
	cementTouch = unit.Minutes(30)
	cementCured = unit.Day
	puttyCoat   = 4 * unit.Hour // each layer of 1 mm
	bondTouch   = unit.Hour     // epoxy holds
)

// Surface is what an order needs to know of the vehicle.
type Surface struct {
	Zones  []string
	Area   map[string]float64      // on the model by zone, cm²
	Touch  map[string][]string     // zones that touch each
	Links  int                     // of the track, a side
	Dots   int                     // bolts and rivets on its plates
	Shares map[string][]unit.Share // of the scheme's colours by zone
	Holds  []scheme.Hold           // how the edges of its colours are held, part by part
	Ground *base.Laid              // what it stands on, where it has a base of its own
	Beside string                  // the build on whose base it stands, by its name

	// Work is, by layer and zone, what there is to work, as the layer's technique counts it: cm² or cm on the
	// model; none of layers of which their zones tell.
	Work map[string]map[string]float64
}

// orderer turns a build into tasks, every arrow pointing back.
type orderer struct {
	b       document.Build
	l       Surface
	w       document.Workshop
	waits   []strata.Wait
	learned map[string]bench.Learned
	done    map[string]path.Done // what was begun stays in the plan, whatever one would advise now
	zone    *time.Location
	tyres   string // the step that paints them
	links   string // the step that joins links which are painted before

	tasks   []path.Task
	index   map[string]int
	why     map[string][]string // by task: what its minutes follow from
	takes   map[string][]Taking // by task: what it takes of the shelf besides its layer
	hazards map[string][]string // by task: of bench.Cautions, from its parts
	told    map[string][]string // by task: corrections of the leaflet, contradictions settled
	joints  map[string][]string // by task: how what it fits is joined
	last    map[string]string   // by layer: its last task
}

// step is what a kind of step of the library is entered for.
type step struct {
	kind, subject string
	n             int     // tells those of one kind and subject apart; the first is 1, or 0
	title         string  // replaces the %s of the library's name; with no %s it is the name
	units         float64 // of the step's kind: cm² on the model, pieces, cm
	coats         int     // 0 for one
}

// add enters a step of the library and gives its id.
func (o *orderer) add(s step, after ...path.Arrow) string {
	k := bench.KindOf(s.kind)
	name := k.Name
	switch {
	case strings.Contains(name, "%s"):
		name = fmt.Sprintf(name, s.title)
	case s.title != "":
		name = s.title
	}
	minutes, inputs := k.Minutes(s.units, s.coats)
	minutes, more := o.learned[s.kind].Apply(minutes)
	id := fmt.Sprintf("%s:%s:%d", s.kind, s.subject, max(s.n, 1))
	t := path.Task{
		ID:      id,
		Title:   name,
		Stage:   k.Stage,
		Kind:    s.kind,
		Minutes: minutes,
		Split:   k.Split,
		Place:   path.PlaceID(k.Place),
		After:   after,
		Subject: path.Subject{Part: s.subject},
	}
	if t.Place == path.Booth && o.b.School(document.SchoolWholeKit) == document.ByBrush {
		t.Place, t.Title = path.Bench, strings.Replace(t.Title, "Spray ", "Paint ", 1)
	}
	o.why[id] = append(inputs, more...)
	o.index[id] = len(o.tasks)
	o.tasks = append(o.tasks, t)
	o.supply(id, k, s.units)
	return id
}

// paced is how long a step takes before what was learned.
func (o *orderer) paced(s step) (unit.Minutes, []string) {
	return bench.KindOf(s.kind).Minutes(s.units, s.coats)
}

func (o *orderer) task(id string) *path.Task { return &o.tasks[o.index[id]] }

// Made are the tasks of a build and, by task, what its minutes follow from, what it takes of the shelf
// besides its layer, and how what it fits is joined.
type Made struct {
	Tasks   []path.Task
	Why     map[string][]string
	Takes   map[string][]Taking
	Joints  map[string][]string
	Told    map[string][]string // corrections of the leaflet, contradictions settled
	Hazards map[string][]string // of bench.Cautions, besides those of its kind and its products
}

// Generate gives the tasks of a build.
func Generate(
	b document.Build,
	l Surface,
	waits []strata.Wait,
	w document.Workshop,
	learned map[string]bench.Learned,
	done map[string]path.Done,
	zone *time.Location,
) Made {
	o := &orderer{
		b:       b,
		l:       l,
		w:       w,
		waits:   waits,
		learned: learned,
		done:    done,
		zone:    zone,
		index:   map[string]int{},
		why:     map[string][]string{},
		takes:   map[string][]Taking{},
		hazards: map[string][]string{},
		told:    map[string][]string{},
		joints:  map[string][]string{},
		last:    map[string]string{},
	}
	built, received := o.building()
	o.painting(built)
	o.finishing(built, received)
	o.airbrushes()
	return Made{yielding(o.tasks), o.why, o.takes, o.joints, o.told, o.hazards}
}

// minutes sets the hands-on time of a step that has a count of its own.
func (o *orderer) minutes(id string, m unit.Minutes, inputs ...string) {
	t := o.task(id)
	m, more := o.learned[t.Kind].Apply(m)
	t.Minutes = m
	o.why[id] = append(inputs, more...)
}

// longer lets a step take so many times as long, and says why.
func (o *orderer) longer(id string, times float64, why string) {
	t := o.task(id)
	t.Minutes = (t.Minutes * unit.Minutes(times)).Whole()
	o.why[id] = append(o.why[id], why)
}

// listed names some things, and how many more there are.
func listed(names []string) string {
	if len(names) > 3 {
		return fmt.Sprintf("%s and %d more", strings.Join(names[:2], ", "), len(names)-2)
	}
	return strings.Join(names, ", ")
}

// layer finds the layer of a task.
func (o *orderer) layer(task string) strata.Layer {
	id := o.task(task).Layer
	return o.b.Layers[slices.IndexFunc(o.b.Layers, func(l strata.Layer) bool { return l.ID == id })]
}

func (o *orderer) rename(from, to string) {
	at := o.index[from]
	o.tasks[at].ID = to
	o.index[to], o.why[to], o.takes[to] = at, o.why[from], o.takes[from]
	delete(o.index, from)
	delete(o.why, from)
	delete(o.takes, from)
}

// firstOf is a layer's first task.
func (o *orderer) firstOf(layer string) string {
	i := slices.IndexFunc(o.tasks, func(t path.Task) bool { return t.Layer == layer && bench.KindOf(t.Kind).Lays })
	return o.tasks[i].ID
}

// LayerArea is the area that a layer covers on the model, cm².
func LayerArea(l Surface, layer strata.Layer) float64 {
	sum := 0.0
	for _, z := range l.Zones {
		if layer.Covers(z) && (!layer.IsScheme() || !zone.Bare(z)) {
			sum += l.Area[z]
		}
	}
	return sum
}

// worked is how much of a layer a zone asks for, as its pace counts.
func (l Surface) worked(layer strata.Layer, zone string) float64 {
	if by, told := l.Work[layer.ID]; told {
		return by[zone]
	}
	return l.Area[zone]
}

// workedAt is the kind of step that a layer is, at the pace of its technique. Where a technique counts
// pieces and its kind does not, no one counts them: of streaks below bolts, their faces tell.
func workedAt(l strata.Layer) bench.Kind {
	k := bench.KindOf(string(l.Kind))
	t, ok := l.Worked()
	switch {
	case !ok || t.Per == 0 || t.Air && l.Applied == strata.Brushed:
	case t.Unit != strata.Pieces || k.Unit == strata.Pieces:
		k.Per, k.Unit = t.Per, t.Unit
	}
	return k
}

// ColourArea is what of a scheme's layer one colour covers, cm²; the first lies under all.
func ColourArea(l Surface, layer strata.Layer, colour int) float64 {
	if colour == 0 {
		return LayerArea(l, layer)
	}
	sum := 0.0
	for _, z := range l.Zones {
		if shares := l.Shares[z]; layer.Covers(z) && colour < len(shares) {
			sum += shares[colour].Of(l.Area[z])
		}
	}
	return sum
}
