package plan

import (
	"cinderpath/core/document"
	"cinderpath/core/form"
)

// Grips are what of a part of a build's body can be dragged, by view.
func (d *Deriver) Grips(b document.Build, part string) ([]form.Grip, error) {
	s, err := d.surface(b)
	if err != nil {
		return nil, err
	}
	views, err := d.views(b, s)
	if err != nil {
		return nil, err
	}
	return b.Body.Grips(part, views, b.Scale), nil
}

// Ranked is the priority that puts a build before all others of a workshop, or behind them.
func Ranked(items []document.Item, first bool) int {
	least, most := 0, 0
	for i, it := range items {
		if p := it.Build.Priority; i == 0 {
			least, most = p, p
		} else {
			least, most = min(least, p), max(most, p)
		}
	}
	if first {
		return least - 1
	}
	return most + 1
}
