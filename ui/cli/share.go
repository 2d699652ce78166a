package cli

import (
	"bytes"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"time"

	"github.com/spf13/cobra"

	"ziegel/core/address"
	"ziegel/core/build"
	"ziegel/core/comments"
	"ziegel/core/compose"
	"ziegel/core/diag"
	"ziegel/core/edit"
	"ziegel/core/media"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/ui/report"
)

// How wide pictures of a file for comments are at the most, px.
const (
	sharedPicture = 1600
	draftPicture  = 640
)

func (a *app) shareCmd() *cobra.Command {
	var to, take string
	var draft bool
	cmd := &cobra.Command{
		Use:   "share PAGE --to FILE.html",
		Short: "Give a page to a client for comments, and take them home",
		Long: `Share writes one file with the page in it, at any width that its reader chooses.
Every part can be spoken of, comments can be answered and marked as done. Nothing
is sent anywhere: comments leave the file as a JSON document (W3C Web Annotation),
downloaded or copied. --take keeps them below reviews/ of the site, where each is
a task of ` + "`ziegel todo`" + `, pinned to what it speaks of.`,
		Example: `  # one file for the client
  ziegel share home --to review.html

  # a lighter one, with small pictures
  ziegel share home --to review.html --draft

  # her comments come home; then do them
  ziegel share --take ines.json
  ziegel todo
  ziegel todo --done 3 --answer "It is 22 px now"`,
		Args:              cobra.MaximumNArgs(1),
		ValidArgsFunction: a.complete("page"),
		RunE: func(_ *cobra.Command, args []string) error {
			switch {
			case take != "" && (to != "" || len(args) > 0):
				return errors.New("--take brings comments home and writes no page: leave the page and --to out")
			case take != "":
				return a.takeComments(take)
			case len(args) == 0:
				return errors.New(
					"share takes a page, such as `ziegel share home --to review.html`, or --take FILE.json",
				)
			case to == "":
				return fmt.Errorf("share writes a file: say --to review.html after %s", args[0])
			}
			return a.share(args[0], to, draft)
		},
	}
	cmd.Flags().StringVar(&to, "to", "", "the file to write, .html")
	cmd.Flags().StringVar(&take, "take", "", "keep the comments of this file in the site")
	cmd.Flags().BoolVar(&draft, "draft", false, "small pictures: a lighter file")
	a.forceFlag(cmd)
	return cmd
}

// share writes a page with its comments so far.
func (a *app) share(name, to string, draft bool) error {
	if !strings.EqualFold(filepath.Ext(to), ".html") {
		return fmt.Errorf("%s: the file for comments is a page, such as review.html", to)
	}
	e, _, err := a.open()
	if err != nil {
		return err
	}
	ad, err := address.OfBlock(name)
	if err != nil {
		return err
	}
	if ad.Block != "" {
		return fmt.Errorf("%s names a block; a client sees the whole page: ziegel share %s --to %s", name, ad.Page, to)
	}
	page, err := address.FindPage(e, ad.Page)
	if err != nil {
		return err
	}
	most := sharedPicture
	if draft {
		most = draftPicture
	}
	html, err := build.ForComments(
		e,
		page,
		func(data []byte, name string) []byte { return media.Within(data, name, most) },
	)
	if err != nil {
		return err
	}
	files, err := comments.Kept(e.Dir)
	if err != nil {
		return err
	}
	places, err := placesOf(e, page)
	if err != nil {
		return err
	}
	p := &report.ReviewPage{
		Site:  e.Site.Name,
		Page:  page.Name,
		Title: page.Title,
		Made:  time.Now().Format("2 January 2006"),
		HTML:  html,
		Pins:  map[string]report.ReviewPin{},
	}
	said, open := map[string]bool{}, 0
	for _, t := range comments.Threads(files) {
		if t.Target.Source != page.Name {
			continue
		}
		said[t.ID] = true
		found := places.Find(t.Target)
		p.Pins[t.ID] = report.ReviewPin{Place: found.String(), State: found.State}
		if !t.Done {
			open++
		}
	}
	for again := true; again; { // with what answers them, and what answers that
		again = false
		for _, f := range files {
			for _, x := range f.Items {
				if said[x.Target.Of] && !said[x.ID] {
					said[x.ID], again = true, true
				}
			}
		}
	}
	for _, f := range files {
		for _, x := range f.Items {
			if said[x.ID] {
				p.Annotations = append(p.Annotations, x)
			}
		}
	}
	var out bytes.Buffer
	if err := report.Review(&out, p); err != nil {
		return err
	}
	if err := a.save(to, out.Bytes()); err != nil {
		return err
	}
	a.answer("%s for comments: %s, %s, all in one file", page.Name, to, size(out.Len()))
	if n := len(p.Pins); n > 0 {
		a.answer("it shows %s, %d of them open", diag.Plural(n, "comment"), open)
	}
	a.answer("%s", a.style.Dim("send it; when its reader sends a .json back: ziegel share --take FILE.json"))
	return nil
}

// placesOf composes a page to find what comments speak of.
func placesOf(e *project.Project, page *site.Page) (*comments.Page, error) {
	out, problems := compose.Compose(e, page, compose.Options{Marks: true})
	if err := problems.Err(); err != nil {
		return nil, err
	}
	return comments.PageOf(out.HTML)
}

// takeComments keeps what a client has said.
func (a *app) takeComments(file string) error {
	info, err := os.Stat(file)
	if err != nil {
		return err
	}
	if info.Size() > comments.MostBytes {
		return fmt.Errorf("%s has %s: comments have 8 MB at the most", file, size(int(info.Size())))
	}
	data, err := os.ReadFile(file)
	if err != nil {
		return err
	}
	var taken *edit.Taken
	if err = a.change(false, func(p *edit.Plan) (err error) {
		taken, err = edit.TakeComments(p, filepath.Base(file), data)
		return err
	}); err == nil && taken.Comment+taken.Answers == 0 {
		a.answer("%s holds nothing new: all %d are in %s", file, taken.Known, taken.File)
	}
	return err
}
