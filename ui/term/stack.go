package term

import (
	"fmt"
	"io"
	"strings"
	"unicode/utf8"

	"ziegel/core/site"
	"ziegel/core/sweep"
)

// Map draws how blocks stack over all widths, under one ruler with the site's ranges. On anything but a terminal it
// writes a line for each span.
func Map(w io.Writer, s Style, over sweep.Widths, ranges []site.Range, blocks []sweep.Stacking) {
	if !s.Terminal {
		plainMap(w, blocks)
		return
	}
	name := 8
	for _, b := range blocks {
		name = max(name, utf8.RuneCountInString(b.Name))
		for _, in := range b.Inside {
			name = max(name, utf8.RuneCountInString(in.Part)+2)
		}
	}
	name = min(name, 24)
	m := &scale{from: over.From, to: over.To, cols: max(30, min(s.Width, 160)-name-2)}
	pad := strings.Repeat(" ", name+1)
	fmt.Fprintln(w, pad+s.Dim(m.ranges(ranges)))
	fmt.Fprintln(w, pad+s.Dim(m.ruler()))
	for _, b := range blocks {
		fmt.Fprintln(w, fit(s.Bold(b.Name), b.Name, name)+" "+m.bar(b.Arrangements, "━", "┃"))
		if note := changes(b.Arrangements); note != "" {
			fmt.Fprintln(w, pad+s.Dim(note))
		}
		for _, in := range b.Inside {
			if len(in.Arrangements) > 1 {
				fmt.Fprintln(w, fit(s.Dim("  "+in.Part), "  "+in.Part, name)+" "+
					s.Dim(m.bar(in.Arrangements, "─", "│")))
				fmt.Fprintln(w, pad+s.Dim(changes(in.Arrangements)))
			}
		}
	}
}

// Strip draws on a short ruler where between two widths something holds.
func Strip(s Style, from, to int, spans []sweep.Span) string {
	const cols = 24
	if len(spans) == 0 {
		return strings.Repeat(" ", cols)
	}
	m := &scale{from: from, to: to, cols: cols}
	on := make([]bool, cols)
	for _, sp := range spans {
		first := min(m.col(sp.From), cols-1)
		for i := first; i < max(min(m.col(sp.To+1), cols), first+1); i++ {
			on[i] = true
		}
	}
	var out strings.Builder
	for i := 0; i < cols; {
		k := i
		for k < cols && on[k] == on[i] {
			k++
		}
		if on[i] {
			out.WriteString(strings.Repeat("━", k-i))
		} else {
			out.WriteString(s.Dim(strings.Repeat("·", k-i)))
		}
		i = k
	}
	return out.String()
}

func fit(styled, plain string, width int) string {
	n := utf8.RuneCountInString(plain)
	if n > width {
		return string([]rune(plain)[:width-1]) + "…"
	}
	return styled + strings.Repeat(" ", width-n)
}

// changes names the widths where an arrangement changes: "1+1+1 to 863, 3 from 864".
func changes(list []sweep.Span) string {
	if len(list) < 2 {
		return ""
	}
	var parts []string
	for i, a := range list {
		switch {
		case i == 0:
			parts = append(parts, fmt.Sprintf("%s to %d", a.As, a.To))
		case i == len(list)-1:
			parts = append(parts, fmt.Sprintf("%s from %d", a.As, a.From))
		default:
			parts = append(parts, fmt.Sprintf("%s %d..%d", a.As, a.From, a.To))
		}
	}
	return strings.Join(parts, ", ")
}

func plainMap(w io.Writer, blocks []sweep.Stacking) {
	for _, b := range blocks {
		for _, a := range b.Arrangements {
			fmt.Fprintf(w, "%s\t%d..%d\t%s\n", b.Name, a.From, a.To, a.As)
		}
		for _, in := range b.Inside {
			for _, a := range in.Arrangements {
				fmt.Fprintf(w, "%s.%s\t%d..%d\t%s\n", b.Name, in.Part, a.From, a.To, a.As)
			}
		}
	}
}

// scale maps widths to columns. Narrow widths, where most happens, get more room: half the line goes to the first
// quarter.
type scale struct{ from, to, cols int }

func (m *scale) col(width int) int {
	if m.to == m.from {
		return 0
	}
	knee := m.from + (m.to-m.from)*2/5
	half := m.cols * 6 / 10
	if width <= knee {
		return (width - m.from) * half / max(1, knee-m.from)
	}
	return half + (width-knee)*(m.cols-half)/max(1, m.to-knee)
}

func (m *scale) ruler() string {
	line := []rune(strings.Repeat(" ", m.cols+1))
	last := -10
	for _, w := range []int{240, 320, 390, 480, 600, 768, 900, 1024, 1280, 1440, 1600, 1920, 2240, 2560} {
		label := []rune(fmt.Sprint(w))
		if w < m.from || w > m.to {
			continue
		}
		at := min(m.col(w), m.cols-len(label))
		if at <= last+1 {
			continue
		}
		copy(line[at:], label)
		last = at + len(label)
	}
	return strings.TrimRight(string(line), " ")
}

func (m *scale) ranges(ranges []site.Range) string {
	line := []rune(strings.Repeat(" ", m.cols+1))
	for _, r := range ranges {
		at := m.col(max(m.from, r.From))
		if r.From > m.to {
			continue
		}
		if at < len(line) {
			line[at] = '╷'
		}
		for i, c := range []rune(r.Name) {
			if at+1+i < len(line) {
				line[at+1+i] = c
			}
		}
	}
	return strings.TrimRight(string(line), " ")
}

// bar draws the spans of one block with their arrangements inside.
func (m *scale) bar(list []sweep.Span, fill, wall string) string {
	var b strings.Builder
	for i, a := range list {
		from, to := m.col(a.From), m.cols
		if i < len(list)-1 {
			to = m.col(list[i+1].From)
		}
		width := max(1, to-from)
		b.WriteString(wall)
		room := width - 1
		label := " " + a.As + " "
		if utf8.RuneCountInString(label) > room {
			label = a.As
		}
		n := utf8.RuneCountInString(label)
		if n > room {
			b.WriteString(strings.Repeat(fill, max(0, room)))
			continue
		}
		left := min(1, room-n)
		b.WriteString(strings.Repeat(fill, left) + label + strings.Repeat(fill, room-n-left))
	}
	return b.String() + wall
}
