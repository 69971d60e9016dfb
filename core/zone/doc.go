// Package zone answers: what is a place on the vehicle called, and does one lie in another?
//
// A zone is named by its part and the face, fitting or side of it, parted by dots:
// hull.glacis, hull.driver-hatch.left, gear.left.road. A layer may name a zone, or the
// beginning of several: hull stands for all that begins with "hull.". Nothing else in the
// program takes such names apart.
package zone
