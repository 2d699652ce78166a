package check

import (
	"bytes"
	"encoding/gob"
	"encoding/json"

	"ziegel/core/store"
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
