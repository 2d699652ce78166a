package compose

import (
	"fmt"
	"io/fs"
	"strings"

	"golang.org/x/net/html"

	"ziegel/core/markup"
	"ziegel/core/site"
)

// wordsFile has the words that built pages have of themselves, by language.
const wordsFile = "words.yaml"

// plainLanguage is the language whose words stand for those that are missing.
const plainLanguage = "en"

// readWords reads the words by language, in small letters, and name.
func readWords(stock fs.FS) (map[string]map[string]string, error) {
	text, err := fs.ReadFile(stock, wordsFile)
	if err != nil {
		return nil, err
	}
	f, problems := site.ReadFile(wordsFile, string(text))
	if err := problems.Err(); err != nil {
		return nil, err
	}
	out := map[string]map[string]string{}
	for _, language := range f.Root.Entries {
		of := map[string]string{}
		for _, w := range language.Value.Entries {
			of[w.Key] = w.Value.Str()
		}
		out[strings.ToLower(language.Key)] = of
	}
	if len(out[plainLanguage]) == 0 {
		return nil, fmt.Errorf("%s has no words for %s", wordsFile, plainLanguage)
	}
	return out, nil
}

// word puts a word of a page itself into an element, in the site's language or the nearest that there is: de for de-CH
// (RFC 4647, section 3.4). An element with a word of another language says so.
func (c *composer) word(n *html.Node, name string) *html.Node {
	language := strings.ToLower(c.env.Site.Language)
	for tag := language; tag != ""; {
		if w := c.env.words[tag][name]; w != "" {
			return markup.With(n, markup.Text(w))
		}
		i := strings.LastIndexByte(tag, '-')
		tag = tag[:max(i, 0)]
	}
	n.Attr = append(n.Attr, html.Attribute{Key: "lang", Val: plainLanguage})
	return markup.With(n, markup.Text(c.env.words[plainLanguage][name]))
}
