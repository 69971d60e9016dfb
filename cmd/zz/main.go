package main

import (
	"fmt"
	"os"
	"time"

	"cinderpath/core/build"
	"cinderpath/samples"
	"cinderpath/sheets"
)

func main() {
	docs, err := samples.Documents()
	if err != nil {
		panic(err)
	}
	for i, name := range []string{"varrow", "pellick", "drumble"} {
		d := docs[i].Resolve(time.Now())
		d.AsOf = time.Now()
		var der build.Deriver
		t := time.Now()
		p, err := d.Plan(&der)
		if err != nil {
			fmt.Println(name, err)
			continue
		}
		fmt.Println(name, time.Since(t))
		f, _ := os.Create("/tmp/v/" + name + ".svg")
		sheets.ViewsSVG(f, p)
		f.Close()
	}
}
