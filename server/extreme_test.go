package server_test

import (
	"encoding/json"
	"fmt"
	"math"
	"math/rand/v2"
	"net/http"
	"os"
	"path/filepath"
	"runtime/debug"
	"runtime/metrics"
	"slices"
	"strings"
	"testing"
	"time"

	"cinderpath/proof"
	"cinderpath/samples"
	"cinderpath/server"
	"cinderpath/sheets"

	"github.com/getkin/kin-openapi/openapi3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// extreme makes what the contract allows out of something that it allows: numbers at the
// ends of their ranges, choices of every kind, texts long and odd, lists cut and doubled.
type extreme struct {
	*rand.Rand
	often float64 // share of the values that are changed
}

var odd = []string{"", " ", "\u202eevil", "=1+1", "a;b\"c\nd", "日本語", strings.Repeat("long ", 20), "../../x", "0"}

func (e extreme) of(s *openapi3.Schema, v any) any {
	switch x := v.(type) {
	case map[string]any:
		for _, name := range sorted(x) {
			if p := s.Properties[name]; p != nil {
				x[name] = e.of(p.Value, x[name])
			}
		}
	case []any:
		return e.list(s, x)
	case float64:
		if e.Float64() < e.often {
			return e.number(s, x)
		}
	case string:
		if e.Float64() < e.often/4 {
			return e.text(s, x)
		}
	case bool:
		return x != (e.Float64() < e.often)
	}
	return v
}

func sorted(m map[string]any) (names []string) {
	for name := range m {
		names = append(names, name)
	}
	slices.Sort(names)
	return names
}

func (e extreme) list(s *openapi3.Schema, x []any) []any {
	if s.Items == nil {
		return x
	}
	for i := range x {
		x[i] = e.of(s.Items.Value, x[i])
	}
	if e.Float64() < e.often/8 && s.MinItems == 0 && len(x) > 0 {
		return x[:e.IntN(len(x))]
	}
	return x
}

func (e extreme) number(s *openapi3.Schema, x float64) float64 {
	if s.Min == nil || s.Max == nil {
		return x
	}
	least, most := *s.Min, *s.Max
	var y float64
	switch e.IntN(6) {
	case 0:
		y = least
	case 1:
		y = most
	case 2:
		y = math.Nextafter(least, most)
	case 3:
		y = least + (most-least)*e.Float64()
	case 4:
		y = x * math.Pow(10, 6*e.Float64()-3)
	default:
		y = math.Pow(10, 12*e.Float64()-6)
	}
	y = min(max(y, least), most)
	if s.Type.Is("integer") {
		y = min(max(math.Round(y), math.Ceil(least)), math.Floor(most))
	}
	return y
}

func (e extreme) text(s *openapi3.Schema, x string) string {
	switch {
	case len(s.Enum) > 0:
		return s.Enum[e.IntN(len(s.Enum))].(string)
	case s.Format != "" || s.Pattern != "":
		return x
	}
	y := odd[e.IntN(len(odd))]
	if s.MaxLength != nil && uint64(len(y)) > *s.MaxLength {
		return x
	}
	return y
}

// watched runs one request and fails on a crash, on more memory than a gigabyte, and, in
// fuzzing, on an answer that takes longer than ten seconds.
func (b bench) watched(method, path, body string, headers ...string) answer {
	var peak uint64
	stop, done := make(chan struct{}), make(chan struct{})
	go func() {
		defer close(done)
		heap := []metrics.Sample{{Name: "/memory/classes/heap/objects:bytes"}}
		for {
			metrics.Read(heap)
			peak = max(peak, heap[0].Value.Uint64())
			select {
			case <-stop:
				return
			case <-time.After(20 * time.Millisecond):
			}
		}
	}()
	began := time.Now()
	a := b.ask(method, path, body, headers...)
	took := time.Since(began)
	close(stop)
	<-done
	kept := func() string {
		file := filepath.Join(os.TempDir(), "cinderpath-extreme.json")
		_ = os.WriteFile(file, append([]byte(body), lastImported...), 0o600)
		return fmt.Sprintf("%s %s (%s)", method, path, file)
	}
	if a.Code >= 500 || strings.Contains(a.Body.String(), "the program failed on it") {
		b.t.Fatalf("%s: %d %.400s", kept(), a.Code, a.Body)
	}
	if peak > 1<<30 {
		b.t.Fatalf("%s: %d MB of memory", kept(), peak>>20)
	}
	if b.patience > 0 && took > b.patience {
		b.t.Fatalf("%s: %v", kept(), took)
	}
	return a
}

// lastImported is the document that what follows asks about; a failure leaves it in a file.
var lastImported []byte

// through imports a document and asks for all that follows from it.
func (b bench) through(document map[string]any) (planned bool) {
	data, err := json.Marshal(document)
	require.NoError(b.t, err)
	lastImported = nil
	a := b.watched("POST", "/api/import", string(data))
	lastImported = data
	if a.Code != http.StatusOK {
		require.NotEmpty(b.t, a.problem.Field, "%s", a.Body)
		require.NotEmpty(b.t, a.problem.Remedy, "%s", a.Body)
		return false
	}
	defer debug.FreeOSMemory()
	for _, made := range into[[]struct{ ID string }](b.t, a) {
		build := "/api/builds/" + made.ID
		state := into[struct {
			Plan struct {
				Drawing string
				Sheets  []string
				Steps   []struct{ ID, Look string }
				Views   []struct{ Side string }
				Trouble *struct{ Field string }
			}
		}](b.t, b.watched("GET", build, ""))
		require.Nil(b.t, state.Plan.Trouble, "import keeps nothing that nothing follows from")
		asks := []string{"/diary", "/export"}
		for _, name := range b.sheetNames() {
			asks = append(asks, "/sheets/"+name)
		}
		if state.Plan.Drawing != "" {
			asks = append(asks, "/drawings/"+state.Plan.Drawing, "/solids/"+state.Plan.Drawing)
		}
		if n := len(state.Plan.Steps); n > 0 && state.Plan.Steps[n-1].Look != "" {
			for _, side := range []string{"left", "top", "worn"} {
				asks = append(asks, "/pictures/"+state.Plan.Steps[n-1].Look+"/"+side+"?px=20")
			}
		}
		for _, ask := range asks {
			b.watched("GET", build+ask, "")
		}
		b.watched("POST", build+"/whatif", `{"kind":"warmer","degrees":5}`)
		require.Equal(b.t, http.StatusNoContent, b.ask("DELETE", build, "").Code)
	}
	return true
}

func (b bench) contract() *openapi3.T {
	c, err := server.Contract()
	require.NoError(b.t, err)
	return c
}

// sheetNames are all sheets there are.
func (b bench) sheetNames() (names []string) {
	for path, item := range b.contract().Paths.Map() {
		for _, p := range item.Parameters {
			if strings.HasSuffix(path, "/{name}") && p.Value.Name == "name" {
				for _, name := range p.Value.Schema.Value.Enum {
					names = append(names, name.(string))
				}
			}
		}
	}
	slices.Sort(names)
	return names
}

// calculate sends a question like the printed example of each calculator.
func (b bench) calculate(e extreme) {
	files, err := filepath.Glob("../cmd/cinderpath/examples/*.json")
	require.NoError(b.t, err)
	require.NotEmpty(b.t, files)
	for _, file := range files {
		topic := strings.TrimSuffix(filepath.Base(file), ".json")
		data, err := os.ReadFile(file)
		require.NoError(b.t, err)
		var q any
		require.NoError(b.t, json.Unmarshal(data, &q))
		path := "/api/calc/" + topic
		q = e.of(b.contract().Paths.Find(path).Post.RequestBody.Value.Content["application/json"].Schema.Value, q)
		data, err = json.Marshal(q)
		require.NoError(b.t, err)
		a := b.watched("POST", path, string(data))
		if a.Code != http.StatusOK {
			require.NotEmpty(b.t, a.problem.Remedy, "%s", a.Body)
		}
	}
}

// sampled is one of the demo builds as a document, as JSON.
func sampled(t testing.TB, r *rand.Rand) map[string]any {
	documents, err := samples.Documents()
	require.NoError(t, err)
	d := documents[r.IntN(len(documents))].Resolve(now)
	at := r.IntN(len(d.Items))
	d.Items, d.Focus, d.AsOf = d.Items[at:at+1], d.Items[at].Build.ID, now
	d.Items[0].Build.ID, d.Format, d.Version = newID(), sheets.Format, sheets.Version
	data, err := json.Marshal(d)
	require.NoError(t, err)
	var out map[string]any
	require.NoError(t, json.Unmarshal(data, &out))
	return out
}

// whole makes a document extreme and sends it through everything.
func whole(b bench, seed uint64, often float64) bool {
	e := extreme{rand.New(rand.NewPCG(seed, 11)), often}
	d := sampled(b.t, e.Rand)
	d["items"] = e.of(b.contract().Components.Schemas["Document"].Value.Properties["items"].Value, d["items"])
	b.calculate(e)
	return b.through(d)
}

// Whole documents, valid by the contract and extreme in their numbers, go through import,
// plan, every sheet and every calculator: each is answered or refused with its reason, and
// none ends the program or takes a gigabyte.
func TestExtremeDocuments(t *testing.T) {
	b := open(t)
	planned := 0
	for i := range uint64(proof.Rounds(10, 20)) {
		// From a single slip to everything at once.
		if whole(b, i, []float64{0.0005, 0.001, 0.002, 0.02}[i%4]) {
			planned++
		}
	}
	assert.Greater(t, planned, proof.Rounds(10, 20)/8, "some of them can be planned")
}

func FuzzDocuments(f *testing.F) {
	f.Add(uint64(1), uint8(1))
	f.Add(uint64(2), uint8(40))
	b := open(f)
	f.Fuzz(func(t *testing.T, seed uint64, often uint8) {
		b.t, b.patience = t, 10*time.Second
		whole(b, seed, float64(often)/1000)
	})
}
