package cli

import (
	"errors"

	"github.com/spf13/cobra"

	"ziegel/core/diag"
	"ziegel/core/edit"
	"ziegel/core/project"
)

func (a *app) pageCmd() *cobra.Command {
	cmd := &cobra.Command{
		Use:   "page",
		Short: "Pages: list, add, copy, rename, remove; links to them follow",
		Example: `  # what pages there are, and where each is built
  ziegel page list

  # a new one, with sections or as another is
  ziegel page add winter --title "Kites in winter" hero/beside pricing/plans
  ziegel page copy courses winter

  # another name; every link follows
  ziegel page rename courses weekends
  ziegel page remove winter`,
		Args: func(cmd *cobra.Command, args []string) error {
			if len(args) == 0 {
				return nil
			}
			var names []string
			for _, c := range cmd.Commands() {
				names = append(names, c.Name())
			}
			return diag.Unknown("command", args[0], names, " of ziegel page")
		},
		RunE: func(*cobra.Command, []string) error { return a.listPages() },
	}
	cmd.AddCommand(a.pageListCmd(), a.pageAddCmd(), a.pageCopyCmd(), a.pageRenameCmd(), a.pageRemoveCmd())
	return cmd
}

func (a *app) pageListCmd() *cobra.Command {
	return a.jsonFlag(&cobra.Command{Use: "list", Short: "The pages, their titles and built files", Args: cobra.NoArgs,
		Example: "  ziegel page list",
		RunE:    func(*cobra.Command, []string) error { return a.listPages() }})
}

func (a *app) pageAddCmd() *cobra.Command {
	var title string
	var dry bool
	cmd := &cobra.Command{Use: "add NAME [SECTION...]", Short: "Make a page", Args: cobra.MinimumNArgs(1),
		Example: `  ziegel page add winter --title "Kites in winter" hero/beside pricing/plans`,
		RunE: func(_ *cobra.Command, args []string) error {
			return a.change(dry, func(p *edit.Plan) error { return edit.AddPage(p, args[0], title, args[1:]) })
		}}
	cmd.Flags().StringVar(&title, "title", "", "its title (default: made of the name)")
	dryRunFlag(cmd, &dry)
	return cmd
}

func (a *app) pageCopyCmd() *cobra.Command {
	var title string
	var dry bool
	cmd := &cobra.Command{Use: "copy PAGE NAME", Short: "Copy a page", Args: cobra.ExactArgs(2),
		Example: "  ziegel page copy courses winter", ValidArgsFunction: a.complete("page"),
		RunE: func(_ *cobra.Command, args []string) error {
			return a.change(dry, func(p *edit.Plan) error { return edit.CopyPage(p, args[0], args[1], title) })
		}}
	cmd.Flags().StringVar(&title, "title", "", "its title (default: made of the name)")
	dryRunFlag(cmd, &dry)
	return cmd
}

func (a *app) pageRenameCmd() *cobra.Command {
	var dry bool
	cmd := &cobra.Command{Use: "rename PAGE NAME", Short: "Give a page another name; links to it follow",
		Args: cobra.ExactArgs(2), Example: "  ziegel page rename courses weekends",
		ValidArgsFunction: a.complete("page"),
		RunE: func(_ *cobra.Command, args []string) error {
			return a.change(dry, func(p *edit.Plan) error { return edit.RenamePage(p, args[0], args[1]) })
		}}
	dryRunFlag(cmd, &dry)
	return cmd
}

func (a *app) pageRemoveCmd() *cobra.Command {
	var dry bool
	cmd := &cobra.Command{Use: "remove PAGE", Short: "Take a page off the site; `undo` brings it back",
		Args: cobra.ExactArgs(1), Example: "  ziegel page remove winter", ValidArgsFunction: a.complete("page"),
		RunE: func(_ *cobra.Command, args []string) error {
			return a.change(dry, func(p *edit.Plan) error { return edit.RemovePage(p, args[0]) })
		}}
	dryRunFlag(cmd, &dry)
	return cmd
}

// listedPage is a page in the answer of page list.
type listedPage struct {
	Page   string `json:"page"`
	Title  string `json:"title"`
	Built  string `json:"built"` // below built/
	Blocks int    `json:"blocks"`
}

func (a *app) listPages() error {
	e, _, err := a.open()
	if err != nil {
		return err
	}
	list := []listedPage{}
	wide := 0
	for _, n := range e.Site.PageNames() {
		p := e.Site.Page(n)
		list = append(list, listedPage{n, p.Title, project.PagePath(n), len(e.Site.All(p))})
		wide = max(wide, len(n))
	}
	if len(list) == 0 && !a.json {
		return errors.New("the site has no pages yet; `ziegel page add home hero/beside` makes the first")
	}
	if a.json {
		return a.writeJSON(map[string]any{"pages": list})
	}
	for _, p := range list {
		a.say("%s%*s  %s  %s", a.style.Bold(p.Page), wide-len(p.Page), "", p.Title,
			a.style.Dim("built/"+p.Built))
	}
	return nil
}

func (a *app) orderCmd() *cobra.Command {
	var dry bool
	cmd := &cobra.Command{
		Use:   "order PAGE BLOCK...",
		Short: "Put the blocks of a page into an order",
		Long:  "Order puts the blocks of a page into the order in which they are named. Those that are\nnot named follow, as they stand.",
		Example: `  ziegel order home opening plans reasons voices

  # one to the top
  ziegel order home plans`,
		Args: cobra.MinimumNArgs(2), ValidArgsFunction: a.complete("page"),
		RunE: func(_ *cobra.Command, args []string) error {
			return a.change(dry, func(p *edit.Plan) error { return edit.Order(p, args[0], args[1:]) })
		},
	}
	dryRunFlag(cmd, &dry)
	return cmd
}
