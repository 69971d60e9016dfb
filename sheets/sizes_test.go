package sheets_test

import (
	"bytes"
	"encoding/binary"
	"encoding/csv"
	"fmt"
	"hash/crc32"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"strconv"
	"strings"
	"testing"
	"time"

	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/measure"
	"cinderpath/core/path"
	"cinderpath/core/plan"
	"cinderpath/sheets"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func names() func() string {
	n := 0
	return func() string { n++; return fmt.Sprintf("id-%d", n) }
}

func measured(t testing.TB, b document.Build, table string) document.Build {
	read, err := sheets.ReadSizes(table)
	require.NoError(t, err)
	require.Empty(t, read.Faults)
	var edits []document.Edit
	for i := range read.Rows {
		edits = append(edits, document.Edit{Op: document.SetDimension, Dimension: &read.Rows[i]})
	}
	id := names()
	b, err = document.Apply(b, edits, func() string { return "new-" + id() }, document.Standing{})
	require.NoError(t, err)
	return b
}

func tank(t testing.TB) document.Build {
	b, err := document.New(
		document.Start{
			Name:    "Varrow",
			Outline: form.Tracked,
			Scale:   "1:35",
			Length:  "6.4 m",
			Width:   "3.1 m",
			Height:  "2.52 m",
		},
		names(),
	)
	require.NoError(t, err)
	return b
}

func planOf(t testing.TB, b document.Build) plan.Plan {
	var d plan.Deriver
	w := document.Workshop{
		Name:     "bench",
		Zone:     "UTC",
		Calendar: path.Calendar{Weekly: []path.Window{{Day: 1, From: "20:00", To: "22:00"}}, Temperature: 20, Humidity: 0.5},
	}
	plans, err := d.Plans(w, []document.Item{{Build: b}}, time.Date(2026, 11, 23, 19, 0, 0, 0, time.UTC))
	require.NoError(t, err)
	return plans[0]
}

// Tables as spreadsheets copy and save them.
func TestReadSizes(t *testing.T) {
	for name, table := range map[string]string{
		"tabs, headings":             "Part\tName\tReal (m)\tKit\t±\ngun\tBarrel length\t2.88\t78.3\t0.02\n",
		"semicolons, decimal commas": "group;name;real;caliper;+/-\ngun;Barrel length;2,88 m;78,3;0,02\n",
		"commas, quoted":             "name,real_mm,kit_mm,plus_minus,group\n\"Barrel length\",2880,78.3,0.02,gun\n",
		"no headings, group first":   "gun\tBarrel length\t2880\t78.3\t0.02\n",
		"a mark of byte order, DOS": "\ufeffgroup\tname\treal\tkit\t±\r\ngun\tBarrel length\t288 " +
			"cm\t78.3 mm\t±0.02\r\n\r\n",
		"columns that are not wanted": "group;colour;name;real;kit;±\ngun;green;Barrel length;2880;78.3;0.02",
	} {
		read, err := sheets.ReadSizes(table)
		require.NoError(t, err, name)
		require.Empty(t, read.Faults, name)
		require.Len(t, read.Rows, 1, name)
		b := measured(t, tank(t), table)
		d := b.Dimensions[0]
		assert.Equal(t, "gun", d.Group, name)
		assert.InDelta(t, 2880, d.Real.MM, 1e-9, name)
		assert.InDelta(t, 78.3, d.Kit.MM, 1e-9, name)
		assert.InDelta(t, 0.02, d.Kit.Plus, 1e-9, name)
		assert.Equal(t, measure.AlongLength, d.Along, name)
	}
}

// One bad row is told and kept; the others stand.
func TestReadSizesKeepsWhatItCannotRead(t *testing.T) {
	read, err := sheets.ReadSizes(
		"name\treal\tkit\nBarrel\t2880\t78\nSkirt\t-5\t1\nHatch\t500\twide\n\t600\t17\nRing\t1,780\t50\nRope\n",
	)
	require.NoError(t, err)
	assert.Len(t, read.Rows, 1)
	var fields []string
	for _, f := range read.Faults {
		fields = append(fields, fmt.Sprintf("%d %s", f.Row, f.Field))
		assert.NotEmpty(t, f.Reason)
		assert.NotEmpty(t, f.Remedy)
		assert.NotEmpty(t, f.Text)
	}
	assert.Equal(t, []string{"3 real", "4 kit", "5 name", "6 real", "7 real"}, fields)
	for _, bad := range []string{"", "\n\n", strings.Repeat("x\t1\n", 500), strings.Repeat("y", 300<<10)} {
		_, err := sheets.ReadSizes(bad)
		var f *measure.Fault
		require.ErrorAs(t, err, &f)
		assert.NotEmpty(t, f.Remedy)
	}
}

// What is written is read back onto another build with nothing changed, and again
// without doubling anything.
func TestSizesRoundTrip(t *testing.T) {
	b := measured(
		t,
		tank(t),
		"group\tname\treal\tkit\t±\tfrom\tsource\ngun\tBarrel length\t2880\t78.3\t0.02\tcaliper\tdrawing "+
			"4\nfittings\tTow rope, length\t4.2 m\t131\t\tleaflet\t\nhull\tSkirt "+
			"thickness\t8\t1.2\t\t\t\nhull\tWidth\t3.12 m\t88.9\t\t\t\n",
	)
	p := planOf(t, b)
	var out bytes.Buffer
	require.NoError(t, sheets.WriteSizes(&out, p))
	again := measured(t, measured(t, tank(t), out.String()), out.String())
	q := planOf(t, again)
	require.Len(t, q.Sizes, len(p.Sizes))
	for i := range p.Sizes {
		a, b := p.Sizes[i], q.Sizes[i]
		assert.Equal(
			t,
			[]any{a.Group, a.Name, a.RealMM, a.ModelMM, a.Along, a.Source},
			[]any{b.Group, b.Name, b.RealMM, b.ModelMM, b.Along, b.Source},
		)
		require.Equal(t, a.Kit == nil, b.Kit == nil, a.Name)
		if a.Kit != nil {
			assert.Equal(
				t,
				[]any{a.Kit.MM, a.Kit.Plus, a.Kit.From, a.Kit.Model},
				[]any{b.Kit.MM, b.Kit.Plus, b.Kit.From, b.Kit.Model},
			)
		}
	}
	assert.InDelta(t, 3120, again.Sizes.Width.MM, 1e-9, "an overall size is set by its name")
}

// Whatever is pasted is read or refused in words, and what is read can be applied.
func FuzzReadSizes(f *testing.F) {
	f.Add("group\tname\treal\tkit\ngun\tBarrel\t2.88 m\t78.3\n")
	f.Add("name;real (m);±\n\"a;b\";7,12;x")
	f.Add("Barrel,2880,\"78")
	f.Fuzz(func(t *testing.T, table string) {
		var read sheets.SizeTable
		var err error
		used := allocated(func() { read, err = sheets.ReadSizes(table) })
		assert.Less(t, used, uint64(1<<20+400*len(table)))
		if err != nil {
			var fault *measure.Fault
			require.ErrorAs(t, err, &fault)
			return
		}
		id := names()
		for i := range read.Rows {
			b, err := document.Apply(
				tank(t),
				[]document.Edit{{Op: document.SetDimension, Dimension: &read.Rows[i]}},
				id,
				document.Standing{},
			)
			if err == nil {
				require.NoError(t, b.Check())
			}
		}
	})
}

// scene has another colour in each corner, so that turning shows.
func scene() image.Image {
	img := image.NewNRGBA(image.Rect(0, 0, 64, 32))
	for y := range 32 {
		for x := range 64 {
			img.Set(x, y, color.NRGBA{uint8(40 + 170*(x/32)), uint8(40 + 170*(y/16)), 90, 255})
		}
	}
	return img
}

func jpegOf(t testing.TB, orientation byte) []byte {
	var out bytes.Buffer
	require.NoError(t, jpeg.Encode(&out, scene(), &jpeg.Options{Quality: 95}))
	if orientation == 0 {
		return out.Bytes()
	}
	exif := []byte(
		"Exif\x00\x00MM\x00*\x00\x00\x00\x08\x00\x01\x01\x12\x00\x03\x00\x00\x00\x01\x00\x00\x00\x00\x00\x00\x00\x00",
	)
	exif[6+8+2+9] = orientation
	head := append([]byte{0xff, 0xd8, 0xff, 0xe1, 0, byte(len(exif) + 2)}, exif...)
	return append(head, out.Bytes()[2:]...)
}

// Where the upper left corner of the scene lies after each of the eight EXIF turns,
// from the standard's own table: which row and column the first row and column are.
func TestPhotosAreTurnedUpright(t *testing.T) {
	for orientation, want := range map[byte][2]bool{1: {false, false}, 2: {true, false}, 3: {true, true}, 4: {false, true}, 5: {false, false}, 6: {true, false}, 7: {true, true}, 8: {false, true}} {
		p, err := sheets.ReadPhoto(jpegOf(t, orientation))
		require.NoError(t, err)
		turned := orientation >= 5
		assert.Equal(t, turned, p.Width == 32 && p.Height == 64, "orientation %d is %d × %d", orientation, p.Width, p.Height)
		img, err := jpeg.Decode(bytes.NewReader(p.Data))
		require.NoError(t, err)
		x, y := 2, 2
		if want[0] {
			x = p.Width - 3
		}
		if want[1] {
			y = p.Height - 3
		}
		r, g, _, _ := img.At(x, y).RGBA()
		assert.Less(t, r>>8+g>>8, uint32(120), "orientation %d: the dark corner is not at %d, %d", orientation, x, y)
		assert.NotContains(t, string(p.Data), "Exif", "what the camera wrote is gone")
	}
	// Notes that are not quite in order may turn it all the same.
	broken := bytes.Replace(jpegOf(t, 6), []byte("Exif\x00"), []byte("Exif)"), 1)
	p, err := sheets.ReadPhoto(broken)
	require.NoError(t, err)
	head, err := jpeg.DecodeConfig(bytes.NewReader(p.Data))
	require.NoError(t, err)
	assert.Equal(t, [2]int{p.Width, p.Height}, [2]int{head.Width, head.Height})
	plain := jpegOf(t, 0)
	p, err = sheets.ReadPhoto(plain)
	require.NoError(t, err)
	assert.Equal(t, plain, p.Data, "nothing to turn, nothing changed")
}

func TestPhotosRefusedInWords(t *testing.T) {
	var small bytes.Buffer
	require.NoError(t, png.Encode(&small, scene()))
	claims := func(side uint32) []byte {
		data := bytes.Clone(small.Bytes())
		binary.BigEndian.PutUint32(data[16:], side)
		binary.BigEndian.PutUint32(data[20:], side)
		binary.BigEndian.PutUint32(data[29:], crc32.ChecksumIEEE(data[12:29]))
		return data
	}
	for words, data := range map[string][]byte{
		"neither a JPEG nor a PNG": []byte("GIF89a"), "head cannot be read": small.Bytes()[:20], "to its end": jpegOf(t, 0)[:len(jpegOf(t, 0))-60],
		"larger than 20 MB": append([]byte("\xff\xd8\xff"), make([]byte, 21<<20)...), "cannot hold 5888 × 5888": claims(5888), "more than 50 million": claims(65536),
	} {
		var err error
		used := allocated(func() { _, err = sheets.ReadPhoto(data) })
		var f *measure.Fault
		require.ErrorAs(t, err, &f, words)
		assert.Contains(t, f.Reason, words)
		assert.Less(t, used, uint64(4<<20), words)
	}
}

func FuzzReadPhoto(f *testing.F) {
	f.Add(jpegOf(f, 0))
	f.Add(jpegOf(f, 6))
	var small bytes.Buffer
	require.NoError(f, png.Encode(&small, scene()))
	f.Add(small.Bytes())
	f.Fuzz(func(t *testing.T, data []byte) {
		var p sheets.Picture
		var err error
		used := allocated(func() { p, err = sheets.ReadPhoto(data) })
		assert.Less(t, used, uint64(8<<20+mostPerByte*len(data)))
		if err == nil {
			head, _, err := image.DecodeConfig(bytes.NewReader(p.Data))
			require.NoError(t, err)
			assert.Equal(t, [2]int{head.Width, head.Height}, [2]int{p.Width, p.Height})
		}
	})
}

// mostPerByte bounds what a byte of a picture may cost: pixels a byte can hold,
// times the bytes that a decoder takes for a pixel.
const mostPerByte = 1032 * 8 * 24

func TestAskMesh(t *testing.T) {
	cuts := []float64{0, 1.2, 18.8, 20}
	tub := form.Cells(cuts, cuts, []float64{0, 2, 10}, func(i, j, k int) bool { return k == 0 || i != 1 || j != 1 })
	q := sheets.MeshQuestion{
		STL:     binarySTL(t, tub),
		Unit:    "mm",
		DrawnAt: "1:35",
		Scale:   "1:50",
		Printer: measure.Printer{
			Name:    "filament printer",
			Kind:    measure.Filament,
			Bed:     [3]float64{10, 200, 200},
			Feature: 0.6,
		},
	}
	a, err := sheets.AskMesh(q)
	require.NoError(t, err)
	assert.InDelta(t, 14, a.Report.Box[0], 1e-5)
	assert.True(t, a.Report.Fits, "stood upright it is 7 mm wide")
	facts := map[string]string{}
	for _, f := range a.Report.Facts {
		facts[f.Name] = f.Value
		assert.NotEmpty(t, f.Why.Formula)
	}
	assert.Equal(t, "0.84 mm, too thin", facts["Thinnest wall"])
	// 20·20·2 + (20² − 17.6²)·8 at 0.7 of the size.
	assert.Equal(t, "0.522 ml", facts["Volume"])
	assert.Contains(t, strings.Join(a.Report.Words, " "), "print at 1:35 or larger")
	for field, change := range map[string]func(*sheets.MeshQuestion){
		"drawnAt": func(q *sheets.MeshQuestion) { q.DrawnAt = "x" }, "scale": func(q *sheets.MeshQuestion) { q.Scale = "" }, "unit": func(q *sheets.MeshQuestion) { q.Unit = "furlong" },
		"printer": func(q *sheets.MeshQuestion) { q.Printer.Feature = 0 }, "stl": func(q *sheets.MeshQuestion) { q.STL = nil },
	} {
		bad := q
		change(&bad)
		_, err := sheets.AskMesh(bad)
		assert.ErrorContains(t, err, field)
	}
}

// What a spreadsheet would compute is written as words, and read back as it was; numbers stay
// numbers.
func TestNoFormulasInTables(t *testing.T) {
	p := plan.Plan{Sizes: []plan.SizeLine{
		{Group: "hull", Name: "@SUM(A1)", Typed: "1 m", RealMM: 1000, Source: "-2+3"},
		{Group: "turret", Name: "'quoted'", Typed: "1 m", RealMM: 1000},
	}}
	var out bytes.Buffer
	require.NoError(t, sheets.WriteSizes(&out, p))
	rows, err := csv.NewReader(bytes.NewReader(out.Bytes())).ReadAll()
	require.NoError(t, err)
	for _, row := range rows[1:] {
		for _, cell := range row {
			if _, err := strconv.ParseFloat(cell, 64); err != nil && cell != "" {
				assert.NotContains(t, "=+-@", cell[:1], cell)
			}
		}
	}
	back, err := sheets.ReadSizes(out.String())
	require.NoError(t, err)
	require.Empty(t, back.Faults)
	require.Len(t, back.Rows, 2)
	assert.Equal(t, "@SUM(A1)", *back.Rows[0].Name)
	assert.Equal(t, "'quoted'", *back.Rows[1].Name)
}
