package sheets

import (
	"bytes"
	"encoding/binary"
	"encoding/json"
	"fmt"
	"io"
	"math"

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
			all.Points = append(
				all.Points,
				[3]float32{float32(float64(q[0]) / scale), float32(float64(q[1]) / scale), float32(float64(q[2]) / scale)},
			)
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

// WriteGLB writes the vehicle's visible faces as a binary glTF 2.0 document, in metres of the
// model, y up, x forward: one named mesh for each zone. They wear a picture, a PNG.
func WriteGLB(w io.Writer, s plan.Solid, name string, worn []byte) error {
	zones := make([][]int, len(s.Zones)) // triangles of each
	for t, z := range s.Of {
		zones[z] = append(zones[z], t)
	}
	var data bytes.Buffer
	var accessors []gltfAccessor
	var meshes []gltfMesh
	nodes := []gltfNode{{Name: name}}
	put := func(wide int, from []float32, triangles []int, k float32) int {
		a := gltfAccessor{
			ByteOffset:    data.Len(),
			ComponentType: gltfFloat,
			Count:         3 * len(triangles),
			Type:          fmt.Sprintf("VEC%d", wide),
		}
		for range wide {
			a.Min, a.Max = append(a.Min, math.MaxFloat32), append(a.Max, -math.MaxFloat32)
		}
		for _, t := range triangles {
			for i, v := range from[3*wide*t : 3*wide*(t+1)] {
				v *= k
				a.Min[i%wide], a.Max[i%wide] = min(a.Min[i%wide], v), max(a.Max[i%wide], v)
				_ = binary.Write(&data, binary.LittleEndian, v) // a buffer takes everything
			}
		}
		accessors = append(accessors, a)
		return len(accessors) - 1
	}
	for z, triangles := range zones {
		attributes := map[string]int{
			"POSITION":   put(3, s.Positions, triangles, 0.001),
			"NORMAL":     put(3, s.Normals, triangles, 1),
			"TEXCOORD_0": put(2, s.UVs, triangles, 1),
		}
		meshes = append(meshes, gltfMesh{Name: s.Zones[z], Primitives: []gltfPrimitive{{Attributes: attributes}}})
		mesh := z
		nodes = append(nodes, gltfNode{Name: s.Zones[z], Mesh: &mesh})
		nodes[0].Children = append(nodes[0].Children, len(nodes)-1)
	}
	numbers := data.Len()
	data.Write(worn)
	for data.Len()%4 != 0 {
		data.WriteByte(0)
	}
	head, err := json.Marshal(map[string]any{
		"asset":     map[string]string{"version": "2.0", "generator": "Cinder Path"},
		"scene":     0,
		"scenes":    []any{map[string]any{"nodes": []int{0}}},
		"nodes":     nodes,
		"meshes":    meshes,
		"accessors": accessors,
		"materials": []any{map[string]any{"name": "as it looks", "pbrMetallicRoughness": map[string]any{
			"baseColorTexture": map[string]int{"index": 0}, "metallicFactor": 0, "roughnessFactor": 0.9}}},
		"textures": []any{map[string]int{"source": 0}},
		"images":   []any{map[string]any{"bufferView": 1, "mimeType": "image/png"}},
		"bufferViews": []any{
			map[string]int{"buffer": 0, "byteLength": numbers},
			map[string]int{"buffer": 0, "byteOffset": numbers, "byteLength": len(worn)},
		},
		"buffers": []any{map[string]any{"byteLength": data.Len()}},
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
	for _, part := range [][]byte{
		words(0x46546C67, 2, uint32(12+8+len(head)+8+data.Len())),
		words(uint32(len(head)), jsonChunk),
		head,
		words(uint32(data.Len()), binChunk),
		data.Bytes(),
	} {
		if _, err := w.Write(part); err != nil {
			return err
		}
	}
	return nil
}
