package diag

import (
	"errors"
	"fmt"
	"io/fs"
	"strings"
)

// Unknown words a wrong name with the nearest right one.
func Unknown(what, name string, names []string, where string) error {
	text := fmt.Sprintf("there is no %s %q%s", what, name, where)
	if near := Nearest(name, names); near != "" {
		return fmt.Errorf("%s; did you mean %s?", text, near)
	}
	if len(names) > 0 && len(names) <= 20 {
		return fmt.Errorf("%s; there are %s", text, strings.Join(names, ", "))
	}
	return fmt.Errorf("%s", text)
}

// Bare takes the path off an error of a file, for messages that name it themselves.
func Bare(err error) error {
	var pe *fs.PathError
	if errors.As(err, &pe) {
		return pe.Err
	}
	return err
}

// And lists words: a, b and c.
func And(words []string) string {
	if len(words) < 2 {
		return strings.Join(words, "")
	}
	return strings.Join(words[:len(words)-1], ", ") + " and " + words[len(words)-1]
}

// Plural counts things.
func Plural(n int, word string) string {
	if n == 1 {
		return "1 " + word
	}
	return fmt.Sprintf("%d %ss", n, word)
}
