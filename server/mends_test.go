package server_test

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// state is what these tests read of a build.
type state struct {
	Revision int
	Build    struct {
		Layers []map[string]any // whole, so that any change of one shows
		Base   map[string]any
	}
	Plan struct {
		Findings []found
		Steps    []struct{ ID string }
	}
}

type found struct {
	ID, Rule, Severity, Reason string
	Mends                      []struct{ ID string }
}

func (b bench) send(s state, edits string) state {
	a := b.edit(s.Revision, edits)
	require.Equal(b.t, 200, a.Code, a.Body)
	var next state
	require.NoError(b.t, json.Unmarshal(a.Body.Bytes(), &next))
	return next
}

// undo takes the last edit back.
func (b bench) undo(s state) (before state) {
	a := b.ask("POST", "/api/builds/"+b.varrow+"/undo", "", "If-Match", fmt.Sprintf(`"%d"`, s.Revision))
	require.Equal(b.t, 200, a.Code, a.Body)
	require.NoError(b.t, json.Unmarshal(a.Body.Bytes(), &before))
	return before
}

func insert(name, kind, family, applied, more string) string {
	return fmt.Sprintf(
		`{"op":"insert","layer":{"id":"","name":%q,"kind":%q,"family":%q,"applied":%q,"coats":1,"zones":["turret"]%s}}`,
		name,
		kind,
		family,
		applied,
		more,
	)
}

// Each rule of this floor, from a stack sent to the server: the finding with its
// severity and reason, and every mend of it, which changes the stored build and
// settles the finding.
func TestEveryRuleIsFoundAndMendedThroughTheServer(t *testing.T) {
	cases := []struct {
		name, rule, severity string
		layers               []string
	}{
		{"strong solvent brushed over oil", "P1", "stop", []string{
			insert("Oil", "streaks", "oil_thin", "brushed", ""), insert("Hot", "dust", "lacquer", "brushed", "")}},
		{
			"oil on enamel, pinned too soon",
			"W1",
			"warn",
			[]string{
				insert(
					"Enamel",
					"colour",
					"enamel_paint",
					"misted",
					`,"hex":"#556655"`,
				),
				insert("Oil", "streaks", "oil_thin", "brushed", `,"waitMin":60`),
			},
		},
		{
			"wash on a matt colour",
			"W2",
			"warn",
			[]string{
				insert(
					"Matt",
					"colour",
					"waterborne_acrylic",
					"misted",
					`,"hex":"#556655"`,
				),
				insert("Wash", "wash", "enamel_effect", "brushed", ""),
			},
		},
		{
			"chipping coat under enamel",
			"P4",
			"stop",
			[]string{
				insert(
					"Chipping coat",
					"chipping_coat",
					"chipping_coat",
					"misted",
					"",
				),
				insert("White", "colour", "enamel_paint", "misted", `,"hex":"#dddddd"`),
			},
		},
		{
			"decals on a matt colour",
			"M1",
			"warn",
			[]string{
				insert(
					"Matt",
					"colour",
					"waterborne_acrylic",
					"misted",
					`,"hex":"#556655"`,
				),
				insert("Numbers", "decals", "decal", "brushed", ""),
			},
		},
		{
			"wash over unsealed decals",
			"M3",
			"warn",
			[]string{
				insert(
					"Gloss",
					"clear",
					"clear_acrylic",
					"misted",
					`,"sheen":"gloss"`,
				),
				insert("Numbers", "decals", "decal", "brushed", ""),
				insert("Wash", "wash", "enamel_effect", "brushed", ""),
			},
		},
	}
	b := open(t)
	for _, c := range cases {
		t.Run(c.name, func(t *testing.T) {
			b.t = t
			s := state{Revision: 1}
			require.NoError(t, json.Unmarshal(b.ask("GET", "/api/builds/"+b.varrow, "").Body.Bytes(), &s))
			// An empty stack, then the layers of the case alone.
			var drops []string
			for _, l := range s.Build.Layers {
				drops = append(drops, fmt.Sprintf(`{"op":"drop","id":%q}`, l["id"]))
			}
			s = b.send(s, `{"op":"layers","layers":[`+strings.Join(append(drops, c.layers...), ",")+`]}`)
			require.Len(t, s.Build.Layers, len(c.layers))
			defer func() { s = b.undo(s) }()
			s = b.settled(s, c.rule, c.severity)
		})
	}
}

// settled finds what stands against a rule, and tries every mend of it: each changes the build, settles the
// finding, and is made once. It gives the state after, which is the one before.
func (b bench) settled(s state, of, severity string) state {
	at := slices.IndexFunc(s.Plan.Findings, func(f found) bool { return f.Rule == of })
	require.GreaterOrEqual(b.t, at, 0, "%+v", s.Plan.Findings)
	f := s.Plan.Findings[at]
	assert.Equal(b.t, severity, f.Severity)
	assert.NotEmpty(b.t, f.Reason)
	require.NotEmpty(b.t, f.Mends)
	for _, m := range f.Mends {
		mend := fmt.Sprintf(`{"op":"mend","finding":%q,"mend":%q}`, f.ID, m.ID)
		mended := b.send(s, mend)
		for _, left := range mended.Plan.Findings {
			assert.NotEqual(b.t, f.ID, left.ID, "after %s: %s", m.ID, left.Reason)
		}
		assert.NotEqual(b.t, s.Build, mended.Build, "%s leaves all as it was", m.ID)
		stale := b.edit(mended.Revision, mend)
		assert.Equal(b.t, 422, stale.Code, "a settled finding is mended once")
		s = b.undo(mended) // for the next mend
	}
	return s
}
