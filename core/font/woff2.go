package font

import (
	"bytes"
	"encoding/binary"
	"fmt"
	"io"
	"sort"

	"github.com/andybalholm/brotli"
)

// woff2Tags are the known table tags of the WOFF2 specification, "Table directory format", in their order.
const woff2Tags = "cmapheadhheahmtxmaxpnameOS/2postcvt fpgmglyflocaprepCFF VORGEBDTEBLCgasphdmxkernLTSHPCLTVDMXvheavmtxBASEGDEFGPOSGSUBEBSC" +
	"JSTFMATHCBDTCBLCCOLRCPALSVG sbixacntavarbdatblocbslncvarfdscfeatfmtxfvargvarhstyjustlcarmortmorxopbdproptrakZapfSilfGlatGlocFeatSill"

// decodeWOFF2 unpacks a WOFF2 file to the tables that layout needs. Outlines (glyf, loca, gvar) are left out unless
// they are asked for: they are stored transformed and say nothing about advances.
func decodeWOFF2(data []byte, outlines bool) ([]byte, error) {
	if len(data) < 48 {
		return nil, errShort
	}
	num := int(binary.BigEndian.Uint16(data[12:]))
	compressed := int(binary.BigEndian.Uint32(data[20:]))
	r := &byteReader{data: data, i: 48}
	type entry struct {
		tag       string
		length    int
		transform byte
	}
	entries := make([]entry, 0, num)
	total := 0
	for range num {
		flag := r.byte()
		e := entry{transform: flag >> 6}
		if idx := int(flag & 63); idx == 63 {
			e.tag = string(r.take(4))
		} else {
			e.tag = woff2Tags[idx*4 : idx*4+4]
		}
		original := r.base128()
		e.length = original
		isGlyf := e.tag == "glyf" || e.tag == "loca"
		if isGlyf && e.transform != 3 || !isGlyf && e.transform != 0 {
			e.length = r.base128()
		}
		if r.bad || e.length < 0 || e.length > 1<<27 {
			return nil, errShort
		}
		total += e.length
		entries = append(entries, e)
	}
	if r.i+compressed > len(data) || total > 1<<27 {
		return nil, errShort
	}
	stream, err := io.ReadAll(io.LimitReader(brotli.NewReader(bytes.NewReader(data[r.i:r.i+compressed])),
		int64(total)))
	if err != nil {
		return nil, fmt.Errorf("unpack the WOFF2 font: %w", err)
	}
	if len(stream) < total {
		return nil, errShort
	}
	var tables []table
	at := 0
	for _, e := range entries {
		part := stream[at : at+e.length]
		at += e.length
		switch e.tag {
		case "glyf", "loca", "gvar":
			if !outlines || e.tag != "gvar" && e.transform != 3 {
				continue // filled below
			}
		case "hmtx":
			if e.transform == 1 {
				part = nil // filled below, when hhea and maxp are known
			}
		}
		tables = append(tables, table{e.tag, part})
	}
	var lefts []int16 // left edge of each glyph, when outlines are restored
	at = 0
	for _, e := range entries {
		if outlines && e.tag == "glyf" && e.transform != 3 {
			g, err := restoreGlyf(stream[at : at+e.length])
			if err != nil {
				return nil, err
			}
			tables, lefts = append(tables, table{"glyf", g.glyf}, table{"loca", g.loca}), g.lefts
			longOffsets(tables)
		}
		at += e.length
	}
	at = 0
	for _, e := range entries {
		if e.tag == "hmtx" && e.transform == 1 {
			if err := restoreHmtx(tables, stream[at:at+e.length], lefts); err != nil {
				return nil, err
			}
		}
		at += e.length
	}
	return sfnt(tables), nil
}

// restoreHmtx undoes the hmtx transform (WOFF2, "Transformed hmtx table format"); side bearings, which it derives from
// outlines, are the left edges of the glyphs, or 0 without those: layout does not read them.
func restoreHmtx(tables []table, data []byte, lefts []int16) error {
	find := func(tag string) []byte {
		for _, t := range tables {
			if t.tag == tag {
				return t.data
			}
		}
		return nil
	}
	hhea, maxp := find("hhea"), find("maxp")
	if len(hhea) < 36 || len(maxp) < 6 || len(data) < 1 {
		return errShort
	}
	long, glyphs := int(binary.BigEndian.Uint16(hhea[34:])), int(binary.BigEndian.Uint16(maxp[4:]))
	if len(data) < 1+2*long || glyphs < long {
		return errShort
	}
	// what is not derived stands after the widths: of the first glyphs, then of the others
	flags, own := data[0], data[1+2*long:]
	bearing := func(i int, derived bool) []byte {
		if !derived && len(own) >= 2 {
			v := own[:2]
			own = own[2:]
			return v
		}
		if i < len(lefts) {
			return binary.BigEndian.AppendUint16(nil, uint16(lefts[i]))
		}
		return []byte{0, 0}
	}
	out := make([]byte, 0, 4*long+2*(glyphs-long))
	for i := range long {
		out = append(out, data[1+2*i], data[2+2*i])
		out = append(out, bearing(i, flags&1 != 0)...)
	}
	for i := long; i < glyphs; i++ {
		out = append(out, bearing(i, flags&2 != 0)...)
	}
	for i := range tables {
		if tables[i].tag == "hmtx" {
			tables[i].data = out
		}
	}
	return nil
}

// sfnt writes tables as a plain OpenType file.
func sfnt(tables []table) []byte {
	sort.Slice(tables, func(i, j int) bool { return tables[i].tag < tables[j].tag })
	head := make([]byte, 12+16*len(tables))
	binary.BigEndian.PutUint32(head, 0x00010000)
	binary.BigEndian.PutUint16(head[4:], uint16(len(tables)))
	body := []byte{}
	for i, t := range tables {
		rec := head[12+16*i:]
		copy(rec, t.tag)
		binary.BigEndian.PutUint32(rec[8:], uint32(len(head)+len(body)))
		binary.BigEndian.PutUint32(rec[12:], uint32(len(t.data)))
		body = append(body, t.data...)
		for len(body)%4 != 0 {
			body = append(body, 0)
		}
	}
	return append(head, body...)
}
