// Command cinderpath plans the build of scale models of military vehicles: it
// serves the interface, computes from the command line, and moves builds in and out.
package main

import (
	"context"
	"fmt"
	"log/slog"
	"os"
	"os/signal"
	"syscall"
	_ "time/tzdata" // the workshop's zone must not hang on what the machine has installed

	"github.com/alecthomas/kong"
	"github.com/google/uuid"
)

type cli struct {
	Demo    demoCmd    `cmd:"" help:"Start the app with the demo builds; makes its database on the first start."`
	Serve   serveCmd   `cmd:"" help:"Start the app without demo builds."`
	Stop    stopCmd    `cmd:"" help:"Stop a running app of the same data folder."`
	Calc    calcCmd    `cmd:"" help:"Compute: JSON in, JSON out. Without a topic, lists the topics."`
	Export  exportCmd  `cmd:"" help:"Write a build, or all of them, as JSON to standard output."`
	Import  importCmd  `cmd:"" help:"Read builds from JSON."`
	Backup  backupCmd  `cmd:"" help:"Write the whole workshop into one archive, with photographs and meshes."`
	Restore restoreCmd `cmd:"" help:"Bring an archive back."`
	Doctor  doctorCmd  `cmd:"" help:"Say what is found, what is missing, and the remedy."`
}

func main() {
	slog.SetDefault(slog.New(slog.NewTextHandler(os.Stderr, nil)))
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	var c cli
	k := kong.Parse(
		&c,
		kong.Name("cinderpath"),
		kong.Description("From real dimensions to a bench plan."),
		kong.UsageOnError(),
		kong.BindTo(ctx, (*context.Context)(nil)),
	)
	err := k.Run()
	stop()
	if err != nil {
		fmt.Fprintln(os.Stderr, "cinderpath:", err)
		os.Exit(1)
	}
}

func newID() string { return uuid.Must(uuid.NewV7()).String() }
