package build

import (
	"fmt"
	"slices"
	"strings"

	"cinderpath/core/gear"
	"cinderpath/core/length"
	"cinderpath/core/scheme"
	"cinderpath/core/strata"
)

// Edit is one change that a modeller makes to a build.
type Edit struct {
	Op       string          `json:"op"`             // one of the Op constants
	Text     string          `json:"text,omitempty"` // as typed
	Scheme   *scheme.Pattern `json:"scheme,omitempty"`
	Wheels   []gear.Wheel    `json:"wheels,omitempty"`
	Link     *gear.Link      `json:"link,omitempty"`
	Layers   []strata.Edit   `json:"layers,omitempty"`
	Finding  string          `json:"finding,omitempty"`
	Mend     string          `json:"mend,omitempty"`
	Priority *int            `json:"priority,omitempty"`
}

// The edits.
const (
	Rename      = "rename"
	SetStory    = "story"
	SetScale    = "scale"
	SetLength   = "length"
	SetWidth    = "width"
	SetHeight   = "height"
	SetScheme   = "scheme"
	SetWheels   = "wheels"
	SetLink     = "link"
	EditLayers  = "layers"
	ApplyMend   = "mend"
	SetPriority = "priority"
)

// Apply makes the edits on a copy of the build; on the first fault nothing is
// changed. newID names what is inserted; gap is what the log tells of waits (see
// GapOf) and may be nil.
func Apply(b Build, edits []Edit, newID func() string, gap strata.Gap) (Build, error) {
	for _, e := range edits {
		var err error
		if b, err = apply(b, e, newID, gap); err != nil {
			return Build{}, err
		}
	}
	return b, b.Check()
}

func apply(b Build, e Edit, newID func() string, gap strata.Gap) (Build, error) {
	missing := func() (Build, error) {
		return b, &Fault{Field: e.Op, Reason: "the edit carries nothing to set", Remedy: "send the new value"}
	}
	switch e.Op {
	case Rename:
		b.Name = strings.TrimSpace(e.Text)
	case SetStory:
		b.Story = strings.TrimSpace(e.Text)
	case SetScale:
		scale, err := length.ParseScale(e.Text)
		if err != nil {
			return b, fault(SetScale, err)
		}
		b.Scale = scale
	case SetLength, SetWidth, SetHeight:
		return resize(b, e)
	case SetScheme:
		if e.Scheme == nil {
			return missing()
		}
		b.Scheme = *e.Scheme
	case SetWheels:
		b.Wheels = slices.Clone(e.Wheels)
	case SetLink:
		if e.Link == nil {
			return missing()
		}
		b.Link = *e.Link
	case SetPriority:
		if e.Priority == nil {
			return missing()
		}
		b.Priority = *e.Priority
	case EditLayers:
		layers, err := strata.Apply(b.Layers, e.Layers, newID)
		if err != nil {
			return b, fault("layers", err)
		}
		b.Layers = layers
	case ApplyMend:
		return mend(b, e, newID, gap)
	default:
		return b, &Fault{Field: "op", Reason: fmt.Sprintf("%q is not an edit", e.Op), Remedy: "use one that the interface description lists"}
	}
	return b, nil
}

// resize sets an overall size; body and gear are stretched with it, since they
// were fitted to it. The pitch of a track is the kit's and stays.
func resize(b Build, e Edit) (Build, error) {
	r, err := length.ParseReal(e.Text, length.Metre)
	if err != nil {
		return b, fault(e.Op, err)
	}
	size := map[string]*Size{SetLength: &b.Sizes.Length, SetWidth: &b.Sizes.Width, SetHeight: &b.Sizes.Height}[e.Op]
	k := float64(r) / size.MM
	*size = Size{MM: float64(r), Typed: strings.TrimSpace(e.Text)}
	kx, ky, kz := 1.0, 1.0, 1.0
	switch e.Op {
	case SetLength:
		kx = k
	case SetWidth:
		ky = k
	default:
		kz = k
	}
	b.Body = b.Body.Stretch(kx, ky, kz)
	b.Wheels = slices.Clone(b.Wheels)
	for i := range b.Wheels {
		w := &b.Wheels[i]
		w.X, w.Z, w.Radius = w.X*kx, w.Z*kz, w.Radius*kz
	}
	b.Link.Width *= ky
	return b, nil
}

// mend applies a mend of a finding that stands now.
func mend(b Build, e Edit, newID func() string, gap strata.Gap) (Build, error) {
	findings, _ := strata.Check(b.Layers, Zones(b), gap)
	for _, f := range findings {
		if f.ID != e.Finding {
			continue
		}
		for _, m := range f.Mends {
			if m.ID == e.Mend {
				layers, err := strata.Apply(b.Layers, m.Edits, newID)
				if err != nil {
					return b, fault("mend", err)
				}
				b.Layers = layers
				return b, nil
			}
		}
		return b, &Fault{Field: "mend", Reason: fmt.Sprintf("finding %s has no mend %q", f.Rule, e.Mend), Remedy: "choose one of those shown"}
	}
	return b, &Fault{Field: "finding", Reason: "that finding no longer stands", Remedy: "look at the findings again"}
}
