// Package form answers: what surfaces does the vehicle have, where do they lie,
// and what does it look like from each side?
//
// The vehicle is a set of panels: planar polygons in space, x forward, y to the
// vehicle's left, z up, the ground at z = 0, all in real millimetres. Each panel
// belongs to a zone such as hull.glacis or turret.left, a name that survives edits.
// A body is built from blocks (boxes whose top may be smaller or larger than their
// base, which gives sloped faces), tubes (a gun) and wheels.
package form
