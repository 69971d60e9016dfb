package paint

import (
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"cinderpath/core/colour"
	"cinderpath/core/measure"
)

// hidingWords are how well a paint hides, as people say it.
var hidingWords = []struct {
	word  string
	ratio Hiding
}{{"glaze", Glaze}, {"thin", Thin}, {"fair", Fair}, {"good", Good}, {"full", Full}, {"black", Black}}

// HidingWord is the nearest word for a contrast ratio.
func HidingWord(h Hiding) string {
	best := hidingWords[0]
	for _, w := range hidingWords {
		if max(w.ratio-h, h-w.ratio) < max(best.ratio-h, h-best.ratio) {
			best = w
		}
	}
	return best.word
}

var (
	volumeText  = regexp.MustCompile(`^(\d+(?:[.]\d+)?) ?ml(?: (left|of (\d+(?:[.]\d+)?) ?ml))?$`)
	partText    = regexp.MustCompile(`^(\d{1,3}) ?% (?:left|full)$`)
	hidingText  = regexp.MustCompile(`^(?:hides|hiding) (?:([a-z]+)|([01]?[.]\d+))$`)
	dateText    = regexp.MustCompile(`^(opened|stirred|best before|arrives) (\d{4}-\d{2}-\d{2})$`)
	placeText   = regexp.MustCompile(`^in (.+)$`)
	numberFirst = regexp.MustCompile(`^#?(\d{1,4})[ .:]+(.+)$`)
)

// ReadLine reads a jar as one writes it down: number and name first, then in any order what
// it holds, its swatch, volume, and whatever else is known: `12 lichen green, waterborne
// acrylic, #66704f, 17 ml, half dry, hides good, matt, in drawer 2, opened 2026-03-01`.
func ReadLine(text string) (Jar, error) {
	if len(text) > longNote {
		return Jar{}, measure.Refuse("line", fmt.Sprintf("longer than %d characters", longNote), "shorten it")
	}
	cells := strings.Split(text, ",")
	j := Jar{State: Fine}
	first := tidy(cells[0])
	if m := numberFirst.FindStringSubmatch(first); m != nil {
		j.Number, _ = strconv.Atoi(m[1])
		first = strings.TrimSpace(m[2])
	}
	j.Name = first
	if j.Name == "" {
		return Jar{}, measure.Refuse("line", "nothing is written before the first comma",
			"write it like 12 lichen green, waterborne acrylic, #66704f, 17 ml")
	}
	full := false
	for _, cell := range cells[1:] {
		cell = tidy(cell)
		if cell == "" {
			continue
		}
		if err := j.read(strings.ToLower(cell), &full); err != nil {
			return Jar{}, err
		}
	}
	if j.Family == "" {
		return Jar{}, measure.Refuse(
			"line",
			"it is not said what "+j.Name+" is",
			"add what it holds, such as waterborne acrylic",
		)
	}
	if !full {
		j.Left = j.Volume
	}
	if j.State == Empty {
		j.Left = 0
	}
	check := j
	check.ID = "new"
	return j, check.Check()
}

// tidy takes away what lies about a cell, and doubled spaces in it.
func tidy(s string) string { return strings.Join(strings.Fields(s), " ") }

// read takes one more thing that is said of a jar.
func (j *Jar) read(cell string, left *bool) error {
	if strings.HasPrefix(cell, "#") {
		c, err := colour.Parse(cell)
		j.Hex = c.Hex()
		return measure.At("line", err)
	}
	if m := volumeText.FindStringSubmatch(cell); m != nil {
		v, _ := strconv.ParseFloat(m[1], 64)
		switch {
		case m[2] == "":
			j.Volume = v
		case m[3] == "":
			j.Left, *left = v, true
		default:
			j.Left, *left = v, true
			j.Volume, _ = strconv.ParseFloat(m[3], 64)
		}
		return nil
	}
	if m := partText.FindStringSubmatch(cell); m != nil {
		v, _ := strconv.ParseFloat(m[1], 64)
		if j.Volume == 0 || v > 100 {
			return measure.Refuse("line", fmt.Sprintf("%q: of how much?", cell), "write the volume first, and 0 to 100 %")
		}
		j.Left, *left = j.Volume*v/100, true
		return nil
	}
	if m := hidingText.FindStringSubmatch(cell); m != nil {
		if m[2] != "" {
			v, _ := strconv.ParseFloat(m[2], 64)
			j.Hiding = Hiding(v)
			return nil
		}
		for _, w := range hidingWords {
			if w.word == m[1] {
				j.Hiding = w.ratio
				return nil
			}
		}
		return measure.Refuse(
			"line",
			fmt.Sprintf("%q is no word for how a paint hides", m[1]),
			"use glaze, thin, fair, good, full or black",
		)
	}
	if m := dateText.FindStringSubmatch(cell); m != nil {
		*map[string]*string{
			"opened": &j.Opened, "stirred": &j.Stirred, "best before": &j.Best, "arrives": &j.Arrives,
		}[m[1]] = m[2]
		if m[1] == "arrives" {
			j.State = Ordered
		}
		return nil
	}
	if slices.Contains(States, State(cell)) {
		j.State = State(cell)
		return nil
	}
	if cell == "matt" || cell == "satin" || cell == "gloss" {
		j.Sheen = colour.Sheen(cell)
		return nil
	}
	if m := placeText.FindStringSubmatch(cell); m != nil {
		j.Place = m[1]
		return nil
	}
	family, err := familyNamed(cell)
	if err == nil {
		j.Family = family
	}
	return err
}

// familyNamed finds what a jar holds by its name, its id, or words that only one has.
func familyNamed(said string) (string, error) {
	type kind struct{ id, name string }
	var all []kind
	for _, f := range Families() {
		all = append(all, kind{f.ID, f.Name})
	}
	for _, f := range Fluids() {
		all = append(all, kind{f.ID, f.Name})
	}
	said = strings.ToLower(said)
	var like []kind
	for _, k := range all {
		name := strings.ToLower(k.name)
		if said == name || said == k.id || strings.ReplaceAll(said, " ", "_") == k.id {
			return k.id, nil
		}
		missing := slices.ContainsFunc(strings.Fields(said), func(w string) bool { return !strings.Contains(name, w) })
		if !missing {
			like = append(like, k)
		}
	}
	switch len(like) {
	case 1:
		return like[0].id, nil
	case 0:
		return "", measure.Refuse("line", fmt.Sprintf("%q was not understood", said),
			"name what it holds (waterborne acrylic, enamel paint …), a swatch like #66704f, a volume like 17 ml")
	}
	var names []string
	for _, k := range like[:min(len(like), 4)] {
		names = append(names, k.name)
	}
	return "", measure.Refuse("line", fmt.Sprintf("%q may be %s", said, strings.Join(names, " or ")), "write it out")
}

// Example is how a jar is entered by one line: as one of the shelf's own is.
func (s Shelf) Example() string {
	for _, j := range s.Jars {
		if name, ok := kindName(j.Family); ok && j.Hex != "" && j.Volume > 0 && !strings.Contains(name+j.Name, ",") {
			return fmt.Sprintf("%s, %s, %s, %g ml", j.Said(), name, j.Hex, j.Volume)
		}
	}
	return "12 lichen green, waterborne acrylic, #66704f, 17 ml"
}
