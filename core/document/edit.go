package document

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"cinderpath/core/form"
	"cinderpath/core/gear"
	"cinderpath/core/kit"
	"cinderpath/core/length"
	"cinderpath/core/measure"
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
	Ground   gear.Terrain    `json:"ground,omitempty"`
	Body     *form.Body      `json:"body,omitempty"`
	Place    *Place          `json:"place,omitempty"`
	Drag     *form.Drag      `json:"drag,omitempty"`
	Row      *Row            `json:"row,omitempty"`
	Layers   []strata.Edit   `json:"layers,omitempty"`
	Finding  string          `json:"finding,omitempty"`
	Mend     string          `json:"mend,omitempty"`
	Priority *int            `json:"priority,omitempty"`

	Dimension *DimensionEdit `json:"dimension,omitempty"`
	Cable     *CableEdit     `json:"cable,omitempty"`
	Photo     *measure.Photo `json:"photo,omitempty"`
	Part      *measure.Part  `json:"part,omitempty"`

	Kit    *kit.Kit   `json:"kit,omitempty"`
	School string     `json:"school,omitempty"` // the question that Text answers
	Order  *OrderEdit `json:"order,omitempty"`
}

// Place is where on the vehicle something is put.
type Place struct {
	What string     `json:"what"` // the kind of fitting, or a face's new zone
	On   string     `json:"on,omitempty"`
	At   [3]float64 `json:"at"` // model mm
}

func (p Place) point(scale length.Scale) (v form.Vec) {
	for k := range 3 {
		v[k] = float64(scale.ToReal(length.Model(p.At[k])))
	}
	return v
}

// Row asks for road wheels in a row.
type Row struct {
	Count    int     `json:"count"`
	Spacing  float64 `json:"spacing"` // real mm
	Diameter float64 `json:"diameter"`
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
	SetGround   = "ground"
	SetUneven   = "uneven" // a ground to begin from, fitted to the wheels
	SetRow      = "row"
	SetBody     = "body"
	DragPoint   = "drag"    // of a part of the body, in a view
	AddPart     = "addPart" // of the kind that Text names
	AddFitting  = "addFitting"
	NameFace    = "nameFace" // of an imported body
	SetShell    = "shell"    // an own part by its id; whoever holds the files turns it into a body
	SetOutline  = "outline"  // begins body and running gear anew, fitted to the overall sizes
	EditLayers  = "layers"
	ApplyMend   = "mend"
	SetPriority = "priority"

	SetDimension  = "dimension" // sets the given fields; without an id a new one
	DropDimension = "dropDimension"
	SetFit        = "fit"
	SetCable      = "cable" // replaces it; without an id a new one
	DropCable     = "dropCable"
	SetPhoto      = "photo"
	DropPhoto     = "dropPhoto"
	SetPart       = "part"
	DropPart      = "dropPart"

	SetKit      = "kit"     // the whole of it
	SetVersion  = "version" // by the id that Text names
	ReadLeaflet = "leaflet" // CSV in Text
	SetSchool   = "school"
	SetOrder    = "order"
)

// Apply makes the edits on a copy of the build; on the first fault nothing is
// changed. newID names what is inserted; now tells of the state that mends and changes to
// the order are made against.
func Apply(b Build, edits []Edit, newID func() string, now Standing) (Build, error) {
	for _, e := range edits {
		var err error
		if e.Op == SetOrder {
			if b, err = applyOrder(b, e, now); err != nil {
				return Build{}, err
			}
			continue
		}
		if b, err = apply(b, e, newID, now); err != nil {
			return Build{}, err
		}
	}
	return b, b.Check()
}

// Standing tells what follows from a build as it stands, for those edits that speak of it.
// What is not given cannot be edited.
type Standing struct {
	Findings  func(Build) ([]strata.Finding, error)
	Reordered func(Build, OrderEdit) (Rework, error)
	Views     func(Build) ([]form.View, error)
}

func applyOrder(b Build, e Edit, now Standing) (Build, error) {
	if e.Order == nil || now.Reordered == nil {
		return b, measure.Refuse(SetOrder, "the edit carries nothing to change", "send what is to be done about the order")
	}
	next, err := now.Reordered(b, *e.Order)
	if err != nil {
		return b, err
	}
	b.Order = next
	return b, nil
}

func apply(b Build, e Edit, newID func() string, now Standing) (Build, error) {
	missing := func() (Build, error) {
		return b, &measure.Fault{Field: e.Op, Reason: "the edit carries nothing to set", Remedy: "send the new value"}
	}
	switch e.Op {
	case Rename:
		b.Name = strings.TrimSpace(e.Text)
	case SetStory:
		b.Story = strings.TrimSpace(e.Text)
	case SetScale:
		scale, err := length.ParseScale(e.Text)
		if err != nil {
			return b, measure.At(SetScale, err)
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
		for i, w := range b.Wheels {
			if w.Arm != nil && *w.Arm == (gear.Arm{}) { // one is wanted, none is described
				b.Wheels[i].Arm = gear.CommonArm(w)
			}
		}
	case SetRow:
		if e.Row == nil {
			return missing()
		}
		wheels, err := gear.Row(b.Wheels, e.Row.Count, e.Row.Spacing, e.Row.Diameter)
		if err != nil {
			return b, measure.At(SetRow, err)
		}
		b.Wheels = wheels
	case SetUneven:
		b.Ground = gear.Uneven(b.Wheels)
	case AddPart:
		body, err := b.Body.With(e.Text)
		if err != nil {
			return b, measure.At(AddPart, err)
		}
		b.Body = body
	case DragPoint:
		if e.Drag == nil || now.Views == nil {
			return missing()
		}
		views, err := now.Views(b)
		if err != nil {
			return b, err
		}
		body, err := b.Body.Dragged(*e.Drag, views, b.Scale)
		if err != nil {
			return b, measure.At(DragPoint, err)
		}
		b.Body = body
	case AddFitting, NameFace:
		if e.Place == nil {
			return missing()
		}
		at := e.Place.point(b.Scale)
		if e.Op == AddFitting {
			b.Body = b.Body.WithFitting(e.Place.What, e.Place.On, at)
			break
		}
		body, err := b.Body.WithName(e.Place.What, at)
		if err != nil {
			return b, measure.At(NameFace, err)
		}
		b.Body = body
	case SetLink:
		if e.Link == nil {
			return missing()
		}
		b.Link = *e.Link
	case SetGround:
		b.Ground = slices.Clone(e.Ground)
	case SetBody:
		if e.Body == nil {
			return missing()
		}
		b.Body = *e.Body
	case SetShell:
		return b, &measure.Fault{Field: SetShell, Reason: "the mesh of the part is not at hand here", Remedy: "send a body with its shell"}
	case SetOutline:
		b.Outline, b.Ground = form.Kind(e.Text), nil
		if !slices.Contains(form.Kinds, b.Outline) {
			return b, &measure.Fault{Field: SetOutline, Reason: fmt.Sprintf("%q is not known", e.Text), Remedy: "use " + form.KindNames()}
		}
		l, w, h := b.Sizes.Length.MM, b.Sizes.Width.MM, b.Sizes.Height.MM
		b.Body = form.NewBody(b.Outline, l, w, h)
		b.Wheels, b.Link = form.NewWheels(b.Outline, l, w, h)
	case SetPriority:
		if e.Priority == nil {
			return missing()
		}
		b.Priority = *e.Priority
	case SetDimension:
		if e.Dimension == nil {
			return missing()
		}
		return setDimension(b, *e.Dimension, newID)
	case DropDimension:
		err := drop(&b.Dimensions, e.Text, func(d measure.Dimension) string { return d.ID })
		return b, err
	case SetFit:
		b.Fit = e.Text
	case SetCable:
		if e.Cable == nil {
			return missing()
		}
		return setCable(b, *e.Cable, newID)
	case DropCable:
		err := drop(&b.Cables, e.Text, func(c measure.Cable) string { return c.ID })
		return b, err
	case SetPhoto:
		if e.Photo == nil {
			return missing()
		}
		photo := *e.Photo
		if err := photo.Read(); err != nil {
			return b, measure.At("photo", err)
		}
		if photo.ID == "" {
			photo.ID = newID()
		}
		put(&b.Photos, photo, func(p measure.Photo) string { return p.ID })
	case DropPhoto:
		err := drop(&b.Photos, e.Text, func(p measure.Photo) string { return p.ID })
		return b, err
	case SetPart:
		if e.Part == nil {
			return missing()
		}
		part := *e.Part
		if part.ID == "" {
			part.ID = newID()
		}
		put(&b.Parts, part, func(p measure.Part) string { return p.ID })
	case DropPart:
		err := drop(&b.Parts, e.Text, func(p measure.Part) string { return p.ID })
		return b, err
	case SetKit:
		if e.Kit == nil {
			return missing()
		}
		b.Kit = *e.Kit
	case SetVersion:
		next, _, err := b.Kit.Choose(e.Text)
		if err != nil {
			return b, measure.At(SetVersion, err)
		}
		b.Kit = next
	case ReadLeaflet:
		leaflet, err := kit.ReadLeaflet(e.Text)
		if err != nil {
			return b, measure.At(ReadLeaflet, err)
		}
		b.Kit.Leaflet = leaflet
	case SetSchool:
		b.Schools = maps.Clone(b.Schools)
		if b.Schools == nil {
			b.Schools = map[string]string{}
		}
		b.Schools[e.School] = e.Text
		if e.Text == "" {
			delete(b.Schools, e.School)
		}
	case EditLayers:
		layers, err := strata.Apply(b.Layers, e.Layers, newID)
		if err != nil {
			return b, measure.At("layers", err)
		}
		b.Layers = layers
	case ApplyMend:
		return mend(b, e, newID, now)
	default:
		return b, &measure.Fault{Field: "op", Reason: fmt.Sprintf("%q is not an edit", e.Op), Remedy: "use one that the interface description lists"}
	}
	return b, nil
}

// resize sets an overall size; body and gear are stretched with it, since they
// were fitted to it. The pitch of a track is the kit's and stays.
func resize(b Build, e Edit) (Build, error) {
	r, err := length.ParseReal(e.Text, length.Metre)
	if err != nil {
		return b, measure.At(e.Op, err)
	}
	size := b.Sizes.Overall(e.Op)
	k := float64(r) / size.MM
	size.Size = measure.Size{MM: float64(r), Typed: strings.TrimSpace(e.Text)}
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
		w.X, w.Z, w.Radius, w.Hub = w.X*kx, w.Z*kz, w.Radius*kz, w.Hub*kz
		if w.Arm != nil {
			arm := *w.Arm
			arm.X, arm.Z = arm.X*kx, arm.Z*kz
			w.Arm = &arm
		}
	}
	b.Link.Width *= ky
	return b, nil
}

// mend applies a mend of a finding that stands now.
func mend(b Build, e Edit, newID func() string, now Standing) (Build, error) {
	if now.Findings == nil {
		return b, &measure.Fault{Field: "mend", Reason: "what stands against the build is not at hand here", Remedy: "send the change itself"}
	}
	findings, err := now.Findings(b)
	if err != nil {
		return b, err
	}
	for _, f := range findings {
		if f.ID != e.Finding {
			continue
		}
		for _, m := range f.Mends {
			if m.ID == e.Mend {
				layers, err := strata.Apply(b.Layers, m.Edits, newID)
				if err != nil {
					return b, measure.At("mend", err)
				}
				b.Layers = layers
				return b, nil
			}
		}
		return b, &measure.Fault{Field: "mend", Reason: fmt.Sprintf("finding %s has no mend %q", f.Rule, e.Mend), Remedy: "choose one of those shown"}
	}
	return b, &measure.Fault{Field: "finding", Reason: "that finding no longer stands", Remedy: "look at the findings again"}
}

// put replaces the thing of the same id in a copy of the list, or adds it.
func put[T any](list *[]T, x T, id func(T) string) {
	*list = slices.Clone(*list)
	if i := slices.IndexFunc(*list, func(y T) bool { return id(y) == id(x) }); i >= 0 {
		(*list)[i] = x
		return
	}
	*list = append(*list, x)
}

// drop takes a thing out of a copy of the list.
func drop[T any](list *[]T, gone string, id func(T) string) error {
	i := slices.IndexFunc(*list, func(x T) bool { return id(x) == gone })
	if i < 0 {
		return &measure.Fault{Field: "id", Reason: fmt.Sprintf("%q is not there", gone), Remedy: "look at the newer state"}
	}
	*list = slices.Delete(slices.Clone(*list), i, i+1)
	return nil
}
