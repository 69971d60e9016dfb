package main

import (
	"bytes"
	"encoding/json"
	"net"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"cinderpath/samples"
	"cinderpath/samples/scene"
	"cinderpath/server"
	"cinderpath/sheets"
	"cinderpath/store/cluster"
	"cinderpath/store/storetest"

	"github.com/getkin/kin-openapi/openapi3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestCalcListsTopicsWithExamples(t *testing.T) {
	var out bytes.Buffer
	require.NoError(t, calcCmd{}.calc(strings.NewReader(""), &out))
	for _, name := range []string{"length", "kitcheck", "stock", "rope", "drill", "photo", "mesh", "plan"} {
		assert.Contains(t, out.String(), name)
	}
	// Every example that is a question by itself works and gives the model's size.
	for name, want := range map[string]string{"length": `"model":"203.2 mm"`, "kitcheck": `"implied":"1:34.6"`, "stock": `"model":"0.80 mm"`, "rope": "2 strands of 0.40 mm copper wire",
		"drill": "0.25 mm of plastic is left", "photo": `"real":"500 ± 6 mm"`} {
		i := slices.IndexFunc(topics, func(x topic) bool { return x.name == name })
		require.GreaterOrEqual(t, i, 0, name)
		var answer bytes.Buffer
		require.NoError(t, calcCmd{Topic: name}.calc(strings.NewReader(topics[i].example), &answer), name)
		assert.Contains(t, answer.String(), want, name)
	}
}

// Every example that is printed is answered, and answers as the contract says; only a file
// has to be put into it.
func TestEveryPrintedExampleIsAnswered(t *testing.T) {
	contract, err := server.Contract()
	require.NoError(t, err)
	for _, x := range topics {
		if x.name == "mesh" {
			continue // of a file: tested by itself
		}
		t.Run(x.name, func(t *testing.T) {
			var in, out bytes.Buffer
			in.WriteString(x.example)
			if strings.HasPrefix(x.example, "cinderpath export") {
				in = *exported(t)
			}
			require.NoError(t, calcCmd{Topic: x.name}.calc(&in, &out))
			var answer any
			require.NoError(t, json.Unmarshal(out.Bytes(), &answer))
			post := contract.Paths.Find("/api/calc/" + x.name).Post
			schema := post.Responses.Status(200).Value.Content.Get("application/json").Schema.Value
			require.NoError(t, schema.VisitJSON(answer, openapi3.VisitAsResponse()))
			assert.NotContains(t, out.String(), `"why":""`, "every answer has a reason")
			assert.NotContains(t, out.String(), `"why":";`)
		})
	}
}

// exported is a sample as an export writes it.
func exported(t *testing.T) *bytes.Buffer {
	all, err := samples.Documents()
	require.NoError(t, err)
	d := all[0].Resolve(time.Date(2026, 11, 23, 12, 0, 0, 0, time.UTC))
	d.AsOf = time.Date(2026, 11, 23, 12, 0, 0, 0, time.UTC)
	data, err := json.Marshal(d)
	require.NoError(t, err)
	return bytes.NewBuffer(data)
}

func TestCalcMeshReadsAnSTL(t *testing.T) {
	var stl, answer bytes.Buffer
	require.NoError(t, sheets.WriteSTL(&stl, scene.Winch(), "winch"))
	data, err := json.Marshal(stl.Bytes())
	require.NoError(t, err)
	i := slices.IndexFunc(topics, func(x topic) bool { return x.name == "mesh" })
	question := strings.Replace(topics[i].example, `"…"`, string(data), 1)
	require.NoError(t, calcCmd{Topic: "mesh"}.calc(strings.NewReader(question), &answer))
	assert.Contains(t, answer.String(), `"closed":true`)
	assert.Contains(t, answer.String(), "16.6 × 12.0 × 12.0 mm")
}

func TestCalcRefusesWithReason(t *testing.T) {
	for _, c := range []struct{ topic, in, want string }{
		{"tea", "", "no topic"},
		{"length", `{"text":"-1 m","scale":"1:35"}`, "negative"},
		{"length", `{"text":"1 m","shoe":1}`, "shoe"},
		{"plan", `{}`, "not a document"},
		{"track", `{"scale":"1:35","wheels":[{"kind":"tea","x":0,"z":300,"radius":300}],"link":{"pitch":100,"surface":20,"ground":20,"width":300}}`, "wheels[0].kind"},
	} {
		var out bytes.Buffer
		assert.ErrorContains(t, calcCmd{Topic: c.topic}.calc(strings.NewReader(c.in), &out), c.want)
	}
}

func TestDoctorSaysWhatItFinds(t *testing.T) {
	var out bytes.Buffer
	require.NoError(t, doctorCmd{where{Data: t.TempDir()}}.look(t.Context(), &out))
	assert.Contains(t, out.String(), "found    PostgreSQL's server")
	assert.Contains(t, out.String(), "none yet; demo or serve makes it")

	out.Reset()
	err := doctorCmd{where{Data: t.TempDir(), DatabaseURL: "postgres://nobody@127.0.0.1:1/none"}}.look(t.Context(), &out)
	require.Error(t, err)
	assert.Contains(t, out.String(), "missing  the database that was named")
}

// A demo whose port is taken goes to the next; what was told to listen somewhere does not.
func TestTheDemoTakesTheNextPort(t *testing.T) {
	taken, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	defer taken.Close()
	_, err = listen(t.Context(), taken.Addr().String(), 1)
	require.ErrorContains(t, err, "--listen")
	next, err := listen(t.Context(), taken.Addr().String(), demoPorts)
	require.NoError(t, err)
	defer next.Close()
	assert.Greater(t, next.Addr().(*net.TCPAddr).Port, taken.Addr().(*net.TCPAddr).Port)
}

// What is stopped is looked at all the same: with another password in its file it is ill.
func TestDoctorTriesADatabaseThatIsStopped(t *testing.T) {
	dir, remove, err := storetest.Dir()
	require.NoError(t, err)
	defer remove()
	c, err := cluster.Start(t.Context(), dir)
	require.NoError(t, err)
	require.NoError(t, c.Stop())
	var out bytes.Buffer
	require.NoError(t, doctorCmd{where{Data: dir}}.look(t.Context(), &out))
	assert.Contains(t, out.String(), "it was started, answered, and was stopped again")
	require.NoError(t, os.WriteFile(filepath.Join(dir, "password"), []byte(strings.Repeat("0", 48)), 0o600))
	out.Reset()
	require.Error(t, doctorCmd{where{Data: dir}}.look(t.Context(), &out))
	assert.Contains(t, out.String(), "missing  private database: the password in")
	assert.NotContains(t, out.String(), "SQLSTATE")
}
