package words

import (
	"cmp"
	"encoding/xml"
	"fmt"
	"io"
	"regexp"
	"slices"
	"strings"
)

// XLIFF 2.1 (OASIS, 2018): a file is a page, a unit is a text, named by its address. The marks of inline Markdown are
// spanning codes (pc), whose characters stand in originalData, and beside the code for programs that lose those:
// programs for translators keep codes as they are.

const xliffSpace = "urn:oasis:names:tc:xliff:document:2.0"

type xliffDoc struct {
	XMLName xml.Name    `xml:"urn:oasis:names:tc:xliff:document:2.0 xliff"`
	Version string      `xml:"version,attr"`
	Source  string      `xml:"srcLang,attr"`
	Target  string      `xml:"trgLang,attr,omitempty"`
	Files   []xliffFile `xml:"file"`
}

type xliffFile struct {
	ID    string      `xml:"id,attr"`
	Units []xliffUnit `xml:"unit"`
}

type xliffUnit struct {
	ID       string         `xml:"id,attr"`
	Name     string         `xml:"name,attr"`
	Space    string         `xml:"http://www.w3.org/XML/1998/namespace space,attr,omitempty"`
	Notes    *xliffNotes    `xml:"notes"`
	Data     *xliffData     `xml:"originalData"`
	Segments []xliffSegment `xml:"segment"`
}

type xliffNotes struct {
	Notes []string `xml:"note"`
}

type xliffData struct {
	Data []xliffDatum `xml:"data"`
}

type xliffDatum struct {
	ID   string `xml:"id,attr"`
	Text string `xml:",chardata"`
}

type xliffSegment struct {
	State  string       `xml:"state,attr,omitempty"`
	Source xliffInline  `xml:"source"`
	Target *xliffInline `xml:"target"`
}

type xliffInline struct {
	Space string `xml:"http://www.w3.org/XML/1998/namespace space,attr,omitempty"`
	Inner string `xml:",innerxml"`
}

// XLIFF writes texts with their translations. target is the language to translate to, "" for none.
func XLIFF(rows []Row, source, target string) (string, error) {
	doc := xliffDoc{Version: "2.1", Source: source, Target: target}
	for _, r := range rows {
		i := slices.IndexFunc(doc.Files, func(f xliffFile) bool { return f.ID == r.Page })
		if i < 0 {
			i = len(doc.Files)
			doc.Files = append(doc.Files, xliffFile{ID: r.Page})
		}
		f := &doc.Files[i]
		u := xliffUnit{ID: fmt.Sprintf("u%d", len(f.Units)+1), Name: r.Address()}
		notes := []string{}
		if r.Note != "" {
			notes = append(notes, r.Note)
		}
		if r.Was != "" {
			notes = append(notes, "the original has changed; it was: "+r.Was)
		}
		if len(notes) > 0 {
			u.Notes = &xliffNotes{notes}
		}
		codes := &codes{}
		seg := xliffSegment{State: "initial", Source: xliffInline{Inner: codes.encode(r.Text)}}
		if r.Target != "" {
			seg.Target = &xliffInline{Inner: codes.encode(r.Target)}
			if r.Was == "" {
				seg.State = "translated"
			}
		}
		if spaced(r.Text) != r.Text || spaced(r.Target) != r.Target {
			u.Space = preserve
		}
		if len(codes.data) > 0 {
			u.Data = &xliffData{}
			for k, d := range codes.data {
				u.Data.Data = append(u.Data.Data, xliffDatum{fmt.Sprintf("d%d", k+1), d})
			}
		}
		u.Segments = []xliffSegment{seg}
		f.Units = append(f.Units, u)
	}
	out, err := xml.MarshalIndent(doc, "", " ")
	return xml.Header + string(out) + "\n", err
}

// preserve is what xml:space says of white space that counts.
const preserve = "preserve"

// spaced writes a text as it is read where white space does not count: one space for several, none at the ends.
func spaced(s string) string {
	return strings.Join(
		strings.FieldsFunc(s, func(r rune) bool { return r == ' ' || r == '\t' || r == '\n' || r == '\r' }),
		" ",
	)
}

// codes are the marks of Markdown in one text and its translation: each kind of mark is one datum.
type codes struct{ data []string }

func (c *codes) id(mark string) string {
	i := slices.Index(c.data, mark)
	if i < 0 {
		i = len(c.data)
		c.data = append(c.data, mark)
	}
	return fmt.Sprintf("d%d", i+1)
}

// inlineMark finds a span of inline Markdown (CommonMark, 6): strong, emphasis, code, a link.
var inlineMark = regexp.MustCompile(
	"(\\*\\*|__)(\\S(?:.*?\\S)?)(\\*\\*|__)|([*_])([^\\s*_](?:[^*_]*?[^\\s*_])?)([*_])|(`)([^`]+)(`)|(\\[)([^\\[\\]]+)(\\]\\([^()]*\\))",
)

// mostMarked is how long a text may be whose marks are looked for, bytes.
const mostMarked = 16 << 10

// encode writes a text with its marks as codes.
func (c *codes) encode(text string) string {
	if len(text) > mostMarked {
		return escapeXML(text)
	}
	n := 0
	var walk func(s string) string
	walk = func(s string) string {
		var b strings.Builder
		at := 0
		for _, m := range inlineMark.FindAllStringSubmatchIndex(s, -1) {
			for g := 1; g < 12; g += 3 {
				if m[2*g] < 0 {
					continue
				}
				open, inner, closing := s[m[2*g]:m[2*g+1]], s[m[2*g+2]:m[2*g+3]], s[m[2*g+4]:m[2*g+5]]
				if g < 7 && open != closing {
					break
				}
				b.WriteString(escapeXML(s[at:m[0]]))
				n++
				fmt.Fprintf(&b, `<pc id="%d" dataRefStart="%s" dataRefEnd="%s" dispStart="%s" dispEnd="%s">`,
					n, c.id(open), c.id(closing), escapeXML(open), escapeXML(closing))
				if open == "`" {
					b.WriteString(escapeXML(inner))
				} else {
					b.WriteString(walk(inner))
				}
				b.WriteString("</pc>")
				at = m[1]
			}
		}
		b.WriteString(escapeXML(s[at:]))
		return b.String()
	}
	return walk(text)
}

func escapeXML(s string) string {
	var b strings.Builder
	_ = xml.EscapeText(&b, []byte(strings.ToValidUTF8(s, "\ufffd")))
	return strings.ReplaceAll(b.String(), "&#xA;", "\n")
}

// ReadXLIFF reads texts with their translations. A unit in which a code is lost or broken comes back with its problem
// in Note and without a translation.
func ReadXLIFF(file string, data []byte, target string) ([]Row, error) {
	var doc xliffDoc
	if err := xml.Unmarshal(data, &doc); err != nil {
		return nil, fmt.Errorf("%s: %w; an XLIFF 2 document is expected (%s)", file, err, xliffSpace)
	}
	if target != "" && doc.Target != "" && !strings.EqualFold(doc.Target, target) {
		return nil, fmt.Errorf("%s has translations to %s, not to %s", file, doc.Target, target)
	}
	var out []Row
	for _, f := range doc.Files {
		for _, u := range f.Units {
			page, block, path, ok := ParseAddress(u.Name)
			if !ok {
				return nil, fmt.Errorf(
					"%s: the unit %s of %s has no address of a text as its name, but %q",
					file,
					u.ID,
					f.ID,
					u.Name,
				)
			}
			r := Row{Page: page, Block: block, Path: path}
			marks := map[string]string{}
			if u.Data != nil {
				for _, d := range u.Data.Data {
					marks[d.ID] = d.Text
				}
			}
			source, translated := &inlineText{marks: marks}, &inlineText{marks: marks}
			as := spaced
			if u.Space == preserve {
				as = func(s string) string { return s }
			}
			for _, s := range u.Segments {
				r.Done = s.State != "" && s.State != "initial"
				if err := source.add(s.Source.Inner); err != nil {
					return nil, fmt.Errorf("%s: the source of %s: %w", file, u.Name, err)
				}
				if s.Target == nil {
					continue
				}
				if err := translated.add(s.Target.Inner); err != nil {
					return nil, fmt.Errorf("%s: the translation of %s: %w", file, u.Name, err)
				}
			}
			r.Text, r.Target = as(source.String()), as(translated.String())
			if lost := cmp.Or(translated.unknown, lostCodes(source.codes, translated.codes, marks)); r.Target != "" &&
				lost != "" {
				r.Note, r.Target = lost, ""
			}
			out = append(out, r)
		}
	}
	return out, nil
}

// lostCodes says which codes of a source its translation has not.
func lostCodes(source, target []string, marks map[string]string) string {
	left := slices.Clone(target)
	for _, id := range source {
		if i := slices.Index(left, id); i >= 0 {
			left = slices.Delete(left, i, i+1)
			continue
		}
		return fmt.Sprintf("the code %s of the original is not in the translation", marks[id])
	}
	if len(left) > 0 {
		return fmt.Sprintf("the translation has a code more than the original: %s", marks[left[0]])
	}
	return ""
}

// LostMarks says which marks of inline Markdown an original has and its translation has not, "" for none.
func LostMarks(original, translation string) string {
	a, b := &codes{}, &codes{}
	a.encode(original)
	b.encode(translation)
	for _, d := range a.data {
		if strings.HasPrefix(d, "](") { // a link may lead elsewhere
			continue
		}
		if !slices.Contains(b.data, d) {
			return fmt.Sprintf("the mark %s of the original is not in the translation", d)
		}
	}
	if m := element.FindString(translation); m != "" && !strings.Contains(original, m) {
		return fmt.Sprintf("it has %s, which is shown as it stands: fields have no elements", m)
	}
	return ""
}

var element = regexp.MustCompile(`</?[a-zA-Z][^>]*>`)

// inlineText is inline content that is read: the text with the characters of its codes, and the codes in their order.
type inlineText struct {
	strings.Builder
	marks   map[string]string // characters of codes, by the reference to them
	codes   []string
	unknown string // what is wrong with a code that has no characters
}

// mark gives the characters of a code: those in originalData, else those that are shown for it.
func (t *inlineText) mark(ref, shown string) string {
	if t.marks[ref] == "" {
		t.marks[ref] = shown
	}
	if t.marks[ref] == "" {
		t.unknown = fmt.Sprintf("the code %s has no characters: its originalData is missing", ref)
	}
	return t.marks[ref]
}

// add reads the content of a segment.
func (t *inlineText) add(inner string) error {
	d := xml.NewDecoder(strings.NewReader("<x>" + inner + "</x>"))
	var ends []string
	for {
		token, err := d.Token()
		if err == io.EOF {
			return nil
		}
		if err != nil {
			return err
		}
		switch x := token.(type) {
		case xml.CharData:
			t.Write(x)
		case xml.StartElement:
			has := map[string]string{}
			for _, a := range x.Attr {
				has[a.Name.Local] = a.Value
			}
			end := ""
			if ref := has["dataRefStart"] + has["dataRef"]; ref != "" {
				t.WriteString(t.mark(ref, has["dispStart"]+has["disp"]))
				t.codes = append(t.codes, ref)
			}
			if ref := has["dataRefEnd"]; ref != "" {
				end = t.mark(ref, has["dispEnd"])
			}
			ends = append(ends, end)
		case xml.EndElement:
			t.WriteString(ends[len(ends)-1])
			ends = ends[:len(ends)-1]
		}
	}
}
