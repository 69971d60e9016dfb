package bench

import (
	"fmt"
	"math"
	"slices"
	"strings"
)

// The stages of the path, in order.
const (
	Build  = "Build"
	Paint  = "Paint"
	Marks  = "Markings"
	Wear   = "Wear"
	Earth  = "Earth"
	Finish = "Finish"
)

// Stages lists them.
var Stages = []string{Build, Paint, Marks, Wear, Earth, Finish}

// Kind is a kind of step.
type Kind struct {
	ID      string   `json:"id"`
	Name    string   `json:"name"` // with %s where its subject goes
	Stage   string   `json:"stage"`
	SetUp   float64  `json:"setUpMin"`
	Per     float64  `json:"perUnitMin"`
	Unit    string   `json:"unit"` // cm2, piece, cm
	Place   string   `json:"place"`
	Split   bool     `json:"split"` // may be laid down and taken up again
	Lays    bool     `json:"lays"`  // puts its layer on
	Works   bool     `json:"works"` // goes on with a layer that is on: takes it back, softens it, lightens it
	Tools   []string `json:"tools"`
	Checks  []string `json:"checks"`  // before going on
	Hazards []string `json:"hazards"` // of Cautions
	Wrong   []string `json:"wrong"`   // ids of mishaps
}

const (
	atBench  = "bench"
	inBooth  = "booth"
	outdoors = "outdoors"
)

// l makes a list of words that are parted by bars.
func l(s string) []string {
	if s == "" {
		return []string{}
	}
	return strings.Split(s, "|")
}

// kinds is the step library. Minutes are starting values: set-up, then per cm² of the
// model and coat, per piece, or per cm of seam or edge.
var kinds = []Kind{
	{"receive", "Check what came: %s", Build, 5, 5, "piece", atBench, false, false, false, l("leaflet"), l("right subject|no bubbles|complete"), l(""), l("lost")},
	{"clean", "Clean the parts", Build, 40, 0, "piece", atBench, true, false, false, l("soft brush|soap|side cutters|knife"), l("no grease, no release agent"), l("blades"), l("lost")},
	{"cut", "Cut %s free", Build, 3, 4, "piece", atBench, true, false, false, l("side cutters|knife|sanding stick"), l("gates are flush"), l("blades"), l("lost")},
	{"free", "Free %s from its block", Build, 5, 12, "piece", atBench, true, false, false, l("razor saw|wet sanding stick"), l("no bubbles left open"), l("blades|dust"), l("lost")},
	{"cureprint", "Wash and cure %s", Build, 15, 2, "piece", atBench, false, false, false, l("gloves|curing light"), l("nothing sticky"), l("resin"), l("lost")},
	{"bend", "Cut, bend and clean %s", Build, 5, 6, "piece", atBench, true, false, false, l("bending pliers|fine file"), l("shaped before paint"), l("blades"), l("etched|lost")},
	{"dryfit", "Dry fit %s", Build, 5, 2, "piece", atBench, true, false, false, l("tape|clamps"), l("everything meets without force|nothing twists on a flat surface"), l(""), l("reversed")},
	{"drill", "Drill %s", Build, 4, 2, "piece", atBench, true, false, false, l("pin drill|needle"), l("the drill comes out where it should"), l("blades"), l("slip")},
	{"fillhole", "Fill %s", Build, 5, 4, "piece", atBench, true, false, false, l("filler|backing plate"), l("layers no deeper than 1 mm"), l("vapour"), l("shrunk")},
	{"shave", "Shave %s", Build, 3, 3, "piece", atBench, true, false, false, l("chisel blade|sanding stick"), l("nothing is felt with a nail"), l("blades"), l("slip")},
	{"inside", "Build in: %s", Build, 5, 6, "piece", atBench, true, false, false, l("tweezers|cement"), l("it is in before the halves close"), l("vapour"), l("cement")},
	{"insidepaint", "Paint the inside of the %s", Build, 12, 0.03, "cm2", inBooth, false, false, false, l("airbrush"), l("nothing pale is seen through a hatch"), l("spray"), l("run")},
	{"assemble", "Assemble %s", Build, 5, 7, "piece", atBench, true, false, false, l("liquid cement|clamps|flat plate"), l("square, flat and free of twist"), l("vapour"), l("cement|reversed")},
	{"fill", "Fill the seams of the %s", Build, 5, 0.25, "cm", atBench, true, false, false, l("filler|spatula"), l("each layer no deeper than 1 mm"), l("vapour"), l("shrunk")},
	{"sand", "Sand the seams of the %s", Build, 5, 0.5, "cm", atBench, true, false, false, l("sanding sticks, wet|water"), l("nothing is felt with a nail|lost lines are scribed again"), l("dust"), l("slip")},
	{"parts", "Fit parts to the %s", Build, 5, 4, "piece", atBench, true, false, false, l("tweezers|glue"), l("left and right as in the drawing|poses agree"), l("vapour"), l("cement|lost|reversed")},
	{"etchfit", "Fit etched parts to the %s", Build, 5, 6, "piece", atBench, true, false, false, l("tweezers|super glue|needle"), l("plastic first, then resin, then metal"), l("superglue"), l("cement|etched|lost")},
	{"tracks", "Assemble the tracks", Build, 5, 0.5, "piece", atBench, true, false, false, l("cement or pins|jig"), l("as many links as counted|the links run the right way"), l("vapour"), l("reversed|lost")},
	{"takeoff", "Take the tracks off in runs", Build, 10, 0, "piece", atBench, false, false, false, l("knife|sticks"), l("runs are marked left and right"), l("blades"), l("lost")},
	{"sticks", "Put parts on paint sticks: %s", Build, 5, 1.5, "piece", atBench, true, false, false, l("sticks|tape"), l("mating faces are covered"), l(""), l("lost")},
	{"degrease", "Degrease before primer", Paint, 10, 0, "piece", atBench, false, false, false, l("lint-free cloth|soft brush"), l("no finger touches it again"), l("fire"), l("")},
	{"prime", "", Paint, 12, 0.03, "cm2", inBooth, false, true, false, l("airbrush"), l("no flaw shows in raking light"), l("spray"), l("run|flaw|dustgrain")},
	{"mend", "Mend what the primer shows", Paint, 10, 0.02, "cm2", atBench, true, false, false, l("filler|sanding stick"), l("primed again where it was mended"), l("dust"), l("flaw")},
	{"shade", "Shade before colour", Paint, 12, 0.02, "cm2", inBooth, false, false, false, l("airbrush, fine"), l("it is stronger than you want it: colour will bury some"), l("spray"), l("run")},
	{"test", "Spray a test piece, compare", Paint, 12, 0, "piece", inBooth, false, false, false, l("airbrush|scrap|light of the place it will stand in"), l("corrected and the mix written down"), l("spray"), l("")},
	{"trial", "Try %s on scrap", Wear, 10, 0, "piece", atBench, false, false, false, l("scrap with the same ground"), l("tested dry, not wet"), l(""), l("")},
	{"colour", "", Paint, 12, 0.025, "cm2", inBooth, false, true, false, l("airbrush"), l("dry to the touch before the next|all sides seen, wheels and rear too"), l("spray"), l("run|spit|overspray")},
	{"mask", "Mask for %s", Paint, 10, 0.06, "cm2", atBench, true, false, false, l("tape|film|knife"), l("edges are pressed down"), l("blades"), l("bleed")},
	{"unmask", "Take the masks off", Paint, 5, 0.01, "cm2", atBench, false, false, false, l("tweezers"), l("pulled back on itself, slowly"), l(""), l("bleed")},
	{"wheelmask", "Paint the tyres of %s", Paint, 10, 2.5, "piece", atBench, true, false, false, l("tape discs|brush"), l("back faces too"), l("blades"), l("bleed")},
	{"lighten", "Lighten panels and edges", Paint, 12, 0.015, "cm2", inBooth, false, false, true, l("airbrush, fine"), l("it can hardly be seen: washes will show it"), l("spray"), l("run")},
	{"chipping_coat", "", Paint, 12, 0.03, "cm2", inBooth, false, true, false, l("airbrush"), l("even, not wet"), l("spray"), l("lifts|leftcoat")},
	{"details", "Paint details: %s", Marks, 10, 6, "piece", atBench, true, false, false, l("fine brushes|slips of paper"), l("wood, metal, leather, lamps|lamps in silver, then clear colour"), l(""), l("cement")},
	{"decals", "", Marks, 20, 8, "piece", atBench, true, true, false, l("water|tweezers|setting fluid|soft brush"), l("no air beneath"), l(""), l("silver")},
	{"softener", "Softener on the decals, round %s", Marks, 5, 2, "piece", atBench, false, false, true, l("softener|brush"), l("not touched while it wrinkles"), l("fire"), l("silver")},
	{"clear", "", Marks, 12, 0.02, "cm2", inBooth, false, true, false, l("airbrush|dust-free box"), l("even in raking light"), l("spray"), l("dustgrain|run")},
	{"filter", "", Wear, 5, 0.03, "cm2", atBench, true, true, false, l("broad brush"), l("no pools"), l("fire|vapour"), l("wash")},
	{"wash", "", Wear, 5, 0.10, "cm2", atBench, true, true, false, l("fine brush|thinner"), l("only where it should be"), l("fire|vapour"), l("wash|oldwash")},
	{"takeback", "Take back the %s", Wear, 4, 0.04, "cm2", atBench, false, false, true, l("nearly dry brush|thinner|cotton bud"), l("no tide marks"), l("fire|vapour"), l("wash|oldwash")},
	{"chips", "", Wear, 5, 0.12, "cm2", atBench, true, true, false, l("sponge|finest brush"), l("less than you think; edges and paths of the crew first"), l(""), l("")},
	{"chipping_work", "", Wear, 10, 0.10, "cm2", atBench, false, true, false, l("warm water|stiff brush|toothpick"), l("stopped before it is too much"), l(""), l("lifts")},
	{"rinse", "Rinse or seal what is left of the chipping coat", Wear, 10, 0.01, "cm2", atBench, false, false, false, l("water|soft brush"), l("nothing sticky is left"), l(""), l("leftcoat")},
	{"streaks", "", Wear, 5, 0.08, "cm2", atBench, true, true, false, l("fine brush|flat brush, damp with thinner"), l("down the fall line"), l("fire|vapour"), l("wash")},
	{"rust", "", Wear, 5, 0.08, "cm2", atBench, true, true, false, l("fine brush|sponge"), l("sparing on armour"), l("fire|vapour"), l("wash")},
	{"dots", "", Wear, 5, 0.06, "cm2", atBench, true, true, false, l("oils on card|flat brush"), l("down on sides, in circles on flats"), l("fire|vapour"), l("wash")},
	{"dust", "", Earth, 5, 0.08, "cm2", atBench, true, true, false, l("flat brush|thinner"), l("less and less going up"), l("fire|vapour"), l("wash")},
	{"mud", "", Earth, 10, 0.12, "cm2", atBench, true, true, false, l("old brush|spatula"), l("wheels and tracks still go on|what turns still turns"), l("dust"), l("noroom")},
	{"splash", "", Earth, 5, 0.03, "cm2", atBench, true, true, false, l("stiff brush|stick"), l("up and against the direction of travel"), l("fire"), l("wash")},
	{"wet", "", Earth, 5, 0.05, "cm2", atBench, true, true, false, l("fine brush"), l("few places, darker and shinier"), l("fire"), l("wash")},
	{"pigment", "", Earth, 5, 0.08, "cm2", atBench, true, true, false, l("soft brush|pipette"), l("not touched until fixed"), l("dust"), l("")},
	{"fix", "", Earth, 5, 0.02, "cm2", atBench, false, true, false, l("pipette"), l("capillary touch, no brush"), l("fire|vapour"), l("dustgrain")},
	{"grease", "Grease, fuel and oil", Earth, 5, 2, "piece", atBench, true, true, false, l("fine brush"), l("hubs, real fillers, engine deck"), l("fire|vapour"), l("wash")},
	{"soot", "Soot at the exhaust", Earth, 5, 3, "piece", atBench, true, true, false, l("black pigment|soft brush"), l("fades with the stream"), l("dust"), l("")},
	{"metal", "", Finish, 5, 0.05, "cm2", atBench, true, true, false, l("graphite|cloth"), l("only where metal meets metal"), l(""), l("")},
	{"touchup", "Touch up from the kept mix", Finish, 15, 0, "piece", atBench, true, false, false, l("kept mix|fine brush"), l("gates, tweezers' marks, joints"), l(""), l("")},
	{"fit", "Put back: %s", Finish, 8, 4, "piece", atBench, false, false, false, l("white glue|tweezers"), l("held only where it is dry|left and right as in the drawing"), l(""), l("cement|lost|cable|reversed")},
	{"fitgear", "Put wheels and tracks back on", Finish, 15, 2, "piece", atBench, false, false, false, l("jig|glue"), l("arms and links run the right way|all wheels touch the ground"), l(""), l("reversed|noroom|cement")},
	{"handed", "Check left and right against the drawing", Finish, 5, 0.5, "piece", atBench, false, false, false, l("drawing of both sides"), l("arms left and right|links run the right way"), l(""), l("reversed")},
	{"sheen", "Decide the sheen: matt, satin, gloss", Finish, 10, 0.005, "cm2", atBench, true, false, false, l("clear coats|fine brush"), l("satin on worn rubber|gloss on oil and glass"), l(""), l("")},
	{"base", "Make the base", Finish, 30, 0.15, "cm2", atBench, true, false, false, l("board|groundwork|same earth mixes"), l("same earth as on the vehicle"), l("dust|screws"), l("figure")},
	{"mount", "Fix the vehicle on its base", Finish, 20, 0, "piece", atBench, false, false, false, l("screw or epoxy"), l("gaps at the tracks are filled"), l("screws"), l("")},
	{"record", "Photograph it and close the record", Finish, 20, 0, "piece", atBench, false, false, false, l("camera|neutral ground"), l("mixes labelled or thrown away"), l(""), l("")},
	{"repair", "Repair: %s", Wear, 5, 0, "piece", atBench, false, false, false, l("as the repair says"), l("as it was before"), l(""), l("")},
	{"own", "%s", Build, 0, 0, "piece", atBench, true, false, false, l(""), l(""), l(""), l("")},
	{"flush", "Flush the airbrush", Paint, 4, 0, "piece", inBooth, false, false, false, l("thinner|cleaning brush"), l("runs clear"), l("vapour|pressure"), l("")},
	{"strip", "Strip and clean the airbrush", Paint, 15, 0, "piece", inBooth, false, false, false, l("thinner|cleaning brushes|wrench"), l("needle straight, tip clear"), l("vapour|pressure"), l("")},
}

// Kinds lists the step library.
func Kinds() []Kind { return slices.Clone(kinds) }

// KindOf looks a kind up; an unknown one is a step of one's own.
func KindOf(id string) Kind {
	if i := slices.IndexFunc(kinds, func(k Kind) bool { return k.ID == id }); i >= 0 {
		return kinds[i]
	}
	k := kinds[slices.IndexFunc(kinds, func(k Kind) bool { return k.ID == "own" })]
	k.ID = id
	return k
}

// Minutes is the hands-on time of a step over so many of its units and coats, before
// anything was learned, whole minutes; and how it comes about.
func (k Kind) Minutes(units float64, coats int) (minutes float64, inputs []string) {
	minutes = math.Ceil(k.SetUp + k.Per*units*float64(max(coats, 1)))
	inputs = []string{fmt.Sprintf("set-up %.0f min", k.SetUp)}
	unit := map[string]string{"cm2": "cm² on the model", "piece": "pieces", "cm": "cm on the model"}[k.Unit]
	if k.Per > 0 {
		inputs = append(inputs, fmt.Sprintf("%.0f %s", units, unit), fmt.Sprintf("%.3g min for each, a starting value", k.Per))
	}
	if coats > 1 {
		inputs = append(inputs, fmt.Sprintf("%d coats", coats))
	}
	return minutes, inputs
}

const deferTo = "Follow the product's safety sheet and your local rules."

// hazards are short cautions, each ending in whose word counts.
var hazards = map[string]string{
	"vapour":    "Vapour and fire: booth or open air, the right respirator cartridges, no flame. " + deferTo,
	"fire":      "Fire: no flame near thinner; lay oily rags flat outdoors or keep them wet in a closed tin. " + deferTo,
	"spray":     "Spray mist: booth or open air and a mask that fits; let the pressure off before opening the airbrush. " + deferTo,
	"resin":     "Uncured resin: nitrile gloves, eye protection; cure the waste before throwing it away. " + deferTo,
	"dust":      "Dust: sand wet, a particle mask; wipe, do not blow. " + deferTo,
	"blades":    "Blades: cut away from the hand, with a sharp blade; eye protection when nipping metal. " + deferTo,
	"superglue": "Super glue: thin layers, air the room; never pull bonded skin apart, use warm soapy water. " + deferTo,
	"screws":    "Tools: clamp the work, eye protection. " + deferTo,
	"pressure":  "Pressure: let it off before opening; ear protection where the compressor is loud. " + deferTo,
}

// Cautions of a kind of step.
func (k Kind) Cautions() []string {
	out := []string{}
	for _, h := range k.Hazards {
		if words, ok := hazards[h]; ok {
			out = append(out, words)
		}
	}
	return out
}
