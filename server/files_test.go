package server_test

import (
	"bytes"
	"encoding/binary"
	"encoding/json"
	"fmt"
	"image/png"
	"net/http"
	"strings"
	"testing"
	"time"

	"cinderpath/core/document"
	"cinderpath/samples"
	"cinderpath/samples/scene"
	"cinderpath/sheets"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func (b bench) upload(what string, data []byte) answer {
	return b.ask("POST", "/api/builds/"+b.varrow+"/"+what, string(data), "Content-Type", "application/octet-stream")
}

func into[T any](t testing.TB, a answer) (out T) {
	require.Equal(t, http.StatusOK, a.Code, "%s", a.Body)
	require.NoError(t, json.Unmarshal(a.Body.Bytes(), &out))
	return out
}

type uploaded struct {
	Hash          string
	Width, Height int
	Solid         struct{ Closed bool }
}

// A photograph goes in, is marked, comes out again; what is none is refused, as is a
// mark on a photograph that is not there.
func TestPhotographs(t *testing.T) {
	b := open(t)
	files, err := samples.Files()
	require.NoError(t, err)
	var picture []byte
	for _, f := range files {
		if c, err := png.DecodeConfig(bytes.NewReader(f)); err == nil && c.Width == scene.Width {
			picture = f // of the two that ship, the photograph
		}
	}
	kept := into[uploaded](t, b.upload("photos", picture))
	assert.Equal(t, [2]int{scene.Width, scene.Height}, [2]int{kept.Width, kept.Height})
	got := b.ask("GET", "/api/builds/"+b.varrow+"/files/"+kept.Hash, "")
	assert.Equal(t, "image/png", got.Header().Get("Content-Type"))
	assert.True(t, bytes.Equal(picture, got.Body.Bytes()))
	photo := func(hash string) string {
		return fmt.Sprintf(
			`{"op":"photo","photo":{"id":"","name":"side","hash":%q,"width":1600,"height":1000,"mode":"reference","a":[0,0],"b":[100,0],"real":{"mm":0,"typed":"1 m"},"corners":[[0,0],[1,0],[1,1],[0,1]],"across":{"mm":0,"typed":""},"down":{"mm":0,"typed":""},"lengths":[]}}`,
			hash,
		)
	}
	assert.Equal(t, "photo.hash", b.edit(1, photo(strings.Repeat("a", 64))).problem.Field)
	assert.Equal(t, http.StatusOK, b.edit(1, photo(kept.Hash)).Code)
	// A copy of the build has the picture too; another build has not.
	var copied struct{ Build struct{ ID string } }
	require.NoError(t, json.Unmarshal(b.ask("POST", "/api/builds/"+b.varrow+"/duplicate", "").Body.Bytes(), &copied))
	assert.Equal(t, http.StatusOK, b.ask("GET", "/api/builds/"+copied.Build.ID+"/files/"+kept.Hash, "").Code)
	missing := b.ask("GET", "/api/builds/"+b.varrow+"/files/"+strings.Repeat("b", 64), "")
	assert.Equal(t, http.StatusNotFound, missing.Code)
	assert.Contains(t, missing.problem.Remedy, "upload the same file again")

	for name, bad := range map[string][]byte{"no picture": []byte("poem"), "cut short": picture[:1000]} {
		a := b.upload("photos", bad)
		assert.Equal(t, http.StatusUnprocessableEntity, a.Code, name)
		assert.Equal(t, "photograph", a.problem.Field, name)
		assert.NotEmpty(t, a.problem.Remedy, name)
	}
	// With its build its files go too, until it comes back.
	file := "/api/builds/" + copied.Build.ID + "/files/" + kept.Hash
	require.Equal(t, http.StatusNoContent, b.ask("DELETE", "/api/builds/"+copied.Build.ID, "").Code)
	assert.Equal(t, http.StatusNotFound, b.ask("GET", file, "").Code)
	require.Equal(t, http.StatusNoContent, b.ask("POST", "/api/builds/"+copied.Build.ID+"/restore", "").Code)
	assert.Equal(t, http.StatusOK, b.ask("GET", file, "").Code)

	large := b.upload("photos", make([]byte, sheets.LargestPhoto+1))
	assert.Equal(t, http.StatusRequestEntityTooLarge, large.Code)
	assert.Contains(t, large.problem.Detail, "20 MB")
	// Documents keep their own, smaller limit.
	assert.Equal(
		t,
		http.StatusRequestEntityTooLarge,
		b.ask("POST", "/api/calc/sizes", `{"text":"`+strings.Repeat("x", 2<<20)+`"}`).Code,
	)
}

// A mesh is measured while one asks for it, then at once.
func TestMeshes(t *testing.T) {
	b := open(t)
	var stl bytes.Buffer
	require.NoError(t, sheets.WriteSTL(&stl, scene.Winch(), "winch"))
	kept := into[uploaded](t, b.upload("meshes", stl.Bytes()))
	assert.True(t, kept.Solid.Closed)
	part := `{"op":"part","part":{"id":"","name":"winch","hash":"` + kept.Hash + `","unit":"mm","drawnAt":1}}`
	made := b.edit(1, part)
	require.Equal(t, http.StatusOK, made.Code, "%s", made.Body)
	var state struct {
		Build struct{ Parts []struct{ ID string } }
	}
	require.NoError(t, json.Unmarshal(made.Body.Bytes(), &state))
	address := "/api/builds/" + b.varrow + "/parts/" + state.Build.Parts[0].ID
	a := b.ask("GET", address, "")
	assert.Equal(t, "printer", a.problem.Field, "this bench has no printer yet")

	b.addPrinter()
	type partState struct {
		Stage  string
		Share  float64
		Answer *struct {
			Report struct {
				Facts []struct{ Name, Value string }
			}
		}
	}
	var got partState
	require.Eventually(t, func() bool {
		got = into[partState](t, b.ask("GET", address, ""))
		return got.Stage == "done"
	}, 20*time.Second, 50*time.Millisecond)
	require.NotNil(t, got.Answer)
	facts := map[string]string{}
	for _, f := range got.Answer.Report.Facts {
		facts[f.Name] = f.Value
	}
	assert.Equal(t, "16.6 × 12.0 × 12.0 mm", facts["Printed size"])
	assert.Contains(t, facts["Thinnest wall"], "0.4")
	// The part as the body: its triangles with the vehicle's own zones, undone like any edit.
	var shaped struct {
		Build struct {
			Body struct{ Shell struct{ Faces [][3]int } }
		}
		Plan struct {
			Drawing string
			Zones   []struct{ Zone string }
		}
	}
	as := b.edit(2, `{"op":"shell","text":"`+state.Build.Parts[0].ID+`"}`)
	require.Equal(t, http.StatusOK, as.Code, "%s", as.Body)
	require.NoError(t, json.Unmarshal(as.Body.Bytes(), &shaped))
	assert.Greater(t, len(shaped.Build.Body.Shell.Faces), 100)
	assert.NotEmpty(t, shaped.Plan.Zones)
	assert.Equal(t, http.StatusOK, b.ask("GET", "/api/builds/"+b.varrow+"/solids/"+shaped.Plan.Drawing, "").Code)
	none := b.edit(3, `{"op":"shell","text":"no such part"}`)
	assert.Equal(t, "shell", none.problem.Field)
	piece := b.ask("GET", "/api/printers/p1/calibration.stl", "")
	_, err := sheets.ReadSTL(bytes.NewReader(piece.Body.Bytes()), nil)
	require.NoError(t, err)

	claims := make([]byte, 200)
	binary.LittleEndian.PutUint32(claims[80:], 1<<31)
	for name, bad := range map[string][]byte{"4 billion": claims, "cut short": stl.Bytes()[:5000], "a poem": []byte("solid poem\nroses\n")} {
		a := b.upload("meshes", bad)
		assert.Equal(t, http.StatusUnprocessableEntity, a.Code, name)
		assert.Equal(t, "stl", a.problem.Field, name)
	}
	assert.Equal(
		t,
		http.StatusNotFound,
		b.ask(
			"POST",
			"/api/builds/01997a00-0000-7000-8000-00000000ffff/meshes",
			stl.String(),
			"Content-Type",
			"application/octet-stream",
		).Code,
	)
}

// addPrinter gives the bench a printer, as its own page would.
func (b bench) addPrinter() {
	var home struct {
		Revision int64
		Workshop map[string]any
	}
	require.NoError(b.t, json.Unmarshal(b.ask("GET", "/api/workshop", "").Body.Bytes(), &home))
	home.Workshop["printers"] = []map[string]any{
		{"id": "p1", "name": "printer", "kind": "filament", "bed": []float64{220, 220, 250}, "feature": 0.4},
	}
	body, err := json.Marshal(home.Workshop)
	require.NoError(b.t, err)
	require.Equal(
		b.t,
		http.StatusOK,
		b.ask("PUT", "/api/workshop", string(body), "If-Match", fmt.Sprintf(`"%d"`, home.Revision)).Code,
	)
}

// Every calculator answers as the contract says, and refuses with field and remedy.
func TestCalculators(t *testing.T) {
	b := open(t)
	b.addPrinter()
	var stl bytes.Buffer
	require.NoError(t, sheets.WriteSTL(&stl, scene.Winch(), "winch"))
	mesh, err := json.Marshal(stl.Bytes())
	require.NoError(t, err)
	printer := `{"id":"","name":"p","kind":"resin","bed":[130,80,160],"feature":0.05}`
	for _, c := range []struct{ topic, good, bad, field string }{
		{"length", `{"text":"rope 28mm","scale":"1:35"}`, `{"text":"rope","scale":"1:35"}`, "text"},
		{"kitcheck", `{"scale":"1:35","pairs":[{"name":"a","real":"6.4 m","kit":"185"},{"name":"b","real":"3.1 m","kit":"89.6"},{"name":"c","real":"2.5 m","kit":"60"}]}`, `{"scale":"1:35","pairs":[{"name":"a","real":"x","kit":"1"}]}`, "pairs[0].real"},
		{"stock", `{"kind":"tube","size":"31.5","scale":"1:35"}`, `{"kind":"tube","size":"","scale":"1:35"}`, "size"},
		{"rope", `{"diameter":"28","scale":"1:35"}`, `{"diameter":"28","scale":"1:35","lay":1}`, "lay"},
		{"drill", `{"hole":"75","outer":"2.6","scale":"1:35"}`, `{"hole":"75","outer":"1","scale":"1:35"}`, "outer"},
		{"photo", `{"mode":"reference","a":[0,0],"b":[100,0],"real":{"mm":0,"typed":"1 m"},"corners":[[0,0],[1,0],[1,1],[0,1]],"across":{"mm":0,"typed":""},"down":{"mm":0,"typed":""},"lengths":[{"id":"1","name":"","a":[0,0],"b":[50,0]}]}`,
			`{"mode":"corners","a":[0,0],"b":[100,0],"real":{"mm":0,"typed":""},"corners":[[0,0],[1,0],[1,1],[0,1]],"across":{"mm":0,"typed":"1 m"},"down":{"mm":0,"typed":"1 m"},"lengths":[]}`, "corners"},
		{"mesh", `{"stl":` + string(mesh) + `,"unit":"mm","drawnAt":"1:1","scale":"1:35","printer":` + printer + `}`, `{"stl":"AAAA","unit":"mm","drawnAt":"1:1","scale":"1:35","printer":` + printer + `}`, "stl"},
		{"sizes", `{"text":"name\treal\tkit\nBarrel\t2880\t78\nHatch\t-1\t2"}`, `{"text":""}`, "table"},
	} {
		assert.Equal(t, http.StatusOK, b.ask("POST", "/api/calc/"+c.topic, c.good).Code, c.topic)
		a := b.ask("POST", "/api/calc/"+c.topic, c.bad)
		assert.Equal(t, http.StatusUnprocessableEntity, a.Code, c.topic)
		assert.Equal(t, c.field, a.problem.Field, c.topic)
		assert.NotEmpty(t, a.problem.Remedy, c.topic)
	}
	csv := b.ask("GET", "/api/builds/"+b.varrow+"/sheets/sizes.csv", "")
	assert.Contains(t, csv.Header().Get("Content-Type"), "text/csv")
	assert.Contains(
		t,
		csv.Body.String(),
		"gun,Barrel length,2624,74.971,71.8,0.03,caliper,-3.171,length,,\"drawing, sheet 2\"",
	)
	assert.Equal(t, http.StatusOK, b.ask("GET", "/api/stock", "").Code)
	assert.Equal(t, http.StatusOK, b.ask("POST", "/api/builds/"+b.varrow+"/pick", `{"side":"left","x":100,"y":40}`).Code)
	assert.Equal(t, "x", b.ask("POST", "/api/builds/"+b.varrow+"/pick", `{"side":"left","x":-1,"y":40}`).problem.Field)
}

// The rule and the stock questions use what the workshop owns.
func TestCalculatorsKnowTheShelf(t *testing.T) {
	b := open(t)
	var home struct {
		Revision int64
		Workshop map[string]any
	}
	require.NoError(t, json.Unmarshal(b.ask("GET", "/api/workshop", "").Body.Bytes(), &home))
	home.Workshop["stock"] = map[string]any{"own": []string{"wire:0.80 mm tin wire"}}
	body, err := json.Marshal(home.Workshop)
	require.NoError(t, err)
	require.Equal(
		t,
		http.StatusOK,
		b.ask("PUT", "/api/workshop", string(body), "If-Match", fmt.Sprintf(`"%d"`, home.Revision)).Code,
	)
	assert.Contains(
		t,
		b.ask("POST", "/api/calc/length", `{"text":"28mm","scale":"1:35"}`).Body.String(),
		"0.80 mm tin wire (yours)",
	)
	assert.Contains(
		t,
		b.ask("POST", "/api/calc/stock", `{"kind":"wire","size":"28","scale":"1:35","owned":true}`).Body.String(),
		"0.80 mm tin wire",
	)
	home.Workshop["stock"] = map[string]any{
		"added": []map[string]any{{"id": "x", "kind": "rod", "material": "", "name": "x", "sizeMm": -1}},
	}
	body, err = json.Marshal(home.Workshop)
	require.NoError(t, err)
	assert.Equal(
		t,
		"stock.added[0].sizeMm",
		b.ask("PUT", "/api/workshop", string(body), "If-Match", fmt.Sprintf(`"%d"`, home.Revision+1)).problem.Field,
	)
}

// A scheme keeps the name of the picture that it was read from where that is the build's own; one that comes from
// another build brings what was read, without the picture.
func TestAPictureOfASchemeStaysWithItsBuild(t *testing.T) {
	b := open(t)
	kept := into[uploaded](t, b.upload("photos", []byte(onePixel(t))))
	var s struct {
		Revision int
		Build    struct{ Scheme map[string]any }
	}
	b.read("GET", "/api/builds/"+b.varrow, "", &s)
	take := func(revision int, photo string) answer {
		s.Build.Scheme["traces"] = []any{
			map[string]any{
				"side":   "left",
				"origin": []float64{-3000, -2500},
				"pixel":  1500,
				"wide":   4,
				"high":   2,
				"rows":   []string{"ab2c", ".2a2"},
				"photo":  photo,
			},
		}
		data, err := json.Marshal(map[string]any{"op": "scheme", "scheme": s.Build.Scheme})
		require.NoError(t, err)
		return b.edit(revision, string(data))
	}
	photo := func(a answer) any {
		next := into[struct {
			Build struct{ Scheme map[string]any }
		}](t, a)
		return next.Build.Scheme["traces"].([]any)[0].(map[string]any)["photo"]
	}
	assert.Equal(t, kept.Hash, photo(take(s.Revision, kept.Hash)))
	var item document.Item
	b.read("GET", "/api/builds/"+b.varrow, "", &item)
	assert.Contains(t, item.Files(), kept.Hash, "it goes along into an archive")
	assert.Nil(t, photo(take(s.Revision+1, strings.Repeat("b", 64))))
	refused := take(s.Revision+2, "../../etc/passwd")
	assert.Equal(t, http.StatusUnprocessableEntity, refused.Code)
	assert.Contains(t, refused.problem.Remedy, "upload it first")
}
