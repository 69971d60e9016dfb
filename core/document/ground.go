package document

import (
	"slices"

	"cinderpath/core/base"
	"cinderpath/core/strata"
)

// StandsOn is the base of a build: its own, or a usual one on the ground that it drove on.
func (b Build) StandsOn() base.Base {
	if b.Base == nil {
		return base.Usual(b.Life["ground"])
	}
	return *b.Base
}

// OnBase tells whether the vehicle is shown on a base of its own.
func (b Build) OnBase() bool { return b.School(SchoolDisplay) == OnABase }

// Beside is the build on whose base it stands; none where it has its own, or stands on a shelf.
func (b Build) Beside() string {
	if b.Base == nil || b.OnBase() {
		return ""
	}
	return b.Base.Of
}

// Grounded tells whether nobody will look under the vehicle: it stands on its own base or another's.
func (b Build) Grounded() bool { return b.OnBase() || b.Beside() != "" }

// Host is a build on whose base others stand, and what its earth is mixed from.
type Host struct {
	ID    string
	Name  string
	Earth string // what is laid from it
	Jar   string // of the shelf; none where the colour alone is known
	Hex   string
}

// WithHosts gives each item what it must know of the build on whose base it stands.
func WithHosts(items []Item) []Item {
	out := slices.Clone(items)
	for i := range out {
		out[i].Host = HostOf(items, out[i].Build)
	}
	return out
}

// Hosts tells whether another build, of the same scale, can stand on the base of this one.
func (b Build) Hosts(other Build) bool {
	return b.OnBase() && b.ID != other.ID && b.Scale == other.Scale
}

// HostOf is the build on whose base one stands; none where that is gone, or has no such base.
func HostOf(items []Item, guest Build) *Host {
	id := guest.Beside()
	at := slices.IndexFunc(items, func(o Item) bool { return o.Build.ID == id && o.Build.Hosts(guest) })
	if id == "" || at < 0 {
		return nil
	}
	b := items[at].Build
	h := &Host{ID: b.ID, Name: b.Name, Earth: "the ground", Jar: b.StandsOn().Jar}
	if l, ok := b.EarthLayer(); ok && h.Jar == "" {
		h.Earth, h.Jar, h.Hex = l.Name, l.Jar, l.Hex
	}
	return h
}

// EarthLayer is the layer whose earth lies on the base as well: the thickest that there is.
func (b Build) EarthLayer() (best strata.Layer, ok bool) {
	rank := map[strata.Kind]int{strata.Mud: 3, strata.Pigment: 2, strata.Dust: 1}
	for _, l := range b.Layers {
		if rank[l.Kind] > rank[best.Kind] {
			best, ok = l, true
		}
	}
	return best, ok
}
