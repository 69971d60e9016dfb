// Package sheets makes what leaves the program: drawings to print at the model's
// own size, and the document that import and export read and write.
package sheets
