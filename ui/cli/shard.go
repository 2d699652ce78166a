package cli

import (
	"encoding/json"
	"fmt"
	"path/filepath"
	"slices"
	"strings"

	"ziegel/core/check"
	"ziegel/core/diag"
	"ziegel/core/site"
)

// part is what one of several machines has checked of a site: its pages, with nothing set aside yet.
type part struct {
	Part     int             `json:"part"`
	Of       int             `json:"of"`
	Site     string          `json:"site"` // names what all parts have to be made from
	From     int             `json:"from"`
	To       int             `json:"to"`
	Reports  []*check.Report `json:"pages"`
	fileName string
}

// parseShard reads 2/8: the second of eight parts.
func parseShard(s string) (n, of int, err error) {
	if _, err := fmt.Sscanf(s, "%d/%d", &n, &of); err != nil || n < 1 || of < n || fmt.Sprintf("%d/%d", n, of) != s {
		return 0, 0, fmt.Errorf("--shard %s: give the part and how many there are, such as 2/8", s)
	}
	return n, of, nil
}

// shard checks every of-th page and writes what was found as a part, for --merge.
func (a *app) shard(list []*check.Subject, shard, file string, from, to int) error {
	n, of, err := parseShard(shard)
	if err != nil {
		return err
	}
	if list[0].Env == nil {
		return fmt.Errorf("--shard takes a site, not a file")
	}
	if !strings.EqualFold(filepath.Ext(file), ".json") {
		return fmt.Errorf("--shard writes a part for --merge: --report part%d.json", n)
	}
	var mine []*check.Subject
	for i, s := range list {
		if i%of == n-1 {
			mine = append(mine, s)
		}
	}
	x := part{Part: n, Of: of, Site: siteKey(list), From: from, To: to, Reports: []*check.Report{}}
	if len(mine) > 0 {
		if x.Reports, err = a.look(mine, from, to); err != nil {
			return err
		}
		if stopped(x.Reports) {
			return fmt.Errorf("stopped before the part was whole; nothing was written")
		}
	}
	data, err := json.MarshalIndent(x, "", " ")
	if err != nil {
		return err
	}
	if err := a.save(file, append(data, '\n')); err != nil {
		return err
	}
	a.say("wrote %s: part %d of %d, %s", file, n, of, diag.Plural(len(mine), "page"))
	return nil
}

// siteKey names what the pages of a site are made from. Machines that check parts of it have copies of their own, so
// the times of files do not count.
func siteKey(list []*check.Subject) string {
	text := version + list[0].Env.Site.File.Source
	for _, s := range list {
		source, _ := list[0].Env.Site.PageSource(s.Name)
		text += "\x00" + s.Name + "\x00" + source
	}
	return site.Hash(text)
}

// merged puts parts together: what comes out is what one check of the whole site gives.
func (a *app) merged(list []*check.Subject, files []string, from, to int) ([]*check.Report, error) {
	var parts []part
	for _, f := range files {
		data, err := site.ReadRegular(f)
		if err != nil {
			return nil, fmt.Errorf("read %s: %w", f, diag.Bare(err))
		}
		x := part{fileName: f}
		if err := json.Unmarshal(data, &x); err != nil || x.Of == 0 {
			return nil, fmt.Errorf("%s is no part of a check: `ziegel check --shard 1/%d --report %s` writes one", f,
				max(2, len(files)), f)
		}
		parts = append(parts, x)
	}
	if len(parts) == 0 {
		return nil, fmt.Errorf("--merge needs the parts: ziegel check --merge part*.json --report all.sarif")
	}
	slices.SortFunc(parts, func(x, y part) int { return x.Part - y.Part })
	key := siteKey(list)
	for i, x := range parts {
		switch {
		case x.Of != parts[0].Of || x.From != from || x.To != to:
			return nil, fmt.Errorf("%s is part %d of %d at %d..%d px: the parts of one check have the same number and span (%d at %d..%d px)", x.fileName, x.Part, x.Of, x.From, x.To, parts[0].Of, from, to)
		case x.Site != key:
			return nil, fmt.Errorf("%s was made from other files than those here: check that part again", x.fileName)
		case x.Part != i+1:
			return nil, fmt.Errorf("part %d of %d is missing, or is there twice", i+1, x.Of)
		}
	}
	if len(parts) != parts[0].Of {
		return nil, fmt.Errorf("part %d of %d is missing", len(parts)+1, parts[0].Of)
	}
	of := map[string]*check.Report{}
	for _, x := range parts {
		for _, r := range x.Reports {
			of[r.Page] = r
		}
	}
	var out []*check.Report
	for _, s := range list {
		r := of[s.Name]
		if r == nil {
			return nil, fmt.Errorf("the parts have no report of the page %s", s.Name)
		}
		out = append(out, r)
	}
	return a.settled(list, out, from, to, nil)
}
