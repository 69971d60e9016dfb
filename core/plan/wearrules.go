package plan

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"cinderpath/core/document"
	"cinderpath/core/look"
	"cinderpath/core/path"
	"cinderpath/core/rule"
	"cinderpath/core/strata"
	"cinderpath/core/unit"
	"cinderpath/core/zone"
)

// wearRuling holds what lies on a build's surface to the rules of wear and earth.
type wearRuling struct {
	build   document.Build
	shop    document.Workshop
	zones   []string
	pile    *look.Pile
	fates   []Fate
	spreads map[string]spread
	open    func(strata.Layer) bool // it is still to be laid
}

// wearFindings holds a build to W4, W6, W7, W10, W11, W13, W14, W16, W17, W20, M2 and M4.
func (d *Deriver) wearFindings(
	b document.Build,
	w document.Workshop,
	shape shaped,
	tasks []path.Task,
	open func(strata.Layer) bool,
) ([]strata.Finding, error) {
	steps := make([]Step, len(tasks))
	for i, t := range tasks {
		steps[i].Task = t
	}
	coats, keys, _, err := looks(b, shape.plan.Drawing, shape.laid, steps)
	if err != nil {
		return nil, err
	}
	asked := []string{}
	for _, l := range b.Layers {
		if open(l) {
			asked = append(asked, l.ID)
		}
	}
	// Of the shelf its colours decide, not how full the jars are: what others use changes nothing here.
	colours := [][4]string{}
	for _, j := range w.Paint.Jars {
		colours = append(colours, [4]string{j.ID, j.Family, j.Hex, j.Said()})
	}
	inputs := []any{
		keys[len(keys)-1],
		asked,
		b.Layers,
		b.Relief,
		colours,
		b.Kit.Worn(),
		b.Grounded(),
		b.School(document.SchoolHidden),
	}
	found, err := stage(d, "worn", inputs, func() (worn, error) {
		h, err := d.heapOf(b, coats, shape.from.spreads)
		if err != nil {
			return worn{}, err
		}
		fates, pile, err := h.fates(nil)
		if err != nil {
			return worn{}, err
		}
		r := wearRuling{b, w, shape.asked.Zones, pile, fates, shape.from.spreads, open}
		out := worn{r.findings(), map[string]float64{}}
		for _, f := range fates {
			out.wasted[f.Layer] = f.waste
		}
		return out, nil
	})
	return found.saving(minutesOf(steps)), err
}

// worn is what was found of wear and earth, and which part of each layer is wasted where it is.
type worn struct {
	findings []strata.Finding
	wasted   map[string]float64
}

// saving says of what is wasted how much time leaving it out saves.
func (x worn) saving(minutes map[string]unit.Minutes) []strata.Finding {
	out := slices.Clone(x.findings)
	for i := range out {
		f := &out[i]
		whole := minutes[fmt.Sprint(f.Layer, " ", 0)]
		saves := (whole * unit.Minutes(x.wasted[f.Layer])).Whole()
		if f.Rule != "W4" || saves < 1 {
			continue
		}
		f.Reason = fmt.Sprintf("%s: leaving it out there saves %.0f min.", strings.TrimSuffix(f.Reason, "."), float64(saves))
		f.Mends = slices.Clone(f.Mends)
		for k := range f.Mends {
			if f.Mends[k].ID == "leave" {
				f.Mends[k].Label += fmt.Sprintf(", saves %.0f min", float64(saves))
			}
		}
	}
	return out
}

func (r wearRuling) findings() []strata.Finding {
	out := []strata.Finding{}
	for _, l := range r.build.Layers {
		if !r.open(l) {
			continue
		}
		for _, holds := range []func(strata.Layer) (strata.Finding, bool){
			r.wasted, r.large, r.fine, r.nowhere, r.bright, r.upward, r.unseen, r.thin, r.hollow, r.fresh, r.mirrored,
		} {
			if f, found := holds(l); found && !l.MeansRule(f.Rule) {
				out = append(out, r.told(l, f))
			}
		}
	}
	for _, holds := range []func() (strata.Finding, strata.Layer, bool){r.tones, r.hidden} {
		if f, l, found := holds(); found && !l.MeansRule(f.Rule) {
			out = append(out, r.told(l, f))
		}
	}
	return out
}

// told completes a finding: its name, and the mends that harm nothing else.
func (r wearRuling) told(l strata.Layer, f strata.Finding) strata.Finding {
	f.ID, f.Layer = f.Rule+":"+l.ID, l.ID
	if f.Zones == nil {
		f.Zones = []string{}
	}
	stops := r.stops(r.build.Layers)
	f.Mends = slices.DeleteFunc(f.Mends, func(m strata.Mend) bool {
		n := 0
		after, err := strata.Apply(r.build.Layers, m.Edits, func() string { n++; return fmt.Sprintf("mend-%d", n) })
		return err != nil || r.stops(after) > stops
	})
	f.Mends = append(f.Mends, l.AsMeant(f.Rule, "Mark as meant"), strata.Mend{
		ID: "drop", Label: "Leave the " + strings.ToLower(l.Name) + " out", Edits: []strata.Edit{{Op: "drop", ID: l.ID}},
	})
	return f
}

// stops counts what must not be of a stack.
func (r wearRuling) stops(layers []strata.Layer) (n int) {
	found, _ := strata.Check(layers, r.zones, nil)
	for _, f := range found {
		if f.Severity == rule.Stop {
			n++
		}
	}
	return n
}

func change(id, label string, l strata.Layer) strata.Mend {
	return strata.Mend{ID: id, Label: label, Edits: []strata.Edit{{Op: "change", Layer: &l}}}
}

// wasted is W4: what is meant to be seen, and of which nothing is left at the end.
func (r wearRuling) wasted(l strata.Layer) (f strata.Finding, found bool) {
	i := slices.IndexFunc(r.fates, func(f Fate) bool { return f.Layer == l.ID })
	if i < 0 || l.Kind == strata.Colour || l.Kind == strata.Undertone ||
		len(r.fates[i].Drop) == 0 { // P2 speaks of shading
		return f, false
	}
	fate := r.fates[i]
	f = strata.Finding{
		Rule:     "W4",
		Severity: rule.Hint,
		Zones:    fate.Drop,
		Title: fmt.Sprintf(
			"Nothing will be seen of %s on %s",
			strings.ToLower(l.Name),
			zone.Said(zone.Gathered(fate.Drop, r.zones)),
		),
		Reason: fate.Words + ".",
	}
	if rest := l.Without(fate.Drop, r.zones); len(rest.Zones) > 0 {
		f.Mends = append(f.Mends, change("leave", "Leave it out there", rest))
	}
	if by := slices.IndexFunc(r.build.Layers, func(o strata.Layer) bool { return o.ID == fate.By }); by >= 0 {
		move := strata.Edit{Op: "move", ID: l.ID}
		if by+1 < len(r.build.Layers) {
			move.Before = r.build.Layers[by+1].ID
		}
		f.Mends = append(f.Mends, strata.Mend{
			ID: "later", Label: "Move it after " + strings.ToLower(r.build.Layers[by].Name), Edits: []strata.Edit{move},
		})
	}
	return f, true
}

// How large chips are at most, real mm (W6).
const (
	mostOnPlate = 60.0
	mostAtEdges = 150.0
)

// large is W6: chips larger than life.
func (r wearRuling) large(l strata.Layer) (f strata.Finding, found bool) {
	size, marked := l.Marked()
	lies := r.spreads[l.ID].largest
	plate, edge := lies.Plate > mostOnPlate, lies.Edge > mostAtEdges
	if l.Kind != strata.Chips || !marked || !plate && !edge {
		return f, false
	}
	wide, most, where := lies.Plate, mostOnPlate, lies.PlateZone
	if !plate {
		wide, most, where = lies.Edge, mostAtEdges, lies.EdgeZone
	}
	// A mark is up to 1.9 times as long as wide, and as large as a round one of the same area.
	high := math.Floor(most / math.Sqrt(1.9))
	f = strata.Finding{
		Rule: "W6", Severity: rule.Warn, Zones: []string{where},
		Title: fmt.Sprintf("A chip of %.0f mm on %s is larger than life", wide, zone.Words(where)),
		Reason: fmt.Sprintf("Chips on plate stay below %.0f mm of the real vehicle, on edges that rub below %.0f mm; "+
			"at %s that is %.1f mm on the model.", mostOnPlate, mostAtEdges, r.build.Scale, most/float64(r.build.Scale)),
	}
	smaller := l
	if edge && plate {
		high = math.Floor(mostOnPlate / math.Sqrt(1.9))
	}
	smaller.SizeMM = []float64{min(size[0], high/2), high}
	f.Mends = append(f.Mends, change("smaller", fmt.Sprintf("No mark wider than %.0f mm", high), smaller))
	return f, true
}

// leastMark mark that a hand can make, mm on the model (W7).
const leastMark = 0.1

// fine is W7: marks most of which no hand can make.
func (r wearRuling) fine(l strata.Layer) (f strata.Finding, found bool) {
	size, marked := l.Marked()
	typical := math.Sqrt(size[0]*size[1]) / float64(r.build.Scale)
	if !marked || typical >= leastMark {
		return f, false
	}
	f = strata.Finding{
		Rule:     "W7",
		Severity: rule.Warn,
		Title:    fmt.Sprintf("Most marks of %s are finer than a hand can make", strings.ToLower(l.Name)),
		Reason: fmt.Sprintf(
			"A typical one of %.0f mm is %.2f mm on the model at %s; below %.1f mm they are grouped into fewer, larger ones.",
			math.Sqrt(size[0]*size[1]),
			typical,
			r.build.Scale,
			leastMark,
		),
	}
	grouped := l
	low := math.Ceil(leastMark * float64(r.build.Scale))
	grouped.SizeMM = []float64{low, max(math.Ceil(size[1]), 2*low)}
	f.Mends = append(
		f.Mends,
		change("group", fmt.Sprintf("Group them: %.0f to %.0f mm real", low, grouped.SizeMM[1]), grouped),
	)
	return f, true
}

// nowhere is W13: streaks where nothing runs down, splashes where nothing is thrown.
func (r wearRuling) nowhere(l strata.Layer) (f strata.Finding, found bool) {
	how, worked := l.Worked()
	streak, splash := l.Lands("fall("), l.Lands("throw")
	lies, known := r.spreads[l.ID]
	if !worked || !known || how.Amount == 0 || lies.Area > 0 || !streak && !splash {
		return f, false
	}
	f = strata.Finding{
		Rule: "W13", Severity: rule.Warn,
		Title:  fmt.Sprintf("%s land nowhere", l.Name),
		Reason: "Streaks run down the fall line from what gives them a reason: none on flat tops.",
	}
	if splash {
		f.Reason = "Earth is thrown up and against the way it drives, from behind wheels and where a track rises: " +
			"nothing of it reaches there."
	}
	everywhere := l
	everywhere.Zones = nil
	if len(l.Zones) > 0 {
		f.Mends = append(f.Mends, change("everywhere", "Let them land wherever they would", everywhere))
	}
	return f, true
}

// bright is W17: bright metal where no metal rubs.
func (r wearRuling) bright(l strata.Layer) (f strata.Finding, found bool) {
	on := slices.DeleteFunc(slices.Clone(l.Zones), func(z string) bool { return !zone.IsRubber(z) })
	if l.Kind != strata.Metal || len(on) == 0 {
		return f, false
	}
	f = strata.Finding{
		Rule:     "W17",
		Severity: rule.Warn,
		Zones:    on,
		Title:    fmt.Sprintf("%s on rubber: %s", l.Name, zone.Said(on)),
		Reason: "Bright metal comes only where metal meets metal, hard ground or hands: not under rubber rims, " +
			"not on rubber pads.",
	}
	rest := l
	rest.Zones = slices.DeleteFunc(slices.Clone(l.Zones), zone.IsRubber)
	if len(rest.Zones) > 0 {
		f.Mends = append(f.Mends, change("leave", "Leave the rubber out", rest))
	}
	rest.Zones, rest.Technique = []string{"gear"}, "metal_steel"
	f.Mends = append(f.Mends, change("contact", "Where steel runs on steel and on hard ground", rest))
	return f, true
}

// plyOf is where a layer lies in the pile; -1 where nothing of it does.
func (r wearRuling) plyOf(l strata.Layer) int {
	i := slices.IndexFunc(r.fates, func(f Fate) bool { return f.Layer == l.ID })
	if i < 0 {
		return -1
	}
	return r.fates[i].ply
}
