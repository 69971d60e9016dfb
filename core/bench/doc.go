// Package bench answers: what is a step, and what if it goes wrong?
//
// The step library (steps.go) knows every kind of work at the bench: its stage, how
// long it takes by area, count or length, where it is done, what is taken in hand,
// what is checked before going on, which cautions stand beside it and what usually
// goes wrong. The table of mishaps (mishaps.go) says how each is mended. Times are
// starting values for one practised modeller; a modeller's own log corrects them
// (learned.go).
package bench
