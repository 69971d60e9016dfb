package sheets

import (
	"strings"

	"golang.org/x/text/encoding/charmap"
	"gonum.org/v1/plot/font"
	"gonum.org/v1/plot/vg"
	"gonum.org/v1/plot/vg/vgpdf"
)

// latin is a PDF canvas that is given its words in the encoding of its fonts: the canvas
// hands on bytes as they are, and fonts in a PDF of its kind know Windows-1252 only.
type latin struct{ *vgpdf.Canvas }

// FillString writes words.
func (c latin) FillString(f font.Face, at vg.Point, words string) {
	c.Canvas.FillString(f, at, inLatin(words))
}

// plainer are signs that the encoding lacks, by what is read for them.
var plainer = strings.NewReplacer("−", "-", "≥", ">=", "≤", "<=", "≈", "~", "→", "->", "←", "<-", "√", "sqrt ", "′", "'", "″", `"`, "◆", "*", "\u202f", " ", "\u2009", " ")

// inLatin puts words into Windows-1252; signs it does not have become question marks.
func inLatin(words string) string {
	var out strings.Builder
	for _, r := range plainer.Replace(words) {
		b, ok := charmap.Windows1252.EncodeRune(r)
		if !ok {
			b = '?'
		}
		out.WriteByte(b)
	}
	return out.String()
}
