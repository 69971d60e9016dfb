// Package scheme answers: which colour lies where?
//
// A pattern is a rule over points in space at real size, not a picture, so it runs
// on across edges and looks the same in all views. Each colour above the ground
// colour has a field over space; the colour lies where its field exceeds a
// threshold. The threshold is the quantile that gives the wanted share of the
// painted surface: the top colour first, then the next one on what is left.
package scheme
