// Package form answers: what surfaces does the vehicle have, where do they lie,
// and what does it look like from each side?
//
// All lengths are real millimetres, x forward, y to the vehicle's left, z up, the
// ground at z = 0. A Body is what a modeller edits: hulls drawn in side profile,
// turrets drawn in plan, guns, fenders, skirts, fittings, damage. From it come closed
// solids with planar faces; round shapes are made of narrow flat strips. What lies
// inside or against another solid is cut away (Thibault and Naylor, Set operations on
// polyhedra using binary space partitioning trees, SIGGRAPH 1987); what is left are
// the panels. A panel has a flat frame of its own and belongs to a zone such as
// hull.glacis or turret.left, a name that survives edits.
//
// From the panels follow the surface grid that all later stages share, the five views
// with hidden lines removed, and the mesh that turns on the screen or is printed.
package form
