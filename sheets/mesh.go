package sheets

import (
	"bytes"

	"cinderpath/core/form"
	"cinderpath/core/length"
	"cinderpath/core/measure"
)

// MeshQuestion is an STL with how it was drawn and what it is printed on.
type MeshQuestion struct {
	STL     []byte          `json:"stl"` // base64 in JSON
	Unit    string          `json:"unit"`
	DrawnAt string          `json:"drawnAt"` // 1:1 for real size
	Scale   string          `json:"scale"`   // wanted
	Printer measure.Printer `json:"printer"`
}

// Shape is what a mesh measures in the unit of its file.
type Shape struct {
	Solid form.Solid  `json:"solid"`
	Walls *form.Walls `json:"walls,omitempty"` // nil while they are being measured
}

// MeshAnswer is what a part measures and what it comes to on the printer.
type MeshAnswer struct {
	Shape
	Report measure.PartReport `json:"report"`
}

// Facts turns a shape into what a part is judged by.
func (s Shape) Facts() measure.PartFacts {
	f := measure.PartFacts{
		Size:      s.Solid.Size(),
		Area:      s.Solid.Area,
		Volume:    s.Solid.Volume,
		Closed:    s.Solid.Closed,
		Open:      s.Solid.Open,
		Crowded:   s.Solid.Crowded,
		Shells:    s.Solid.Shells,
		Triangles: s.Solid.Triangles,
	}
	if w := s.Walls; w != nil {
		f.Walled, f.Thinnest, f.Feature, f.Spacing, f.Samples = true, w.Thinnest, w.Feature, w.Spacing, w.Samples
	}
	return f
}

// AskMesh measures a mesh and judges it.
func AskMesh(q MeshQuestion) (MeshAnswer, error) {
	drawn, err := length.ParseScale(q.DrawnAt)
	if err != nil {
		return MeshAnswer{}, measure.At("drawnAt", err)
	}
	scale, err := length.ParseScale(q.Scale)
	if err != nil {
		return MeshAnswer{}, measure.At("scale", err)
	}
	if q.Printer.ID == "" {
		q.Printer.ID = "asked"
	}
	if err := q.Printer.Check(); err != nil {
		return MeshAnswer{}, measure.At("printer", err)
	}
	if measure.Units[q.Unit] == 0 {
		return MeshAnswer{}, &measure.Fault{
			Field:  "unit",
			Reason: "no unit a mesh is drawn in",
			Remedy: "use mm, cm, m or in",
		}
	}
	m, err := ReadSTL(bytes.NewReader(q.STL), nil)
	if err != nil {
		return MeshAnswer{}, err
	}
	s := Shape{Solid: m.Measure()}
	w := m.Walls(s.Solid, nil, nil)
	s.Walls = &w
	return MeshAnswer{s, measure.Part{Unit: q.Unit, DrawnAt: drawn}.Judge(s.Facts(), scale, q.Printer)}, nil
}
