// Package inbox keeps what was sent by the forms of a site while they are tried out: one JSON file a letter, in a
// folder. It is the receiver that ships with the preview; a published form has one of its own.
package inbox

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"mime"
	"mime/multipart"
	"net/url"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"golang.org/x/net/html"
)

// MostBytes is how long a letter may be, bytes.
const MostBytes = 1 << 20

// Field is one control as it was filled in. Of a file only its name is kept.
type Field struct {
	Name  string `json:"name"`
	Value string `json:"value"`
}

// Letter is a form that was sent.
type Letter struct {
	Time time.Time `json:"time"` // UTC
	// Form is the block that has the form: home/contact.
	Form   string  `json:"form"`
	To     string  `json:"to"` // where it goes when the site is published
	Fields []Field `json:"fields"`
	// Trapped tells that the field that nobody sees was filled in: a receiver should drop the letter.
	Trapped bool `json:"trapped,omitempty"`
}

// Read reads the body of a form in one of the three encodings of HTML (4.10.21.7 and following), in the order of its
// controls. The fields called trap and then are not of the letter: the first marks it, the second is returned.
func Read(contentType string, body io.Reader, trap, then string) (l Letter, page string, err error) {
	data, err := io.ReadAll(io.LimitReader(body, MostBytes+1))
	if err != nil {
		return l, "", err
	}
	if len(data) > MostBytes {
		return l, "", fmt.Errorf("the letter is longer than %d kB", MostBytes>>10)
	}
	kind, params, err := mime.ParseMediaType(contentType)
	if err != nil {
		return l, "", fmt.Errorf("the form was sent as %q, which is no type", contentType)
	}
	var fields []Field
	switch kind {
	case "application/x-www-form-urlencoded":
		fields, err = pairs(string(data))
	case "multipart/form-data":
		fields, err = parts(data, params["boundary"])
	case "text/plain":
		fields = lines(string(data))
	default:
		return l, "", fmt.Errorf("a form is not sent as %s", kind)
	}
	if err != nil {
		return l, "", err
	}
	for _, f := range fields {
		switch f.Name {
		case trap:
			l.Trapped = l.Trapped || strings.TrimSpace(f.Value) != ""
		case then:
			page = f.Value
		default:
			l.Fields = append(l.Fields, f)
		}
	}
	return l, page, nil
}

func pairs(text string) (out []Field, err error) {
	for pair := range strings.SplitSeq(text, "&") {
		if pair == "" {
			continue
		}
		name, value, _ := strings.Cut(pair, "=")
		if name, err = url.QueryUnescape(name); err != nil {
			return nil, fmt.Errorf("the letter cannot be read: %w", err)
		}
		if value, err = url.QueryUnescape(value); err != nil {
			return nil, fmt.Errorf("the letter cannot be read: %w", err)
		}
		out = append(out, Field{name, value})
	}
	return out, nil
}

func parts(data []byte, boundary string) (out []Field, err error) {
	if boundary == "" {
		return nil, errors.New("the letter does not say where its parts end")
	}
	r := multipart.NewReader(bytes.NewReader(data), boundary)
	for {
		p, err := r.NextPart()
		if err == io.EOF {
			return out, nil
		}
		if err != nil {
			return nil, fmt.Errorf("the letter cannot be read: %w", err)
		}
		value := p.FileName()
		if value == "" {
			text, err := io.ReadAll(p)
			if err != nil {
				return nil, fmt.Errorf("the letter cannot be read: %w", err)
			}
			value = string(text)
		}
		out = append(out, Field{p.FormName(), value})
	}
}

func lines(text string) (out []Field) {
	for line := range strings.Lines(text) {
		if name, value, ok := strings.Cut(strings.TrimRight(line, "\r\n"), "="); ok {
			out = append(out, Field{name, value})
		}
	}
	return out
}

// Keep writes a letter into a folder, which is made when it is missing.
func Keep(dir string, l Letter) error {
	if err := os.MkdirAll(dir, 0o777); err != nil {
		return err
	}
	data, err := json.MarshalIndent(l, "", "  ")
	if err != nil {
		return err
	}
	name := l.Time.UTC().Format("2006-01-02T15-04-05Z") + "-" + strings.ReplaceAll(l.Form, "/", "-")
	for i := 1; ; i++ {
		file := name + ".json"
		if i > 1 {
			file = fmt.Sprintf("%s-%d.json", name, i)
		}
		f, err := os.OpenFile(filepath.Join(dir, file), os.O_CREATE|os.O_EXCL|os.O_WRONLY, 0o666)
		if errors.Is(err, fs.ErrExist) {
			continue
		}
		if err != nil {
			return err
		}
		_, err = f.Write(append(data, '\n'))
		return errors.Join(err, f.Close())
	}
}

// List reads the letters of a folder, the newest first. What is no letter is left out.
func List(dir string) []Letter {
	entries, err := os.ReadDir(dir)
	if err != nil {
		return nil
	}
	var out []Letter
	for _, e := range slices.Backward(entries) {
		data, err := os.ReadFile(filepath.Join(dir, e.Name()))
		var l Letter
		if err != nil || filepath.Ext(e.Name()) != ".json" || json.Unmarshal(data, &l) != nil || l.Form == "" {
			continue
		}
		out = append(out, l)
	}
	slices.SortStableFunc(out, func(a, b Letter) int { return b.Time.Compare(a.Time) })
	return out
}

// Empty removes the letters of a folder.
func Empty(dir string) error {
	files, err := filepath.Glob(filepath.Join(dir, "*.json"))
	for _, f := range files {
		err = errors.Join(err, os.Remove(f))
	}
	return err
}

// Redirect makes the forms of a page that are posted somewhere send to the receiver at path instead, with
// form=PAGE/BLOCK and to=ADDRESS in the query. All other bytes stay as they are.
func Redirect(page string, doc []byte, path string) []byte {
	if !bytes.Contains(doc, []byte("<form")) {
		return doc
	}
	var out bytes.Buffer
	block := ""
	z := html.NewTokenizer(bytes.NewReader(doc))
	for {
		kind := z.Next()
		raw := bytes.Clone(z.Raw())
		if kind == html.ErrorToken {
			out.Write(raw)
			return out.Bytes()
		}
		if kind == html.StartTagToken {
			t := z.Token()
			if id := attr(t, "id"); id != "" && slices.Contains(strings.Fields(attr(t, "class")), "page-block") {
				block = id
			}
			if to := attr(t, "action"); t.Data == "form" && to != "" && strings.EqualFold(attr(t, "method"), "post") {
				for i, a := range t.Attr {
					switch a.Key {
					case "action":
						t.Attr[i].Val = path + "?" + url.Values{"form": {page + "/" + block}, "to": {to}}.Encode()
					case "enctype":
						t.Attr[i].Val = "application/x-www-form-urlencoded"
					}
				}
				raw = []byte(t.String())
			}
		}
		out.Write(raw)
	}
}

func attr(t html.Token, name string) string {
	for _, a := range t.Attr {
		if a.Key == name {
			return a.Val
		}
	}
	return ""
}
