package build

import (
	"crypto/sha256"
	"encoding/base64"
	"fmt"
	"strings"
)

// Generator is in every HTML file that is written for looking at: by it such a file is known as ours.
const Generator = `<meta name="generator" content="Ziegel">`

// Policy gives what goes into the head of every file which is written for looking at (a report, a sheet of variants,
// the catalogue): a content security policy (Content Security Policy 3) that runs no script but these, asks no host
// for anything, and holds in all frames of the file, which are filled from it.
func Policy(scripts ...string) string {
	run := "'none'"
	var sums []string
	for _, s := range scripts {
		sum := sha256.Sum256([]byte(s))
		sums = append(sums, "'sha256-"+base64.StdEncoding.EncodeToString(sum[:])+"'")
	}
	if len(sums) > 0 {
		run = strings.Join(sums, " ")
	}
	return Generator + "\n" +
		fmt.Sprintf(`<meta http-equiv="Content-Security-Policy" content="default-src 'none'; script-src %s; style-src 'unsafe-inline'; img-src data:; font-src data:; media-src data:; form-action 'none'; base-uri 'none'">`, run)
}

// StyleText makes a style sheet fit to stand in a style element: nothing in it ends the element, and strings and
// addresses in it stay what they are, for a backslash before a slash is the slash (CSS Syntax 3, section 4.3.7).
func StyleText(css string) string { return strings.ReplaceAll(css, "</", `<\/`) }
