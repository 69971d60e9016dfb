// Package marking draws the markings of a vehicle: numbers, letters and simple signs at their size in
// life, laid on the panels that they stand on. It knows nothing of decals, jars or steps.
package marking
