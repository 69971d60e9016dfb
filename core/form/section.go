package form

import (
	"strings"

	"cinderpath/core/zone"
)

// replaced tells of a section that came from another vehicle: it has a zone of its own.
func (b Body) replaced(part, side string, section int) bool {
	for _, d := range b.Damage {
		if d.Part == part && d.Side == side && d.Section == section && d.Kind == Replaced {
			return true
		}
	}
	return false
}

// sectionZone is the zone of a section of a fender or skirt.
func (b Body) sectionZone(part, side string, section int) string {
	name := b.mainPart() + "." + part + "." + side
	if b.replaced(part, side, section) {
		return zone.Numbered(name, section)
	}
	return name
}

// HasSections tells whether a zone is a fender's or a skirt's.
func (b Body) HasSections(name string) bool {
	part, _ := b.sectioned(name)
	return part != ""
}

// sectioned is the fender or skirt, and the side, that a zone names; nothing for others.
func (b Body) sectioned(name string) (part, side string) {
	fields := strings.Split(name, ".")
	if len(fields) < 3 || fields[0] != b.mainPart() || b.sections(fields[1]) == 0 {
		return "", ""
	}
	return fields[1], fields[2]
}

// SectionAt is the section of the fender or skirt of a zone at a place, counted from the front; 0 where
// there is none.
func (b Body) SectionAt(name string, at Vec) (part, side string, section int) {
	part, side = b.sectioned(name)
	for _, s := range b.Skirts {
		if s.ID == part {
			step := (s.Front - s.Rear) / float64(s.Sections)
			return part, side, min(max(int((s.Front-at[0])/step)+1, 1), s.Sections)
		}
	}
	for _, f := range b.Fenders {
		if f.ID != part {
			continue
		}
		for i := range len(f.Line) - 1 {
			low, high := min(f.Line[i][0], f.Line[i+1][0]), max(f.Line[i][0], f.Line[i+1][0])
			if at[0] >= low && at[0] <= high {
				return part, side, i + 1
			}
		}
	}
	return part, side, 0
}
