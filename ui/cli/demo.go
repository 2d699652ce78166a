package cli

import (
	"fmt"
	"io/fs"
	"maps"
	"os"
	"path"
	"path/filepath"
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"ziegel/core/build"
	"ziegel/core/diag"
	"ziegel/core/media"
	"ziegel/core/project"
	"ziegel/core/site"
	"ziegel/stock"
)

// demos are the folders of the demo by the language that it speaks.
var demos = map[string]string{"en": "demo", "ar": "demo-ar"}

func (a *app) demoCmd() *cobra.Command {
	language, all := "en", false
	cmd := &cobra.Command{
		Use:   "demo [DIR]",
		Short: "Write and build a finished site to look around in",
		Example: `  # writes ./larkspan, builds and checks it
  ziegel demo

  # somewhere else
  ziegel demo ~/sites/kites

  # one page in Arabic, from right to left
  ziegel demo larkspan-ar --language ar

  # the whole site in English, German and Arabic
  ziegel demo larkspan --languages`,
		Args: cobra.MaximumNArgs(1),
		RunE: func(_ *cobra.Command, args []string) error {
			dir := "larkspan"
			if len(args) == 1 {
				dir = args[0]
			}
			folder := demos[language]
			if folder == "" {
				return diag.Unknown("language", language, slices.Sorted(maps.Keys(demos)), " of the demo")
			}
			if err := emptyDir(dir); err != nil {
				return err
			}
			if err := writeDemo(dir, folder); err != nil {
				return err
			}
			if all {
				if err := speakAll(dir); err != nil {
					return err
				}
			}
			e, err := a.openAt(dir)
			if err != nil {
				return err
			}
			if _, err := a.build(e, dir, build.Options{}); err != nil {
				return err
			}
			list := pagesOf(e)
			a.answer("wrote and built %s", filepath.Join(dir, "built", "index.html"))
			reports, err := a.auditAll(list, 240, 2560)
			if err != nil {
				return err
			}
			told := groups(e, reports)
			a.found(reports, told)
			a.verdict(reports, told)
			a.say("look at:  ziegel preview --site %s     the pages at three widths, live", dir)
			a.say("          ziegel stack home --site %s  how every block stacks", dir)
			a.say("          %s", filepath.Join(dir, "pages", "home.yaml"))
			return nil
		},
	}
	cmd.Flags().BoolVar(&all, "languages", false, "the whole site in English, German and Arabic")
	cmd.Flags().
		StringVar(&language, "language", language, "the language that it speaks: en, or ar (from right to left)")
	cmd.MarkFlagsMutuallyExclusive("language", "languages")
	return cmd
}

// demoWords is the folder of the translations of the demo.
const demoWords = "demo-words"

// speakAll has the demo speak all languages that it is translated to.
func speakAll(dir string) error {
	list, err := fs.ReadDir(stock.Files, demoWords)
	if err != nil {
		return err
	}
	tags := &site.Value{Kind: site.List, Items: []*site.Value{site.NewText("en")}}
	for _, tag := range []string{"de", "ar"} { // in the order of a menu
		for _, d := range list {
			if d.Name() != tag+".yaml" {
				continue
			}
			data, err := fs.ReadFile(stock.Files, demoWords+"/"+d.Name())
			if err != nil {
				return err
			}
			if err := site.WriteFile(filepath.Join(dir, filepath.FromSlash(site.WordsPath(tag))), data); err != nil {
				return fmt.Errorf("write %s: %w", dir, err)
			}
			tags.Items = append(tags.Items, site.NewText(tag))
		}
	}
	main := filepath.Join(dir, site.FileName)
	data, err := os.ReadFile(main)
	if err != nil {
		return err
	}
	text, err := site.EditSource(site.FileName, string(data), site.Edit{Op: site.Delete, Path: site.Keys("language")},
		site.Edit{Op: site.Set, Path: site.Keys("languages"), Value: tags})
	if err != nil {
		return err
	}
	return site.WriteFile(main, []byte(text))
}

// writeDemo writes the demo site of a stock folder, and of the shipped pictures those that it names, portraits all
// together.
func writeDemo(dir, folder string) error {
	var named strings.Builder
	write := func(from, to string) error {
		data, err := fs.ReadFile(stock.Files, from)
		if err != nil {
			return err
		}
		if !strings.HasSuffix(from, ".svg") {
			named.Write(data)
		}
		if err := site.WriteFile(filepath.Join(dir, filepath.FromSlash(to)), data); err != nil {
			return fmt.Errorf("write %s: %w", dir, err)
		}
		return nil
	}
	err := fs.WalkDir(stock.Files, folder, func(p string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() {
			return err
		}
		return write(p, p[len(folder)+1:])
	})
	if err != nil {
		return err
	}
	for _, name := range media.List(stock.Files, project.SamplePictures) {
		if folder := path.Dir(name); !strings.Contains(named.String(), name) &&
			(folder == "." || !strings.Contains(named.String(), folder+"/")) {
			continue
		}
		if err := write(path.Join(project.SamplePictures, name), path.Join("media", name)); err != nil {
			return err
		}
	}
	return nil
}
