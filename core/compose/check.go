package compose

import (
	"fmt"
	"slices"
	"strings"

	"ziegel/core/diag"
	"ziegel/core/library"
	"ziegel/core/site"
	"ziegel/core/styles"
)

// check reports content and switches that the section does not know.
func (f *filler) check() {
	f.checkMap(f.b.Content, f.sec.Fields, f.sec.Name)
	for _, w := range f.b.Without {
		if f.sec.Field(w.Str()) == nil {
			f.c.Add(f.b.File.Problem(w, "unknown-field", fmt.Sprintf("%s shows no %q that could be switched off",
				f.sec.Name, w.Str()), "one of "+strings.Join(f.sec.FieldNames(), ", "),
				diag.Nearest(w.Str(), f.sec.FieldNames())))
		}
	}
}

func (f *filler) checkMap(v *site.Value, fields []*library.Field, what string) {
	if v == nil || v.Kind != site.Map {
		return
	}
	var names []string
	for _, x := range fields {
		names = append(names, x.Name)
	}
	for _, e := range v.Entries {
		fd := findField(fields, e.Key)
		if fd == nil {
			f.c.Add(f.file(v).KeyProblem(e, "unknown-field", fmt.Sprintf("%s shows no field %q", what, e.Key),
				"one of "+strings.Join(names, ", "), diag.Nearest(e.Key, names)))
			continue
		}
		f.checkType(e.Value, fd, what)
	}
}

func (f *filler) wrongType(v *site.Value, fd *library.Field, want, try string) {
	kind := map[site.ValueKind]string{site.Text: "a text", site.List: "a list", site.Map: "a map",
		site.Null: "empty"}[v.Kind]
	f.c.AddOnce(f.file(v).Problem(v, "wrong-type", fmt.Sprintf("%s is %s", fd.Name, kind), want, try))
}

func (f *filler) checkType(v *site.Value, fd *library.Field, what string) {
	if v.Kind == site.Null {
		return
	}
	switch fd.Type {
	case library.ListOf:
		if v.Kind == site.Text && v.Text == "" {
			return
		}
		if v.Kind != site.List {
			f.wrongType(v, fd, "a list, one entry a line, each after a hyphen", "")
			return
		}
		self := fd.Find(".")
		for _, it := range v.Items {
			if whole := fd.Whole(); whole != nil && it.Kind == site.Map {
				f.checkMap(it, whole, "an entry of "+fd.Name)
				continue
			}
			if self != nil {
				f.checkType(it, &library.Field{Name: "an entry of " + fd.Name, Type: self.Type}, what)
				continue
			}
			if it.Kind != site.Map {
				f.wrongType(it, &library.Field{Name: "an entry of " + fd.Name}, "fields such as title: and text:", "")
				continue
			}
			f.checkMap(it, fd.Of, "an entry of "+fd.Name)
		}
	case library.Link:
		if v.Kind == site.Text && v.Text == "" {
			return
		}
		if v.Kind != site.Map {
			try := ""
			if v.Kind == site.Text {
				try = "{label: " + v.Text + ", to: home}"
			}
			f.wrongType(v, fd, "a link: {label: ..., to: ...}", try)
			return
		}
		f.linkKeys(v, []string{"label", "to", "look"})
		if look := v.Get("look"); look != nil && !slices.Contains(looks, look.Str()) {
			f.c.AddOnce(f.file(v).Problem(look, "bad-value", fmt.Sprintf("there is no look %q", look.Str()),
				"one of "+strings.Join(looks, ", "), diag.Nearest(look.Str(), looks)))
		}
	case library.Picture:
		if v.Kind == site.List {
			f.wrongType(v, fd, "a picture: {file: delta.svg, alt: ...}", "")
		} else if v.Kind == site.Map {
			f.linkKeys(v, PictureKeys)
		}
	default:
		if v.Kind != site.Text {
			try := ""
			if v.Kind == site.Map && len(v.Entries) == 1 {
				try = "quotes around a text with a colon or braces in it"
			}
			f.wrongType(v, fd, "a text", try)
		}
	}
}

var looks = []string{"main", "other", "quiet"}

func (f *filler) linkKeys(v *site.Value, known []string) {
	for _, e := range v.Entries {
		key := e.Key
		if name, at := styles.OptionName(key); at != "" && PictureDiffers(name) && slices.Contains(known, name) {
			key = name
		}
		if !slices.Contains(known, key) {
			f.c.AddOnce(f.file(v).KeyProblem(e, "unknown-key", fmt.Sprintf("there is no %q here", e.Key),
				"one of "+strings.Join(known, ", "), diag.Nearest(e.Key, known)))
		} else if e.Value.Kind == site.Map || e.Value.Kind == site.List {
			f.c.AddOnce(f.file(v).Problem(e.Value, "wrong-type", e.Key+" is not a text", "a text", ""))
		}
	}
}
