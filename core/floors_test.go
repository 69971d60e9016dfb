package core_test

import (
	"go/parser"
	"go/token"
	"io/fs"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// floors are the packages from the ground up; a package may use those of lower
// floors only. document and those above it are floors of their own.
var floors = [][]string{
	{"core/length", "core/unit", "core/rule", "core/zone", "core/table", "proof"},
	{"core/colour"},
	{"core/measure", "core/gear"},
	{"core/form", "core/paint"}, // stands on gear, whose wheels and track are part of the body
	{"core/relief", "core/base", "core/marking"},
	{"core/landing"},
	{"core/scheme", "core/strata"},
	{"core/look"},
	{"core/path", "core/kit", "core/bench"},
	{"core/document"},
	{"core/vehicle"},
	{"core/order"},
	{"core/plan"},
	{"sheets", "store/cluster", "samples", "samples/scene"},
	{"store"},
	{"store/storetest", "server/api"},
	{"server", "ui"},
	{"cmd/cinderpath"},
	{"e2e", "e2e/load"},
}

// impure is what the core must not reach: the machine, the clock, chance, the net.
var impure = []string{
	"os",
	"os/exec",
	"net",
	"net/http",
	"database/sql",
	"time/tzdata",
	"math/rand",
	"math/rand/v2",
	"io/ioutil",
	"syscall",
	"log",
	"log/slog",
}

func TestNothingImportsUpwardAndTheCoreIsPure(t *testing.T) {
	floor := map[string]int{}
	for i, names := range floors {
		for _, name := range names {
			floor[name] = i
		}
	}
	files := 0
	err := filepath.WalkDir("..", func(path string, entry fs.DirEntry, err error) error {
		if err != nil ||
			entry.IsDir() && (entry.Name() == "node_modules" || entry.Name() == ".cache" || entry.Name() == ".git") {
			if err == nil {
				err = fs.SkipDir
			}
			return err
		}
		if !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") {
			return nil
		}
		files++
		of, err := filepath.Rel("..", filepath.Dir(path))
		require.NoError(t, err)
		at, known := floor[filepath.ToSlash(of)]
		require.True(t, known, "%s stands on no floor; say on which in this test", of)
		parsed, err := parser.ParseFile(token.NewFileSet(), path, nil, parser.ImportsOnly)
		require.NoError(t, err)
		for _, i := range parsed.Imports {
			name := strings.Trim(i.Path.Value, `"`)
			if own, ok := strings.CutPrefix(name, "cinderpath/"); ok {
				assert.LessOrEqual(t, floor[own], at, "%s uses %s, which stands above it", path, own)
				assert.False(
					t,
					strings.HasPrefix(own, "core/") && floor[own] == at,
					"%s uses %s, which stands beside it",
					path,
					own,
				)
				continue
			}
			if strings.HasPrefix(of, "core") {
				assert.NotContains(t, impure, name, path)
				outside := strings.Contains(strings.SplitN(name, "/", 2)[0], ".")
				assert.False(
					t,
					outside &&
						!slices.ContainsFunc(
							[]string{
								"gonum.org/",
								"github.com/lucasb-eyer/go-colorful",
								"golang.org/x/sync/",
								"github.com/peterstace/simplefeatures/",
							},
							func(p string) bool { return strings.HasPrefix(name, p) },
						),
					"%s imports %s",
					path,
					name,
				)
			}
		}
		return nil
	})
	require.NoError(t, err)
	assert.Greater(t, files, 30)
	// The clock: only the type is used, never the time of day.
	source, err := filepath.Glob("*/*.go")
	require.NoError(t, err)
	for _, path := range source {
		if strings.HasSuffix(path, "_test.go") {
			continue
		}
		text, err := os.ReadFile(path)
		require.NoError(t, err)
		assert.NotContains(t, string(text), "time.Now(", path)
	}
}
