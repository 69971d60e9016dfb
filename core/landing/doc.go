// Package landing answers: what reaches each square of the surface, and how much of it?
//
// A landing is a field from 0 to 1 over the texels of a grid: rain from the sky, earth that
// wheels and tracks throw, what boots and hands rub, what runs down. Simple ones ask a texel for
// its height, its slope and its edges (terms.go); others know the whole vehicle and are computed
// once for a Site, when they are asked for first, and kept (sky.go, throw.go, near.go, crew.go).
// The table of techniques writes them as formulas, which read.go reads. Lengths and heights are
// real mm.
package landing
