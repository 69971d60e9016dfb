package sheets

import (
	"bytes"
	"encoding/binary"
	"encoding/json"
	"io"
	"math"
	"strconv"

	"cinderpath/core/form"
	"cinderpath/core/plan"
)

// WriteBodySTL writes the parts of a vehicle as one binary STL in model mm; each part is
// a closed shell, and parts run into one another where they do on the vehicle.
func WriteBodySTL(w io.Writer, parts []form.Part, scale float64, name string) error {
	all := &form.Mesh{}
	for _, p := range parts {
		first := uint32(len(all.Points))
		for _, q := range p.Mesh.Points {
			all.Points = append(all.Points, [3]float32{float32(float64(q[0]) / scale), float32(float64(q[1]) / scale), float32(float64(q[2]) / scale)})
		}
		for _, f := range p.Mesh.Faces {
			all.Faces = append(all.Faces, [3]uint32{first + f[0], first + f[1], first + f[2]})
		}
	}
	return WriteSTL(w, all, name)
}

// The parts of a glTF 2.0 document that are written (Khronos specification, 2021).
type (
	gltfAccessor struct {
		BufferView    int       `json:"bufferView"`
		ByteOffset    int       `json:"byteOffset"`
		ComponentType int       `json:"componentType"`
		Count         int       `json:"count"`
		Type          string    `json:"type"`
		Min           []float32 `json:"min,omitempty"`
		Max           []float32 `json:"max,omitempty"`
	}
	gltfMesh struct {
		Name       string          `json:"name"`
		Primitives []gltfPrimitive `json:"primitives"`
	}
	gltfPrimitive struct {
		Attributes map[string]int `json:"attributes"`
		Material   int            `json:"material"`
	}
	gltfNode struct {
		Name     string `json:"name"`
		Mesh     *int   `json:"mesh,omitempty"`
		Children []int  `json:"children,omitempty"`
	}
)

const gltfFloat = 5126

// WriteGLB writes the vehicle's visible faces as a binary glTF 2.0 document, in
// metres of the model, y up, x forward: one named mesh for each zone. Tracks and rubber
// are dark; the rest has the scheme's first colour.
func WriteGLB(w io.Writer, s plan.Solid, name, hex string) error {
	zones := make([][]int, len(s.Zones)) // triangles of each
	for t, z := range s.Of {
		zones[z] = append(zones[z], t)
	}
	var data bytes.Buffer
	var accessors []gltfAccessor
	var meshes []gltfMesh
	nodes := []gltfNode{{Name: name}}
	put := func(view int, from []float32, triangles []int, k float32) int {
		a := gltfAccessor{BufferView: view, ByteOffset: data.Len(), ComponentType: gltfFloat, Count: 3 * len(triangles), Type: "VEC3",
			Min: []float32{math.MaxFloat32, math.MaxFloat32, math.MaxFloat32}, Max: []float32{-math.MaxFloat32, -math.MaxFloat32, -math.MaxFloat32}}
		for _, t := range triangles {
			for i, v := range from[9*t : 9*t+9] {
				v *= k
				a.Min[i%3], a.Max[i%3] = min(a.Min[i%3], v), max(a.Max[i%3], v)
				_ = binary.Write(&data, binary.LittleEndian, v) // a buffer takes everything
			}
		}
		accessors = append(accessors, a)
		return len(accessors) - 1
	}
	for z, triangles := range zones {
		material := 0
		if isTrack(s.Zones[z]) || isRubber(s.Zones[z]) {
			material = 1
		}
		at := put(0, s.Positions, triangles, 0.001)
		meshes = append(meshes, gltfMesh{Name: s.Zones[z], Primitives: []gltfPrimitive{{Attributes: map[string]int{"POSITION": at, "NORMAL": put(0, s.Normals, triangles, 1)}, Material: material}}})
		mesh := z
		nodes = append(nodes, gltfNode{Name: s.Zones[z], Mesh: &mesh})
		nodes[0].Children = append(nodes[0].Children, len(nodes)-1)
	}
	material := func(name string, rgb [3]float64) map[string]any {
		return map[string]any{"name": name, "pbrMetallicRoughness": map[string]any{"baseColorFactor": []float64{rgb[0], rgb[1], rgb[2], 1}, "metallicFactor": 0, "roughnessFactor": 0.9}}
	}
	head, err := json.Marshal(map[string]any{
		"asset": map[string]string{"version": "2.0", "generator": "Cinder Path"},
		"scene": 0, "scenes": []any{map[string]any{"nodes": []int{0}}},
		"nodes": nodes, "meshes": meshes, "accessors": accessors,
		"materials":   []any{material("paint", linear(hex)), material("dark metal and rubber", [3]float64{0.03, 0.03, 0.03})},
		"bufferViews": []any{map[string]int{"buffer": 0, "byteLength": data.Len()}},
		"buffers":     []any{map[string]any{"byteLength": data.Len()}},
	})
	if err != nil {
		return err
	}
	// A header, then the document padded with spaces and the numbers, each with its length.
	for len(head)%4 != 0 {
		head = append(head, ' ')
	}
	words := func(n ...uint32) []byte {
		var out []byte
		for _, v := range n {
			out = binary.LittleEndian.AppendUint32(out, v)
		}
		return out
	}
	const jsonChunk, binChunk = 0x4E4F534A, 0x004E4942
	for _, part := range [][]byte{words(0x46546C67, 2, uint32(12+8+len(head)+8+data.Len())), words(uint32(len(head)), jsonChunk), head, words(uint32(data.Len()), binChunk), data.Bytes()} {
		if _, err := w.Write(part); err != nil {
			return err
		}
	}
	return nil
}

// linear turns a swatch to the linear light that glTF counts in (IEC 61966-2-1).
func linear(hex string) (rgb [3]float64) {
	n, err := strconv.ParseUint(hex[1:], 16, 32)
	if err != nil {
		return [3]float64{0.2, 0.2, 0.2}
	}
	for k := range 3 {
		v := float64(n>>(16-8*k)&255) / 255
		if v <= 0.04045 {
			rgb[k] = v / 12.92
		} else {
			rgb[k] = math.Pow((v+0.055)/1.055, 2.4)
		}
	}
	return rgb
}
