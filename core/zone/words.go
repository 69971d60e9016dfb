package zone

import "strings"

// wording says parts of names that do not read as they stand.
var wording = map[string]string{
	"hull":            "upper hull",
	"lower":           "lower hull",
	"gear":            "running gear",
	"road":            "road wheels",
	"return":          "return rollers",
	"tyre":            "wheels",
	rubber:            "tyres",
	track:             "track",
	"driver-hatch":    "driver's hatch",
	"loader-hatch":    "loader's hatch",
	"gunner-hatch":    "gunner's hatch",
	"commander-hatch": "commander's hatch",
}

// Words says a zone as people say it: "upper hull, driver's hatch left". A part alone is
// its name.
func Words(name string) string {
	if name == "" {
		return "the whole vehicle"
	}
	parts := strings.Split(name, ".")
	for i, p := range parts {
		if w, ok := wording[p]; ok {
			parts[i] = w
		} else {
			parts[i] = strings.ReplaceAll(p, "-", " ")
		}
	}
	switch {
	case len(parts) == 1:
		return parts[0]
	case Part(name) == gear && len(parts) == 3: // gear.left.road
		return parts[0] + ", " + parts[2] + " " + parts[1]
	case Part(name) == gear && len(parts) == 4: // gear.left.road.2
		return parts[0] + ", " + strings.TrimSuffix(parts[2], "s") + " " + parts[3] + " " + parts[1]
	}
	return parts[0] + ", " + strings.Join(parts[1:], " ")
}

// Said says several places in one go, and how many more there are.
func Said(places []string) string {
	if len(places) == 0 {
		return Words("")
	}
	var said []string
	for _, p := range places[:min(len(places), 4)] {
		said = append(said, Words(p))
	}
	out := strings.Join(said, "; ")
	if more := len(places) - len(said); more > 0 {
		out += "; and more"
	}
	return out
}
