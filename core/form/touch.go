package form

import (
	"cmp"
	"math"
	"slices"
)

// beside is how far apart the boxes of two panels may lie that touch, real mm.
const beside = 15.0

// Touching tells of each zone which others touch it, sorted: some panel of one lies beside one of the other.
func Touching(panels []*Panel) map[string][]string {
	type box struct {
		zone     string
		low, top Vec
	}
	boxes := make([]box, 0, len(panels))
	for _, p := range panels {
		b := box{p.Zone, Vec{math.Inf(1), math.Inf(1), math.Inf(1)}, Vec{math.Inf(-1), math.Inf(-1), math.Inf(-1)}}
		for _, piece := range p.Pieces {
			for _, v := range piece {
				for k := range 3 {
					b.low[k], b.top[k] = min(b.low[k], v[k]), max(b.top[k], v[k])
				}
			}
		}
		for k := range 3 {
			b.low[k] -= beside / 2
			b.top[k] += beside / 2
		}
		boxes = append(boxes, b)
	}
	slices.SortStableFunc(boxes, func(a, b box) int { return cmp.Compare(a.low[0], b.low[0]) })
	known := map[[2]string]bool{}
	out := map[string][]string{}
	for i, a := range boxes {
		for _, b := range boxes[i+1:] {
			if b.low[0] > a.top[0] {
				break
			}
			if a.zone == b.zone || known[[2]string{a.zone, b.zone}] || !near(a.low, a.top, b.low, b.top) {
				continue
			}
			known[[2]string{a.zone, b.zone}], known[[2]string{b.zone, a.zone}] = true, true
			out[a.zone], out[b.zone] = append(out[a.zone], b.zone), append(out[b.zone], a.zone)
		}
	}
	for _, all := range out {
		slices.Sort(all)
	}
	return out
}
