package edit

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"ziegel/core/diag"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/styles"
)

func useList(have []string, name string) *site.Value {
	list := &site.Value{Kind: site.List}
	for _, n := range have {
		list.Items = append(list.Items, site.NewText(n))
	}
	list.Items = append(list.Items, site.NewText(name))
	return list
}

// plainEntries leaves out what a part uses.
func plainEntries(v *site.Value) []site.Entry {
	var out []site.Entry
	for _, e := range v.Clone().Entries {
		if e.Key != "use" {
			out = append(out, e)
		}
	}
	return out
}

func firstPlain(list []site.Entry) *site.Value {
	for _, e := range list {
		if t, err := styles.ParseTarget(e.Key); err == nil && t.Tail() == "" {
			return e.Value
		}
	}
	return nil
}

func (p *Plan) putAll(h home, key string, entries []site.Entry) {
	for _, e := range entries {
		p.edit(h.file, site.Edit{Op: site.Set, Path: site.Keys(h.path, key, e.Key), Value: e.Value.Clone()})
	}
}

func keysOf(list []site.Entry) string {
	var names []string
	for _, e := range list {
		names = append(names, e.Key)
	}
	return strings.Join(names, ", ")
}

// deleteStyle takes entries out of a style, and the maps around them that become empty.
func (p *Plan) deleteStyle(h home, key string, own *site.Value, gone []site.Entry) {
	switch {
	case len(gone) < len(own.Entries):
		for _, e := range gone {
			p.edit(h.file, site.Edit{Op: site.Delete, Path: site.Keys(h.path, key, e.Key)})
		}
	case len(h.style.Entries) > 1:
		p.edit(h.file, site.Edit{Op: site.Delete, Path: site.Keys(h.path, key)})
	case h.path[0].Key == "defaults" && len(p.defaultOf(h).Entries) > 1, h.path[0].Key != "defaults":
		p.edit(h.file, site.Edit{Op: site.Delete, Path: h.path})
	case len(p.defaultsOf(h)) > 1:
		p.edit(h.file, site.Edit{Op: site.Delete, Path: h.path[:2]})
	default:
		p.edit(h.file, site.Edit{Op: site.Delete, Path: h.path[:1]})
	}
}

func (p *Plan) defaultsOf(h home) []site.Default {
	if h.file == site.FileName {
		return p.Env.Site.Defaults
	}
	for _, page := range p.Env.Site.Pages() {
		if page.File.Path == h.file {
			return page.Defaults
		}
	}
	return nil
}

func (p *Plan) defaultOf(h home) *site.Value {
	if d := site.DefaultFor(p.defaultsOf(h), h.path[1].Key); d != nil {
		return d.Node
	}
	return &site.Value{}
}

// resetKeys lists the style keys that a target means: with a state or a condition that one, without any all of the
// same part, whatever they wait for.
func resetKeys(style *site.Value, t styles.Target) []string {
	if style == nil {
		return nil
	}
	var out []string
	for _, e := range style.Entries {
		have, err := styles.ParseTarget(e.Key)
		same := have == t || t.State+t.At+t.In+t.When == "" && have.Part == t.Part && have.Index == t.Index &&
			have.Place == t.Place
		if err == nil && same {
			out = append(out, e.Key)
		}
	}
	return out
}

// home is where the styles of a scope are written: a file, the path of its style map, and the map as it is now.
type home struct {
	file  string
	path  site.Path
	style *site.Value
}

func (sc Scope) home(p *Plan, on *Styled, scope string) (home, error) {
	list, file := p.Env.Site.Defaults, site.FileName
	switch scope {
	case "block":
		return home{on.Block.File.Path, site.Keys(on.Block.Path, "style"), on.Block.Style}, nil
	case "page":
		list, file = on.Page.Defaults, on.Page.File.Path
	}
	if on.Target.Part == styles.PartBlock {
		return home{}, errors.New("the ground and the distances belong to each block: name a part of the section, or root")
	}
	h := home{file: file, path: site.Keys("defaults", on.sec.Name, "style")}
	if d := site.DefaultFor(list, on.sec.Name); d != nil {
		h.style = d.Style
	}
	return h, nil
}

// styleValue checks one NAME=VALUE of a style.
func styleValue(e *project.Project, on *Styled, kv [2]string) (*site.Value, error) {
	switch kv[0] {
	case "use":
		list := &site.Value{Kind: site.List}
		for _, n := range strings.Split(kv[1], ",") {
			n = strings.TrimSpace(n)
			if s, _ := e.SharedStyle(n); s == nil {
				return nil, diag.Unknown("shared look", n, e.StyleNames(), "")
			}
			list.Items = append(list.Items, site.NewText(n))
		}
		return list, nil
	case "lane":
		if _, _, ok := styles.LaneLines(kv[1]); !ok {
			return nil, fmt.Errorf("%q is no lane and no two lines: write text, body, wide or edge, or two of them and middle, such as middle..edge", kv[1])
		}
		return site.NewText(kv[1]), nil
	}
	if problem := project.CheckProperty(e, kv[0], kv[1]); problem != nil {
		return nil, *problem
	}
	return site.NewText(kv[1]), nil
}

// useOn adds a shared look to a part.
func (p *Plan) useOn(on *Styled, name string) {
	t := on.Target
	t.At, t.In, t.When, t.State = "", "", "", ""
	key := styles.StyleKey(on.Block.Style, t)
	list := &site.Value{Kind: site.List}
	var own *site.Value
	if on.Block.Style != nil {
		own = on.Block.Style.Get(key)
	}
	for _, n := range styles.UsedBy(own) {
		if n == name {
			return
		}
		list.Items = append(list.Items, site.NewText(n))
	}
	list.Items = append(list.Items, site.NewText(name))
	p.edit(on.Block.File.Path, site.Edit{Op: site.Set, Path: site.Keys(on.Block.Path, "style", key,
		"use"), Value: list})
	p.Touch(on.Page.Name, on.Block.Name)
}

// lookalikes lists other parts of the site whose own styles say the same.
func (p *Plan) lookalikes(src *Styled, list []site.Entry) []string {
	var out []string
	eachStyled(p.Env, func(page *site.Page, b *site.Block, t styles.Target) {
		if b.Node == src.Block.Node && t == src.Target {
			return
		}
		if sameStyles(ownStyles(b.Style, t), list) {
			out = append(out, page.Name+"/"+b.Name+"."+t.Element())
		}
	})
	return out
}

// sameStyles compares the entries of two parts, in whatever order they stand.
func sameStyles(a, b []site.Entry) bool {
	if len(a) != len(b) {
		return false
	}
	tail := func(e site.Entry) string {
		t, _ := styles.ParseTarget(e.Key)
		return t.Tail()
	}
	for _, e := range a {
		if !slices.ContainsFunc(b, func(o site.Entry) bool { return tail(o) == tail(e) && o.Value.Equal(e.Value) }) {
			return false
		}
	}
	return true
}
