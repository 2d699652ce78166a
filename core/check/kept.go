package check

import (
	"bytes"
	"encoding/gob"
	"encoding/json"

	"ziegel/core/css"
	"ziegel/core/layout"
	"ziegel/core/project"
	"ziegel/core/store"
	"ziegel/core/sweep"
)

// loadPiece gives a piece that was kept, nil when there is none.
func loadPiece(st store.Store, key string) *piece {
	data, ok := st.Read(key + ".piece")
	p := &piece{}
	if !ok || gob.NewDecoder(bytes.NewReader(data)).Decode(p) != nil {
		return nil
	}
	return p
}

func savePiece(st store.Store, key string, p *piece) {
	var out bytes.Buffer
	if st.Dir == "" || gob.NewEncoder(&out).Encode(p) != nil {
		return
	}
	st.Write(key+".piece", out.Bytes())
}

// LoadReport gives a report that was kept, nil when there is none.
func LoadReport(st store.Store, key string) *Report {
	data, ok := st.Read(key + ".json")
	r := &Report{}
	if !ok || json.Unmarshal(data, r) != nil || r.Page == "" {
		return nil
	}
	return r
}

// SaveReport keeps a report, unless its sweep was stopped.
func SaveReport(st store.Store, key string, r *Report) {
	if r.Stopped {
		return
	}
	if data, err := json.Marshal(r); err == nil {
		st.Write(key+".json", data)
	}
}

// piece is what a sweep of one block alone tells.
type piece struct {
	Alone    bool             // what is found in it does not depend on other blocks
	Stacking []sweep.Stacking // of the block and of what it holds
	Findings []pieceFinding
	Widths   []pieceWidth
	// something is wrong with it in a state, or it reaches out of its box there: the page is looked at in all states
	States bool
	Lefts  []string // paths inside the block that Left speaks of
}

// pieceFinding is a finding with what is asked again of the whole page.
type pieceFinding struct {
	Finding Finding
	Blame   string // property
	Blamed  string // path of the element that has it from the block on, "" for the finding's own
	Inside  string // path of the element from the block on
	Other   string // part of a second element
	Second  string // path of that from the block on, "" for none or one elsewhere
}

// pieceWidth is how a block stands at one width, from its upper edge, 1/64 px.
type pieceWidth struct {
	Seen                          bool
	H, Top, Bottom, Left          layout.Px
	Need                          layout.Px // free space above it at which it can be looked at alone
	LeftOf                        int32     // index in Lefts, -1 for none
	Ground                        css.Color
	Opens, Closes, LineUp, LineAt bool
}

// inPieces looks at a page block by block.
type inPieces struct {
	st       store.Store
	env      *project.Project
	l        *sweep.Prepared
	from, to int
}
