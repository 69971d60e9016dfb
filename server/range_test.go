package server_test

import (
	"testing"

	"cinderpath/core/gear"
	"cinderpath/server"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The contract states the ranges that edits, import and the calculators hold to.
func TestTheContractStatesTheRanges(t *testing.T) {
	contract, err := server.Contract()
	require.NoError(t, err)
	seen := map[string]bool{}
	for _, schema := range []string{"Wheel", "Link"} {
		for name, property := range contract.Components.Schemas[schema].Value.Properties {
			r, known := gear.Ranges[name]
			if !known {
				assert.True(t, property.Value.Type.Is("string") || property.Value.Type.Is("boolean") || name == "arm",
					"%s.%s has no range", schema, name)
				continue
			}
			seen[name] = true
			require.NotNil(t, property.Value.Min, "%s.%s", schema, name)
			require.NotNil(t, property.Value.Max, "%s.%s", schema, name)
			if name != "pitch" && name != "width" { // 0 where there is no track
				assert.InDelta(t, r.Least, *property.Value.Min, 0, "%s.%s", schema, name)
			}
			assert.InDelta(t, r.Most, *property.Value.Max, 0, "%s.%s", schema, name)
		}
	}
	assert.Len(t, seen, len(gear.Ranges))
}
