package site

import (
	"errors"
	"fmt"
	"io/fs"
	"slices"
	"strings"

	"golang.org/x/text/language"

	"ziegel/core/diag"
)

// Get finds a translation by its address.
func (w *Words) Get(address string) (Word, bool) {
	if w == nil {
		return Word{}, false
	}
	i, ok := w.byName[address]
	if !ok {
		return Word{}, false
	}
	return w.Entries[i], true
}

// WordsPath names the file of the translations to a language.
func WordsPath(tag string) string { return WordsFolder + "/" + tag + ".yaml" }

// languages reads which languages a site is built in, and their translations.
func (s *Site) languages(l *loader, v *Value) {
	for _, it := range l.listOf(v, "languages", "[en, de]") {
		tag := l.text(it, "a language")
		parsed, err := language.Parse(tag)
		switch {
		case tag == "":
			continue
		case err != nil || parsed.String() == "und":
			l.add(l.f.Problem(it, "wrong-type", fmt.Sprintf("there is no language %q", tag),
				"a tag of BCP 47 such as en, de, pt-BR or ar", ""))
			continue
		case slices.Contains(s.Languages, tag):
			l.add(
				l.f.Problem(
					it,
					"duplicate-name",
					fmt.Sprintf("the language %s stands here twice", tag),
					"each once",
					"",
				),
			)
			continue
		}
		s.Languages = append(s.Languages, tag)
	}
	if len(s.Languages) == 0 {
		return
	}
	if own := s.File.Root.Get("language").Str(); own != "" && own != s.Languages[0] {
		l.add(l.f.Problem(s.File.Root.Get("language"), "wrong-type",
			fmt.Sprintf("the language of the pages is %s, and the first of languages is %s", own, s.Languages[0]),
			"the same, or no language: beside languages:", ""))
	}
	s.Language = s.Languages[0]
	s.Words = map[string]*Words{}
	for i, tag := range s.Languages[1:] {
		if s.HasPage(strings.ToLower(tag)) {
			l.add(l.f.Problem(v.Items[i+1], "name-taken",
				fmt.Sprintf("the page %s would stand where the pages in %s do: /%s/", tag, tag, tag),
				"another name for the page: ziegel page rename "+tag+" NAME", ""))
		}
		w, problems := s.readWords(tag)
		l.problems = append(l.problems, problems...)
		s.Words[tag] = w
	}
}

// readWords reads the translations to a language; a file that is not there has none.
func (s *Site) readWords(tag string) (*Words, diag.Problems) {
	rel := WordsPath(tag)
	w := &Words{File: &File{Path: rel, Root: &Value{Kind: Map}}, byName: map[string]int{}}
	f, problems, err := s.read(rel)
	if errors.Is(err, fs.ErrNotExist) {
		return w, nil
	}
	if err != nil {
		return w, diag.Problems{{Position: diag.Position{File: rel}, Severity: diag.Error, Rule: "unreadable",
			Text: strings.TrimPrefix(err.Error(), "read "+rel+": "), Expected: "a file that can be read"}}
	}
	w.File = f
	if problems.Err() != nil {
		return w, problems
	}
	l := &loader{f: f, problems: problems}
	m := l.mapOf(f.Root, "the file of translations",
		"home/opening.heading: {of: Made for real wind, is: Für echten Wind}")
	if m == nil {
		return w, l.problems
	}
	for _, e := range m.Entries {
		word := Word{Address: e.Key, Node: e.Value, KeyPos: e.KeyPos}
		switch e.Value.Kind {
		case Map:
			l.keys(e.Value, "a translation", "of", "is", "file")
			word.Of, word.Is = l.text(e.Value.Get("of"), "of"), l.text(e.Value.Get("is"), "is")
		default:
			word.Is = l.text(e.Value, "a translation")
		}
		w.byName[word.Address] = len(w.Entries)
		w.Entries = append(w.Entries, word)
	}
	return w, l.problems
}

// Slug is what the folder of a page is called in a language: its address there, else its name.
func (s *Site) Slug(tag, page string) string {
	if w, ok := s.Words[tag].Get(page + " address"); ok && ValidName(w.Is) {
		return w.Is
	}
	return page
}

// AsideKey is where a block keeps words of a writer that belong to no field of it: parked, words.
const AsideKey = "words"
