package strata

import (
	"strings"
)

// lower takes the capital off a layer's name within a sentence.
func lower(s string) string {
	if s == "" {
		return s
	}
	return strings.ToLower(s[:1]) + s[1:]
}
