package project

import (
	"io/fs"
	"sync"

	"ziegel/core/font"
	"ziegel/core/library"
	"ziegel/core/media"
	"ziegel/core/site"
	"ziegel/core/theme"
)

// Project is everything that a page is made from.
type Project struct {
	Site    *site.Site
	Library *library.Library
	Theme   *theme.Theme
	Draft   *theme.Theme // of blocks that are drafts, nil when the site's own is that one
	Stock   fs.FS        // shipped files: base.css, icons, fonts
	Dir     fs.FS        // the site's folder: media, data
	Fonts   []FontFile   // those of the theme's families
	// DraftFonts are those that drafts need beside them.
	DraftFonts []FontFile
	Base       string // base.css, see SetBase
	Motion     string // stock/motion.css: keyframes of the shipped styles
	Shipped    []site.SharedStyle

	shippedFile *site.File
	words       map[string]map[string]string // of built pages themselves, by language and name
	shared      map[string]bool
	memo        *sync.Map    // what several pages are made from, by all that it follows from; see once
	Looks       *media.Looks // what pictures show
	// what follows from content alone and outlives variations of a site, by keys of types of their own
	Measures *sync.Map
	Memory   Memory // keeps that from one run to the next; nil keeps nothing
	standing map[string]font.Match
}

// Memory keeps what was worked out by the key of what it follows from. It is safe for concurrent use; what it has
// lost is worked out again.
type Memory interface {
	Recall(key string) ([]byte, bool)
	Keep(key string, data []byte)
}

// FontFile is a font that built pages carry.
type FontFile struct {
	Family string
	Weight int
	To     int // the greatest weight of a file that has all from Weight on, else 0
	Italic bool
	Name   string // file name in fonts/
}
