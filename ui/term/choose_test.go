package term

import (
	"fmt"
	"strings"
	"testing"

	tea "charm.land/bubbletea/v2"
	"github.com/stretchr/testify/assert"
)

// driven sends keys to a chooser over three entries and runs what it asks for.
func driven(width, height int, keys ...tea.Msg) *chooserModel {
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

func typed(s string) tea.Msg { return tea.KeyPressMsg{Text: s, Code: []rune(s)[0]} }

func TestTheChooserNarrowsMovesAndTakes(t *testing.T) {
	down, enter, esc := tea.KeyPressMsg{Code: tea.KeyDown}, tea.KeyPressMsg{Code: tea.KeyEnter},
		tea.KeyPressMsg{Code: tea.KeyEscape}
	m := driven(100, 20, typed("hero"), down)
	assert.Contains(t, m.screen(), "[hero/beside]")
	assert.Contains(t, m.screen(), "hero/beside in 73 cells", "what is at the cursor is drawn beside the list")
	assert.NotContains(t, m.screen(), "pricing/plans")
	assert.Equal(t, "hero/beside", driven(100, 20, typed("hero"), down, enter).chosen)
	assert.Equal(t, "hero/beside", driven(100, 20, typed("hero"), down, down, down, enter).chosen,
		"the cursor stays in the list")
	assert.Equal(t, "hero/beside", driven(100, 20, tea.PasteMsg{Content: "hero/be"}, enter).chosen,
		"pasted words narrow too")
	assert.Empty(t, driven(100, 20, esc).chosen)
	assert.Equal(t, "", driven(100, 20, typed("hero"), esc).words, "the first escape takes back what was typed")
	assert.Contains(t, driven(100, 20, typed("xyz"), enter).screen(), "nothing like that")
}

// A small terminal shows the list alone, with the cursor in sight, and no line is wider than it.
func TestTheChooserFitsSmallTerminals(t *testing.T) {
	end := tea.KeyPressMsg{Code: tea.KeyEnd}
	view := driven(40, 7, end).screen()
	assert.Contains(t, view, "[pricing/plans]")
	lines := strings.Split(view, "\n")
	assert.Len(t, lines, 7)
	for _, l := range lines {
		assert.LessOrEqual(t, len([]rune(l)), 40, l)
	}
}
