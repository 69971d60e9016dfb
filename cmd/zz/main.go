package main

import (
	"fmt"
	"os"
	"time"

	"cinderpath/core/form"
	"cinderpath/core/gear"
)

func main() {
	f, _ := os.Create("/tmp/zz.html")
	fmt.Fprint(f, "<body style='background:#b8b8b8;margin:4px'>")
	for _, k := range form.Kinds {
		if len(os.Args) > 1 && os.Args[1] != string(k) {
			continue
		}
		l, w, h := 6400.0, 3100.0, 2520.0
		if !k.HasTrack() {
			l, w, h = 4700, 2100, 2200
		}
		b := form.NewBody(k, l, w, h)
		wheels, link := form.NewWheels(k, l, w, h)
		run := form.Running{Wheels: wheels, Face: w/2 - 20, Width: link.Width, Link: link}
		if k.HasTrack() {
			loop, err := gear.Taut(wheels, link)
			if err != nil {
				panic(err)
			}
			hang, _ := gear.Hang(wheels, link, loop, loop.Slack)
			run.Pins = hang.Outline(loop, wheels, link)
		}
		t := time.Now()
		p, err := form.Panels(b, run)
		if err != nil {
			fmt.Println(k, err)
			continue
		}
		t1 := time.Now()
		v := form.Views(p, 35)
		t2 := time.Now()
		g := form.NewGrid(p, 17.5)
		t3 := time.Now()
		n, tx := 0, 0
		for _, q := range p {
			n += len(q.Pieces)
		}
		for _, q := range g.Texels {
			tx += len(q.Area)
		}
		s := 0
		for _, q := range v {
			s += len(q.Shapes)
		}
		fmt.Println(k, len(p), "panels", n, "pieces", s, "shapes", tx, "texels", t1.Sub(t), t2.Sub(t1), t3.Sub(t2))
		W, H := form.SheetSize(v)
		fmt.Fprintf(f, "<svg width=630 viewBox='0 0 %f %f'>", W, H)
		for _, view := range v {
			fmt.Fprintf(f, "<g transform='translate(%f %f)'>", view.X, view.Y)
			for _, sh := range view.Shapes {
				c := 70 + int(90*sh.Light)
				fmt.Fprintf(f, "<path d='")
				for i, q := range sh.Outline {
					fmt.Fprintf(f, "%c%.2f %.2f", "ML"[min(i, 1)], q[0], q[1])
				}
				fmt.Fprintf(f, "Z' fill='rgb(%d,%d,%d)' stroke='rgb(%d,%d,%d)' stroke-width='.05'/>", c, c, c, c, c, c)
				for k, r := range []form.Ring{sh.Heavy, sh.Plain, sh.Fine} {
					fmt.Fprintf(f, "<path fill='none' stroke='#111' stroke-width='%f' d='", []float64{.45, .25, .1}[k])
					for i := 0; i+1 < len(r); i += 2 {
						fmt.Fprintf(f, "M%.2f %.2fL%.2f %.2f", r[i][0], r[i][1], r[i+1][0], r[i+1][1])
					}
					fmt.Fprint(f, "'/>")
				}
			}
			fmt.Fprint(f, "</g>")
		}
		fmt.Fprint(f, "</svg>")
	}
}
