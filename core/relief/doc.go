// Package relief is what stands out from plates and is cut into them: bolts, rivets, weld beads,
// joints of plates. A body has none of them as geometry and needs none: they are light things on a
// panel, which are drawn as fine lines, hold washes at their feet, are dry-brushed and chipped on
// top, and start streaks of rust.
package relief
