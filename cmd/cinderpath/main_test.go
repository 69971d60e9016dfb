package main

import (
	"bytes"
	"encoding/json"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestCalcListsTopicsWithExamples(t *testing.T) {
	var out bytes.Buffer
	require.NoError(t, calcCmd{}.calc(strings.NewReader(""), &out))
	for _, name := range []string{"length", "plan"} {
		assert.Contains(t, out.String(), name)
	}
	// The example of length is a question that works.
	var answer bytes.Buffer
	require.NoError(t, calcCmd{Topic: "length"}.calc(strings.NewReader(topics[0].example), &answer))
	var a struct{ Model string }
	require.NoError(t, json.Unmarshal(answer.Bytes(), &a))
	assert.Equal(t, "203.2 mm", a.Model)
}

func TestCalcRefusesWithReason(t *testing.T) {
	for _, c := range []struct{ topic, in, want string }{
		{"tea", "", "no topic"},
		{"length", `{"text":"-1 m","scale":"1:35"}`, "negative"},
		{"length", `{"text":"1 m","shoe":1}`, "shoe"},
		{"plan", `{}`, "not a document"},
	} {
		var out bytes.Buffer
		assert.ErrorContains(t, calcCmd{Topic: c.topic}.calc(strings.NewReader(c.in), &out), c.want)
	}
}

func TestDoctorSaysWhatItFinds(t *testing.T) {
	var out bytes.Buffer
	require.NoError(t, doctorCmd{where{Data: t.TempDir()}}.look(t.Context(), &out))
	assert.Contains(t, out.String(), "found    PostgreSQL's server")
	assert.Contains(t, out.String(), "not running; demo or serve starts it")

	out.Reset()
	err := doctorCmd{where{Data: t.TempDir(), DatabaseURL: "postgres://nobody@127.0.0.1:1/none"}}.look(t.Context(), &out)
	require.Error(t, err)
	assert.Contains(t, out.String(), "missing  the database that was named")
}
