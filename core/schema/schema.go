// Package schema says in JSON Schema (2020-12) what ziegel.yaml and page files may hold, for editors that complete and
// check them: names of sections, their options, fields, parts and slots, tones, lanes, properties of CSS, tokens. It
// follows the site: its own sections and ranges are in it. What needs the whole site to be judged, such as where a link
// leads, is left to the check.
package schema

import (
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"sort"
	"strings"

	"ziegel/core/css"
	"ziegel/core/library"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/styles"
	"ziegel/core/theme"
)

// Draft is the version of JSON Schema in use.
const Draft = "https://json-schema.org/draft/2020-12/schema"

type object = map[string]any

// maker writes the schemas of one site.
type maker struct {
	e    *project.Project
	with map[string]bool // sections that are described, not only named
	defs object
}

// Page describes pages/NAME.yaml; Site describes ziegel.yaml. The sections in use are described whole, all others by
// name; all describes every one.
func Page(e *project.Project, all bool) ([]byte, error) {
	m := newMaker(e, all)
	doc := m.described("A page of the site: a title and the blocks on it.", object{
		"title":       text("what the browser's tab says; the site's name follows"),
		"description": text("a sentence for search engines"),
		"picture":     text("file below media/ for those who show a link to the page"),
		"scheme":      choice("colors of the page for everybody", "auto", "light", "dark"),
		"brief": list("what the page is to have", object{"anyOf": []any{text("a wish"),
			closed(object{"want": text("a wish"), "block": text("the block that answers it")}, "want")}}),
		"blocks":    list("the blocks of the page, in order", ref("block")),
		"leave-out": list("blocks on every page that this page does not have", text("a block's name")),
		"override":  object{"type": "object", "description": "content for blocks on every page, by their names"},
		"defaults":  ref("defaults"),
		"turns":     ref("turns"),
	}, site.PageKeys)
	return m.print("page", doc)
}

// Site describes ziegel.yaml.
func Site(e *project.Project, all bool) ([]byte, error) {
	m := newMaker(e, all)
	rule := object{
		"rule":    text("name of a rule, as `check` tells it"),
		"at":      text("page, block or part; none means everywhere"),
		"because": text("the reason"),
	}
	tuned := maps.Clone(rule)
	tuned["limit"], tuned["severity"] = text(
		"another limit, in the rule's unit",
	), choice(
		"how much it weighs",
		"error",
		"warning",
		"note",
	)
	doc := m.described("The site: its name, theme, and what stands on every page.", object{
		"name":     text("name of the site"),
		"address":  text("https:// and the host"),
		"language": text("language tag (BCP 47): en, de, pt-BR"),
		"pages":    object{"description": "pages that are made from data files: {from: data/articles/*.md, page: article}"},
		"languages": list("the languages that the site is built in, that of the page files first",
			text("language tag")),
		"theme": choice(
			"a shipped theme; a theme.tokens.json of the site goes before it",
			project.Themes(e.Stock)...),
		"template": text("the template that the site began as"),
		"trade":    choice("whose samples the sections show", library.Trades(e.Stock)...),
		"ranges": object{"type": "object", "description": "named spans of screen widths, CSS px",
			"additionalProperties": object{
				"type":    []any{"string", "number"},
				"pattern": `^\s*\d*(px)?\s*(\.\.\s*\d*(px)?)?\s*$`,
			}},
		"every-page": closed(object{"top": list("above the page's own blocks", ref("block")),
			"bottom": list("below them", ref("block"))}),
		"favicon": text("file below media/"),
		"picture": text("file below media/ for those who show a link to a page"),
		"looks": object{
			"type":                 "object",
			"description":          "shared looks, by name",
			"additionalProperties": ref("look"),
		},
		"defaults": ref("defaults"),
		"turns":    ref("turns"),
		"accept":   list("findings that are meant so", closed(rule, "rule", "because")),
		"tune":     list("other limits and severities", closed(tuned, "rule", "because")),
		"hosts":    list("hosts that sections may ask, by https", text("a host")),
		"places":   object{"type": "object", "description": "where the site is published, by name"},
		"budget":   closed(object{"page": text("how heavy a page may be, such as 300 kB")}),
		"host":     object{"type": "object", "description": "what servers are told"},
	}, site.SiteKeys)
	doc["required"] = []any{"name"}
	return m.print("site", doc)
}

func newMaker(e *project.Project, all bool) *maker {
	m := &maker{e: e, with: map[string]bool{}, defs: object{}}
	for _, s := range e.Library.Own() {
		m.with[s.Name] = true
	}
	for _, p := range e.Site.Pages() {
		for _, b := range e.Site.All(p) {
			m.with[b.Section] = true
		}
	}
	if all {
		for _, name := range e.Library.Names() {
			m.with[name] = true
		}
	}
	m.common()
	return m
}

// described makes a schema of a file. known are the keys that the site's reader takes: each has to be described.
func (m *maker) described(what string, properties object, known []string) object {
	for _, k := range known {
		if properties[k] == nil {
			panic(fmt.Sprintf("the key %s is read and not described", k))
		}
	}
	doc := closed(properties)
	doc["$schema"], doc["description"] = Draft, what
	return doc
}

func (m *maker) print(name string, doc object) ([]byte, error) {
	doc["title"], doc["$defs"] = "ziegel "+name, m.defs
	data, err := json.MarshalIndent(doc, "", " ")
	return append(data, '\n'), err
}

// spans describes days or hours: a text, a number or a list of texts.
func spans(what string) object {
	return object{"type": []any{"string", "number", "array"}, "items": text(what), "description": what}
}

// common writes what all files speak of.
func (m *maker) common() {
	m.defs["value"] = object{"type": []any{"string", "number", "boolean"}}
	m.defs["live"] = closed(object{"from": text("file below data/, or a pattern: data/articles/*.md"),
		"sort": text("column to sort by, -column from the highest"), "limit": object{"type": "integer", "minimum": 0},
		"where": object{"type": "object", "description": "columns and what they say"}}, "from")
	m.defs["compound"] = object{"anyOf": []any{
		closed(object{"amount": text("such as 19.90"), "currency": text("ISO 4217: EUR"),
			"per": text("such as a month")}, "amount", "currency"),
		closed(object{"date": text("a day: 2026-05-01")}, "date"),
		closed(object{"until": text("the last day: 2026-05-01; check tells when it has passed")}, "until"),
		closed(object{"days": spans("days: mon-fri, sun"), "hours": spans("hours: 10-18, or 9:30-12, 14-18")})}}
	m.defs["empty"] = object{"type": []any{"string", "number", "boolean", "null"}}
	m.defs["link"] = object{"anyOf": []any{closed(object{"label": text("what it says"), "to": m.target(),
		"look": choice("of a button", "main", "other", "quiet")}), object{"type": "null"}, object{"const": ""}}}
	m.defs["picture"] = m.picture()
	m.defs["look"] = m.look()
	m.defs["style"] = object{"type": "object", "additionalProperties": ref("look"),
		"description": "styles by part: card, card[2], card at phone, card in ..480, words when stacked, card:hover"}
	m.defs["defaults"] = m.defaults()
	m.defs["turns"] = object{
		"type":                 "object",
		"description":          "values that blocks take one after the other: of tone, or of an option",
		"additionalProperties": object{"type": "array"},
	}
	m.defs["block"] = m.block()
}

// target describes where a link may lead, with the pages and blocks of the site to choose from.
func (m *maker) target() object {
	var known []any
	for _, p := range m.e.Site.Pages() {
		known = append(known, p.Name)
		for _, b := range p.Blocks {
			known = append(known, p.Name+"#"+b.Name)
		}
	}
	return object{
		"type":        []any{"string", "number"},
		"description": "a page, page#block, #block, media/FILE, or an https:, mailto: or tel: address",
		"examples":    known,
	}
}

func (m *maker) picture() object {
	properties := object{
		"file": text("file below media/"),
		"alt": object{"type": []any{"string", "number", "boolean", "null"},
			"description": "what it shows, for those who do not see it; \"\" when it only adorns"},
		"focus": text("what stays in sight: 50% 30%"),
	}
	return object{"anyOf": []any{text("file below media/"), object{"type": "object", "properties": properties,
		"patternProperties":    object{"^(file|focus) at .+$": ref("value")},
		"additionalProperties": false}, object{"type": "null"}}}
}

// look describes declarations: properties of CSS, shared looks, and maps of them under conditions.
func (m *maker) look() object {
	properties := object{
		"use": object{"description": "shared looks", "anyOf": []any{ref("value"), list("", ref("value"))}},
	}
	for _, name := range css.PropertyNames() {
		properties[name] = true
	}
	for _, k := range m.e.Theme.Tokens { // tokens complete where a value is typed
		if k.Type == "color" && strings.Count(k.Name, ".") == 2 && strings.HasPrefix(k.Name, "color.plain.") {
			role := "{color." + strings.TrimPrefix(k.Name, "color.plain.") + "}"
			for _, p := range []string{"color", "background-color", "border-color"} {
				properties[p] = withExample(properties[p], role)
			}
		}
		if group, _, _ := strings.Cut(k.Name, "."); tokenUses[group] != nil {
			for _, p := range tokenUses[group] {
				properties[p] = withExample(properties[p], "{"+k.Name+"}")
			}
		}
	}
	return object{"type": "object", "properties": properties,
		"patternProperties":    object{`^--`: true, `^(at|in|when) .+$|^:|^\[`: object{"type": "object"}},
		"additionalProperties": false}
}

// tokenUses are the properties that the tokens of a group are for.
var tokenUses = map[string][]string{
	"space":       {"padding", "margin", "gap", "padding-block", "padding-inline", "margin-block"},
	"type":        {"font-size"},
	"radius":      {"border-radius"},
	"face":        {"font-family"},
	"weight":      {"font-weight"},
	"line-height": {"line-height"},
	"shadow":      {"box-shadow"},
}

func withExample(p any, value string) object {
	o, ok := p.(object)
	if !ok {
		o = object{"type": []any{"string", "number"}, "examples": []any{}}
	}
	o["examples"] = append(o["examples"].([]any), value)
	return o
}

func (m *maker) defaults() object {
	properties := object{}
	for _, s := range m.whole() {
		properties[s.Name] = closed(object{"options": m.options(s), "style": m.style(s)})
	}
	return object{
		"type":          "object",
		"description":   "what all blocks of a section have, by section",
		"properties":    properties,
		"propertyNames": object{"enum": anyOf(m.e.Library.Names())},
	}
}

// whole lists the sections that are described whole.
func (m *maker) whole() []*library.Section {
	var out []*library.Section
	for _, name := range slices.Sorted(maps.Keys(m.with)) {
		if s := m.e.Library.Section(name); s != nil {
			out = append(out, s)
		}
	}
	return out
}

// block describes a block; what its section takes follows from the section's name.
func (m *maker) block() object {
	distance := object{
		"type":        []any{"string", "number"},
		"description": "a length, 0, or a token such as {space.wide}",
	}
	properties := object{
		"name": object{
			"type":        "string",
			"pattern":     "^[a-z][a-z0-9-]*$",
			"description": "what commands and links call it",
		},
		"section": object{
			"enum":        anyOf(m.e.Library.Names()),
			"description": "KIND/NAME; `ziegel sections` lists them",
		},
		"options": object{"type": "object", "description": "choices of the section"},
		"tone":    choice("ground of the block with all that stands on it", theme.Tones...),
		"above":   distance, "below": distance,
		"lane":    choice("the strip of the page that the content keeps to", styles.Lanes...),
		"draft":   object{"type": []any{"boolean", "string"}, "description": "shown in the wireframe theme"},
		"content": object{"type": "object", "description": "what the fields of the section say"},
		"without": list("fields that are empty on purpose", ref("value")),
		"sample":  list("fields that a command filled with samples", ref("value")),
		"own":     list("content that says what a sample says, and is meant so", ref("value")),
		"style":   ref("style"),
		"ground":  object{"type": "object", "description": "a picture, gradient or color under the block"},
		"holds":   object{"type": "object", "description": "blocks in the slots of the section"},
		"parked":  object{"type": "object", "description": "content that the section does not show"},
	}
	for _, k := range site.BlockKeys {
		if properties[k] == nil {
			panic("the key " + k + " is read and not described")
		}
	}
	out := closed(properties, "name", "section")
	var cases []any
	for _, s := range m.whole() {
		id := "section " + s.Name
		m.defs[id] = m.section(s)
		cases = append(
			cases,
			object{
				"if": object{"properties": object{"section": object{"const": s.Name}}, "required": []any{"section"}},
				"then": object{
					"$ref": "#/$defs/" + strings.NewReplacer("~", "~0", "/", "~1", " ", "%20").Replace(id),
				},
			},
		)
	}
	if len(cases) > 0 {
		out["allOf"] = cases
	}
	return out
}

// section describes the blocks of one section.
func (m *maker) section(s *library.Section) object {
	properties := object{"options": m.options(s), "content": m.fields(s.Fields, s.Summary), "style": m.style(s)}
	fields := anyOf(s.FieldNames())
	properties["without"] = list("fields that are empty on purpose", object{"enum": fields})
	if len(s.Slots) > 0 {
		slots := object{}
		for _, x := range s.Slots {
			slots[x.Name] = list("blocks in "+x.Name, ref("block"))
		}
		properties["holds"] = closed(slots)
	}
	return object{"description": s.Summary, "properties": properties}
}

// options describes the options of a section; those that follow ranges are written NAME at RANGE as well.
func (m *maker) options(s *library.Section) object {
	properties, patterns := object{}, object{}
	for _, o := range s.Options {
		one := object{"type": []any{"string", "number", "boolean"}, "description": o.Summary}
		if o.Type == "choice" {
			one["enum"] = choices(o.Choices)
		}
		if o.Default != "" {
			one["default"] = o.Default
		}
		properties[o.Name] = one
		patterns["^"+o.Name+" at .+$"] = object{"type": []any{"string", "number", "boolean"}}
	}
	if len(properties) == 0 {
		return closed(object{})
	}
	return object{
		"type":                 "object",
		"properties":           properties,
		"patternProperties":    patterns,
		"additionalProperties": false,
	}
}

// choices lists the choices of an option as YAML may read them: yes and no are truth values to some readers.
func choices(list []string) []any {
	out := anyOf(list)
	for _, c := range list {
		switch c {
		case "yes", "on", "true":
			out = append(out, true)
		case "no", "off", "false":
			out = append(out, false)
		}
	}
	return out
}

// style describes the styles of a section's blocks: keys begin with a part.
func (m *maker) style(s *library.Section) object {
	parts := append([]string{styles.PartBlock, styles.PartRoot}, s.Parts...)
	properties := object{}
	for _, p := range parts {
		properties[p] = ref("look")
	}
	sort.Strings(parts)
	return object{"type": "object", "properties": properties,
		"patternProperties":    object{"^(" + strings.Join(parts, "|") + ")([\\[: ].*)$": ref("look")},
		"additionalProperties": false}
}

// fields describes content.
func (m *maker) fields(list []*library.Field, summary string) object {
	properties := object{}
	for _, f := range list {
		properties[f.Name] = m.field(f)
	}
	out := closed(properties)
	if summary != "" {
		out["description"] = summary
	}
	return out
}

// field describes one field by its type.
func (m *maker) field(f *library.Field) object {
	with := func(o object) object {
		if f.Sample != "" {
			return object{"description": "such as: " + f.Sample, "allOf": []any{o}}
		}
		return o
	}
	switch f.Type {
	case library.Link:
		return with(ref("link"))
	case library.Picture:
		return with(ref("picture"))
	case library.Switch:
		return object{"enum": []any{"yes", "no", true, false}}
	case library.Tone:
		return choice("ground of this entry", theme.Tones...)
	case library.ListOf:
		return object{"anyOf": []any{object{"type": "array", "items": m.entry(f)}, ref("live"), ref("empty")}}
	}
	if f.Type == library.RichText {
		return with(object{"anyOf": []any{ref("empty"), ref("compound")}})
	}
	return with(ref("empty"))
}

// entry describes an entry of a list: a value, or a map of fields.
func (m *maker) entry(f *library.Field) object {
	self := f.Find(".")
	if self != nil && len(f.Of) == 1 {
		return m.field(&library.Field{Name: ".", Type: self.Type})
	}
	if whole := f.Whole(); whole != nil {
		return object{"anyOf": []any{ref("empty"), m.fields(whole, "")}}
	}
	return m.fields(f.Of, "")
}

func ref(name string) object { return object{"$ref": "#/$defs/" + name} }

func text(what string) object {
	return object{"type": []any{"string", "number", "boolean"}, "description": what}
}

func list(what string, items object) object {
	out := object{"type": []any{"array", "null"}, "items": items}
	if what != "" {
		out["description"] = what
	}
	return out
}

func choice(what string, values ...string) object {
	return object{"enum": anyOf(values), "description": what}
}

// closed describes a map that has no other keys.
func closed(properties object, required ...string) object {
	out := object{"type": "object", "properties": properties, "additionalProperties": false}
	if len(required) > 0 {
		out["required"] = anyOf(required)
	}
	return out
}

func anyOf(list []string) []any {
	out := make([]any, len(list))
	for i, s := range list {
		out[i] = s
	}
	return out
}
