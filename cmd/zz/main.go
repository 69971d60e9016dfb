package main

import (
	"bytes"
	"cinderpath/sheets"
	"compress/zlib"
	"fmt"
	"io"
	"regexp"
)

func main() {
	d := sheets.Drawing{Title: "A line.", Width: 500, Height: 50, Draw: func(c sheets.Pen) { c.Line(0.2, false, [2]float64{3, 25}, [2]float64{497, 25}) }}
	var out bytes.Buffer
	d.WritePDF(&out, sheets.A4)
	for _, m := range regexp.MustCompile(`(?s)stream\r?\n(.*?)endstream`).FindAllSubmatch(out.Bytes(), -1) {
		r, err := zlib.NewReader(bytes.NewReader(m[1]))
		if err != nil {
			continue
		}
		b, _ := io.ReadAll(r)
		if len(b) < 8000 {
			fmt.Println("----", string(b))
		}
	}
}
