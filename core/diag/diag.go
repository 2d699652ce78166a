// Package diag holds positions in what people wrote and the problems found there. It lies below all other packages
// and imports none of ours. Problems are data: collected, sorted, told all at once.
package diag

import (
	"fmt"
	"sort"
	"strconv"
	"strings"
	"unicode"
	"unicode/utf8"
)

// Severity says how much a problem weighs. Notes never change an exit code.
type Severity string

// The severities, from heavy to light.
const (
	Error   Severity = "error"
	Warning Severity = "warning"
	Note    Severity = "note"
)

// Position is a place in a file. Line and Column start at 1 and count characters; zero means "the file as a whole".
type Position struct {
	File   string `json:"file"`
	Line   int    `json:"line,omitempty"`
	Column int    `json:"column,omitempty"`
}

// String gives file:line:column, shorter where parts are unknown.
func (p Position) String() string {
	switch {
	case p.Line == 0:
		return p.File
	case p.Column == 0:
		return fmt.Sprintf("%s:%d", p.File, p.Line)
	}
	return fmt.Sprintf("%s:%d:%d", p.File, p.Line, p.Column)
}

// Place is a position that is written down as one text, file:line:column, in JSON.
type Place struct{ Position }

// IsZero reports that there is no place.
func (p Place) IsZero() bool { return p.Position == Position{} }

// MarshalText gives the text of the position.
func (p Place) MarshalText() ([]byte, error) { return []byte(p.String()), nil }

// UnmarshalText reads what MarshalText has written. A name of a file may have colons of its own.
func (p *Place) UnmarshalText(text []byte) error {
	p.Position = Position{File: string(text)}
	var numbers []int
	for len(numbers) < 2 {
		i := strings.LastIndexByte(p.File, ':')
		n, err := strconv.Atoi(p.File[i+1:])
		if i <= 0 || err != nil || n <= 0 {
			break
		}
		p.File, numbers = p.File[:i], append(numbers, n)
	}
	switch len(numbers) {
	case 1:
		p.Line = numbers[0]
	case 2:
		p.Line, p.Column = numbers[1], numbers[0]
	}
	return nil
}

// At converts a byte offset in source to a Position; offsets outside are clamped.
func At(file, source string, offset int) Position {
	offset = max(0, min(offset, len(source)))
	before := source[:offset]
	line := strings.Count(before, "\n") + 1
	start := strings.LastIndexByte(before, '\n') + 1
	return Position{File: file, Line: line, Column: utf8.RuneCountInString(before[start:]) + 1}
}

// Problem is one mistake in a file or a request: what was found, what was expected, what to do.
type Problem struct {
	Position
	Severity Severity `json:"severity"`
	Rule     string   `json:"rule"`               // stable name, lower case with hyphens
	Text     string   `json:"text"`               // what was found
	Expected string   `json:"expected,omitempty"` // what would have been right
	Try      string   `json:"try,omitempty"`      // the nearest valid thing to write
	Source   string   `json:"-"`                  // the text of the line, for showing
	Width    int      `json:"-"`                  // characters to underline; 0 means 1
}

// Error makes a Problem usable as a Go error; the text is that of String.
func (p Problem) Error() string { return p.String() }

// String renders the problem as the program prints it, without a final newline.
func (p Problem) String() string {
	var b strings.Builder
	if where := p.Position.String(); where != "" {
		b.WriteString(where + ": ")
	}
	fmt.Fprintf(&b, "%s: %s", p.Severity, p.Text)
	if p.Rule != "" {
		fmt.Fprintf(&b, " [%s]", p.Rule)
	}
	if p.Source != "" && p.Line > 0 {
		num := fmt.Sprintf("%5d", p.Line)
		line := strings.Map(visible, strings.TrimRight(p.Source, "\r\n"))
		if utf8.RuneCountInString(line) > 160 {
			line = string([]rune(line)[:160])
		}
		fmt.Fprintf(&b, "\n%s | %s", num, line)
		if p.Column > 0 && p.Column <= 160 {
			mark := strings.Repeat("^", max(1, min(p.Width, 160-p.Column)))
			fmt.Fprintf(&b, "\n      | %s%s", strings.Repeat(" ", p.Column-1), mark)
		}
	}
	if p.Expected != "" {
		b.WriteString("\n   expected: " + p.Expected)
	}
	if p.Try != "" {
		b.WriteString("\n   try:      " + p.Try)
	}
	return b.String()
}

// visible keeps control characters, which could drive a terminal, out of messages.
func visible(r rune) rune {
	switch {
	case r == '\t':
		return ' '
	case r == utf8.RuneError || !unicode.IsPrint(r):
		return '·'
	}
	return r
}

// Problems is a list of problems that is itself an error.
type Problems []Problem

// Error renders all problems, one after the other.
func (ps Problems) Error() string {
	out := make([]string, len(ps))
	for i, p := range ps {
		out[i] = p.String()
	}
	return strings.Join(out, "\n")
}

// Sorted returns the problems by file, line and column; equal places keep their order.
func (ps Problems) Sorted() Problems {
	out := append(Problems(nil), ps...)
	sort.SliceStable(out, func(i, j int) bool {
		a, b := out[i].Position, out[j].Position
		if a.File != b.File {
			return a.File < b.File
		}
		if a.Line != b.Line {
			return a.Line < b.Line
		}
		return a.Column < b.Column
	})
	return out
}

// Err returns nil when no problem is an error, else all problems, sorted.
func (ps Problems) Err() error {
	for _, p := range ps {
		if p.Severity == Error {
			return ps.Sorted()
		}
	}
	return nil
}

// LineOf returns the text of a line, counted from 1.
func LineOf(source string, line int) string {
	for i := 1; i < line; i++ {
		nl := strings.IndexByte(source, '\n')
		if nl < 0 {
			return ""
		}
		source = source[nl+1:]
	}
	if nl := strings.IndexByte(source, '\n'); nl >= 0 {
		source = source[:nl]
	}
	return source
}

// Nearest returns the name closest to what was typed, or "" when none is near. Letter case alone never makes names
// differ; a name that begins with what was typed counts as near. Of equally near names the first in order wins.
func Nearest(typed string, names []string) string {
	const step = 100 // what one wrong letter costs
	best, bestCost := "", (len([]rune(typed))/3+2)*step
	low := strings.ToLower(typed)
	for _, n := range names {
		name := strings.ToLower(n)
		cost := distance(low, name) * step
		if low != "" && strings.HasPrefix(name, low) {
			cost = min(cost, step+len(name)-len(low))
		}
		if cost < bestCost || cost == bestCost && best != "" && n < best {
			best, bestCost = n, cost
		}
	}
	return best
}

// Likeness tells how like two words are, from 0 to 1: 1 less the share of letters that would have to change. Words of
// fewer than four letters are alike when they are the same.
func Likeness(a, b string) float64 {
	n := max(len([]rune(a)), len([]rune(b)))
	switch {
	case a == b:
		return 1
	case min(len([]rune(a)), len([]rune(b))) < 4:
		return 0
	}
	return 1 - float64(distance(a, b))/float64(n)
}

// distance counts insertions, deletions, substitutions and swaps of neighbours (optimal string alignment).
func distance(a, b string) int {
	x, y := []rune(a), []rune(b)
	var prev2 []int
	prev := make([]int, len(y)+1)
	for j := range prev {
		prev[j] = j
	}
	for i := 1; i <= len(x); i++ {
		cur := make([]int, len(y)+1)
		cur[0] = i
		for j := 1; j <= len(y); j++ {
			cost := 1
			if x[i-1] == y[j-1] {
				cost = 0
			}
			cur[j] = min(prev[j]+1, cur[j-1]+1, prev[j-1]+cost)
			if i > 1 && j > 1 && x[i-1] == y[j-2] && x[i-2] == y[j-1] {
				cur[j] = min(cur[j], prev2[j-2]+1)
			}
		}
		prev2, prev = prev, cur
	}
	return prev[len(y)]
}
