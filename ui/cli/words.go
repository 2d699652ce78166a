package cli

import (
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"runtime"
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"ziegel/core/compose"
	"ziegel/core/diag"
	"ziegel/core/edit"
	"ziegel/core/parallel"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/core/store"
	"ziegel/core/stress"
	"ziegel/core/words"
)

// formats are what words can be written as.
var formats = []string{"markdown", "csv", "xliff"}

func (a *app) wordsCmd() *cobra.Command {
	o := &wordsOptions{}
	cmd := &cobra.Command{
		Use:   "words [PAGE]",
		Short: "All text of a page or of the site as one document, and back",
		Long: `Words prints the text of a page, or of the whole site, as one Markdown document that a
writer can edit in anything: a heading for each block, its fields in reading order,
lists as lists, links and the texts of pictures. Comments name the fields and say what
is still a sample and how many letters fit (--room measures it; it is known from then
on). The page every-page has what stands on every page.

--take reads it back. Fields are found by the comments, by what they say, and by their
place: comments may go, paragraphs may move, lists may grow. What belongs to no field is
kept aside in its block, where todo shows it; what is missing stays. What changed is
tidied as its language is typeset: quotes, dashes, ellipses, spaces before units.

--language gives what is not translated yet, or was before its original changed (--all
for everything), with the translations in the place of the originals, and takes them
back. They live in words/de.yaml, by address, with the original beside each; --ready
says that one is still right.`,
		Example: `  ziegel words home > home.md
  ziegel words home --take home.md

  # of the whole site, as a table
  ziegel words --as csv > words.csv
  ziegel words --take words.csv

  # for a translator, and back
  ziegel words --language de --as xliff > de.xlf
  ziegel words --language de --take de.xlf
  ziegel words --language de --ready home/plans.heading`,
		Args: cobra.MaximumNArgs(1), ValidArgsFunction: a.complete("page"),
		RunE: func(_ *cobra.Command, args []string) error {
			if !slices.Contains(formats, o.as) {
				return diag.Unknown("format", o.as, formats, " of words")
			}
			if len(args) == 1 {
				o.page = args[0]
			}
			o.language, a.language = a.language, "" // it is asked for here in another way
			switch {
			case (o.all || len(o.ready) > 0) && o.language == "":
				return errors.New("--all and --ready go with --language")
			case len(o.ready) > 0:
				return a.change(o.dry, func(p *edit.Plan) error { return edit.Confirm(p, o.ready, o.language) })
			case o.take != "":
				return a.takeWords(o)
			}
			return a.giveWords(o)
		},
	}
	cmd.Flags().StringVar(&o.take, "take", "", "a document to read words back from, - for standard input")
	cmd.Flags().StringVar(&o.as, "as", formats[0], "markdown, csv, or xliff (2.1) for translators")
	cmd.Flags().BoolVar(&o.room, "room", false, "measure how many letters fit")
	cmd.Flags().
		BoolVar(&o.asTyped, "as-typed", false, "with --take: leave quotes, dashes and spaces as they were typed")
	cmd.Flags().BoolVar(&o.all, "all", false, "with --language: what is translated, too")
	cmd.Flags().
		StringArrayVar(&o.ready, "ready", nil,
			"with --language: address of a translation that is still right (repeatable)")
	dryRunFlag(cmd, &o.dry)
	cmd.MarkFlagsMutuallyExclusive("take", "room")
	return cmd
}

type wordsOptions struct {
	page, take, as, language string
	room, dry, all, asTyped  bool
	ready                    []string
}

// giveWords prints words.
func (a *app) giveWords(o *wordsOptions) error {
	e, _, err := a.open()
	if err != nil {
		return err
	}
	pages, err := edit.Words(e, o.page)
	if err != nil {
		return err
	}
	note := a.roomNotes(e, pages, o.room)
	if o.language != "" {
		return a.giveTranslations(o, e, note)
	}
	switch o.as {
	case "csv":
		a.say("%s", strings.TrimSuffix(words.CSV(words.Rows(pages, note), ""), "\n"))
	case "xliff":
		text, err := words.XLIFF(words.Rows(pages, note), e.Site.Language, "")
		if err != nil {
			return err
		}
		a.say("%s", strings.TrimSuffix(text, "\n"))
	default:
		a.say("%s", strings.TrimSuffix(words.Markdown(pages, note), "\n"))
	}
	return nil
}

// giveTranslations prints the texts that have no translation, or a stale one; or all.
func (a *app) giveTranslations(o *wordsOptions, e *project.Project, note words.Note) error {
	if err := edit.Spoken(e, o.language); err != nil {
		return err
	}
	list := words.Translations(e, o.language, note)
	state := map[string]words.Translation{}
	var rows []words.Row
	count := map[words.State]int{}
	for _, t := range list {
		if o.page != "" && t.Page != o.page {
			continue
		}
		count[t.State]++
		state[t.Address()] = t
		if t.State == words.Orphan {
			a.talkf(
				"%s:%d: note: %s is a translation of what is not there any more",
				site.WordsPath(o.language),
				t.Line,
				t.Address(),
			)
			continue
		}
		if o.all || t.State != words.Ready {
			rows = append(rows, t.Row)
		}
	}
	a.talkf(
		"%s: %d texts, %d not translated, %d stale",
		o.language,
		count[words.Open]+count[words.Stale]+count[words.Ready],
		count[words.Open],
		count[words.Stale],
	)
	if len(rows) == 0 && o.as == formats[0] {
		return nil
	}
	switch o.as {
	case "csv":
		a.say("%s", strings.TrimSuffix(words.CSV(rows, o.language), "\n"))
		return nil
	case "xliff":
		text, err := words.XLIFF(rows, e.Site.Language, o.language)
		a.say("%s", strings.TrimSuffix(text, "\n"))
		return err
	}
	pages, err := edit.Words(words.In(e, o.language), o.page)
	if err != nil {
		return err
	}
	wanted := func(p *words.Page, b *words.Block, n *words.Node) bool {
		t, known := state[words.Address(p.Name, b.Name, n.Path)]
		return known && (o.all || t.State != words.Ready)
	}
	a.say(
		"%s",
		strings.TrimSuffix(
			words.Markdown(words.Some(pages, wanted), func(p *words.Page, b *words.Block, n *words.Node) string {
				t := state[words.Address(p.Name, b.Name, n.Path)]
				out := []string{}
				if n.Kind != words.List && t.State != words.Ready && t.State != "" {
					out = append(out, string(t.State))
				}
				if more := note(p, b, n); more != "" {
					out = append(out, more)
				}
				switch t.State {
				case words.Ready:
					out = append(out, "of: "+t.Text)
				case words.Stale:
					out = append(out, "now: "+t.Text)
				}
				return strings.Join(out, ", ")
			}),
			"\n",
		),
	)
	return nil
}

// roomOf is the room of the texts of a page, letters, by block and field.
type roomOf map[string]int

// roomNotes tells what is a sample, and how many letters fit as far as that is known, or measured now.
func (a *app) roomNotes(e *project.Project, pages []*words.Page, measure bool) words.Note {
	sources := compose.SourcesOf(e, thisBuild())
	known := store.ReadKnown[roomOf](storeOf(e), "room")
	room := map[string]roomOf{}
	for _, w := range pages {
		p := e.Site.Page(w.Name)
		if p == nil {
			continue
		}
		key := sources.Key(p.Name)
		found, ok := known.Get(p.Name, key)
		if !ok && measure {
			found = a.measureRoom(e, p)
			known.Put(p.Name, key, found)
		}
		room[p.Name] = found
	}
	if measure {
		known.Save(e.Site.PageNames())
	}
	return func(p *words.Page, b *words.Block, n *words.Node) string {
		var out []string
		if n.Sample {
			out = append(out, "sample")
		}
		field := n.Path
		if n.Kind == words.Link {
			field += ".label"
		}
		if fits := room[p.Name][b.Name+"."+field]; fits > 0 && fits < stress.MostLetters {
			out = append(out, fmt.Sprintf("up to %d letters", fits))
		}
		return strings.Join(out, ", ")
	}
}

// measureRoom measures the room of all texts of a page: the least of all ranges.
func (a *app) measureRoom(e *project.Project, p *site.Page) roomOf {
	at := usualWidths(e.Site)
	type text struct {
		b     *site.Block
		field string
	}
	var todo []text
	for _, b := range e.Site.All(p) {
		if b.EveryPage == "" {
			for _, f := range stress.TextFields(e, b) {
				todo = append(todo, text{b, f})
			}
		}
	}
	const tries = 16 // about as many texts are tried at each width
	w := a.working("measuring room", len(todo)*len(at)*tries)
	defer w.end()
	fits := make([]int, len(todo))
	parallel.Each(runtime.GOMAXPROCS(0), len(todo), func(_, i int) bool {
		rooms, err := stress.RoomFor(e, stress.TextOf{Page: p, Block: todo[i].b, Field: todo[i].field}, at, w.step)
		for k, r := range rooms {
			if err == nil && (k == 0 || r.Fits < fits[i]) {
				fits[i] = r.Fits
			}
		}
		return !w.stopped.Load()
	})
	out := roomOf{}
	for i, t := range todo {
		out[t.b.Name+"."+t.field] = fits[i]
	}
	return out
}

// takeWords reads words back.
func (a *app) takeWords(o *wordsOptions) error {
	data, err := a.readDocument(o.take)
	if err != nil {
		return err
	}
	switch strings.ToLower(filepath.Ext(o.take)) {
	case ".csv", ".tsv":
		o.as = "csv"
	case ".xlf", ".xliff":
		o.as = "xliff"
	}
	return a.change(o.dry, func(p *edit.Plan) error {
		p.AsTyped = o.asTyped
		if o.language != "" {
			return takeTranslations(p, o, data)
		}
		switch o.as {
		case "csv":
			rows, err := words.ReadCSV(o.take, data, "")
			if err != nil {
				return err
			}
			return edit.TakeRows(p, o.take, rows, o.page)
		case "xliff":
			rows, err := words.ReadXLIFF(o.take, data, "")
			if err != nil {
				return err
			}
			for i := range rows {
				if rows[i].Target != "" {
					rows[i].Text = rows[i].Target
				}
			}
			return edit.TakeRows(p, o.take, rows, o.page)
		}
		return edit.TakeWords(p, o.take, string(data), o.page)
	})
}

// takeTranslations reads translations back.
func takeTranslations(p *edit.Plan, o *wordsOptions, data []byte) error {
	var rows []words.Row
	var err error
	switch o.as {
	case "csv":
		rows, err = words.ReadCSV(o.take, data, o.language)
	case "xliff":
		rows, err = words.ReadXLIFF(o.take, data, o.language)
	default:
		return edit.TakeTranslations(p, o.take, string(data), o.page, o.language)
	}
	if err != nil {
		return err
	}
	return edit.TakeTranslated(p, o.take, rows, o.page, o.language)
}

// readDocument reads a file that somebody wrote, or standard input.
func (a *app) readDocument(file string) ([]byte, error) {
	if file == "-" {
		data, err := io.ReadAll(io.LimitReader(a.stdin, edit.MostWords+1))
		if err == nil && len(data) > edit.MostWords {
			err = fmt.Errorf("more than %d MB", edit.MostWords>>20)
		}
		if err != nil {
			return nil, fmt.Errorf("read standard input: %w", err)
		}
		return data, nil
	}
	info, err := os.Stat(file)
	if err != nil {
		return nil, fmt.Errorf("read %s: %w", file, diag.Bare(err))
	}
	if info.Size() > edit.MostWords {
		return nil, fmt.Errorf(
			"%s has %d MB, and %d MB are the most for words",
			file,
			info.Size()>>20,
			edit.MostWords>>20,
		)
	}
	data, err := site.ReadRegular(file)
	if err != nil {
		return nil, fmt.Errorf("read %s: %w", file, diag.Bare(err))
	}
	return data, nil
}
