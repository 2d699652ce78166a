package term

import (
	"fmt"
	"strings"
	"testing"

	tea "github.com/charmbracelet/bubbletea"
	"github.com/stretchr/testify/assert"
)

// driven sends keys to a chooser over three entries and runs what it asks for.
func driven(width, height int, keys ...tea.KeyMsg) *chooserModel {
	all := []string{"hero/alone", "hero/beside", "pricing/plans"}
	m := newChooserModel(Chooser{Title: "add to home", Search: func(words string) []Entry {
		var out []Entry
		for _, n := range all {
			if strings.Contains(n, words) {
				out = append(out, Entry{Name: n})
			}
		}
		return out
	}, Draw: func(name string, width int) []string { return []string{fmt.Sprintf("%s in %d cells", name, width)} }})
	send := func(msg tea.Msg) {
		for msg != nil {
			_, cmd := m.Update(msg)
			if msg = nil; cmd != nil {
				msg = cmd()
			}
			if _, end := msg.(tea.QuitMsg); end {
				return
			}
		}
	}
	send(tea.WindowSizeMsg{Width: width, Height: height})
	for _, k := range keys {
		send(k)
	}
	return m
}

func typed(s string) tea.KeyMsg { return tea.KeyMsg{Type: tea.KeyRunes, Runes: []rune(s)} }

func TestTheChooserNarrowsMovesAndTakes(t *testing.T) {
	down, enter, esc := tea.KeyMsg{Type: tea.KeyDown}, tea.KeyMsg{Type: tea.KeyEnter}, tea.KeyMsg{Type: tea.KeyEsc}
	m := driven(100, 20, typed("hero"), down)
	assert.Contains(t, m.View(), "▸ hero/beside")
	assert.Contains(t, m.View(), "hero/beside in 73 cells", "what is at the cursor is drawn beside the list")
	assert.NotContains(t, m.View(), "pricing/plans")
	assert.Equal(t, "hero/beside", driven(100, 20, typed("hero"), down, enter).chosen)
	assert.Equal(t, "hero/beside", driven(100, 20, typed("hero"), down, down, down, enter).chosen, "the cursor stays in the list")
	assert.Empty(t, driven(100, 20, esc).chosen)
	assert.Equal(t, "", driven(100, 20, typed("hero"), esc).words, "the first escape takes back what was typed")
	assert.Contains(t, driven(100, 20, typed("xyz"), enter).View(), "nothing like that")
}

// A small terminal shows the list alone, with the cursor in sight, and no line is wider than it.
func TestTheChooserFitsSmallTerminals(t *testing.T) {
	end := tea.KeyMsg{Type: tea.KeyEnd}
	view := driven(40, 7, end).View()
	assert.Contains(t, view, "▸ pricing/plans")
	lines := strings.Split(view, "\n")
	assert.Len(t, lines, 7)
	for _, l := range lines {
		assert.LessOrEqual(t, len([]rune(l)), 40, l)
	}
}
