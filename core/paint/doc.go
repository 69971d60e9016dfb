// Package paint answers: what does a film of paint do to the colour below it, and how much
// paint does a step need?
//
// A paint absorbs and scatters light: K in each band, S the same in all, both for each
// micrometre of dry film. They follow from its swatch and from how well it hides. Films lie
// over grounds as Kubelka and Munk (1931) have it, below the skin that the eye looks through
// (package colour). Areas are on the model in cm², films in micrometres of dry film, amounts
// in millilitres of unthinned paint. One drop is 0.05 ml.
package paint
