// Package look answers: what does every square of the surface look like after every step,
// and what does one see of it?
//
// A State holds, for each texel of the grid, the reflectance below the skin in twelve bands
// and the sheen. Coats are laid on it in order: each film turns what lies below as Kubelka
// and Munk have it (package paint), by tables, since a film of one material and thickness
// maps the ground's reflectance by a fraction of two lines in every band. After each coat a
// Frame keeps what the eye sees, in eight bits. From frames come pictures of the five views
// and the sheet that the turning body wears, all by one painter.
package look
