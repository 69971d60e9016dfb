package kit

import (
	"fmt"
	"slices"
	"strings"

	"cinderpath/core/measure"
	"cinderpath/core/paint"
	"cinderpath/core/unit"
)

// Glue is what joins two faces: with which product, how long it is held together, when it bears
// handling and when it is hard.
type Glue struct {
	Name   string       `json:"name"`
	Family string       `json:"family"` // of the table of products; empty where nothing sets
	Clamp  unit.Minutes `json:"clampMin"`
	Hold   unit.Minutes `json:"holdMin"` // until it can be handled
	Cured  unit.Minutes `json:"curedMin"`
	Undone bool         `json:"undone"` // it can be taken apart again
	First  []string     `json:"first"`  // what is done to the faces before
	Note   string       `json:"note,omitempty"`
}

// Pair is two faces that are joined.
type Pair struct {
	A, B    string // materials
	Joint   string // glued, removable or press
	Bears   bool   // load
	Painted bool
	Small   string // what kind of part it is: stowage and tools are held by white glue
}

// The joints that more than one pair of materials has.
var (
	whiteGlue = Glue{Name: "white glue", Family: "white_glue", Undone: true, Note: "it can be taken apart with water"}
	superGlue = Glue{Name: "super glue", Family: "super_glue"}
)

// Join follows the table of joints: what is to come apart again, and paint that is to stay, want what
// does not bite; all else the strongest that takes both materials.
func Join(p Pair) Glue {
	g := p.choose()
	g.First = p.first(g)
	if f, ok := paint.FamilyOf(g.Family); ok && g.Family != "" {
		g.Hold, g.Cured = f.Handle, f.Cured
	}
	return g
}

func (p Pair) is(m ...string) bool { return slices.Contains(m, p.A) || slices.Contains(m, p.B) }
func (p Pair) all(m ...string) bool {
	return slices.Contains(m, p.A) && slices.Contains(m, p.B)
}

func (p Pair) choose() Glue {
	metal := IsMetal(p.A) || IsMetal(p.B)
	hard := metal || p.is(Resin, Printed)
	switch {
	case p.Joint == Press:
		return Glue{
			Name:   "press fit",
			Undone: true,
			Note:   "paint makes it tight: keep the faces bare, or ream the hole (B14)",
		}
	case p.Small == "stowage" || p.Small == "tool":
		return whiteGlue
	case p.is(Clear):
		g := whiteGlue
		g.Name, g.Note = "white glue or clear varnish", "super glue fogs clear parts"
		return g
	case p.Joint == Removable && p.all(Plastic) && !p.Painted:
		return Glue{Name: "putty tack or friction", Undone: true, Note: "nothing that sets: it comes off again"}
	case p.Joint == Removable:
		return whiteGlue
	case p.is(Soft):
		g := superGlue
		g.Clamp, g.Note = 10, "or as the leaflet says; glued down to the wheels, since a band does not sag"
		return g
	case p.Small == "tracks" && p.all(Metal):
		return Glue{Name: "wire pins in drilled holes", Undone: true, Note: "ends pinched or glued"}
	case IsMetal(p.A) && IsMetal(p.B):
		g := superGlue
		g.Name = "solder or super glue"
		if p.Bears {
			g.Name, g.Note = "solder", "super glue bears little on metal"
			g.Family = ""
		}
		return g
	case hard && p.Bears:
		return Glue{Name: "epoxy", Family: "epoxy_glue", Clamp: 5, Note: "it bears load"}
	case hard:
		return superGlue
	case p.Painted:
		return Glue{
			Name: "liquid cement on faces scraped bare", Family: "cement_plastic", Clamp: 5,
			Note: "or super glue on the paint",
		}
	}
	return Glue{Name: "liquid cement", Family: "cement_plastic", Clamp: 5}
}

// first is what is done to the faces before.
func (p Pair) first(g Glue) []string {
	out := []string{}
	if p.Painted && strings.Contains(g.Name, "scraped bare") {
		out = append(out, "scrape the paint off both faces")
	}
	if p.Painted && (g.Family == "super_glue" || g.Family == "epoxy_glue") {
		out = append(out, "scrape the paint off where it bears: it holds no better than the paint does")
	}
	if p.is(Etched, Metal) && g.Family != "" && !g.Undone {
		out = append(out, "roughen smooth metal and wipe it")
	}
	if p.is(Resin, Printed) && !g.Undone {
		out = append(out, "wash off release agent, and let a print cure")
	}
	if p.Joint == Press {
		out = append(out, "mask both faces before paint")
	}
	return out
}

// Words say how it is joined.
func (g Glue) Words() string {
	words := g.Name
	if g.Clamp > 0 {
		words += fmt.Sprintf(", clamped %.0f min", float64(g.Clamp))
	}
	if g.Hold > 0 {
		words += ", held after " + g.Hold.String()
	}
	if g.Undone {
		words += ", comes off again"
	}
	return words
}

// GlueFor joins a part to what it goes on, of a material.
func GlueFor(p Part, to string, painted bool) Glue {
	return Join(Pair{A: p.Material, B: to, Joint: p.Joint, Bears: p.Bears, Painted: painted, Small: p.Kind})
}

// IsMetal tells of materials that cement does not take.
func IsMetal(material string) bool { return slices.Contains([]string{Metal, Etched, Wire}, material) }

// On is what a part goes on: the part that holds it, or its sub-assembly, which is of plastic.
func (k Kit) On(p Part) (name, material string) {
	for _, q := range k.Used() {
		if slices.Contains(q.Holds, p.ID) {
			return q.Name, q.Material
		}
	}
	return "the " + p.Assembly, Plastic
}

// JointQuestion asks how two faces are joined.
type JointQuestion struct {
	Material string `json:"material"`
	To       string `json:"to"`
	Kind     string `json:"kind,omitempty"`
	Joint    string `json:"joint,omitempty"`
	Bears    bool   `json:"bears,omitempty"`
	Painted  bool   `json:"painted,omitempty"`
}

// JointAnswer is a joint with where it is from.
type JointAnswer struct {
	Glue

	Words string      `json:"words"`
	Why   measure.Why `json:"why"`
}

// AskJoint answers.
func AskJoint(q JointQuestion) (JointAnswer, error) {
	for _, m := range []struct{ field, name string }{{"material", q.Material}, {"to", q.To}} {
		if !slices.Contains(Materials, m.name) {
			return JointAnswer{}, measure.Refuse(
				m.field, fmt.Sprintf("%q is no material", m.name), "use "+strings.Join(Materials, ", "))
		}
	}
	if q.Joint != "" && !slices.Contains([]string{Glued, Removable, Press}, q.Joint) {
		return JointAnswer{}, measure.Refuse(
			"joint",
			fmt.Sprintf("%q is not known", q.Joint),
			"use glued, removable or press",
		)
	}
	g := Join(Pair{q.Material, q.To, q.Joint, q.Bears, q.Painted, q.Kind})
	return JointAnswer{
		g,
		g.Words(),
		measure.Because(
			"by the table of joints: the pair of materials, painted or bare, to stay or to come off",
			[]string{q.Material + " to " + q.To, "hold and cure times are its family's at 20 °C and 50 % humidity"},
		),
	}, nil
}
