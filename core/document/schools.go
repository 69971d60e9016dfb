package document

import (
	"fmt"
	"slices"

	"cinderpath/core/kit"
	"cinderpath/core/measure"
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
	SchoolPieces    = "pieces"
	SchoolTracks    = "tracks"
	SchoolUndertone = "undertone"
	SchoolLighten   = "lighten"
	SchoolTest      = "scale-lightening"
	SchoolRunning   = "running-gear"
	SchoolSkirts    = "skirts"
	SchoolStrict    = "strict"
	schoolWheels    = "wheels"
	SchoolBright    = "bright"
	SchoolDisplay   = "display"
)

// Answers that the order asks for.
const (
	BuildThenPaint = "build, then paint"
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
)

var schools = []School{
	{SchoolPieces, "Paint in pieces or built", []string{kit.Mixed, kit.Pieces, kit.BuiltUp}, "running gear, skirts and what blocks decals apart; tools on", true},
	{SchoolTracks, "Tracks", []string{BuildThenPaint, "paint links, then build", onTheModel}, "built on the model, taken off in sections, painted, put back late", true},
	{SchoolUndertone, "Undertone", []string{"dark recesses, light mottle", "black, light mottle", "light from above", "a darker own shade", "dark primer that tints", NoUndertone}, "it shows where the colour above is thin enough", true},
	{SchoolLighten, "Panels lightened after colour", []string{LightSlight, LightFull, "graded shades as the colour coat", "no"}, "uneven coats do most of it", true},
	{SchoolTest, "Scale lightening", []string{"by rule, with a test piece", "by eye, with a test piece", NoTest}, "numbers are shown, the eye decides", true},
	{SchoolRunning, "Running gear", []string{"removable to the end", GluedEarly}, "the lower hull stays in reach", true},
	{SchoolSkirts, "Skirts", []string{"split: paint wear before, earth after", WeatherThenFit, FitThenWeather}, "what is forced on may lose its loose layers", true},
	{schoolWheels, "Wheels", []string{"the quicker in minutes", "hub first, masked", "rubber first, hub through a template", "rim by brush"}, "minutes decide", true},
	{SchoolStrict, "Strict order", []string{"strict for what damages", LooseOrder}, "advice for the rest", true},
	{SchoolBright, "Bright metal on tracks", []string{GraphiteLast, MetalEarly, "never metal paint"}, "washes dull it", true},
	{SchoolDisplay, "Shown", []string{"on a shelf", OnABase}, "a base is work of its own", true},
	{"filter", "Filter", []string{"by the number of colours", "yes", "no: a thinner wash does it"}, "it ties several colours together, and one colour needs none", false},
	{"clear", "Clear coat before the wash", []string{"yes", "no"}, "it is the undo point", false},
	{"wash", "Wash", []string{"only into detail", "all over"}, "the panels keep their colour", false},
	{"wash-tone", "Wash tone", []string{"dark brown", "black", "a darker tone of the ground colour"}, "dark brown on green and yellow", false},
	{"wash-tones", "Tones of wash", []string{"one", "light in some recesses, dark in others"}, "two for heavy earth", false},
	{"chipping", "Chipping depth", []string{"lighter, then dark core", "lighter paint only", "rust in the deepest"}, "scrapes rarely reach metal", false},
	{"chipping-means", "Chipping means", []string{"sponge and brush", "brush", "chipping coat", "none"}, "a chipping coat for winter wash", false},
	{"dry-brush", "Dry brushing", []string{"sparing", "never"}, "rims, bolts and tracks", false},
	{"dust", "Dust", []string{"enamel, blended", "acrylic, many thin coats", "oil, blended", "pigment, fixed", "airbrushed mist", "pastel"}, "enamel low, thin coats on sides", false},
	{"mud", "Mud", []string{"paste", "acrylic texture", "pigment, flicked", "plaster and oil"}, "paste below, flicked pigment above", false},
	{"mud-colour", "Mud's colour", []string{"volume first, colour after", "coloured paste"}, "where depth matters", false},
	{"earth-tones", "Earth tones", []string{"light to dark", "dark to light"}, "the last is the wettest", false},
	{"pigment", "Pigment carrier", []string{"enamel thinner", "dry", "acrylic thinner", "acrylic-bound"}, "thinner on hulls, dry on flats", false},
	{"splashes", "Splashes", []string{"flicked brush", "airbrush spatter", "blown off a brush"}, "the least to clean", false},
	{"tyres", "Tyres and rubber", []string{"grey-black", "black", "faded brown-grey"}, "rubber is never quite black", false},
	{"highlights", "Highlights on detail", []string{"painted, low contrast", "enamel, wiped", "dry brush", "none"}, "detail is read, not outlined", false},
	{"tools", "Tools", []string{"metal painted", "handles and bare chips only"}, "tools are painted with the vehicle or not: choose", false},
	{"wood", "Wood", []string{"light to dark", "dark to light"}, "the grain goes on last", false},
	{"chips-decals", "Chips and decals", []string{"chips over decals", "chips before decals"}, "markings wear as the paint does", false},
	{"hidden", "Hidden work", []string{"skipped, shown", "done anyway"}, "minutes for what is seen", false},
	{"whole", "Whole kit by", []string{"airbrush", "brush", "cans"}, "thin coats", false},
	{"jar", "Jar", []string{"stirred", "shaken"}, "foam; strained if home-made", false},
	{"rust", "Rust on armour", []string{"by story", "none", "sparing", "heavy"}, "armour hardly rusts in a short service life", false},
	{"accuracy", "Accuracy", []string{"as the references", "as it looks best"}, "each exaggeration is recorded", false},
}

// Schools lists the questions.
func Schools() []School { return slices.Clone(schools) }

// School is a build's answer, or the default.
func (b Build) School(id string) string {
	if s := b.Schools[id]; s != "" {
		return s
	}
	if i := slices.IndexFunc(schools, func(s School) bool { return s.ID == id }); i >= 0 {
		return schools[i].Choices[0]
	}
	return ""
}

func checkSchools(chosen map[string]string) error {
	for id, answer := range chosen {
		i := slices.IndexFunc(schools, func(s School) bool { return s.ID == id })
		if i < 0 {
			return measure.Refuse("schools", fmt.Sprintf("%q is not a question", id), "choose one of the list")
		}
		if answer != "" && !slices.Contains(schools[i].Choices, answer) {
			return measure.Refuse("schools", fmt.Sprintf("%q is no answer to %s", answer, schools[i].Name), "choose one of those offered")
		}
	}
	return nil
}
