package kit

import (
	"slices"
	"strings"

	"cinderpath/core/zone"
)

// The schools of how much is painted apart.
const (
	Pieces  = "sub-assemblies"
	BuiltUp = "built up"
	Mixed   = "mixed"
)

// Advice is whether a part stays off during paint, and why.
type Advice struct {
	Part   string `json:"part"`
	Name   string `json:"name"`
	Off    bool   `json:"off"`
	Rule   string `json:"rule,omitempty"`
	Reason string `json:"reason"`
	Own    bool   `json:"own"` // the modeller decided otherwise than was suggested
	Fitted string `json:"fitted"`
}

// Suggest says of each part of the chosen version whether it stays off until paint is
// done. painted lists the zones that are painted, masked or marked.
func (k Kit) Suggest(school string, painted []string) []Advice {
	var out []Advice
	for _, p := range k.Used() {
		a := k.advise(p, school, painted)
		a.Part, a.Name = p.ID, p.Name
		if p.Stay != "" && a.Rule != "B1" {
			off := p.Stay == "off"
			if off != a.Off {
				a.Own = true
				a.Reason = "your choice; suggested otherwise: " + a.Reason
			}
			a.Off = off
		}
		switch {
		case a.Rule == "B1":
			a.Fitted = "before the " + p.Before + " is closed"
		case !a.Off:
			a.Fitted = "while building"
		case a.Rule == "B4":
			a.Fitted = "after the decals"
		case a.Rule == "B5":
			a.Fitted = "after the pipe is painted and rusted"
		case a.Rule == "B11":
			a.Fitted = "last"
		default:
			a.Fitted = "after paint and wear"
		}
		out = append(out, a)
	}
	return out
}

func (k Kit) advise(p Part, school string, painted []string) Advice {
	on := func(reason string) Advice { return Advice{Reason: reason} }
	off := func(rule, reason string) Advice { return Advice{Off: true, Rule: rule, Reason: reason} }
	worn := func(id string) bool {
		return slices.ContainsFunc(k.Worn(), func(d Decal) bool { return d.ID == id })
	}
	var shadowed []string
	for _, s := range p.Shadows {
		if len(painted) == 0 || slices.ContainsFunc(painted, func(z string) bool { return zone.Meet(z, s) }) {
			shadowed = append(shadowed, s)
		}
	}
	switch {
	case p.Before != "":
		return Advice{Rule: "B1", Reason: "it can only go in before the " + p.Before + " is closed"}
	case slices.ContainsFunc(p.Over, worn):
		d := k.Decals[slices.IndexFunc(k.Decals, func(d Decal) bool { return slices.Contains(p.Over, d.ID) && worn(d.ID) })]
		return off("B4", d.Name+" runs beneath it")
	case p.Guards != "":
		return off("B5", "what it guards is painted and rusted first")
	case p.Material == Clear:
		return off("B11", "clear parts go on last, or are masked from the start")
	case school == BuiltUp:
		return on("everything goes on; the brush reaches what shows")
	case p.Kind == "wheels" || p.Kind == "tracks":
		return off("B13", "with the running gear on, the lower hull cannot be reached")
	case p.Kind == "skirt":
		return off("B3", "it hides the wheels and the hull behind it")
	case p.Brittle():
		return off("B3", "it would be broken, or in the way of mask and airbrush")
	case len(shadowed) > 0:
		return off("B3", "it shadows "+strings.Join(shadowed, ", ")+", which needs paint")
	case school == Pieces && (p.Kind == "tool" || p.Kind == "stowage" || p.Kind == "cable"):
		return off("B3", "painted apart, it needs no masking")
	case p.Kind == "stowage":
		return off("B3", "fitted dry, painted apart, put back")
	case p.Kind == "tool":
		return on("tools stay on: a slip of paper under them keeps paint off the hull")
	default:
		return on("nothing behind it needs paint that could not be reached")
	}
}
