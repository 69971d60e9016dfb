package document

import (
	"fmt"
	"slices"
	"strings"

	"cinderpath/core/form"
	"cinderpath/core/gear"
	"cinderpath/core/length"
	"cinderpath/core/measure"
)

func setWheels(b *Build, e Edit, _ means) error {
	b.Wheels = slices.Clone(e.Wheels)
	for i, w := range b.Wheels {
		if w.Arm != nil && *w.Arm == (gear.Arm{}) { // one is wanted, none is described
			b.Wheels[i].Arm = gear.CommonArm(w)
		}
	}
	return nil
}

func dragPoint(b *Build, e Edit, m means) error {
	if e.Drag == nil || m.now.Views == nil {
		return nothing(e.Op)
	}
	views, err := m.now.Views(*b)
	if err != nil {
		return err
	}
	return read(&b.Body, DragPoint, func() (form.Body, error) { return b.Body.Dragged(*e.Drag, views, b.Scale) })
}

// setOutline begins body and running gear anew, fitted to the overall sizes.
func setOutline(b *Build, e Edit, _ means) error {
	kind := form.Kind(e.Text)
	if !slices.Contains(form.Kinds, kind) {
		return measure.Refuse(SetOutline, fmt.Sprintf("%q is not known", e.Text), "use "+form.KindNames())
	}
	l, w, h := b.Sizes.Length.MM, b.Sizes.Width.MM, b.Sizes.Height.MM
	b.Outline, b.Ground = kind, nil
	b.Body = form.NewBody(kind, l, w, h)
	b.Wheels, b.Link = form.NewWheels(kind, l, w, h)
	return nil
}

// resize sets an overall size; body and gear are stretched with it, since they
// were fitted to it. The pitch of a track is the kit's and stays.
func resize(b *Build, e Edit, _ means) error {
	r, err := length.ParseReal(e.Text, length.Metre)
	if err != nil {
		return measure.At(e.Op, err)
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
	return nil
}
