package table_test

import (
	"testing"
	"testing/fstest"

	"cinderpath/core/table"

	"github.com/stretchr/testify/assert"
)

func TestRead(t *testing.T) {
	files := fstest.MapFS{
		"tables/good.csv":   {Data: []byte("id,much,yes,list\nfirst,2.5,1,a|b\n\"second, with a comma\",,,\n")},
		"tables/ragged.csv": {Data: []byte("id,much\nfirst\n")},
		"tables/words.csv":  {Data: []byte("id,much\nfirst,plenty\n")},
	}
	rows := table.Read(files, "good")
	assert.Len(t, rows, 2)
	assert.InDelta(t, 2.5, rows[0].Number("much"), 0)
	assert.True(t, rows[0].Is("yes"))
	assert.Equal(t, []string{"a", "b"}, rows[0].List("list"))
	assert.Equal(t, "second, with a comma", rows[1]["id"])
	assert.Zero(t, rows[1].Number("much"))
	assert.False(t, rows[1].Is("yes"))
	assert.Equal(t, []string{}, rows[1].List("list"), "an empty list, not none: it is printed as one")
	assert.Panics(t, func() { table.Read(files, "missing") })
	assert.Panics(t, func() { table.Read(files, "ragged") })
	assert.Panics(t, func() { table.Read(files, "words")[0].Number("much") })
}
