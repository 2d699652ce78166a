package font

// Adjust makes the faces of a list alike in one measure: Of (ex-height, cap-height, ch-width, ic-width, ic-height) is
// To times the font size (css-fonts-4, section 2.6).
type Adjust struct {
	Of string
	To float64
}

// all gives the faces as they are used. What size-adjust says in their rules counts for nothing then.
func (a Adjust) all(faces []*Face) []*Face {
	out := make([]*Face, len(faces))
	for i, f := range faces {
		own := *f
		if aspect := f.Aspect(a.Of); aspect > 0 {
			own.adjust = a.To / aspect
		}
		own.shapes = map[string]*Shape{}
		out[i] = &own
	}
	return out
}

// Aspect gives a measure of the face as a share of its size. An ideograph that the face has not is as wide and as high
// as the size, a zero half as wide (measured).
func (f *Face) Aspect(of string) float64 {
	switch of {
	case "ex-height":
		return f.XHeight / f.Upem
	case "cap-height":
		return f.CapHeight / f.Upem
	case "ch-width":
		return f.widthOf('0', .5)
	}
	return f.widthOf('水', 1)
}

// widthOf gives the advance of a rune as a share of the size, other when the face does not have it.
func (f *Face) widthOf(r rune, other float64) float64 {
	gid, ok := f.face.NominalGlyph(r)
	if !ok {
		return other
	}
	return float64(f.face.HorizontalAdvance(gid)) / f.Upem
}
