package plan

import (
	"fmt"

	"cinderpath/core/document"
	"cinderpath/core/length"
	"cinderpath/core/relief"
)

// SmallLine is a detail of the small relief as it is told.
type SmallLine struct {
	ID    string `json:"id"`
	Zone  string `json:"zone"`
	Words string `json:"words"`
}

// smallLines tells of the small relief that lies on the vehicle, and how many bolts and rivets there
// are in all.
func smallLines(b document.Build, s surface) (out []SmallLine, dots int) {
	out = []SmallLine{}
	for _, d := range b.Raised() {
		var marks []relief.Mark
		for _, on := range relief.Lay([]relief.Detail{d}, s.panels) {
			marks = append(marks, on...)
		}
		n, long := relief.Count(marks)
		if n == 0 && long == 0 && b.Small == nil {
			continue // what comes with every body, and has no place on this one
		}
		l := SmallLine{d.ID, d.Zone, d.Words()}
		if n > 1 {
			l.Words = fmt.Sprintf("%d %s", n, l.Words)
		}
		if long > 0 {
			l.Words += fmt.Sprintf(", %.1f cm", float64(b.Scale.ToModel(length.Real(long)))/10)
		}
		dots += n
		out = append(out, l)
	}
	return out, dots
}
