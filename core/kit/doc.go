// Package kit answers: which version is built, of which parts, and which of them stay
// off until when?
//
// A kit makes several versions. A table says which of them carry what; the version
// chosen decides the parts, the holes to drill or to fill, the marks to shave and the
// decals (version.go). A part says what it is made of, what it is joined to and how,
// what it shadows, what it covers and what it holds (part.go); from that and from the
// school chosen follows whether it stays off during paint, with the reason (off.go).
// The leaflet's steps are kept beside (leaflet.go).
package kit
