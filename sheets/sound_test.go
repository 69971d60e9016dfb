package sheets_test

import (
	"encoding/json"
	"strings"
	"testing"

	"cinderpath/core/measure"
	"cinderpath/sheets"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestUnsoundDocumentsAreRefusedByField(t *testing.T) {
	for name, c := range map[string]struct{ data, field string }{
		"a text":             {`{"edits":[{"op":"story","text":"a\u0000b"}]}`, "edits.0.text"},
		"a later one":        {`{"edits":[{"op":"rename","n":[1,2]},{"op":"story","text":"\u0000"}]}`, "edits.1.text"},
		"a name":             {`{"a":{"b\u0000":1}}`, "a."},
		"a text in a list":   {`{"a":["x","y\u0000"]}`, "a.1"},
		"alone":              {`"\u0000"`, ""},
		"as it is":           {"{\"a\":\"\x00\"}", "body"},
		"brackets":           {strings.Repeat("[", 10_000), "body"},
		"brackets of both":   {strings.Repeat(`{"a":[`, 100), "body"},
		"brackets in a text": {`{"a":"` + strings.Repeat("[", 500) + `\u0000"}`, "a"},
	} {
		t.Run(name, func(t *testing.T) {
			err := sheets.Sound([]byte(c.data))
			var fault *measure.Fault
			require.ErrorAs(t, err, &fault)
			assert.Equal(t, c.field, fault.Field)
			assert.NotContains(t, fault.Reason, "[[[")
		})
	}
	for _, data := range []string{`{}`, `{"a":"\\u0000 is written so"}`, `[[[1]]]`, `{"a":"` + strings.Repeat("[", 500) + `"}`, `{`, ``} {
		assert.NoError(t, sheets.Sound([]byte(data)), data)
	}
}

// Whatever is let through holds no character of code zero, and what holds none and is not
// deep is let through.
func FuzzSound(f *testing.F) {
	for _, s := range []string{`{"a":["\u0000",{"b":1}]}`, `{"a":"\\\u0000"}`, `[[[[]]]]`, `{"a":"\\\\u0000"}`, "null"} {
		f.Add([]byte(s))
	}
	f.Fuzz(func(t *testing.T, data []byte) {
		err := sheets.Sound(data)
		var v any
		if json.Unmarshal(data, &v) != nil {
			return
		}
		text, _ := json.Marshal(v)
		holds := strings.Contains(strings.ReplaceAll(string(text), `\\`, ``), `\u0000`)
		deep := strings.Count(string(data), "[")+strings.Count(string(data), "{") > 60
		if !deep {
			assert.Equal(t, holds, err != nil, "%q", data)
		} else if holds {
			assert.Error(t, err)
		}
	})
}
