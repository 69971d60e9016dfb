package order

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"cinderpath/core/document"
	"cinderpath/core/paint"
	"cinderpath/core/path"
	"cinderpath/core/strata"
	"cinderpath/core/unit"
)

// foamSettles is how long a shaken jar stands before it is poured.
const foamSettles = unit.Minutes(3)

// spray says what an airbrush needs to know of a task.
func (o *orderer) spray(id string, layer strata.Layer) {
	if layer.Applied != strata.Misted {
		return
	}
	t := o.task(id)
	t.Spray, t.Split, t.Place = true, false, path.Booth
	if strings.HasPrefix(layer.Family, "spray_can") {
		t.Place = path.Outdoors
		return
	}
	f, _ := paint.FamilyOf(layer.Family)
	switch t.Paint = f.Name; {
	case t.Colour > 0:
		t.Paint = o.b.Scheme.Colours[t.Colour-1].Name + ", " + f.Name
	case layer.Hex != "" && !strings.HasPrefix(f.Name, strings.ToLower(layer.Name)):
		t.Paint = layer.Name + ", " + f.Name
	}
	if o.b.School(document.SchoolJar) == document.Shaken {
		t.Minutes += foamSettles
		o.why[id] = append(
			o.why[id],
			fmt.Sprintf("%.0f min until the foam of a shaken jar settles, a starting value", float64(foamSettles)),
		)
	}
	if layer.IsScheme() && t.Colour > 1 {
		soft := *o.b.Scheme.Set(t.Colour - 1).Feather / float64(o.b.Scale)
		t.Fine = soft > 0 && soft < 1
	}
}

// airbrushes gives each sprayed task one of the workshop's: fine lines the finest,
// primers and clears the widest, colours the one between.
func (o *orderer) airbrushes() {
	list := slices.Clone(o.w.Airbrushes)
	if len(list) == 0 {
		return
	}
	slices.SortStableFunc(list, func(a, b path.Airbrush) int { return int(math.Copysign(1, a.Nozzle-b.Nozzle)) })
	for i := range o.tasks {
		t := &o.tasks[i]
		if t.Paint == "" {
			continue
		}
		at := list[len(list)-1]
		switch {
		case t.Fine:
			at = list[0]
		case t.Kind == "colour":
			at = list[(len(list)-1)/2]
		}
		t.Airbrush = at.ID
	}
}
