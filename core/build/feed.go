package build

import (
	"encoding/xml"
	"strings"
	"time"

	"ziegel/core/project"
)

// atomFeed is a feed (RFC 4287).
type atomFeed struct {
	XMLName xml.Name    `xml:"http://www.w3.org/2005/Atom feed"`
	Lang    string      `xml:"http://www.w3.org/XML/1998/namespace lang,attr"`
	ID      string      `xml:"id"`
	Title   string      `xml:"title"`
	Updated string      `xml:"updated"`
	Author  string      `xml:"author>name"`
	Links   []atomLink  `xml:"link"`
	Entries []atomEntry `xml:"entry"`
}

type atomLink struct {
	Rel  string `xml:"rel,attr,omitempty"`
	Href string `xml:"href,attr"`
}

type atomEntry struct {
	ID      string   `xml:"id"`
	Title   string   `xml:"title"`
	Updated string   `xml:"updated"`
	Link    atomLink `xml:"link"`
	Summary string   `xml:"summary,omitempty"`
}

// mostEntries is how many of the newest pages a feed has.
const mostEntries = 50

// feedOf writes the feed of pages that are made from data, nil when none of them has a date: readers need one. The site
// needs its address.
func feedOf(e *project.Project, f project.Feed) ([]byte, error) {
	at := func(page string) string {
		return e.Site.Address + "/" + strings.TrimSuffix(e.Path(page), "index.html")
	}
	out := atomFeed{Lang: e.Site.Language, ID: at("home"), Title: e.Site.Name, Author: e.Site.Name,
		Links: []atomLink{{"", at("home")}, {"self", e.Site.Address + "/" + e.FeedPath(f.Pattern)}}}
	for _, it := range f.Items {
		when, err := time.Parse(time.DateOnly, it.Date)
		if err != nil || len(out.Entries) == mostEntries {
			continue
		}
		stamp := when.UTC().Format(time.RFC3339)
		out.Updated = max(out.Updated, stamp)
		out.Entries = append(out.Entries, atomEntry{at(it.Page), it.Title, stamp, atomLink{"", at(it.Page)}, it.Text})
	}
	if len(out.Entries) == 0 {
		return nil, nil
	}
	data, err := xml.MarshalIndent(out, "", "  ")
	return append([]byte(xml.Header), append(data, '\n')...), err
}
