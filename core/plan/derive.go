package plan

import (
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"maps"
	"math"
	"slices"
	"time"

	"cinderpath/core/bench"
	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/length"
	"cinderpath/core/measure"
	"cinderpath/core/order"
	"cinderpath/core/path"
	"cinderpath/core/scheme"
	"cinderpath/core/strata"
	"cinderpath/core/vehicle"
)

// texel is the side of the surface grid's squares on the model, outline the spacing at
// which the edges of colours are sampled, mm.
const (
	texel   length.Model = 0.5
	outline length.Model = 4
)

// mostTexels bounds the grid, so that a large vehicle at a large scale is sampled
// more coarsely instead of taking minutes.
const (
	mostTexels = 600_000
	mostNodes  = 40_000
)

// Plans derives the plans of all builds of a workshop as of an instant, given in
// whole minutes and in the workshop's zone. The plans come in the order of items.
func (d *Deriver) Plans(w document.Workshop, items []document.Item, asOf time.Time) ([]Plan, error) {
	all, err := d.All(w, items, asOf)
	return all.Plans, err
}

// All is what follows from a workshop with all its builds.
type All struct {
	Plans    []Plan
	Evenings Evenings
}

// All derives the plans and the evenings that they share.
func (d *Deriver) All(w document.Workshop, items []document.Item, asOf time.Time) (All, error) {
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
		log[item.Build.ID] = document.Happened(item.Log)
	}
	request := path.Request{Orders: orders, Calendar: w.Calendar, Airbrush: path.Loaded(w.Airbrushes, orders, log), Log: log, AsOf: asOf, Nodes: path.QuickNodes}
	schedule, err := stage(d, "schedule", []any{request, asOf.Location().String()}, func() (path.Schedule, error) { return path.Lay(request) })
	if err != nil {
		return All{}, measure.At("order", err)
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
func (d *Deriver) Check(w document.Workshop, b document.Build, asOf time.Time) error {
	_, _, _, err := d.one(w, document.Item{Build: b}, nil, asOf)
	return err
}

// Tasks gives a build's steps in working order, without their times.
func (d *Deriver) Tasks(w document.Workshop, item document.Item, asOf time.Time) ([]path.Task, error) {
	_, tasks, _, err := d.one(w, item, nil, asOf)
	return tasks, err
}

// Begin begins a build whose stack has no finding: no deeper mud than there is room for.
func Begin(s document.Start, newID func() string) (document.Build, error) {
	b, err := document.New(s, newID)
	if err != nil {
		return b, err
	}
	if _, lies, err := vehicle.Stand(b); err == nil {
		for _, f := range vehicle.RoomForMud(b, vehicle.GearOf(b, lies, measure.Shelf{})) {
			if b.Layers, err = strata.Apply(b.Layers, f.Mends[0].Edits, newID); err != nil {
				return document.Build{}, err
			}
		}
	}
	return b, b.Check()
}

// Apply makes edits on a build of the workshop, against what follows from it as it stands.
func (d *Deriver) Apply(w document.Workshop, item document.Item, edits []document.Edit, newID func() string, asOf time.Time) (document.Build, error) {
	return document.Apply(item.Build, edits, newID, document.Standing{
		Findings: func(b document.Build) ([]strata.Finding, error) {
			p, _, _, err := d.one(w, document.Item{Build: b, Log: item.Log}, nil, asOf)
			return p.Findings, err
		},
		Reordered: func(b document.Build, e document.OrderEdit) (document.Rework, error) {
			tasks, err := d.Tasks(w, document.Item{Build: b, Log: item.Log}, asOf)
			if err != nil {
				return b.Order, err
			}
			return order.Change(b.Order, e, tasks, newID)
		}})
}

// one derives all of a build that does not need the other builds.
func (d *Deriver) one(w document.Workshop, item document.Item, own map[string]bench.Learned, asOf time.Time) (Plan, []path.Task, map[string][]string, error) {
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
		return document.KitCheck(b), nil
	})
	if err != nil {
		return none(err)
	}
	cables, err := d.cables(b, w.Stock, body)
	if err != nil {
		return none(err)
	}
	findings, waits := strata.Check(b.Layers, look.zones, order.Gap(b, w, item.Log))
	tasks, why := order.Generate(b, look.asked(), waits, w, own, asOf.Location())
	if b.School(document.SchoolStrict) == document.LooseOrder {
		tasks = order.Softened(tasks)
	}
	tasks = order.Reworked(b.Order, tasks, why, order.Paced(look.asked(), own))
	tasks = order.Sorted(order.Mended(b, tasks, item.Log, why))
	return Plan{Build: b.ID, Name: b.Name, Scale: b.Scale.String(), AsOf: asOf,
		Sizes: sizes, Gear: look.gear, Views: look.views, Sheet: look.sheet, Zones: look.list, Colours: look.colours, Findings: append(findings, vehicle.RoomForMud(b, look.gear)...),
		Kit: report, Cables: cables, Sheets: vehicle.SheetNames(b), Advice: order.Advice(b, look.zones), Poses: b.Kit.Poses(), Jobs: b.Kit.Jobs(), Conflicts: []string{}, Timers: []Timer{}}, tasks, why, nil
}

// look is what a build looks like: everything that does not depend on time.
type look struct {
	zones   []string
	area    map[string]float64 // model cm² by zone
	gear    *vehicle.GearLine
	views   []form.View
	sheet   Sheet
	list    []ZoneLine
	colours []ColourLine
	track   vehicle.Stance
	laid    *scheme.Layout
	panels  []*form.Panel // those the scheme is laid on
}

// asked is what an order asks of it.
func (l look) asked() order.Surface {
	s := order.Surface{Zones: l.zones, Area: l.area, Links: l.track.Loop.Links}
	for _, c := range l.colours {
		s.Shares = append(s.Shares, c.Share)
	}
	return s
}

type surface struct {
	key    string // stands for the inputs of this stage in those that build on it
	panels []*form.Panel
	track  vehicle.Stance
}

func (d *Deriver) look(b document.Build, shelf measure.Shelf) (look, error) {
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
	gear, err := stage(d, "gear", []any{body.key, b.Scale, b.Link, b.Body.Fenders, b.Body.Skirts, shelf, vehicle.MudDepth(b)}, func() (*vehicle.GearLine, error) {
		return vehicle.GearOf(b, body.track, shelf), nil
	})
	if err != nil {
		return look{}, err
	}
	out, err := stage(d, "look", []any{body.key, b.Sizes.Typed(), b.Scale, b.Scheme}, func() (look, error) {
		lattices := form.Lattices(body.panels, body.step(b.Scale, outline, mostNodes))
		laid, err := scheme.Lay(b.Scheme, grid, lattices)
		if err != nil {
			return look{}, measure.At("scheme", err)
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
func (d *Deriver) sizes(b document.Build, body surface) ([]SizeLine, error) {
	return stage(d, "sizes", []any{body.key, b.Sizes, b.Scale, b.Dimensions}, func() ([]SizeLine, error) {
		return sizeLines(b, body.panels), nil
	})
}

func (d *Deriver) cables(b document.Build, shelf measure.Shelf, body surface) ([]CableLine, error) {
	return stage(d, "cables", []any{body.key, b.Scale, b.Cables, shelf}, func() ([]CableLine, error) {
		return cableLines(b, shelf, body.panels), nil
	})
}

func (d *Deriver) surface(b document.Build) (surface, error) {
	inputs := []any{b.Body, b.Wheels, b.Link, b.Ground, b.Outline, b.Sizes.Width.MM}
	return stage(d, "body", inputs, func() (surface, error) {
		data, err := json.Marshal(inputs)
		if err != nil {
			return surface{}, err
		}
		sum := sha256.Sum256(data)
		run, lies, err := vehicle.Stand(b)
		if err != nil {
			return surface{}, measure.At("gear", err)
		}
		panels, err := form.Panels(b.Body, run)
		return surface{hex.EncodeToString(sum[:]), panels, lies}, measure.At("body", err)
	})
}
