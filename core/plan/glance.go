package plan

import (
	"fmt"
	"time"

	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/path"
)

// Glance is what home shows of a build.
type Glance struct {
	Build    string `json:"build"`
	Name     string `json:"name"`
	Subject  string `json:"subject,omitempty"`
	Scale    string `json:"scale"`
	Priority int    `json:"priority"`
	Stand    Stand  `json:"stand"`

	Trouble  *Trouble `json:"trouble,omitempty"` // why nothing follows from it
	Findings int      `json:"findings"`

	Path   []path.Status `json:"path"`   // of each step, in working order
	Next   int           `json:"next"`   // the place on it of what to do next; −1 for none
	Drying []string      `json:"drying"` // what dries now, and until when
	Ready  int           `json:"ready"`  // steps that can be begun

	Look    string       `json:"look"` // what is seen of it now
	Picture PictureFrame `json:"picture"`
}

// PictureFrame is the view that a picture is of, model mm.
type PictureFrame struct {
	Side   form.Side `json:"side"`
	Width  float64   `json:"width"`
	Height float64   `json:"height"`
}

// Glance tells of a plan what home shows.
func (p Plan) Glance(b document.Build) Glance {
	g := Glance{
		Build:    p.Build,
		Name:     p.Name,
		Subject:  b.Subject,
		Scale:    p.Scale,
		Priority: b.Priority,
		Stand:    p.Stand,
		Trouble:  p.Trouble,
		Findings: len(p.Findings),
		Path:     []path.Status{},
		Next:     -1,
		Drying:   []string{},
		Look:     p.Bare,
	}
	for i, s := range p.Steps {
		g.Path = append(g.Path, s.Status)
		switch {
		case s.ID == p.Stand.Next:
			g.Next = i
		case s.Status == path.IsDrying:
			g.Drying = append(g.Drying, fmt.Sprintf("%s until %s", s.Title, when(s.Until, p.AsOf)))
		}
		if s.Status == path.IsReady {
			g.Ready++
		}
		if s.Status.Done() || s.Status == path.IsNow {
			g.Look = s.Look
		}
	}
	for _, v := range p.Views {
		if v.Side == form.Left {
			g.Picture = PictureFrame{v.Side, v.Width, v.Height}
		}
	}
	return g
}

// when says an instant as one says it: the hour today, the day as well on others.
func when(at, asOf time.Time) string {
	switch days := at.YearDay() - asOf.YearDay(); {
	case at.Year() == asOf.Year() && days == 0 && at.Hour() >= 17:
		return at.Format("tonight 15:04")
	case at.Year() == asOf.Year() && days == 0:
		return at.Format("today 15:04")
	case at.Sub(asOf) < 6*24*time.Hour:
		return at.Format("Mon 15:04")
	}
	return at.Format(clockFace)
}
