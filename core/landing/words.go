package landing

import (
	"regexp"
	"strings"
)

// terms finds the names of a formula.
var terms = regexp.MustCompile(`[a-z][a-z ]*[a-z](\([^)]*\))?`)

// saying says the terms of formulas.
var saying = map[string]string{
	"all":                   "all over",
	"up":                    "on what looks up",
	"down":                  "on what looks down",
	"upright":               "on upright faces",
	"low":                   "more the lower",
	"band":                  "at the height of the sides",
	"recess":                "in recesses",
	"edge":                  "on edges",
	"middle":                "in the middle of panels",
	"sky":                   "where the sky is open",
	"behind":                "where little looks in",
	"pool":                  "where water stands",
	"crew":                  "where hands and boots go",
	"engine":                "about the engine",
	"raised":                "on what stands out",
	"detail":                "on fittings",
	"details":               "on fittings",
	"feet of details":       "at the feet of fittings",
	"rim":                   "on wheels",
	"rubber pads":           "on rubber",
	"hollows of links":      "in the hollows of links",
	"ends of links":         "on the ends of links",
	"contact":               "where it touches the ground",
	"throw":                 "where wheels and tracks throw it",
	"away from the hot end": "away from the hot end",
	"noise":                 "in patches",
	"waterline":             "below a line",
	"near":                  "near the",
	"fall":                  "running down from",
	"border":                "along the edge of",
	"inside":                "inside the larger",
	"on":                    "on",
}

// Words says where a formula lands, term by term.
func Words(text string) string {
	var out []string
	seen := map[string]bool{}
	for _, term := range terms.FindAllString(text, -1) {
		name, args, _ := strings.Cut(strings.TrimSuffix(term, ")"), "(")
		said, ok := saying[name]
		if !ok {
			continue
		}
		switch name {
		case "near", "fall", "border", "inside", "on":
			of, _, _ := strings.Cut(args, ";")
			said += " " + strings.NewReplacer("|", ", ", "_", " ").Replace(of)
		}
		if !seen[said] {
			seen[said] = true
			out = append(out, said)
		}
	}
	return strings.Join(out, ", ")
}
