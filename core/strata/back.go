package strata

import (
	"fmt"
	"strings"
)

// TakenBack tells whether a layer can be taken off again without harming what it lies on.
type TakenBack struct {
	OK    bool
	Words string
}

// TakenBack tells it of a layer over the one right below.
func (l Layer) TakenBack(below Layer) TakenBack {
	f := familyOf(l.Family)
	with := l.Brings()
	loose := surfaceOf(l.Family) == "pigment_loose"
	switch {
	case l.Kind.Works():
		return TakenBack{false, "what was taken off does not come back"}
	case l.Kind == Decals:
		return TakenBack{false, "a decal that has dried tears"}
	case loose:
		return TakenBack{true, "brushed and blown off, dry, until it is fixed"}
	case f.TakeBackTo <= 0 || with == "none":
		return TakenBack{false, fmt.Sprintf("%s does not come off again once it is dry", f.Name)}
	}
	if letter := attackOf(
		with,
		surfaceOf(below.Family),
		Brushed,
	); !below.isClear() && letter != 'S' ||
		strings.IndexByte("DLWM", letter) >= 0 {
		return TakenBack{
			false,
			fmt.Sprintf("%s would take %s with it", strings.ToLower(carrierName(with)), lower(below.Name)),
		}
	}
	return TakenBack{
		true,
		fmt.Sprintf("with %s, until %s after it is laid", strings.ToLower(carrierName(with)), f.TakeBackTo.About()),
	}
}
