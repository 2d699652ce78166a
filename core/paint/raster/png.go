package raster

import (
	"bytes"
	"encoding/binary"
	"hash/adler32"
	"hash/crc32"
	"image"
	"io"
	"runtime"
	"slices"
	"sync"
	"sync/atomic"

	"github.com/klauspost/compress/flate"

	"ziegel/core/parallel"
)

// pngStrip is how many rows are packed at once.
const pngStrip = 128

// packers are those that have packed a strip: they are large, and what they write depends on what they are given only.
var packers = sync.Pool{New: func() any {
	z, _ := flate.NewWriter(nil, flate.BestSpeed) // the level is one that there is
	return z
}}

// EncodePNG writes an opaque picture as PNG (RGB), packing strips of it at the same time, each strip ending on a whole
// byte. A picture that lets something through is written with its alpha.
func EncodePNG(w io.Writer, img *image.RGBA) error {
	b := img.Rect
	channels, kind := 3, byte(2)
	n := (b.Dy() + pngStrip - 1) / pngStrip
	workers := min(n, runtime.GOMAXPROCS(0))
	strip := func(i int) image.Rectangle {
		return image.Rect(b.Min.X, b.Min.Y+i*pngStrip, b.Max.X, min(b.Max.Y, b.Min.Y+(i+1)*pngStrip))
	}
	var through atomic.Bool
	parallel.Each(workers, n, func(_, i int) bool {
		if part, ok := img.SubImage(strip(i)).(*image.RGBA); ok && !part.Opaque() {
			through.Store(true)
		}
		return !through.Load()
	})
	if through.Load() {
		channels, kind = 4, 6
	}
	packed, sums, sizes := make([][]byte, n), make([]uint32, n), make([]int, n)
	errs := make([]error, n)
	room := make([][]byte, workers)
	parallel.Each(workers, n, func(worker, i int) bool {
		at := strip(i)
		raw := filtered(room[worker], img, at.Min.Y, at.Max.Y, channels)
		room[worker] = raw
		sums[i], sizes[i] = adler32.Checksum(raw), len(raw)
		var out bytes.Buffer
		z, _ := packers.Get().(*flate.Writer)
		z.Reset(&out)
		_, err := z.Write(raw)
		if err == nil {
			if i == n-1 {
				err = z.Close()
			} else {
				err = z.Flush()
			}
		}
		packers.Put(z)
		packed[i], errs[i] = out.Bytes(), err
		return true
	})
	for _, err := range errs {
		if err != nil {
			return err
		}
	}
	head := binary.BigEndian.AppendUint32(nil, uint32(b.Dx()))
	head = binary.BigEndian.AppendUint32(head, uint32(b.Dy()))
	head = append(head, 8, kind, 0, 0, 0)
	data := []byte{0x78, 0x01}
	sum := uint32(1)
	for i, part := range packed {
		data = append(data, part...)
		sum = joinAdler(sum, sums[i], sizes[i])
	}
	data = binary.BigEndian.AppendUint32(data, sum)
	if _, err := io.WriteString(w, "\x89PNG\r\n\x1a\n"); err != nil {
		return err
	}
	for _, c := range []struct {
		name string
		data []byte
	}{{"IHDR", head}, {"sRGB", []byte{0}}, {"IDAT", data}, {"IEND", nil}} {
		if err := chunk(w, c.name, c.data); err != nil {
			return err
		}
	}
	return nil
}

func chunk(w io.Writer, name string, data []byte) error {
	head := binary.BigEndian.AppendUint32(nil, uint32(len(data)))
	head = append(head, name...)
	sum := crc32.NewIEEE()
	_, _ = sum.Write(head[4:])
	_, _ = sum.Write(data)
	for _, part := range [][]byte{head, data, binary.BigEndian.AppendUint32(nil, sum.Sum32())} {
		if _, err := w.Write(part); err != nil {
			return err
		}
	}
	return nil
}

// filtered gives, in a room that may be used again, rows as differences from those above (PNG filter 2): most of a page
// is like what lies above it.
func filtered(room []byte, img *image.RGBA, from, to, channels int) []byte {
	w := img.Rect.Dx()
	line := 1 + w*channels
	out := slices.Grow(room[:0], (to-from)*line)[:(to-from)*line]
	if channels == 3 {
		for y := from; y < to; y++ {
			dst := out[(y-from)*line:][:line]
			dst[0] = 2
			src := img.Pix[img.PixOffset(img.Rect.Min.X, y):][:w*4]
			if y == img.Rect.Min.Y {
				for x, k := 0, 1; x < len(src); x, k = x+4, k+3 {
					dst[k], dst[k+1], dst[k+2] = src[x], src[x+1], src[x+2]
				}
				continue
			}
			above := img.Pix[img.PixOffset(img.Rect.Min.X, y-1):][:w*4]
			if bytes.Equal(src, above) {
				clear(dst[1:])
				continue
			}
			for x, k := 0, 1; x < len(src); x, k = x+4, k+3 {
				dst[k], dst[k+1], dst[k+2] = src[x]-above[x], src[x+1]-above[x+1], src[x+2]-above[x+2]
			}
		}
		return out
	}
	row := make([]byte, w*channels)
	above := make([]byte, w*channels)
	take := func(into []byte, y int) {
		src := img.Pix[img.PixOffset(img.Rect.Min.X, y):][:w*4]
		for x := 0; x < len(src); x += 4 {
			a := uint32(src[x+3])
			if a == 0 {
				into[x], into[x+1], into[x+2], into[x+3] = 0, 0, 0, 0
				continue
			}
			for k := range 3 {
				into[x+k] = uint8(min(255, (uint32(src[x+k])*255+a/2)/a))
			}
			into[x+3] = src[x+3]
		}
	}
	if from > img.Rect.Min.Y {
		take(above, from-1)
	}
	for y := from; y < to; y++ {
		take(row, y)
		dst := out[(y-from)*line:][:line]
		dst[0] = 2
		for i, v := range row {
			dst[1+i] = v - above[i]
		}
		row, above = above, row
	}
	return out
}

// joinAdler gives the checksum of two stretches in a row from their own; n is the length of the second, bytes.
func joinAdler(a, b uint32, n int) uint32 {
	const m = 65521
	a1, a2 := a&0xffff, a>>16
	b1, b2 := b&0xffff, b>>16
	k := uint32(n % m)
	s1 := (a1 + b1 + m - 1) % m
	s2 := (a2 + b2 + uint32(uint64(k)*uint64(a1+m-1)%m)) % m
	return s2<<16 | s1
}
