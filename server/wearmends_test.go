package server_test

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

// on is a layer that is inserted on some zones.
func on(zones, name, kind, family, more string) string {
	where := `[]`
	if zones != "" {
		where = `["` + strings.ReplaceAll(zones, " ", `","`) + `"]`
	}
	return fmt.Sprintf(
		`{"op":"insert","layer":{"id":"","name":%q,"kind":%q,"family":%q,"applied":%q,"coats":1,"zones":%s%s}}`,
		name, kind, family, map[bool]string{true: "misted", false: "brushed"}[strings.Contains(more, `"applied"`)], where,
		strings.Replace(more, `,"applied":true`, "", 1),
	)
}

// The rules of wear, earth, markings and the base, each provoked on a sample through the server: found with
// its severity and reason, and settled by every mend that is offered.
func TestRulesOfWearThroughTheServer(t *testing.T) {
	painted := []string{
		on("", "Primer", "prime", "primer_acrylic", `,"applied":true`),
		on("", "Colour", "colour", "waterborne_acrylic", `,"applied":true`),
		on("", "Satin", "clear", "clear_acrylic", `,"applied":true,"sheen":"satin"`),
	}
	// Two tones of earth, so that nothing is said of one (W14), and mud that leaves room.
	b := open(t)
	base := `"margin":30,"board":10,"depth":3,"sink":40,"screw":3,"screws":2,"figures":0`
	for _, c := range []struct {
		rule, severity string
		layers         []string // over primer, colour and clear coat
		instead        bool     // without these three
		edits          []string
	}{
		{rule: "W4", severity: "hint", layers: []string{
			on("turret", "Dots", "dots", "oil_thin", `,"hex":"#9a8a5a"`),
			on("", "Colour again", "colour", "waterborne_acrylic", `,"applied":true`)}},
		{rule: "W5", severity: "warn", layers: []string{
			on("hull", "Polish", "metal", "graphite", ""), on("", "Wash", "wash", "enamel_effect", "")}},
		{rule: "W6", severity: "warn", layers: []string{
			on("hull", "Chips", "chips", "waterborne_acrylic", `,"sizeMm":[100,300],"amount":0.02`)}},
		{rule: "W7", severity: "warn", layers: []string{
			on("hull", "Specks", "splash", "acrylic_wash", `,"sizeMm":[1,3]`)}},
		{rule: "W8", severity: "warn", layers: []string{
			on("hull", "Powder", "pigment", "pigment_dry", ""),
			on("", "Matt", "clear", "clear_acrylic", `,"applied":true,"sheen":"matt"`)}},
		{rule: "W9", severity: "warn", layers: []string{on("hull", "Powder", "pigment", "pigment_dry", "")}},
		{rule: "W10", severity: "warn", layers: []string{
			on("turret", "Dust", "dust", "enamel_effect", `,"technique":"dust_stipple"`)}},
		{rule: "W11", severity: "warn", layers: []string{on("lower", "Dust", "dust", "enamel_effect", `,"hex":"#66704f"`)}},
		{rule: "W12", severity: "stop", layers: []string{on("gear lower", "Mud", "mud", "mud_paste", `,"depthMm":9`)}},
		{rule: "W13", severity: "warn", layers: []string{
			on("turret.roof", "Streaks", "streaks", "oil_thin", `,"technique":"streak_grime"`)}},
		{rule: "W14", severity: "hint", layers: []string{on("lower", "Mud", "mud", "mud_paste", "")}},
		{rule: "W15", severity: "warn", layers: []string{
			on("", "Dots", "dots", "oil_thin", ""), on("", "Dust", "dust", "enamel_effect", `,"waitMin":600`)}},
		{rule: "W16", severity: "hint", layers: []string{on("lower", "Dust", "dust", "enamel_effect", `,"hex":"#b8a98a"`)},
			edits: []string{`{"op":"school","school":"display","text":"on a base of its own"}`}},
		{rule: "W17", severity: "warn", layers: []string{on("gear.left.road gear.left.rubber", "Polish", "metal", "graphite", "")}},
		{rule: "W18", severity: "hint", layers: []string{on("hull", "Chips", "chips", "waterborne_acrylic",
			`,"touches":[{"what":"more","at":[500,1200,900],"radiusMm":120},{"what":"more","at":[510,-1190,905],"radiusMm":120}]`)}},
		{rule: "W19", severity: "warn", layers: []string{on("lower", "Mud", "mud", "mud_paste", "")}, edits: []string{
			`{"op":"school","school":"display","text":"on a base of its own"}`,
			`{"op":"base","base":{` + base + `,"strewn":[{"kind":"sand","mm":1}]}}`}},
		{rule: "W20", severity: "warn", layers: []string{on("", "Wash", "wash", "enamel_effect", "")},
			edits: []string{`{"op":"relief","zone":"turret.left","text":"cast"}`}},
		{rule: "M2", severity: "warn", layers: []string{on("hull", "Numbers", "decals", "decal", "")},
			edits: []string{`{"op":"relief","zone":"hull.left","text":"ribbed"}`}},
		{rule: "M4", severity: "warn", layers: []string{
			on("hull", "Chips", "chips", "waterborne_acrylic", ""), on("hull", "Numbers", "decals", "decal", "")}},
		{rule: "F3", severity: "hint", layers: []string{on("lower", "Mud", "mud", "mud_paste", "")}, edits: []string{
			`{"op":"school","school":"display","text":"on a base of its own"}`,
			`{"op":"base","base":{` + base + `,"strewn":[],"jar":"01997a00-0000-7000-8000-00000a5e0044"}}`}},
		{rule: "P5", severity: "warn", layers: []string{
			on("hull", "Chipping coat", "chipping_coat", "chipping_coat", `,"applied":true`),
			on("hull", "Over it", "colour", "waterborne_acrylic", `,"applied":true,"hex":"#dddddd"`),
			on("", "Wash", "wash", "acrylic_wash", "")}},
		{rule: "P2", severity: "warn", instead: true, layers: []string{
			on("", "Primer", "prime", "primer_acrylic", `,"applied":true`),
			on("hull", "Shade", "undertone", "waterborne_acrylic", `,"applied":true,"hex":"#202020"`),
			strings.Replace(on("", "Colour", "colour", "waterborne_acrylic", `,"applied":true`), `"coats":1`, `"coats":6`, 1)}},
	} {
		t.Run(c.rule, func(t *testing.T) {
			b.t = t
			var s state
			require.NoError(t, json.Unmarshal(b.ask("GET", "/api/builds/"+b.varrow, "").Body.Bytes(), &s))
			var change []string
			for _, l := range s.Build.Layers {
				change = append(change, fmt.Sprintf(`{"op":"drop","id":%q}`, l["id"]))
			}
			if !c.instead {
				change = append(change, painted...)
			}
			change = append(change, c.layers...)
			s = b.send(s, `{"op":"layers","layers":[`+strings.Join(change, ",")+`]}`)
			for _, e := range c.edits {
				s = b.send(s, e)
			}
			defer func() {
				for range len(c.edits) + 1 {
					s = b.undo(s)
				}
			}()
			s = b.settled(s, c.rule, c.severity)
		})
	}
}
