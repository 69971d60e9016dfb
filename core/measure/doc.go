// Package measure answers: which stock, drill or tape is nearest to a wanted size?
//
// Sizes are on the model, in millimetres. The tables hold sizes only.
package measure
