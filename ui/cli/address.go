package cli

import (
	"slices"
	"strings"

	"github.com/spf13/cobra"
)

// mostOffered is of how many pages the shell is offered everything that is on them.
const mostOffered = 40

// complete offers names of this site; it is silent on errors.
func (a *app) complete(kinds ...string) func(*cobra.Command, []string, string) ([]string, cobra.ShellCompDirective) {
	return func(_ *cobra.Command, args []string, begun string) ([]string, cobra.ShellCompDirective) {
		kind := ""
		if len(args) < len(kinds) {
			kind = kinds[len(args)]
		}
		e, _, err := a.open()
		if e == nil || err != nil && e.Site == nil {
			return nil, cobra.ShellCompDirectiveNoFileComp
		}
		var out []string
		switch kind {
		case "section":
			for _, s := range e.Library.All() {
				out = append(out, s.Name+"\t"+s.Summary)
			}
		case "page", "block", "part":
			names := e.Site.PageNames()
			page, _, named := strings.Cut(begun, "/")
			if named {
				names = slices.DeleteFunc(slices.Clone(names), func(n string) bool { return n != page })
			}
			if len(names) > mostOffered { // of so many pages the names alone are read
				for _, n := range names {
					if kind != "page" {
						n += "/"
					}
					out = append(out, n)
				}
				if kind == "page" {
					return out, cobra.ShellCompDirectiveNoFileComp
				}
				return out, cobra.ShellCompDirectiveNoFileComp | cobra.ShellCompDirectiveNoSpace
			}
			for _, n := range names {
				p := e.Site.Page(n)
				if kind == "page" {
					out = append(out, p.Name+"\t"+p.Title)
					continue
				}
				for _, b := range e.Site.All(p) {
					addr := p.Name + "/" + b.Name
					if kind == "block" {
						out = append(out, addr+"\t"+b.Section)
					} else if s := e.Library.Section(b.Section); s != nil {
						for _, part := range s.Parts {
							out = append(out, addr+"."+part+"\t"+b.Section)
						}
					}
				}
			}
		}
		return out, cobra.ShellCompDirectiveNoFileComp
	}
}
