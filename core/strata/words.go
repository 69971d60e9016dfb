package strata

import (
	"fmt"
	"strings"
)

// lower takes the capital off a layer's name within a sentence.
func lower(s string) string {
	if s == "" {
		return s
	}
	return strings.ToLower(s[:1]) + s[1:]
}

// Spell prints minutes as people say them.
func Spell(minutes float64) string {
	switch {
	case minutes < 1:
		return fmt.Sprintf("%.0f s", minutes*60)
	case minutes < 90:
		return fmt.Sprintf("%.0f min", minutes)
	case minutes < 48*60:
		return trimmed(minutes/60) + " h"
	default:
		return trimmed(minutes/(24*60)) + " days"
	}
}

func trimmed(x float64) string { return strings.TrimSuffix(fmt.Sprintf("%.1f", x), ".0") }
