package browser

import (
	"context"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"time"
)

// Cold takes a picture of a page with a browser that is started for it, as a command would, and gives how long that
// took.
func Cold(ctx context.Context, address string, width, height int) (time.Duration, error) {
	dir, err := os.MkdirTemp("", "ziegel-cold")
	if err != nil {
		return 0, err
	}
	defer func() { _ = os.RemoveAll(dir) }()
	args := []string{"--user-data-dir=" + filepath.Join(dir, "profile"),
		fmt.Sprintf("--window-size=%d,%d", width, height),
		"--screenshot=" + filepath.Join(dir, "page.png")}
	for _, o := range options {
		args = append(args, "--"+o)
	}
	begun := time.Now()
	if err := exec.CommandContext(ctx, Path(), append(args, address)...).Run(); err != nil {
		return 0, fmt.Errorf("take a picture with a new browser: %w", err)
	}
	took := time.Since(begun)
	if info, err := os.Stat(filepath.Join(dir, "page.png")); err != nil || info.Size() == 0 {
		return 0, fmt.Errorf("the browser has written no picture of %s", address)
	}
	return took, nil
}
