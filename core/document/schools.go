package document

import (
	"cmp"
	"embed"
	"fmt"
	"slices"

	"cinderpath/core/measure"
	"cinderpath/core/table"
)

// School is a question on which practitioners disagree, with the answers that the
// program supports; the first is the default.
type School struct {
	ID      string   `json:"id"`
	Name    string   `json:"name"`
	Choices []string `json:"choices"`
	Why     string   `json:"why"`   // of the default
	Steps   bool     `json:"steps"` // it changes steps and their order
}

// The questions that change steps.
const (
	SchoolPieces     = "pieces"
	SchoolTracks     = "tracks"
	SchoolUndertone  = "undertone"
	SchoolLighten    = "lighten"
	SchoolTest       = "scale-lightening"
	SchoolRunning    = "running-gear"
	SchoolSkirts     = "skirts"
	SchoolStrict     = "strict"
	SchoolBright     = "bright"
	SchoolDisplay    = "display"
	SchoolWholeKit   = "whole-kit"
	SchoolWood       = "wood"
	SchoolTools      = "tools"
	SchoolWheels     = "wheels"
	SchoolTyres      = "tyres"
	SchoolJar        = "jar"
	SchoolHidden     = "hidden"
	SchoolDetails    = "details"
	SchoolUnderWash  = "under-wash"
	SchoolWornColour = "worn-colour"
	SchoolEarth      = "earth-tracks"
)

// Answers that the order asks for.
const (
	BuildThenPaint = "build, then paint"
	PaintThenBuild = "paint links, then build"
	EarthBefore    = "all before the tracks go on"
	EarthAfter     = "all after"
	ByEye          = "by eye, with a test piece"
	BlackMottle    = "black, light mottle"
	FromAbove      = "light from above"
	OwnShade       = "a darker own shade"
	TintingPrimer  = "dark primer that tints"
	LightGraded    = "graded shades as the colour coat"
	HiddenSkipped  = "skipped, shown"
	HandlesOnly    = "handles and bare chips only"
	ByColour       = "in groups by colour"
	OneByOne       = "one by one"
	Shaken         = "shaken"
	DoneAnyway     = "done anyway"
	PaintedRound   = "painted round"
	OverThinly     = "painted over thinly"
	SprayedThin    = "sprayed thin"
	RubbedBack     = "rubbed back"
	onTheModel     = "on the model, all together"
	NoUndertone    = "none"
	GluedEarly     = "glued before upper weathering"
	FitThenWeather = "fit, then weather"
	WeatherThenFit = "weather, then fit"
	LooseOrder     = "loose"
	LightSlight    = "slight"
	LightFull      = "yes"
	NoTest         = "none"
	GraphiteLast   = "graphite last"
	MetalEarly     = "metal paint, toned down"
	OnABase        = "on a base of its own"
	ByBrush        = "brush"
	ByCans         = "cans"
)

//go:embed tables/*.csv
var tables embed.FS

var schools = readSchools()

func readSchools() (out []School) {
	for _, r := range table.Read(tables, "schools") {
		out = append(out, School{
			ID:      r["id"],
			Name:    r["name"],
			Choices: r.List("choices"),
			Why:     r["why"],
			Steps:   r.Is("steps"),
		})
	}
	return out
}

// Schools lists the questions.
func Schools() []School { return slices.Clone(schools) }

// asked are questions by the names under which they were asked before.
var asked = map[string]string{"whole": SchoolWholeKit}

// School is a build's answer, or the default.
func (b Build) School(id string) string {
	if s := b.Schools[id]; s != "" {
		return s
	}
	for before, now := range asked {
		if s := b.Schools[before]; now == id && s != "" {
			return s
		}
	}
	if i := slices.IndexFunc(schools, func(s School) bool { return s.ID == id }); i >= 0 {
		return schools[i].Choices[0]
	}
	return ""
}

func checkSchools(chosen map[string]string) error {
	for id, answer := range chosen {
		i := slices.IndexFunc(schools, func(s School) bool { return s.ID == cmp.Or(asked[id], id) })
		if i < 0 {
			return measure.Refuse("schools", fmt.Sprintf("%q is not a question", id), "choose one of the list")
		}
		if answer != "" && !slices.Contains(schools[i].Choices, answer) {
			return measure.Refuse(
				"schools",
				fmt.Sprintf("%q is no answer to %s", answer, schools[i].Name),
				"choose one of those offered",
			)
		}
	}
	return nil
}
