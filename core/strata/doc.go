// Package strata answers: what lies on what, does it hold, and how long must it wait?
//
// A build carries a stack of layers, each laid on some zones. In the column of a
// zone each layer brings a carrier (water, alcohol, white spirit, strong solvent)
// onto all that lies below it, down to the nearest barrier: a clear coat that the
// carrier does not attack. The tables say what a carrier does to a surface. What
// waiting cures becomes a Wait; what it cannot cure becomes a Finding with mends.
package strata
