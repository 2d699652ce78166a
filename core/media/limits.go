package media

import (
	"bytes"
	"encoding/binary"
	"encoding/xml"
	"errors"
	"fmt"
	"image"
	"io"
	"strings"
)

// What a picture may be before it is decoded or painted. All of it is far beyond what a page can use; a file beyond
// it would take memory and time out of proportion to its size.
const (
	mostPixels   = 120 << 20 // of a picture: about 12,000 x 10,000
	mostElements = 20000     // of a drawing, those that `use` repeats counted each time
	mostNesting  = 200       // of groups in a drawing
	mostPath     = 2 << 20   // bytes of shapes and other values in a drawing
	mostIcon     = 64 << 10  // bytes of an icon: it stands in every page that shows it
)

// checkPixels refuses a picture that is too large to be decoded, by its header.
func checkPixels(data []byte) error {
	c, _, err := image.DecodeConfig(bytes.NewReader(data))
	if err != nil {
		return err
	}
	return tooManyPixels(c.Width, c.Height)
}

func tooManyPixels(w, h int) error {
	if int64(w)*int64(h) > mostPixels {
		return fmt.Errorf("a picture of %d x %d px has %d megapixels, and %d are the most", w, h,
			int64(w)*int64(h)>>20, mostPixels>>20)
	}
	return nil
}

var errCut = errors.New("the end of the file is missing: it was not copied or saved to its end")

// checkWhole refuses a picture whose end is missing: browsers show nothing of it, or a part.
func checkWhole(kind string, data []byte) error {
	switch kind {
	case "png":
		for at := 8; at+12 <= len(data); { // chunk by chunk: length, name, data, checksum
			n := int64(binary.BigEndian.Uint32(data[at:]))
			if string(data[at+4:at+8]) == "IEND" {
				return nil
			}
			if int64(at)+12+n > int64(len(data)) {
				return errCut
			}
			at += 12 + int(n)
		}
		return errCut
	case "jpeg":
		scan, end := bytes.LastIndex(data, []byte{0xff, 0xda}), bytes.LastIndex(data, []byte{0xff, 0xd9})
		if end < scan {
			return errCut
		}
	case "webp":
		if len(data) >= 8 && int64(binary.LittleEndian.Uint32(data[4:]))+8 > int64(len(data)) {
			return errCut
		}
	case "gif":
		if !bytes.Contains(data[max(0, len(data)-64):], []byte{0x3b}) {
			return errCut
		}
	}
	return nil
}

// CheckSVG refuses a drawing that would take more to paint than a page can use, by counting what is in it.
func CheckSVG(data []byte) error {
	d := xml.NewDecoder(bytes.NewReader(data))
	d.Strict = false
	var open []string // ids of the elements around, "" for none
	own := map[string]int64{}
	uses := map[string][]string{}
	elements, shapes := int64(0), 0
	for {
		tok, err := d.RawToken()
		if err != nil {
			if !errors.Is(err, io.EOF) {
				return fmt.Errorf("not an SVG picture: %w", err)
			}
			break
		}
		switch t := tok.(type) {
		case xml.StartElement:
			if elements++; elements > mostElements {
				return fmt.Errorf("a drawing of over %d elements, which are the most", mostElements)
			}
			id, link := "", ""
			for _, a := range t.Attr {
				shapes += len(a.Value)
				switch {
				case a.Name.Local == "id":
					id = a.Value
				case a.Name.Local == "href" && t.Name.Local == "use":
					link = strings.TrimPrefix(a.Value, "#")
				}
			}
			if shapes > mostPath {
				return fmt.Errorf("a drawing of over %d MB of shapes, which are the most", mostPath>>20)
			}
			if open = append(open, id); len(open) > mostNesting {
				return fmt.Errorf("a drawing whose elements are nested over %d deep, which is the most", mostNesting)
			}
			around := append([]string{whole}, open...)
			for _, a := range around {
				if a != "" {
					own[a]++
				}
				if a != "" && link != "" {
					uses[a] = append(uses[a], link)
				}
			}
		case xml.EndElement:
			if len(open) > 0 {
				open = open[:len(open)-1]
			}
		}
	}
	return expansions(own, uses)
}

// whole stands for the drawing itself among the ids of what is in it.
const whole = "*"

// expansions counts the elements of a drawing with all that its uses repeat.
func expansions(own map[string]int64, uses map[string][]string) error {
	const busy = -1
	all := map[string]int64{}
	var count func(id string) (int64, error)
	count = func(id string) (int64, error) {
		switch n, ok := all[id]; {
		case ok && n == busy:
			return 0, fmt.Errorf("a drawing whose use of %q is in what it repeats", id)
		case ok:
			return n, nil
		}
		all[id] = busy
		n := own[id]
		for _, u := range uses[id] {
			more, err := count(u)
			if err != nil {
				return 0, err
			}
			if n += more; n > mostElements {
				return 0, fmt.Errorf("a drawing of over %d elements with all that it repeats, which are the most",
					mostElements)
			}
		}
		all[id] = n
		return n, nil
	}
	_, err := count(whole)
	return err
}
