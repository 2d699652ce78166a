package project

import (
	"fmt"
	"net/url"
	"strings"

	"ziegel/core/media"
)

// PictureSize gives the natural size of a file below media/, 0 when it cannot be read.
func (e *Project) PictureSize(file string) (w, h float64, err error) {
	size := Once(e, sizeKey(file), func() (s sizeOf) {
		data, err := e.MediaFile(file)
		if err == nil {
			s.w, s.h, err = media.Size(file, data)
		}
		s.err = err
		return s
	})
	return size.w, size.h, size.err
}

type sizeKey string

type sizeOf struct {
	w, h float64
	err  error
}

// MediaName gives the file below media/ that an address on a page means.
func MediaName(address string) (name string, ok bool) {
	_, path, ok := strings.Cut(address, "media/")
	if !ok {
		return "", false
	}
	name, err := url.PathUnescape(path)
	return name, err == nil
}

// URLPath writes a file's path as pages refer to it. All but letters, digits and -_.~/ is escaped: a comma would part a
// srcset, a bracket or a quote would end an address in a stylesheet.
func URLPath(name string) string {
	var b strings.Builder
	for i := 0; i < len(name); i++ {
		c := name[i]
		letter := c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z'
		if letter || c >= '0' && c <= '9' || strings.IndexByte("-_.~/", c) >= 0 {
			b.WriteByte(c)
			continue
		}
		fmt.Fprintf(&b, "%%%02X", c)
	}
	return b.String()
}
