package site

import (
	"regexp"
	"strconv"
	"strings"

	"go.yaml.in/yaml/v3"
)

// numberForm finds what readers of YAML 1.1 or 1.2 take for a number or a date.
var numberForm = regexp.MustCompile(`^[-+]?(\.[0-9][0-9_]*|[0-9][0-9_]*\.?[0-9_]*)([eE][-+]?[0-9]+)?$|^[-+]?0[xXoObB][0-9a-fA-F_]+$|^[-+]?\.(inf|Inf|INF)$|^\.(nan|NaN|NAN)$|^[-+]?[0-9][0-9_]*(:[0-5]?[0-9])+(\.[0-9_]*)?$|^[0-9]{4}-[0-9]{1,2}-[0-9]{1,2}`)

// otherwise reports a text that some reader takes for a number which it would write in another way: 1.0, 0x1f, 12:30.
func otherwise(text string) bool {
	if !numberForm.MatchString(strings.ReplaceAll(text, "_", "")) {
		return false
	}
	v, err := strconv.ParseFloat(text, 64)
	return err != nil || text == "-0" || strconv.FormatFloat(v, 'f', -1, 64) != text
}

// plainSafe reports whether text can stand unquoted: written that way it reads back as itself.
func plainSafe(text string, flow bool) bool {
	if text == "" || strings.ContainsAny(text, "\n\r\t") || strings.TrimSpace(text) != text || otherwise(text) {
		return false
	}
	src := "k: " + text
	if flow {
		src = "[" + text + "]"
	}
	var doc yaml.Node
	if yaml.Unmarshal([]byte(src), &doc) != nil || len(doc.Content) != 1 {
		return false
	}
	root := doc.Content[0]
	n := root
	switch {
	case flow && root.Kind == yaml.SequenceNode && len(root.Content) == 1:
		n = root.Content[0]
	case !flow && root.Kind == yaml.MappingNode && len(root.Content) == 2:
		n = root.Content[1]
	default:
		return false
	}
	return n.Kind == yaml.ScalarNode && n.Style == 0 && n.Value == text && n.Tag != "!!null" && n.LineComment == "" &&
		n.Anchor == ""
}

// renderScalar writes text in the style it had before, if that style can hold it.
func renderScalar(text string, style yaml.Style, flow bool) string {
	switch {
	case style&yaml.SingleQuotedStyle != 0 && !strings.ContainsAny(text, "\n\r\t"):
		return "'" + strings.ReplaceAll(text, "'", "''") + "'"
	case style&yaml.DoubleQuotedStyle == 0 && plainSafe(text, flow):
		return text
	}
	return doubleQuoted(text)
}

func doubleQuoted(text string) string {
	var b strings.Builder
	b.WriteByte('"')
	for _, r := range text {
		switch {
		case r == '"' || r == '\\':
			b.WriteByte('\\')
			b.WriteRune(r)
		case r == '\n':
			b.WriteString(`\n`)
		case r == '\t':
			b.WriteString(`\t`)
		case r == '\r':
			b.WriteString(`\r`)
		case r < 32 || r == 0x85 || r == 0xa0 || r == 0x2028 || r == 0x2029 || r == 0xfeff || r == 127:
			b.WriteString(`\u` + strings.Repeat("0", 4-len(strconv.FormatInt(int64(r), 16))) +
				strconv.FormatInt(int64(r), 16))
		default:
			b.WriteRune(r)
		}
	}
	return b.String() + `"`
}

func renderKey(key string, flow bool) string {
	if plainSafe(key, flow) && !strings.Contains(key, ": ") && !strings.HasSuffix(key, ":") {
		return key
	}
	return doubleQuoted(key)
}

func renderFlow(v *Value) string {
	switch {
	case v == nil || v.Kind == Null:
		return `""`
	case v.Kind == Text:
		return renderScalar(v.Text, 0, true)
	case v.Kind == List:
		parts := make([]string, len(v.Items))
		for i, it := range v.Items {
			parts[i] = renderFlow(it)
		}
		return "[" + strings.Join(parts, ", ") + "]"
	}
	parts := make([]string, len(v.Entries))
	for i, e := range v.Entries {
		parts[i] = renderKey(e.Key, true) + ": " + renderFlow(e.Value)
	}
	return "{" + strings.Join(parts, ", ") + "}"
}

// writing is how values are written into a file.
type writing struct {
	eol   string
	lines bool // every map in lines of its own
}

// afterKey writes a value as it stands after "key:" in block style, at the indentation of the key. The result
// starts with a space or a line break and has no final line break.
func (w writing) afterKey(v *Value, indent int) string {
	switch {
	case v.Kind == Text:
		return " " + renderScalar(v.Text, 0, false)
	case v.Kind == Null:
		return ""
	case v.Empty() || w.short(v):
		return " " + renderFlow(v)
	}
	return w.eol + w.block(v, indent+2)
}

// short tells what stands on one line: small maps and lists of plain texts, not of blocks.
func (w writing) short(v *Value) bool {
	if v.Kind == Map && w.lines {
		return false
	}
	for _, it := range v.Items {
		if it.Kind != Text {
			return false
		}
	}
	for _, e := range v.Entries {
		if e.Value.Kind != Text {
			return false
		}
	}
	return len(renderFlow(v)) <= 72
}

// block writes a map or list in block style, without a final line break.
func (w writing) block(v *Value, indent int) string {
	pad := strings.Repeat(" ", indent)
	var lines []string
	if v.Kind == List {
		for _, it := range v.Items {
			lines = append(lines, pad+"-"+w.item(it, indent))
		}
		return strings.Join(lines, w.eol)
	}
	for _, e := range v.Entries {
		lines = append(lines, pad+renderKey(e.Key, false)+":"+w.afterKey(e.Value, indent))
	}
	return strings.Join(lines, w.eol)
}

// item writes a list item as it stands after its dash.
func (w writing) item(v *Value, indent int) string {
	switch {
	case v.Kind == Text:
		return " " + renderScalar(v.Text, 0, false)
	case v.Empty() || w.short(v) && v.Get("name") == nil:
		return " " + renderFlow(v)
	}
	return " " + strings.TrimLeft(w.block(v, indent+2), " ")
}

// String returns the value in YAML flow style, for messages.
func (v *Value) String() string { return renderFlow(v) }
