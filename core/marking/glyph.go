package marking

import "strings"

// glyphs are letters as a stencil's cutter would draw them: strokes through places of a grid four wide
// and six high, two figures to a place.
var glyphs = map[rune]string{
	'0': "01 05 16 36 45 41 30 10 01",
	'1': "15 26 20",
	'2': "05 16 36 45 44 00 40",
	'3': "05 16 36 45 44 33 13/33 42 41 30 10 01",
	'4': "30 36 02 42",
	'5': "46 06 04 34 43 41 30 10 01",
	'6': "45 36 16 05 01 10 30 41 42 33 03",
	'7': "06 46 10",
	'8': "13 04 05 16 36 45 44 33 13 02 01 10 30 41 42 33",
	'9': "01 10 30 41 45 36 16 05 04 13 43",
	'A': "00 26 40/12 32",
	'B': "03 33 44 45 36 06 00 30 41 42 33",
	'C': "45 36 16 05 01 10 30 41",
	'D': "00 06 26 44 42 20 00",
	'E': "46 06 00 40/03 33",
	'F': "46 06 00/03 33",
	'G': "45 36 16 05 01 10 30 41 43 23",
	'H': "00 06/40 46/03 43",
	'I': "20 26",
	'J': "46 41 30 10 01",
	'K': "00 06/46 03 40",
	'L': "06 00 40",
	'M': "00 06 23 46 40",
	'N': "00 06 40 46",
	'O': "01 05 16 36 45 41 30 10 01",
	'P': "00 06 36 45 44 33 03",
	'Q': "01 05 16 36 45 41 30 10 01/22 40",
	'R': "00 06 36 45 44 33 03/23 40",
	'S': "45 36 16 05 04 13 33 42 41 30 10 01",
	'T': "06 46/20 26",
	'U': "06 01 10 30 41 46",
	'V': "06 20 46",
	'W': "06 10 23 30 46",
	'X': "00 46/06 40",
	'Y': "06 23 46/23 20",
	'Z': "06 46 00 40",
	'-': "13 33",
	'/': "00 46",
	'.': "20 20",
	' ': "",
}

// The grid of a letter, in its own units.
const (
	glyphWide   = 4.0
	glyphHigh   = 6.0
	glyphApart  = 1.9 // between two letters
	glyphStroke = 1.0
)

// letters are the strokes of a text from its lower left corner, and how wide and high it is.
func letters(text string) (strokes [][]Point, wide, high float64) {
	half := glyphStroke / 2
	for i, r := range []rune(strings.ToUpper(text)) {
		left := half + float64(i)*(glyphWide+glyphApart)
		wide = left + glyphWide + half
		for line := range strings.SplitSeq(glyphs[r], "/") {
			var stroke []Point
			for place := range strings.FieldsSeq(line) {
				stroke = append(stroke, Point{left + float64(place[0]-'0'), half + float64(place[1]-'0')})
			}
			if stroke != nil {
				strokes = append(strokes, stroke)
			}
		}
	}
	return strokes, wide, glyphHigh + 2*half
}

// written tells of a text that can be drawn, and of the first letter that cannot.
func written(text string) (missing rune, ok bool) {
	for _, r := range strings.ToUpper(text) {
		if _, known := glyphs[r]; !known {
			return r, false
		}
	}
	return 0, true
}
