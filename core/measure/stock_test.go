package measure_test

import (
	"fmt"
	"testing"

	"cinderpath/core/length"
	"cinderpath/core/measure"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

func TestNearestDrill(t *testing.T) {
	near, ok := measure.Nearest(0.34, 35, "drill")
	require.True(t, ok)
	assert.Equal(t, "no. 80", near.Name)
	assert.InDelta(t, 0.3429*35, float64(near.Full), 1e-9)
	_, ok = measure.Nearest(1, 35, "anvil")
	assert.False(t, ok)
}

// Nothing in the table is nearer than the nearest: asked for an item's own size,
// the error is nothing.
func TestNearestIsExactOnItsOwnSizes(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		wanted := length.Model(rapid.Float64Range(0.1, 5).Draw(t, "wanted"))
		near, ok := measure.Nearest(wanted, 48, "rod", "wire", "tube")
		require.True(t, ok)
		again, _ := measure.Nearest(near.Size, 48, near.Kind)
		assert.Zero(t, again.Off)
		assert.InDelta(t, float64(near.Off), near.Error*float64(wanted), 1e-9)
	})
}

func ExampleNearest() {
	near, _ := measure.Nearest(length.Scale(35).ToModel(28), 35, "wire")
	fmt.Println(near.Name, near.Full)
	// Output: 0.80 mm copper wire 28 mm
}
