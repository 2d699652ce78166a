// Package testfont makes fonts for tests.
package testfont

import (
	"encoding/binary"
	"maps"
	"slices"
)

// Colored gives a TrueType font two glyphs in colors: a, red under dot in the color of the text (COLR version 0), and
// b, blue under dot in half of the text's color, moved by 250, 150 font units (version 1).
func Colored(ttf []byte, a, b, dot uint16) []byte {
	tables := map[string][]byte{}
	for i := range int(binary.BigEndian.Uint16(ttf[4:])) {
		entry := ttf[12+16*i:]
		at, size := binary.BigEndian.Uint32(entry[8:]), binary.BigEndian.Uint32(entry[12:])
		tables[string(entry[:4])] = ttf[at : at+size]
	}
	tables["COLR"], tables["CPAL"] = colr(a, b, dot), cpal()
	return sfnt(tables)
}

// list is a table that is being written.
type list []byte

func (l *list) u8(v ...uint8) { *l = append(*l, v...) }

func (l *list) u16(v ...uint16) {
	for _, x := range v {
		*l = binary.BigEndian.AppendUint16(*l, x)
	}
}

func (l *list) u24(v uint32) { l.u8(uint8(v>>16), uint8(v>>8), uint8(v)) }

func (l *list) u32(v ...uint32) {
	for _, x := range v {
		*l = binary.BigEndian.AppendUint32(*l, x)
	}
}

func colr(a, b, dot uint16) []byte {
	const ink, half, whole = 0xFFFF, 1 << 13, 1 << 14
	solid := func(color, alpha uint16) (out list) {
		out.u8(2)
		out.u16(color, alpha)
		return out
	}
	glyph := func(id uint16, paint list) (out list) {
		out.u8(10)
		out.u24(6)
		out.u16(id)
		return append(out, paint...)
	}
	var moved list
	moved.u8(14)
	moved.u24(8)
	moved.u16(250, 150)
	moved = append(moved, glyph(dot, solid(ink, half))...)
	under := glyph(b, solid(1, whole))

	var out, old, paints, layers list
	old.u16(a, 0, 2)
	old.u16(a, 0, dot, ink)
	paints.u32(1)
	paints.u16(b)
	paints.u32(10)
	paints.u8(1, 2)
	paints.u32(0)
	layers.u32(2, 12, 12+uint32(len(under)))
	layers = append(append(layers, under...), moved...)
	const head = 34
	out.u16(1, 1)
	out.u32(head, head+6)
	out.u16(2)
	out.u32(head+uint32(len(old)), head+uint32(len(old)+len(paints)), 0, 0, 0)
	return append(append(append(out, old...), paints...), layers...)
}

// cpal has one palette: red and blue.
func cpal() []byte {
	var out list
	out.u16(0, 2, 1, 2)
	out.u32(14)
	out.u16(0)
	out.u8(0, 0, 255, 255, 255, 0, 0, 255)
	return out
}

func sfnt(tables map[string][]byte) []byte {
	var head, body list
	n := len(tables)
	head.u32(0x00010000)
	head.u16(uint16(n), 0, 0, 0)
	for _, tag := range slices.Sorted(maps.Keys(tables)) {
		data := tables[tag]
		head = append(head, tag...)
		var sum uint32
		padded := append(slices.Clone(data), make([]byte, (4-len(data)%4)%4)...)
		for i := 0; i < len(padded); i += 4 {
			sum += binary.BigEndian.Uint32(padded[i:])
		}
		head.u32(sum, uint32(12+16*n+len(body)), uint32(len(data)))
		body = append(body, padded...)
	}
	return append(head, body...)
}
