package document

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"cinderpath/core/base"
	"cinderpath/core/form"
	"cinderpath/core/gear"
	"cinderpath/core/kit"
	"cinderpath/core/length"
	"cinderpath/core/measure"
	"cinderpath/core/relief"
	"cinderpath/core/scheme"
	"cinderpath/core/strata"
	"cinderpath/core/unit"
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

	Kit    *kit.Kit `json:"kit,omitempty"`
	School string   `json:"school,omitempty"` // the question that Text answers
	Jar    string   `json:"jar,omitempty"`

	Touch *strata.Touch  `json:"touch,omitempty"` // its place is Place
	Small *relief.Detail `json:"small,omitempty"` // its places are Place and To
	To    *Place         `json:"to,omitempty"`
	Zone  string         `json:"zone,omitempty"`
	Life  strata.Life    `json:"life,omitempty"`
	Order *OrderEdit     `json:"order,omitempty"`
	Pin   *PinEdit       `json:"pin,omitempty"`

	Base *base.Base `json:"base,omitempty"`

	Colours []int `json:"colours,omitempty"` // of the scheme, from 0: the one that is dropped, or all in their new order
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
	NameFace    = "nameFace"  // of an imported body
	SetShell    = "shell"     // an own part by its id; whoever holds the files turns it into a body
	SetOutline  = "outline"   // begins body and running gear anew, fitted to the overall sizes
	AddColour   = "addColour" // the next usual one
	DropColour  = "dropColour"
	SetSequence = "sequence" // of the scheme's colours
	SetPin      = "pin"      // a place of the scheme has a colour
	DropPin     = "dropPin"
	MoveField   = "moveField" // pins that bring a field from one place to another
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
	Temporary   = "temporary"   // paint over scheme and markings: a winter wash
	Tracks      = "tracks"      // what they get of their own: base, rust, wash, mud, bright cleats
	Propose     = "propose"     // the layers that follow from its life
	SetRelief   = "relief"      // of the surface of Zone: Text
	SetTouch    = "touch"       // where a layer lands, at Place; Text names the layer
	OtherPart   = "otherPart"   // the one at Place came from another vehicle
	OtherScheme = "otherScheme" // which wore Scheme; Zone is the part's
	PutMarking  = "putMarking"  // that Text names, at Place
	SetSmall    = "small"       // bolts, welds and joints: a new one, or the one of that id
	DropSmall   = "dropSmall"
	UsualSmall  = "usualSmall"
	SetBase     = "base"   // what it stands on; nothing for what is usual
	SetLife     = "life"   // all of what is said of it
	SetSupply   = "supply" // Text names a kind of product, Jar what is taken for it
)

// Apply makes the edits on a copy of the build; on the first fault nothing is
// changed. newID names what is inserted; now tells of the state that mends and changes to
// the order are made against.
func Apply(b Build, edits []Edit, newID func() string, now Standing) (Build, error) {
	for _, e := range edits {
		make, known := ops[e.Op]
		if !known {
			return Build{}, measure.Refuse(
				"op",
				fmt.Sprintf("%q is not an edit", e.Op),
				"use one that the interface description lists",
			)
		}
		if err := make(&b, e, means{newID, now}); err != nil {
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
	Proposed  func(Build) ([]strata.Layer, error) // the stack with what follows from its life
	Temporary func(Build) ([]strata.Layer, error) // and with a winter wash over scheme and markings
	Tracks    func(Build) ([]strata.Layer, error) // and with what its tracks get of their own
	Views     func(Build) ([]form.View, error)
	Colour    func(Build, scheme.Anchor) (int, error) // of the scheme, at a place
	Painted   func(Build, string) (unit.Share, error) // what a zone is of all that takes a scheme
	Laid      func(strata.Layer) bool                 // whether it was begun
}

// means is what an edit may need besides the build.
type means struct {
	newID func() string
	now   Standing
}

// op makes one edit. The build is a copy; what it points at is shared and must be copied
// before it is changed.
type op func(b *Build, e Edit, m means) error

// ops tells how each edit is made.
var ops = map[string]op{
	Rename:    func(b *Build, e Edit, _ means) error { b.Name = strings.TrimSpace(e.Text); return nil },
	SetStory:  func(b *Build, e Edit, _ means) error { b.Story = strings.TrimSpace(e.Text); return nil },
	SetFit:    func(b *Build, e Edit, _ means) error { b.Fit = e.Text; return nil },
	SetLength: resize,
	SetWidth:  resize,
	SetHeight: resize,
	SetScale: func(b *Build, e Edit, _ means) error {
		return read(&b.Scale, SetScale, func() (length.Scale, error) { return length.ParseScale(e.Text) })
	},
	SetPin: setPin,
	DropColour: func(b *Build, e Edit, _ means) error {
		if len(e.Colours) != 1 || e.Colours[0] < 1 || e.Colours[0] >= len(b.Scheme.Colours) {
			return measure.Refuse("colours", "no colour above the first is named", "look at the newer state")
		}
		b.Scheme = b.Scheme.Dropped(e.Colours[0])
		return nil
	},
	SetSequence: func(b *Build, e Edit, _ means) error {
		if !isOrder(e.Colours, len(b.Scheme.Colours)) {
			return measure.Refuse("colours", "that is no order of the scheme's colours", "name each once")
		}
		b.Scheme = b.Scheme.Reordered(e.Colours)
		return nil
	},
	SetLife: func(b *Build, e Edit, _ means) error {
		b.Life = maps.Clone(e.Life)
		return nil
	},
	SetSupply: func(b *Build, e Edit, _ means) error {
		b.Supplies = saidOf(b.Supplies, e.Text, e.Jar)
		return nil
	},
	SetBase:     func(b *Build, e Edit, _ means) error { b.Base = e.Base; return nil },
	SetTouch:    setTouch,
	OtherPart:   otherPart,
	OtherScheme: otherScheme,
	PutMarking:  putMarking,
	Temporary:   temporary,
	Tracks:      tracks,
	SetRelief:   setRelief,
	SetSmall:    setSmall, DropSmall: dropSmall, UsualSmall: usualSmall,
	Propose:   propose,
	DropPin:   dropPin,
	MoveField: moveField,
	SetScheme: func(b *Build, e Edit, _ means) error { return given(&b.Scheme, e.Scheme, e.Op) },
	AddColour: func(b *Build, _ Edit, _ means) error {
		if len(b.Scheme.Colours) == 0 || len(b.Scheme.Colours) >= scheme.MostColours {
			return measure.Refuse(
				AddColour,
				fmt.Sprintf("a scheme has one to %d colours", scheme.MostColours),
				"leave another one out first",
			)
		}
		b.Scheme = b.Scheme.WithColour()
		return nil
	},
	SetLink:     func(b *Build, e Edit, _ means) error { return given(&b.Link, e.Link, e.Op) },
	SetBody:     func(b *Build, e Edit, _ means) error { return given(&b.Body, e.Body, e.Op) },
	SetKit:      func(b *Build, e Edit, _ means) error { return given(&b.Kit, e.Kit, e.Op) },
	SetPriority: func(b *Build, e Edit, _ means) error { return given(&b.Priority, e.Priority, e.Op) },
	SetGround:   func(b *Build, e Edit, _ means) error { b.Ground = slices.Clone(e.Ground); return nil },
	SetUneven:   func(b *Build, _ Edit, _ means) error { b.Ground = gear.Uneven(b.Wheels); return nil },
	SetWheels:   setWheels,
	SetRow: func(b *Build, e Edit, _ means) error {
		if e.Row == nil {
			return nothing(e.Op)
		}
		return read(&b.Wheels, SetRow, func() ([]gear.Wheel, error) {
			return gear.Row(b.Wheels, e.Row.Count, e.Row.Spacing, e.Row.Diameter)
		})
	},
	AddPart: func(b *Build, e Edit, _ means) error {
		return read(&b.Body, AddPart, func() (form.Body, error) { return b.Body.With(e.Text) })
	},
	DragPoint: dragPoint,
	AddFitting: func(b *Build, e Edit, _ means) error {
		if e.Place == nil {
			return nothing(e.Op)
		}
		b.Body = b.Body.WithFitting(e.Place.What, e.Place.On, e.Place.point(b.Scale))
		return nil
	},
	NameFace: func(b *Build, e Edit, _ means) error {
		if e.Place == nil {
			return nothing(e.Op)
		}
		return read(&b.Body, NameFace, func() (form.Body, error) {
			return b.Body.WithName(e.Place.What, e.Place.point(b.Scale))
		})
	},
	SetShell: func(*Build, Edit, means) error {
		return measure.Refuse(SetShell, "the mesh of the part is not at hand here", "send a body with its shell")
	},
	SetOutline: setOutline,

	SetDimension: func(b *Build, e Edit, m means) error {
		return edited(b, e.Dimension, e.Op, m, setDimension)
	},
	SetCable: func(b *Build, e Edit, m means) error { return edited(b, e.Cable, e.Op, m, setCable) },
	SetPhoto: func(b *Build, e Edit, m means) error {
		if e.Photo == nil {
			return nothing(e.Op)
		}
		photo := *e.Photo
		if err := photo.Read(); err != nil {
			return measure.At("photo", err)
		}
		return put(&b.Photos, photo, func(p *measure.Photo) *string { return &p.ID }, m.newID)
	},
	SetPart: func(b *Build, e Edit, m means) error {
		if e.Part == nil {
			return nothing(e.Op)
		}
		return put(&b.Parts, *e.Part, func(p *measure.Part) *string { return &p.ID }, m.newID)
	},
	DropDimension: func(b *Build, e Edit, _ means) error {
		return drop(&b.Dimensions, e.Text, func(d measure.Dimension) string { return d.ID })
	},
	DropCable: func(b *Build, e Edit, _ means) error {
		return drop(&b.Cables, e.Text, func(c measure.Cable) string { return c.ID })
	},
	DropPhoto: func(b *Build, e Edit, _ means) error {
		return drop(&b.Photos, e.Text, func(p measure.Photo) string { return p.ID })
	},
	DropPart: func(b *Build, e Edit, _ means) error {
		return drop(&b.Parts, e.Text, func(p measure.Part) string { return p.ID })
	},

	SetVersion: func(b *Build, e Edit, _ means) error {
		return read(&b.Kit, SetVersion, func() (kit.Kit, error) { next, _, err := b.Kit.Choose(e.Text); return next, err })
	},
	ReadLeaflet: func(b *Build, e Edit, _ means) error {
		return read(&b.Kit.Leaflet, ReadLeaflet, func() ([]kit.Leaf, error) { return kit.ReadLeaflet(e.Text) })
	},
	SetSchool: setSchool,
	SetOrder: func(b *Build, e Edit, m means) error {
		if e.Order == nil || m.now.Reordered == nil {
			return measure.Refuse(SetOrder, "the edit carries nothing to change", "send what is to be done about the order")
		}
		next, err := m.now.Reordered(*b, *e.Order)
		if err == nil {
			b.Order = next
		}
		return err
	},
	EditLayers: func(b *Build, e Edit, m means) error {
		return read(&b.Layers, "layers", func() ([]strata.Layer, error) { return strata.Apply(b.Layers, e.Layers, m.newID) })
	},
	ApplyMend: mend,
}

// saidOf is a copy of what is said of some things, with something said of one; nothing takes it out.
func saidOf(all map[string]string, of, text string) map[string]string {
	out := map[string]string{}
	maps.Copy(out, all)
	out[of] = text
	if text == "" {
		delete(out, of)
	}
	return out
}

func nothing(op string) error {
	return measure.Refuse(op, "the edit carries nothing to set", "send the new value")
}

// given sets what the edit carries.
func given[T any](to, from *T, op string) error {
	if from == nil {
		return nothing(op)
	}
	*to = *from
	return nil
}

// read sets what can be read; a refusal names the field.
func read[T any](to *T, field string, from func() (T, error)) error {
	next, err := from()
	if err != nil {
		return measure.At(field, err)
	}
	*to = next
	return nil
}

// edited hands what the edit carries to whoever makes another build of it.
func edited[T any](b *Build, from *T, op string, m means, by func(Build, T, func() string) (Build, error)) error {
	if from == nil {
		return nothing(op)
	}
	next, err := by(*b, *from, m.newID)
	if err == nil {
		*b = next
	}
	return err
}

// put replaces the thing of the same id in a copy of the list, or adds it; without an id it
// is given one.
func put[T any](list *[]T, x T, id func(*T) *string, newID func() string) error {
	if own := id(&x); *own == "" {
		*own = newID()
	}
	*list = slices.Clone(*list)
	if i := slices.IndexFunc(*list, func(y T) bool { return *id(&y) == *id(&x) }); i >= 0 {
		(*list)[i] = x
		return nil
	}
	*list = append(*list, x)
	return nil
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
