package paint

import "sync"

// Spectra are solved once for each paint: some milliseconds that every film and every mix
// would pay again.
var known = struct {
	sync.Mutex
	pigments map[Paint]Pigment
}{pigments: map[Paint]Pigment{}}

// mostKnown bounds what is remembered: some hundred bytes each.
const mostKnown = 4096

// Pigment gives a paint's two constants in each band.
func (p Paint) Pigment() Pigment {
	known.Lock()
	out, ok := known.pigments[p]
	known.Unlock()
	if ok {
		return out
	}
	out = p.solved()
	known.Lock()
	defer known.Unlock()
	if len(known.pigments) >= mostKnown {
		clear(known.pigments)
	}
	known.pigments[p] = out
	return out
}
