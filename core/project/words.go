package project

import (
	"fmt"
	"io/fs"
	"strings"

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

// Word gives a word of built pages themselves in the language of the site, or in the nearest that there is: de for
// de-CH (RFC 4647, section 3.4). language names that of a word which is in none of them.
func (e *Project) Word(name string) (word, language string) {
	for tag := strings.ToLower(e.Site.Language); tag != ""; {
		if w := e.words[tag][name]; w != "" {
			return w, ""
		}
		tag = tag[:max(strings.LastIndexByte(tag, '-'), 0)]
	}
	return e.words[plainLanguage][name], plainLanguage
}
