package scheme

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"sync"

	"cinderpath/core/form"
	"cinderpath/core/length"
	"cinderpath/core/measure"
	"cinderpath/core/table"
	"cinderpath/core/unit"
	"cinderpath/core/zone"
)

// Way is how an edge is held.
type Way string

// The ways.
const (
	Freehand Way = "freehand"
	Putty    Way = "putty roll"
	Straight Way = "straight tape"
	Curved   Way = "narrow tape"
	Film     Way = "cut mask"
	ByBrush  Way = "brush"
)

// Masked tells of ways that lay something on before the colour.
func (w Way) Masked() bool { return w == Putty || w == Straight || w == Curved || w == Film }

// Means is what there is to paint with.
type Means struct {
	Airbrush string  // none where everything is brushed
	Line     float64 // the finest line that it holds, mm on the model
	Soft     float64 // the finest soft edge
	Coats    int
}

// WayCost is what a way costs: beyond painting the field, which all of them do.
type WayCost struct {
	Way     Way          `json:"way"`
	Minutes unit.Minutes `json:"min"`
}

// Hold is how a colour's edges on a part are held, with what follows from it, on the model.
type Hold struct {
	Colour  int          `json:"colour"` // from 1
	Part    string       `json:"part"`
	AreaCM  float64      `json:"areaCm2"`
	EdgeMM  float64      `json:"edgeMm"`
	Fields  int          `json:"fields"`
	LeastMM float64      `json:"leastMm,omitempty"` // where it is narrowest, its tips left out
	At      form.Vec     `json:"at"`                // there, mm on the model
	Zone    string       `json:"zone,omitempty"`    // there
	Way     Way          `json:"way"`
	Minutes unit.Minutes `json:"min"`
	Ways    []WayCost    `json:"ways"` // all that hold it, the quickest first
	TapeCM  float64      `json:"tapeCm,omitempty"`
	CoverCM float64      `json:"coverCm2,omitempty"` // surface that is covered behind the edge
	Narrow  string       `json:"narrow,omitempty"`   // P8: why it cannot be sprayed freehand
	Why     measure.Why  `json:"why"`
}

// paces are minutes by kind of work of the table of hands.
var paces = sync.OnceValue(func() map[string]float64 {
	out := map[string]float64{}
	for _, row := range table.Read(tables, "hands") {
		out[row["id"]] = row.Number("minutes")
	}
	return out
})

// Pace is a starting value of the table of hands, minutes.
func Pace(id string) float64 { return paces()[id] }

// Overlap of tape at each end of a run, and how far behind an edge a surface is covered, mm on the
// model.
const (
	Overlap = 5.0
	behind  = 25.0
)

// straight are the families whose edges straight tape follows.
var straight = []string{Splinters, Panes, Stripes}

// Holds tells of each colour above the first, part by part, how its edges are held: by the quickest
// way that holds them. told is what Tell read; minutes are of the table of hands.
func (p Pattern) Holds(told []Told, scale length.Scale, m Means) []Hold {
	k := 1 / float64(scale)
	type sum struct {
		Hold
		rest float64 // of other colours on the same part, cm²
		seen map[int]bool
	}
	var order []string
	all := map[string]*sum{}
	whole := map[string]float64{}
	for _, t := range told {
		part := zone.Part(t.Zone)
		whole[part] += t.Area * k * k / 100
		if t.Colour == 0 || t.Edge == 0 {
			continue
		}
		key := fmt.Sprintf("%d %s", t.Colour, part)
		if all[key] == nil {
			all[key] = &sum{Hold: Hold{Colour: t.Colour + 1, Part: part}, seen: map[int]bool{}}
			order = append(order, key)
		}
		s := all[key]
		s.AreaCM += t.Area * k * k / 100
		s.EdgeMM += t.Edge * k
		for _, f := range t.Fields {
			s.seen[f] = true
		}
		s.Fields = len(s.seen)
		if t.Least > 0 && (s.LeastMM == 0 || t.Least*k < s.LeastMM) {
			s.LeastMM, s.Zone = t.Least*k, t.Zone
			s.At = form.Vec{t.At[0] * k, t.At[1] * k, t.At[2] * k}
		}
	}
	out := []Hold{}
	for _, key := range order {
		s := all[key]
		s.rest = whole[s.Part] - s.AreaCM
		p.hold(&s.Hold, s.rest, k, m)
		out = append(out, s.Hold)
	}
	slices.SortStableFunc(out, func(a, b Hold) int { return a.Colour - b.Colour })
	return out
}

// hold chooses the way.
func (p Pattern) hold(h *Hold, rest, k float64, m Means) {
	c := h.Colour - 1
	set := p.Set(c)
	soft := *set.Feather * k
	tens := h.EdgeMM / 100
	h.CoverCM = min(rest, h.EdgeMM*behind/100)
	add := func(w Way, minutes float64) {
		h.Ways = append(h.Ways, WayCost{w, unit.Minutes(math.Round(minutes*10) / 10)})
	}
	off := Pace("cover")*h.CoverCM + Pace("unmask")*tens
	fill := Pace("fill_spray") * h.AreaCM * float64(max(m.Coats, 1))
	if m.Airbrush != "" {
		switch {
		case soft > 0 && soft >= m.Soft && (h.LeastMM == 0 || h.LeastMM >= m.Line):
			pace := "freehand_soft"
			if h.LeastMM > 0 && h.LeastMM < 2*m.Line {
				pace = "freehand_fine"
			}
			add(Freehand, Pace(pace)*tens+fill)
		case soft > 0 && soft < m.Soft:
			h.Narrow = fmt.Sprintf("%s has a soft edge of %.1f mm on the model: %s holds %.1f",
				set.Name, soft, m.Airbrush, m.Soft)
		case soft > 0:
			h.Narrow = fmt.Sprintf("%s narrows to %.1f mm on the %s: %s holds %.1f",
				set.Name, h.LeastMM, zone.Words(h.Zone), m.Airbrush, m.Line)
		}
		if soft > 0 {
			add(Putty, Pace("putty_roll")*tens+off+fill)
		}
		pieces := float64(h.Fields) * Pace("tape_piece")
		if soft == 0 {
			switch {
			case slices.Contains(straight, set.Family):
				add(Straight, Pace("tape_straight")*tens+pieces+off+fill)
			case h.LeastMM > 10: // a radius of five times the width of tape of 1 mm
				add(Curved, Pace("tape_curve")*tens+pieces+off+fill)
			}
			add(Film, Pace("film_cut")*tens+pieces+off+fill)
		}
	}
	if soft == 0 || m.Airbrush == "" {
		edge := Pace("brush_edge")
		if set.Family == Outlines {
			edge = Pace("outline_brush") / 2 // an outline has two edges, and is one line
		}
		add(ByBrush, edge*tens+Pace("brush_fill")*h.AreaCM*float64(max(m.Coats, 1)))
	}
	slices.SortStableFunc(h.Ways, func(a, b WayCost) int {
		return int(math.Copysign(1, float64(a.Minutes-b.Minutes)))
	})
	h.Way, h.Minutes = h.Ways[0].Way, h.Ways[0].Minutes
	if !h.Way.Masked() {
		h.CoverCM = 0
	} else if h.Way != Film && h.Way != Putty {
		h.TapeCM = (h.EdgeMM + 2*Overlap*float64(h.Fields)) / 10
	}
	inputs := []string{
		fmt.Sprintf("%.0f mm of edge and %.1f cm² on the model, %d fields", h.EdgeMM, h.AreaCM, h.Fields),
	}
	var ways []string
	for _, w := range h.Ways {
		ways = append(ways, fmt.Sprintf("%s %.0f min", w.Way, float64(w.Minutes)))
	}
	inputs = append(inputs, strings.Join(ways, ", "))
	if h.Narrow != "" {
		inputs = append(inputs, h.Narrow)
	}
	h.Why = measure.Because("the quickest way that holds the edge: minutes by 100 mm of edge, by cm² and piece", inputs)
}
