package paint

import (
	"crypto/sha256"
	"strings"
	"sync"

	"ziegel/core/media"
	"ziegel/core/paint/display"
)

// Files keeps pictures that were decoded, by their content. It may be used by several goroutines at once.
type Files struct {
	mu      sync.Mutex
	bitmaps map[[32]byte]*display.Bitmap
}

// NewFiles returns an empty memory.
func NewFiles() *Files { return &Files{bitmaps: map[[32]byte]*display.Bitmap{}} }

// bitmap decodes a picture file.
func (f *Files) bitmap(name string, data []byte) (*display.Bitmap, error) {
	key := sha256.Sum256(data)
	f.mu.Lock()
	defer f.mu.Unlock()
	if b, ok := f.bitmaps[key]; ok {
		return b, nil
	}
	img, kind, err := media.Decode(data)
	if err != nil {
		return nil, err
	}
	b := &display.Bitmap{Name: name, Data: data, Kind: kind, Image: img}
	f.bitmaps[key] = b
	return b, nil
}

func shortName(src string) string {
	if strings.HasPrefix(src, "data:") {
		return "in the page"
	}
	return src
}

func looksLikeSVG(data []byte) bool {
	head := strings.ToLower(string(data[:min(len(data), 2048)]))
	return strings.Contains(head, "<svg") && !strings.HasPrefix(strings.TrimSpace(head), "<!doctype html")
}
