package server_test

import (
	"encoding/csv"
	"encoding/json"
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// read asks for something that must be answered.
func (b bench) read(method, path, body string, into any, headers ...string) {
	a := b.ask(method, path, body, headers...)
	require.Equal(b.t, 200, a.Code, "%s %s: %s", method, path, a.Body)
	require.NoError(b.t, json.Unmarshal(a.Body.Bytes(), into))
}

func (b bench) log(kind, task, more string) answer {
	return b.ask(
		"POST",
		"/api/builds/"+b.varrow+"/log",
		fmt.Sprintf(`{"key":%q,"kind":%q,"task":%q,"title":"A step"%s}`, newID(), kind, task, more),
	)
}

type evenings struct {
	Sessions []struct {
		From, To time.Time
		Lines    []struct{ Build, Task, Title, Status string }
	}
	Tonight struct {
		From  time.Time
		Words string
	}
	Why struct {
		Terms []struct{ Label, Value string }
	}
}

// The evenings hold the open steps of all builds inside the hours, and say why.
func TestEveningsOfAllBuilds(t *testing.T) {
	b := open(t)
	var e evenings
	b.read("GET", "/api/evenings", "", &e)
	require.NotEmpty(t, e.Sessions)
	builds, open := map[string]bool{}, 0
	var last time.Time
	for _, s := range e.Sessions {
		assert.True(t, s.From.Before(s.To))
		assert.False(t, s.From.Before(last), "evenings follow each other")
		last = s.To
		assert.GreaterOrEqual(t, s.From.UTC().Hour(), 20)
		for _, l := range s.Lines {
			builds[l.Build] = true
			open++
		}
	}
	assert.Len(t, builds, 3)
	assert.Greater(t, open, 30)
	assert.NotEmpty(t, e.Tonight.Words)

	// Another hour of every evening: it ends sooner.
	calendar := `{"name":"bench","zone":"UTC","calendar":{"weekly":[%s],"temperatureC":20,"humidity":0.5}}`
	var days []string
	for day := range 7 {
		days = append(days, fmt.Sprintf(`{"day":%d,"from":"18:00","to":"23:00"}`, day))
	}
	var home map[string]any
	b.read("PUT", "/api/workshop", fmt.Sprintf(calendar, strings.Join(days, ",")), &home, "If-Match", `"1"`)
	var longer evenings
	b.read("GET", "/api/evenings", "", &longer)
	assert.True(t, longer.Sessions[len(longer.Sessions)-1].To.Before(last))
}

// What cannot be a workshop is refused with its field, and nothing is kept of it.
func TestFaultyWorkshopsNameTheField(t *testing.T) {
	b := open(t)
	for name, c := range map[string]struct{ calendar, more, detail string }{
		"ends before it begins": {`"weekly":[{"day":1,"from":"22:00","to":"20:00"}],"temperatureC":20,"humidity":0.5`, "", "ends before it begins"},
		"no such day":           {`"weekly":[{"day":7,"from":"20:00","to":"22:00"}],"temperatureC":20,"humidity":0.5`, "", "7 is beyond"},
		"no time of day":        {`"weekly":[{"day":1,"from":"8pm","to":"22:00"}],"temperatureC":20,"humidity":0.5`, "", "times of day"},
		"no date":               {`"weekly":[],"exceptions":[{"date":"tomorrow","windows":[]}],"temperatureC":20,"humidity":0.5`, "", "not a date"},
		"humidity in per cent":  {`"weekly":[],"temperatureC":20,"humidity":50`, "", ""},
		"an oven":               {`"weekly":[],"temperatureC":200,"humidity":0.5`, "", ""},
		"a place twice":         {`"weekly":[],"places":[{"id":"booth","name":"one","weekly":[],"outside":false,"vapour":true},{"id":"booth","name":"two","weekly":[],"outside":false,"vapour":true}],"temperatureC":20,"humidity":0.5`, "", "given twice"},
		"an unknown place":      {`"weekly":[],"places":[{"id":"attic","name":"attic","weekly":[],"outside":false,"vapour":true}],"temperatureC":20,"humidity":0.5`, "", ""},
		"least above most":      {`"weekly":[],"places":[{"id":"booth","name":"garage","weekly":[],"outside":false,"vapour":true,"leastC":30,"mostC":10}],"temperatureC":20,"humidity":0.5`, "", "above 30 °C and below 10"},
		"a nozzle of 20 mm":     {`"weekly":[],"temperatureC":20,"humidity":0.5`, `,"airbrushes":[{"id":"a","name":"Fine","nozzleMm":20,"paint":"","changes":0}]`, "20 is beyond"},
		"two of one name":       {`"weekly":[],"temperatureC":20,"humidity":0.5`, `,"airbrushes":[{"id":"a","name":"Fine","nozzleMm":0.2,"paint":"","changes":0},{"id":"a","name":"Wide","nozzleMm":0.4,"paint":"","changes":0}]`, "taken"},
	} {
		t.Run(name, func(t *testing.T) {
			a := b.ask(
				"PUT",
				"/api/workshop",
				`{"name":"other","zone":"UTC","calendar":{`+c.calendar+`}`+c.more+`}`,
				"If-Match",
				`"1"`,
			)
			assert.Contains(t, []int{400, 422}, a.Code, a.Body)
			assert.NotEmpty(t, a.problem.Field)
			assert.Contains(t, a.problem.Detail, c.detail)
			assert.NotEmpty(t, a.problem.Remedy)
		})
	}
	assert.NotContains(t, b.ask("GET", "/api/workshop", "").Body.String(), `"other"`)
}

// What would happen is told beside now, and nothing of it is kept.
func TestWhatIfChangesNothing(t *testing.T) {
	b := open(t)
	before := b.ask("GET", "/api/builds/"+b.varrow, "").Body.String()
	type outcome struct {
		Words   string
		Ends    time.Time
		Steps   int
		Minutes float64
	}
	var got struct {
		Now, Then outcome
		Changes   []struct{ Words string }
	}
	what := "/api/builds/" + b.varrow + "/whatif"
	b.read("POST", what, `{"kind":"evening","day":6,"from":"09:00","to":"18:00"}`, &got)
	assert.True(t, got.Then.Ends.Before(got.Now.Ends), "a Saturday more: %s, %s", got.Now.Words, got.Then.Words)
	assert.Equal(t, got.Now.Steps, got.Then.Steps)
	b.read("POST", what, `{"kind":"warmer","degrees":-8}`, &got)
	assert.False(t, got.Then.Ends.Before(got.Now.Ends), "colder is never sooner")
	b.read("POST", what, `{"kind":"school","school":"pieces","answer":"built up"}`, &got)
	assert.NotEqual(t, got.Now.Words, got.Then.Words)
	assert.NotEmpty(t, got.Changes)
	for body, status := range map[string]int{
		`{"kind":"luck"}`:                                             400,
		`{"kind":"warmer","degrees":90}`:                              422,
		`{"kind":"evening","day":1,"from":"22:00","to":"20:00"}`:      422,
		`{"kind":"school","school":"pieces","answer":"by moonlight"}`: 422,
		`{"kind":"school","school":"alchemy","answer":"yes"}`:         422,
	} {
		a := b.ask("POST", what, body)
		assert.Equal(t, status, a.Code, "%s: %s", body, a.Body)
		assert.NotEmpty(t, a.problem.Remedy, body)
	}
	assert.Equal(t, 404, b.ask("POST", "/api/builds/"+newID()+"/whatif", `{"kind":"warmer","degrees":2}`).Code)
	assert.Equal(t, before, b.ask("GET", "/api/builds/"+b.varrow, "").Body.String())
}

type planned struct {
	Revision int
	Changes  []struct{ Words string }
	Plan     struct {
		Steps []struct {
			ID, Title, Status, Kind string
			Spans                   []struct{ From, To time.Time }
		}
		Timers []struct{ Task, Kind string }
	}
}

func (p planned) status(id string) string {
	for _, s := range p.Plan.Steps {
		if s.ID == id {
			return s.Status
		}
	}
	return ""
}

const chips = "chips:01997a00-0000-7000-8000-0000c1de0008:1"

// What happens at the bench moves the plan and is told in words.
func TestTheLogMovesThePlan(t *testing.T) {
	b := open(t)
	var s planned
	send := func(kind, task, more string) planned {
		a := b.log(kind, task, more)
		require.Equal(t, 200, a.Code, a.Body)
		var s planned
		require.NoError(t, json.Unmarshal(a.Body.Bytes(), &s))
		return s
	}
	b.read("GET", "/api/builds/"+b.varrow, "", &s)
	open := len(s.Plan.Steps)
	assert.Equal(t, "now", send("started", chips, "").status(chips))
	s = send("done", chips, `,"checks":["the tone is darker"],"measured":[{"name":"brush","value":"size 0"}]`)
	assert.Equal(t, "drying", s.status(chips))
	assert.NotEmpty(t, s.Plan.Timers)
	s = send("undone", chips, "")
	assert.NotEqual(t, "drying", s.status(chips))
	s = send("skipped", chips, "")
	assert.Equal(t, "skipped", s.status(chips))
	require.NotEmpty(t, s.Changes)
	s = send("repeat", chips, "")
	assert.Len(t, s.Plan.Steps, open+1, "done once more")
	s = send(
		"mishap",
		"colour:01997a00-0000-7000-8000-0000c1de0003:1",
		`,"mishap":"run","choice":"repair","zones":["hull"]`,
	)
	assert.Greater(t, len(s.Plan.Steps), open+2, "levelling and respraying")
	var told []string
	for _, c := range s.Changes {
		told = append(told, c.Words)
	}
	assert.Contains(t, strings.Join(told, "; "), "Level the run")
	left := len(s.Plan.Steps)
	s = send(
		"mishap",
		"colour:01997a00-0000-7000-8000-0000c1de0003:1",
		`,"mishap":"run","choice":"leave","zones":["hull"]`,
	)
	assert.Len(t, s.Plan.Steps, left, "texture covers it")

	for name, a := range map[string]answer{
		"unknown mishap":   b.log("mishap", chips, `,"mishap":"lightning","choice":"repair"`),
		"no words":         b.log("lesson", chips, ""),
		"unknown":          b.log("dreamt", chips, ""),
		"a step of nobody": b.log("done", "", ""),
	} {
		assert.Contains(t, []int{400, 422}, a.Code, "%s: %s", name, a.Body)
		assert.NotEmpty(t, a.problem.Remedy, name)
	}
}

// An order that a rule stops is refused with the rule; each mend sent back as it came
// is taken.
func TestARefusedOrderCarriesItsMends(t *testing.T) {
	b := open(t)
	var s planned
	b.read("GET", "/api/builds/"+b.varrow, "", &s)
	id := func(title string) string {
		for _, x := range s.Plan.Steps {
			if strings.HasPrefix(x.Title, title) {
				return x.ID
			}
		}
		t.Fatalf("no step %q", title)
		return ""
	}
	a := b.edit(
		s.Revision,
		fmt.Sprintf(`{"op":"order","order":{"do":"move","task":%q,"after":%q}}`, id("Mud"), id("Put wheels and tracks")),
	)
	require.Equal(t, 422, a.Code, a.Body)
	var refused struct {
		Rule  string
		Mends []struct {
			Label string
			Edits []json.RawMessage
		}
	}
	require.NoError(t, json.Unmarshal(a.Body.Bytes(), &refused))
	assert.Equal(t, "F2", refused.Rule)
	require.NotEmpty(t, refused.Mends)
	for _, m := range refused.Mends {
		var edits []string
		for _, e := range m.Edits {
			edits = append(edits, string(e))
		}
		a := b.edit(s.Revision, strings.Join(edits, ","))
		require.Equal(t, 200, a.Code, "%s: %s", m.Label, a.Body)
		var next planned
		require.NoError(t, json.Unmarshal(a.Body.Bytes(), &next))
		assert.Less(t, len(next.Plan.Steps), len(s.Plan.Steps), m.Label)
		b.read("POST", "/api/builds/"+b.varrow+"/undo", "", &s, "If-Match", fmt.Sprintf(`"%d"`, next.Revision))
	}
}

// The library, the diary and the files of the plan keep the contract.
func TestFilesOfThePlan(t *testing.T) {
	b := open(t)
	var library struct {
		Kinds   []struct{ ID, Name, Stage string }
		Schools []struct{ ID string }
		Weather []struct{ Date string }
	}
	b.read("GET", "/api/library", "", &library)
	assert.GreaterOrEqual(t, len(library.Kinds), 50)
	assert.GreaterOrEqual(t, len(library.Weather), 28)
	var diary struct {
		Name       string
		Days       []struct{ Lines []struct{ Title string } }
		PlannedMin float64
	}
	b.read("GET", "/api/builds/"+b.varrow+"/diary", "", &diary)
	assert.NotEmpty(t, diary.Days)
	assert.Greater(t, diary.PlannedMin, 100.0)
	assert.Equal(t, 404, b.ask("GET", "/api/builds/"+newID()+"/diary", "").Code)

	var s planned
	b.read("GET", "/api/builds/"+b.varrow, "", &s)
	a := b.ask("GET", "/api/builds/"+b.varrow+"/sheets/plan.csv", "")
	require.Equal(t, 200, a.Code)
	rows, err := csv.NewReader(strings.NewReader(a.Body.String())).ReadAll()
	require.NoError(t, err)
	assert.Len(t, rows, len(s.Plan.Steps)+1)
	for name, head := range map[string]string{"plan.ics": "BEGIN:VCALENDAR", "cards.pdf": "%PDF-", "diary.pdf": "%PDF-", "cards.pdf?paper=Letter": "%PDF-"} {
		a := b.ask("GET", "/api/builds/"+b.varrow+"/sheets/"+name, "")
		require.Equal(t, 200, a.Code, name)
		assert.True(t, strings.HasPrefix(a.Body.String(), head), name)
	}
	assert.Equal(t, 404, b.ask("GET", "/api/builds/"+newID()+"/sheets/plan.csv", "").Code)
	assert.Equal(t, 400, b.ask("GET", "/api/builds/"+b.varrow+"/sheets/cards.pdf?paper=Napkin", "").Code)
}

// The scheduler asked alone, with a document of one's own.
func TestTheScheduleCalculator(t *testing.T) {
	b := open(t)
	question := `{"asOf":"2026-11-23T19:00:00Z","zone":"Europe/Lisbon","calendar":{"weekly":[{"day":1,"from":"20:00","to":"22:00"},{"day":2,"from":"20:00","to":"22:00"}],"temperatureC":20,"humidity":0.5},
		"builds":[{"id":"v","tasks":[{"id":"a","title":"Prime","minutes":30},{"id":"b","title":"Colour","minutes":45,"after":[%s]}]}]}`
	type placed struct {
		Builds []struct {
			Ends  time.Time
			Tasks []struct {
				Task  string
				Spans []struct{ From, To time.Time }
			}
		}
		Conflicts []struct{ Words string }
	}
	var got placed
	a := b.ask(
		"POST",
		"/api/calc/schedule",
		fmt.Sprintf(question, `{"from":"a","waitMin":600,"reason":"the primer cures"}`),
	)
	require.Equal(t, 200, a.Code, a.Body)
	require.NoError(t, json.Unmarshal(a.Body.Bytes(), &got))
	assert.Contains(t, a.Body.String(), "2026-11-23T20:00:00Z", "Monday's evening, in winter Lisbon keeps UTC")
	assert.Contains(t, a.Body.String(), "2026-11-24T20:00:00Z", "ten hours later is Tuesday's")
	summer := strings.Replace(fmt.Sprintf(question, `{"from":"a","reason":"x"}`), "2026-11-23", "2026-07-06", 1)
	assert.Contains(
		t,
		b.ask("POST", "/api/calc/schedule", summer).Body.String(),
		"2026-07-06T20:00:00+01:00",
		"in summer it does not",
	)
	for name, arrow := range map[string]string{
		"from nobody": `{"from":"z","reason":"x"}`,
		"no time":     `{"from":"a","waitMin":-5,"reason":"x"}`,
	} {
		a := b.ask("POST", "/api/calc/schedule", fmt.Sprintf(question, arrow))
		assert.Contains(t, []int{400, 422}, a.Code, "%s: %s", name, a.Body)
	}
	a = b.ask(
		"POST",
		"/api/calc/schedule",
		fmt.Sprintf(question, `{"from":"a","waitMin":600,"mostMin":60,"reason":"the primer cures"}`),
	)
	require.Equal(t, 200, a.Code, a.Body)
	assert.Contains(t, a.Body.String(), "finished at most 60 min after it", "the contradiction is told")
}

// What is in an airbrush follows from the log, until somebody looks: that is kept with the
// instant, and taken for the plan from then on. A change that was tried is handed back as
// the workshop that it would be.
func TestAirbrushesAreAsTheLogOrSomebodySays(t *testing.T) {
	bench := open(t)
	type brush = map[string]any
	var e struct{ Airbrushes []brush }
	bench.read("GET", "/api/evenings", "", &e)
	require.Empty(t, e.Airbrushes)
	var home struct {
		Revision int
		Workshop map[string]any
	}
	keep := func(b brush) {
		home.Workshop["airbrushes"] = []brush{b}
		body, err := json.Marshal(home.Workshop)
		require.NoError(t, err)
		at := home.Revision
		bench.read("PUT", "/api/workshop", string(body), &home, "If-Match", fmt.Sprintf(`"%d"`, at))
		bench.read("GET", "/api/evenings", "", &e)
	}
	bench.read("GET", "/api/workshop", "", &home)
	keep(brush{"id": "one", "name": "the airbrush", "nozzleMm": 0.3, "paint": "", "changes": 0})
	require.Len(t, e.Airbrushes, 1)
	assert.Equal(t, "clear coat, acrylic", e.Airbrushes[0]["paint"], "the last clear coat went through it")
	keep(
		brush{
			"id":       "one",
			"name":     "the airbrush",
			"nozzleMm": 0.3,
			"paint":    "",
			"changes":  0,
			"since":    now.UTC().Format("2006-01-02T15:04:05.000Z"),
		},
	)
	assert.Equal(t, "", e.Airbrushes[0]["paint"])
	assert.NotEmpty(t, e.Airbrushes[0]["since"])

	var tried struct {
		Workshop struct{ Calendar struct{ Weekly []any } }
	}
	before := len(home.Workshop["calendar"].(map[string]any)["weekly"].([]any))
	bench.read(
		"POST",
		"/api/builds/"+bench.varrow+"/whatif",
		`{"kind":"evening","day":0,"from":"10:00","to":"12:00","degrees":0,"school":"","answer":""}`,
		&tried,
	)
	assert.Len(t, tried.Workshop.Calendar.Weekly, before+1)
}
