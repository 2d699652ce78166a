package project

import (
	"encoding/json"
	"io/fs"

	"ziegel/core/font"
	"ziegel/core/theme"
)

// Fallbacks works the matches of the shipped fonts out anew, for the file that keeps them.
func Fallbacks(stock fs.FS) ([]byte, error) {
	out := map[string]font.Match{}
	for _, name := range Themes(stock) {
		t, err := theme.Load(name, stock, "themes/"+name)
		if err != nil {
			return nil, err
		}
		e := &Project{Stock: stock, Dir: noFiles{}, Theme: t, standing: map[string]font.Match{}}
		for _, f := range fontFiles(stock, "fonts", t) {
			kind := generic(t, f.Family)
			if f.Weight >= 600 {
				kind += " bold"
			}
			if out[f.Name+" "+kind], err = e.match(f, kind); err != nil {
				return nil, err
			}
		}
	}
	data, err := json.MarshalIndent(out, "", " ")
	return append(data, '\n'), err
}
