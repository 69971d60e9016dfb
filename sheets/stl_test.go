package sheets_test

import (
	"bytes"
	"encoding/binary"
	"fmt"
	"io"
	"math"
	"runtime"
	"strings"
	"testing"

	"cinderpath/core/form"
	"cinderpath/core/measure"
	"cinderpath/sheets"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// lump is a closed torus of nu × nv squares.
func lump(nu, nv int) *form.Mesh {
	var w form.Welder
	at := func(i, j int) [3]float32 {
		su, cu := math.Sincos(2 * math.Pi * float64(i%nu) / float64(nu))
		sv, cv := math.Sincos(2 * math.Pi * float64(j%nv) / float64(nv))
		return [3]float32{float32((40 + 9*cv) * cu), float32((40 + 9*cv) * su), float32(9 * sv)}
	}
	for i := range nu {
		for j := range nv {
			a, b, c, d := at(i, j), at(i+1, j), at(i+1, j+1), at(i, j+1)
			w.Add([3][3]float32{a, b, c})
			w.Add([3][3]float32{a, c, d})
		}
	}
	return &w.Mesh
}

func binarySTL(t testing.TB, m *form.Mesh) []byte {
	var out bytes.Buffer
	require.NoError(t, sheets.WriteSTL(&out, m, "solid by its first word, binary by nature"))
	return out.Bytes()
}

func asciiSTL(m *form.Mesh) []byte {
	var out bytes.Buffer
	fmt.Fprintln(&out, "solid lump")
	for _, f := range m.Faces {
		fmt.Fprintln(&out, "  facet normal 0 0 0\n    outer loop")
		for _, v := range f {
			p := m.Points[v]
			fmt.Fprintf(&out, "      vertex %.9g %.9g %.9g\n", p[0], p[1], p[2])
		}
		fmt.Fprintln(&out, "    endloop\n  endfacet")
	}
	fmt.Fprintln(&out, "endsolid lump")
	return out.Bytes()
}

// Both kinds of file give the same mesh, however small the pieces they arrive in.
func TestSTLBothKinds(t *testing.T) {
	m := lump(40, 20)
	want := m.Measure()
	for name, data := range map[string][]byte{"binary": binarySTL(t, m), "ASCII": asciiSTL(m), "ASCII, DOS lines, capitals": bytes.ToUpper(bytes.ReplaceAll(asciiSTL(m), []byte("\n"), []byte("\r\n")))} {
		if strings.Contains(name, "capitals") {
			data = append([]byte("solid"), data[5:]...)
		}
		told := int64(0)
		got, err := sheets.ReadSTL(iotestOneByte(data), func(n int64) { told = n })
		require.NoError(t, err, name)
		assert.Equal(t, want, got.Measure(), name)
		assert.EqualValues(t, len(data), told, name)
	}
}

// iotestOneByte hands out the data in small pieces.
func iotestOneByte(data []byte) io.Reader { return &dribble{data} }

type dribble struct{ rest []byte }

func (d *dribble) Read(p []byte) (int, error) {
	if len(d.rest) == 0 {
		return 0, io.EOF
	}
	n := copy(p, d.rest[:min(len(d.rest), 7)])
	d.rest = d.rest[n:]
	return n, nil
}

func TestSTLRefusesInWords(t *testing.T) {
	good := binarySTL(t, lump(6, 5))
	claims := make([]byte, 200)
	binary.LittleEndian.PutUint32(claims[80:], math.MaxUint32)
	nan := bytes.Clone(good)
	binary.LittleEndian.PutUint32(nan[84+12:], math.Float32bits(float32(math.NaN())))
	ascii := string(asciiSTL(lump(6, 5)))
	for words, data := range map[string][]byte{
		"more than 500000":         claims,
		"after 59 of 60 triangles": good[:len(good)-1],
		"more behind its 60":       append(bytes.Clone(good), 0),
		"triangle 1 has":           nan,
		"before its header ends":   []byte("short"),
		"no triangle":              append(make([]byte, 80), 0, 0, 0, 0),
		"without endsolid":         []byte(ascii[:len(ascii)-14]),
		"is not a coordinate":      []byte(strings.Replace(ascii, "vertex 49", "vertex x", 1)),
		"begins with \"surface\"":  []byte(strings.Replace(ascii, "outer", "surface", 1)),
		"a facet with 2 corners":   []byte("solid a\nfacet normal 0 0 1\nvertex 0 0 0\nvertex 1 0 0\nendfacet\nendsolid\n"),
		"outside a facet":          []byte("solid a\nvertex 0 0 0\n"),
		"begins in a facet":        []byte("solid a\nfacet\nfacet\n"),
		"longer than any line":     []byte("solid a\n" + strings.Repeat(" ", 1<<17)),
	} {
		_, err := sheets.ReadSTL(bytes.NewReader(data), nil)
		var f *measure.Fault
		require.ErrorAs(t, err, &f, words)
		assert.Contains(t, f.Reason, words)
		assert.NotEmpty(t, f.Remedy)
	}
}

// allocated is what f takes from the heap, bytes.
func allocated(f func()) uint64 {
	var before, after runtime.MemStats
	runtime.ReadMemStats(&before)
	f()
	runtime.ReadMemStats(&after)
	return after.TotalAlloc - before.TotalAlloc
}

func TestClaimsCostNothing(t *testing.T) {
	claims := make([]byte, 200)
	for _, n := range []uint32{math.MaxUint32, form.MostTriangles} {
		binary.LittleEndian.PutUint32(claims[80:], n)
		assert.Less(t, allocated(func() { _, _ = sheets.ReadSTL(bytes.NewReader(claims), nil) }), uint64(1<<20))
	}
}

// Whatever is read is a mesh that can be measured and written, or refused in words;
// memory stays in proportion to the input.
func FuzzReadSTL(f *testing.F) {
	f.Add(binarySTL(f, lump(4, 3)))
	f.Add(asciiSTL(lump(4, 3)))
	f.Add([]byte("solid\nendsolid"))
	f.Fuzz(func(t *testing.T, data []byte) {
		var m *form.Mesh
		var err error
		used := allocated(func() { m, err = sheets.ReadSTL(bytes.NewReader(data), nil) })
		assert.Less(t, used, uint64(1<<20+100*len(data)))
		if err != nil {
			return
		}
		s := m.Measure()
		if math.IsNaN(s.Area) || math.IsNaN(s.Volume) || s.Triangles == 0 {
			t.Fatalf("%+v", s)
		}
		if s.Triangles < 200 {
			m.Walls(s, nil, nil)
		}
		again, err := sheets.ReadSTL(bytes.NewReader(binarySTL(t, m)), nil)
		require.NoError(t, err)
		assert.Equal(t, s.Vertices, again.Measure().Vertices)
	})
}

// The figure of the issue, with the time to merely read the file beside it.
func BenchmarkReadSTL500k(b *testing.B) {
	m := lump(1000, 250)
	for name, data := range map[string][]byte{"binary": binarySTL(b, m), "ascii": asciiSTL(m)} {
		b.Run(name, func(b *testing.B) {
			b.SetBytes(int64(len(data)))
			for b.Loop() {
				got, err := sheets.ReadSTL(bytes.NewReader(data), nil)
				require.NoError(b, err)
				require.True(b, got.Measure().Closed)
			}
		})
		b.Run(name+"-merely-read", func(b *testing.B) {
			b.SetBytes(int64(len(data)))
			buf := make([]byte, 1<<16)
			for b.Loop() {
				r, sum := bytes.NewReader(data), byte(0)
				for {
					n, err := r.Read(buf)
					for _, c := range buf[:n] {
						sum += c
					}
					if err != nil {
						break
					}
				}
				sink = sum
			}
		})
	}
}

var sink byte
