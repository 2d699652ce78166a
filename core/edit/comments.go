package edit

import (
	"fmt"
	"path"
	"strings"
	"time"

	"ziegel/core/comments"
	"ziegel/core/diag"
	"ziegel/core/site"
)

// Taken is what a file of comments brought.
type Taken struct {
	File    string // where they are kept
	Comment int    // new comments
	Answers int    // new answers and marks
	Known   int    // those that were kept already
	Pages   []string
}

// TakeComments keeps the comments of a file in the site. name is what the file was called; whoever wrote most of them
// gives the kept one its name. What is there already stays as it is.
func TakeComments(p *Plan, name string, data []byte) (*Taken, error) {
	doc, err := comments.Read(name, data)
	if err != nil {
		return nil, err
	}
	files, err := comments.Kept(p.Env.Dir)
	if err != nil {
		return nil, err
	}
	known := map[string]bool{}
	for _, f := range files {
		for _, a := range f.Items {
			known[a.ID] = true
		}
	}
	fresh := &comments.Document{}
	out := &Taken{}
	for _, a := range doc.Items {
		if known[a.ID] {
			out.Known++
			continue
		}
		a.Number = 0
		fresh.Items = append(fresh.Items, a)
		if a.Motivation == "commenting" {
			out.Comment++
			if p.Env.Site.Page(a.Target.Source) == nil {
				p.note("comment by %s: there is no page %q; it is kept and told by todo", a.By(), a.Target.Source)
			} else {
				out.Pages = append(out.Pages, a.Target.Source)
			}
		} else {
			out.Answers++
		}
	}
	for _, a := range fresh.Items {
		if a.Motivation != "commenting" && !answers(a, files, fresh) {
			p.note("an answer by %s answers a comment that is not here; it is kept", a.By())
		}
	}
	out.File = comments.NameOf(author(doc, name))
	into := fileOf(&files, out.File)
	into.Merge(fresh)
	comments.NumberAll(files)
	p.keepComments(files)
	p.Done = fmt.Sprintf(
		"took %s and %s from %s into %s",
		diag.Plural(out.Comment, "comment"),
		diag.Plural(out.Answers, "answer"),
		name,
		out.File,
	)
	if out.Known > 0 {
		p.Done += fmt.Sprintf("; %d were here", out.Known)
	}
	return out, nil
}

// answers reports whether the comment that an annotation answers is kept, or comes with it.
func answers(a *comments.Annotation, files []*comments.File, fresh *comments.Document) bool {
	for _, x := range fresh.Items {
		if x.ID == a.Target.Of {
			return true
		}
	}
	for _, f := range files {
		for _, x := range f.Items {
			if x.ID == a.Target.Of {
				return true
			}
		}
	}
	return false
}

// author is who wrote most of a document, else what its file is called.
func author(d *comments.Document, name string) string {
	count, best := map[string]int{}, ""
	for _, a := range d.Items {
		if who := a.By(); a.Creator != nil {
			count[who]++
			if best == "" || count[who] > count[best] {
				best = who
			}
		}
	}
	if best == "" || best == "somebody" {
		return strings.TrimSuffix(path.Base(strings.ReplaceAll(name, "\\", "/")), path.Ext(name))
	}
	return best
}

func fileOf(files *[]*comments.File, name string) *comments.File {
	for _, f := range *files {
		if f.Path == name {
			return f
		}
	}
	f := &comments.File{Path: name, Document: &comments.Document{}}
	*files = append(*files, f)
	return f
}

// keepComments writes the documents that are not as they were read.
func (p *Plan) keepComments(files []*comments.File) {
	for _, f := range files {
		if text := f.Write(); text != f.Text {
			p.files = append(p.files, site.FileChange{Path: f.Path, Before: f.Text, After: text, New: f.Text == ""})
		}
	}
}

// Answer is what somebody says to a comment: a text, a mark (done, open), or both.
type Answer struct{ By, Text, Mark string }

// AnswerComment answers a comment, marks it as done, or opens it again. id gives each annotation an id of its own.
func AnswerComment(p *Plan, number int, a Answer, now time.Time, id func() string) error {
	word := func() comments.Word { return comments.Word{ID: id(), By: a.By, At: now} }
	files, err := comments.Kept(p.Env.Dir)
	if err != nil {
		return err
	}
	threads := comments.Threads(files)
	var t *comments.Thread
	for _, x := range threads {
		if x.Number == number {
			t = x
		}
	}
	switch {
	case len(threads) == 0:
		return fmt.Errorf(
			"there is no comment %d: nobody has said anything yet (`ziegel share --take FILE` takes comments)",
			number,
		)
	case t == nil:
		return fmt.Errorf(
			"there is no comment %d; they go from %d to %d",
			number,
			threads[0].Number,
			threads[len(threads)-1].Number,
		)
	case a.Mark == "done" && t.Done && a.Text == "":
		return fmt.Errorf("comment %d is done already; `ziegel todo --open %d` opens it again", number, number)
	case a.Mark == "open" && !t.Done:
		return fmt.Errorf("comment %d is open", number)
	}
	if a.Text != "" {
		t.File.Items = append(t.File.Items, comments.Answer(t, word(), "replying", a.Text))
	}
	if a.Mark != "" {
		t.File.Items = append(t.File.Items, comments.Answer(t, word(), "assessing", a.Mark))
	}
	p.keepComments(files)
	what := "answered"
	if a.Mark == "done" {
		what = "done"
	} else if a.Mark == "open" {
		what = "open again"
	}
	p.Done = fmt.Sprintf("comment %d is %s; the next review page says so", number, what)
	return nil
}

// followComments moves what comments are pinned to. A document that cannot be read is left as it is: todo tells it.
func (p *Plan) followComments(move func(page, place string) (string, string)) int {
	files, _ := comments.Kept(p.Env.Dir)
	n := 0
	for _, f := range files {
		for _, a := range f.Items {
			if a.Motivation != "commenting" {
				continue
			}
			page, place := move(a.Target.Source, a.Target.Place())
			if page != a.Target.Source || place != a.Target.Place() {
				n++
			}
			a.Target.Source = page
			for i := range a.Target.Selectors {
				if a.Target.Selectors[i].Type == "FragmentSelector" {
					a.Target.Selectors[i].Value = place
				}
			}
		}
	}
	if n > 0 {
		p.keepComments(files)
	}
	return n
}

// followBlock moves the comments of a block that has another name now. Those of a block of every page stand on any.
func (p *Plan) followBlock(page string, b *site.Block, name string) int {
	return p.followComments(func(source, place string) (string, string) {
		pin, ok := comments.PinOf(place)
		if ok && pin.Block == b.Name && (source == page || b.EveryPage != "") {
			pin.Block = name
			return source, pin.String()
		}
		return source, place
	})
}
