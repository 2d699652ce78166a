// Package comments reads and keeps what clients say of pages: documents after the W3C Web Annotation model, one per
// reader, below reviews/ of a site. A comment is pinned to a page, a block or a part; answers and marks that something
// is done are annotations of it.
package comments

import (
	"bytes"
	"cmp"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"path"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"

	"ziegel/core/diag"
)

// Dir is the folder of a site that keeps the comments.
const Dir = "reviews"

// Context is the JSON-LD context of annotations (W3C Web Annotation Data Model, section 3).
const Context = "http://www.w3.org/ns/anno.jsonld"

// MostBytes is how large a document of comments may be.
const MostBytes = 8 << 20

// Document is a page of annotations, as a file holds it.
type Document struct {
	Context string        `json:"@context"`
	Type    string        `json:"type"` // AnnotationPage
	Items   []*Annotation `json:"items"`
}

// Annotation is one thing that somebody said.
type Annotation struct {
	ID         string  `json:"id"`
	Type       string  `json:"type"`       // Annotation
	Motivation string  `json:"motivation"` // commenting, replying, assessing
	Creator    *Person `json:"creator,omitempty"`
	Created    string  `json:"created,omitempty"` // RFC 3339
	Body       Body    `json:"body"`
	Target     Target  `json:"target"`
	Number     int     `json:"number,omitempty"` // by which the site's owner speaks of it
}

// Person wrote it.
type Person struct {
	Type string `json:"type"`
	Name string `json:"name"`
}

// Body is the text; one with the purpose tagging is a mark: done, or open.
type Body struct {
	Type    string `json:"type"` // TextualBody
	Purpose string `json:"purpose,omitempty"`
	Value   string `json:"value"`
	Format  string `json:"format,omitempty"`
}

// Target is what an annotation speaks of: another annotation, by its id, or a place on a page.
type Target struct {
	Of        string // the id of an annotation
	Source    string // the name of a page
	Selectors []Selector
}

// Selector is a place: a FragmentSelector with plans, plans.card or plans.card[2], or a TextQuoteSelector with the
// words that stood there.
type Selector struct {
	Type  string `json:"type"`
	Value string `json:"value,omitempty"`
	Exact string `json:"exact,omitempty"`
}

type target struct {
	Source   string     `json:"source"`
	Selector []Selector `json:"selector,omitempty"`
}

// MarshalJSON writes an id as it is.
func (t Target) MarshalJSON() ([]byte, error) {
	if t.Of != "" {
		return json.Marshal(t.Of)
	}
	return json.Marshal(target{t.Source, t.Selectors})
}

// UnmarshalJSON reads an id, or a place; one selector need not be a list.
func (t *Target) UnmarshalJSON(data []byte) error {
	if len(data) > 0 && data[0] == '"' {
		return json.Unmarshal(data, &t.Of)
	}
	var w struct {
		Source   string          `json:"source"`
		Selector json.RawMessage `json:"selector"`
	}
	if err := json.Unmarshal(data, &w); err != nil {
		return err
	}
	t.Source = w.Source
	switch {
	case len(w.Selector) == 0:
	case w.Selector[0] == '{':
		var one Selector
		if err := json.Unmarshal(w.Selector, &one); err != nil {
			return err
		}
		t.Selectors = []Selector{one}
	default:
		return json.Unmarshal(w.Selector, &t.Selectors)
	}
	return nil
}

// Place is what a comment is pinned to: plans.card[2], "" for the page as a whole.
func (t Target) Place() string { return t.selector("FragmentSelector").Value }

// Quote is the words that stood there.
func (t Target) Quote() string { return t.selector("TextQuoteSelector").Exact }

func (t Target) selector(kind string) Selector {
	for _, s := range t.Selectors {
		if s.Type == kind {
			return s
		}
	}
	return Selector{}
}

var placeForm = regexp.MustCompile(`^([^\s./\[\]]+)(?:\.([a-z0-9-]+)(?:\[(\d+)\])?)?$`)

// Pin is a place taken apart.
type Pin struct {
	Block, Part string
	Item        int // from 1, 0 for none
}

// PinOf reads a place; ok is false for what is none. The page as a whole is the empty Pin.
func PinOf(place string) (p Pin, ok bool) {
	if place == "" {
		return p, true
	}
	m := placeForm.FindStringSubmatch(place)
	if m == nil {
		return p, false
	}
	p.Block, p.Part = m[1], m[2]
	p.Item, _ = strconv.Atoi(m[3])
	return p, true
}

func (p Pin) String() string {
	s := p.Block
	if p.Part != "" {
		s += "." + p.Part
	}
	if p.Item > 0 {
		s += "[" + strconv.Itoa(p.Item) + "]"
	}
	return s
}

// Read reads a document of comments. file is its name, for errors: what is no JSON is told with line and column, what
// is no comment with its place in the list.
func Read(file string, data []byte) (*Document, error) {
	if len(data) > MostBytes {
		return nil, fmt.Errorf("%s has %d MB: comments have 8 at the most", file, len(data)>>20)
	}
	data = bytes.TrimPrefix(data, []byte("\ufeff"))
	d := &Document{}
	if err := json.Unmarshal(data, d); err != nil {
		at := int64(0)
		var syntax *json.SyntaxError
		var kind *json.UnmarshalTypeError
		switch {
		case errors.As(err, &syntax):
			at = syntax.Offset
		case errors.As(err, &kind):
			at = kind.Offset
		}
		p := diag.At(file, string(data), int(max(0, at-1)))
		return nil, diag.Problems{{Position: p, Severity: diag.Error, Rule: "no-comments",
			Text: "this is no document of comments: " + err.Error(), Source: diag.LineOf(string(data), p.Line),
			Expected: "the file as the review page wrote it (Download comments)"}}
	}
	if d.Type != "AnnotationPage" {
		return nil, fmt.Errorf("%s is JSON and holds no comments: its type is %q and not AnnotationPage", file, d.Type)
	}
	ids := map[string]bool{}
	for i, a := range d.Items {
		bad := func(what string) error { return fmt.Errorf("%s: annotation %d %s", file, i+1, what) }
		switch {
		case a == nil || a.Type != "Annotation":
			return nil, bad("is no annotation")
		case a.ID == "":
			return nil, bad("has no id")
		case ids[a.ID]:
			return nil, bad("has the id of another one, " + a.ID)
		case !slices.Contains([]string{"commenting", "replying", "assessing"}, a.Motivation):
			return nil, bad(
				fmt.Sprintf("has the motivation %q: it is commenting, replying or assessing", a.Motivation),
			)
		case strings.TrimSpace(a.Body.Value) == "":
			return nil, bad("says nothing")
		case a.Motivation == "commenting" && a.Target.Source == "":
			return nil, bad("names no page")
		case a.Motivation != "commenting" && a.Target.Of == "":
			return nil, bad("answers nothing: its target is no id")
		case a.Motivation == "assessing" && a.Body.Value != "done" && a.Body.Value != "open":
			return nil, bad(fmt.Sprintf("is marked %q: marks are done and open", a.Body.Value))
		}
		if _, ok := PinOf(a.Target.Place()); !ok {
			return nil, bad(fmt.Sprintf("is pinned to %q, which is no place of a page", a.Target.Place()))
		}
		ids[a.ID] = true
	}
	return d, nil
}

// Write gives a document as a file.
func (d *Document) Write() string {
	d.Context, d.Type = Context, "AnnotationPage"
	if d.Items == nil {
		d.Items = []*Annotation{}
	}
	var out bytes.Buffer
	enc := json.NewEncoder(&out)
	enc.SetEscapeHTML(false)
	enc.SetIndent("", "  ")
	_ = enc.Encode(d)
	return out.String()
}

// Merge takes in the annotations of another document that are not there yet, and gives how many there were. What is
// there under the same id stays as it is: kept comments are not written anew by an older file.
func (d *Document) Merge(other *Document) (added int) {
	known := map[string]bool{}
	for _, a := range d.Items {
		known[a.ID] = true
	}
	for _, a := range other.Items {
		if !known[a.ID] {
			d.Items = append(d.Items, a)
			added++
		}
	}
	return added
}

// File is a kept document.
type File struct {
	Path string // reviews/ines.json
	Text string
	*Document
}

// Kept reads all documents of a site, by name. Files that are none are told; the others are given all the same.
func Kept(dir fs.FS) ([]*File, error) {
	list, err := fs.ReadDir(dir, Dir)
	if err != nil {
		if errors.Is(err, fs.ErrNotExist) {
			return nil, nil
		}
		return nil, err
	}
	var out []*File
	var wrong []error
	for _, e := range list {
		if e.IsDir() || path.Ext(e.Name()) != ".json" {
			continue
		}
		name := path.Join(Dir, e.Name())
		data, err := fs.ReadFile(dir, name)
		if err == nil {
			var d *Document
			if d, err = Read(name, data); err == nil {
				out = append(out, &File{name, string(data), d})
			}
		}
		if err != nil {
			wrong = append(wrong, err)
		}
	}
	return out, errors.Join(wrong...)
}

// Said is an answer.
type Said struct {
	By, When, Text string
}

// Thread is a comment with what was said of it.
type Thread struct {
	*Annotation
	File    *File
	Answers []Said
	Done    bool
}

// By is who wrote it.
func (a *Annotation) By() string {
	if a.Creator == nil || strings.TrimSpace(a.Creator.Name) == "" {
		return "somebody"
	}
	return a.Creator.Name
}

// Threads brings together what belongs together over all documents, by number and then by time.
func Threads(files []*File) []*Thread {
	var out []*Thread
	byID := map[string]*Thread{}
	var rest []*Annotation
	for _, f := range files {
		for _, a := range f.Items {
			if a.Motivation == "commenting" {
				t := &Thread{Annotation: a, File: f}
				out, byID[a.ID] = append(out, t), t
			} else {
				rest = append(rest, a)
			}
		}
	}
	slices.SortStableFunc(rest, func(a, b *Annotation) int { return strings.Compare(a.Created, b.Created) })
	for range rest { // an answer may answer an answer
		moved := false
		for i, a := range rest {
			if a == nil {
				continue
			}
			t := byID[a.Target.Of]
			if t == nil {
				continue
			}
			rest[i], byID[a.ID], moved = nil, t, true
			if a.Motivation == "assessing" {
				t.Done = a.Body.Value == "done"
			} else {
				t.Answers = append(t.Answers, Said{a.By(), a.Created, a.Body.Value})
			}
		}
		if !moved {
			break
		}
	}
	slices.SortStableFunc(out, func(a, b *Thread) int {
		return cmp.Or(
			cmp.Compare(cmp.Or(a.Number, 1<<30), cmp.Or(b.Number, 1<<30)),
			strings.Compare(a.Created, b.Created),
		)
	})
	return out
}

// NumberAll gives every comment without one the next number.
func NumberAll(files []*File) {
	most := 0
	for _, f := range files {
		for _, a := range f.Items {
			most = max(most, a.Number)
		}
	}
	for _, t := range Threads(files) {
		if t.Number == 0 {
			most++
			t.Number = most
		}
	}
}

// Word is who says something, when, and under which id.
type Word struct {
	ID, By string
	At     time.Time
}

// Answer makes an annotation that answers a comment, or marks it.
func Answer(t *Thread, w Word, motivation, text string) *Annotation {
	a := &Annotation{ID: w.ID, Type: "Annotation", Motivation: motivation, Creator: &Person{"Person", w.By},
		Created: w.At.UTC().Format(time.RFC3339), Body: Body{Type: "TextualBody", Value: text, Format: "text/plain"},
		Target: Target{Of: t.ID}}
	if motivation == "assessing" {
		a.Body.Purpose, a.Body.Format = "tagging", ""
	}
	return a
}

var notName = regexp.MustCompile(`[^a-z0-9]+`)

// NameOf gives the file for what somebody wrote: reviews/ines-halloran.json.
func NameOf(who string) string {
	name := strings.Trim(notName.ReplaceAllString(strings.ToLower(who), "-"), "-")
	if name == "" {
		name = "comments"
	}
	return path.Join(Dir, name[:min(len(name), 60)]+".json")
}
