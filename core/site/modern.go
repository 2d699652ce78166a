package site

import (
	"strings"

	"ziegel/core/diag"
	"ziegel/core/former"
)

// modernize reads a file of a site as it was meant: what earlier versions called otherwise is called as now. What the
// site has itself keeps its name.
func (f *File) modernize(s *Site) {
	m := &modernizer{f: f, own: s.hasLook, drawn: s.hasIcon}
	if f.Path == FileName {
		for i := range f.Root.Entries {
			e := &f.Root.Entries[i]
			if now, ok := former.Keys[e.Key]; ok && f.Root.Get(now) == nil {
				m.note(e.KeyPos, "key", e.Key, now)
				e.Key = now
			}
		}
		m.value(f.Root.Get("theme"), "theme", former.Themes)
		m.value(f.Root.Get("template"), "template", former.Templates)
	}
	m.walk(f.Root, "")
}

type modernizer struct {
	f     *File
	own   func(look string) bool // looks of the site's own
	drawn func(icon string) bool // icons of the site's own
}

func (m *modernizer) note(at diag.Position, what, was, is string) {
	m.f.Renamed = append(m.f.Renamed, Renamed{at, what, was, is})
}

func (m *modernizer) value(v *Value, what string, names map[string]string) {
	if v == nil || v.Kind != Text {
		return
	}
	if now, ok := names[v.Text]; ok {
		m.note(v.Pos, what, v.Text, now)
		v.Text = now
	}
}

// walk goes through a file. Content is words: nothing in it is called by the program, but for switches of entries.
func (m *modernizer) walk(v *Value, key string) {
	switch {
	case v == nil:
	case v.Kind == Text && key == "use":
		if !m.own(v.Text) {
			m.value(v, "shared look", former.Looks)
		}
	case v.Kind == Text:
		if now := former.Text(v.Text); now != v.Text {
			m.note(v.Pos, "token", v.Text, now)
			v.Text = now
		}
	case v.Kind == List:
		for _, it := range v.Items {
			m.walk(it, key)
		}
	case v.Kind == Map:
		if section := v.Get("section").Str(); section != "" {
			m.section(v, section)
		}
		for i := range v.Entries {
			e := &v.Entries[i]
			if key == "defaults" {
				m.section(e.Value, e.Key)
			}
			if e.Key != "content" && e.Key != "override" {
				m.walk(e.Value, e.Key)
			}
		}
	}
}

// section calls the parts and fields of what is said of a section as they are called now.
func (m *modernizer) section(v *Value, section string) {
	if style := v.Get("style"); style != nil {
		for i := range style.Entries {
			e := &style.Entries[i]
			part := e.Key[:strings.IndexAny(e.Key+" ", " [:")]
			if now, ok := former.Part(section, part); ok && style.Get(now+e.Key[len(part):]) == nil {
				m.note(e.KeyPos, "part", part, now)
				e.Key = now + e.Key[len(part):]
			}
		}
	}
	m.fields(v.Get("content"), section)
}

func (m *modernizer) fields(v *Value, section string) {
	if v == nil {
		return
	}
	for _, it := range v.Items {
		m.fields(it, section)
	}
	for i := range v.Entries {
		e := &v.Entries[i]
		if now, ok := former.Field(section, e.Key); ok && v.Get(now) == nil {
			m.note(e.KeyPos, "field", e.Key, now)
			e.Key = now
		}
		if now, ok := former.Icons[e.Value.Str()]; ok && e.Key == "icon" && !m.drawn(e.Value.Str()) {
			m.note(e.Value.Pos, "icon", e.Value.Str(), now)
		}
		m.fields(e.Value, section)
	}
}

// renameFirst gives the edit that calls a key on the way of another edit as it is called now; ok is false when all
// are.
func renameFirst(root *Value, e Edit) (Edit, bool) {
	at := root
	for i, s := range e.Path {
		if at == nil {
			return Edit{}, false
		}
		if s.Key == "" {
			if at.Kind != List || s.Index >= len(at.Items) {
				return Edit{}, false
			}
			at = at.Items[s.Index]
			continue
		}
		next := at.Get(s.Key)
		if next == nil {
			for _, old := range former.Before(s.Key) {
				if at.Get(old) != nil {
					path := append(append(Path{}, e.Path[:i]...), Step{Key: old})
					return Edit{Op: Rename, Path: path, Value: NewText(s.Key)}, true
				}
			}
		}
		at = next
	}
	return Edit{}, false
}
