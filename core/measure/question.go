package measure

import (
	"fmt"
	"math"
	"regexp"
	"strings"

	"cinderpath/core/length"
)

// LengthQuestion is one line of the rule, asked at a scale.
type LengthQuestion struct {
	Text  string `json:"text"`
	Scale string `json:"scale"`
	Shelf *Shelf `json:"shelf,omitempty"` // the plain table of stock when left out
}

// LengthAnswer is what the rule says: facts in the order of use, each with its why.
type LengthAnswer struct {
	Kind    string   `json:"kind"`
	Scale   string   `json:"scale"`
	Real    string   `json:"real"`
	Model   string   `json:"model"`
	RealMM  float64  `json:"realMm"` // what would go to the size sheet
	ModelMM float64  `json:"modelMm"`
	Facts   []Fact   `json:"facts"`
	Notes   []string `json:"notes"`
	Copy    string   `json:"copy"` // the answer as plain text
}

// What the rule was asked.
const (
	AskedLength  = "length"  // a real length, read both ways
	AskedReal    = "real"    // what a length on the model stands for
	AskedBetween = "between" // a length at one scale, at another
)

var (
	arrows    = strings.NewReplacer("->", "→", "=>", "→", "⇒", "→")
	leads     = regexp.MustCompile(`^(?:measure |what is )`)
	betweenRe = regexp.MustCompile(`^(1\s*[:/]\s*[0-9.,]+)\s*→\s*(1\s*[:/]\s*[0-9.,]+)\s+(.+)$`)
	lastRe    = regexp.MustCompile(`^(.+?)\s+(1\s*[:/]\s*[0-9.,]+)\s*→\s*(1\s*[:/]\s*[0-9.,]+)$`)
	toRe      = regexp.MustCompile(`^(.+?)\s*→\s*(real|model)$`)
	kindRe    = regexp.MustCompile(
		`^(rope|drill|hole|rod|wire|thread|tube|sheet|strip|mesh|tape|bolt|rivet|weld)s?\s+(.+)$`,
	)
	crossRe = regexp.MustCompile(`^(.+?)\s*[x×]\s*(.+)$`)
	twoRe   = regexp.MustCompile(`^(\S+(?:\s*[a-z"']+)?)\s+(\d\S*\s*[a-z"']*)$`)
)

const longestQuestion = 200

// Ask answers one line of the rule.
func Ask(q LengthQuestion) (LengthAnswer, error) {
	scale, err := length.ParseScale(q.Scale)
	if err != nil {
		return LengthAnswer{}, At("scale", err)
	}
	if len(q.Text) > longestQuestion {
		return LengthAnswer{}, Refuse("text", "longer than a line", "ask one thing at a time")
	}
	shelf := Shelf{}
	if q.Shelf != nil {
		shelf = *q.Shelf
	}
	if err := shelf.Check(); err != nil {
		return LengthAnswer{}, err
	}
	text := strings.TrimSpace(leads.ReplaceAllString(strings.ToLower(strings.TrimSpace(arrows.Replace(q.Text))), ""))
	r := ruling{scale: scale, shelf: shelf, out: LengthAnswer{Scale: scale.String(), Facts: []Fact{}, Notes: []string{}}}
	switch {
	case betweenRe.MatchString(text):
		m := betweenRe.FindStringSubmatch(text)
		err = r.between(m[1], m[2], m[3])
	case lastRe.MatchString(text):
		m := lastRe.FindStringSubmatch(text)
		err = r.between(m[2], m[3], m[1])
	case toRe.MatchString(text):
		m := toRe.FindStringSubmatch(text)
		if m[2] == "real" {
			err = r.toReal(m[1])
		} else {
			err = r.length(m[1])
		}
	case kindRe.MatchString(text):
		m := kindRe.FindStringSubmatch(text)
		err = r.stock(m[1], strings.TrimSpace(m[2]))
	default:
		err = r.length(text)
	}
	if err != nil {
		return LengthAnswer{}, At("text", unfielded(err))
	}
	r.finish()
	return r.out, nil
}

// unfielded drops the inner field: the rule has one.
func unfielded(err error) error {
	if f, ok := err.(*Fault); ok { //nolint:errorlint // made just above, never wrapped
		return fmt.Errorf("%s; %s", f.Reason, f.Remedy)
	}
	return err
}

type ruling struct {
	scale length.Scale
	shelf Shelf
	out   LengthAnswer
}

func (r *ruling) say(name, value, of string, why Why) {
	r.out.Facts = append(r.out.Facts, Fact{Name: name, Value: value, Of: of, Why: why})
}

func (r *ruling) sizes(real length.Real) {
	r.out.RealMM, r.out.ModelMM = float64(real), float64(r.scale.ToModel(real))
	r.out.Real, r.out.Model = real.String(), r.scale.ToModel(real).String()
}

func (r *ruling) toModel(real length.Real) Why {
	return Why{Formula: "model = real / N", Inputs: []string{"real " + real.String(), "N = " + r.scale.String()[2:]}}
}

func (r *ruling) toFull(m length.Model) Why {
	return Why{Formula: "real = model · N", Inputs: []string{"model " + m.String(), "N = " + r.scale.String()[2:]}}
}

func (r *ruling) length(text string) error {
	real, err := length.ParseReal(text, length.Millimetre)
	if err != nil {
		return err
	}
	r.out.Kind = AskedLength
	r.sizes(real)
	m := r.scale.ToModel(real)
	r.say(
		"real",
		real.String()+" ("+real.Imperial()+")",
		"real",
		Why{
			Formula: "as read",
			Inputs:  []string{"typed “" + strings.TrimSpace(text) + "”", "1 in = 25.4 mm; a bare number is in mm"},
		},
	)
	r.say("on the model", m.String(), "model", r.toModel(real))
	full := r.scale.ToReal(length.Model(real))
	r.say("if measured on the model", full.String(), "real", r.toFull(length.Model(real)))
	r.near(m)
	return nil
}

func (r *ruling) toReal(text string) error {
	m, err := length.ParseModel(text, length.Millimetre)
	if err != nil {
		return err
	}
	r.out.Kind = AskedReal
	full := r.scale.ToReal(m)
	r.sizes(full)
	r.say(
		"on the model",
		m.String(),
		"model",
		Why{Formula: "as read", Inputs: []string{"typed “" + strings.TrimSpace(text) + "”", "a bare number is in mm"}},
	)
	r.say("real", full.String()+" ("+full.Imperial()+")", "real", r.toFull(m))
	r.near(m)
	return nil
}

func (r *ruling) between(from, to, text string) error {
	a, err := length.ParseScale(from)
	if err != nil {
		return err
	}
	b, err := length.ParseScale(to)
	if err != nil {
		return err
	}
	m, err := length.ParseModel(text, length.Millimetre)
	if err != nil {
		return err
	}
	real := a.ToReal(m)
	there := b.ToModel(real)
	r.out.Kind = AskedBetween
	r.sizes(real)
	percent := 100 * float64(a) / float64(b)
	r.say(
		"at "+a.String(),
		m.String(),
		"model",
		Why{Formula: "as read", Inputs: []string{"typed “" + strings.TrimSpace(text) + "”"}},
	)
	r.say(
		"real",
		real.String(),
		"real",
		Why{Formula: "real = model · N", Inputs: []string{"model " + m.String(), "N = " + a.String()[2:]}},
	)
	r.say(
		"at "+b.String(),
		there.String(),
		"model",
		Why{Formula: "model = real / N", Inputs: []string{"real " + real.String(), "N = " + b.String()[2:]}},
	)
	r.say(
		"copy at",
		fmt.Sprintf("%.1f %%", percent),
		"",
		Why{Formula: "N₁ / N₂", Inputs: []string{a.String() + " → " + b.String()}},
	)
	r.out.ModelMM, r.out.Model = float64(there), there.String()
	return nil
}

// near says what stock, drill and tape are closest to a size on the model.
func (r *ruling) near(m length.Model) {
	for _, ask := range []struct {
		name  string
		kinds []string
	}{{"rod or wire", []string{Rod, Wire}}, {"drill", []string{Drill}}, {"tape", []string{Tape}}} {
		n, ok := Nearest(r.shelf.Of(false, ask.kinds...), m, r.scale)
		if !ok || math.Abs(n.Error) > 0.3 {
			continue
		}
		r.say(
			ask.name,
			n.Name+mine(n.Stocked)+fmt.Sprintf(", %+.0f %%, %s at full size", 100*n.Error, n.Full),
			"",
			Why{Formula: "the least |stock − wanted|", Inputs: []string{
				fmt.Sprintf(
					"stock %g mm, wanted %.3f mm",
					float64(n.Size),
					float64(m),
				),
				"at full size × N = " + r.scale.String()[2:],
			}},
		)
	}
}

func mine(s Stocked) string {
	if s.Owned {
		return " (yours)"
	}
	return ""
}

func (r *ruling) stock(kind, text string) error {
	switch kind {
	case "rope":
		return r.rope(text)
	case "drill", "hole":
		return r.drill(text)
	}
	q := StockQuestion{Kind: kind, Size: text, Scale: r.scale.String(), Shelf: &r.shelf}
	switch kind {
	case Strip, Mesh, Tube:
		if m := crossRe.FindStringSubmatch(text); m != nil {
			q.Size, q.Second = m[1], m[2]
			// 40x8mm: the unit at the end is meant for both.
			if unit := strings.TrimLeft(m[2], "0123456789.,/ "); unit != "" && strings.Trim(m[1], "0123456789.,/ ") == "" {
				q.Size += unit
			}
		}
	case Weld:
		m := twoRe.FindStringSubmatch(text)
		if m == nil {
			return fmt.Errorf(`%q has no length of seam; write it like "weld 20mm 6m": the bead's width, then all seams`, text)
		}
		q.Size, q.Length = m[1], m[2]
	}
	a, err := AskStock(q)
	if err != nil {
		return err
	}
	r.out.Kind = kind
	r.found(a.Real, a.Model, a.ModelMM, a.Why)
	for _, g := range a.Groups {
		for _, row := range g.Rows {
			r.say(
				g.Kind+", "+row.Side,
				fmt.Sprintf("%s%s, %+.1f %%, %s", row.Item.Name, mine(row.Item), row.Error, row.Full),
				"",
				row.Why,
			)
		}
	}
	for _, l := range a.Laminates[:min(len(a.Laminates), 2)] {
		r.say("two layers", fmt.Sprintf("%s, %+.1f %%", l.Words, l.Error), "", l.Why)
	}
	for _, t := range a.Telescope[:min(len(a.Telescope), 2)] {
		r.say("telescoping", t.Words, "", t.Why)
	}
	r.out.Facts = append(r.out.Facts, a.Facts...)
	r.out.Notes = append(r.out.Notes, a.Notes...)
	return nil
}

func (r *ruling) found(real, model string, modelMM float64, why Why) {
	r.out.Real, r.out.Model, r.out.ModelMM, r.out.RealMM = real, model, modelMM, modelMM*float64(r.scale)
	r.say("on the model", model, "model", why)
}

func (r *ruling) rope(text string) error {
	a, err := AskRope(RopeQuestion{Diameter: text, Scale: r.scale.String(), Shelf: &r.shelf})
	if err != nil {
		return err
	}
	r.out.Kind = "rope"
	r.found(a.Real, a.Model, a.ModelMM, a.Why)
	for _, w := range a.Ways[:min(len(a.Ways), 3)] {
		r.say(
			"twist",
			fmt.Sprintf(
				"%s%s: %.2f mm, %+.1f %%, %.0f mm each for 100 mm",
				w.Words,
				mine(w.Item),
				w.Outer,
				w.Error,
				w.Layers[len(w.Layers)-1].Cut,
			),
			"",
			w.Why,
		)
	}
	if len(a.Ways) == 0 {
		r.out.Notes = append(r.out.Notes, a.Notes[0])
	}
	return nil
}

func (r *ruling) drill(text string) error {
	a, err := AskDrill(DrillQuestion{Hole: text, Scale: r.scale.String(), Shelf: &r.shelf})
	if err != nil {
		return err
	}
	r.out.Kind = "drill"
	r.found(a.Real, a.Model, a.ModelMM, a.Why)
	for _, row := range a.Rows {
		r.say(
			"drill, "+row.Side,
			fmt.Sprintf("%s%s, %+.1f %%, %s at full size", row.Item.Name, mine(row.Item), row.Error, row.Full),
			"",
			row.Why,
		)
	}
	if len(a.Steps) > 1 {
		var names []string
		for _, s := range a.Steps {
			names = append(names, s.Item.Name)
		}
		r.say(
			"bore",
			strings.Join(names, " → "),
			"",
			Why{
				Formula: "each step the next size larger by at most max(0.2 mm, a quarter of the final diameter)",
				Inputs:  []string{"final " + names[len(names)-1]},
			},
		)
	}
	r.out.Notes = append(r.out.Notes, a.Notes...)
	return nil
}

// finish writes the answer as one line of plain text.
func (r *ruling) finish() {
	var parts []string
	for _, f := range r.out.Facts {
		parts = append(parts, f.Name+" "+f.Value)
	}
	r.out.Copy = strings.Join(parts, "; ")
}
