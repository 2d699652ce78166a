package words

import (
	"bytes"
	"encoding/csv"
	"fmt"
	"strings"

	"ziegel/core/table"
)

// Row is one text with its translation, as tables and XLIFF have them.
type Row struct {
	Page, Block, Path string
	Kind              Kind
	Text              string // the original
	Target            string // the translation, "" for none
	Was               string // what the original was when it was translated, "" when it is as it was
	Note              string // for whoever translates: how many letters fit, that it is a sample
	Done              bool   // the translator says so
	Line              int    // of the file that it was read from
}

// Address calls the text of a row.
func (r *Row) Address() string { return Address(r.Page, r.Block, r.Path) }

// Rows lists the texts of pages in reading order.
func Rows(pages []*Page, note Note) []Row {
	var out []Row
	for _, p := range pages {
		p.Each(func(b *Block, n *Node) {
			r := Row{
				Page:  p.Name,
				Block: b.Name,
				Path:  n.Path,
				Kind:  n.Kind,
				Text:  strings.Join(paragraphs(n.Text), "\n\n"),
			}
			if note != nil {
				r.Note = note(p, b, n)
			}
			out = append(out, r)
		})
	}
	return out
}

// ParseAddress takes the address of a text apart.
func ParseAddress(s string) (page, block, path string, ok bool) {
	if page, path, ok = strings.Cut(s, " "); ok {
		return page, "", path, page != "" && path != ""
	}
	page, rest, ok := strings.Cut(s, "/")
	if !ok {
		return "", "", "", false
	}
	block, path, ok = strings.Cut(rest, ".")
	return page, block, path, ok && page != "" && block != "" && path != ""
}

// The columns of tables.
const (
	addressColumn = "address"
	textColumn    = "text"
	noteColumn    = "note"
)

// CSV writes texts as a table for spreadsheets: address, text, note, and a column for the translation when a language
// is given.
func CSV(rows []Row, language string) string {
	var b bytes.Buffer
	b.WriteString("\ufeff") // spreadsheets read UTF-8 by it
	w := csv.NewWriter(&b)
	head := []string{addressColumn, textColumn}
	if language != "" {
		head = append(head, language)
	}
	_ = w.Write(append(head, noteColumn))
	for _, r := range rows {
		line := []string{r.Address(), r.Text}
		if language != "" {
			line = append(line, r.Target)
		}
		_ = w.Write(append(line, r.Note))
	}
	w.Flush()
	return b.String()
}

// ReadCSV reads such a table, whatever a spreadsheet has made of its separators and encoding. With a language, Target
// is what its column has; without, Text is what the writer says.
func ReadCSV(file string, data []byte, language string) ([]Row, error) {
	t, err := table.Read(file, data)
	if err != nil {
		return nil, err
	}
	column := map[string]int{}
	for i, c := range t.Columns {
		column[strings.ToLower(strings.TrimSpace(c))] = i
	}
	want := []string{addressColumn, textColumn}
	if language != "" {
		want = append(want, strings.ToLower(language))
	}
	for _, c := range want {
		if _, ok := column[c]; !ok {
			return nil, fmt.Errorf(
				"%s:1: there is no column %q; the first line names them: %s",
				file,
				c,
				strings.Join(want, ", "),
			)
		}
	}
	var out []Row
	for i, line := range t.Rows {
		get := func(name string) string { return line[column[strings.ToLower(name)]] }
		address := strings.TrimSpace(get(addressColumn))
		if address == "" {
			continue
		}
		page, block, path, ok := ParseAddress(address)
		if !ok {
			return nil, fmt.Errorf(
				"%s:%d: %q is no address of a text, such as home/plans.heading",
				file,
				t.Lines[i],
				address,
			)
		}
		r := Row{Page: page, Block: block, Path: path, Text: get(textColumn), Line: t.Lines[i]}
		if language != "" {
			r.Target = get(language)
		}
		out = append(out, r)
	}
	return out, nil
}
