// Package colour answers: what does the eye see?
//
// A swatch is written #rrggbb and means what the eye sees under daylight (D65, the 2°
// observer of 1931). Reflectance is counted in 36 bands, 380 to 730 nm by 10; XYZ are plain
// sums over the bands with Y = 1 for a surface that reflects all. Nothing else in the
// program reads or prints hex.
//
// Sources: IEC 61966-2-1 for sRGB; CIE 15 for XYZ and Lab; Sharma, Wu and Dalal (2005) for
// CIEDE2000; Burns, "Numerical methods for smoothest reflectance reconstruction", Color
// Research and Application (2020); Saunderson (1942) for the skin of a binder.
package colour
