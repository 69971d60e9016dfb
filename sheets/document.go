package sheets

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"
	"time"

	"cinderpath/core/document"
	"cinderpath/core/measure"
	"cinderpath/core/plan"
)

// Format and Version name the document. A reader refuses a newer version.
const (
	Format  = "cinderpath"
	Version = document.Version
)

// Document is a workshop with builds and their logs: what export writes, import
// reads and calc plan computes with. The same document gives the same plan.
type Document struct {
	Format   string            `json:"format"`
	Version  int               `json:"version"`
	AsOf     time.Time         `json:"asOf,omitzero"` // instant of planning
	Focus    string            `json:"focus,omitempty"`
	Workshop document.Workshop `json:"workshop"`
	Items    []document.Item   `json:"items"`
}

// Write encodes a document, indented so that people and version control can read it.
func Write(w io.Writer, d Document) error {
	d.Format, d.Version = Format, Version
	enc := json.NewEncoder(w)
	enc.SetIndent("", "  ")
	enc.SetEscapeHTML(false)
	return enc.Encode(d)
}

// Read decodes a document and checks every build, log and the workshop in it.
// Unknown fields are refused: they may be a slip of the pen.
func Read(r io.Reader) (Document, error) {
	data, err := io.ReadAll(r)
	if err != nil {
		return Document{}, err
	}
	if err := Sound(data); err != nil {
		return Document{}, err
	}
	var head struct {
		Format  string `json:"format"`
		Version int    `json:"version"`
	}
	if err := json.Unmarshal(data, &head); err != nil {
		return Document{}, notJSON(err)
	}
	if err := CheckHead(head.Format, head.Version); err != nil {
		return Document{}, err
	}
	dec := json.NewDecoder(bytes.NewReader(data))
	dec.DisallowUnknownFields()
	var d Document
	if err := dec.Decode(&d); err != nil {
		return Document{}, notJSON(err)
	}
	for i := range d.Items {
		for k, e := range d.Items[i].Log {
			d.Items[i].Log[k] = e.Upgraded(d.Version)
		}
	}
	d.Version = Version
	return d, d.check()
}

func (d Document) check() error {
	if err := d.Workshop.Check(); err != nil {
		return err
	}
	seen := map[string]bool{}
	for _, item := range d.Items {
		if err := item.Build.Check(); err != nil {
			return fmt.Errorf("build %q: %w", item.Build.Name, err)
		}
		if seen[item.Build.ID] {
			return &measure.Fault{Field: "items", Reason: "two builds have the same id", Remedy: "keep one of them"}
		}
		seen[item.Build.ID] = true
		for _, e := range item.Log {
			if err := e.Check(); err != nil {
				return fmt.Errorf("log of %q: %w", item.Build.Name, err)
			}
		}
	}
	return nil
}

// Plan derives the plan of the build in focus, or of the first one, as of the
// document's own instant. The zone database is the caller's.
func (d Document) Plan(deriver *plan.Deriver) (plan.Plan, error) {
	asOf, err := d.instant()
	if err != nil {
		return plan.Plan{}, err
	}
	plans, err := deriver.Plans(d.Workshop, d.Items, asOf)
	if err != nil {
		return plan.Plan{}, err
	}
	at := max(slices.IndexFunc(plans, func(p plan.Plan) bool { return p.Build == d.Focus }), 0)
	if t := plans[at].Trouble; t != nil {
		return plan.Plan{}, &measure.Fault{Field: t.Field, Reason: t.Reason, Remedy: t.Remedy}
	}
	return plans[at], nil
}

// Focused is the build that the document is about.
func (d Document) Focused() (document.Build, error) {
	if len(d.Items) == 0 {
		return document.Build{}, &measure.Fault{Field: "items", Reason: "the document has no build", Remedy: "export one"}
	}
	at := slices.IndexFunc(d.Items, func(i document.Item) bool { return i.Build.ID == d.Focus })
	b := d.Items[max(at, 0)].Build
	return b, b.Check()
}

// Scheme tells how the scheme of the build in focus lies.
func (d Document) Scheme(deriver *plan.Deriver) (plan.SchemeAnswer, error) {
	b, err := d.Focused()
	if err != nil {
		return plan.SchemeAnswer{}, err
	}
	return deriver.SchemeOf(d.Workshop, b)
}

// Landing tells what its layers leave on its zones.
func (d Document) Landing(deriver *plan.Deriver) (plan.LandingAnswer, error) {
	b, err := d.Focused()
	if err != nil {
		return plan.LandingAnswer{}, err
	}
	return deriver.LandingOf(d.Workshop, b)
}

// Survival tells what of its layers will be seen at the end.
func (d Document) Survival(deriver *plan.Deriver) (plan.Survival, error) {
	p, err := d.Plan(deriver)
	if err != nil {
		return plan.Survival{}, err
	}
	return deriver.SurvivalOf(p)
}

// Worth tells what its layers are worth for the time they take.
func (d Document) Worth(deriver *plan.Deriver) (plan.WorthAnswer, error) {
	s, err := d.Survival(deriver)
	return s.Lines(), err
}

// Look tells what it looks like on its way.
func (d Document) Look(deriver *plan.Deriver) (plan.LookAnswer, error) {
	p, err := d.Plan(deriver)
	if err != nil {
		return plan.LookAnswer{}, err
	}
	return deriver.LookOf(p)
}

// Masks are the fields of its scheme on its panels.
func (d Document) Masks(deriver *plan.Deriver) (plan.MaskAnswer, error) {
	b, err := d.Focused()
	if err != nil {
		return plan.MaskAnswer{}, err
	}
	return deriver.AskMasks(d.Workshop, b)
}

// Tape is its tape plan.
func (d Document) Tape(deriver *plan.Deriver) (plan.TapeAnswer, error) {
	b, err := d.Focused()
	if err != nil {
		return plan.TapeAnswer{}, err
	}
	return deriver.AskTape(d.Workshop, b)
}

// instant is when the document is to be planned, in the workshop's zone.
func (d Document) instant() (time.Time, error) {
	if len(d.Items) == 0 {
		return time.Time{}, &measure.Fault{Field: "items", Reason: "the document has no build", Remedy: "export one"}
	}
	if d.AsOf.IsZero() {
		return time.Time{}, &measure.Fault{
			Field:  "asOf",
			Reason: "the instant of planning is missing",
			Remedy: `write it like "2026-11-23T19:00:00Z"`,
		}
	}
	zone, err := time.LoadLocation(d.Workshop.Zone)
	if err != nil {
		return time.Time{}, &measure.Fault{
			Field:  "workshop.zone",
			Reason: fmt.Sprintf("%q is not a time zone", d.Workshop.Zone),
			Remedy: `write it like "Europe/Lisbon"`,
		}
	}
	return d.AsOf.In(zone), nil
}

// Shopping is what the builds of the document want that is not on its shelf.
func (d Document) Shopping(deriver *plan.Deriver) (plan.Shopping, error) {
	asOf, err := d.instant()
	if err != nil {
		return plan.Shopping{}, err
	}
	return deriver.ShoppingOf(d.Workshop, d.Items, asOf)
}

// CheckHead tells a foreign document, or one of a newer program, from ours.
func CheckHead(format string, version int) error {
	switch {
	case format != Format:
		return &measure.Fault{
			Field:  "format",
			Reason: fmt.Sprintf("%q is not a document of this program", format),
			Remedy: `it must say "format": "cinderpath"`,
		}
	case version > Version:
		return &measure.Fault{
			Field:  "version",
			Reason: fmt.Sprintf("this document has version %d, this program reads up to %d", version, Version),
			Remedy: "update Cinder Path, then import it again; nothing was changed",
		}
	case version < 1:
		return &measure.Fault{
			Field:  "version",
			Reason: "the version is missing",
			Remedy: fmt.Sprintf(`it must say "version": %d`, Version),
		}
	}
	return nil
}

func notJSON(err error) error {
	field, reason := "document", err.Error()
	var wrong *json.UnmarshalTypeError
	if errors.As(err, &wrong) {
		field, reason = wrong.Field, fmt.Sprintf("%s stands where %s belongs", wrong.Value, wrong.Type)
	}
	return &measure.Fault{
		Field:  field,
		Reason: strings.TrimPrefix(reason, "json: "),
		Remedy: "export a document to see how it must look",
	}
}

// Resolve turns the relative times of samples into instants: minutesBefore counts
// back from now. Entries with an instant keep it. What is on order arrives so many days from
// now.
func (d Document) Resolve(now time.Time) Document {
	out := d
	out.Items = nil
	out.Workshop.Paint.Jars = slices.Clone(d.Workshop.Paint.Jars)
	for i := range out.Workshop.Paint.Jars {
		if j := &out.Workshop.Paint.Jars[i]; j.ArrivesIn != nil {
			j.Arrives, j.ArrivesIn = now.AddDate(0, 0, *j.ArrivesIn).Format(time.DateOnly), nil
		}
	}
	for _, item := range d.Items {
		log := make([]document.Entry, len(item.Log))
		for i, e := range item.Log {
			if e.MinutesBefore != nil {
				e.At = now.Truncate(time.Minute).Add(-e.MinutesBefore.Duration())
				e.MinutesBefore = nil
			}
			log[i] = e
		}
		item.Log = log
		out.Items = append(out.Items, item)
	}
	return out
}
