package form

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
