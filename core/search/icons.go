package search

import (
	"io/fs"

	"ziegel/core/diag"
	"ziegel/core/site"
)

// IconWords gives the everyday words by which shipped icons are found beside their names.
func IconWords(stock fs.FS) (map[string]string, diag.Problems) {
	out := map[string]string{}
	data, err := fs.ReadFile(stock, "icons/words.yaml")
	if err != nil {
		return out, nil
	}
	v, problems := site.ParseValue(string(data))
	if problems.Err() != nil {
		return out, problems
	}
	for _, e := range v.Entries {
		out[e.Key] = e.Value.Str()
	}
	return out, problems
}
