package build

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"cinderpath/core/form"
	"cinderpath/core/gear"
	"cinderpath/core/length"
	"cinderpath/core/measure"
	"cinderpath/core/scheme"
	"cinderpath/core/strata"
)

// Solid is the vehicle for turning in space, model mm, y up and x forward as drawing
// programs have it: triangles with the place of their corners on one painted sheet, and
// the edges that are drawn.
type Solid struct {
	Positions []float32    `json:"positions"` // x, y, z of each corner
	Normals   []float32    `json:"normals"`
	UVs       []float32    `json:"uvs"`   // place on the sheet, 0 to 1 from its upper left
	Zones     []string     `json:"zones"` // names
	Of        []int        `json:"of"`    // zone of each triangle
	Edges     []float32    `json:"edges"` // x, y, z of both ends of each; none of wheels and tracks
	Sheet     float64      `json:"sheet"` // side of the square sheet, model mm
	Faces     []PaintSheet `json:"faces"` // what is painted where on it
	Low       [3]float64   `json:"low"`   // of the box about it
	High      [3]float64   `json:"high"`  //
}

// PaintSheet is a face laid on the sheet, model mm from its upper left.
type PaintSheet struct {
	Zone    string       `json:"zone"`
	Rings   []form.Ring  `json:"rings"`
	Patches []form.Patch `json:"patches,omitempty"`
}

// bleed is the room about a face on the sheet, so that its neighbours do not shine in.
const bleed = 0.6

// Solid derives the turning vehicle of a build.
func (d *Deriver) Solid(b Build, w Workshop) (Solid, error) {
	seen, err := d.look(b, w.Stock)
	if err != nil {
		return Solid{}, err
	}
	body, err := d.surface(b)
	if err != nil {
		return Solid{}, err
	}
	return stage(d, "solid", []any{body.key, b.Scale, b.Scheme}, func() (Solid, error) {
		return solidOf(seen.panels, seen.laid, b.Scale), nil
	})
}

// slot is a face's place on the sheet.
type slot struct {
	panel         int
	x0, y0        float64 // of its flat frame
	width, height float64
	x, y          float64 // on the sheet
}

func solidOf(panels []*form.Panel, laid *scheme.Layout, scale length.Scale) Solid {
	n := float64(scale)
	slots := make([]slot, len(panels))
	area := 0.0
	for i, p := range panels {
		x0, y0, x1, y1 := p.FlatBox()
		slots[i] = slot{panel: i, x0: x0, y0: y0, width: (x1-x0)/n + 2*bleed, height: (y1-y0)/n + 2*bleed}
		area += slots[i].width * slots[i].height
	}
	// On shelves, the highest first, on a square that grows until all fit.
	order := slices.Clone(slots)
	slices.SortStableFunc(order, func(a, b slot) int { return cmp.Compare(b.height, a.height) })
	side := math.Sqrt(area)
	for _, s := range order {
		side = max(side, s.width, s.height)
	}
	for !shelve(order, side) {
		side *= 1.04
	}
	for _, s := range order {
		slots[s.panel] = s
	}
	out := Solid{Sheet: side, Zones: []string{}, Faces: []PaintSheet{}}
	number := map[string]int{}
	space := func(v form.Vec) [3]float32 {
		return [3]float32{float32(v[0] / n), float32(v[2] / n), float32(-v[1] / n)}
	}
	drawn := map[[2][3]float32]bool{}
	low, high, _ := form.Extent(panels, func(string) bool { return true })
	for k := range 3 {
		a, b := space(low), space(high)
		out.Low[k], out.High[k] = float64(min(a[k], b[k])), float64(max(a[k], b[k]))
	}
	for i, p := range panels {
		s := slots[i]
		on := func(q [2]float64) [2]float64 {
			return [2]float64{s.x + bleed + (q[0]-s.x0)/n, s.y + bleed + (q[1]-s.y0)/n}
		}
		zone, known := number[p.Zone]
		if !known {
			zone = len(out.Zones)
			number[p.Zone] = zone
			out.Zones = append(out.Zones, p.Zone)
		}
		normal := space(form.Vec{p.Normal[0] * n, p.Normal[1] * n, p.Normal[2] * n})
		face := PaintSheet{Zone: p.Zone}
		for _, piece := range p.Pieces {
			var ring form.Ring
			for _, c := range piece {
				ring = append(ring, on(p.Flat(c)))
			}
			face.Rings = append(face.Rings, ring)
			for k := 1; k+1 < len(piece); k++ {
				for _, c := range []int{0, k, k + 1} {
					at := space(piece[c])
					out.Positions = append(out.Positions, at[:]...)
					out.Normals = append(out.Normals, normal[:]...)
					out.UVs = append(out.UVs, float32(ring[c][0]/side), float32(ring[c][1]/side))
				}
				out.Of = append(out.Of, zone)
			}
		}
		for _, region := range laid.Painted(p) {
			patch := form.Patch{Colour: region.Colour, Opacity: region.Opacity}
			for _, r := range region.Rings {
				ring := make(form.Ring, len(r))
				for k, q := range r {
					ring[k] = on(q)
				}
				patch.Rings = append(patch.Rings, ring)
			}
			face.Patches = append(face.Patches, patch)
		}
		out.Faces = append(out.Faces, face)
		for _, l := range p.Lines {
			a, b := space(l.A), space(l.B)
			if strings.HasPrefix(p.Zone, "gear.") { // so many of them: painted on the sheet instead
				break
			}
			if l.Smooth || l.Slight(p) || drawn[[2][3]float32{b, a}] {
				continue
			}
			drawn[[2][3]float32{a, b}] = true
			out.Edges = append(out.Edges, a[0], a[1], a[2], b[0], b[1], b[2])
		}
	}
	return out
}

// shelve lays faces, highest first, in rows on a square; false when they do not fit.
func shelve(order []slot, side float64) bool {
	x, y, row := 0.0, 0.0, 0.0
	for i := range order {
		s := &order[i]
		if x+s.width > side {
			x, y, row = 0, y+row, 0
		}
		s.x, s.y = x, y
		x += s.width
		row = max(row, s.height)
		if y+s.height > side {
			return false
		}
	}
	return true
}

// FormQuestion asks about a body and its running gear, real mm.
type FormQuestion struct {
	Scale   string       `json:"scale"`
	Outline form.Kind    `json:"outline"`
	Width   float64      `json:"width"` // over all: it tells where the wheels' faces lie
	Body    form.Body    `json:"body"`
	Wheels  []gear.Wheel `json:"wheels,omitempty"`
	Link    gear.Link    `json:"link,omitzero"`
	Ground  gear.Terrain `json:"ground,omitempty"`
	MudMM   float64      `json:"mudMm,omitempty"` // on the running gear, model mm
}

// FormAnswer tells the surfaces of a vehicle.
type FormAnswer struct {
	Zones     []FormZone `json:"zones"`
	AreaCM    float64    `json:"areaCm2"`   // of the model
	VolumeCM  float64    `json:"volumeCm3"` // of the body's parts, without wheels and tracks
	Parts     int        `json:"parts"`
	Closed    bool       `json:"closed"` // every part is a closed mesh
	Triangles int        `json:"triangles"`
	Why       Why        `json:"why"`
}

// FormZone is a zone with its area on the model.
type FormZone struct {
	Zone    string  `json:"zone"`
	AreaCM  float64 `json:"areaCm2"`
	Upright float64 `json:"uprightCm2"`
	Sloped  float64 `json:"slopedCm2"`
	Flat    float64 `json:"flatCm2"`
}

func (q FormQuestion) build() (Build, error) {
	scale, err := length.ParseScale(q.Scale)
	if err != nil {
		return Build{}, fault("scale", err)
	}
	b := Build{Scale: scale, Outline: q.Outline, Body: q.Body, Wheels: q.Wheels, Link: q.Link, Ground: q.Ground}
	b.Sizes.Width.MM = q.Width
	switch {
	case !slices.Contains(form.Kinds, q.Outline):
		return b, refuse("outline", fmt.Sprintf("%q is not known", q.Outline), "use "+kindList())
	case !(q.Width > 0 && q.Width <= length.Longest):
		return b, refuse("width", "it must lie above zero and below one kilometre", "give the vehicle's width over all in mm")
	case !(q.MudMM >= 0 && q.MudMM <= 20):
		return b, refuse("mudMm", "a film lies between 0 and 20 mm on the model", "give its depth in mm")
	case len(b.Wheels) > mostWheels || !b.withinReach():
		return b, refuse("body", "more wheels than one side has, or a part more than 100 m away", "check the unit: positions are in real millimetres")
	}
	if err := b.Body.Check(); err != nil {
		return b, fault("body", err)
	}
	b.Layers = []strata.Layer{{Kind: strata.Mud, DepthMM: q.MudMM}}
	if len(b.Wheels) == 0 {
		return b, nil
	}
	return b, b.checkGear()
}

// AskForm measures the surfaces of a vehicle.
func AskForm(q FormQuestion) (FormAnswer, error) {
	b, err := q.build()
	if err != nil {
		return FormAnswer{}, err
	}
	run := form.Running{}
	if len(b.Wheels) > 0 {
		if run, _, err = running(b); err != nil {
			return FormAnswer{}, fault("wheels", err)
		}
	}
	panels, err := form.Panels(b.Body, run)
	if err != nil {
		return FormAnswer{}, fault("body", err)
	}
	parts, err := form.Meshes(b.Body, run)
	if err != nil {
		return FormAnswer{}, fault("body", err)
	}
	n := float64(b.Scale)
	a := FormAnswer{Zones: []FormZone{}, Parts: len(parts), Closed: true, Why: because("model area = real area / N², what lies inside or against another part left out", []string{"N = " + strings.TrimPrefix(b.Scale.String(), "1:"), "volume: the parts' signed volumes; where parts run into one another it counts twice"})}
	for _, p := range parts {
		s := p.Mesh.Measure()
		a.Closed = a.Closed && s.Closed
		a.Triangles += s.Triangles
	}
	volume, err := form.Volume(b.Body)
	if err != nil {
		return a, fault("body", err)
	}
	a.VolumeCM = volume / (n * n * n) / 1000
	at := map[string]int{}
	for _, p := range panels {
		i, known := at[p.Zone]
		if !known {
			i = len(a.Zones)
			at[p.Zone] = i
			a.Zones = append(a.Zones, FormZone{Zone: p.Zone})
		}
		area := p.Area() / (n * n) / 100
		z := &a.Zones[i]
		z.AreaCM += area
		a.AreaCM += area
		switch p.Facing() {
		case "upright":
			z.Upright += area
		case "sloped":
			z.Sloped += area
		default:
			z.Flat += area
		}
	}
	return a, nil
}

// AskClearance tells the room that wheels and track have.
func AskClearance(q FormQuestion) ([]RunLine, error) {
	b, err := q.build()
	if err != nil {
		return nil, err
	}
	if len(b.Wheels) == 0 {
		return nil, refuse("wheels", "no wheel is given", "give the running gear")
	}
	_, lies, err := running(b)
	if err != nil {
		return nil, fault("wheels", err)
	}
	return gearLine(b, lies, measure.Shelf{}).Clearance, nil
}

// WheelsQuestion asks for masks of wheels, real mm.
type WheelsQuestion struct {
	Scale  string         `json:"scale"`
	Wheels []gear.Wheel   `json:"wheels"`
	Shelf  *measure.Shelf `json:"shelf,omitempty"`
}

// AskWheels packs the masks of wheels on tape.
func AskWheels(q WheelsQuestion) (MaskSheet, error) {
	scale, err := length.ParseScale(q.Scale)
	if err != nil {
		return MaskSheet{}, fault("scale", err)
	}
	b := Build{Scale: scale, Wheels: q.Wheels, Outline: form.Wheeled}
	if len(q.Wheels) > mostWheels || !b.withinReach() {
		return MaskSheet{}, refuse("wheels", "more than one side has, or one lies more than 100 m away", "check the unit: positions are in real millimetres")
	}
	b.Sizes.Width.MM = 1e6 // no hull stands beside these wheels
	if err := b.checkGear(); err != nil {
		return MaskSheet{}, err
	}
	return MasksOf(b, shelfOr(q.Shelf))
}
