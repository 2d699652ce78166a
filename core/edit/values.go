package edit

import "ziegel/core/site"

func put(m *site.Value, key string, v *site.Value) {
	for i := range m.Entries {
		if m.Entries[i].Key == key {
			m.Entries[i].Value = v
			return
		}
	}
	m.Entries = append(m.Entries, site.Entry{Key: key, Value: v})
}
