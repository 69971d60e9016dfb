// Package proof tells tests whether they are asked for a long statistical proof
// (make proof) or for what every run can wait for (make test).
package proof

import "os"

// Rounds is how many cases a test takes: many where a proof is asked for, else few.
func Rounds(few, many int) int {
	if os.Getenv("CINDERPATH_PROOF") != "" {
		return many
	}
	return few
}
