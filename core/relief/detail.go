package relief

import (
	"fmt"
	"slices"
	"strings"

	"cinderpath/core/form"
	"cinderpath/core/measure"
	"cinderpath/core/zone"
)

// Kind says what a detail is.
type Kind string

// The kinds.
const (
	Bolts  Kind = "bolts"
	Rivets Kind = "rivets"
	Weld   Kind = "weld"
	Joint  Kind = "joint" // of two plates, or of a lid: engraved
)

// About is what is usual of a kind, real mm.
type About struct {
	ID     Kind    `json:"id"`
	Name   string  `json:"name"`
	Raised bool    `json:"raised"`
	Dots   bool    `json:"dots"` // in a row, not one line
	Size   float64 `json:"sizeMm"`
	Pitch  float64 `json:"pitchMm"` // of dots
	Inset  float64 `json:"insetMm"` // from the edges of a plate that it goes round
}

// Abouts is the table; sizes are starting values that a person changes.
var Abouts = []About{
	{Bolts, "bolts", true, true, 38, 160, 55},
	{Rivets, "rivets", true, true, 22, 90, 30},
	{Weld, "weld bead", true, false, 20, 0, 16},
	{Joint, "joint", false, false, 10, 0, 130},
}

// AboutOf finds a kind.
func AboutOf(k Kind) (a About, ok bool) {
	i := slices.IndexFunc(Abouts, func(a About) bool { return a.ID == k })
	if i < 0 {
		return a, false
	}
	return Abouts[i], true
}

// The ways in which details are placed.
const (
	Round = "round" // along all edges of the plates of a zone
	Line  = "line"  // from one place to another
	Point = "point" // at one place
)

// Detail is one of them, or a row: on the plates of a zone.
type Detail struct {
	ID      string    `json:"id"`
	Zone    string    `json:"zone"`
	Kind    Kind      `json:"kind"`
	Way     string    `json:"way"`
	At      *form.Vec `json:"at,omitempty"`      // of a line and a point: on the surface, real mm
	To      *form.Vec `json:"to,omitempty"`      // of a line
	PitchMM float64   `json:"pitchMm,omitempty"` // in place of what is usual of its kind, real mm
	SizeMM  float64   `json:"sizeMm,omitempty"`
	InsetMM float64   `json:"insetMm,omitempty"`

	Times float64 `json:"-"` // how much larger than life it is made on purpose; 0 as it is
}

// Bounds of what a detail may be asked for, real mm.
const (
	LeastSize = 2.0
	MostSize  = 500.0
	MostPitch = 5000.0
)

// MostDetails of a build.
const MostDetails = 400

// or is a size, or what is usual in its place.
func or(mm, usual float64) float64 {
	if mm > 0 {
		return mm
	}
	return usual
}

// Filled is the detail with all its sizes.
func (d Detail) Filled() Detail {
	a, _ := AboutOf(d.Kind)
	d.PitchMM, d.SizeMM, d.InsetMM = or(d.PitchMM, a.Pitch), or(d.SizeMM, a.Size), or(d.InsetMM, a.Inset)
	return d
}

// Larger is a raised detail so many times as large as life, dots at most as large as they are apart;
// what is engraved stays as it is.
func (d Detail) Larger(times float64) Detail {
	a, _ := AboutOf(d.Kind)
	if !a.Raised {
		return d
	}
	f := d.Filled()
	most := MostSize
	if a.Dots {
		most = min(most, f.PitchMM)
	}
	d.SizeMM = min(f.SizeMM*times, most)
	d.Times = d.SizeMM / f.SizeMM
	return d
}

// Check reports what is wrong with details.
func Check(details []Detail) error {
	if len(details) > MostDetails {
		return measure.Refuse("small", fmt.Sprintf("%d details", len(details)), fmt.Sprintf("keep at most %d", MostDetails))
	}
	ids := map[string]bool{}
	for _, d := range details {
		if err := d.check(); err != nil {
			return measure.At("small", err)
		}
		if d.ID == "" || ids[d.ID] {
			return measure.Refuse("small", "two details have one id", "give each its own")
		}
		ids[d.ID] = true
	}
	return nil
}

func (d Detail) check() error {
	a, known := AboutOf(d.Kind)
	f := d.Filled()
	switch {
	case !known:
		return measure.Refuse("kind", fmt.Sprintf("%q is no small relief", d.Kind), "use "+names())
	case !zone.Valid(d.Zone) && !zone.Valid(zone.Named(d.Zone, "all")): // a part of one zone has its name
		return measure.Refuse("zone", fmt.Sprintf("%q is no zone", d.Zone), "pick one on the plate")
	case d.Way != Round && d.Way != Line && d.Way != Point:
		return measure.Refuse("way", fmt.Sprintf("%q is no way of placing it", d.Way), "use round, line or point")
	case d.Way != Round && d.At == nil || d.Way == Line && d.To == nil:
		return measure.Refuse("at", "it has no place", "click where it is")
	case d.Way == Point && !a.Dots:
		return measure.Refuse("way", a.Name+" is a line", "give both its ends, or lay it round the plate")
	case !(f.SizeMM >= LeastSize && f.SizeMM <= MostSize):
		return measure.Refuse(
			"sizeMm",
			fmt.Sprintf("%g mm", d.SizeMM),
			fmt.Sprintf("give %g to %g mm real", LeastSize, MostSize),
		)
	case a.Dots && !(f.PitchMM >= f.SizeMM && f.PitchMM <= MostPitch):
		return measure.Refuse(
			"pitchMm",
			fmt.Sprintf("one every %g mm, each %g mm wide", f.PitchMM, f.SizeMM),
			fmt.Sprintf("give %g to %g mm real", f.SizeMM, MostPitch),
		)
	case !(f.InsetMM >= 0 && f.InsetMM <= MostPitch):
		return measure.Refuse("insetMm", fmt.Sprintf("%g mm", d.InsetMM), fmt.Sprintf("give 0 to %g mm real", MostPitch))
	}
	return nil
}

func names() string {
	var out []string
	for _, a := range Abouts {
		out = append(out, string(a.ID))
	}
	return strings.Join(out, ", ")
}

// Words say what a detail is.
func (d Detail) Words() string {
	a, f := about(d.Kind), d.Filled()
	what := a.Name
	if a.Dots && d.Way != Point {
		what = fmt.Sprintf("%s every %.0f mm", a.Name, f.PitchMM)
	}
	large := ""
	if d.Times > 0 {
		large = fmt.Sprintf(", %.2g times as large as life", d.Times)
	}
	switch d.Way {
	case Round:
		return what + " round it" + large
	case Line:
		return what + " along a line" + large
	}
	return "one of " + what + large
}

func about(k Kind) About {
	a, _ := AboutOf(k)
	return a
}

// usual is what plates of some zones believably have, while nobody says otherwise.
var usual = []struct {
	zones string
	kind  Kind
	pitch float64
}{
	{"hull.glacis hull.rear lower.nose lower.tail", Bolts, 190},
	{"hull.deck turret.roof cab.roof", Bolts, 240},
	{"hull.deck", Joint, 0},
	{"hull.left hull.right turret.left turret.right turret.front turret.rear", Weld, 0},
	{"lower.left lower.right", Bolts, 280},
	{"hull.fender.left hull.fender.right hull.sponson", Rivets, 130},
	{"cab.left cab.right cab.front cab.rear cab.door.left cab.door.right", Rivets, 110},
	{"mast.left mast.right winch.front winch.rear", Bolts, 150},
}

// Usual is the set that comes with every body: what of it lies on zones that a body has.
func Usual() (out []Detail) {
	for _, u := range usual {
		for _, z := range strings.Fields(u.zones) {
			out = append(out, Detail{
				ID: fmt.Sprintf("usual.%s.%s", u.kind, z), Zone: z, Kind: u.kind, Way: Round, PitchMM: u.pitch,
			})
		}
	}
	return out
}
