// Package e2e drives the real program with a real browser: its tests start the
// binary with a database of its own, click and type, and look at what a user sees.
package e2e
