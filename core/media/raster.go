package media

import (
	"regexp"
	"strings"
)

// rasterSize is how large a drawing is painted before its colors are looked at, px along the longer side: some pixels
// for every cell.
const rasterSize = 4 * gridSize

var (
	styleElement = regexp.MustCompile(`(?s)<style[^>]*>.*?</style>`)
	darkRules    = regexp.MustCompile(`(?s)@media[^{]*prefers-color-scheme:\s*dark[^{]*\{(.*?\})\s*\}`)
	colorVar     = regexp.MustCompile(`var\(\s*--picture-([a-z][a-z0-9-]*)\s*(?:,[^)]*)?\)`)
)

// plainColors writes the colors that a drawing names where they are used, those for dark surroundings if asked.
func plainColors(data []byte, dark bool) []byte {
	text := string(data)
	if !strings.Contains(text, "--picture-") {
		return data
	}
	values := map[string]string{}
	take := func(css string) {
		for _, m := range pictureColor.FindAllStringSubmatch(css, -1) {
			values[m[1]] = m[2]
		}
	}
	for _, style := range styleElement.FindAllString(text, -1) {
		take(darkRules.ReplaceAllString(style, ""))
		if dark {
			for _, m := range darkRules.FindAllStringSubmatch(style, -1) {
				take(m[1])
			}
		}
	}
	text = styleElement.ReplaceAllString(text, "")
	return []byte(colorVar.ReplaceAllStringFunc(text, func(m string) string {
		if v := values[colorVar.FindStringSubmatch(m)[1]]; v != "" {
			return v
		}
		return "none"
	}))
}

// gridSize is how many cells a picture is cut into, each way. A letter on a picture is seldom smaller than such a
// cell.
const gridSize = 48
