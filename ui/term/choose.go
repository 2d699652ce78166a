package term

import (
	"fmt"
	"io"
	"slices"
	"strings"

	tea "charm.land/bubbletea/v2"
	"github.com/charmbracelet/x/ansi"
)

// Entry is something that can be chosen.
type Entry struct {
	Name string
	Note string // beside the name, in a dim color: what the words that were typed ask for and it lacks
}

// Chooser lets somebody choose one of many entries in a terminal: what is typed narrows the list, the arrow keys
// move, a drawing of the entry at the cursor stands beside it.
type Chooser struct {
	Title  string
	Search func(words string) []Entry
	// Draw gives lines about an entry, no wider than width cells. It is called by one goroutine at a time, and its
	// outcome kept.
	Draw  func(name string, width int) []string
	Style Style
}

// Choose runs it. ok is false when nothing was chosen.
func (c Chooser) Choose(in io.Reader, out io.Writer) (name string, ok bool, err error) {
	m := newChooserModel(c)
	end, err := tea.NewProgram(m, tea.WithInput(in), tea.WithOutput(out)).Run()
	if err != nil {
		return "", false, fmt.Errorf("choose: %w", err)
	}
	done := end.(*chooserModel)
	return done.chosen, done.chosen != "", nil
}

// chooserModel is what the chooser shows.
type chooserModel struct {
	Chooser
	words   string
	list    []Entry
	at, top int // the cursor, and the first entry that is seen
	width   int // of the terminal, cells
	height  int
	drawn   map[drawing][]string
	busy    bool
	chosen  string
}

type drawing struct {
	name  string
	width int
}

// drawnMsg brings a drawing that was asked for.
type drawnMsg struct {
	of    drawing
	lines []string
}

func newChooserModel(c Chooser) *chooserModel {
	return &chooserModel{Chooser: c, list: c.Search(""), drawn: map[drawing][]string{}}
}

// Init asks for nothing: the size of the terminal comes by itself.
func (m *chooserModel) Init() tea.Cmd { return nil }

// Update follows keys, sizes and drawings.
func (m *chooserModel) Update(msg tea.Msg) (tea.Model, tea.Cmd) {
	switch msg := msg.(type) {
	case tea.WindowSizeMsg:
		m.width, m.height = msg.Width, msg.Height
	case drawnMsg:
		m.drawn[msg.of], m.busy = msg.lines, false
	case tea.PasteMsg:
		m.search(m.words + oneLine(msg.Content))
	case tea.KeyPressMsg:
		if end := m.key(msg); end {
			return m, tea.Quit
		}
	}
	m.follow()
	return m, m.draw()
}

// key takes one key. It answers true when the choosing ends.
func (m *chooserModel) key(k tea.KeyPressMsg) bool {
	switch k.Keystroke() {
	case "ctrl+c":
		return true
	case "esc":
		if m.words == "" {
			return true
		}
		m.search("")
	case "enter":
		if len(m.list) > 0 {
			m.chosen = m.list[m.at].Name
			return true
		}
	case "up", "ctrl+p", "shift+tab":
		m.at--
	case "down", "ctrl+n", "tab":
		m.at++
	case "pgup":
		m.at -= m.rows()
	case "pgdown":
		m.at += m.rows()
	case "home":
		m.at = 0
	case "end":
		m.at = len(m.list) - 1
	case "backspace":
		if r := []rune(m.words); len(r) > 0 {
			m.search(string(r[:len(r)-1]))
		}
	case "ctrl+u", "ctrl+w":
		m.search("")
	default:
		if k.Text != "" {
			m.search(m.words + oneLine(k.Text))
		}
	}
	return false
}

func oneLine(text string) string { return strings.ReplaceAll(text, "\n", " ") }

func (m *chooserModel) search(words string) {
	m.words, m.list, m.at, m.top = words, m.Search(words), 0, 0
}

// rows is how many entries are seen.
func (m *chooserModel) rows() int { return max(1, m.height-5) }

// follow keeps the cursor in the list and in sight.
func (m *chooserModel) follow() {
	m.at = max(0, min(m.at, len(m.list)-1))
	m.top = max(0, min(m.top, m.at), m.at-m.rows()+1)
}

// listWidth is how wide the list is, cells; side the room beside it, 0 when there is none.
func (m *chooserModel) listWidth() (list, side int) {
	list = 24
	if m.width < 64 {
		return m.width, 0
	}
	return list, m.width - list - 3
}

// draw asks for the drawing of the entry at the cursor, one at a time.
func (m *chooserModel) draw() tea.Cmd {
	_, side := m.listWidth()
	if m.busy || side == 0 || len(m.list) == 0 {
		return nil
	}
	of := drawing{m.list[m.at].Name, side}
	if _, ok := m.drawn[of]; ok {
		return nil
	}
	m.busy = true
	return func() tea.Msg { return drawnMsg{of, m.Draw(of.name, of.width)} }
}

// View shows the whole screen.
func (m *chooserModel) View() tea.View {
	v := tea.NewView(m.screen())
	v.AltScreen = true
	return v
}

// screen writes the whole screen.
func (m *chooserModel) screen() string {
	if m.width == 0 {
		return ""
	}
	wide, side := m.listWidth()
	left := []string{m.Style.Bold(m.Title), m.Style.Dim("for ") + m.shownWords(wide-5) + m.Style.Dim("_"), ""}
	for i := m.top; i < min(len(m.list), m.top+m.rows()); i++ {
		left = append(left, m.entry(i, wide))
	}
	if len(m.list) == 0 {
		left = append(left, m.Style.Dim("nothing like that"))
	}
	for len(left) < m.height-1 {
		left = append(left, "")
	}
	out := left[:max(0, min(len(left), m.height-1))]
	if side > 0 && len(m.list) > 0 {
		out = m.beside(out, m.drawn[drawing{m.list[m.at].Name, side}], wide, side)
	}
	keys := "type to narrow · ↑ ↓ move · enter takes it · esc leaves"
	for i := range out {
		out[i] = ansi.Truncate(out[i], m.width, "")
	}
	return strings.Join(append(out, m.Style.Dim(ansi.Truncate(keys, m.width, ""))), "\n")
}

// shownWords gives the end of what was typed that has room in so many cells.
func (m *chooserModel) shownWords(room int) string {
	if over := ansi.StringWidth(m.words) - room; over > 0 {
		return ansi.TruncateLeft(m.words, over, "")
	}
	return m.words
}

// entry writes one line of the list.
func (m *chooserModel) entry(i, wide int) string {
	e := m.list[i]
	line := " " + e.Name
	if i == m.at {
		line = m.Style.Bold("[" + e.Name + "]")
	}
	if e.Note != "" {
		line += " " + m.Style.Dim(e.Note)
	}
	return ansi.Truncate(line, wide, "…")
}

// beside puts the drawing to the right of the list, each line cut to its room.
func (m *chooserModel) beside(left, drawn []string, wide, side int) []string {
	out := slices.Clone(left)
	for i := range out {
		text := ""
		if i < len(drawn) {
			text = ansi.Truncate(drawn[i], side, "")
		}
		pad := strings.Repeat(" ", max(0, wide-ansi.StringWidth(out[i])))
		out[i] += pad + m.Style.Dim(" │ ") + text
	}
	return out
}
