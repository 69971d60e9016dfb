// Package base is what a finished vehicle stands on: how large the board is, where tracks and wheels
// press into the ground and how deep, how much of it there is, where the screw that holds the
// vehicle goes, and how large what is strewn would be in life. It knows nothing of builds: a Site
// says what stands there, a Base what is wanted.
package base
