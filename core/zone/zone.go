package zone

import (
	"fmt"
	"slices"
	"strings"
)

// The sides of a vehicle, as names say them.
const (
	Left  = "left"
	Right = "right"
)

// gear is the part that wheels and tracks belong to.
const gear = "gear"

// What a zone of the running gear is made of when it is no painted metal.
const (
	track  = "track"
	rubber = "rubber"
)

// Named is a face or fitting of a part.
func Named(part, face string) string { return part + "." + face }

// Sided is one of a pair: a zone, or a part, and its side.
func Sided(name, side string) string { return name + "." + side }

// Gear is a zone of the running gear: a side and the kind of wheel.
func Gear(side, kind string) string { return gear + "." + side + "." + kind }

// Numbered is one of several that a zone is made of, the first is 1.
func Numbered(name string, n int) string { return fmt.Sprintf("%s.%d", name, n) }

// Track is the zone of a side's track.
func Track(side string) string { return Gear(side, track) }

// Rubber is the zone of a side's tyres.
func Rubber(side string) string { return Gear(side, rubber) }

// Part is the part that a zone belongs to.
func Part(name string) string {
	part, _, _ := strings.Cut(name, ".")
	return part
}

// Face parts a zone into its part and what it is of it; ok is false for a part's name.
func Face(name string) (part, face string, ok bool) {
	part, face, ok = strings.Cut(name, ".")
	return part, face, ok && part != "" && face != ""
}

// Under tells whether a zone is the place named, or lies in it.
func Under(name, place string) bool {
	rest, in := strings.CutPrefix(name, place)
	return in && (rest == "" || rest[0] == '.')
}

// Among tells whether a zone lies in one of the places; no places mean everywhere.
func Among(name string, places []string) bool {
	return len(places) == 0 || slices.ContainsFunc(places, func(p string) bool { return Under(name, p) })
}

// Meet tells whether one of two places lies in the other.
func Meet(a, b string) bool { return Under(a, b) || Under(b, a) }

// OnGear tells of wheels and tracks.
func OnGear(name string) bool { return Under(name, gear) }

// IsTrack tells of bare metal links.
func IsTrack(name string) bool { return OnGear(name) && strings.HasSuffix(name, "."+track) }

// IsRubber tells of tyres.
func IsRubber(name string) bool { return OnGear(name) && strings.HasSuffix(name, "."+rubber) }

// Bare tells of zones that take no scheme: tracks are metal, tyres are rubber.
func Bare(name string) bool { return IsTrack(name) || IsRubber(name) }

// Mirrored is the name of the zone on the other side.
func Mirrored(name string) string {
	parts := strings.Split(name, ".")
	for i, p := range parts {
		switch p {
		case Left:
			parts[i] = Right
		case Right:
			parts[i] = Left
		}
	}
	return strings.Join(parts, ".")
}

// longest name of a zone.
const longest = 60

// Valid tells whether a name can be a zone's: a part and something of it.
func Valid(name string) bool {
	_, _, ok := Face(name)
	return ok && len(name) <= longest && strings.Trim(name, "abcdefghijklmnopqrstuvwxyz0123456789-.") == ""
}

// ValidPlace tells whether a name can be a zone's, or that of a part with zones.
func ValidPlace(name string) bool {
	return Valid(name) || !strings.Contains(name, ".") && Valid(name+".left")
}

// Gathered names some of all zones, by their part where all of it is among them.
func Gathered(some, all []string) (out []string) {
	whole := map[string]bool{}
	for _, z := range all {
		part := Part(z)
		was, known := whole[part]
		whole[part] = slices.Contains(some, z) && (was || !known)
	}
	for _, z := range all {
		switch part := Part(z); {
		case whole[part] && !slices.Contains(out, part):
			out = append(out, part)
		case !whole[part] && slices.Contains(some, z):
			out = append(out, z)
		}
	}
	return out
}
