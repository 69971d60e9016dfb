package kit

import (
	"cmp"
	"fmt"
	"slices"
)

// Agrees says what one pose of a part asks of another part: a travel lock that is up
// asks for the gun in it, an open hatch for what is seen through it.
type Agrees struct {
	When  string `json:"when"`            // the pose of the part that asks
	Part  string `json:"part"`            // id of the other
	Pose  string `json:"pose,omitempty"`  // its pose; empty where it only has to be there
	Meant bool   `json:"meant,omitempty"` // the modeller wants it all the same
}

// poses looks whether the poses of the chosen version's parts agree. The kit is a checked
// one: what a part asks for is in the list.
func (k Kit) poses() []Hint {
	out := []Hint{}
	used := k.Used()
	for _, p := range used {
		for i, a := range p.Agrees {
			if a.Meant || a.When != p.Pose {
				continue
			}
			hint := Hint{Part: p.ID, Rule: "B15"}
			at := slices.IndexFunc(used, func(q Part) bool { return q.ID == a.Part })
			switch {
			case at < 0:
				absent := k.Parts[slices.IndexFunc(k.Parts, func(q Part) bool { return q.ID == a.Part })]
				hint.Reason = fmt.Sprintf("%s is %s, but %s is not on this version", p.Name, p.Pose, absent.Name)
			case a.Pose != "" && used[at].Pose != a.Pose:
				other := used[at]
				hint.Reason = fmt.Sprintf(
					"%s is %s, which goes with %s %s; that is %s",
					p.Name,
					p.Pose,
					other.Name,
					a.Pose,
					cmp.Or(other.Pose, "not decided"),
				)
				other.Pose = a.Pose
				hint.Mends = append(hint.Mends, Mend{Label: fmt.Sprintf("Build %s %s", other.Name, a.Pose), Part: &other})
			default:
				continue
			}
			open, meant := p, p
			open.Pose = ""
			meant.Agrees = slices.Clone(p.Agrees)
			meant.Agrees[i].Meant = true
			hint.Mends = append(
				hint.Mends,
				Mend{Label: "Decide the pose of " + p.Name + " later", Part: &open},
				Mend{Label: "Meant so", Part: &meant},
			)
			out = append(out, hint)
		}
	}
	return out
}

// droops tells of guns that would hang down: loose, and in no lock.
func (k Kit) droops() (out []Hint) {
	used := k.Used()
	for _, p := range used {
		if p.Kind != "gun" || p.Joint != Removable || p.Pose == "" || p.Pose == "down" {
			continue
		}
		locked := slices.ContainsFunc(used, func(q Part) bool {
			return slices.ContainsFunc(q.Agrees, func(a Agrees) bool {
				return a.Part == p.ID && a.When == q.Pose && (a.Pose == "" || a.Pose == p.Pose)
			})
		})
		if locked {
			continue
		}
		hint := Hint{
			Part: p.ID, Rule: "B15",
			Reason: fmt.Sprintf("%s is to be %s and stays loose: it droops by its own weight", p.Name, p.Pose),
		}
		for _, m := range []struct{ label, joint, pose string }{
			{"Glue it as it is posed", Glued, p.Pose},
			{"Make its trunnions a press fit", Press, p.Pose},
			{"Let it hang down", Removable, "down"},
		} {
			other := p
			other.Joint, other.Pose = m.joint, m.pose
			hint.Mends = append(hint.Mends, Mend{Label: m.label, Part: &other})
		}
		out = append(out, hint)
	}
	return out
}
