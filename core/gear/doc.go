// Package gear answers: how does the track run, and how many links does a side take?
//
// All lengths are real millimetres in the side view, x forward and z up from the
// ground. The pin line of a link carries the length: a link of pitch p lies with
// its running surface on a wheel of radius r, so its pins run on a polygon whose
// apothem is r + t, where t is the height of the pin line above the running
// surface. The taut loop is the convex hull of those discs.
package gear
