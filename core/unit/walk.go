package unit

import (
	"fmt"
	"reflect"
	"strings"
	"time"
)

// Table gives the range of every quantity of a document, by the type that it stands in and
// its name there ("strata.Layer.coats"), however deep in lists; and of lists, how many they
// hold ("form.Hull.profile[]").
type Table struct {
	Ranges map[string]Range
	// List and Text are the most that a list and a text hold that have no range of their own.
	List, Text int
}

// Find gives the range of a quantity.
func (t Table) Find(owner reflect.Type, name string) (Range, bool) {
	r, ok := t.Ranges[owner.String()+"."+name]
	return r, ok
}

// Check refuses the first quantity, list or text of a value that lies outside its range, with
// the way to it. A quantity that the table does not know is refused too: it was forgotten.
func (t Table) Check(value any) error {
	return t.walk(reflect.ValueOf(value), reflect.TypeOf(value), "", "")
}

// walk checks a value that stands at a place, as a field of an owner.
func (t Table) walk(v reflect.Value, owner reflect.Type, name, at string) error {
	switch v.Kind() {
	case reflect.Pointer:
		if v.IsNil() {
			return nil
		}
		return t.walk(v.Elem(), owner, name, at)
	case reflect.Slice, reflect.Array:
		if err := t.count(v, owner, name, at); err != nil {
			return err
		}
		for i := range v.Len() {
			if err := t.walk(v.Index(i), owner, name, fmt.Sprintf("%s[%d]", at, i)); err != nil {
				return err
			}
		}
	case reflect.Map:
		if err := t.count(v, owner, name, at); err != nil {
			return err
		}
		for i := v.MapRange(); i.Next(); {
			if err := t.text(i.Key().String(), at); err != nil {
				return err
			}
			if err := t.walk(i.Value(), owner, name, at+"."+i.Key().String()); err != nil {
				return err
			}
		}
	case reflect.Struct:
		return t.fields(v, at)
	case reflect.String:
		return t.text(v.String(), at)
	case reflect.Float64:
		return t.number(v.Float(), owner, name, at)
	case reflect.Int, reflect.Int64:
		return t.number(float64(v.Int()), owner, name, at)
	case reflect.Uint64:
		return t.number(float64(v.Uint()), owner, name, at)
	}
	return nil
}

func (t Table) fields(v reflect.Value, at string) error {
	if v.Type() == reflect.TypeFor[time.Time]() {
		return nil
	}
	for i := range v.NumField() {
		f := v.Type().Field(i)
		name, _, _ := strings.Cut(f.Tag.Get("json"), ",")
		if name == "-" || !f.IsExported() && !f.Anonymous {
			continue
		}
		there := strings.TrimPrefix(at+"."+name, ".")
		if f.Anonymous && name == "" {
			there = at
		}
		if err := t.walk(v.Field(i), v.Type(), name, there); err != nil {
			return err
		}
	}
	return nil
}

func (t Table) number(x float64, owner reflect.Type, name, at string) error {
	r, ok := t.Find(owner, name)
	if !ok {
		return fmt.Errorf("%s.%s has no range; give it one in the table", owner, name)
	}
	return r.Check(at, x)
}

func (t Table) count(v reflect.Value, owner reflect.Type, name, at string) error {
	r, ok := t.Find(owner, name+"[]")
	if !ok {
		r = Range{Most: float64(t.List)}
	}
	r.Unit = "entries"
	return r.Check(at, float64(v.Len()))
}

func (t Table) text(s, at string) error {
	return Range{Most: float64(t.Text), Unit: "bytes long"}.Check(at, float64(len(s)))
}
