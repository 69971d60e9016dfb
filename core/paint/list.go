package paint

import (
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"math"
	"slices"
	"strconv"
	"strings"

	"cinderpath/core/colour"
	"cinderpath/core/measure"
)

// Unread is a row of a list that could not be read.
type Unread struct {
	Line   int    `json:"line"`
	Text   string `json:"text"`
	Reason string `json:"reason"`
}

// mostUnread rows are kept; a list with more is none of jars.
const mostUnread = 200

// columns of a list of jars, with what each reads and writes.
var columns = []struct {
	name  string
	write func(Jar) string
	read  func(*Jar, string) error
}{
	{"number", func(j Jar) string { return number(float64(j.Number)) }, func(j *Jar, s string) (err error) {
		j.Number, err = strconv.Atoi(s)
		return err
	}},
	{"name", func(j Jar) string { return j.Name }, func(j *Jar, s string) error { j.Name = s; return nil }},
	{"family", func(j Jar) string { name, _ := kindName(j.Family); return name }, func(j *Jar, s string) (err error) {
		j.Family, err = familyNamed(s)
		return err
	}},
	{"swatch", func(j Jar) string { return j.Hex }, func(j *Jar, s string) error {
		c, err := colour.Parse(s)
		j.Hex = c.Hex()
		return err
	}},
	{"hiding", func(j Jar) string { return number(float64(j.Hiding)) }, func(j *Jar, s string) error {
		for _, w := range hidingWords {
			if w.word == strings.ToLower(s) {
				j.Hiding = w.ratio
				return nil
			}
		}
		return decimal((*float64)(&j.Hiding), s)
	}},
	{"sheen", func(j Jar) string { return string(j.Sheen) }, func(j *Jar, s string) error {
		j.Sheen = colour.Sheen(strings.ToLower(s))
		return nil
	}},
	{
		"solids",
		func(j Jar) string { return number(j.Solids) },
		func(j *Jar, s string) error { return decimal(&j.Solids, s) },
	},
	{
		"volume_ml",
		func(j Jar) string { return number(j.Volume) },
		func(j *Jar, s string) error { return decimal(&j.Volume, s) },
	},
	{"left_ml", func(j Jar) string { return strconv.FormatFloat(j.Left, 'f', -1, 64) }, func(j *Jar, s string) error {
		return decimal(&j.Left, s)
	}},
	{"opened", func(j Jar) string { return j.Opened }, func(j *Jar, s string) error { j.Opened = s; return nil }},
	{"stirred", func(j Jar) string { return j.Stirred }, func(j *Jar, s string) error { j.Stirred = s; return nil }},
	{"best_before", func(j Jar) string { return j.Best }, func(j *Jar, s string) error { j.Best = s; return nil }},
	{"place", func(j Jar) string { return j.Place }, func(j *Jar, s string) error { j.Place = s; return nil }},
	{"price", func(j Jar) string { return number(j.Price) }, func(j *Jar, s string) error { return decimal(&j.Price, s) }},
	{"state", func(j Jar) string { return string(j.State) }, func(j *Jar, s string) error {
		j.State = State(strings.ToLower(s))
		return nil
	}},
	{"arrives", func(j Jar) string { return j.Arrives }, func(j *Jar, s string) error { j.Arrives = s; return nil }},
	{"thinner", func(j Jar) string {
		if j.Temper == nil || j.Temper.Thinner == nil {
			return ""
		}
		return strconv.FormatFloat(*j.Temper.Thinner, 'f', -1, 64)
	}, func(j *Jar, s string) error {
		v := 0.0
		err := decimal(&v, s)
		j.tempered().Thinner = &v
		return err
	}},
	{"pressure_bar", func(j Jar) string {
		if j.Temper == nil {
			return ""
		}
		return number(j.Temper.Pressure)
	}, func(j *Jar, s string) error { return decimal(&j.tempered().Pressure, s) }},
	{"note", func(j Jar) string {
		if j.Temper == nil {
			return ""
		}
		return j.Temper.Note
	}, func(j *Jar, s string) error { j.tempered().Note = s; return nil }},
}

func (j *Jar) tempered() *Temper {
	if j.Temper == nil {
		j.Temper = &Temper{}
	}
	return j.Temper
}

func number(v float64) string {
	if v == 0 {
		return ""
	}
	return strconv.FormatFloat(v, 'f', -1, 64)
}

func decimal(to *float64, s string) (err error) {
	*to, err = strconv.ParseFloat(strings.ReplaceAll(s, ",", "."), 64)
	if err == nil && math.IsNaN(*to) {
		err = strconv.ErrSyntax
	}
	return err
}

// Columns names the columns of a list of jars.
func Columns() (out []string) {
	for _, c := range columns {
		out = append(out, c.name)
	}
	return out
}

// Row is a jar as a row of a list.
func (j Jar) Row() (out []string) {
	for _, c := range columns {
		out = append(out, c.write(j))
	}
	return out
}

// ReadList reads jars from CSV with named columns, of which name and family must be there.
// Rows that cannot be read are told apart and hinder no other.
func ReadList(text string) (jars []Jar, unread []Unread, err error) {
	in := csv.NewReader(strings.NewReader(text))
	in.FieldsPerRecord, in.TrimLeadingSpace, in.LazyQuotes = -1, true, true
	head, err := in.Read()
	if err != nil {
		return nil, nil, measure.Refuse("text", "there is no row of column names", "begin with "+strings.Join(Columns(), ","))
	}
	at := map[int]int{}
	for i, name := range head {
		name = strings.ToLower(strings.TrimSpace(strings.TrimPrefix(name, "\ufeff")))
		head[i] = name
		if k := slices.Index(Columns(), name); k >= 0 {
			at[i] = k
		}
	}
	for _, must := range []string{"name", "family"} {
		if !slices.Contains(head, must) {
			return nil, nil, measure.Refuse("text", "there is no column "+must, "name the columns "+strings.Join(Columns(), ","))
		}
	}
	for {
		row, err := in.Read()
		if errors.Is(err, io.EOF) {
			return jars, unread, nil
		}
		line, _ := in.FieldPos(0)
		j, wrong := readRow(row, at)
		if err != nil {
			wrong = err
		}
		if wrong == nil {
			jars = append(jars, j)
		} else if len(strings.Join(row, "")) > 0 || err != nil {
			unread = append(unread, Unread{line, shortened(strings.Join(row, ",")), shortened(wrong.Error())})
		}
		if len(unread) > mostUnread || len(jars) > MostJars {
			return nil, nil, measure.Refuse("text", fmt.Sprintf("more than %d rows, or most cannot be read", MostJars),
				"begin with the columns "+strings.Join(Columns(), ","))
		}
	}
}

func shortened(s string) string {
	if r := []rune(s); len(r) > longNote/2 {
		return string(r[:longNote/2]) + "…"
	}
	return s
}

func readRow(row []string, at map[int]int) (Jar, error) {
	j := Jar{State: Fine, Left: math.NaN()}
	for i, cell := range row {
		k, known := at[i]
		if cell = tidy(unquoted(cell)); !known || cell == "" {
			continue
		}
		if err := columns[k].read(&j, cell); err != nil {
			return j, fmt.Errorf("column %s: %q was not understood", columns[k].name, cell)
		}
	}
	if math.IsNaN(j.Left) {
		j.Left = j.Volume
	}
	if j.State == Empty {
		j.Left = 0
	}
	check := j
	check.ID = "new"
	return j, check.Check()
}

// unquoted takes away what keeps a spreadsheet from reading a cell as a formula.
func unquoted(cell string) string {
	if rest, ok := strings.CutPrefix(cell, "'"); ok && strings.IndexAny(rest, "=+-@") == 0 {
		return rest
	}
	return cell
}
