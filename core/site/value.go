package site

import (
	"errors"
	"fmt"
	"io"
	"regexp"
	"strconv"
	"strings"
	"unicode/utf8"

	"go.yaml.in/yaml/v3"

	"ziegel/core/diag"
)

// ValueKind tells what a Value is.
type ValueKind uint8

// The kinds of Value.
const (
	Text ValueKind = iota
	List
	Map
	Null // a key without a value
)

// Value is a piece of a YAML file. Scalars are the text that was typed: 1.50 stays 1.50.
type Value struct {
	Kind    ValueKind
	Text    string
	Items   []*Value // of a List
	Entries []Entry  // of a Map, in order
	Pos     diag.Position
	Width   int // characters of a scalar, for underlining
	// Runs are the pieces of a Text of which some are elements of their own, such as the currency of a price. They say
	// what Text says; nil for all other texts.
	Runs []Run
}

// Run is a piece of a text.
type Run struct {
	Text string
	Part string // of the section, "" for none: the run can be styled as one
	// for programs: of no part, a day (YYYY-MM-DD, HTML 4.5.14); of a price, its amount or currency (ISO 4217)
	Is string
}

// Entry is a key of a Map with its value.
type Entry struct {
	Key    string
	KeyPos diag.Position
	Value  *Value
}

// Get returns the value of a key, nil when it is not there.
func (v *Value) Get(key string) *Value {
	if v == nil || v.Kind != Map {
		return nil
	}
	for i := range v.Entries {
		if v.Entries[i].Key == key {
			return v.Entries[i].Value
		}
	}
	return nil
}

// Str returns the text of a scalar, "" for everything else.
func (v *Value) Str() string {
	if v == nil || v.Kind != Text {
		return ""
	}
	return v.Text
}

// Keys returns the keys of a Map.
func (v *Value) Keys() []string {
	if v == nil {
		return nil
	}
	out := make([]string, len(v.Entries))
	for i := range v.Entries {
		out[i] = v.Entries[i].Key
	}
	return out
}

// Empty reports a value that shows nothing: empty text, an empty list or a key without a value.
func (v *Value) Empty() bool {
	return v == nil || v.Kind == Null || v.Kind == Text && v.Text == "" || v.Kind == List && len(v.Items) == 0 ||
		v.Kind == Map && len(v.Entries) == 0
}

// Equal compares contents, not places.
func (v *Value) Equal(o *Value) bool {
	if v == nil || o == nil {
		return v == o
	}
	if v.Kind != o.Kind || v.Text != o.Text || len(v.Items) != len(o.Items) || len(v.Entries) != len(o.Entries) {
		return false
	}
	for i := range v.Items {
		if !v.Items[i].Equal(o.Items[i]) {
			return false
		}
	}
	for i := range v.Entries {
		if v.Entries[i].Key != o.Entries[i].Key || !v.Entries[i].Value.Equal(o.Entries[i].Value) {
			return false
		}
	}
	return true
}

// Clone gives an independent copy of a value and all in it; that of nil is nil.
func (v *Value) Clone() *Value {
	if v == nil {
		return nil
	}
	c := *v
	c.Items, c.Entries = nil, nil
	for _, it := range v.Items {
		c.Items = append(c.Items, it.Clone())
	}
	for _, e := range v.Entries {
		e.Value = e.Value.Clone()
		c.Entries = append(c.Entries, e)
	}
	return &c
}

// File is one YAML file as it lies on disk.
type File struct {
	Path   string // relative to the site, with slashes
	Source string
	Root   *Value
	node   *yaml.Node
	lines  []int // byte offset of each line, as YAML counts them
	odd    bool  // YAML counts other lines than editors do

	Renamed []Renamed // what it calls as an earlier version did

	inLines bool // Edit.Lines of the edit that is being made
}

// Limits keep hostile files from eating the machine.
const (
	maxBytes = 16 << 20
	maxNodes = 2_000_000
)

var errTooLarge = errors.New("the file expands to more than two million values")

var errTooDeep = fmt.Errorf("values are nested over %d deep, which is the most", mostDeep)

// parseFile reads a YAML file with the position of every value.
func parseFile(path, source string) (*File, diag.Problems) {
	f := &File{Path: path, Source: source}
	f.lines, f.odd = lineStarts(source)
	if len(source) > maxBytes {
		return f, diag.Problems{{Position: diag.Position{File: path}, Severity: diag.Error, Rule: "too-large",
			Text: "the file is larger than 16 MB", Expected: "a page of text; is this the right file?"}}
	}
	if !utf8.ValidString(source) || strings.ContainsRune(source, 0) {
		return f, diag.Problems{f.problem(invalidAt(source), 1, diag.Problem{Rule: "not-text",
			Text:     "this is not a text file in UTF-8",
			Expected: "YAML text; save the file as UTF-8"})}
	}
	var doc, second yaml.Node
	dec := yaml.NewDecoder(strings.NewReader(source))
	if err := dec.Decode(&doc); err != nil && !errors.Is(err, io.EOF) {
		return f, diag.Problems{f.syntax(err)}
	}
	if err := dec.Decode(&second); err == nil && len(second.Content) > 0 {
		p := f.at(f.pos(second.Content[0].Line, 1), 1, diag.Problem{Rule: "yaml",
			Text:     "a second document begins here, and only the first of a file is read",
			Expected: "one document: take out the line ---"})
		return f, diag.Problems{p}
	} else if err != nil && !errors.Is(err, io.EOF) {
		return f, diag.Problems{f.syntax(err)}
	}
	if doc.Kind == 0 || len(doc.Content) == 0 {
		f.Root = &Value{Kind: Null, Pos: diag.Position{File: path}}
		return f, nil
	}
	f.node = doc.Content[0]
	c := &converter{f: f}
	f.Root = c.value(f.node, 0)
	switch {
	case c.too != nil:
		return f, diag.Problems{f.at(f.pos(c.too.Line, c.too.Column), 1,
			diag.Problem{Rule: "too-large", Text: errTooLarge.Error(),
				Expected: "fewer aliases inside aliases"})}
	case c.deep != nil:
		return f, diag.Problems{f.at(f.pos(c.deep.Line, c.deep.Column), 1,
			diag.Problem{Rule: "too-deep", Text: errTooDeep.Error(),
				Expected: "values that a page can show"})}
	}
	return f, c.problems
}

// mostDeep is how deep values may be nested; pages have ten levels.
const mostDeep = 200

// tooDeep gives the bracket that opens one level too many, -1 without one. Brackets in texts count as well, unless
// they are closed.
func tooDeep(source string) int {
	depth := 0
	for i := 0; i < len(source); i++ {
		switch source[i] {
		case '[', '{':
			if depth++; depth > mostDeep {
				return i
			}
		case ']', '}':
			depth = max(0, depth-1)
		}
	}
	return -1
}

// lineStarts gives where the lines of a text begin as YAML counts them: it breaks lines at some characters where
// editors do not (YAML 1.1, section 5.4). odd tells that there are such.
func lineStarts(s string) (starts []int, odd bool) {
	starts = []int{0}
	for i, r := range s {
		switch {
		case r == '\n':
			starts = append(starts, i+1)
		case r == '\r' && !strings.HasPrefix(s[i+1:], "\n"), r == '\u0085', r == '\u2028', r == '\u2029':
			starts, odd = append(starts, i+utf8.RuneLen(r)), true
		}
	}
	return starts, odd
}

// pos gives the place of a node as editors count.
func (f *File) pos(line, column int) diag.Position {
	if f.odd {
		return diag.At(f.Path, f.Source, f.offset(line, column))
	}
	return diag.Position{File: f.Path, Line: line, Column: column}
}

func invalidAt(s string) int {
	for i, r := range s {
		if r == 0 {
			return i
		}
		if r == utf8.RuneError {
			if _, n := utf8.DecodeRuneInString(s[i:]); n == 1 {
				return i
			}
		}
	}
	return 0
}

// problem places an error at a byte offset.
func (f *File) problem(offset, width int, p diag.Problem) diag.Problem {
	return f.at(diag.At(f.Path, f.Source, offset), width, p)
}

// Problem builds an error at the place of a value.
func (f *File) Problem(v *Value, rule, text, expected, try string) diag.Problem {
	return f.at(v.Pos, max(1, v.Width), diag.Problem{Rule: rule, Text: text,
		Expected: expected, Try: try})
}

// KeyProblem builds an error at the place of a key.
func (f *File) KeyProblem(e Entry, rule, text, expected, try string) diag.Problem {
	return f.at(e.KeyPos, utf8.RuneCountInString(e.Key), diag.Problem{Rule: rule, Text: text,
		Expected: expected, Try: try})
}

func (f *File) at(pos diag.Position, width int, p diag.Problem) diag.Problem {
	p.Position, p.Severity, p.Width, p.Source = pos, diag.Error, width, diag.LineOf(f.Source, pos.Line)
	return p
}

var yamlLine = regexp.MustCompile(`line (\d+): (.*)`)

// syntax explains a YAML error; the usual accidents get their own words.
func (f *File) syntax(err error) diag.Problem {
	line, text := 1, strings.TrimPrefix(err.Error(), "yaml: ")
	if m := yamlLine.FindStringSubmatch(err.Error()); m != nil {
		line, _ = strconv.Atoi(m[1])
		text = m[2]
	} else if m := regexp.MustCompile(`unknown anchor '([^']*)'`).FindStringSubmatch(err.Error()); m != nil {
		if i := strings.Index(f.Source, "*"+m[1]); i >= 0 {
			p := f.problem(i, len(m[1])+1, diag.Problem{Rule: "yaml",
				Text:     "a text that starts with * means something else in YAML",
				Expected: "quotes around the text"})
			p.Try = `"` + strings.TrimSpace(strings.SplitN(f.Source[i:], "\n", 2)[0]) + `"`
			return p
		}
	}
	if strings.Contains(text, "exceeded max depth") {
		return f.problem(max(0, tooDeep(f.Source)), 1, diag.Problem{Rule: "too-deep", Text: errTooDeep.Error(),
			Expected: "values that a page can show"})
	}
	if strings.Contains(text, "control characters") {
		return f.problem(f.controlChar(), 1, diag.Problem{Rule: "not-text", Text: "this is not a text file in UTF-8",
			Expected: "YAML text without control characters"})
	}
	line = f.pos(min(max(1, line), len(f.lines)), 1).Line
	src := diag.LineOf(f.Source, line)
	p := diag.Problem{Position: diag.Position{File: f.Path, Line: line, Column: firstColumn(src)},
		Severity: diag.Error, Rule: "yaml", Text: "the YAML cannot be read here: " + text, Source: src, Width: 1,
		Expected: "a key, a colon and a value, indented by spaces under what it belongs to"}
	switch {
	case strings.Contains(text, "mapping values are not allowed"):
		// The parser names the line of the second colon or the one before it.
		for l := line; l <= line+1 && l <= len(f.lines); l++ {
			s := diag.LineOf(f.Source, l)
			if first := strings.Index(s, ": "); first >= 0 && strings.Contains(s[first+2:], ": ") {
				value := strings.TrimRight(s[first+2:], "\r")
				p.Line, p.Column, p.Source, p.Width = l, utf8.RuneCountInString(s[:first+2])+1, s,
					utf8.RuneCountInString(value)
				p.Text, p.Expected = "a text with a colon in it looks like a second key", "quotes around the text"
				p.Try = s[:first+2] + strconv.Quote(value)
				p.Try = strings.TrimSpace(p.Try)
				break
			}
		}
	case strings.Contains(text, "found character that cannot start any token") && strings.ContainsRune(src, '\t'):
		p.Text, p.Expected = "a tab stands where YAML wants spaces", "spaces for indentation"
		p.Column = utf8.RuneCountInString(src[:strings.IndexByte(src, '\t')]) + 1
	case strings.Contains(text, "cannot start any token"), strings.Contains(text,
		"did not find expected alphabetic or numeric"):
		p.Expected = "quotes around a text that starts with @, `, %, & or *"
		for l := max(1, line-1); l <= min(line+1, len(f.lines)); l++ {
			s := strings.TrimRight(diag.LineOf(f.Source, l), "\r")
			m := oddStart.FindStringSubmatchIndex(s)
			if m == nil {
				continue
			}
			value := s[m[2]:]
			p.Line, p.Column, p.Source, p.Width = l, utf8.RuneCountInString(s[:m[2]])+1, s,
				utf8.RuneCountInString(value)
			p.Text = "a text that starts with " + value[:1] + " means something else in YAML"
			p.Expected, p.Try = "quotes around the text", strconv.Quote(value)
			break
		}
	}
	return p
}

// oddStart finds a value that begins with a character that YAML keeps for itself.
var oddStart = regexp.MustCompile("(?:: |- )([*&@`%].*)$")

func (f *File) controlChar() int {
	for i, r := range f.Source {
		control := r < 32 && r != '\n' && r != '\r' && r != '\t' || r == 127
		if control {
			return i
		}
	}
	return 0
}

func firstColumn(line string) int {
	return len(line) - len(strings.TrimLeft(line, " \t")) + 1
}

type converter struct {
	f        *File
	count    int
	too      *yaml.Node // where there were too many values
	deep     *yaml.Node // where they were nested too deep
	problems diag.Problems
}

// offset converts a node's line and column to a byte offset.
func (f *File) offset(line, col int) int {
	if line < 1 || line > len(f.lines) {
		return len(f.Source)
	}
	at := f.lines[line-1]
	for i := 1; i < col && at < len(f.Source); i++ {
		_, n := utf8.DecodeRuneInString(f.Source[at:])
		at += n
	}
	return at
}

func (c *converter) value(n *yaml.Node, depth int) *Value {
	c.count++
	v := &Value{Pos: c.f.pos(n.Line, n.Column)}
	switch {
	case c.too != nil || c.deep != nil:
		return v
	case c.count > maxNodes:
		c.too = n
		return v
	case depth > mostDeep:
		c.deep = n
		return v
	}
	switch n.Kind {
	case yaml.AliasNode:
		a := c.value(n.Alias, depth+1)
		a.Pos = v.Pos
		return a
	case yaml.ScalarNode:
		v.Text = n.Value
		v.Width = utf8.RuneCountInString(n.Value)
		if n.Style&(yaml.DoubleQuotedStyle|yaml.SingleQuotedStyle) != 0 {
			v.Width += 2
		}
		if n.Tag == "!!null" && n.Value == "" && n.Style == 0 {
			v.Kind = Null
		}
	case yaml.SequenceNode:
		v.Kind = List
		for _, k := range n.Content {
			v.Items = append(v.Items, c.value(k, depth+1))
		}
	case yaml.MappingNode:
		v.Kind = Map
		seen := map[string]*yaml.Node{}
		for i := 0; i+1 < len(n.Content); i += 2 {
			k, val := n.Content[i], n.Content[i+1]
			if k.Tag == "!!merge" {
				c.merge(v, c.value(val, depth+1))
				continue
			}
			e := Entry{Key: k.Value, KeyPos: c.f.pos(k.Line, k.Column), Value: c.value(val, depth+1)}
			if old := seen[k.Value]; old != nil {
				c.problems = append(c.problems, c.f.KeyProblem(e, "duplicate-key",
					fmt.Sprintf("the key %q stands here a second time", k.Value),
					fmt.Sprintf("each key once; the first is on line %d", c.f.pos(old.Line, old.Column).Line), ""))
				continue
			}
			seen[k.Value] = k
			c.accidents(e, val)
			v.Entries = append(v.Entries, e)
		}
	}
	return v
}

// merge adds the entries of a YAML merge key (<<) that the map does not have itself.
func (c *converter) merge(v, from *Value) {
	list := []*Value{from}
	if from.Kind == List {
		list = from.Items
	}
	for _, m := range list {
		for _, e := range m.Entries {
			if v.Get(e.Key) == nil {
				v.Entries = append(v.Entries, e)
			}
		}
	}
}

// accidents catches texts that YAML took for something else.
func (c *converter) accidents(e Entry, n *yaml.Node) {
	if e.Value.Kind == Null {
		line := diag.LineOf(c.f.Source, e.KeyPos.Line)
		if i := strings.Index(line, e.Key+": #"); i >= 0 && len(line) > i+len(e.Key)+3 &&
			line[i+len(e.Key)+3] != ' ' {
			at := i + len(e.Key) + 2
			p := c.f.at(diag.Position{File: c.f.Path, Line: e.KeyPos.Line,
				Column: utf8.RuneCountInString(line[:at]) +
					1}, len(strings.TrimSpace(line[at:])), diag.Problem{Rule: "yaml", Text: "a text that starts with # is a comment in YAML",
				Expected: "quotes around the text", Try: e.Key + ": " + strconv.Quote(strings.TrimSpace(line[at:]))})
			c.problems = append(c.problems, p)
		}
	}
	isAddress := n.Kind == yaml.MappingNode && n.Style&yaml.FlowStyle != 0 && len(n.Content) == 2 &&
		n.Content[1].Tag == "!!null" && strings.Contains(n.Content[0].Value, ".")
	if isAddress {
		p := c.f.Problem(e.Value, "yaml", "a text that starts with { is a map in YAML", "quotes around a token",
			e.Key+`: "{`+n.Content[0].Value+`}"`)
		p.Width = len(n.Content[0].Value) + 2
		c.problems = append(c.problems, p)
	}
}

// NewText returns a scalar.
func NewText(s string) *Value { return &Value{Kind: Text, Text: s} }

// NewMap returns a map of alternating keys and values.
func NewMap(pairs ...any) *Value {
	v := &Value{Kind: Map}
	for i := 0; i+1 < len(pairs); i += 2 {
		v.Entries = append(v.Entries, Entry{Key: pairs[i].(string), Value: pairs[i+1].(*Value)})
	}
	return v
}

// ParseValue reads YAML text given on a command line.
func ParseValue(source string) (*Value, diag.Problems) {
	f, problems := parseFile("value", source)
	return f.Root, problems
}

// Renamed is something that a file calls as an earlier version did. It is read as what it is called now.
type Renamed struct {
	At            diag.Position
	What, Was, Is string // what it is: a theme, a part ...
}
