package document

import (
	"fmt"
	"strings"

	"cinderpath/core/measure"
	"cinderpath/core/paint"
	"cinderpath/core/path"
	"cinderpath/core/scheme"
)

// Workshop is what all builds share.
type Workshop struct {
	Name     string        `json:"name"`
	Zone     string        `json:"zone"` // IANA name
	Calendar path.Calendar `json:"calendar"`

	Stock    measure.Shelf     `json:"stock,omitzero"`
	Printers []measure.Printer `json:"printers,omitempty"`

	Airbrushes []path.Airbrush `json:"airbrushes,omitempty"`

	Paint    paint.Shelf `json:"paint,omitzero"`     // jars and mixes
	Book     []Booked    `json:"book,omitempty"`     // schemes that are kept for other builds
	Pressure string      `json:"pressure,omitempty"` // the unit that one likes: bar when empty, or psi
}

// Booked is a scheme of the workshop's own book: its sizes are real, so that it fits any scale.
type Booked struct {
	ID     string         `json:"id"`
	Name   string         `json:"name"`
	Scheme scheme.Pattern `json:"scheme"`
}

// Check reports the first fault of a scheme in the book.
func (s Booked) Check() error {
	if s.ID == "" || strings.TrimSpace(s.Name) == "" || len(s.Name) > longName {
		return measure.Refuse("name", "it has none, or one that is too long", "give each scheme of the book its own")
	}
	return measure.At("scheme", s.Scheme.Check())
}

// mostBooked are the schemes that a book holds.
const mostBooked = 100

// Check reports the first fault of a workshop.
func (w Workshop) Check() error {
	if w.Zone == "" {
		return measure.Refuse("zone", "no time zone is given", `write it like "Europe/Lisbon"`)
	}
	if err := w.Stock.Check(); err != nil {
		return err
	}
	if err := checkAll("printers", w.Printers, func(p measure.Printer) string { return p.ID }); err != nil {
		return err
	}
	if err := w.Paint.Check(); err != nil {
		return measure.At("paint", err)
	}
	if len(w.Book) > mostBooked {
		return measure.Refuse("book", fmt.Sprintf("%d schemes", len(w.Book)), fmt.Sprintf("keep at most %d", mostBooked))
	}
	if err := checkAll("book", w.Book, func(s Booked) string { return s.ID }); err != nil {
		return err
	}
	if w.Pressure != "" && w.Pressure != "bar" && w.Pressure != "psi" {
		return measure.Refuse("pressure", fmt.Sprintf("%q is no unit of pressure", w.Pressure), "use bar or psi")
	}
	if err := w.checkAirbrushes(); err != nil {
		return err
	}
	if err := w.Calendar.Check(); err != nil {
		return measure.At("calendar", err)
	}
	return Sensible(w)
}

func (w Workshop) checkAirbrushes() error {
	seen := map[string]bool{}
	for i, a := range w.Airbrushes {
		field := fmt.Sprintf("airbrushes[%d]", i)
		switch {
		case a.ID == "" || strings.TrimSpace(a.Name) == "" || seen[a.ID]:
			return measure.Refuse(field, "it has no name, or one that is taken", "give each airbrush its own")
		case !(a.Nozzle >= 0.1 && a.Nozzle <= 1.5):
			return measure.Refuse(field, fmt.Sprintf("a nozzle of %.2f mm", a.Nozzle), "give its bore, 0.1 to 1.5 mm")
		case a.Changes < 0 || a.Changes > 50 || a.Flush < 0 || a.Flush > 120 || a.Strip < 0 || a.Strip > 240:
			return measure.Refuse(
				field,
				"its changes or minutes are out of reach",
				"give 0 to 50 changes, 0 to 120 min to flush, 0 to 240 min to strip",
			)
		}
		seen[a.ID] = true
	}
	return nil
}

// Printer finds a printer by its id; an empty id means the first.
func (w Workshop) Printer(id string) (measure.Printer, error) {
	for _, p := range w.Printers {
		if id == "" || p.ID == id {
			return p, nil
		}
	}
	return measure.Printer{}, measure.Refuse("printer", "the workshop has no such printer", "add one under own parts")
}
