package layout

// shownNow gives what is known of a box in the style that it has, nothing after a change.
func (b *Box) shownNow() *shownMemory {
	if m := b.shown; m == nil || m.style != b.style || m.version != b.style.Version {
		b.shown = &shownMemory{style: b.style, version: b.style.Version}
	}
	return b.shown
}
