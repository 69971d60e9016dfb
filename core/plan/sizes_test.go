package plan_test

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"cinderpath/core/document"
	"cinderpath/core/form"
	"cinderpath/core/measure"
	"cinderpath/core/plan"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func p[T any](x T) *T { return &x }

func dimension(e document.DimensionEdit) document.Edit {
	return document.Edit{Op: document.SetDimension, Dimension: &e}
}

func apply(t testing.TB, b document.Build, edits ...document.Edit) document.Build {
	b, err := applied(b, edits, newIDs)
	require.NoError(t, err)
	return b
}

var newIDs = func() func() string {
	n := 0
	return func() string { n++; return fmt.Sprintf("made-%d", n) }
}()

func line(t testing.TB, p plan.Plan, name string) plan.SizeLine {
	for _, l := range p.Sizes {
		if l.Name == name {
			return l
		}
	}
	t.Fatalf("no size %q", name)
	return plan.SizeLine{}
}

func TestSizeSheetFromTypingToPlan(t *testing.T) {
	b := apply(
		t,
		tank(t),
		dimension(
			document.DimensionEdit{
				Group:     p("gun"),
				Name:      p("Barrel length"),
				Real:      p("2.88 m"),
				Kit:       p("78.3"),
				PlusMinus: p("0.02"),
			},
		),
		dimension(document.DimensionEdit{ID: document.SetWidth, Kit: p("88.60")}),
		dimension(
			document.DimensionEdit{Group: p("hull"), Name: p("Skirt thickness"), Real: p("8"), Kit: p("1.2"), Seen: p("edge")},
		),
	)
	pl := planOf(t, b)
	barrel := line(t, pl, "Barrel length")
	assert.Equal(t, "82.3 mm", barrel.Model)
	assert.Equal(t, "−3.99 mm", barrel.Kit.Model)
	assert.Equal(t, "−4.8 %", barrel.Kit.Percent)
	assert.Equal(t, measure.AlongLength, barrel.Along, "guessed from its name")
	assert.Equal(t, "+0.03 mm", line(t, pl, "Width").Kit.Model)
	assert.True(t, line(t, pl, "Width").Fixed)
	assert.InDelta(t, 5.25, line(t, pl, "Skirt thickness").Thick.Factor, 1e-9)
	require.NotNil(t, pl.Kit)
	assert.Len(t, pl.Kit.Pairs, 2, "a thickness is no witness of the scale")
	for _, l := range pl.Sizes {
		assert.NotEmpty(t, l.Why.Formula)
	}
	// Drawn along its part: the barrel ends where its real length ends.
	require.NotNil(t, barrel.Drawn)
	assert.Equal(t, form.Left, barrel.Drawn.Side)
	assert.InDelta(t, 2880.0/35, barrel.Drawn.To[0]-barrel.Drawn.From[0], 1e-9)
	assert.Nil(t, line(t, pl, "Skirt thickness").Drawn)
	// Placed by hand it stays at its place on the vehicle, whatever the scale.
	id := barrel.Key
	b = apply(
		t,
		b,
		dimension(
			document.DimensionEdit{ID: id, At: &measure.Span{Side: "top", From: [2]float64{10, 20}, To: [2]float64{92.3, 20}}},
		),
	)
	assert.Equal(t, [2]float64{10, 20}, line(t, planOf(t, b), "Barrel length").Drawn.From)
	b = apply(t, b, document.Edit{Op: document.SetScale, Text: "1:70"})
	assert.InDelta(t, 5, line(t, planOf(t, b), "Barrel length").Drawn.From[0], 1e-9)
	b = apply(t, b, dimension(document.DimensionEdit{ID: id, Unplaced: true}))
	assert.Equal(t, form.Left, line(t, planOf(t, b), "Barrel length").Drawn.Side)
	// A patch leaves the rest; an empty kit takes the measurement away.
	b = apply(t, b, dimension(document.DimensionEdit{ID: id, Kit: p("")}))
	assert.Nil(t, line(t, planOf(t, b), "Barrel length").Kit)
	assert.Equal(t, "2.88 m", line(t, planOf(t, b), "Barrel length").Typed)
	b = apply(t, b, document.Edit{Op: document.DropDimension, Text: id})
	assert.Len(t, b.Dimensions, 1)
}

func TestDecisionsAreRecordedWithTheirFactor(t *testing.T) {
	b := tank(t)
	var edits []document.Edit
	for id, kit := range map[string]string{document.SetLength: "184.97", document.SetWidth: "89.60", document.SetHeight: "72.83"} { // 1:34.6
		edits = append(edits, dimension(document.DimensionEdit{ID: id, Kit: p(kit)}))
	}
	edits = append(
		edits,
		dimension(document.DimensionEdit{Group: p("gun"), Name: p("Barrel length"), Real: p("2.88 m"), Kit: p("79.2")}),
		dimension(
			document.DimensionEdit{
				Group: p("fittings"),
				Name:  p("Tow rope, length"),
				Real:  p("4.2 m"),
				Kit:   p("131"),
				From:  p("leaflet"),
			},
		),
	)
	b = apply(t, b, edits...)
	pl := planOf(t, b)
	assert.InDelta(t, 34.6, pl.Kit.N, 0.02)
	barrel := line(t, pl, "Barrel length").Key
	b = apply(t, b, dimension(document.DimensionEdit{ID: barrel, Act: p(measure.Accept)}))
	assert.InDelta(t, 79.2*pl.Kit.N/2880, b.Dimensions[0].Decision.Factor, 1e-9, "against the kit's own scale")
	assert.Contains(t, strings.Join(planOf(t, b).Kit.Verdict, " "), "Barrel length is accepted at 0.95")
	// Measured again, it is decided again.
	again := apply(t, b, dimension(document.DimensionEdit{ID: barrel, Kit: p("83.2")}))
	assert.Nil(t, again.Dimensions[0].Decision)
	box := apply(
		t,
		b,
		document.Edit{Op: document.SetFit, Text: measure.FitBox},
		dimension(document.DimensionEdit{ID: barrel, Act: p(measure.Extend)}),
	)
	assert.InDelta(t, 79.2*35/2880, box.Dimensions[0].Decision.Factor, 1e-9, "against the box")
	back := apply(t, b, dimension(document.DimensionEdit{ID: barrel, Act: p("")}))
	assert.Nil(t, back.Dimensions[0].Decision)
}

func TestMeasuresNameTheField(t *testing.T) {
	b := apply(t, tank(t), dimension(document.DimensionEdit{Name: p("Skirt height"), Real: p("600")}))
	id := b.Dimensions[0].ID
	hash := strings.Repeat("a", 64)
	for want, e := range map[string]document.Edit{
		"real: ":          dimension(document.DimensionEdit{ID: id, Real: p("long")}),
		"kit: \"wide\"":   dimension(document.DimensionEdit{ID: id, Kit: p("wide")}),
		"plusMinus: \"x":  dimension(document.DimensionEdit{ID: id, Kit: p("17"), PlusMinus: p("x")}),
		"kit: there is":   dimension(document.DimensionEdit{ID: id, PlusMinus: p("0.1")}),
		"plusMinus: the":  dimension(document.DimensionEdit{ID: id, Kit: p("17"), PlusMinus: p("20")}),
		"group: ":         dimension(document.DimensionEdit{ID: id, Group: p("wing")}),
		"name: ":          dimension(document.DimensionEdit{Real: p("3")}),
		"along: ":         dimension(document.DimensionEdit{ID: id, Along: p("sideways")}),
		"seen: ":          dimension(document.DimensionEdit{ID: id, Seen: p("never")}),
		"from: ":          dimension(document.DimensionEdit{ID: id, Kit: p("17"), From: p("hearsay")}),
		"act: ":           dimension(document.DimensionEdit{ID: id, Kit: p("17"), Act: p("burn")}),
		"id: \"gone\"":    dimension(document.DimensionEdit{ID: "gone", Real: p("3")}),
		"id: \"nothing\"": {Op: document.DropDimension, Text: "nothing"},
		"fit: ":           {Op: document.SetFit, Text: "purse"},
		"start: ":         {Op: document.SetCable, Cable: &document.CableEdit{Name: "rope", Start: "x"}},
		"cables[0].name":  {Op: document.SetCable, Cable: &document.CableEdit{}},
		"diameter: ":      {Op: document.SetCable, Cable: &document.CableEdit{Name: "rope", Diameter: "-1"}},
		"photo.real: ":    {Op: document.SetPhoto, Photo: &measure.Photo{Name: "side", Hash: hash, Width: 9, Height: 9, PhotoMarks: measure.PhotoMarks{Mode: measure.ByReference, Real: measure.Size{Typed: "x"}}}},
		"photos[0].hash":  {Op: document.SetPhoto, Photo: &measure.Photo{Name: "side", Hash: "no", Width: 9, Height: 9, PhotoMarks: measure.PhotoMarks{Mode: measure.ByReference}}},
		"parts[0].unit":   {Op: document.SetPart, Part: &measure.Part{Name: "crane", Hash: hash, DrawnAt: 1}},
		"carries nothing": {Op: document.SetDimension},
	} {
		_, err := applied(b, []document.Edit{e}, newIDs)
		assert.ErrorContains(t, err, want)
	}
	many := make([]document.Edit, 0, measure.MostDimensions+1)
	for i := range measure.MostDimensions + 1 {
		many = append(many, dimension(document.DimensionEdit{Name: p(fmt.Sprint(i)), Real: p("3")}))
	}
	_, err := applied(tank(t), many, newIDs)
	assert.ErrorContains(t, err, "more than 400")
}

func TestCablesPhotosPartsComeAndGo(t *testing.T) {
	hash := strings.Repeat("a", 64)
	b := apply(
		t,
		tank(t),
		document.Edit{
			Op: document.SetCable,
			Cable: &document.CableEdit{
				Name:     "Tow rope",
				Points:   [][3]float64{{0, 0, 0}, {30, 40, 0}},
				Start:    "2",
				End:      "3 mm",
				Leaflet:  "60",
				Diameter: "28",
			},
		},
		document.Edit{
			Op: document.SetPhoto,
			Photo: &measure.Photo{
				Name:       "side",
				Hash:       hash,
				Width:      9,
				Height:     9,
				PhotoMarks: measure.PhotoMarks{Mode: measure.ByReference, Real: measure.Size{Typed: "1.2 m"}},
			},
		},
		document.Edit{Op: document.SetPart, Part: &measure.Part{Name: "crane", Hash: hash, Unit: "mm", DrawnAt: 1}},
	)
	assert.InDelta(t, 1200, b.Photos[0].Real.MM, 0)
	pl := planOf(t, b)
	assert.Equal(t, "55.0 mm", pl.Cables[0].Cut)
	assert.True(t, pl.Cables[0].Differs)
	b = apply(
		t,
		b,
		document.Edit{
			Op: document.SetCable,
			Cable: &document.CableEdit{
				ID:     b.Cables[0].ID,
				Name:   "Tow rope, left",
				Points: b.Cables[0].Points,
				Start:  "2",
				End:    "3",
			},
		},
	)
	assert.Len(t, b.Cables, 1)
	assert.Empty(t, planOf(t, b).Cables[0].Leaflet)
	b = apply(
		t,
		b,
		document.Edit{Op: document.DropCable, Text: b.Cables[0].ID},
		document.Edit{Op: document.DropPhoto, Text: b.Photos[0].ID},
		document.Edit{Op: document.DropPart, Text: b.Parts[0].ID},
	)
	data, err := json.Marshal(b)
	require.NoError(t, err)
	var back document.Build
	require.NoError(t, json.Unmarshal(data, &back))
	require.NoError(t, back.Check())
}

func TestPickOnThePlate(t *testing.T) {
	b := tank(t)
	var d plan.Deriver
	v := planOf(t, b).Views[0]
	a, err := d.Pick(b, plan.PickQuestion{Side: v.Side, X: v.Width / 2, Y: v.Height / 2})
	require.NoError(t, err)
	assert.NotEmpty(t, a.Zone)
	assert.Positive(t, a.Point[1], "on the left side of the vehicle")
	_, err = d.Pick(b, plan.PickQuestion{Side: v.Side, X: -5, Y: 0})
	assert.ErrorContains(t, err, "nothing of the vehicle")
}

func facts(a measure.LengthAnswer) map[string]string {
	out := map[string]string{}
	for _, f := range a.Facts {
		out[f.Name] = f.Value
	}
	return out
}

// What the rule is asked at the foot of the screen.
func TestTheRule(t *testing.T) {
	for text, want := range map[string]map[string]string{
		"7.12m":               {"on the model": "203.4 mm", "real": "7.12 m (23 ft 4 3/8 in)"},
		"3/8in":               {"on the model": "0.27 mm", "if measured on the model": "333.4 mm"},
		"0.5 → real":          {"real": "17.5 mm (3/4 in)"},
		"0.5 -> real":         {"real": "17.5 mm (3/4 in)"},
		"7.12 m → model":      {"on the model": "203.4 mm"},
		"1:35 → 1:48 42mm":    {"at 1:48": "30.6 mm", "real": "1.47 m", "copy at": "72.9 %"},
		"42 mm 1:35 → 1:48":   {"at 1:48": "30.6 mm"},
		"rope 28mm":           {"on the model": "0.80 mm"},
		"drill 18mm":          {"drill, under": "no. 76, -1.2 %, 17.8 mm at full size", "drill, over": "no. 75, +3.7 %, 18.7 mm at full size"},
		"Hole 75 mm":          {"bore": "no. 76 → 1.00 mm → 1.50 mm → 2.00 mm → 2.10 mm"},
		"sheet 14mm":          {"sheet, exact": "0.40 mm sheet, +0.0 %, 14 mm"},
		"strip 40x8mm":        {"on the model": "1.14 mm"},
		"weld 21mm 7m":        {"Putty, if the bead is rolled of it": "0.028 ml", "Time": "1 h"},
		"bolt 24mm":           {"Head, across flats": "1.03 mm"},
		"mesh 28mm x 7mm":     {"on the model": "0.80 mm"},
		"tube 31.5 x 24.5 mm": {"on the model": "0.90 mm"},
	} {
		a, err := measure.Ask(measure.LengthQuestion{Text: text, Scale: "1:35"})
		require.NoError(t, err, text)
		got := facts(a)
		for name, value := range want {
			assert.Equal(t, value, got[name], "%s: %s of %v", text, name, got)
		}
		assert.Contains(t, a.Copy, a.Facts[0].Value)
		for _, f := range a.Facts {
			assert.NotEmpty(t, f.Why.Formula, "%s: %s", text, f.Name)
			assert.NotEmpty(t, f.Why.Inputs, "%s: %s", text, f.Name)
		}
	}
	for _, bad := range []string{"", "rope", "rope long", "1:35 → 1:x 42mm", "weld 20mm", "mesh 3", "-3 → real", strings.Repeat("9", 300), "1,234"} {
		_, err := measure.Ask(measure.LengthQuestion{Text: bad, Scale: "1:35"})
		var f *measure.Fault
		require.ErrorAs(t, err, &f, bad)
		assert.Equal(t, "text", f.Field)
		assert.NotEmpty(t, f.Remedy, bad)
	}
	own, err := measure.Ask(
		measure.LengthQuestion{Text: "17.5mm", Scale: "1:35", Shelf: &measure.Shelf{Own: []string{"wire:0.50 mm tin wire"}}},
	)
	require.NoError(t, err)
	assert.Contains(t, facts(own)["rod or wire"], "0.50 mm tin wire (yours)")
}

// Whatever is typed on the rule is answered or refused with a remedy.
func FuzzAsk(f *testing.F) {
	for _, form := range []string{"7.12m", "3/8in", "0.5 → real", "1:35 → 1:48 42mm", "rope 28mm", "drill 18mm", "sheet 14mm", "strip 40x8mm", "bolt 24mm", "weld 20mm 6m"} {
		f.Add(form)
	}
	f.Fuzz(func(t *testing.T, text string) {
		a, err := measure.Ask(measure.LengthQuestion{Text: text, Scale: "1:35"})
		if err != nil {
			var fault *measure.Fault
			require.ErrorAs(t, err, &fault)
			require.NotEmpty(t, fault.Reason)
			return
		}
		_, err = json.Marshal(a)
		require.NoError(t, err)
	})
}
