package build

import (
	"cinderpath/core/form"
	"fmt"
	"math"
	"slices"

	"cinderpath/core/path"
	"cinderpath/core/strata"
)

// The stages of the path, in order.
const (
	stageBuild  = "Build"
	stagePaint  = "Paint"
	stageMark   = "Markings"
	stageWear   = "Wear"
	stageEarth  = "Earth"
	stageFinish = "Finish"
)

// Stages lists the stages in order.
var Stages = []string{stageBuild, stagePaint, stageMark, stageWear, stageEarth, stageFinish}

var stageOf = map[strata.Kind]string{
	strata.Prime: stagePaint, strata.ChippingCoat: stagePaint, strata.Colour: stagePaint, strata.ChippingWork: stageWear,
	strata.Decals: stageMark, strata.Filter: stageWear, strata.Wash: stageWear, strata.Chips: stageWear,
	strata.Streaks: stageWear, strata.Rust: stageWear, strata.Dust: stageEarth, strata.Mud: stageEarth, strata.Pigment: stageEarth,
	strata.Fix: stageEarth, strata.Metal: stageFinish,
}

// pace is how long a kind of layer takes: minutes to set up and minutes per cm²
// and coat, starting values for one practised modeller, shown with every step.
var pace = map[strata.Kind]struct{ setUp, perCM float64 }{
	strata.Prime: {12, 0.03}, strata.ChippingCoat: {12, 0.03}, strata.Colour: {12, 0.025}, strata.ChippingWork: {10, 0.10},
	strata.Decals: {20, 0.12}, strata.Clear: {12, 0.02}, strata.Filter: {5, 0.03}, strata.Wash: {5, 0.10}, strata.Chips: {5, 0.12},
	strata.Streaks: {5, 0.08}, strata.Rust: {5, 0.08}, strata.Dust: {5, 0.08}, strata.Mud: {10, 0.12}, strata.Pigment: {5, 0.08},
	strata.Fix: {5, 0.02}, strata.Metal: {5, 0.05},
}

// Minutes of hands-on work while building, starting values.
const (
	cleanMinutes   = 40.0 // wash, clip and clean the parts
	minutesPerFace = 7.0  // assemble and fill, per flat face
	perWheel       = 5.0
	fitMinutes     = 45.0
	cementTouch    = 30.0 // handle time of liquid cement, families.csv
	cementCured    = 1440.0
)

// order turns a build into its tasks, every arrow pointing back.
func order(b Build, l look, waits []strata.Wait) []path.Task {
	var tasks []path.Task
	add := func(t path.Task) string {
		tasks = append(tasks, t)
		return t.ID
	}
	after := func(from string, wait float64, kind, rule, reason string) path.Arrow {
		return path.Arrow{From: from, Wait: wait, Kind: kind, Rule: rule, Reason: reason}
	}
	clean := add(path.Task{ID: "clean:parts:1", Title: "Clean the parts", Stage: stageBuild, Minutes: cleanMinutes, Split: true})
	faces := map[string]int{}
	for _, z := range l.zones {
		faces[form.PartOf(z)]++
	}
	var built []path.Arrow
	for _, part := range b.Body.Parts() {
		id := add(path.Task{ID: "assemble:" + part + ":1", Title: "Assemble the " + partName(part), Stage: stageBuild, Split: true,
			Minutes: minutesPerFace * float64(max(faces[part], 1)), Zones: []string{part},
			After: []path.Arrow{after(clean, 0, "order", "", "release agent is washed off before cement goes on")}})
		built = append(built, after(id, cementCured, "cured", "B7", "a cemented seam is sanded and primed only after 24 h"))
	}
	wheels := add(path.Task{ID: "assemble:wheels:1", Title: fmt.Sprintf("Assemble %d wheels", 2*len(b.Wheels)), Stage: stageBuild, Split: true,
		Minutes: perWheel * 2 * float64(len(b.Wheels)), Zones: []string{"gear"}, After: []path.Arrow{after(clean, 0, "order", "", "release agent is washed off before cement goes on")}})
	built = append(built, after(wheels, cementTouch, "handle", "P3", "cement must hold before the wheels are stuck on their paint rows"))
	if b.Outline.HasTrack() {
		links := 2 * l.track.loop.Links
		tracks := add(path.Task{ID: "assemble:tracks:1", Title: fmt.Sprintf("Assemble the tracks, %d links a side", l.track.loop.Links), Stage: stageBuild, Split: true,
			Minutes: math.Ceil(b.Link.Work() * float64(links)), Zones: []string{"gear"},
			After: []path.Arrow{after(wheels, cementTouch, "handle", "", "the run is shaped on the wheels")}})
		built = append(built, after(tracks, cementTouch, "handle", "P3", "cement must hold before the runs are taken off for paint"))
	}
	first, last := map[string]string{}, map[string]string{} // task of each layer
	stage := stagePaint
	var painted []path.Arrow
	for _, layer := range b.Layers {
		// A clear coat belongs to what it seals: the stage of the layer before it.
		switch {
		case layer.Kind != strata.Clear:
			stage = stageOf[layer.Kind]
		case stage == stagePaint:
			stage = stageMark
		}
		ids := addLayer(add, b, l, layer, stage)
		first[layer.ID], last[layer.ID] = ids[0], ids[len(ids)-1]
		at := slices.IndexFunc(tasks, func(t path.Task) bool { return t.ID == ids[0] })
		for _, w := range waits {
			if w.To == layer.ID {
				tasks[at].After = append(tasks[at].After, path.Arrow{From: last[w.From], Wait: w.Minutes, Most: w.Most, Water: w.Water, Kind: w.Kind, Rule: w.Rule, Reason: w.Reason})
			}
		}
		if len(tasks[at].After) == 0 {
			tasks[at].After = slices.Clone(built)
		}
		_, _, handle, _ := layer.Times()
		painted = append(painted, path.Arrow{From: last[layer.ID], Wait: handle, Water: layer.Water(), Kind: "handle", Rule: "F2",
			Reason: "nothing is held by a surface that cannot be handled: " + layer.Name})
	}
	if len(painted) == 0 {
		painted = built
	}
	title := "Put wheels back on"
	if b.Outline.HasTrack() {
		title = "Put wheels and tracks back on"
	}
	add(path.Task{ID: "fit:gear:1", Title: title, Stage: stageFinish, Minutes: fitMinutes, Zones: []string{"gear"}, After: painted})
	return tasks
}

// addLayer adds the tasks of a layer: one, or one for each colour of the scheme.
func addLayer(add func(path.Task) string, b Build, l look, layer strata.Layer, stage string) []string {
	p := pace[layer.Kind]
	area := layerArea(l, layer)
	colours := 1
	if isScheme(layer) {
		colours = len(b.Scheme.Colours)
	}
	var ids []string
	for i := range colours {
		t := path.Task{ID: fmt.Sprintf("%s:%s:%d", layer.Kind, layer.ID, i+1), Title: layer.Name, Stage: stage, Layer: layer.ID, Zones: layer.Zones}
		part := area
		if colours > 1 {
			t.Title = layer.Name + ": " + b.Scheme.Colours[i].Name
			if i > 0 {
				part = area * l.colours[i].Share
			}
		}
		t.AreaCM = part
		t.Minutes = math.Ceil(p.setUp + p.perCM*part*float64(layer.Coats))
		// Work by brush may be laid down and taken up; a sprayed coat goes on in one go,
		// and so does what is worked before a window closes.
		t.Split = layer.Applied == strata.Brushed && layer.Kind != strata.ChippingWork
		if i > 0 {
			_, next, handle, _ := layer.Times()
			a := path.Arrow{From: ids[i-1], Wait: next, Water: layer.Water(), Kind: "next coat", Rule: "P1", Reason: "the colour below must take the next one of its range"}
			if b.Scheme.Feather == 0 {
				a.Wait, a.Kind, a.Rule, a.Reason = handle, "handle", "P3", "a hard edge is masked, and tape goes only on a coat that can be handled"
			}
			t.After = []path.Arrow{a}
		}
		ids = append(ids, add(t))
	}
	return ids
}

// isScheme tells a camouflage layer from a layer of one colour of its own.
func isScheme(l strata.Layer) bool { return l.Kind == strata.Colour && l.Hex == "" }

// layerArea is the area that a layer covers on the model, cm².
func layerArea(l look, layer strata.Layer) float64 {
	sum := 0.0
	for _, z := range l.zones {
		if layer.Covers(z) {
			sum += l.area[z]
		}
	}
	return sum
}

func partName(block string) string {
	switch block {
	case "lower":
		return "lower hull"
	case "hull":
		return "upper hull"
	default:
		return block
	}
}
