package styles

import (
	"errors"
	"fmt"
	"io/fs"
	"strings"

	"ziegel/core/diag"
	"ziegel/core/media"
	"ziegel/core/site"
)

// TellMore tells that a picture is shown without something that its file has.
func (c *Writer) TellMore(file *site.File, v *site.Value, name string) {
	if what := c.Env.MoreThanDrawn(name); len(what) > 0 {
		c.AddOnce(problemAs(file.Problem(v, "unsafe-picture",
			fmt.Sprintf("media/%s holds %s; pages get the drawing without it", name, strings.Join(what, ", and ")),
			"a drawing that only draws", ""), diag.Warning))
	}
}

// focusRules writes the focus points of pictures that differ by range.
func (c *Writer) focusRules(w *sheetWriter) {
	seen := map[FocusRule]bool{}
	for _, r := range c.Focuses {
		if seen[r] || r.Cond == "" && r.Focus == "" {
			continue
		}
		seen[r] = true
		if r.Cond != "" {
			w.open(r.Cond)
		}
		w.rule("."+r.Class, decl{name: "object-position", value: r.Focus})
		if r.Cond != "" {
			w.close()
		}
	}
}

// MissingPicture tells of a picture that cannot be shown, and what may have been meant.
func (c *Writer) MissingPicture(file *site.File, v *site.Value, name string, err error) diag.Problem {
	have := media.List(c.Env.Dir, "media")
	expected, try := "a file below media/", diag.Nearest(name, have)
	what := fmt.Sprintf("there is no file media/%s", name)
	for _, h := range have {
		if strings.EqualFold(h, name) && h != name {
			what, expected = fmt.Sprintf("there is no file media/%s; letter case counts", name),
				"the name as the file has it"
			try = h
		}
	}
	if !errors.Is(err, fs.ErrNotExist) && !errors.Is(err, fs.ErrInvalid) {
		var path *fs.PathError
		if errors.As(err, &path) {
			err = path.Err
		}
		what, try = fmt.Sprintf("media/%s cannot be shown: %v", name, err), ""
	}
	return file.Problem(v, "missing-file", what, expected, try)
}
