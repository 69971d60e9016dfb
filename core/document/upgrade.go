package document

import (
	"strconv"
	"strings"

	"cinderpath/core/bench"
	"cinderpath/core/path"
)

// Version is that of the documents as they are now; those of version 1 are still read.
//
// Version 1: log entries spoke of their step by its id alone, written kind:subject:ordinal.
// Version 2: an entry carries what its step was about, and ids mean nothing.
const Version = 2

// Upgraded brings an entry of an earlier version to the present one.
func (e Entry) Upgraded(from int) Entry {
	if from > 1 {
		return e
	}
	at := strings.Split(e.Task, ":")
	if len(at) != 3 || e.Subject != (path.Subject{}) {
		return e
	}
	kind, subject := at[0], at[1]
	ordinal, _ := strconv.Atoi(strings.TrimRight(strings.SplitN(at[2], ".", 2)[0], "+")) // 0 for what was merged by name
	if e.StepKind == "" {
		e.StepKind = kind
	}
	switch k := bench.KindOf(kind); {
	case kind == "repair" || kind == "again" || kind == "own":
		// What they were about is not told by their id.
	case k.Lays || k.Works || kind == "mask" || kind == "unmask" || kind == "test":
		e.Layer = subject
		switch kind {
		case "colour", "mask":
			e.Colour = ordinal
		case "wash", "takeback":
			e.Section = ordinal
		case "softener":
			e.Round = ordinal
		}
	default:
		e.Part = subject
	}
	return e
}
