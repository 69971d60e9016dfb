package kit

import (
	"fmt"
	"slices"
	"strings"

	"cinderpath/core/marking"
)

// Version is one of those that the kit makes.
type Version struct {
	ID   string `json:"id"`
	Name string `json:"name"`
	Note string `json:"note,omitempty"`
}

// What a line of the version table is, beside parts and decals.
const (
	Hole    = "hole"    // closed as moulded: drilled where it is used
	Opening = "opening" // open as moulded: filled where it is not used
	Mark    = "mark"    // a locating mark: shaved where it is not used
)

// Feature is a hole, an opening or a mark on a sub-assembly.
type Feature struct {
	ID       string   `json:"id"`
	Name     string   `json:"name"`
	Kind     string   `json:"kind"`
	Assembly string   `json:"assembly"`
	MM       float64  `json:"mm,omitempty"`     // diameter or depth on the model
	Filled   string   `json:"filled,omitempty"` // a deep opening: in layers or over a plate
	Inside   bool     `json:"inside,omitempty"` // easier, or only to be reached, from within
	Versions []string `json:"versions"`         // that use it
}

// Decal is a marking with the versions that wear it.
type Decal struct {
	ID       string   `json:"id"`
	Name     string   `json:"name"`
	Zone     string   `json:"zone"`
	Painted  bool     `json:"painted,omitempty"` // by hand, through a stencil, in place of a decal
	SizeMM   float64  `json:"sizeMm,omitempty"`  // how wide it is in life
	Jar      string   `json:"jar,omitempty"`     // that it is painted from
	Thick    bool     `json:"thick,omitempty"`
	Versions []string `json:"versions"`

	Drawn  *marking.Drawing `json:"drawn,omitempty"` // what it looks like
	Places []marking.Place  `json:"places,omitempty"`
}

// Kit is what comes in the box, and what was added to it.
type Kit struct {
	Versions []Version `json:"versions,omitempty"`
	Version  string    `json:"version,omitempty"` // the one that is built
	Decided  string    `json:"decided,omitempty"` // which reference rules, where they contradict each other
	Features []Feature `json:"features,omitempty"`
	Parts    []Part    `json:"parts,omitempty"`
	Decals   []Decal   `json:"decals,omitempty"`
	Leaflet  []Leaf    `json:"leaflet,omitempty"`
	Rulings  []Ruling  `json:"rulings,omitempty"`
	Insides  []Inside  `json:"insides,omitempty"`
}

// carries tells whether the chosen version is among some; a kit without versions, or a
// line without any, is the same for all.
func (k Kit) carries(versions []string) bool {
	return len(k.Versions) == 0 || versions == nil || slices.Contains(versions, k.Version)
}

// Used lists the parts of the chosen version.
func (k Kit) Used() []Part {
	var out []Part
	for _, p := range k.Parts {
		if k.carries(p.Versions) && !p.Struck {
			out = append(out, p)
		}
	}
	return out
}

// Struck lists the parts of the chosen version that are left off on this build.
func (k Kit) Struck() (out []Part) {
	for _, p := range k.Parts {
		if k.carries(p.Versions) && p.Struck {
			out = append(out, p)
		}
	}
	return out
}

// detailed are the kinds of parts that are painted one by one, in colours of their own.
var detailed = []string{"tool", "stowage", "lamp", "crew", "cable"}

// Details lists the parts of the chosen version that are painted one by one.
func (k Kit) Details() []Part {
	return slices.DeleteFunc(k.Used(), func(p Part) bool { return !slices.Contains(detailed, p.Kind) })
}

// Worn lists the decals of the chosen version.
func (k Kit) Worn() []Decal {
	var out []Decal
	for _, d := range k.Decals {
		if k.carries(d.Versions) {
			out = append(out, d)
		}
	}
	return out
}

// The work that a feature asks for.
const (
	Drill = "drill"
	Fill  = "fill"
	Shave = "shave"
)

// Job is work at a feature.
type Job struct {
	Feature
	Do string `json:"do"`
}

// Jobs lists what is to be drilled, filled and shaved for the chosen version.
func (k Kit) Jobs() []Job {
	var out []Job
	for _, f := range k.Features {
		used := k.carries(f.Versions)
		switch {
		case f.Kind == Hole && used:
			out = append(out, Job{f, Drill})
		case f.Kind == Opening && !used:
			out = append(out, Job{f, Fill})
		case f.Kind == Mark && !used:
			out = append(out, Job{f, Shave})
		}
	}
	return out
}

// Choose gives the kit with another version; words say what changes with it.
func (k Kit) Choose(id string) (Kit, []string, error) {
	at := slices.IndexFunc(k.Versions, func(v Version) bool { return v.ID == id })
	if at < 0 {
		return k, nil, fmt.Errorf("the kit has no version %q; choose one of its table", id)
	}
	next := k
	next.Version = id
	var words []string
	diff := func(what string, before, after []string) {
		var gone, come []string
		for _, x := range before {
			if !slices.Contains(after, x) {
				gone = append(gone, x)
			}
		}
		for _, x := range after {
			if !slices.Contains(before, x) {
				come = append(come, x)
			}
		}
		if len(come) > 0 {
			words = append(words, what+" now: "+strings.Join(come, ", "))
		}
		if len(gone) > 0 {
			words = append(words, what+" no longer: "+strings.Join(gone, ", "))
		}
	}
	diff(
		"fitted",
		names(k.Used(), func(p Part) string { return p.Name }),
		names(next.Used(), func(p Part) string { return p.Name }),
	)
	for _, do := range []string{Drill, Fill, Shave} {
		of := func(k Kit) []string {
			return names(
				slices.DeleteFunc(k.Jobs(), func(j Job) bool { return j.Do != do }),
				func(j Job) string { return j.Name },
			)
		}
		diff(do, of(k), of(next))
	}
	diff(
		"decals",
		names(k.Worn(), func(d Decal) string { return d.Name }),
		names(next.Worn(), func(d Decal) string { return d.Name }),
	)
	return next, words, nil
}

func names[T any](list []T, of func(T) string) []string {
	var out []string
	for _, x := range list {
		out = append(out, of(x))
	}
	return out
}

// most bounds each list of a kit.
const most = 400

// Check reports the first thing in a kit that cannot be.
func (k Kit) Check() error {
	if len(k.Parts) > most || len(k.Features) > most || len(k.Decals) > most || len(k.Leaflet) > most ||
		len(k.Rulings) > most ||
		len(k.Insides) > 24 ||
		len(k.Versions) > 24 {
		return fmt.Errorf("more lines than one kit has; at most %d of each kind and 24 versions", most)
	}
	versions := names(k.Versions, func(v Version) string { return v.ID })
	if len(k.Versions) > 0 && !slices.Contains(versions, k.Version) {
		return fmt.Errorf("version %q is not in the table; choose one of it", k.Version)
	}
	seen := map[string]bool{}
	once := func(kind, id, name string) error {
		switch {
		case id == "" || strings.TrimSpace(name) == "":
			return fmt.Errorf("a %s has no name; give it one", kind)
		case len(name) > 160:
			return fmt.Errorf("the name of %s %s is longer than 160 characters; shorten it", kind, id)
		case seen[id]:
			return fmt.Errorf("%s %s is there twice; give each its own id", kind, id)
		}
		seen[id] = true
		return nil
	}
	known := func(kind, name string, list []string) error {
		for _, v := range list {
			if !slices.Contains(versions, v) {
				return fmt.Errorf("%s %s names version %q, which is not in the table; add it there first", kind, name, v)
			}
		}
		return nil
	}
	for _, v := range k.Versions {
		if err := once("version", v.ID, v.Name); err != nil {
			return err
		}
	}
	for _, f := range k.Features {
		if err := once(f.Kind, f.ID, f.Name); err != nil {
			return err
		}
		if !slices.Contains([]string{Hole, Opening, Mark}, f.Kind) {
			return fmt.Errorf("%s is %q; use hole, opening or mark", f.Name, f.Kind)
		}
		if f.Filled != "" && f.Filled != InLayers && f.Filled != OverPlate {
			return fmt.Errorf("%s is filled %q; use layers or plate", f.Name, f.Filled)
		}
		if f.MM < 0 || f.MM > 50 {
			return fmt.Errorf("%s measures %.1f mm; give 0 to 50 mm on the model", f.Name, f.MM)
		}
		if err := known(f.Kind, f.Name, f.Versions); err != nil {
			return err
		}
	}
	for _, d := range k.Decals {
		if err := once("decal", d.ID, d.Name); err != nil {
			return err
		}
		if !(d.SizeMM >= 0 && d.SizeMM <= 10_000) || len(d.Jar) > 64 {
			return fmt.Errorf("decal %s is %.0f mm wide in life; give 0 to 10 000", d.Name, d.SizeMM)
		}
		if err := known("decal", d.Name, d.Versions); err != nil {
			return err
		}
		if err := d.check(); err != nil {
			return err
		}
	}
	for _, r := range k.Rulings {
		if err := once("contradiction", r.ID, r.About); err != nil {
			return err
		}
		if err := r.check(); err != nil {
			return err
		}
	}
	for _, in := range k.Insides {
		if err := in.check(); err != nil {
			return err
		}
	}
	for _, p := range k.Parts {
		if err := once("part", p.ID, p.Name); err != nil {
			return err
		}
		if err := p.check(k); err != nil {
			return err
		}
		if err := known("part", p.Name, p.Versions); err != nil {
			return err
		}
	}
	return k.circle()
}
