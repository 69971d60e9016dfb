// Package vehicle answers: how does a build's vehicle stand, and what follows from that?
// Its body and running gear in one stance: sizes, track, clearances, masks, jigs, the mud
// that finds room. It knows nothing of steps.
package vehicle
