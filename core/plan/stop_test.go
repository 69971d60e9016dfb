package plan_test

import (
	"context"
	"testing"
	"time"

	"cinderpath/core/document"
	"cinderpath/core/path"
	"cinderpath/core/plan"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Who leaves stops the search for a schedule; who waits beside gets one all the same.
func TestASearchStopsWhenNobodyWaits(t *testing.T) {
	w, items := workshop(), []document.Item{{Build: tank(t)}}
	var d plan.Deriver
	_, err := d.Tasks(w, items[0], monday) // the body is there
	require.NoError(t, err)
	gone, leave := context.WithCancel(t.Context())
	leave()
	_, err = d.For(gone, w, items, monday)
	require.ErrorIs(t, err, path.ErrStopped)

	left := make(chan struct{})
	here, leave := context.WithCancel(t.Context())
	go func() {
		defer close(left)
		if _, err := d.For(here, w, items, monday.Add(time.Minute)); err != nil {
			assert.ErrorIs(t, err, path.ErrStopped)
		}
	}()
	leave()
	all, err := d.For(t.Context(), w, items, monday.Add(time.Minute))
	require.NoError(t, err)
	assert.Len(t, all.Plans, 1)
	<-left
}
