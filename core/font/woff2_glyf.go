package font

import (
	"encoding/binary"
)

// glyphs is what the transformed glyf table of a WOFF2 file holds.
type glyphTables struct {
	glyf, loca []byte
	lefts      []int16
}

// longOffsets notes in head that loca counts bytes.
func longOffsets(tables []table) {
	for i, t := range tables {
		if t.tag == "head" && len(t.data) >= 54 {
			own := append([]byte(nil), t.data...)
			binary.BigEndian.PutUint16(own[50:], 1)
			tables[i].data = own
		}
	}
}

// glyfStreams are the parts of a transformed glyf table, each read on its own.
type glyfStreams struct {
	contours, points, flags, glyphs, composites, boxes, instructions *byteReader
	boxed                                                            []byte // a bit for each glyph that has a box
}

// restoreGlyf undoes the glyf transform (WOFF2, "Transformed glyf table format"). Points are written one by one, so the
// table is larger than the one that was packed.
func restoreGlyf(data []byte) (out glyphTables, err error) {
	r := &byteReader{data: data}
	r.take(4) // reserved, options
	num := int(r.u16())
	r.u16()
	var sizes [7]int
	for i := range sizes {
		sizes[i] = r.u32()
	}
	if r.bad {
		return out, errShort
	}
	part := func(n int) *byteReader {
		if n < 0 || r.i+n > len(data) {
			r.bad = true
			n = 0
		}
		return &byteReader{data: r.take(n)}
	}
	s := &glyfStreams{part(sizes[0]), part(sizes[1]), part(sizes[2]), part(sizes[3]), part(sizes[4]), part(sizes[5]),
		part(sizes[6]), nil}
	s.boxed = s.boxes.take((num + 31) / 32 * 4)
	if r.bad || s.boxes.bad {
		return out, errShort
	}
	for i := range num {
		out.loca = binary.BigEndian.AppendUint32(out.loca, uint32(len(out.glyf)))
		glyph, left, ok := s.glyph(s.boxed[i/8]&(0x80>>(i%8)) != 0)
		if !ok {
			return out, errShort
		}
		out.lefts = append(out.lefts, left)
		out.glyf = append(out.glyf, glyph...)
		for len(out.glyf)%4 != 0 {
			out.glyf = append(out.glyf, 0)
		}
	}
	out.loca = binary.BigEndian.AppendUint32(out.loca, uint32(len(out.glyf)))
	return out, nil
}

// glyph reads one glyph and writes it as the glyf table has it.
func (s *glyfStreams) glyph(boxed bool) (out []byte, left int16, ok bool) {
	n := int(int16(s.contours.u16()))
	var box []byte
	if boxed {
		box = s.boxes.take(8)
	}
	switch {
	case s.contours.bad || s.boxes.bad || n < -1:
		return nil, 0, false
	case n == 0:
		return nil, 0, true
	case n == -1:
		return s.composite(box)
	}
	return s.simple(n, box)
}

func (s *glyfStreams) composite(box []byte) (out []byte, left int16, ok bool) {
	if box == nil {
		return nil, 0, false
	}
	out = append(binary.BigEndian.AppendUint16(nil, 0xffff), box...)
	hinted := false
	for {
		flags := s.composites.u16()
		size := 4 // glyph, two bytes of arguments
		if flags&1 != 0 {
			size += 2
		}
		switch {
		case flags&8 != 0:
			size += 2
		case flags&0x40 != 0:
			size += 4
		case flags&0x80 != 0:
			size += 8
		}
		out = binary.BigEndian.AppendUint16(out, flags)
		out = append(out, s.composites.take(size)...)
		hinted = hinted || flags&0x100 != 0
		if s.composites.bad {
			return nil, 0, false
		}
		if flags&0x20 == 0 {
			break
		}
	}
	if hinted {
		n := s.glyphs.short()
		out = binary.BigEndian.AppendUint16(out, uint16(n))
		out = append(out, s.instructions.take(n)...)
	}
	return out, int16(binary.BigEndian.Uint16(box)), !s.glyphs.bad && !s.instructions.bad
}

func (s *glyfStreams) simple(n int, box []byte) (out []byte, left int16, ok bool) {
	ends := make([]byte, 0, 2*n)
	total := 0
	for range n {
		total += s.points.short()
		ends = binary.BigEndian.AppendUint16(ends, uint16(total-1))
	}
	if s.points.bad || total > 1<<16 {
		return nil, 0, false
	}
	flags, xs, ys := make([]byte, 0, total), make([]byte, 0, 2*total), make([]byte, 0, 2*total)
	x, y := 0, 0
	x0, y0, x1, y1 := 1<<15-1, 1<<15-1, -1<<15, -1<<15
	for range total {
		flag := s.flags.byte()
		dx, dy := s.triplet(flag & 127)
		if s.flags.bad || s.glyphs.bad {
			return nil, 0, false
		}
		x, y = x+dx, y+dy
		x0, y0, x1, y1 = min(x0, x), min(y0, y), max(x1, x), max(y1, y)
		on := byte(1)
		if flag&128 != 0 {
			on = 0
		}
		flags = append(flags, on)
		xs, ys = binary.BigEndian.AppendUint16(xs, uint16(dx)), binary.BigEndian.AppendUint16(ys, uint16(dy))
	}
	hints := s.glyphs.short()
	code := s.instructions.take(hints)
	if s.glyphs.bad || s.instructions.bad {
		return nil, 0, false
	}
	out = binary.BigEndian.AppendUint16(nil, uint16(n))
	if box == nil {
		for _, v := range [4]int{x0, y0, x1, y1} {
			box = binary.BigEndian.AppendUint16(box, uint16(v))
		}
	}
	out = append(append(out, box...), ends...)
	out = append(binary.BigEndian.AppendUint16(out, uint16(hints)), code...)
	out = append(append(append(out, flags...), xs...), ys...)
	return out, int16(binary.BigEndian.Uint16(box)), true
}

// triplet reads the step to a point (WOFF2, "Triplet encoding").
func (s *glyfStreams) triplet(f byte) (dx, dy int) {
	sign := func(bit byte, v int) int {
		if bit&1 == 0 {
			return -v
		}
		return v
	}
	r := s.glyphs
	v := int(f)
	switch {
	case f < 10:
		return 0, sign(f, (v&14)<<7+int(r.byte()))
	case f < 20:
		return sign(f, ((v-10)&14)<<7+int(r.byte())), 0
	case f < 84:
		b0, b1 := v-20, int(r.byte())
		return sign(f, 1+b0&0x30+b1>>4), sign(f>>1, 1+(b0&0x0c)<<2+b1&15)
	case f < 120:
		b0, b1, b2 := v-84, int(r.byte()), int(r.byte())
		return sign(f, 1+(b0/12)<<8+b1), sign(f>>1, 1+((b0%12)>>2)<<8+b2)
	case f < 124:
		b1, b2, b3 := int(r.byte()), int(r.byte()), int(r.byte())
		return sign(f, b1<<4+b2>>4), sign(f>>1, (b2&15)<<8+b3)
	}
	b1, b2, b3, b4 := int(r.byte()), int(r.byte()), int(r.byte()), int(r.byte())
	return sign(f, b1<<8+b2), sign(f>>1, b3<<8+b4)
}
