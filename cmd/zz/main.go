package main

import (
	"os"
	"fmt"

	"cinderpath/core/form"
	"cinderpath/core/gear"
	"cinderpath/samples"
	"cinderpath/sheets"
)

func line(l, h float64, s ...float64) [][2]float64 {
	var out [][2]float64
	for i := 0; i < len(s); i += 2 {
		out = append(out, [2]float64{float64(int(s[i]*l + 0.5*sgn(s[i]))), float64(int(s[i+1]*h + .5))})
	}
	return out
}
func sgn(x float64) float64 {
	if x < 0 {
		return -1
	}
	return 1
}

func main() {
	docs, err := samples.Documents()
	if err != nil {
		panic(err)
	}
	for i, name := range []string{"varrow", "pellick", "drumble"} {
		b := &docs[i].Items[0].Build
		switch name {
		case "varrow":
			l, w, h := 6400.0, 3100.0, 2520.0
			z := 1058.4
			b.Body = form.Body{
				Hulls: []form.Hull{
					{ID: "lower", Profile: append(line(l, h, -0.45, 0.16, 0.38, 0.16, 0.49, 0.33), [2]float64{3000, z}, [2]float64{-3136, z}, [2]float64{-3072, 832}), Width: 1736},
					{ID: "hull", Profile: [][2]float64{{-3160, z}, {3030, z}, {3200, 1130}, {2180, 1562}, {-1980, 1562}, {-3160, 1430}}, Width: 2860, InSide: 300},
				},
				Turrets: []form.Turret{
					{ID: "turret", On: "hull", X: 128, Ring: 900, Height: 756, InFront: 230, InRear: 130, InSide: 210,
						Plan: [][2]float64{{1216, 420}, {760, 860}, {-420, 961}, {-1080, 800}, {-1216, 560}}},
					{ID: "cupola", On: "turret", X: -250, Y: 300, Ring: 280, Height: 202, InSide: 90, Round: true,
						Plan: [][2]float64{{310, 0}, {220, 220}, {0, 310}, {-220, 220}, {-310, 0}}},
				},
				Guns: []form.Gun{{ID: "gun", On: "turret", X: 1100, Z: 1915, Elevation: 1, Mantlet: form.Mantlet{Width: 620, Height: 480, Depth: 330},
					Barrel: [][2]float64{{0, 84}, {1180, 74}, {1180, 62}, {2560, 53}, {2560, 86}, {2680, 86}, {2680, 60}, {2710, 60}, {2710, 86}, {2868, 80}}}},
				Fenders: []form.Fender{{ID: "fender", Line: [][2]float64{{3200, z}, {1900, z}, {600, z}, {-700, z}, {-2000, z}, {-3200, z}}, Inner: 880, Outer: 1550, Thick: 5},
					{ID: "flap", Line: [][2]float64{{3330, 860}, {3200, z}}, Inner: 1050, Outer: 1550, Thick: 5}},
				Fittings: []form.Fitting{
					{ID: "driver-hatch", Kind: "hatch", On: "hull.deck", At: form.Vec{1750, 560, 1562}, Size: [3]float64{520, 520, 55}, Mirror: true},
					{ID: "loader-hatch", Kind: "hatch", On: "turret.roof", At: form.Vec{-200, -360, 2318}, Size: [3]float64{560, 420, 45}},
					{ID: "sight", Kind: "post", On: "turret.roof", At: form.Vec{560, 330, 2318}, Size: [3]float64{190, 190, 130}},
					{ID: "vent", Kind: "post", On: "turret.roof", At: form.Vec{420, -300, 2318}, Size: [3]float64{300, 300, 90}},
					{ID: "grille", Kind: "grille", On: "hull.deck", At: form.Vec{-2560, 520, 1500}, Size: [3]float64{900, 760, 40}, Count: 9, Mirror: true},
					{ID: "bin", Kind: "box", On: "turret.rear", At: form.Vec{-1200, 0, 1930}, Size: [3]float64{980, 430, 330}},
					{ID: "rail", Kind: "rail", On: "turret.left", At: form.Vec{-250, 900, 2000}, Size: [3]float64{900, 34, 110}, Mirror: true},
					{ID: "box-front", Kind: "box", On: "hull.fender.left", At: form.Vec{1350, 1430, z}, Size: [3]float64{1050, 200, 210}},
					{ID: "box-rear", Kind: "box", On: "hull.fender.right", At: form.Vec{-1150, -1430, z}, Size: [3]float64{1500, 200, 220}},
					{ID: "shovel", Kind: "tool", On: "hull.fender.right", At: form.Vec{900, -1440, z}, Size: [3]float64{1150, 170, 90}},
					{ID: "pick", Kind: "tool", On: "hull.fender.left", At: form.Vec{-500, 1440, z}, Size: [3]float64{900, 190, 90}},
					{ID: "drum", Kind: "drum", On: "hull.rear", At: form.Vec{-3160, 620, 1270}, Size: [3]float64{900, 340, 340}},
					{ID: "exhaust", Kind: "exhaust", On: "hull.rear", At: form.Vec{-3160, -640, 1230}, Size: [3]float64{760, 220, 220}},
					{ID: "tarp", Kind: "roll", On: "hull.deck", At: form.Vec{-1700, 0, 1562}, Size: [3]float64{1150, 230, 230}, Turn: 90},
					{ID: "lamp", Kind: "lamp", On: "hull.glacis", At: form.Vec{2900, 930, 1240}, Size: [3]float64{200, 190, 190}, Mirror: true},
					{ID: "hook", Kind: "hook", On: "lower.nose", At: form.Vec{2900, 560, 700}, Size: [3]float64{150, 150, 110}, Mirror: true},
					{ID: "spare-links", Kind: "links", On: "hull.glacis", At: form.Vec{2680, 0, 1330}, Size: [3]float64{394, 496, 100}, Count: 3},
					{ID: "aerial", Kind: "aerial", On: "turret.roof", At: form.Vec{-780, -520, 2318}, Size: [3]float64{70, 70, 1500}},
				},
				Damage: []form.Damage{{Part: "fender", Side: "right", Section: 1, Kind: form.Bent, By: 70}, {Part: "flap", Side: "left", Section: 1, Kind: form.Missing}},
			}
			link := b.Link
			link.Make = gear.Runs
			link.Travel = 90
			b.Link = link
			for k := range b.Wheels {
				v := &b.Wheels[k]
				switch v.Kind {
				case gear.Road:
					v.Hub = 232
					v.Arm = &gear.Arm{X: v.X + 290, Z: v.Z + 130, Up: 24, Down: 18}
				case gear.Idler, gear.Return:
					v.Steel = true
				}
			}
			if len(b.Cables) > 0 {
				b.Cables[0].Points = [][3]float64{{60, 40.6, 31.2}, {40, 38.6, 36.5}, {0, 38.2, 35.5}, {-40, 38.6, 36.5}, {-58, 39.8, 32.5}}
			}
			_ = w
		case "pellick":
			b.Body = form.NewBody(form.Wheeled, 4700, 2100, 2200)
			b.Wheels, b.Link = form.NewWheels(form.Wheeled, 4700, 2100, 2200)
		case "drumble":
			l, w, h := 5100.0, 2400.0, 2300.0
			b.Body = form.Body{
				Hulls: []form.Hull{
					{ID: "lower", Profile: line(l, h, -0.45, 0.16, 0.36, 0.16, 0.46, 0.3, 0.46, 0.42, -0.47, 0.42), Width: 1340},
					{ID: "hull", Profile: line(l, h, -0.5, 0.42, 0.48, 0.42, 0.5, 0.48, 0.48, 0.62, -0.48, 0.62), Width: 2200, InSide: 60},
					{ID: "cab", Profile: line(l, h, 0.02, 0.62, 0.3, 0.62, 0.3, 0.76, 0.24, 0.97, 0.05, 0.98, 0.02, 0.94), Width: 1760, InSide: 110},
					{ID: "winch", Profile: line(l, h, -0.47, 0.62, -0.3, 0.62, -0.32, 0.74, -0.46, 0.74), Width: 1500, InSide: 40},
					{ID: "mast", Profile: line(l, h, -0.2, 0.62, -0.06, 0.62, -0.1, 0.9, -0.15, 0.9), Width: 900, InSide: 250},
				},
				Fenders: []form.Fender{{ID: "fender", Line: line(l, h, 0.51, 0.36, 0.46, 0.43, -0.46, 0.43, -0.51, 0.36), Inner: 690, Outer: 1200, Thick: 5}},
				Fittings: []form.Fitting{
					{ID: "drum", Kind: "spool", On: "hull.deck", At: form.Vec{-1180, 0, 1426}, Size: [3]float64{420, 580, 420}},
					{ID: "jib", Kind: "jib", On: "hull.deck", At: form.Vec{-420, 0, 1426}, Size: [3]float64{2350, 620, 830}, Turn: 180},
					{ID: "windscreen", Kind: "plate", On: "cab.front", At: form.Vec{1400, 0, 1990}, Size: [3]float64{1300, 330, 12}},
					{ID: "door", Kind: "plate", On: "cab.left", At: form.Vec{760, 800, 1780}, Size: [3]float64{620, 640, 14}, Mirror: true},
					{ID: "bonnet-grille", Kind: "grille", On: "hull.glacis", At: form.Vec{2500, 0, 1270}, Size: [3]float64{1100, 250, 30}, Count: 11},
					{ID: "lamp", Kind: "lamp", On: "hull.deck", At: form.Vec{2330, 760, 1426}, Size: [3]float64{180, 210, 210}, Mirror: true},
					{ID: "exhaust", Kind: "post", On: "hull.deck", At: form.Vec{1950, -500, 1426}, Size: [3]float64{130, 130, 620}},
					{ID: "roof-lamp", Kind: "lamp", On: "cab.roof", At: form.Vec{1050, 300, 2250}, Size: [3]float64{160, 180, 180}},
					{ID: "toolbox", Kind: "box", On: "hull.deck", At: form.Vec{1900, 550, 1426}, Size: [3]float64{620, 420, 300}},
					{ID: "can", Kind: "can", On: "hull.rear", At: form.Vec{-2500, 620, 1200}, Size: [3]float64{260, 360, 150}, Mirror: true},
					{ID: "hook", Kind: "hook", On: "lower.nose", At: form.Vec{2100, 420, 520}, Size: [3]float64{150, 150, 110}, Mirror: true},
					{ID: "crowbar", Kind: "tool", On: "hull.fender.left", At: form.Vec{0, 1160, 989}, Size: [3]float64{1100, 90, 60}},
				},
				Damage: []form.Damage{{Part: "fender", Side: "right", Section: 1, Kind: form.Missing}, {Part: "fender", Side: "left", Section: 3, Kind: form.Bent, By: 80}},
			}
			_ = w
			for k := range b.Wheels {
				v := &b.Wheels[k]
				switch v.Kind {
				case gear.Road:
					v.Arm = &gear.Arm{X: v.X + 250, Z: v.Z + 110, Up: 24, Down: 18}
				case gear.Idler, gear.Return:
					v.Steel = true
				}
			}
		}
		if err := b.Check(); err != nil {
			fmt.Println(name, err)
			continue
		}
		if len(os.Args) > 1 {
			f, _ := os.Create("samples/" + name + ".json")
			if err := sheets.Write(f, docs[i]); err != nil {
				panic(err)
			}
			f.Close()
		}
	}
}
