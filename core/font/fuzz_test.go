package font_test

import (
	"bytes"
	"encoding/binary"
	"os"
	"testing"

	"github.com/andybalholm/brotli"

	"ziegel/core/font"
)

// small are the smallest font files of each kind that are here; larger ones would only be unpacked more slowly.
var small = []string{"../../e2e/testdata/boxes/assets/marlow.ttf", "../../e2e/testdata/boxes/assets/marlow.otf",
	"../../e2e/testdata/boxes/assets/marlow-bold.woff"}

// use shapes with whatever comes out of a font file.
func use(data []byte) {
	set := font.NewSet([]*font.Entry{font.Plain("F", 400, false, data)}, map[string][]string{"": {"F"}})
	for _, face := range set.Find(font.Want{Families: []string{"F"}, Weight: 600, Size: 16}) {
		text := []rune("AV fi")
		face.Shape(text, font.Features{}).Prefix(16, 0, 0, text)
		face.Metrics(16)
		face.ZeroWidth(16)
	}
}

// FuzzFont reads anything as a font file and shapes with what comes out.
func FuzzFont(f *testing.F) {
	for _, name := range small {
		data, err := os.ReadFile(name)
		if err != nil {
			f.Fatal(err)
		}
		f.Add(data)
	}
	f.Fuzz(func(t *testing.T, data []byte) { use(data) })
}

// FuzzPacked packs anything as the tables of a WOFF2 file, with a directory that says anything of them.
func FuzzPacked(f *testing.F) {
	data, err := os.ReadFile(small[0])
	if err != nil {
		f.Fatal(err)
	}
	var directory, stream []byte
	// the table directory of OpenType: tag, checksum, offset, length
	for i := range int(binary.BigEndian.Uint16(data[4:])) {
		e := data[12+16*i:]
		at, length := binary.BigEndian.Uint32(e[8:]), binary.BigEndian.Uint32(e[12:])
		// 63: the tag follows; 3: not transformed
		directory = append(append(append(directory, 0xff), e[:4]...), base128(length)...)
		if tag := string(e[:4]); tag != "glyf" && tag != "loca" {
			directory[len(directory)-5-len(base128(length))] = 0x3f
		}
		stream = append(stream, data[at:at+length]...)
	}
	whole := pack(directory, stream, binary.BigEndian.Uint16(data[4:]))
	if font.NewSet([]*font.Entry{font.Plain("F", 400, false, whole)},
		nil).Find(font.Want{Families: []string{"F"}, Size: 16}) == nil {
		f.Fatal("the file that all begins with cannot be read")
	}
	f.Add(directory, stream, binary.BigEndian.Uint16(data[4:]))
	f.Add(directory[:9], stream[:100], uint16(1))
	f.Fuzz(func(t *testing.T, directory, stream []byte, tables uint16) {
		use(pack(directory, stream, tables))
	})
}

// pack makes a WOFF2 file.
func pack(directory, stream []byte, tables uint16) []byte {
	var packed bytes.Buffer
	w := brotli.NewWriterLevel(&packed, 0)
	if _, err := w.Write(stream); err != nil {
		panic(err)
	}
	if err := w.Close(); err != nil {
		panic(err)
	}
	file := make([]byte, 48)
	copy(file, "wOF2\x00\x01\x00\x00")
	binary.BigEndian.PutUint16(file[12:], tables)
	binary.BigEndian.PutUint32(file[20:], uint32(packed.Len()))
	file = append(append(file, directory...), packed.Bytes()...)
	binary.BigEndian.PutUint32(file[8:], uint32(len(file)))
	return file
}

// base128 writes a number as WOFF2 does (WOFF 2, section 4.1).
func base128(v uint32) []byte {
	out := []byte{byte(v & 127)}
	for v >>= 7; v > 0; v >>= 7 {
		out = append([]byte{byte(v&127) | 128}, out...)
	}
	return out
}
