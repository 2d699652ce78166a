package cli

import (
	"context"
	"os"
	"os/signal"
	"syscall"

	"github.com/spf13/cobra"

	"ziegel/stock"
	"ziegel/ui/preview"
)

func (a *app) previewCmd() *cobra.Command {
	var port int
	cmd := &cobra.Command{
		Use:   "preview",
		Short: "Serve the pages at several widths side by side, live",
		Example: `  # at 390, 820 and 1280 px, reloaded after every save
  ziegel preview

  # on another port
  ziegel preview --port 4500`,
		Args: cobra.NoArgs,
		RunE: func(*cobra.Command, []string) error {
			dir, err := a.find()
			if err != nil {
				return err
			}
			a.serving.Store(true)
			ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
			defer stop()
			s := preview.New(dir, stock.Files)
			if m := s.Mistake(); m != "" {
				a.talkf("%s", m)
			}
			return s.Serve(ctx, port, func(url string) { a.say("%s", url) })
		},
	}
	cmd.Flags().IntVar(&port, "port", 4310, "port on the loopback interface; 0 chooses a free one")
	return cmd
}
