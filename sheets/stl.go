package sheets

import (
	"bufio"
	"bytes"
	"encoding/binary"
	"errors"
	"fmt"
	"io"
	"math"
	"strconv"
	"strings"

	"cinderpath/core/form"
	"cinderpath/core/measure"
)

// ReadSTL reads a mesh, ASCII or binary, as a stream: memory grows with what was
// really read, whatever the file claims. read is told the bytes so far and may be nil.
// Refused: more than form.MostTriangles, coordinates that are not numbers, a file
// that ends early.
func ReadSTL(r io.Reader, read func(bytes int64)) (*form.Mesh, error) {
	in := bufio.NewReaderSize(&counted{r: r, told: read}, 1<<16)
	head, err := in.Peek(84)
	if err != nil && !errors.Is(err, io.EOF) {
		return nil, err
	}
	var w form.Welder
	if looksASCII(in, head) {
		err = readASCII(in, &w)
	} else {
		err = readBinary(in, &w)
	}
	if err != nil {
		return nil, err
	}
	if len(w.Faces) == 0 {
		return nil, stlFault("it has no triangle with an area", "export the part again")
	}
	return &w.Mesh, nil
}

type counted struct {
	r    io.Reader
	n    int64
	told func(int64)
}

func (c *counted) Read(p []byte) (int, error) {
	n, err := c.r.Read(p)
	c.n += int64(n)
	if c.told != nil {
		c.told(c.n)
	}
	return n, err
}

func stlFault(reason, remedy string) error {
	return &measure.Fault{Field: "stl", Reason: reason, Remedy: remedy}
}

var errMany = stlFault(
	fmt.Sprintf("more than %d triangles", form.MostTriangles),
	"reduce the mesh, or cut it into parts",
)

// looksASCII tells the two kinds apart: binary files may begin with "solid" too,
// but have no text after it.
func looksASCII(in *bufio.Reader, head []byte) bool {
	if !bytes.HasPrefix(bytes.TrimLeft(head, " \t\r\n"), []byte("solid")) {
		return false
	}
	more, err := in.Peek(1024)
	if err != nil && !errors.Is(err, io.EOF) {
		return false
	}
	for _, b := range more {
		if b == 0 || b > 126 || b < 9 {
			return bytes.Contains(more, []byte("facet")) && !bytes.ContainsRune(more, 0)
		}
	}
	return true
}

func readBinary(in io.Reader, w *form.Welder) error {
	var head [84]byte
	if _, err := io.ReadFull(in, head[:]); err != nil {
		return cutShort(err, "before its header ends")
	}
	claimed := binary.LittleEndian.Uint32(head[80:])
	if claimed > form.MostTriangles {
		return errMany
	}
	var record [50]byte
	for i := range claimed {
		if _, err := io.ReadFull(in, record[:]); err != nil {
			return cutShort(err, fmt.Sprintf("after %d of %d triangles", i, claimed))
		}
		var t [3][3]float32
		for k := range 9 {
			t[k/3][k%3] = math.Float32frombits(binary.LittleEndian.Uint32(record[12+4*k:]))
		}
		if err := sound(t, int(i)); err != nil {
			return err
		}
		w.Add(t)
	}
	if _, err := in.Read(record[:1]); err == nil {
		return stlFault(fmt.Sprintf("there is more behind its %d triangles", claimed), "export the part again")
	} else if !errors.Is(err, io.EOF) {
		return err
	}
	return nil
}

func cutShort(err error, where string) error {
	if errors.Is(err, io.EOF) || errors.Is(err, io.ErrUnexpectedEOF) {
		return stlFault("the file ends "+where, "export or copy the part again")
	}
	return err
}

// farthest is the largest coordinate that is believed, in the file's unit.
const farthest = 1e7

func sound(t [3][3]float32, i int) error {
	for _, p := range t {
		for _, v := range p {
			if !(v >= -farthest && v <= farthest) {
				return stlFault(
					fmt.Sprintf("triangle %d has a coordinate that is no number or lies beyond %g", i+1, farthest),
					"export the part again",
				)
			}
		}
	}
	return nil
}

// readASCII reads "facet … outer loop, three vertices … endfacet" over and over.
func readASCII(in *bufio.Reader, w *form.Welder) error {
	var t [3][3]float32
	corners, line := 0, 0
	open, ended := false, false
	for {
		text, err := in.ReadSlice('\n')
		line++
		if errors.Is(err, bufio.ErrBufferFull) {
			return stlFault(fmt.Sprintf("line %d is longer than any line of an STL", line), "export the part again")
		}
		if err != nil && !errors.Is(err, io.EOF) {
			return err
		}
		last := err != nil
		word, rest := cutWord(text)
		switch {
		case is(word, "vertex"):
			if !open || corners == 3 {
				return stlFault(fmt.Sprintf("line %d: a vertex outside a facet", line), "export the part again")
			}
			for k := range 3 {
				var number []byte
				number, rest = cutWord(rest)
				v, err := strconv.ParseFloat(string(number), 32)
				if err != nil {
					return stlFault(fmt.Sprintf("line %d: %q is not a coordinate", line, clip(number)), "export the part again")
				}
				t[corners][k] = float32(v)
			}
			corners++
		case is(word, "facet"):
			if open {
				return stlFault(fmt.Sprintf("line %d: a facet begins in a facet", line), "export the part again")
			}
			open, corners = true, 0
		case is(word, "endfacet"):
			if !open || corners != 3 {
				return stlFault(
					fmt.Sprintf("line %d: a facet with %d corners", line, corners),
					"an STL has triangles only; export the part again",
				)
			}
			open = false
			if len(w.Faces)+w.Dropped >= form.MostTriangles {
				return errMany
			}
			if err := sound(t, len(w.Faces)+w.Dropped); err != nil {
				return err
			}
			w.Add(t)
		case is(word, "endsolid"):
			ended = true
		case len(word) == 0, is(word, "outer"), is(word, "endloop"), is(word, "solid"):
		default:
			return stlFault(
				fmt.Sprintf("line %d begins with %q", line, clip(word)),
				"an STL has facets and vertices only; export the part again",
			)
		}
		if last {
			if open || !ended {
				return stlFault(fmt.Sprintf("the file ends in line %d without endsolid", line), "export or copy the part again")
			}
			return nil
		}
	}
}

func clip(b []byte) string {
	return strings.ToValidUTF8(string(b[:min(len(b), 24)]), "?")
}

// cutWord takes the first word off a line.
func cutWord(line []byte) (word, rest []byte) {
	from := 0
	for from < len(line) && line[from] <= ' ' {
		from++
	}
	to := from
	for to < len(line) && line[to] > ' ' {
		to++
	}
	return line[from:to], line[to:]
}

// is compares a word with a lower-case one, capitals or not.
func is(word []byte, lower string) bool {
	if len(word) != len(lower) {
		return false
	}
	for i, b := range word {
		if b|0x20 != lower[i] {
			return false
		}
	}
	return true
}

// WriteSTL writes a mesh as binary STL.
func WriteSTL(w io.Writer, m *form.Mesh, name string) error {
	out := bufio.NewWriter(w)
	var head [84]byte
	copy(head[:80], name)
	binary.LittleEndian.PutUint32(head[80:], uint32(len(m.Faces)))
	if _, err := out.Write(head[:]); err != nil {
		return err
	}
	var record [50]byte
	for i := range m.Faces {
		normal := m.Normal(i)
		for k := range 3 {
			binary.LittleEndian.PutUint32(record[4*k:], math.Float32bits(float32(normal[k])))
			for c := range 3 {
				binary.LittleEndian.PutUint32(record[12+12*c+4*k:], math.Float32bits(m.Points[m.Faces[i][c]][k]))
			}
		}
		if _, err := out.Write(record[:]); err != nil {
			return err
		}
	}
	return out.Flush()
}
