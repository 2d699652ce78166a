package cli

import (
	"fmt"
	"path/filepath"

	"github.com/spf13/cobra"

	"ziegel/core/diag"
	"ziegel/core/project"
	"ziegel/core/schema"
	"ziegel/core/site"
)

// schemaFolder is where editors find the schemas of a site.
const schemaFolder = ".ziegel/schema"

var schemas = map[string]func(*project.Project, bool) ([]byte, error){"page": schema.Page, "site": schema.Site}

func (a *app) schemaCmd() *cobra.Command {
	var all bool
	cmd := &cobra.Command{
		Use:   "schema [page|site]",
		Short: "JSON Schema of the site's files, for editors that complete them",
		Long: `Schema writes what ziegel.yaml and page files may hold as JSON Schema, so that an
editor with a YAML language server completes names of sections, fields, options,
parts, tones and tokens, tells what they are for, and underlines what is none.
It follows the site: sections of its own are in it, and those in use are described
whole, the others by name. With page or site the schema is printed.`,
		Example: `  # for this site; then the line that it tells goes to the top of a page
  ziegel schema

  # of all sections, for a team that shares one
  ziegel schema page --all > page.schema.json`,
		Args: cobra.MaximumNArgs(1), ValidArgs: []string{"page", "site"},
		RunE: func(_ *cobra.Command, args []string) error {
			if len(args) == 1 && schemas[args[0]] == nil {
				return diag.Unknown("file", args[0], []string{"page", "site"}, "")
			}
			if len(args) == 1 {
				e, err := a.shelf()
				if err != nil {
					return err
				}
				data, err := schemas[args[0]](e, all)
				if err != nil {
					return err
				}
				_, err = a.out.Write(data)
				return err
			}
			e, dir, err := a.open()
			if err != nil {
				return err
			}
			for _, name := range []string{"page", "site"} {
				data, err := schemas[name](e, all)
				if err != nil {
					return err
				}
				file := filepath.Join(dir, filepath.FromSlash(schemaFolder), name+".json")
				if err := site.WriteFile(file, data); err != nil {
					return fmt.Errorf("write %s: %w", file, diag.Bare(err))
				}
			}
			a.answer("wrote %s/page.json and site.json", schemaFolder)
			a.answer("first line of a page file:   # yaml-language-server: $schema=../%s/page.json", schemaFolder)
			a.answer("first line of ziegel.yaml:   # yaml-language-server: $schema=%s/site.json", schemaFolder)
			return nil
		},
	}
	cmd.Flags().BoolVar(&all, "all", false, "describe every section, not only those in use")
	return cmd
}
