package report

import (
	"bytes"
	"embed"
	"encoding/base64"
	"fmt"
	"html/template"
	"image"
	"io"

	"ziegel/core/build"
	"ziegel/core/compare"
	"ziegel/core/diag"
	"ziegel/core/paint/raster"
)

//go:embed compare.html compare.css compare.js
var compareFiles embed.FS

// Compared says in a line what a comparison found.
func Compared(r *compare.Report) string {
	if len(r.Differences) == 0 {
		return fmt.Sprintf("%d pieces, nothing differs by more than %g px or a ΔE of %g", r.Pieces, r.Tolerance.Px,
			r.Tolerance.DeltaE)
	}
	return fmt.Sprintf("%s; %d of %s found there", diag.Plural(len(r.Differences), "difference"), r.Found,
		diag.Plural(r.Pieces, "piece"))
}

// CompareHTML writes a comparison as one self-contained file: both pictures one over the other with a slider, blinking,
// their difference, or side by side, and the list of what differs. command writes the words of a command for a shell.
func CompareHTML(w io.Writer, r *compare.Report, command func([]string) string) error {
	t, err := template.ParseFS(compareFiles, "compare.html")
	if err != nil {
		return err
	}
	css, err := compareFiles.ReadFile("compare.css")
	if err != nil {
		return err
	}
	js, err := compareFiles.ReadFile("compare.js")
	if err != nil {
		return err
	}
	ours, err := pictureURL(r.Ours)
	if err != nil {
		return err
	}
	theirs, err := pictureURL(r.Theirs)
	if err != nil {
		return err
	}
	commands := make([]string, len(r.Differences))
	for i, d := range r.Differences {
		if len(d.Command) > 0 {
			commands[i] = command(d.Command)
		}
	}
	return t.Execute(w, map[string]any{"CSS": template.CSS(css), "JS": template.JS(js),
		"Policy": template.HTML(build.Policy(string(js))), "Report": r, "Verdict": Compared(r), "Commands": commands,
		"Ours": ours, "Theirs": theirs, "Height": max(r.Ours.Rect.Dy(), r.Theirs.Rect.Dy())})
}

// pictureURL gives a picture as an address that holds it.
func pictureURL(img *image.RGBA) (template.URL, error) {
	var b bytes.Buffer
	if err := raster.EncodePNG(&b, img); err != nil {
		return "", err
	}
	return template.URL("data:image/png;base64," + base64.StdEncoding.EncodeToString(b.Bytes())), nil
}
