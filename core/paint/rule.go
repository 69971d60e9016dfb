package paint

import (
	"fmt"
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"cinderpath/core/colour"
	"cinderpath/core/measure"
)

// What the rule is asked of paint.
const (
	askedMix   = "mix"
	askedLike  = "like"
	askedDrops = "drops"
)

var (
	mixText   = regexp.MustCompile(`^mix (.+)$`)
	partWords = regexp.MustCompile(`^(\d{1,4}) ?[x×] ?#?(\d{1,4})$`)
	likeText  = regexp.MustCompile(`^like (#[0-9a-f]{6})$`)
	dropsText = regexp.MustCompile(
		`^drops (\d{1,4}(?:[.,]\d{1,3})?) ?ml(?: (\d{1,3}(?:[.,]\d{1,2})?) ?: ?(\d{1,3}(?:[.,]\d{1,2})?))?$`,
	)
)

// AskRule answers what is typed into the rule: mixes, likeness and drops from the shelf's jars,
// everything else as measure does. The shelf is asked for only where it is needed.
func AskRule(q measure.LengthQuestion, shelf func() (Shelf, error)) (measure.LengthAnswer, error) {
	text := strings.Join(strings.Fields(strings.ToLower(q.Text)), " ")
	out := measure.LengthAnswer{Scale: q.Scale, Facts: []measure.Fact{}, Notes: []string{}}
	var err error
	var s Shelf
	if mixText.MatchString(text) || likeText.MatchString(text) {
		if s, err = shelf(); err != nil {
			return measure.LengthAnswer{}, err
		}
	}
	switch {
	case mixText.MatchString(text):
		out.Kind = askedMix
		out.Facts, err = s.mixFacts(mixText.FindStringSubmatch(text)[1])
	case likeText.MatchString(text):
		out.Kind = askedLike
		out.Facts, err = s.likeFacts(likeText.FindStringSubmatch(text)[1])
	case dropsText.MatchString(text):
		out.Kind = askedDrops
		m := dropsText.FindStringSubmatch(text)
		out.Facts, err = dropFacts(m[1], m[2], m[3])
	default:
		return measure.Ask(q)
	}
	if err != nil {
		return measure.LengthAnswer{}, measure.At("text", err)
	}
	var said []string
	for _, f := range out.Facts {
		said = append(said, strings.TrimSpace(f.Name+" "+f.Value))
	}
	out.Copy = strings.Join(said, ", ")
	return out, nil
}

func (s Shelf) mixFacts(text string) ([]measure.Fact, error) {
	q := MixQuestion{Jars: s.Jars}
	for part := range strings.SplitSeq(text, "+") {
		m := partWords.FindStringSubmatch(strings.TrimSpace(part))
		if m == nil {
			return nil, measure.Refuse(
				"text",
				fmt.Sprintf("%q is no part of a mix", strings.TrimSpace(part)),
				"write it like mix 3x12 + 1x30: parts, then the jar's number",
			)
		}
		drops, _ := strconv.Atoi(m[1])
		number, _ := strconv.Atoi(m[2])
		i := slices.IndexFunc(s.Jars, func(j Jar) bool { return j.Number == number })
		if i < 0 {
			return nil, measure.Refuse(
				"text",
				fmt.Sprintf("no jar on the shelf is number %d", number),
				"look at the shelf for its number",
			)
		}
		q.Parts = append(q.Parts, Part{s.Jars[i].ID, drops})
	}
	a, err := AskMix(q)
	if err != nil {
		return nil, err
	}
	out := []measure.Fact{
		{Name: "it dries", Value: a.Hex, Why: a.Why},
		{
			Name:  "hides",
			Value: HidingWord(Hiding(a.Hiding)),
			Why:   measure.Because("contrast ratio of 15 µm over black and white", []string{fmt.Sprintf("%.3f", a.Hiding)}),
		},
	}
	if len(a.Like) > 0 {
		out = append(out, likeFact(a.Like[0], a.Hex))
	}
	return out, nil
}

func (s Shelf) likeFacts(hex string) ([]measure.Fact, error) {
	c, err := colour.Parse(hex)
	if err != nil {
		return nil, err
	}
	out := []measure.Fact{}
	for _, l := range s.likest(c, 3) {
		out = append(out, likeFact(l, hex))
	}
	if len(out) == 0 {
		return nil, measure.Refuse("text", "no jar on the shelf has a swatch", "enter your jars first")
	}
	return out, nil
}

func likeFact(l Like, hex string) measure.Fact {
	return measure.Fact{
		Name: l.Name, Value: fmt.Sprintf("ΔE00 %.1f", l.Difference),
		Why: measure.Because("CIEDE2000", []string{l.Hex + " beside " + hex, Words(l.Difference)}),
	}
}

// dropFacts counts so many ml in drops, thinned a parts of paint to b of thinner.
func dropFacts(ml, a, b string) ([]measure.Fact, error) {
	number := func(s string) float64 { v, _ := strconv.ParseFloat(strings.ReplaceAll(s, ",", "."), 64); return v }
	volume := number(ml)
	if volume <= 0 || volume > MostVolume {
		return nil, measure.Refuse("text", fmt.Sprintf("%g ml", volume), fmt.Sprintf("give up to %.0f ml", MostVolume))
	}
	why := func(part string) measure.Why {
		return measure.Because("ml / 0.05", []string{fmt.Sprintf("%g ml, one drop is 0.05 ml", volume), part})
	}
	if a == "" {
		return []measure.Fact{{Name: "", Value: fmt.Sprintf("%d drops", drops(volume)), Why: why("unthinned")}}, nil
	}
	paint, thinner := number(a), number(b)
	if paint <= 0 || thinner < 0 {
		return nil, measure.Refuse("text", fmt.Sprintf("%s : %s is no ratio", a, b), "write paint first, such as 2:1")
	}
	of := func(x float64) int { return int(math.Round(volume / Drop * x / (paint + thinner))) }
	ratio := fmt.Sprintf("%s of paint to %s of thinner", a, b)
	return []measure.Fact{
		{Name: "paint", Value: fmt.Sprintf("%d drops", of(paint)), Why: why(ratio)},
		{Name: "thinner", Value: fmt.Sprintf("%d drops", of(thinner)), Why: why(ratio)},
	}, nil
}
