// Package paint answers: what is on the shelf, what does a mix of it look like, what does a
// film of it do to the colour below, and how much of it does a step need?
//
// A paint absorbs and scatters light: K in each band, S the same in all, both for each
// micrometre of dry film. They follow from its swatch and from how well it hides. Films lie
// over grounds as Kubelka and Munk (1931) have it, below the skin that the eye looks through
// (package colour); paints mix by the volume of their solids.
//
// A jar is one container that a person owns; a mixture was made of several and is kept; a pot
// is either, as a layer is laid from it; a cup is what is mixed now. A recipe is parts of some
// jars by volume, and the search for the best ones leaves out only what it proves worse.
//
// Areas are on the model in cm², films in micrometres of dry film, amounts in millilitres of
// unthinned paint. One drop is 0.05 ml.
package paint
