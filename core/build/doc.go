// Package build answers: what does the modeller want to build, and what follows?
//
// A Build is the document that the modeller edits; the Workshop holds what all
// builds share; the Log tells what happened at the bench. Derive turns the three
// into plans, in stages, each a pure function remembered by the hash of its inputs.
package build
