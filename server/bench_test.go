package server_test

import (
	"fmt"
	"net/http/httptest"
	"strings"
	"testing"

	"cinderpath/core/kit"

	"github.com/stretchr/testify/require"
)

// plain sends a request without holding the answer against the contract.
func (b bench) plain(method, path, body string, headers ...string) {
	r := httptest.NewRequest(method, "http://localhost"+path, strings.NewReader(body))
	r.Header.Set("Content-Type", "application/json")
	for i := 0; i+1 < len(headers); i += 2 {
		r.Header.Set(headers[i], headers[i+1])
	}
	a := httptest.NewRecorder()
	b.h.ServeHTTP(a, r)
	require.Less(b.t, a.Code, 300, "%s %s", method, path)
}

// BenchmarkAnswer is what an answer takes, with three builds and with twelve: a tick at the
// bench, an edit of the order of work, the plan when nothing happened, and, as a lower bound,
// a request that asks nothing.
func BenchmarkAnswer(b *testing.B) {
	for _, builds := range []int{3, 12} {
		h := open(b)
		for range builds - 3 {
			h.plain("POST", "/api/builds/"+h.varrow+"/duplicate", "")
		}
		id := "/api/builds/" + h.varrow
		h.plain("GET", id, "")
		revision, ticks := 1, 0
		name := func(what string) string { return fmt.Sprintf("%s/%d builds", what, builds) }
		b.Run(name("tick"), func(b *testing.B) {
			for b.Loop() {
				kind := []string{"started", "undone"}[ticks%2]
				ticks++
				h.plain(
					"POST",
					id+"/log",
					fmt.Sprintf(
						`{"key":%q,"kind":%q,"task":"chips:01997a00-0000-7000-8000-0000c1de0008:1","title":"Chips"}`,
						newID(),
						kind,
					),
				)
			}
		})
		b.Run(name("edit"), func(b *testing.B) {
			for b.Loop() {
				answer := []string{kit.Mixed, kit.BuiltUp}[revision%2]
				h.plain(
					"POST",
					id+"/edits",
					fmt.Sprintf(`{"edits":[{"op":"school","school":"pieces","text":%q}]}`, answer),
					"If-Match",
					fmt.Sprintf(`"%d"`, revision),
				)
				revision++
			}
		})
		b.Run(name("story"), func(b *testing.B) {
			for b.Loop() {
				h.plain("POST", id+"/edits", fmt.Sprintf(`{"edits":[{"op":"story","text":"round %d"}]}`, revision),
					"If-Match", fmt.Sprintf(`"%d"`, revision))
				revision++
			}
		})
		b.Run(name("idle"), func(b *testing.B) {
			for b.Loop() {
				h.plain("GET", id, "")
			}
		})
		b.Run(name("nothing"), func(b *testing.B) {
			for b.Loop() {
				h.plain("GET", "/healthz", "")
			}
		})
	}
}
