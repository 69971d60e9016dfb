// Package paint answers: how much paint does a step need?
//
// Areas are on the model in cm², films in micrometres of dry film, amounts in
// millilitres of unthinned paint. One drop is 0.05 ml.
package paint
