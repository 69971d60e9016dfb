package plan_test

import (
	"flag"
	"strconv"
	"sync"
	"testing"

	"github.com/stretchr/testify/require"
)

const rapidChecks = "rapid.checks"

// checksGiven tells whether the command line says how often; asked before anything is set here.
var checksGiven = sync.OnceValue(func() (given bool) {
	flag.Visit(func(f *flag.Flag) { given = given || f.Name == rapidChecks })
	return given
})

// checks lets the properties of a test be tried so often, unless the command line says how often: laying
// whole plans takes seconds each. make fuzz tries them more often.
func checks(t *testing.T, n int) {
	if checksGiven() {
		return
	}
	before := flag.Lookup(rapidChecks).Value.String()
	require.NoError(t, flag.Set(rapidChecks, strconv.Itoa(n)))
	t.Cleanup(func() { require.NoError(t, flag.Set(rapidChecks, before)) })
}
