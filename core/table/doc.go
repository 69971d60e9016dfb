// Package table answers: what does a table say that ships with the program?
// Tables are CSV with a row of names at their head. A fault in one is a fault of the program.
package table
