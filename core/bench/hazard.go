package bench

import "slices"

const deferTo = "Follow the product's safety sheet and your local rules."

// hazards are short cautions, each ending in whose word counts, in the order in which they are told.
var hazards = []struct{ id, words string }{
	{"vapour", "Vapour and fire: booth or open air, the right respirator cartridges, gloves, no flame. " + deferTo},
	{"fire", "Fire: no flame near thinner; lay oily rags flat outdoors or keep them wet in a closed tin. " + deferTo},
	{"spray", "Spray mist: booth or open air and a mask that fits; let the pressure off before opening the airbrush, " +
		"ear protection where the compressor is loud. " + deferTo},
	{"resin", "Uncured resin: nitrile gloves, eye protection; cure the waste before throwing it away. " + deferTo},
	{"dust", "Dust: sand wet, a particle mask; wipe, do not blow. " + deferTo},
	{"blades", "Blades: cut away from the hand, with a sharp blade; eye protection when nipping metal. " + deferTo},
	{"superglue", "Super glue: thin layers, air the room; never pull bonded skin apart, use warm soapy water. " + deferTo},
	{"heat", "Heat: a stand for the iron, air the room, keep fingers and solvents away. " + deferTo},
	{"lead", "Lead: wash your hands, do not sand it, no food at the bench, not for children; tin or aluminium serve as " +
		"well. " + deferTo},
	{"pressure", "Pressure: let it off before opening; ear protection where the compressor is loud. " + deferTo},
	{"screws", "Tools: clamp the work, eye protection. " + deferTo},
}

// Danger is what of a step can hurt someone.
type Danger struct {
	Kind    string
	Booth   bool     // it is done where one sprays
	Sprays  bool     // its product goes on as a mist
	Brings  []string // carriers of what it lays, by the table of products
	Takes   []string // families of what else it takes of the shelf
	Carries []string // carriers of those
	Besides []string // hazards of its parts: heat, lead
}

// fromProduct are those that follow from the product where one is known.
var fromProduct = []string{"vapour", "fire", "spray"}

// Cautions of a step: those of its kind, of what is laid, and of what is taken besides. A mask needs
// none of what is sprayed over it.
func Cautions(d Danger) []string {
	k := KindOf(d.Kind)
	lays := k.Lays || k.Works || d.Booth || slices.Contains([]string{"repair", "touchup", "trial", "details"}, d.Kind)
	known := lays && len(d.Brings) > 0
	found := map[string]bool{}
	for _, h := range k.Hazards {
		if !known || !slices.Contains(fromProduct, h) {
			found[h] = true
		}
	}
	if found["spray"] && !d.Booth && !d.Sprays {
		delete(found, "spray") // the kit is painted by brush
	}
	carriers := d.Carries
	if lays {
		carriers = append(slices.Clone(carriers), d.Brings...)
		found["spray"] = found["spray"] || d.Sprays
	}
	for _, c := range carriers {
		switch c {
		case "strong_solvent":
			found["vapour"] = true
		case "white_spirit":
			found["fire"] = true
		case "alcohol":
			found["fire"] = found["fire"] || d.Sprays
		}
	}
	for _, f := range d.Takes {
		switch f {
		case "super_glue":
			found["superglue"] = true
		case "epoxy_glue", "putty_epoxy":
			found["resin"] = true
		case "pigment_dry", "pastel":
			found["dust"] = true
		}
	}
	for _, h := range d.Besides {
		found[h] = true
	}
	if found["vapour"] {
		delete(found, "fire") // it says both
	}
	out := []string{}
	for _, h := range hazards {
		if found[h.id] {
			out = append(out, h.words)
		}
	}
	return out
}

// Hazards lists what can be cautioned against.
func Hazards() (out []string) {
	for _, h := range hazards {
		out = append(out, h.id)
	}
	return out
}
