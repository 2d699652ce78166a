package media

import (
	"bytes"
	"regexp"
	"slices"
	"strings"
)

// pictureColor finds the colors that an SVG file gives names to: --picture-sky: #9fc3c4.
var pictureColor = regexp.MustCompile(`--picture-([a-z][a-z0-9-]*)\s*:\s*([^;}]*[^;}\s])`)

// Recolor gives an SVG picture the colors of a theme: each custom property --picture-NAME that its style element sets
// takes the color that light has for the name, and in dark surroundings that of dark. Names that they do not have
// keep the file's own color.
func Recolor(data []byte, light, dark map[string]string) []byte {
	if !bytes.Contains(data, []byte("--picture-")) {
		return data
	}
	var names []string
	out := pictureColor.ReplaceAllFunc(data, func(m []byte) []byte {
		g := pictureColor.FindSubmatch(m)
		name := string(g[1])
		value := light[name]
		if value == "" {
			return m
		}
		if !slices.Contains(names, name) {
			names = append(names, name)
		}
		return []byte("--picture-" + name + ": " + value)
	})
	var rules []string
	for _, n := range names {
		if v := dark[n]; v != "" && v != light[n] {
			rules = append(rules, "--picture-"+n+": "+v)
		}
	}
	if len(rules) == 0 {
		return out
	}
	at := bytes.Index(out, []byte("</style>"))
	if at < 0 {
		return out
	}
	return slices.Concat(out[:at], []byte("\n    @media (prefers-color-scheme: dark) { :root { "+
		strings.Join(rules, "; ")+" } }\n  "), out[at:])
}
