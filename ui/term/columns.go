package term

import (
	"os"
	"strconv"

	xterm "github.com/charmbracelet/x/term"
)

// columns gives the width of a terminal, COLUMNS before what it says itself.
func columns(f *os.File) int {
	if n, err := strconv.Atoi(os.Getenv("COLUMNS")); err == nil && n > 20 {
		return n
	}
	if w, _, err := xterm.GetSize(f.Fd()); err == nil && w > 20 {
		return w
	}
	return 80
}
