package build

import (
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"maps"
	"math"
	"slices"
	"sync"
	"time"

	"golang.org/x/sync/singleflight"

	"cinderpath/core/bench"
	"cinderpath/core/form"
	"cinderpath/core/gear"
	"cinderpath/core/length"
	"cinderpath/core/measure"
	"cinderpath/core/path"
	"cinderpath/core/scheme"
	"cinderpath/core/strata"
)

// texel is the side of the surface grid's squares on the model, outline the spacing at
// which the edges of colours are sampled, mm.
const (
	texel   length.Model = 0.5
	outline length.Model = 4
)

// Deriver computes plans and remembers the stages it computed, by the hash of
// their inputs. The zero value is ready; it may be used from several goroutines.
type Deriver struct {
	mu     sync.Mutex
	kept   map[[32]byte]any
	flight singleflight.Group
}

// mostTexels bounds the grid, so that a large vehicle at a large scale is sampled
// more coarsely instead of taking minutes.
const (
	mostTexels = 600_000
	mostNodes  = 40_000
)

// mostKept bounds what a Deriver remembers; beyond it, it forgets everything,
// which costs one derivation.
const mostKept = 400

// stage runs f, or gives what it gave for the same inputs before. Who asks while another
// is computing the same waits for that one's answer.
func stage[T any](d *Deriver, name string, inputs any, f func() (T, error)) (T, error) {
	var none T
	data, err := json.Marshal(inputs)
	if err != nil {
		return none, fmt.Errorf("stage %s: %w", name, err)
	}
	key := sha256.Sum256(append([]byte(name+"\x00"), data...))
	out, err, _ := d.flight.Do(string(key[:]), func() (any, error) {
		d.mu.Lock()
		got, ok := d.kept[key]
		d.mu.Unlock()
		if ok {
			return got, nil
		}
		out, err := f()
		if err != nil {
			return nil, err
		}
		d.mu.Lock()
		defer d.mu.Unlock()
		if d.kept == nil || len(d.kept) > mostKept {
			d.kept = map[[32]byte]any{}
		}
		d.kept[key] = out
		return out, nil
	})
	if err != nil {
		return none, err
	}
	return out.(T), nil
}

// Item is a build with its log.
type Item struct {
	Build Build   `json:"build"`
	Log   []Entry `json:"log"`
}

// Plans derives the plans of all builds of a workshop as of an instant, given in
// whole minutes and in the workshop's zone. The plans come in the order of items.
func (d *Deriver) Plans(w Workshop, items []Item, asOf time.Time) ([]Plan, error) {
	all, err := d.All(w, items, asOf)
	return all.Plans, err
}

// All is what follows from a workshop with all its builds.
type All struct {
	Plans    []Plan
	Evenings Evenings
}

// All derives the plans and the evenings that they share.
func (d *Deriver) All(w Workshop, items []Item, asOf time.Time) (All, error) {
	asOf = asOf.Truncate(time.Minute)
	if err := w.Check(); err != nil {
		return All{}, err
	}
	out := All{Plans: make([]Plan, len(items))}
	orders := make([]path.Order, len(items))
	whys := make([]map[string][]string, len(items))
	log := path.Log{}
	own := learned(items)
	for i, item := range items {
		plan, tasks, why, err := d.one(w, item, own, asOf)
		if err != nil {
			return All{}, err
		}
		out.Plans[i], whys[i] = plan, why
		orders[i] = path.Order{Build: item.Build.ID, Priority: item.Build.Priority, Tasks: tasks}
		log[item.Build.ID] = happened(item.Log)
	}
	request := path.Request{Orders: orders, Calendar: w.Calendar, Airbrush: path.Loaded(w.Airbrushes, orders, log), Log: log, AsOf: asOf, Nodes: path.QuickNodes}
	schedule, err := stage(d, "schedule", []any{request, asOf.Location().String()}, func() (path.Schedule, error) { return path.Lay(request) })
	if err != nil {
		return All{}, fault("order", err)
	}
	told := lessons(items)
	for i := range out.Plans {
		p := &out.Plans[i]
		p.Steps = steps(items[i], w, orders[i].Tasks, schedule.Placed[p.Build], whys[i], told)
		p.Ends, p.Bound = schedule.Ends[p.Build], schedule.Bound[p.Build]
		for _, c := range schedule.Conflicts {
			if slices.ContainsFunc(c.Reasons, func(r path.Reason) bool { return r.Build == p.Build || r.Build == "" }) {
				p.Conflicts = append(p.Conflicts, c.Words())
			}
		}
		p.stand(asOf)
		p.Timers = timers(*p, asOf)
	}
	out.Evenings = evenings(request.Airbrush, out.Plans, schedule, asOf)
	return out, nil
}

// Check derives what can be wrong about one build, without laying it on the calendar.
func (d *Deriver) Check(w Workshop, b Build, asOf time.Time) error {
	_, _, _, err := d.one(w, Item{Build: b}, nil, asOf)
	return err
}

// Tasks gives a build's steps in working order, without their times.
func (d *Deriver) Tasks(w Workshop, item Item, asOf time.Time) ([]path.Task, error) {
	_, tasks, _, err := d.one(w, item, nil, asOf)
	return tasks, err
}

// Begin begins a build whose stack has no finding: no deeper mud than there is room for.
func Begin(s Start, newID func() string) (Build, error) {
	b, err := New(s, newID)
	if err != nil {
		return b, err
	}
	if _, lies, err := running(b); err == nil {
		for _, f := range roomForMud(b, gearLine(b, lies, measure.Shelf{})) {
			if b.Layers, err = strata.Apply(b.Layers, f.Mends[0].Edits, newID); err != nil {
				return Build{}, err
			}
		}
	}
	return b, b.Check()
}

// Apply makes edits on a build of the workshop, against what follows from it as it stands.
func (d *Deriver) Apply(w Workshop, item Item, edits []Edit, newID func() string, asOf time.Time) (Build, error) {
	return Apply(item.Build, edits, newID, Standing{
		Findings: func(b Build) ([]strata.Finding, error) {
			p, _, _, err := d.one(w, Item{Build: b, Log: item.Log}, nil, asOf)
			return p.Findings, err
		},
		Reordered: func(b Build, e OrderEdit) (Rework, error) {
			tasks, err := d.Tasks(w, Item{Build: b, Log: item.Log}, asOf)
			if err != nil {
				return b.Order, err
			}
			return reorder(b.Order, e, tasks, newID)
		}})
}

// one derives all of a build that does not need the other builds.
func (d *Deriver) one(w Workshop, item Item, own map[string]bench.Learned, asOf time.Time) (Plan, []path.Task, map[string][]string, error) {
	b := item.Build
	none := func(err error) (Plan, []path.Task, map[string][]string, error) { return Plan{}, nil, nil, err }
	look, err := d.look(b, w.Stock)
	if err != nil {
		return none(err)
	}
	body, err := d.surface(b)
	if err != nil {
		return none(err)
	}
	sizes, err := d.sizes(b, body)
	if err != nil {
		return none(err)
	}
	report, err := stage(d, "kit", []any{b.Sizes, b.Dimensions, b.Fit, b.Scale}, func() (*measure.KitReport, error) {
		return kitCheck(b), nil
	})
	if err != nil {
		return none(err)
	}
	cables, err := d.cables(b, w.Stock, body)
	if err != nil {
		return none(err)
	}
	findings, waits := strata.Check(b.Layers, look.zones, GapOf(b, w, item.Log))
	tasks, why := order(b, look.asked(), waits, w, own, asOf.Location())
	if b.school(schoolStrict) == looseOrder {
		tasks = softened(tasks)
	}
	tasks = reworked(b.Order, tasks, why, paced(look.asked(), own))
	tasks = sorted(mendings(b, tasks, item.Log, why))
	return Plan{Build: b.ID, Name: b.Name, Scale: b.Scale.String(), AsOf: asOf,
		Sizes: sizes, Gear: look.gear, Views: look.views, Sheet: look.sheet, Zones: look.list, Colours: look.colours, Findings: append(findings, roomForMud(b, look.gear)...),
		Kit: report, Cables: cables, Sheets: sheetNames(b), Advice: Advice(b, look.zones), Poses: b.Kit.Poses(), Jobs: b.Kit.Jobs(), Conflicts: []string{}, Timers: []Timer{}}, tasks, why, nil
}

// look is what a build looks like: everything that does not depend on time.
type look struct {
	zones   []string
	area    map[string]float64 // model cm² by zone
	gear    *GearLine
	views   []form.View
	sheet   Sheet
	list    []ZoneLine
	colours []ColourLine
	track   track
	laid    *scheme.Layout
	panels  []*form.Panel // those the scheme is laid on
}

// asked is what an order asks of it.
func (l look) asked() Surface {
	s := Surface{Zones: l.zones, Area: l.area, Links: l.track.loop.Links}
	for _, c := range l.colours {
		s.Shares = append(s.Shares, c.Share)
	}
	return s
}

type surface struct {
	key    string // stands for the inputs of this stage in those that build on it
	panels []*form.Panel
	track  track
}

func (d *Deriver) look(b Build, shelf measure.Shelf) (look, error) {
	body, err := d.surface(b)
	if err != nil {
		return look{}, err
	}
	grid, err := stage(d, "grid", []any{body.key, b.Scale}, func() (*form.Grid, error) {
		return form.NewGrid(body.panels, body.step(b.Scale, texel, mostTexels)), nil
	})
	if err != nil {
		return look{}, err
	}
	drawing, err := stage(d, "drawing", []any{body.key, b.Scale}, func() ([]form.View, error) {
		return form.Views(body.panels, b.Scale), nil
	})
	if err != nil {
		return look{}, err
	}
	gear, err := stage(d, "gear", []any{body.key, b.Scale, b.Link, b.Body.Fenders, b.Body.Skirts, shelf, mudDepth(b)}, func() (*GearLine, error) {
		return gearLine(b, body.track, shelf), nil
	})
	if err != nil {
		return look{}, err
	}
	out, err := stage(d, "look", []any{body.key, b.Sizes.typed(), b.Scale, b.Scheme}, func() (look, error) {
		lattices := form.Lattices(body.panels, body.step(b.Scale, outline, mostNodes))
		laid, err := scheme.Lay(b.Scheme, grid, lattices)
		if err != nil {
			return look{}, fault("scheme", err)
		}
		out := look{zones: slices.Sorted(maps.Keys(grid.Area)), area: map[string]float64{}, track: body.track, laid: laid, panels: body.panels}
		for z, area := range grid.Area {
			out.area[z] = area / float64(b.Scale*b.Scale) / 100
		}
		out.views = form.Paint(drawing, laid.Painted)
		addDimensions(out.views, b, body.panels)
		out.sheet.Width, out.sheet.Height = form.SheetSize(out.views)
		out.list = zoneLines(b, grid, laid)
		out.colours = colourLines(b, laid, out.area)
		return out, nil
	})
	out.gear = gear
	return out, err
}

// step is a spacing on the model in real mm, wider where there would be too many places.
func (s surface) step(scale length.Scale, fine length.Model, most float64) float64 {
	area := 0.0
	for _, p := range s.panels {
		area += p.Area()
	}
	return math.Max(float64(scale.ToReal(fine)), math.Sqrt(area/most))
}

// sizes needs the body only to draw the dimensions on it.
func (d *Deriver) sizes(b Build, body surface) ([]SizeLine, error) {
	return stage(d, "sizes", []any{body.key, b.Sizes, b.Scale, b.Dimensions}, func() ([]SizeLine, error) {
		return sizeLines(b, body.panels), nil
	})
}

func (d *Deriver) cables(b Build, shelf measure.Shelf, body surface) ([]CableLine, error) {
	return stage(d, "cables", []any{body.key, b.Scale, b.Cables, shelf}, func() ([]CableLine, error) {
		return cableLines(b, shelf, body.panels), nil
	})
}

func (d *Deriver) surface(b Build) (surface, error) {
	inputs := []any{b.Body, b.Wheels, b.Link, b.Ground, b.Outline, b.Sizes.Width.MM}
	return stage(d, "body", inputs, func() (surface, error) {
		data, err := json.Marshal(inputs)
		if err != nil {
			return surface{}, err
		}
		sum := sha256.Sum256(data)
		run, lies, err := running(b)
		if err != nil {
			return surface{}, fault("gear", err)
		}
		panels, err := form.Panels(b.Body, run)
		return surface{hex.EncodeToString(sum[:]), panels, lies}, fault("body", err)
	})
}

// track is a track as it lies: the wheels where the ground puts them, the taut loop and
// its upper run with the slack of the least whole number of links.
type track struct {
	wheels []gear.Wheel
	swings []gear.Swing
	loop   gear.Loop
	run    gear.Run
	line   [][2]float64 // the closed pin line
}

// running stands the wheels on the ground and lays the track.
func running(b Build) (form.Running, track, error) {
	t := track{wheels: b.Wheels}
	if len(b.Ground) > 0 {
		t.wheels, t.swings = gear.Follow(b.Wheels, b.Link, b.Ground)
	}
	run := form.Running{Wheels: t.wheels, Face: b.face(), Width: b.Link.Width, Link: b.Link}
	if !b.Outline.HasTrack() {
		return run, t, nil
	}
	loop, lower, err := gear.OnGround(t.wheels, b.Link, b.Ground)
	if err != nil {
		return run, track{}, err
	}
	t.loop = loop
	if t.run, err = gear.Hang(t.wheels, b.Link, loop, loop.Slack); err != nil {
		return run, track{}, err
	}
	t.line = gear.Bed(t.run.Outline(loop, t.wheels, b.Link), lower)
	run.Pins = gear.Chain(t.line, loop.Links)
	return run, t, nil
}

// Panels gives the faces of a build's vehicle.
func Panels(b Build) ([]*form.Panel, error) {
	run, _, err := running(b)
	if err != nil {
		return nil, err
	}
	return form.Panels(b.Body, run)
}

// Meshes gives the closed parts of a build's vehicle, its wheels and tracks among them.
func Meshes(b Build) ([]form.Part, error) {
	run, _, err := running(b)
	if err != nil {
		return nil, fault("gear", err)
	}
	parts, err := form.Meshes(b.Body, run)
	return parts, fault("body", err)
}

// Zones lists the zones of a build; none when its body is impossible.
func Zones(b Build) []string {
	panels, err := Panels(b)
	if err != nil {
		return nil
	}
	seen := map[string]bool{}
	for _, p := range panels {
		seen[p.Zone] = true
	}
	return slices.Sorted(maps.Keys(seen))
}

// GapOf tells, from the log, how long layers really waited for each other, in minutes at
// table conditions: from the end of what was last done to the one to the beginning of what
// puts the other on. Masks and test pieces put nothing on; what was done once more, on a
// mended spot, is another matter.
func GapOf(b Build, w Workshop, log []Entry) strata.Gap {
	done := happened(log)
	ends, begins := map[string]time.Time{}, map[string]time.Time{}
	water := map[string]bool{}
	for _, l := range b.Layers {
		water[l.ID] = l.Water()
	}
	for _, e := range log {
		d, stands := done[e.Task]
		kind := bench.KindOf(e.StepKind)
		if !stands || e.Layer == "" || e.Again || d.Skipped {
			continue
		}
		if (kind.Lays || kind.Works) && d.Ended.After(ends[e.Layer]) {
			ends[e.Layer] = d.Ended
		}
		if begin, known := begins[e.Layer]; kind.Lays && (!known || d.Started.Before(begin)) {
			begins[e.Layer] = d.Started
		}
	}
	return func(from, to string) (float64, bool) {
		end, ended := ends[from]
		begin, begun := begins[to]
		if !ended || !begun || end.IsZero() {
			return 0, false
		}
		return begin.Sub(end).Minutes() * w.Calendar.Rate(water[from]), true
	}
}
