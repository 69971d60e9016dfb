package paint

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"cinderpath/core/colour"
	"cinderpath/core/measure"
)

// State is how it stands with a jar.
type State string

// The states of a jar.
const (
	Fine    State = "fine"
	Settled State = "settled"  // stir
	HalfDry State = "half dry" // thin and strain
	Expired State = "expired"  // test first
	Empty   State = "empty"    // buy
	Ordered State = "ordered"  // arrives on a day
)

// States lists them.
var States = []State{Fine, Settled, HalfDry, Expired, Empty, Ordered}

// Temper is how one jar wants to be treated: it rules over what its family usually wants.
type Temper struct {
	Thinner  *float64 `json:"thinner,omitempty"`  // parts to one of paint, by airbrush
	Brush    *float64 `json:"brush,omitempty"`    // parts to one of paint, by brush
	Pressure float64  `json:"pressure,omitempty"` // bar; 0 as the family
	Coats    int      `json:"coats,omitempty"`    // that it wants; 0 as planned
	Note     string   `json:"note,omitempty"`     // such as "crawls when thinned"
}

// Trial is a test piece, sprayed and dried, against what had been forecast.
type Trial struct {
	On         string  `json:"on"`                  // date
	Forecast   string  `json:"forecast"`            // swatch
	Seen       string  `json:"seen"`                // swatch
	Difference float64 `json:"difference"`          // ΔE00 between them
	Beside     string  `json:"beside,omitempty"`    // the jar or the mix it was held against, by name once it is kept
	Apart      float64 `json:"apart,omitempty"`     // ΔE00 to it
	Corrected  bool    `json:"corrected,omitempty"` // the swatch was set right by it
}

// Jar is one container on the shelf.
type Jar struct {
	ID      string       `json:"id"`
	Number  int          `json:"number,omitempty"` // on the shelf
	Name    string       `json:"name"`
	Family  string       `json:"family"`           // what it holds, of families or fluids
	Hex     string       `json:"hex,omitempty"`    // as the eye sees it, dry
	Sheen   colour.Sheen `json:"sheen,omitempty"`  // with which that is seen; as the family's where empty
	Hiding  Hiding       `json:"hiding,omitempty"` // contrast ratio; 0 where it is not known
	Solids  float64      `json:"solids,omitempty"` // by volume; 0 as the family's
	Volume  float64      `json:"volumeMl"`         // as sold
	Left    float64      `json:"leftMl"`
	Opened  string       `json:"opened,omitempty"` // dates
	Stirred string       `json:"stirred,omitempty"`
	Best    string       `json:"bestBefore,omitempty"`
	Place   string       `json:"place,omitempty"` // cap colour, drawer
	Price   float64      `json:"price,omitempty"`
	State   State        `json:"state"`
	Arrives string       `json:"arrives,omitempty"` // of what is ordered, a date
	Temper  *Temper      `json:"temper,omitempty"`

	Since     time.Time `json:"since,omitzero"`          // when its level was said; later use takes from it
	ArrivesIn *int      `json:"arrivesInDays,omitempty"` // samples: from the moment of loading

	Trials []Trial  `json:"trials,omitempty"`
	Chips  []string `json:"chips,omitempty"` // photographs of sprayed chips, hashes of files of the workshop
}

// mostChips is how many photographs a jar has at most.
const mostChips = 6

// Limits of a jar.
const (
	MostJars   = 400
	MostMixes  = 200
	mostTrials = 60
	MostVolume = 5000.0 // ml
	longName   = 120
	longNote   = 400
)

// Said is a jar by number and name, as it stands on the shelf.
func (j Jar) Said() string {
	if j.Number > 0 {
		return fmt.Sprintf("%02d %s", j.Number, j.Name)
	}
	return j.Name
}

// Check reports the first fault of a jar.
func (j Jar) Check() error {
	_, known := kindName(j.Family)
	switch {
	case j.ID == "":
		return measure.Refuse("id", "a jar needs an identity", "give it a UUID")
	case strings.TrimSpace(j.Name) == "":
		return measure.Refuse("name", "nothing is written", "say what the jar holds, such as lichen green")
	case len(j.Name) > longName || len(j.Place) > longName:
		return measure.Refuse("name", fmt.Sprintf("longer than %d characters", longName), "shorten it")
	case !known:
		return measure.Refuse("family", fmt.Sprintf("%q is not a kind of product", j.Family), "choose one of the table")
	case j.Number < 0 || j.Number > 9999:
		return measure.Refuse("number", fmt.Sprintf("number %d", j.Number), "give 1 to 9999, or leave it out")
	case j.Sheen != "" && !slices.Contains([]colour.Sheen{colour.Gloss, colour.Satin, colour.Matt, colour.Loose}, j.Sheen):
		return measure.Refuse("sheen", fmt.Sprintf("%q is not a sheen", j.Sheen), "use gloss, satin, matt or none")
	case j.Hiding != 0 && !(j.Hiding >= 0.02 && j.Hiding <= Black):
		return measure.Refuse(
			"hiding",
			fmt.Sprintf("a contrast ratio of %g", float64(j.Hiding)),
			"give 0.02 to 0.995, or a word",
		)
	case !(j.Solids >= 0 && j.Solids <= 1):
		return measure.Refuse("solids", fmt.Sprintf("%g by volume", j.Solids), "give 0 to 1; 0 for what its family has")
	case !(j.Volume >= 0 && j.Volume <= MostVolume) || !(j.Left >= 0 && j.Left <= MostVolume):
		return measure.Refuse(
			"leftMl",
			"more than a jar holds, or less than nothing",
			fmt.Sprintf("give 0 to %.0f ml", MostVolume),
		)
	case !slices.Contains(States, j.State):
		return measure.Refuse("state", fmt.Sprintf("%q is not a state of a jar", j.State), "use "+words(States))
	case len(j.Chips) > mostChips:
		return measure.Refuse("chips", fmt.Sprintf("%d photographs", len(j.Chips)), fmt.Sprintf("keep %d at most", mostChips))
	case len(j.Trials) > mostTrials:
		return measure.Refuse("trials", fmt.Sprintf("more than %d", mostTrials), "take old ones out")
	}
	if j.Hex != "" {
		if _, err := colour.Parse(j.Hex); err != nil {
			return measure.At("hex", err)
		}
	}
	for _, d := range []struct{ field, date string }{
		{"opened", j.Opened}, {"stirred", j.Stirred}, {"bestBefore", j.Best}, {"arrives", j.Arrives},
	} {
		if err := checkDate(d.field, d.date); err != nil {
			return err
		}
	}
	if t := j.Temper; t != nil && t.beyond() {
		return measure.Refuse("temper", "its thinning, pressure, coats or note are out of reach",
			fmt.Sprintf("give 0 to 40 parts of thinner, 0 to 4 bar, 0 to 20 coats, a note of at most %d characters", longNote))
	}
	return nil
}

// beyond tells of what no jar wants.
func (t Temper) beyond() bool {
	return len(t.Note) > longNote || wrong(t.Thinner) || wrong(t.Brush) ||
		t.Coats < 0 || t.Coats > 20 || !(t.Pressure >= 0 && t.Pressure <= 4)
}

func wrong(thinner *float64) bool { return thinner != nil && !(*thinner >= 0 && *thinner <= 40) }

func checkDate(field, date string) error {
	if date == "" {
		return nil
	}
	if _, err := time.Parse(time.DateOnly, date); err != nil {
		return measure.Refuse(field, fmt.Sprintf("%q is not a date", date), "write it like 2026-11-26")
	}
	return nil
}

func words[T ~string](all []T) string {
	var out []string
	for _, s := range all {
		out = append(out, string(s))
	}
	return strings.Join(out, ", ")
}

// Fresh tells of a jar that was never opened, as far as one knows: full, with no date of opening and
// no test piece.
func (j Jar) Fresh() bool {
	return j.Opened == "" && len(j.Trials) == 0 && j.Volume > 0 && j.Left >= j.Volume && j.State == Fine
}

// Hides is the jar's hiding, by what its family usually has where it is not known.
func (j Jar) Hides() Hiding {
	switch {
	case j.Hiding > 0:
		return j.Hiding
	case strings.HasPrefix(j.Family, "enamel_effect"), j.Family == "acrylic_wash", j.Family == "clear_colour":
		return Glaze
	case j.Family == "pigment_dry", j.Family == "pigment_wet", j.Family == "pastel", strings.HasPrefix(j.Family, "oil"):
		return 0.7
	}
	return Good
}

// seenWith is the sheen with which the jar's swatch is seen.
func (j Jar) seenWith() colour.Sheen {
	if j.Sheen != "" {
		return j.Sheen
	}
	f, _ := FamilyOf(j.Family)
	switch s := colour.Sheen(f.Sheen); s {
	case colour.Gloss, colour.Satin, colour.Matt, colour.Loose:
		if f.ID == "pigment_dry" || f.ID == "pastel" {
			return colour.Loose
		}
		return s
	}
	return colour.Matt
}

// Paint is what is known of a jar from looking at it; ok is false of what has no colour.
func (j Jar) Paint() (p Paint, ok bool) {
	c, err := colour.Parse(j.Hex)
	f, known := FamilyOf(j.Family)
	if err != nil || !known {
		return p, false
	}
	p = Paint{Swatch: c, Sheen: j.seenWith(), Hiding: j.Hides(), Solids: j.Solids}
	if p.Solids == 0 {
		p.Solids = f.Solids
	}
	return p, p.Solids > 0
}

// Tried says how far test pieces were from what had been forecast; nothing where there are none.
func (j Jar) Tried() string {
	if len(j.Trials) == 0 {
		return ""
	}
	sum := 0.0
	for _, t := range j.Trials {
		sum += t.Difference
	}
	mean := sum / float64(len(j.Trials))
	return fmt.Sprintf("%d sprayed; the swatch was off by ΔE00 %.1f in the mean: %s", len(j.Trials), mean, Words(mean))
}

// Held compares what a trial was seen as with the pot that it was held against, of which the trial
// gives the id; it is named from then on.
func (t Trial) Held(s Shelf) Trial {
	p, ok := s.Pot(t.Beside)
	if !ok || !p.Seen {
		return t
	}
	t.Beside, t.Apart = p.Name, colour.Difference(colour.Of(t.Seen).Lab(), p.Paint.Swatch.Lab())
	return t
}

// There tells whether a jar can be worked from on a day: it is on the shelf and not empty.
func (j Jar) There(day string) bool {
	switch j.State {
	case Empty:
		return false
	case Ordered:
		return j.Arrives != "" && day != "" && j.Arrives <= day
	}
	return j.Left > 0
}

// Past tells whether a jar is beyond its date on a day.
func (j Jar) Past(day string) bool {
	return j.State == Expired || j.Best != "" && day != "" && j.Best < day
}

// unstirred is after how many days a jar wants stirring (P11).
const unstirred = 180

// Unstirred tells of a jar that was last stirred long before a day.
func (j Jar) Unstirred(day string) bool {
	last := max(j.Stirred, j.Opened)
	from, err := time.Parse(time.DateOnly, last)
	now, errNow := time.Parse(time.DateOnly, day)
	return last != "" && err == nil && errNow == nil && now.Sub(from) > unstirred*24*time.Hour
}

// Note is what is to be minded of a jar on a day; nothing of most.
func (j Jar) Note(day string) string {
	switch {
	case j.State == Ordered && j.Arrives != "":
		return "on order, arrives " + j.Arrives
	case j.State == Ordered:
		return "on order"
	case j.State == Empty || j.Left <= 0:
		return "empty: buy"
	case j.Past(day):
		return "past its date: a trial first"
	case j.State == HalfDry:
		return "half dry: thin and strain"
	case j.State == Settled || j.Unstirred(day):
		return "settled: stir well"
	case j.Volume > 0 && j.Left < j.Volume/8:
		return "nearly out"
	}
	return ""
}
