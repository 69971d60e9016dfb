package form

import "slices"

// Inside are the walls, floor and roof of the parts of a body whose zones are wanted, from within, closed as
// they are by themselves: without fittings, and whole where other parts stand on them.
func Inside(b Body, wanted func(zone string) bool) ([]*Panel, error) {
	b.Fittings = nil
	parts, err := b.solids()
	if err != nil {
		return nil, err
	}
	parts = slices.DeleteFunc(parts, func(s *solid) bool {
		return !slices.ContainsFunc(s.faces, func(f face) bool { return wanted(f.zone) })
	})
	return Inner(panelsOf(parts)), nil
}

// Inner are panels seen from the other side: the faces of the room that they close. What is an outer
// corner without is a hollow one within.
func Inner(panels []*Panel) []*Panel {
	out := make([]*Panel, len(panels))
	for i, p := range panels {
		in := newPanel(p.Zone, 0, p.Normal.Times(-1), p.Origin)
		in.Name, in.Round = p.Name, p.Round
		for _, piece := range p.Pieces {
			back := make([]Vec, len(piece))
			for k, c := range piece {
				back[len(piece)-1-k] = c
			}
			in.Pieces = append(in.Pieces, back)
		}
		for _, l := range p.Lines {
			l.Beyond = l.Beyond.Times(-1)
			if !l.Joint && !l.Smooth {
				l.Hollow = !l.Hollow
			}
			in.Lines = append(in.Lines, l)
		}
		out[i] = in
	}
	return out
}
