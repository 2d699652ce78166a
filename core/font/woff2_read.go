package font

import (
	"encoding/binary"
	"errors"
)

type byteReader struct {
	data []byte
	i    int
	bad  bool
}

func (r *byteReader) byte() byte {
	if r.i >= len(r.data) {
		r.bad = true
		return 0
	}
	r.i++
	return r.data[r.i-1]
}

func (r *byteReader) take(n int) []byte {
	if r.i+n > len(r.data) {
		r.bad = true
		return make([]byte, n)
	}
	r.i += n
	return r.data[r.i-n : r.i]
}

// base128 reads a UIntBase128.
func (r *byteReader) base128() int {
	v := 0
	for range 5 {
		b := r.byte()
		v = v<<7 | int(b&127)
		if b&128 == 0 {
			return v
		}
	}
	r.bad = true
	return 0
}

func (r *byteReader) u16() uint16 { return binary.BigEndian.Uint16(r.take(2)) }

func (r *byteReader) u32() int { return int(binary.BigEndian.Uint32(r.take(4))) }

// short reads a 255UInt16.
func (r *byteReader) short() int {
	switch b := r.byte(); b {
	case 253:
		return int(r.u16())
	case 254:
		return int(r.byte()) + 506
	case 255:
		return int(r.byte()) + 253
	default:
		return int(b)
	}
}

var errShort = errors.New("the WOFF2 file ends too early")

type table struct {
	tag  string
	data []byte
}
