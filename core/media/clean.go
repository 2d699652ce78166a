package media

import (
	"bytes"
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"regexp"
	"slices"
	"strings"

	"ziegel/core/css/grammar"
)

// What may be in a drawing that does more than draw, for people.
const (
	aScript = "a script"
	aPage   = "a page"
	aHost   = "an address of another host"
	aFile   = "the name of another file"
)

// doubtful reports a drawing that may be more than one: nearly all are seen by their letters to be harmless, and are
// not read any further. It looks at bytes, because expressions take seconds for a drawing of megabytes.
func doubtful(data []byte) bool {
	text := bytes.ToLower(data)
	for _, word := range []string{"script", "foreignobject", "iframe", "<embed", "<object", "<audio", "<video",
		"handler", "listener", "animate", "<set", ":set", "import", "stylesheet", "<!doctype", "<!entity", "<![",
		"\\", "&#", "\x00", "\f", "image-set", "src("} {
		if bytes.Contains(text, []byte(word)) {
			return true
		}
	}
	for _, word := range []string{"url(", "href", "src"} { // of anything but a place in the drawing itself
		for rest := text; ; {
			at := bytes.Index(rest, []byte(word))
			if at < 0 {
				break
			}
			rest = bytes.TrimLeft(rest[at+len(word):], " \t\r\n=\"'")
			if len(rest) > 0 && rest[0] != '#' {
				return true
			}
		}
	}
	for rest := text; ; { // handlers
		at := bytes.Index(rest, []byte("on"))
		if at < 0 {
			return false
		}
		begins := at == 0 || bytes.IndexByte([]byte(" \t\r\n\"'/:"), rest[at-1]) >= 0
		rest = rest[at+2:]
		if !begins { // so that no name is read twice
			continue
		}
		if end := bytes.IndexAny(rest, " \t\r\n\"'/:<>="); end >= 0 &&
			bytes.HasPrefix(bytes.TrimLeft(rest[end:], " \t\r\n"), []byte("=")) {
			return true
		}
	}
}

// Clean takes out of an SVG drawing what is not drawing: scripts, handlers, pages inside it, addresses of other hosts
// and names of other files, document types and their entities. All else stays byte for byte. what lists what was
// there; a file that cannot be read to its end, with something doubtful in it, is an error.
func Clean(data []byte) (clean []byte, what []string, err error) {
	if !doubtful(data) {
		return data, nil, nil
	}
	c := &cleaner{data: data}
	if err := c.run(); err != nil {
		return nil, nil, fmt.Errorf("the drawing cannot be read, so nobody knows whether it only draws: %w", err)
	}
	return append(c.out, data[c.kept:]...), c.what, nil
}

type cleaner struct {
	data []byte
	out  []byte
	kept int // bytes of data that out has, or has left out
	what []string
}

func (c *cleaner) found(what string) {
	if what != "" && !slices.Contains(c.what, what) {
		c.what = append(c.what, what)
	}
}

// leaveOut drops the bytes from..to and puts other text in their place.
func (c *cleaner) leaveOut(from, to int, other string) {
	c.out = append(append(c.out, c.data[c.kept:from]...), other...)
	c.kept = to
}

func (c *cleaner) run() error {
	if bytes.IndexByte(c.data, 0) >= 0 {
		return errors.New("it is not in UTF-8")
	}
	d := xml.NewDecoder(bytes.NewReader(c.data))
	// names and addresses are ASCII in all of them
	d.CharsetReader = func(_ string, r io.Reader) (io.Reader, error) { return r, nil }
	var open []string
	dropped := 0     // how many elements are open inside one that goes, it included
	back := 0        // the length of out before it
	inStyle := false // the text that comes is a style sheet
	for {
		begin := int(d.InputOffset())
		tok, err := d.RawToken()
		end := int(d.InputOffset())
		if errors.Is(err, io.EOF) {
			if len(open) > 0 {
				return fmt.Errorf("<%s> stays open", open[len(open)-1])
			}
			return nil
		}
		if err != nil {
			return err
		}
		switch t := tok.(type) {
		case xml.Directive:
			c.leaveOut(begin, end, "")
		case xml.ProcInst:
			if t.Target != "xml" {
				c.leaveOut(begin, end, "")
				c.found(aHost)
			}
		case xml.CharData:
			if inStyle && dropped == 0 {
				if reason := c.sheet(string(t)); reason != "" {
					dropped = 1
					c.found(reason)
				}
			}
		case xml.StartElement:
			open = append(open, t.Name.Local)
			name := strings.ToLower(t.Name.Local)
			if dropped > 0 {
				dropped++
				continue
			}
			c.leaveOut(begin, begin, "")
			back = len(c.out)
			if reason := goes(name, t.Attr); reason != "" {
				dropped = 1
				c.found(reason)
				continue
			}
			inStyle = name == "style"
			c.tag(begin, end, t)
		case xml.EndElement:
			if len(open) == 0 || open[len(open)-1] != t.Name.Local {
				return fmt.Errorf("</%s> closes nothing", t.Name.Local)
			}
			open, inStyle = open[:len(open)-1], false
			if dropped > 0 {
				if dropped--; dropped == 0 {
					c.out, c.kept = c.out[:back], end
				}
			}
		}
	}
}

// goes says why an element goes as a whole, "" when it stays.
func goes(name string, attrs []xml.Attr) string {
	switch name {
	case "script", "handler", "listener":
		return aScript
	case "foreignobject", "iframe", "embed", "object", "audio", "video", "link", "html", "body", "form":
		return aPage
	case "animate", "set", "animatemotion", "animatetransform", "discard":
		for _, a := range attrs {
			if v := strings.ToLower(strings.TrimSpace(a.Value)); strings.EqualFold(a.Name.Local, "attributeName") &&
				(strings.HasPrefix(v, "on") || strings.HasSuffix(v, "href") || v == "src") {
				return aScript
			}
		}
	}
	return ""
}

// tag drops attributes of a start tag that do more than describe a shape.
func (c *cleaner) tag(begin, end int, t xml.StartElement) {
	var bad []string
	for _, a := range t.Attr {
		name := strings.ToLower(a.Name.Local)
		reason := ""
		switch {
		case strings.HasPrefix(name, "on"):
			reason = aScript
		case a.Name.Space == "xmlns" || name == "xmlns":
		case name == "href" || name == "src":
			reason = address(a.Value, strings.EqualFold(t.Name.Local, "a"))
		case name == "style" || strings.Contains(a.Value, "(") || strings.Contains(a.Value, `\`):
			reason = c.sheet(a.Value)
		}
		if reason != "" {
			c.found(reason)
			bad = append(bad, raw(a.Name))
		}
	}
	if len(bad) == 0 {
		return
	}
	c.leaveOut(begin, end, without(string(c.data[begin:end]), bad))
}

// attribute is one of a start tag that the decoder has read, so its value stands in quotes. The space before it goes
// with it, and need not be there.
var attribute = regexp.MustCompile(`\s*([^\s=/<>"']+)\s*=\s*("[^"]*"|'[^']*')`)

// without gives a start tag without the attributes of these names. It goes from one attribute to the next, so that
// what looks like one in a value stays.
func without(tag string, names []string) string {
	return attribute.ReplaceAllStringFunc(tag, func(one string) string {
		if slices.Contains(names, attribute.FindStringSubmatch(one)[1]) {
			return ""
		}
		return one
	})
}

// raw gives the name of an attribute as it is written.
func raw(n xml.Name) string {
	if n.Space == "" {
		return n.Local
	}
	return n.Space + ":" + n.Local
}

// address says why an address goes. A link may lead to another host; what is fetched may not.
func address(v string, link bool) string {
	v = strings.ToLower(strings.Map(func(r rune) rune {
		if r <= ' ' {
			return -1
		}
		return r
	}, v))
	scheme, _, has := strings.Cut(v, ":")
	switch {
	case strings.HasPrefix(v, "#"), strings.HasPrefix(v, "data:image/") &&
		!strings.HasPrefix(v, "data:image/svg"), v == "":
		return ""
	case link && (scheme == "https" || scheme == "http" || scheme == "mailto" || scheme == "tel"), link && !has:
		return ""
	case strings.HasSuffix(scheme, "script") && has, scheme == "data":
		return aScript
	case has, strings.HasPrefix(v, "//"):
		return aHost
	}
	return aFile
}

var cssAddress = regexp.MustCompile(`(?i)url\(\s*["']?\s*([^"')]*)`)

// sheet says why a style sheet, a declaration or a value goes: it fetches something, or hides what it says.
func (c *cleaner) sheet(text string) string {
	lower := strings.ToLower(text)
	suspect := strings.Contains(lower, "@import") || strings.Contains(lower, "image-set(") ||
		strings.Contains(text, `\`) ||
		strings.Contains(lower, "expression(") || strings.Contains(lower, "src(")
	if suspect {
		return aHost
	}
	for _, m := range cssAddress.FindAllStringSubmatch(text, -1) {
		if reason := address(m[1], false); reason != "" {
			return reason
		}
	}
	if strings.Count(lower, "url(") != len(cssAddress.FindAllString(text, -1)) ||
		!strings.ContainsAny(text, "{};:") && grammar.Fetches(text) && !strings.Contains(lower, "url(") {
		return aHost
	}
	return ""
}
