package document_test

import (
	"testing"
	"time"

	"cinderpath/core/document"
	"cinderpath/core/measure"
	"cinderpath/core/paint"
	"cinderpath/core/path"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

var noon = time.Date(2026, 11, 23, 12, 0, 0, 0, time.UTC)

func shop() document.Workshop {
	jar := func(id, hex string, left float64) paint.Jar {
		return paint.Jar{ID: id, Name: id, Family: "waterborne_acrylic", Hex: hex, Volume: 17, Left: left, State: paint.Fine}
	}
	return document.Workshop{
		Name: "bench", Zone: "UTC", Calendar: path.Calendar{Temperature: 20, Humidity: 0.5},
		Paint: paint.Shelf{Jars: []paint.Jar{jar("green", "#66704f", 10), jar("white", "#f1f0ea", 1)}},
	}
}

func edited(t *testing.T, w document.Workshop, items []document.Item, edits ...document.ShelfEdit) document.Workshop {
	n := 0
	out, err := w.EditShelf(edits, items, func() string { n++; return "id-" + string(rune('a'+n)) }, noon)
	require.NoError(t, err)
	return out
}

func mixOf(green, white int) document.ShelfEdit {
	return document.ShelfEdit{Op: document.MakeMix, Mix: &paint.Mixture{
		ID: "mix", Name: "pale green", Parts: []paint.Part{{Jar: "green", Drops: green}, {Jar: "white", Drops: white}},
	}}
}

// A mix takes its drops from the jars; sent twice it is made once; made again it adds to what
// is left; more than a jar holds is refused, and changes nothing.
func TestAMixTakesItsDropsFromTheJars(t *testing.T) {
	w := edited(t, shop(), nil, mixOf(40, 4))
	left := func(w document.Workshop, id string) float64 { p, _ := w.Paint.Pot(id); return p.Left }
	assert.InDelta(t, 8, left(w, "green"), 1e-9)
	assert.InDelta(t, 0.8, left(w, "white"), 1e-9)
	assert.InDelta(t, 2.2, left(w, "mix"), 1e-9)
	assert.NotEmpty(t, w.Paint.Mixes[0].Hex)
	assert.Equal(t, w, edited(t, w, nil, mixOf(40, 4)), "sent once more")
	later, err := w.EditShelf([]document.ShelfEdit{mixOf(40, 4)}, nil, func() string { return "x" }, noon.Add(time.Hour))
	require.NoError(t, err)
	assert.InDelta(t, 4.4, left(later, "mix"), 1e-9)
	assert.InDelta(t, 6, left(later, "green"), 1e-9)
	_, err = w.EditShelf([]document.ShelfEdit{mixOf(1, 100)}, nil, func() string { return "x" }, noon.Add(time.Hour))
	var fault *measure.Fault
	require.ErrorAs(t, err, &fault)
	assert.Contains(t, fault.Reason, "holds 0.8 ml")
}

// What was taken at the bench counts before a mix is made of the rest.
func TestEditsSeeWhatTheLogTook(t *testing.T) {
	w := shop()
	items := []document.Item{{Log: []document.Entry{
		{
			Key:   "1",
			Kind:  document.Finished,
			Task:  "t",
			Title: "t",
			At:    noon.Add(-time.Hour),
			Used:  []paint.Used{{Pot: "green", ML: 9}},
		},
	}}}
	_, err := w.EditShelf([]document.ShelfEdit{mixOf(40, 4)}, items, func() string { return "x" }, noon)
	assert.ErrorContains(t, err, "holds 1.0 ml")
	next := edited(t, w, items, mixOf(10, 1))
	j, _ := next.Levels(items).Paint.Jar("green")
	assert.InDelta(t, 0.5, j.Left, 1e-9, "taken once, not twice")
	// Changing something else of a jar leaves its level to the log.
	named := w.Levels(items).Paint.Jars[0]
	named.Name = "lichen"
	next = edited(t, w, items, document.ShelfEdit{Op: document.SetJar, Jar: &named})
	j, _ = next.Levels(items).Paint.Jar("green")
	assert.Equal(t, "lichen", j.Name)
	assert.InDelta(t, 1, j.Left, 1e-9)
}

func TestTheShelfIsEdited(t *testing.T) {
	w := edited(t, shop(), nil,
		document.ShelfEdit{Op: document.JarByLine, ID: "new", Text: "7 dry sand, waterborne acrylic, #b99f74, 17 ml"},
		document.ShelfEdit{Op: document.JarByLine, ID: "new", Text: "7 dry sand, waterborne acrylic, #b99f74, 17 ml"},
		document.ShelfEdit{Op: document.AddTrial, ID: "green", Trial: &paint.Trial{Seen: "#6a7352", Corrected: true}},
		document.ShelfEdit{Op: document.ReadJars, Text: "name,family,swatch\nbone,lacquer,#e6e0cf\nbad,marmalade,#111111\n"},
	)
	require.Len(t, w.Paint.Jars, 4, "the line sent twice made one jar")
	green, _ := w.Paint.Jar("green")
	assert.Equal(t, "#6a7352", green.Hex)
	assert.Equal(t, "#66704f", green.Trials[0].Forecast)
	assert.InDelta(t, 1.4, green.Trials[0].Difference, 0.3)
	require.Len(t, w.Paint.Unread, 1)
	w = edited(
		t,
		w,
		nil,
		document.ShelfEdit{Op: document.ReadJars, Text: "name,family,swatch\nbone,lacquer,#e6e0cf\n"},
		document.ShelfEdit{
			Op:   document.ForgetRow,
			Text: w.Paint.Unread[0].Text,
		},
		document.ShelfEdit{Op: document.DropJar, ID: "new"},
	)
	assert.Len(t, w.Paint.Jars, 3, "the list read twice made no jar twice")
	assert.Empty(t, w.Paint.Unread)
	zero := 0.0
	w = edited(t, w, nil, document.ShelfEdit{Op: document.SetLevel, ID: "green", ML: &zero})
	green, _ = w.Paint.Jar("green")
	assert.Equal(t, paint.Empty, green.State)
	for name, e := range map[string]document.ShelfEdit{
		"unknown": {Op: "juggle"}, "no jar": {Op: document.SetJar}, "no level": {Op: document.SetLevel, ID: "green"},
		"gone": {Op: document.DropJar, ID: "gone"}, "no such pot": {Op: document.SetLevel, ID: "gone", ML: &zero},
		"no mix": {Op: document.MakeMix}, "no trial": {Op: document.AddTrial, ID: "green"},
	} {
		_, err := w.EditShelf([]document.ShelfEdit{e}, nil, func() string { return "x" }, noon)
		assert.Error(t, err, name)
	}
}
