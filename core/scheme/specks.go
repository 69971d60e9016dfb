package scheme

import (
	"cmp"
	"slices"
)

// clean gives fields of fewer squares than that to what lies most beside them.
func clean(labels []uint8, wide, least int) (changed int) {
	seen := make([]bool, len(labels))
	high := len(labels) / wide
	for start, v := range labels {
		if v == unknown || seen[start] {
			continue
		}
		field := []int{start}
		seen[start] = true
		beside := map[uint8]int{}
		for i := 0; i < len(field); i++ {
			k := field[i]
			for _, d := range [4][2]int{{1, 0}, {-1, 0}, {0, 1}, {0, -1}} {
				x, y := k%wide+d[0], k/wide+d[1]
				if x < 0 || y < 0 || x >= wide || y >= high {
					continue
				}
				o := y*wide + x
				switch {
				case labels[o] == v && !seen[o]:
					seen[o] = true
					field = append(field, o)
				case labels[o] != v && labels[o] != unknown:
					beside[labels[o]]++
				}
			}
		}
		if len(field) >= least || len(beside) == 0 {
			continue
		}
		var to []uint8
		for c := range beside {
			to = append(to, c)
		}
		slices.SortFunc(to, func(a, b uint8) int { return cmp.Or(cmp.Compare(beside[b], beside[a]), cmp.Compare(a, b)) })
		for _, k := range field {
			labels[k] = to[0]
			changed++
		}
	}
	return changed
}
