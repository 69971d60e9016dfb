package zone_test

import (
	"fmt"
	"testing"

	"cinderpath/core/zone"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"
)

func TestAPlaceHoldsWhatBeginsWithItsNameAndADot(t *testing.T) {
	for _, c := range []struct {
		name, zone, place string
		want              bool
	}{
		{"itself", "hull.glacis", "hull.glacis", true},
		{"its part", "hull.glacis", "hull", true},
		{"a longer name that only begins alike", "hull.glacis-left", "hull.glacis", false},
		{"a part whose name begins alike", "hulltop.roof", "hull", false},
		{"the other way round", "hull", "hull.glacis", false},
	} {
		assert.Equal(t, c.want, zone.Under(c.zone, c.place), c.name)
	}
	assert.True(t, zone.Among("gun", nil), "no places mean everywhere")
	assert.True(t, zone.Meet("hull", "hull.deck") && zone.Meet("hull.deck", "hull"))
	assert.False(t, zone.Meet("hull.left", "hull.right"))
}

func TestBareIsTrackAndRubberOfTheRunningGearOnly(t *testing.T) {
	assert.True(t, zone.Bare(zone.Track(zone.Left)) && zone.Bare(zone.Rubber(zone.Right)))
	assert.False(t, zone.Bare("hull.track"), "a fitting of that name is painted")
	assert.False(t, zone.Bare("gear.left.road"))
}

func TestMirroredSwapsWholeWordsOnly(t *testing.T) {
	assert.Equal(t, "gear.right.road", zone.Mirrored("gear.left.road"))
	assert.Equal(t, "hull.leftover.right", zone.Mirrored("hull.leftover.left"))
	rapid.Check(t, func(t *rapid.T) {
		z := rapid.StringMatching(`[a-z]{1,6}(\.(left|right|[a-z]{1,6})){1,3}`).Draw(t, "zone")
		assert.Equal(t, z, zone.Mirrored(zone.Mirrored(z)))
	})
}

func ExampleWords() {
	fmt.Println(zone.Words("hull.driver-hatch.left"))
	fmt.Println(zone.Words("gear.left.road"))
	fmt.Println(zone.Words("turret"))
	fmt.Println(zone.Said([]string{"hull", "cupola.roof"}))
	// Output:
	// upper hull, driver's hatch left
	// running gear, road wheels left
	// turret
	// upper hull; cupola, roof
}
