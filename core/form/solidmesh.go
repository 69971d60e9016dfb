package form

// Part is a closed part of the vehicle as a mesh, real mm.
type Part struct {
	Zone string // of its first face; hulls and turrets by their name
	Mesh *Mesh
}

// Meshes gives every part of body and running gear as a closed mesh of its own, turning
// counter-clockwise seen from outside. Parts may run into one another.
func Meshes(b Body, run Running) ([]Part, error) {
	parts, err := b.solids()
	if err != nil {
		return nil, err
	}
	out := make([]Part, 0, len(parts))
	for _, s := range append(parts, run.solids()...) {
		var w Welder
		for _, f := range s.faces {
			for _, p := range f.parts {
				for k := 1; k+1 < len(p); k++ {
					w.Add([3][3]float32{single(p[0]), single(p[k]), single(p[k+1])})
				}
			}
		}
		out = append(out, Part{s.faces[0].zone, &w.Mesh})
	}
	return out, nil
}

func single(v Vec) [3]float32 { return [3]float32{float32(v[0]), float32(v[1]), float32(v[2])} }

// Volume is the sum of the body's parts, real mm³; where parts run into one another it
// counts twice.
func Volume(b Body) (float64, error) {
	parts, err := Meshes(b, Running{})
	sum := 0.0
	for _, p := range parts {
		sum += p.Mesh.Measure().Volume
	}
	return sum, err
}
