package sheets

import (
	"bytes"
	"encoding/json"
	"fmt"
	"strings"

	"cinderpath/core/measure"
)

// deepest is how many brackets may stand inside each other: documents need a dozen.
const deepest = 64

// Sound refuses foreign JSON that nothing should be made of: brackets inside each other
// without end, which cost every reader that follows them, and texts with the character of
// code zero, which no database keeps. It looks at each byte once; what it refuses it does
// not repeat.
func Sound(data []byte) error {
	depth, inText, escaped := 0, false, false
	for _, c := range data {
		switch {
		case c == 0:
			return zero(data)
		case escaped:
			escaped = false
		case inText && c == '\\':
			escaped = true
		case c == '"':
			inText = !inText
		case inText:
		case c == '[' || c == '{':
			if depth++; depth > deepest {
				return &measure.Fault{
					Field:  "body",
					Reason: fmt.Sprintf("more than %d brackets stand inside each other", deepest),
					Remedy: "send a document as export writes it",
				}
			}
		case c == ']' || c == '}':
			depth--
		}
	}
	if bytes.Contains(data, []byte(`\u0000`)) {
		return zero(data)
	}
	return nil
}

// zero names the field of the first text with a character of code zero; none where the
// six signs of its spelling stand for themselves.
func zero(data []byte) error {
	fault := &measure.Fault{
		Field:  "body",
		Reason: "it holds a character that cannot be kept (code zero)",
		Remedy: "type the text anew; such characters come from damaged files",
	}
	if bytes.IndexByte(data, 0) >= 0 {
		return fault
	}
	d := json.NewDecoder(bytes.NewReader(data))
	var at []string // by depth: the name, or the number, of what is read
	var count []int // by depth: how many were; -1 and below in objects
	for {
		token, err := d.Token()
		if err != nil {
			return nil //nolint:nilerr // not readable: told by whoever reads it
		}
		if delim, ok := token.(json.Delim); ok && (delim == '}' || delim == ']') {
			at, count = at[:len(at)-1], count[:len(count)-1]
			continue
		}
		n := len(count)
		isName := n > 0 && count[n-1] < 0 && count[n-1]%2 != 0
		if text, ok := token.(string); ok && strings.ContainsRune(text, 0) {
			if !isName && n > 0 && count[n-1] >= 0 {
				at[n-1] = fmt.Sprint(count[n-1])
			}
			fault.Field = strings.Join(at, ".")
			return fault
		}
		switch {
		case n == 0:
		case isName:
			at[n-1] = token.(string)
			count[n-1]--
		case count[n-1] < 0:
			count[n-1]--
		default:
			at[n-1] = fmt.Sprint(count[n-1])
			count[n-1]++
		}
		switch token {
		case json.Delim('{'):
			at, count = append(at, ""), append(count, -1)
		case json.Delim('['):
			at, count = append(at, ""), append(count, 0)
		}
	}
}
