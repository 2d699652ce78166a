package cli

import (
	"github.com/spf13/cobra"

	"ziegel/core/diag"
)

// usage is how every command tells what it takes.
const usage = `Usage:
  {{if .HasAvailableSubCommands}}{{.CommandPath}} [COMMAND]{{else}}{{.UseLine}}{{end}}{{if .HasExample}}

Examples:
{{.Example}}{{end}}{{if .HasAvailableSubCommands}}{{$all := .Commands}}{{if .Groups}}{{range $g := .Groups}}

{{.Title}}:{{range $all}}{{if and (eq .GroupID $g.ID) .IsAvailableCommand}}
  {{rpad .Name .NamePadding}} {{.Short}}{{end}}{{end}}{{end}}{{else}}

Commands:{{range $all}}{{if .IsAvailableCommand}}
  {{rpad .Name .NamePadding}} {{.Short}}{{end}}{{end}}{{end}}{{end}}{{if .HasAvailableLocalFlags}}

Flags:
{{.LocalFlags.FlagUsages | trimTrailingWhitespaces}}{{end}}{{if .HasAvailableInheritedFlags}}

Everywhere:
{{.InheritedFlags.FlagUsages | trimTrailingWhitespaces}}{{end}}{{if .HasAvailableSubCommands}}

{{.CommandPath}} COMMAND --help tells what a command takes, with examples.{{end}}
`

func helpCmd() *cobra.Command {
	return &cobra.Command{
		Use:     "help [COMMAND]",
		Short:   "What a command does and takes, with examples",
		Example: "  ziegel help style\n  ziegel help page add",
		ValidArgsFunction: func(cmd *cobra.Command, args []string, _ string) ([]string, cobra.ShellCompDirective) {
			at, _, err := cmd.Root().Find(args)
			if err != nil {
				return nil, cobra.ShellCompDirectiveNoFileComp
			}
			var out []string
			for _, c := range at.Commands() {
				out = append(out, c.Name()+"\t"+c.Short)
			}
			return out, cobra.ShellCompDirectiveNoFileComp
		},
		RunE: func(cmd *cobra.Command, args []string) error {
			at := cmd.Root()
			for _, name := range args {
				var next *cobra.Command
				var names []string
				for _, c := range at.Commands() {
					names = append(names, c.Name())
					if c.Name() == name {
						next = c
					}
				}
				if next == nil {
					return diag.Unknown("command", name, names, " of "+at.CommandPath())
				}
				at = next
			}
			at.InitDefaultHelpFlag()
			return at.Help()
		},
	}
}

// shells are those that names can be completed in.
var shells = []string{"bash", "zsh", "fish", "powershell"}

func completionCmd() *cobra.Command {
	return &cobra.Command{
		Use:   "completion SHELL",
		Short: "Let a shell complete commands, pages, blocks and parts",
		Long: `Completion prints a script for bash, zsh, fish or powershell. With it the shell
completes the names of your site: pages, blocks, parts, sections.`,
		Example: `  # in this window
  source <(ziegel completion bash)

  # from now on
  ziegel completion bash > ~/.local/share/bash-completion/completions/ziegel
  ziegel completion zsh > "${fpath[1]}/_ziegel"
  ziegel completion fish > ~/.config/fish/completions/ziegel.fish`,
		Args: cobra.ExactArgs(1),
		ValidArgsFunction: func(*cobra.Command, []string, string) ([]string, cobra.ShellCompDirective) {
			return shells, cobra.ShellCompDirectiveNoFileComp
		},
		RunE: func(cmd *cobra.Command, args []string) error {
			root, out := cmd.Root(), cmd.OutOrStdout()
			switch args[0] {
			case "bash":
				return root.GenBashCompletionV2(out, true)
			case "zsh":
				return root.GenZshCompletion(out)
			case "fish":
				return root.GenFishCompletion(out, true)
			case "powershell":
				return root.GenPowerShellCompletionWithDesc(out)
			}
			return diag.Unknown("shell", args[0], shells, "")
		},
	}
}
