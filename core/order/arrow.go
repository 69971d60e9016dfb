package order

import (
	"cinderpath/core/path"
	"cinderpath/core/rule"
	"cinderpath/core/strata"
	"cinderpath/core/unit"
)

// then is an arrow from an earlier task that no rule speaks of.
func then(from, reason string) path.Arrow { return ruled(from, "", "", reason) }

// stop, warn and hint are arrows that a rule asks for, by how grave it is to go against it.
func stop(from, id, reason string) path.Arrow { return ruled(from, id, rule.Stop, reason) }
func warn(from, id, reason string) path.Arrow { return ruled(from, id, rule.Warn, reason) }
func hint(from, id, reason string) path.Arrow { return ruled(from, id, rule.Hint, reason) }

func ruled(from, id string, s rule.Severity, reason string) path.Arrow {
	return path.Arrow{From: from, Kind: rule.InOrder, Rule: id, Severity: s, Reason: reason}
}

// waits makes an arrow wait so long for what it needs.
func waits(a path.Arrow, need rule.Need, m unit.Minutes) path.Arrow {
	a.Kind, a.Wait = need, m
	return a
}

// dries makes an arrow wait until a layer bears what comes next.
func dries(a path.Arrow, need rule.Need, l strata.Layer) path.Arrow {
	a = waits(a, need, l.Dries().Until(need))
	a.Water = l.Water()
	return a
}

// damp makes an arrow's wait one that damp air lengthens.
func damp(a path.Arrow) path.Arrow {
	a.Water = true
	return a
}

// atOnce makes an arrow lead to something done in the same session.
func atOnce(a path.Arrow) path.Arrow {
	a.Same = true
	return a
}
