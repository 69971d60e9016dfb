// Package rule says how the rules of the trade speak: how grave it is to go against one,
// and what a surface must bear before the next thing is done to it. The rules themselves
// stand where what they are about is known.
package rule

// Severity of what goes against a rule.
type Severity string

// The severities: the result would be damaged, is likely to be regretted, or wastes time
// or material.
const (
	Stop Severity = "stop"
	Warn Severity = "warn"
	Hint Severity = "hint"
)

// Advice may be overruled by who knows better; what stops may not.
func (s Severity) Advice() bool { return s == Warn || s == Hint }

// Need is what one thing must have reached before another is done: the kind of a wait.
type Need string

// The needs, from what is asked soonest; the last are not about drying.
const (
	Touch    Need = "touch"
	NextCoat Need = "next coat"
	Handle   Need = "handle"
	Cured    Need = "cured"
	TakeBack Need = "take-back" // still soft enough to be taken back
	InOrder  Need = "order"     // done, whatever it is
	Yours    Need = "yours"     // the modeller's own word
)
