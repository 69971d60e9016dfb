package strata_test

import (
	"encoding/csv"
	"fmt"
	"os"
	"slices"
	"strings"
	"testing"

	"cinderpath/core/colour"
	"cinderpath/core/paint"
	"cinderpath/core/strata"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// attacks reads the table anew: carrier, surface and way of applying to the letter.
func attacks(t testing.TB) map[[3]string]string {
	f, err := os.Open("tables/attacks.csv")
	require.NoError(t, err)
	defer f.Close()
	rows, err := csv.NewReader(f).ReadAll()
	require.NoError(t, err)
	out := map[[3]string]string{}
	for _, r := range rows[1:] {
		out[[3]string{r[0], r[1], "brushed"}], out[[3]string{r[0], r[1], "misted"}] = r[2], r[3]
	}
	return out
}

// times reads next-coat and curing times anew, minutes.
func times(t testing.TB) map[string]map[string]string {
	f, err := os.Open("../paint/tables/families.csv")
	require.NoError(t, err)
	defer f.Close()
	rows, err := csv.NewReader(f).ReadAll()
	require.NoError(t, err)
	out := map[string]map[string]string{}
	for _, r := range rows[1:] {
		out[r[0]] = map[string]string{}
		for i, head := range rows[0] {
			out[r[0]][head] = r[i]
		}
	}
	return out
}

// Paints and clears in any order: what dissolves, softens or has to wait is what the
// published table says about each pair that has no clear coat between it.
func TestChemistryIsTheTable(t *testing.T) {
	letters, table := attacks(t), times(t)
	paints := []string{
		"waterborne_acrylic",
		"alcohol_acrylic",
		"lacquer",
		"enamel_paint",
		"clear_acrylic",
		"clear_lacquer",
	}
	rapid.Check(t, func(t *rapid.T) {
		var stack []strata.Layer
		for i := range rapid.IntRange(2, 8).Draw(t, "layers") {
			family := rapid.SampledFrom(paints).Draw(t, "family")
			l := layer(fmt.Sprintf("l%d", i), strata.Colour, family)
			if strings.HasPrefix(family, "clear") {
				l.Kind, l.Sheen = strata.Clear, colour.Satin
			}
			l.Applied = rapid.SampledFrom([]strata.Application{strata.Brushed, strata.Misted}).Draw(t, "applied")
			if rapid.IntRange(0, 2).Draw(t, "part") == 0 {
				l.Zones = []string{rapid.SampledFrom([]string{"hull", "turret"}).Draw(t, "zone")}
			}
			stack = append(stack, l)
		}
		found, spent := map[string]bool{}, map[string]float64{}
		for _, zone := range zones {
			block := strings.SplitN(zone, ".", 2)[0]
			var below []strata.Layer // from above
			bare := true
			for _, l := range stack {
				if len(l.Zones) > 0 && l.Zones[0] != block {
					continue
				}
				brings := table[l.Family]["brings"]
				for _, under := range below {
					letter := letters[[3]string{brings, under.Family, string(l.Applied)}]
					wait := 0.0
					switch letter {
					case "D":
						found["P1:"+l.ID+":"+under.ID+"/stop"] = true
					case "L":
						found["P1:"+l.ID+":"+under.ID+"/warn"] = true
					case "N":
						wait = minutes(table[under.Family]["next_coat_min"])
					case "C":
						wait = minutes(table[under.Family]["cured_min"])
						if under.Family == l.Family && under.Kind == l.Kind {
							wait = minutes(table[under.Family]["next_coat_min"])
						}
					}
					key := under.ID + ">" + l.ID
					spent[key] = max(spent[key], wait)
					if under.Kind == strata.Clear && slices.Contains([]string{"S", "N", "C", ""}, letter) {
						break
					}
				}
				if bare && letters[[3]string{brings, "bare_plastic", string(l.Applied)}] == "D" {
					found["P1:"+l.ID+"/stop"] = true
				}
				below, bare = slices.Insert(below, 0, l), false
			}
		}
		want := []string{}
		for id := range found {
			want = append(want, id)
		}
		findings, waits := strata.Check(stack, zones, nil)
		assert.ElementsMatch(t, want, rules(findings))
		got := map[string]float64{}
		for _, w := range waits {
			got[w.From+">"+w.To] = float64(w.Minutes)
			assert.NotEmpty(t, w.Reason)
		}
		for pair, least := range spent {
			assert.GreaterOrEqual(t, got[pair], least, pair)
			if got[pair] > least { // nothing asks for more, but that the surface is dry to the touch
				from, _, _ := strings.Cut(pair, ">")
				touch := minutes(table[stack[index(from)].Family]["touch_min"])
				assert.Equal(t, touch, got[pair], pair)
			}
		}
	})
}

func index(id string) (i int) {
	_, err := fmt.Sscanf(id, "l%d", &i)
	if err != nil {
		panic(err)
	}
	return i
}

func minutes(text string) (m float64) {
	if _, err := fmt.Sscanf(text, "%g", &m); err != nil {
		panic(err)
	}
	return m
}

// What is laid on other zones changes nothing, and neither does the order of the zones.
func TestZonesAreJudgedByThemselves(t *testing.T) {
	var families []string
	for _, f := range paint.Families() {
		families = append(families, f.ID)
	}
	rapid.Check(t, func(t *rapid.T) {
		var hull, both []strata.Layer
		for i := range rapid.IntRange(1, 6).Draw(t, "layers") {
			l := layer(
				fmt.Sprintf("l%d", i),
				rapid.SampledFrom(kinds()).Draw(t, "kind"),
				rapid.SampledFrom(families).Draw(t, "family"),
				on("hull"),
			)
			hull, both = append(hull, l), append(both, l)
			if rapid.Bool().Draw(t, "turret too") {
				other := layer(
					fmt.Sprintf("t%d", i),
					rapid.SampledFrom(kinds()).Draw(t, "its kind"),
					rapid.SampledFrom(families).Draw(t, "its family"),
					on("turret"),
				)
				both = append(both, other)
			}
		}
		alone, _ := strata.Check(hull, zones, nil)
		together, waits := strata.Check(both, zones, nil)
		mine := slices.DeleteFunc(rules(together), func(id string) bool { return strings.Contains(id, ":t") })
		assert.Equal(t, rules(alone), mine)
		for _, w := range waits {
			assert.Equal(t, w.From[0], w.To[0], "%s waits for %s on another zone", w.To, w.From)
		}
		turned, _ := strata.Check(both, []string{zones[1], zones[0]}, nil)
		assert.Equal(t, rules(together), rules(turned))
	})
}
