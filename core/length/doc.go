// Package length answers: what did the modeller type, and how large is it on
// the vehicle and on the model?
//
// It is the ground floor of the core. A length on the real vehicle (Real) and a
// length on the model (Model) are distinct types, both in millimetres, so that
// the compiler refuses to add one to the other; a Scale turns one into the other.
//
// Notations read: metres, centimetres, millimetres, feet, inches, feet with
// inches, fractions (3/8, 4 1/4, 12½), decimal point or decimal comma. A comma
// followed by exactly three digits is refused because it has two readings.
package length
