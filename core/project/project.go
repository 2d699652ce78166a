package project

import (
	"fmt"
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
	Stock   fs.FS        // shipped files: base.css, icons, fonts; those that the site keeps stand for them
	Program fs.FS        // shipped files as this program has them
	Dir     fs.FS        // the site's folder: media, data
	Fonts   []FontFile   // those of the theme's families
	// DraftFonts are those that drafts need beside them.
	DraftFonts []FontFile
	Base       string // base.css, see SetBase
	Motion     string // stock/motion.css: keyframes of the shipped styles
	Shipped    []site.SharedStyle

	Today string // the day of the build, YYYY-MM-DD: {year} in a text is its year; "" when nobody knows it
	Feeds []Feed // of pages that are made from data

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

// Renamed tells what the files of the site call as an earlier version did, a line for each name. They are read as they
// were meant.
func (e *Project) Renamed() []string {
	var order []string
	first, count := map[string]string{}, map[string]int{}
	for _, r := range e.Site.Renamed() {
		text := fmt.Sprintf("the %s %s is called %s now", r.What, r.Was, r.Is)
		if count[text] == 0 {
			order, first[text] = append(order, text), r.At.String()
		}
		count[text]++
	}
	var out []string
	for _, text := range order {
		where := first[text]
		if n := count[text] - 1; n > 0 {
			where += fmt.Sprintf(" and %d more", n)
		}
		out = append(out, text+" ("+where+")")
	}
	for _, file := range e.Theme.Former {
		out = append(out, file+" calls tokens as an earlier version did: leading is line-height now, tracking is letter-spacing, on-accent is accent-ink")
	}
	for _, s := range e.Library.Own() {
		if s.Former {
			out = append(out, s.Dir+" calls classes or properties as an earlier version did: split is halves now, framed is soft-corners, --leading-* is --line-height-*")
		}
	}
	return out
}

// Feed are pages that are made from the same data, the newest first.
type Feed struct {
	Pattern string
	Items   []FeedItem
}

// FeedItem is one page of a feed.
type FeedItem struct{ Page, Title, Text, Date string }
