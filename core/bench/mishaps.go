package bench

import "slices"

// Move is one step of a repair.
type Move struct {
	Title   string  `json:"title"`
	Minutes float64 `json:"minutes"`
	Wait    float64 `json:"waitMin"` // after it, before the next, at 20 °C and 50 % humidity
	Water   bool    `json:"water,omitempty"`
	Place   string  `json:"place,omitempty"`
	Paints  bool    `json:"paints,omitempty"` // with the kept mix of the layer that was hurt
}

// Mishap is something that goes wrong at the bench, with its repair.
type Mishap struct {
	ID     string   `json:"id"`
	Name   string   `json:"name"`
	Words  string   `json:"words"` // of the repair, in one line
	Moves  []Move   `json:"moves"`
	Above  bool     `json:"above"`           // the layers above are repeated there
	Leave  string   `json:"leave,omitempty"` // when it may be left
	Stages []string `json:"stages"`          // where it happens
	Lost   bool     `json:"lost,omitempty"`  // the part is gone
}

var anywhere = Stages

// mishaps follow the handbook's table.
var mishaps = []Mishap{
	{"cement", "cement or super-glue mark on a painted face", "let it harden, sand back, re-prime the spot, respray from the kept mix, gloss, then repeat the layers that lay above",
		[]Move{{"Let the mark harden, sand it back", 10, 0, false, "", false}, {"Re-prime the spot", 8, 60, true, inBooth, false}, {"Respray the spot from the kept mix", 12, 60, true, inBooth, true}, {"Gloss the spot", 8, 60, true, inBooth, false}}, true, "a later texture covers it", []string{Paint, Marks, Wear, Earth, Finish}, false},
	{"run", "paint run or blob", "let it dry fully, level, respray", []Move{{"Level the run with wet sanding", 10, 0, false, "", false}, {"Respray there", 12, 60, true, inBooth, true}}, false, "the next colour or mud covers it", []string{Paint, Marks}, false},
	{"spit", "the airbrush spits", "stop, strip and clean the airbrush; let it dry; level; respray", []Move{{"Strip and clean the airbrush", 15, 0, false, inBooth, false}, {"Level the specks", 8, 0, false, "", false}, {"Respray there", 12, 60, true, inBooth, true}}, false, "the next colour covers it", []string{Paint, Marks}, false},
	{"overspray", "overspray", "touch in with the colour beneath once dry", []Move{{"Touch in with the colour beneath", 12, 40, true, "", true}}, false, "dust or mud will lie there", []string{Paint}, false},
	{"bleed", "bleed under a mask", "touch in with the colour beneath once dry", []Move{{"Touch in with the colour beneath", 12, 40, true, "", true}}, false, "dust or mud will lie there", []string{Paint, Marks}, false},
	{"wash", "too much wash or oil, tide marks", "take back with its own thinner, the brush nearly dry, inside its working time", []Move{{"Take it back with its own thinner, brush nearly dry", 12, 60, false, "", false}}, false, "dust covers it", []string{Wear, Earth}, false},
	{"oldwash", "wash left for days", "it has set: re-apply a lighter tone or metal on top", []Move{{"Lighter tone over the set wash", 15, 240, false, "", true}}, false, "it reads as grime", []string{Wear, Earth}, false},
	{"silver", "decal silvered or will not settle", "prick, softener in rounds, then wash and matt over it", []Move{{"Prick the decal, softener, first round", 8, 30, true, "", false}, {"Softener, second round", 5, 30, true, "", false}, {"Softener, third round", 5, 240, true, "", false}}, false, "dust will hide it", []string{Marks, Wear}, false},
	{"dustgrain", "varnish has caught dust", "lift with a blade tip, brush off, recoat", []Move{{"Lift the grains with a blade tip, brush off", 8, 0, false, "", false}, {"Recoat there", 10, 60, true, inBooth, false}}, false, "earth lies there anyway", []string{Paint, Marks, Wear, Earth}, false},
	{"slip", "cement run or slipped blade on bare plastic", "let it cure overnight, sand, re-scribe lost lines", []Move{{"Sand the spot, re-scribe lost lines", 15, 0, false, "", false}}, false, "a fitting or mud covers it", []string{Build}, false},
	{"shrunk", "filler has shrunk", "fill again in a thin layer", []Move{{"Fill again, thin", 8, 720, false, "", false}, {"Sand it", 10, 0, false, "", false}}, false, "a fitting covers it", []string{Build}, false},
	{"etched", "etched part sheds paint when bent in", "touch up", []Move{{"Touch up the bare metal", 8, 40, true, "", true}}, false, "it reads as wear", []string{Paint, Marks, Wear, Earth, Finish}, false},
	{"flaw", "flaw found late", "mend it, prime and paint the spot", []Move{{"Fill and sand the flaw", 12, 240, false, "", false}, {"Re-prime the spot", 8, 60, true, inBooth, false}, {"Respray the spot from the kept mix", 12, 60, true, inBooth, true}}, true, "a later texture covers it", []string{Paint, Marks, Wear, Earth}, false},
	{"lifts", "chipping coat lifts too much", "touch in by brush; seal before it is wetted again", []Move{{"Touch in by brush", 12, 40, true, "", true}, {"Seal it before it is wetted again", 8, 60, true, inBooth, false}}, false, "heavy wear is wanted there", []string{Wear}, false},
	{"leftcoat", "chipping coat left under parts not worked", "rinse it off before the next paint", []Move{{"Rinse off what is left of the chipping coat", 10, 60, true, "", false}}, false, "", []string{Paint, Wear, Earth}, false},
	{"lost", "part broken or lost", "rebuild it from wire, thread or sheet; paint it again", []Move{{"Rebuild the part from wire, thread or sheet", 30, 720, false, "", false}, {"Prime and paint the new part", 15, 60, true, inBooth, true}}, true, "leave it off and write it into the story", anywhere, true},
	{"cable", "cable snaps when bent", "make one from twisted thread or wire, stiffened with thinned varnish", []Move{{"Twist a new cable, stiffen it with thinned varnish", 20, 60, true, "", false}}, true, "", []string{Build, Paint, Finish}, true},
	{"noroom", "mud leaves no room for the wheel", "cut back before it hardens; check the clearance", []Move{{"Cut the mud back, turn the wheel", 12, 0, false, "", false}}, false, "", []string{Earth, Finish}, false},
	{"reversed", "track reversed or arm backwards", "take it off and put it on as in the drawing", []Move{{"Take it off, put it on as in the drawing", 25, 30, false, "", false}}, false, "it is hidden by a skirt", []string{Build, Finish}, false},
	{"figure", "figure too hard", "leave it out; it never holds up the vehicle", []Move{}, false, "it never holds up the vehicle", []string{Finish}, false},
	{"spilled", "jar spilled or dried up", "mix again from the written recipe, compare with a test piece", []Move{{"Mix again from the recipe, compare on scrap", 15, 40, true, "", false}}, false, "", anywhere, false},
}

// Mishaps lists what goes wrong; of one stage, or of all when it is empty. What is
// usual for a kind of step comes first.
func Mishaps(stage, kind string) []Mishap {
	var out []Mishap
	for _, m := range mishaps {
		if stage == "" || slices.Contains(m.Stages, stage) {
			out = append(out, m)
		}
	}
	usual := KindOf(kind).Wrong
	slices.SortStableFunc(out, func(a, b Mishap) int {
		x, y := slices.Contains(usual, a.ID), slices.Contains(usual, b.ID)
		switch {
		case x == y:
			return 0
		case x:
			return -1
		default:
			return 1
		}
	})
	return out
}

// MishapOf looks a mishap up.
func MishapOf(id string) (Mishap, bool) {
	i := slices.IndexFunc(mishaps, func(m Mishap) bool { return m.ID == id })
	if i < 0 {
		return Mishap{}, false
	}
	return mishaps[i], true
}
