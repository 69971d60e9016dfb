package landing

import (
	"fmt"
	"slices"
	"strconv"
	"strings"
)

// Formula is how the table of techniques says where something lands.
type Formula struct {
	Landing
	// Falls are the sources of what runs down, where the formula is nothing else; Reach is how far,
	// real mm.
	Falls []string
	Reach float64
	// Inside are the layers whose larger marks it lies in, those at least Least across, real mm.
	Inside []string
	Least  float64
	// Beneath are the layers by which it goes.
	Beneath []string
}

// Read reads a formula: sums and products of terms with their numbers in brackets, such as
// 0.25*all+recess(25).
func Read(text string) (f Formula, err error) {
	r := &reader{text: text}
	if f.Landing, err = r.sum(); err == nil && r.at < len(r.text) {
		err = fmt.Errorf("%q is left over", r.text[r.at:])
	}
	if err != nil {
		return Formula{}, fmt.Errorf("landing %q: %w", text, err)
	}
	f.Beneath = r.beneath
	if r.terms == 1 {
		f.Falls, f.Reach, f.Inside, f.Least = r.falls, r.reach, r.inside, r.least
	}
	return f, nil
}

type reader struct {
	text    string
	at      int
	terms   int
	beneath []string
	falls   []string
	reach   float64
	inside  []string
	least   float64
}

func (r *reader) peek() byte {
	for r.at < len(r.text) && r.text[r.at] == ' ' {
		r.at++
	}
	if r.at < len(r.text) {
		return r.text[r.at]
	}
	return 0
}

// deepest is how many brackets may stand in each other.
const deepest = 20

func (r *reader) sum() (Landing, error) { return r.sumAt(0) }

func (r *reader) sumAt(depth int) (Landing, error) {
	if depth > deepest {
		return nil, fmt.Errorf("more than %d brackets in each other", deepest)
	}
	var out []Landing
	for {
		l, err := r.product(depth)
		if err != nil {
			return nil, err
		}
		if out = append(out, l); r.peek() != '+' {
			break
		}
		r.at++
	}
	if len(out) == 1 {
		return out[0], nil
	}
	return plus(out), nil
}

func (r *reader) product(depth int) (Landing, error) {
	var out []Landing
	part := 1.0
	for {
		c := r.peek()
		switch {
		case c == '(':
			r.at++
			l, err := r.sumAt(depth + 1)
			if err != nil {
				return nil, err
			}
			if r.peek() != ')' {
				return nil, fmt.Errorf("a bracket is open")
			}
			r.at++
			out = append(out, l)
		case c >= '0' && c <= '9':
			x, err := r.number()
			if err != nil {
				return nil, err
			}
			part *= x
		default:
			l, err := r.term()
			if err != nil {
				return nil, err
			}
			out = append(out, l)
		}
		if r.peek() != '*' {
			break
		}
		r.at++
	}
	l := All()
	switch len(out) {
	case 0:
	case 1:
		l = out[0]
	default:
		l = times(out)
	}
	if part != 1 {
		l = scaled{part, l}
	}
	return l, nil
}

// most of a number by which something is multiplied.
const most = 1000

func (r *reader) number() (float64, error) {
	from := r.at
	for r.at < len(r.text) && strings.IndexByte("0123456789.", r.text[r.at]) >= 0 {
		r.at++
	}
	x, err := strconv.ParseFloat(r.text[from:r.at], 64)
	if err != nil || x > most {
		return 0, fmt.Errorf("%q is not a number up to %d", r.text[from:r.at], most)
	}
	return x, nil
}

// term reads a name with its arguments.
func (r *reader) term() (Landing, error) {
	from := r.at
	for r.at < len(r.text) && strings.IndexByte("+*();", r.text[r.at]) < 0 {
		r.at++
	}
	name := strings.TrimSpace(r.text[from:r.at])
	var args []string
	if r.at < len(r.text) && r.text[r.at] == '(' {
		end := strings.IndexByte(r.text[r.at:], ')')
		if end < 0 {
			return nil, fmt.Errorf("a bracket is open")
		}
		for _, a := range strings.Split(r.text[r.at+1:r.at+end], ";") {
			args = append(args, strings.TrimSpace(a))
		}
		r.at += end + 1
	}
	r.terms++
	return r.named(name, args)
}

// plain are the terms without numbers.
var plain = map[string]func() Landing{
	"all": All, "down": Down, "upright": Upright, "sky": Sky, "behind": Behind, "throw": Throw, "crew": Crew,
	"engine": Engine, "raised": Raised, "detail": Raised, "details": Raised,
	"feet of details":       func() Landing { return Recess(15) },
	"rim":                   func() Landing { return Rim },
	"rubber pads":           func() Landing { return Rubber },
	"hollows of links":      func() Landing { return Hollows },
	"ends of links":         func() Landing { return Ends },
	"contact":               func() Landing { return Contact },
	"pool":                  Pool,
	"away from the hot end": func() Landing { return cool{} },
}

// measured are the terms with so many numbers.
var measured = map[string]struct {
	numbers int
	make    func(x []float64) Landing
}{
	"up":        {1, func(x []float64) Landing { return Up(x[0]) }},
	"low":       {2, func(x []float64) Landing { return Low(x[0], x[1]) }},
	"band":      {2, func(x []float64) Landing { return Band(x[0], x[1]) }},
	"recess":    {1, func(x []float64) Landing { return Recess(x[0]) }},
	"edge":      {1, func(x []float64) Landing { return Edge(x[0]) }},
	"middle":    {1, func(x []float64) Landing { return Middle(x[0]) }},
	"noise":     {2, func(x []float64) Landing { return Noise(x[0], int(x[1])) }},
	"waterline": {1, func(x []float64) Landing { return Waterline(x[0]) }},
}

func (r *reader) named(name string, args []string) (Landing, error) {
	if f, ok := plain[name]; ok && args == nil {
		return f(), nil
	}
	if m, ok := measured[name]; ok {
		if len(args) != m.numbers {
			return nil, fmt.Errorf("%s takes %d numbers", name, m.numbers)
		}
		x := make([]float64, len(args))
		for i, a := range args {
			var err error
			if x[i], err = strconv.ParseFloat(a, 64); err != nil || !(x[i] >= 0 && x[i] <= 100_000) {
				return nil, fmt.Errorf("%s: %q is not a number from 0 to 100000", name, a)
			}
		}
		if slices.Contains([]string{"recess", "edge", "middle", "noise"}, name) && x[0] <= 0 {
			return nil, fmt.Errorf("%s: nothing is so narrow as 0 mm", name)
		}
		return m.make(x), nil
	}
	if l, known, err := r.related(name, args); known {
		return l, err
	}
	return nil, fmt.Errorf("%q is no landing", name)
}

// related reads the terms that name something.
func (r *reader) related(name string, args []string) (l Landing, known bool, err error) {
	wants := map[string]int{"near": 2, "fall": 2, "border": 2, "inside": 2, "on": 1}
	n, known := wants[name]
	if !known {
		return nil, false, nil
	}
	if len(args) != n {
		return nil, true, fmt.Errorf("%s takes %d things", name, n)
	}
	of, x := strings.Split(args[0], "|"), 0.0
	if n > 1 {
		if x, err = strconv.ParseFloat(args[1], 64); err != nil || !(x > 0 && x <= 100_000) {
			return nil, true, fmt.Errorf("%s: %q is not a number above 0", name, args[1])
		}
	}
	switch name {
	case "near":
		return Near(kindsOf(of), x), true, nil
	case "fall":
		r.falls, r.reach = of, 1000*x
		return stains{kindsOf(of), 1000 * x}, true, nil
	case "inside":
		r.inside, r.least = of, x
	}
	r.beneath = append(r.beneath, of...)
	switch name {
	case "border":
		return border{of, x}, true, nil
	default:
		return on(of), true, nil
	}
}

// names are what the table calls kinds of fittings.
var names = map[string][]string{
	"exhaust": {"exhaust"}, "exhaust mouth": {Mouth}, "fuel cap": {"drum", "can", "cap"}, "hub": {Hub},
	"spare links": {"links"}, "caps": {"cap"}, "handle": {"rail"}, "step": {"hook"},
}

func kindsOf(called []string) (out []string) {
	for _, c := range called {
		if k, ok := names[c]; ok {
			out = append(out, k...)
			continue
		}
		out = append(out, c)
	}
	return out
}
