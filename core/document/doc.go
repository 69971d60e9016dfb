// Package document answers: what is kept of a build, and what may be changed about it?
// A build, the workshop that all builds share, the log of what happened, edits as they are
// typed, schools, changes to the order; and how older documents are read.
package document
