// Package term draws for terminals: colors that never carry meaning alone, the map of a page over all widths, and
// outlines of its boxes. When the output is no terminal it writes one plain fact a line.
package term

import (
	"fmt"
	"io"
	"os"
	"strings"

	"github.com/charmbracelet/lipgloss"
	"github.com/charmbracelet/x/ansi"
	"github.com/mattn/go-isatty"
	"github.com/muesli/termenv"

	"ziegel/core/diag"
)

// Style colors text for one stream.
type Style struct {
	Terminal bool // the stream is a terminal
	Width    int  // columns
	r        *lipgloss.Renderer
}

// Wrap breaks a text between words where a terminal ends; what follows the first line is indented by a few columns.
// Other streams get it as it is.
func (s Style) Wrap(text string, indent int) string {
	if !s.Terminal {
		return text
	}
	whole := strings.ReplaceAll(text, "-", "\ue000") // names of rules stay in one piece
	lines := strings.Split(ansi.Wordwrap(whole, max(20, s.Width-indent), ""), "\n")
	return strings.ReplaceAll(strings.Join(lines, "\n"+strings.Repeat(" ", indent)), "\ue000", "-")
}

// NewStyle returns the style for a stream. color is "always", "never" or anything else for: only on terminals, unless
// NO_COLOR is set.
func NewStyle(w io.Writer, color string) Style {
	s := Style{Width: 80, r: lipgloss.NewRenderer(w)}
	if f, ok := w.(*os.File); ok {
		s.Terminal = isatty.IsTerminal(f.Fd()) && os.Getenv("TERM") != "dumb"
		if s.Terminal {
			s.Width = columns(f)
		}
	}
	on := s.Terminal && os.Getenv("NO_COLOR") == ""
	switch color {
	case "always":
		on = true
	case "never":
		on = false
	}
	s.r.SetColorProfile(termenv.Ascii)
	if on {
		s.r.SetColorProfile(termenv.ANSI)
	}
	return s
}

func (s Style) color(n string, text string) string {
	if s.r == nil {
		return text
	}
	return s.r.NewStyle().Foreground(lipgloss.Color(n)).Render(text)
}

// Error colors an error word.
func (s Style) Error(t string) string { return s.color("1", t) }

// Warning colors a warning word.
func (s Style) Warning(t string) string { return s.color("3", t) }

// Good colors good news.
func (s Style) Good(t string) string { return s.color("2", t) }

// plain reports output that takes no colors.
func (s Style) plain() bool { return s.r == nil || s.r.ColorProfile() == termenv.Ascii }

// Dim sets less important text back.
func (s Style) Dim(t string) string {
	if s.plain() {
		return t
	}
	return s.r.NewStyle().Faint(true).Render(t)
}

// Bold raises text.
func (s Style) Bold(t string) string {
	if s.plain() {
		return t
	}
	return s.r.NewStyle().Bold(true).Render(t)
}

// Severity colors a severity by its weight.
func (s Style) Severity(v diag.Severity) string {
	switch v {
	case diag.Error:
		return s.Error(string(v))
	case diag.Warning:
		return s.Warning(string(v))
	}
	return s.Dim(string(v))
}

// Problem renders a problem with its severity word colored.
func (s Style) Problem(p diag.Problem) string {
	return strings.Replace(p.String(), string(p.Severity)+": ", s.Severity(p.Severity)+": ", 1)
}

// Swatch shows a text in its color on its ground, #rrggbb both, where the stream takes colors: a theme's colors are
// what is shown here.
func (s Style) Swatch(ink, ground, text string) string {
	if s.plain() {
		return ink + "/" + ground
	}
	var a, b [3]int
	for i, hex := range []string{ink, ground} {
		to := &a
		if i == 1 {
			to = &b
		}
		if _, err := fmt.Sscanf(hex, "#%02x%02x%02x", &to[0], &to[1], &to[2]); err != nil {
			return ink + "/" + ground
		}
	}
	return fmt.Sprintf("\x1b[38;2;%d;%d;%dm\x1b[48;2;%d;%d;%dm%s\x1b[0m", a[0], a[1], a[2], b[0], b[1], b[2], text)
}
