package paint

import "ziegel/core/paint/display"

// sink collects the items of a group; what has the same clips shares a group.
type sink struct {
	items []display.Item
	clip  *clip
	at    *display.Group
}

func (s *sink) add(c *clip, items ...display.Item) {
	if len(items) == 0 {
		return
	}
	if c == nil {
		s.clip, s.at = nil, nil
		s.items = append(s.items, items...)
		return
	}
	if s.at == nil || s.clip != c {
		s.at, s.clip = display.Plain(), c
		for k := c; k != nil; k = k.up {
			s.at.Clips = append(s.at.Clips, k.path)
		}
		s.items = append(s.items, s.at)
	}
	s.at.Items = append(s.at.Items, items...)
}
