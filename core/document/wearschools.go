package document

import (
	"cmp"
	"math"
	"slices"

	"cinderpath/core/colour"
	"cinderpath/core/strata"
)

// The questions whose answers change how layers are worked.
const (
	SchoolWash       = "wash"
	SchoolWashTone   = "wash-tone"
	SchoolWashTones  = "wash-tones"
	SchoolChipping   = "chipping"
	SchoolChipMeans  = "chipping-means"
	SchoolDryBrush   = "dry-brush"
	SchoolDust       = "dust"
	SchoolMud        = "mud"
	SchoolMudColour  = "mud-colour"
	SchoolEarthTones = "earth-tones"
	SchoolPigment    = "pigment"
	SchoolSplashes   = "splashes"
	SchoolHighlights = "highlights"
	SchoolChipDecals = "chips-decals"
	SchoolRust       = "rust"
)

// manner is a way of working layers of a kind.
type manner struct {
	family, technique string
	applied           strata.Application
	coats             int
	hex               string
	size              []float64 // of its marks, real mm
	times             float64   // how much of it there is, beside what is usual
}

// manners are the answers that change layers of one kind; an answer that is not among them changes none.
var manners = map[string]struct {
	kind strata.Kind
	by   map[string]manner
}{
	SchoolWash: {strata.Wash, map[string]manner{
		"only into detail": {technique: "wash_pin"},
		"all over":         {technique: "wash_all"},
	}},
	SchoolWashTone: {strata.Wash, map[string]manner{
		"dark brown": {hex: "#3b2f25"},
		"black":      {hex: "#1f1d1b"},
	}},
	SchoolDust: {strata.Dust, map[string]manner{
		"enamel, blended":          {family: "enamel_effect", applied: strata.Brushed, coats: 1},
		"acrylic, many thin coats": {family: "acrylic_wash", applied: strata.Brushed, technique: "dust_coats", coats: 4},
		"oil, blended":             {family: "oil_thin", applied: strata.Brushed, coats: 1},
		"pigment, fixed":           {family: "pigment_wet", applied: strata.Brushed, technique: "dust_pigment", coats: 1},
		"airbrushed mist":          {family: "enamel_effect", applied: strata.Misted, technique: "dust_mist", coats: 1},
		"pastel":                   {family: "pastel", applied: strata.Brushed, technique: "dust_pigment", coats: 1},
	}},
	SchoolMud: {strata.Mud, map[string]manner{
		"paste":            {family: "mud_paste"},
		"acrylic texture":  {family: "texture_acrylic"},
		"pigment, flicked": {family: "pigment_wet"},
		"plaster and oil":  {family: "texture_acrylic", hex: "#7d7164"},
	}},
	SchoolPigment: {strata.Pigment, map[string]manner{
		"enamel thinner":  {family: "pigment_wet"},
		"dry":             {family: "pigment_dry"},
		"acrylic thinner": {family: "acrylic_wash"},
		"acrylic-bound":   {family: "texture_acrylic"},
	}},
	SchoolSplashes: {strata.Splash, map[string]manner{
		"flicked brush":     {technique: "splash_flick", applied: strata.Brushed},
		"airbrush spatter":  {technique: "splash_spatter", applied: strata.Misted},
		"blown off a brush": {technique: "splash_flick", applied: strata.Brushed, size: []float64{4, 30}},
	}},
	SchoolHighlights: {strata.Highlight, map[string]manner{
		"painted, low contrast": {family: "waterborne_acrylic", technique: "highlight_detail"},
		"enamel, wiped":         {family: "enamel_paint", technique: "highlight_detail"},
		"dry brush":             {family: "enamel_paint", technique: "dry_brush"},
	}},
	SchoolUndertone: {strata.Prime, map[string]manner{TintingPrimer: {hex: tinting}}},
	SchoolRust: {strata.Rust, map[string]manner{
		"by story": {times: 1},
		"sparing":  {times: 0.5},
		"heavy":    {times: 2},
	}},
}

// tinting is the swatch of a dark primer that shows through thin colour.
const tinting = "#3a3937"

// left are the answers that take layers of a kind out of the stack.
var left = map[string]map[string]strata.Kind{
	SchoolDryBrush:   {"never": strata.DryBrush},
	SchoolHighlights: {"none": strata.Highlight},
	SchoolRust:       {"none": strata.Rust},
}

// worked is the stack as an answer has its layers worked; what was laid stays as it is.
func worked(b Build, m means, school, answer string) []strata.Layer {
	layers := slices.Clone(b.Layers)
	if kind, ok := left[school][answer]; ok {
		return slices.DeleteFunc(layers, func(l strata.Layer) bool { return l.Kind == kind && !laid(m, l) })
	}
	of := manners[school]
	for i := range layers {
		l := &layers[i]
		if how, ok := of.by[answer]; ok && l.Kind == of.kind && !laid(m, *l) {
			how.onto(l)
		}
	}
	switch school {
	case SchoolWashTone:
		if c := b.Scheme.Colours; answer == darkerGround && len(c) > 0 {
			repainted(layers, m, strata.Wash, "", darker(c[0].Hex))
		}
	case SchoolUndertone:
		return undertoned(layers, m, answer)
	case SchoolWashTones:
		return washTones(b, m, layers, answer != "one")
	case SchoolChipping:
		return chipped(b, m, layers, answer)
	case SchoolEarthTones:
		toned(layers, m, answer == "light to dark")
	case SchoolMudColour:
		return mudColoured(layers, m, answer == "volume first, colour after")
	case SchoolChipDecals:
		return chipsAbout(layers, m, answer == "chips before decals")
	case SchoolChipMeans:
		return chipsBy(layers, m, answer)
	}
	return layers
}

// undertones are the answers by which a layer of shading below the colour is worked, where it is a layer of
// its own; the others have none.
var undertones = map[string]manner{
	"dark recesses, light mottle": {technique: "undertone_dark"},
	BlackMottle:                   {technique: "undertone_mottle"},
	FromAbove:                     {technique: "undertone_sky"},
	OwnShade:                      {technique: "undertone_dark"},
}

// undertoned works shading as an answer has it, or leaves it out; a primer that tinted does so no more.
func undertoned(layers []strata.Layer, m means, answer string) []strata.Layer {
	how, shaded := undertones[answer]
	var out []strata.Layer
	for _, l := range layers {
		switch {
		case laid(m, l):
		case l.Kind == strata.Undertone && !shaded:
			continue
		case l.Kind == strata.Undertone:
			how.onto(&l)
		case l.Kind == strata.Prime && l.Hex == tinting && answer != TintingPrimer:
			l.Hex = strata.Prime.Fresh().Hex
		}
		out = append(out, l)
	}
	return out
}

// unseenLeftOut takes out what W16 tells of: work that nobody will see.
func unseenLeftOut(b *Build, m means) error {
	if m.now.Findings == nil {
		return nil
	}
	findings, err := m.now.Findings(*b)
	if err != nil {
		return err
	}
	for _, f := range findings {
		leave := slices.IndexFunc(f.Mends, func(m strata.Mend) bool { return m.ID == "leave" })
		if f.Rule == "W16" && leave >= 0 {
			return mended(b, f.Mends[leave], m) // it is one finding for all layers
		}
	}
	return nil
}

const darkerGround = "a darker tone of the ground colour"

// onto works a layer so: what names a jar of another kind names none any more.
func (how manner) onto(l *strata.Layer) {
	if how.family != "" && how.family != l.Family {
		l.Family, l.Jar, l.Carrier = how.family, "", ""
	}
	if how.hex != "" && how.hex != l.Hex {
		l.Hex, l.Jar = how.hex, ""
	}
	if how.technique != "" {
		if how.technique != l.Technique {
			l.Technique, l.Amount = how.technique, nil
		}
		l.SizeMM = how.size
	}
	l.Applied, l.Coats = cmp.Or(how.applied, l.Applied), cmp.Or(how.coats, l.Coats)
	if how.times > 0 {
		l.Amount = nil
		if t, ok := l.Worked(); ok && how.times != 1 {
			some := math.Min(t.Amount*how.times, most(t))
			l.Amount = &some
		}
	}
}

// most of a technique that a layer may be asked for.
func most(t strata.Technique) float64 {
	if t.Share {
		return 1
	}
	return strata.MostFilm
}

// repainted gives layers of a kind, worked by a technique where one is named, another colour.
func repainted(layers []strata.Layer, m means, kind strata.Kind, technique, hex string) {
	for i := range layers {
		l := &layers[i]
		if how, _ := l.Worked(); l.Kind == kind && !laid(m, *l) && (technique == "" || how.ID == technique) && l.Hex != hex {
			l.Hex, l.Jar = hex, ""
		}
	}
}

// darker and lighter are tones of a colour.
func darker(hex string) string { return toward(hex, colour.RGB{}, 0.55) }

func lighter(hex string) string { return toward(hex, colour.RGB{255, 255, 255}, 0.3) }

func toward(hex string, to colour.RGB, part float64) string {
	c := colour.Of(hex)
	for k := range c {
		c[k] = uint8(math.Round(float64(c[k]) + part*(float64(to[k])-float64(c[k]))))
	}
	return c.Hex()
}

// washTones parts a wash that goes everywhere in two: a light one low down, where earth will lie, and the
// dark one above; or makes one of them again.
func washTones(b Build, m means, layers []strata.Layer, two bool) []strata.Layer {
	second := slices.IndexFunc(layers, func(l strata.Layer) bool {
		return l.Kind == strata.Wash && l.Name == lightWash && !laid(m, l)
	})
	first := slices.IndexFunc(layers, func(l strata.Layer) bool {
		return l.Kind == strata.Wash && l.Name != lightWash && !laid(m, l)
	})
	switch {
	case first < 0 || two == (second >= 0):
	case !two:
		layers[first].Zones = nil
		layers = slices.Delete(layers, second, second+1)
	case len(layers[first].Zones) == 0:
		light := layers[first]
		light.ID, light.Name, light.Zones = m.newID(), lightWash, slices.Clone(lowDown)
		light.Hex, light.Jar, light.Touches = "#8a7a60", "", nil
		for _, part := range b.Body.Parts() {
			if !slices.Contains(lowDown, part) {
				layers[first].Zones = append(layers[first].Zones, part)
			}
		}
		layers = slices.Insert(layers, first+1, light)
	}
	return layers
}

const lightWash = "Light wash, low down"

// lowDown are the parts where earth will lie.
var lowDown = []string{"lower", "gear"}

// chipped sets how deep chips go: lighter paint alone, a dark core in the larger ones, or rust there.
func chipped(b Build, m means, layers []strata.Layer, answer string) []strata.Layer {
	core := func(l strata.Layer) bool { return l.Kind == strata.Chips && l.Technique == "chips_core" && !laid(m, l) }
	chips := slices.IndexFunc(layers, func(l strata.Layer) bool { return l.Kind == strata.Chips && !laid(m, l) })
	if answer == "lighter paint only" {
		layers = slices.DeleteFunc(layers, core)
		if c := b.Scheme.Colours; len(c) > 0 {
			repainted(layers, m, strata.Chips, "", lighter(c[0].Hex))
		}
		return layers
	}
	if chips < 0 {
		return layers
	}
	hex := map[string]string{"lighter, then dark core": "#2b2622", "rust in the deepest": "#6b3f28"}[answer]
	if at := slices.IndexFunc(layers, core); at >= 0 {
		layers[at].Hex, layers[at].Jar = hex, ""
		return layers
	}
	deep := layers[chips]
	deep.ID, deep.Name, deep.Technique, deep.Hex, deep.Jar = m.newID(), "Dark cores of chips", "chips_core", hex, ""
	deep.Amount, deep.SizeMM, deep.Touches = nil, nil, nil
	return slices.Insert(layers, chips+1, deep)
}

// toned gives layers of earth their colours in order of lightness.
func toned(layers []strata.Layer, m means, lightFirst bool) {
	var at []int
	var tones [][2]string // hex, jar
	for i, l := range layers {
		if (l.Kind == strata.Dust || l.Kind == strata.Splash || l.Kind == strata.Mud) && !laid(m, l) && l.Hex != "" {
			at, tones = append(at, i), append(tones, [2]string{l.Hex, l.Jar})
		}
	}
	light := func(t [2]string) float64 { return colour.Of(t[0]).Lab()[0] }
	slices.SortStableFunc(tones, func(a, b [2]string) int {
		if lightFirst {
			a, b = b, a
		}
		return cmp.Compare(light(a), light(b))
	})
	for k, i := range at {
		if layers[i].Hex != tones[k][0] {
			layers[i].Hex, layers[i].Jar = tones[k][0], "" // its jar is of another kind of product
		}
	}
}

// mudColoured puts the blending of mud in after its volume, or takes it out.
func mudColoured(layers []strata.Layer, m means, after bool) []strata.Layer {
	blend := func(l strata.Layer) bool { return l.Kind == strata.Mud && l.Technique == "mud_blend" }
	if !after {
		return slices.DeleteFunc(layers, func(l strata.Layer) bool { return blend(l) && !laid(m, l) })
	}
	if slices.ContainsFunc(layers, blend) {
		return layers
	}
	for i, l := range slices.Backward(layers) {
		if l.Kind == strata.Mud {
			colours := l
			colours.ID, colours.Name, colours.Technique = m.newID(), "Colour on the "+l.Name, "mud_blend"
			colours.Family, colours.Jar, colours.DepthMM = "oil_thin", "", 0
			colours.Amount, colours.SizeMM, colours.Touches = nil, nil, nil
			return slices.Insert(layers, i+1, colours)
		}
	}
	return layers
}

// chipsAbout moves chips before the decals, or after what seals them.
func chipsAbout(layers []strata.Layer, m means, before bool) []strata.Layer {
	decals := slices.IndexFunc(layers, func(l strata.Layer) bool { return l.Kind == strata.Decals })
	if decals < 0 || laid(m, layers[decals]) {
		return layers
	}
	var moved []strata.Layer
	rest := []strata.Layer{}
	for i, l := range layers {
		if l.Kind == strata.Chips && !laid(m, l) && (i > decals) == before {
			moved = append(moved, l)
		} else {
			rest = append(rest, l)
		}
	}
	at := slices.IndexFunc(rest, func(l strata.Layer) bool { return l.Kind == strata.Decals })
	if before {
		for at > 0 && rest[at-1].Kind == strata.Clear { // under the gloss that decals want
			at--
		}
	} else {
		at++
		for at < len(rest) && rest[at].Kind == strata.Clear {
			at++
		}
	}
	return slices.Insert(rest, at, moved...)
}

// chipsBy sets with what chips are made.
func chipsBy(layers []strata.Layer, m means, answer string) []strata.Layer {
	chips := func(l strata.Layer) bool { return l.Kind == strata.Chips && !laid(m, l) }
	switch answer {
	case "none":
		return slices.DeleteFunc(layers, chips)
	case "chipping coat":
		colours := slices.IndexFunc(layers, strata.Layer.IsScheme)
		if colours < 0 || laid(m, layers[colours]) ||
			slices.ContainsFunc(layers, func(l strata.Layer) bool { return l.Kind == strata.ChippingCoat }) {
			return layers
		}
		coat, work := strata.ChippingCoat.Fresh(), strata.ChippingWork.Fresh()
		coat.ID, work.ID = m.newID(), m.newID()
		layers = slices.Insert(layers, colours, coat)
		layers = slices.Insert(layers, colours+2, work)
		return slices.DeleteFunc(layers, chips)
	}
	technique := map[string]string{"brush": "chips_brush"}[answer]
	if technique == "" {
		technique = "chips_sponge"
	}
	for i, l := range layers {
		if how, _ := l.Worked(); chips(l) && (how.ID == "chips_brush" || how.ID == "chips_sponge") {
			manner{technique: technique}.onto(&layers[i])
		}
	}
	return layers
}
