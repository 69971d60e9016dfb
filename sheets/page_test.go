package sheets_test

import (
	"bytes"
	"compress/zlib"
	"encoding/binary"
	"encoding/json"
	"encoding/xml"
	"errors"
	"image/png"
	"io"
	"math"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"cinderpath/core/base"
	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/gear"
	"cinderpath/core/measure"
	"cinderpath/core/plan"
	"cinderpath/core/vehicle"
	"cinderpath/samples"
	"cinderpath/sheets"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func varrow(t testing.TB) document.Build {
	documents, err := samples.Documents()
	require.NoError(t, err)
	return documents[0].Items[0].Build
}

func svg(t testing.TB, d sheets.Drawing) string {
	var out bytes.Buffer
	require.NoError(t, d.WriteSVG(&out))
	dec := xml.NewDecoder(bytes.NewReader(out.Bytes()))
	for {
		if _, err := dec.Token(); errors.Is(err, io.EOF) {
			break
		} else {
			require.NoError(t, err)
		}
	}
	size := regexp.MustCompile(`width="([0-9.]+)pt" height="([0-9.]+)pt"`).FindStringSubmatch(out.String())
	require.NotNil(t, size)
	width, err := strconv.ParseFloat(size[1], 64)
	require.NoError(t, err)
	assert.InDelta(t, d.Width+20, width/72*25.4, 0.1, "the sheet is as large as it says")
	assert.True(t, has(straight(t, out.String()), sheets.Bar), "no line of 50.00 ± 0.05 mm")
	return out.String()
}

func has(lengths []float64, want float64) bool {
	for _, l := range lengths {
		if math.Abs(l-want) < 0.05 {
			return true
		}
	}
	return false
}

// stroke is a path of a PDF page as it is drawn, mm on the page.
type stroke struct {
	points [][2]float64
	curved bool
}

// strokes reads the paths of each page of a PDF, with the transformations that hold. It
// understands what plotting programs write: moves, lines, curves, saved states.
func strokes(t testing.TB, pdf []byte) (pages [][]stroke) {
	for _, m := range regexp.MustCompile(`(?s)stream\r?\n(.*?)endstream`).FindAllSubmatch(pdf, -1) {
		body, err := inflated(m[1])
		if err != nil || !bytes.Contains(body, []byte(" m\n")) || !bytes.Contains(body, []byte("\nS\n")) {
			continue
		}
		var page []stroke
		type matrix [6]float64
		now := matrix{1, 0, 0, 1, 0, 0}
		var saved []matrix
		var args []float64
		var path stroke
		at := func(x, y float64) [2]float64 {
			return [2]float64{(now[0]*x + now[2]*y + now[4]) / 72 * 25.4, (now[1]*x + now[3]*y + now[5]) / 72 * 25.4}
		}
		for _, word := range strings.Fields(regexp.MustCompile(`(?s)\((\\.|[^)\\])*\)|<[0-9A-Fa-f]*>`).ReplaceAllString(string(body), " ")) {
			if x, err := strconv.ParseFloat(word, 64); err == nil {
				args = append(args, x)
				continue
			}
			n := len(args)
			switch word {
			case "q":
				saved = append(saved, now)
			case "Q":
				require.NotEmpty(t, saved)
				now, saved = saved[len(saved)-1], saved[:len(saved)-1]
			case "cm":
				a := args[n-6:]
				now = matrix{
					a[0]*now[0] + a[1]*now[2],
					a[0]*now[1] + a[1]*now[3],
					a[2]*now[0] + a[3]*now[2],
					a[2]*now[1] + a[3]*now[3],
					a[4]*now[0] + a[5]*now[2] + now[4],
					a[4]*now[1] + a[5]*now[3] + now[5],
				}
			case "m":
				path = stroke{points: [][2]float64{at(args[n-2], args[n-1])}}
			case "l":
				path.points = append(path.points, at(args[n-2], args[n-1]))
			case "c":
				path.points, path.curved = append(path.points, at(args[n-2], args[n-1])), true
			case "S", "s", "f", "f*", "B", "b":
				page = append(page, path)
			}
			args = args[:0]
		}
		pages = append(pages, page)
	}
	return pages
}

// spans gives the lengths of the straight lines of two points on a page.
func spans(page []stroke) (out []float64) {
	for _, s := range page {
		if len(s.points) == 2 && !s.curved {
			out = append(out, math.Hypot(s.points[1][0]-s.points[0][0], s.points[1][1]-s.points[0][1]))
		}
	}
	return out
}

// radii gives the radii of the circles on a page: half the width of what is curved.
func radii(page []stroke) (out []float64) {
	for _, s := range page {
		if !s.curved {
			continue
		}
		low, high := math.Inf(1), math.Inf(-1)
		for _, p := range s.points {
			low, high = min(low, p[0]), max(high, p[0])
		}
		out = append(out, (high-low)/2)
	}
	return out
}

// Every page of the PDF on both papers has a check bar of 50.00 mm, measured in its
// drawing commands; the page is the paper; and pages join without a gap: the jig's curve
// is as wide over all pages as it is drawn.
func TestSheetsAreTrueToSizeOnPaper(t *testing.T) {
	b := varrow(t)
	j, err := vehicle.JigOf(b)
	require.NoError(t, err)
	masks, err := vehicle.MasksOf(b, measure.Shelf{})
	require.NoError(t, err)
	b.Ground = gear.Terrain{{-2000, 0}, {-800, 120}, {600, -60}, {2500, 40}}
	arms, err := vehicle.ArmsOf(b)
	require.NoError(t, err)
	laid, err := base.Lay(base.Usual("clay"), base.Site{
		Scale: 35, Gear: base.Box{X0: -2100, X1: 2100, Y0: -1400, Y1: 1400},
		Runs:   []base.Run{{Y0: 900, Y1: 1400, Line: [][2]float64{{-2000, 0}, {2000, 0}}}},
		Ground: b.Ground, Belly: []base.Plate{{X0: -1500, X1: 1500, Z: 500}},
	})
	require.NoError(t, err)
	ground := sheets.Ground(b.Name, b.Scale.String(), laid)
	boards := 0
	defer func() { assert.Positive(t, boards, "the board is measured on paper: %.2f mm", laid.Long) }()
	for name, d := range map[string]sheets.Drawing{"base": ground, "jig": sheets.Jig(j), "masks": sheets.WheelMasks(masks), "arms": sheets.Arms(arms), "views": views(t)} {
		svg(t, d)
		for _, paper := range []sheets.Paper{sheets.A4, sheets.Letter} {
			var out bytes.Buffer
			require.NoError(t, d.WritePDF(&out, paper))
			columns, rows, turned := d.Pages(paper)
			pages := strokes(t, out.Bytes())
			require.Len(t, pages, columns*rows, "%s on %s", name, paper.Name)
			width := paper.Width
			if turned {
				width = paper.Height
			}
			box := regexp.MustCompile(`/MediaBox \[0 0 ([0-9.]+) ([0-9.]+)\]`).FindSubmatch(out.Bytes())
			require.NotNil(t, box)
			points, err := strconv.ParseFloat(string(box[1]), 64)
			require.NoError(t, err)
			assert.InDelta(t, width, points/72*25.4, 0.1)
			for i, page := range pages {
				if name == "base" && has(spans(page), laid.Long) {
					boards++
				}
				assert.True(t, has(spans(page), sheets.Bar), "%s on %s, page %d: no bar of 50.00 ± 0.05 mm", name, paper.Name, i+1)
			}
			if columns*rows > 1 {
				assert.Contains(t, radiusCount(radii(pages[0])), 1.5, "registration on the first page")
			}
		}
	}
	columns, rows, _ := views(t).Pages(sheets.A4)
	assert.Greater(t, columns*rows, 1, "the views are larger than a page, else splitting is not tried")
}

func radiusCount(radii []float64) map[float64]int {
	out := map[float64]int{}
	for _, r := range radii {
		out[math.Round(r*100)/100]++
	}
	return out
}

// On neighbouring pages the same line lies one page's step apart: laid over each other by
// the crosses, they join.
func TestPagesJoin(t *testing.T) {
	d := sheets.Drawing{
		Title:  "A line.",
		Width:  500,
		Height: 50,
		Draw:   func(c sheets.Pen) { c.Line(0.2, false, [2]float64{3, 25}, [2]float64{497, 25}) },
	}
	var out bytes.Buffer
	require.NoError(t, d.WritePDF(&out, sheets.A4))
	columns, rows, turned := d.Pages(sheets.A4)
	require.Equal(t, []int{2, 1}, []int{columns, rows})
	require.True(t, turned)
	pages := strokes(t, out.Bytes())
	find := func(page []stroke) [2][2]float64 {
		for _, s := range page {
			if len(s.points) == 2 && math.Abs(s.points[1][0]-s.points[0][0]-494) < 0.05 {
				return [2][2]float64{s.points[0], s.points[1]}
			}
		}
		t.Fatal("no line of 494 mm")
		return [2][2]float64{}
	}
	crosses := func(page []stroke) (x []float64) {
		for _, s := range page {
			if len(s.points) == 2 && math.Abs(math.Abs(s.points[1][1]-s.points[0][1])-6) < 0.05 &&
				s.points[0][0] == s.points[1][0] {
				x = append(x, s.points[0][0])
			}
		}
		return x
	}
	a, b := find(pages[0]), find(pages[1])
	onA, onB := crosses(pages[0]), crosses(pages[1])
	require.NotEmpty(t, onA)
	require.NotEmpty(t, onB)
	assert.InDelta(t, onA[0]-a[0][0], onB[0]-b[0][0], 0.05, "the cross stands at the same place of the line")
	assert.InDelta(t, a[0][1], b[0][1], 0.01)
}

// The jig measured in its SVG and PDF: straight gauge, and a curve that is as wide as the
// upper run and lies on the wheels.
func TestTrackJigIsTrueToSize(t *testing.T) {
	b := varrow(t)
	j, err := vehicle.JigOf(b)
	require.NoError(t, err)
	text := svg(t, sheets.Jig(j))
	gauge := float64(j.Links) * b.Link.Pitch / float64(b.Scale)
	assert.True(t, has(straight(t, text), gauge), "the gauge: links of the kit's pitch")
	card := regexp.MustCompile(`"M([0-9.,L]+)Z"`).FindStringSubmatch(text)
	require.NotNil(t, card)
	low, high := math.Inf(1), math.Inf(-1)
	for _, point := range strings.Split(card[1], "L") {
		x, err := strconv.ParseFloat(strings.Split(point, ",")[0], 64)
		require.NoError(t, err)
		low, high = min(low, x), max(high, x)
	}
	profile := j.Profile
	assert.InDelta(t, profile[len(profile)-1][0]-profile[0][0], (high-low)/72*25.4, 0.05)
	for _, w := range j.Wheels {
		nearest := math.Inf(1)
		for _, p := range profile {
			nearest = min(nearest, math.Abs(math.Hypot(p[0]-w.X, p[1]-w.Y)-w.Radius))
		}
		assert.Less(t, nearest, 0.05, w.Name)
	}
	var pdf bytes.Buffer
	require.NoError(t, sheets.Jig(j).WritePDF(&pdf, sheets.A4))
	assert.True(t, has(spans(strokes(t, pdf.Bytes())[0]), gauge), "the gauge in the PDF")
	wheeled, err := samples.Documents()
	require.NoError(t, err)
	_, err = vehicle.JigOf(wheeled[1].Items[0].Build)
	assert.ErrorContains(t, err, "no track")
}

// Discs on paper have half the hub's diameter; as many as there are rubber-tyred wheels;
// none over the tape's edge or over another.
func TestWheelMasksAreTrueToSize(t *testing.T) {
	b := varrow(t)
	s, err := vehicle.MasksOf(b, measure.Shelf{})
	require.NoError(t, err)
	require.Len(t, s.Masks, 1)
	assert.Equal(t, 12, s.Masks[0].Count)
	hub := 232.0 / 35
	var pdf bytes.Buffer
	require.NoError(t, sheets.WheelMasks(s).WritePDF(&pdf, sheets.A4))
	count := 0
	for _, r := range radii(strokes(t, pdf.Bytes())[0]) {
		if math.Abs(r-hub) < 0.05 {
			count++
		}
	}
	assert.Equal(t, 13, count, "twelve discs and the inside of the ring")
	for _, strip := range s.Strips {
		for i, a := range strip.Discs {
			assert.True(
				t,
				a[0]-strip.Radius >= 0 && a[0]+strip.Radius <= strip.Length && a[1]-strip.Radius >= -1e-9 &&
					a[1]+strip.Radius <= strip.Tape+1e-9,
			)
			for _, o := range strip.Discs[:i] {
				assert.GreaterOrEqual(t, math.Hypot(a[0]-o[0], a[1]-o[1]), 2*strip.Radius+0.5)
			}
		}
	}
	// The tape is that of all on which it fits that takes least: tried out by hand.
	for _, item := range (measure.Shelf{}).Of(false, measure.Tape) {
		tape := float64(item.Size)
		rows := math.Floor((tape + 0.8) / (2*hub + 0.8))
		if rows >= 1 {
			assert.LessOrEqual(t, s.Strips[0].Tape*s.Strips[0].Length, tape*math.Ceil(12/rows)*(2*hub+0.8)+1e-6)
		}
	}
	steel := b
	steel.Wheels = append([]gear.Wheel(nil), b.Wheels...)
	for i := range steel.Wheels {
		steel.Wheels[i].Steel = true
	}
	_, err = vehicle.MasksOf(steel, measure.Shelf{})
	assert.ErrorContains(t, err, "rubber")
}

// The views on paper, counted by an independent reader where Debian's poppler-utils is.
func TestPDFIsReadByOthers(t *testing.T) {
	var out bytes.Buffer
	d := views(t)
	require.NoError(t, d.WritePDF(&out, sheets.Letter))
	require.True(t, bytes.HasPrefix(out.Bytes(), []byte("%PDF-")))
	reader, err := exec.LookPath("pdfinfo")
	if err != nil {
		t.Skip("poppler-utils is not installed")
	}
	file := filepath.Join(t.TempDir(), "views.pdf")
	require.NoError(t, os.WriteFile(file, out.Bytes(), 0o600))
	info, err := exec.Command(reader, file).Output()
	require.NoError(t, err)
	columns, rows, _ := d.Pages(sheets.Letter)
	assert.Contains(t, string(info), "Pages:           "+strconv.Itoa(columns*rows))
}

// The body as STL: read back it has the model's size, no open edge, and the volume of
// its parts.
func TestBodySTLReadsBack(t *testing.T) {
	b := varrow(t)
	parts, err := form.Meshes(b.Body, form.Running{})
	require.NoError(t, err)
	var out bytes.Buffer
	require.NoError(t, sheets.WriteBodySTL(&out, parts, 35, "varrow"))
	m, err := sheets.ReadSTL(bytes.NewReader(out.Bytes()), nil)
	require.NoError(t, err)
	s := m.Measure()
	assert.Zero(t, s.Open, "no open edges")
	volume, err := form.Volume(b.Body)
	require.NoError(t, err)
	assert.InEpsilon(t, volume/(35*35*35), s.Volume, 1e-4)
	assert.InDelta(t, 3100.0/35, s.Size()[1], 0.1)
}

// The glTF document holds what it says: its buffer is as long as its accessors ask for,
// the corners lie within the bounds told, and every zone is a mesh.
func TestGLTFHoldsTogether(t *testing.T) {
	var d plan.Deriver
	b := varrow(t)
	documents, err := samples.Documents()
	require.NoError(t, err)
	s, err := d.Solid(b)
	require.NoError(t, err)
	var out bytes.Buffer
	plans, err := d.Plans(documents[0].Workshop, []document.Item{{Build: b}}, now)
	require.NoError(t, err)
	worn, err := d.Picture(plan.PictureQuestion{Look: plans[0].Last(), Side: plan.Worn})
	require.NoError(t, err)
	require.NoError(t, sheets.WriteGLB(&out, s, b.Name, worn))
	var doc struct {
		Asset     struct{ Version string }
		Buffers   []struct{ ByteLength int }
		Meshes    []struct{ Name string }
		Accessors []struct {
			ByteOffset, Count int
			Type              string
			Min, Max          []float64
		}
		BufferViews []struct{ ByteOffset, ByteLength int }
	}
	file := out.Bytes()
	word := func(at int) int { return int(binary.LittleEndian.Uint32(file[at:])) }
	assert.Equal(t, "glTF", string(file[:4]))
	assert.Equal(t, len(file), word(8))
	head := word(12)
	require.NoError(t, json.Unmarshal(file[20:20+head], &doc))
	data := file[28+head:]
	assert.Equal(t, len(data), word(20+head))
	assert.Equal(t, len(data), doc.Buffers[0].ByteLength)
	assert.Equal(t, "2.0", doc.Asset.Version)
	assert.Len(t, doc.Meshes, len(s.Zones))
	total := 0
	for _, a := range doc.Accessors {
		assert.Equal(t, total, a.ByteOffset)
		wide := int(a.Type[3] - '0')
		total += 4 * wide * a.Count
		for i := range wide * a.Count {
			v := float64(math.Float32frombits(binary.LittleEndian.Uint32(data[a.ByteOffset+4*i:])))
			assert.True(t, v >= a.Min[i%wide]-1e-7 && v <= a.Max[i%wide]+1e-7)
		}
	}
	require.Len(t, doc.BufferViews, 2)
	assert.Equal(t, total, doc.BufferViews[1].ByteOffset)
	texture, err := png.Decode(bytes.NewReader(data[total : total+doc.BufferViews[1].ByteLength]))
	require.NoError(t, err)
	assert.Equal(t, texture.Bounds().Dx(), texture.Bounds().Dy())
	// Faces on the painted sheet do not overlap: their area is no more than the sheet's.
	area := 0.0
	for i := 0; i < len(s.UVs); i += 6 {
		u := s.UVs[i : i+6]
		area += math.Abs(float64((u[2]-u[0])*(u[5]-u[1])-(u[3]-u[1])*(u[4]-u[0]))) / 2
		for _, v := range u {
			assert.True(t, v >= 0 && v <= 1)
		}
	}
	assert.Less(t, area, 0.95)
	assert.Greater(t, area, 0.2)
}

func inflated(data []byte) ([]byte, error) {
	r, err := zlib.NewReader(bytes.NewReader(data))
	if err != nil {
		return data, nil // not compressed
	}
	defer r.Close()
	out, err := io.ReadAll(r)
	if errors.Is(err, io.ErrUnexpectedEOF) {
		err = nil
	}
	return out, err
}
