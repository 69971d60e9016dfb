package cluster

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"os"
	"path/filepath"
	"strconv"
	"syscall"
	"time"

	"github.com/jackc/pgerrcode"
	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"
)

// run takes over the server that runs already, or starts one.
func (c *Cluster) run(ctx context.Context) error {
	if pid, port, ok := c.running(); ok {
		c.ended = gone(pid)
		err := c.ready(ctx, port, 20*time.Second)
		if err == nil {
			c.at(port)
			slog.Info("took over the database server that an earlier run left", "pid", pid)
			return nil
		}
		if errors.Is(err, errPassword) {
			return c.wrongPassword()
		}
	}
	pidFile := filepath.Join(c.path(dataName), "postmaster.pid")
	if pid := pidIn(pidFile); pid > 0 && !isPostgres(pid) {
		slog.Warn("removed the pid file of a database server that no longer runs", "pid", pid)
		if err := os.Remove(pidFile); err != nil {
			return err
		}
	}
	logFile, err := os.OpenFile(c.path("postgres.log"), os.O_CREATE|os.O_APPEND|os.O_WRONLY, 0o600)
	if err != nil {
		slog.Warn("the database server runs without a log of its own", "error", err)
		logFile, err = os.OpenFile(os.DevNull, os.O_WRONLY, 0)
	}
	if err != nil {
		return err
	}
	defer logFile.Close()
	// After a kill the old server's children may live a moment longer and hold its
	// shared memory; a new server then ends at once, and a little later does not.
	for attempt := 1; ; attempt++ {
		err := c.launch(ctx, logFile)
		if err == nil {
			return nil
		}
		if errors.Is(err, errPassword) {
			return c.wrongPassword()
		}
		if attempt == 8 || !errors.Is(err, errEnded) || ctx.Err() != nil {
			tail, readErr := os.ReadFile(c.path("postgres.log"))
			return errors.Join(fmt.Errorf("the database server did not answer: %w: %s", err, lastLines(string(tail))), readErr)
		}
		time.Sleep(300 * time.Millisecond)
	}
}

var (
	errEnded    = errors.New("it ended at once")
	errPassword = errors.New("it refuses the password")
)

func (c *Cluster) wrongPassword() error {
	return fmt.Errorf(
		"the password in %s is not the one of the database beside it; restore that file from a copy of the data folder",
		c.path(passwordName),
	)
}

// launch starts the server, on the port that it had or on a free one, and waits until it
// answers.
func (c *Cluster) launch(ctx context.Context, log *os.File) error {
	port := c.port
	if port == 0 {
		free, err := freePort(ctx)
		if err != nil {
			return err
		}
		port = free
	}
	cmd := command(
		context.WithoutCancel(ctx),
		c.who,
		filepath.Join(c.bin, "postgres"),
		"-D",
		c.path(dataName),
		"-p",
		strconv.Itoa(port),
		"-c",
		"listen_addresses=127.0.0.1",
		"-c",
		"unix_socket_directories=",
		"-c",
		"max_connections=40",
	)
	cmd.Stdout, cmd.Stderr = log, log
	if err := cmd.Start(); err != nil {
		return fmt.Errorf("the database server did not start: %w", err)
	}
	ended := make(chan struct{})
	c.ended = ended
	go func() {
		if err := cmd.Wait(); err != nil {
			slog.Debug("the database server ended", "with", err)
		}
		close(ended)
	}()
	if err := c.ready(ctx, port, 30*time.Second); err != nil {
		if !errors.Is(err, errEnded) {
			err = errors.Join(err, cmd.Process.Signal(syscall.SIGQUIT))
		}
		return err
	}
	c.at(port)
	return nil
}

// at settles where the server answers, once: whoever holds the address may go on with it.
func (c *Cluster) at(port int) {
	if c.port == 0 {
		c.port, c.URL = port, address(c.password, port)
	}
}

// watch starts the server again whenever it ends without being told to, until it is.
func (c *Cluster) watch(ctx context.Context) {
	defer close(c.watched)
	ctx, cancel := context.WithCancel(ctx)
	defer cancel()
	go func() {
		select {
		case <-c.stopping:
			cancel()
		case <-ctx.Done():
		}
	}()
	for wait := time.Duration(0); ; {
		select {
		case <-c.stopping:
			return
		case <-c.ended:
		}
		select {
		case <-c.stopping:
			return
		case <-time.After(wait):
		}
		slog.Warn("the database server has ended; it is started again")
		if err := c.run(ctx); err != nil {
			slog.Error("the database server could not be started again yet", "error", err)
			wait = min(2*wait+500*time.Millisecond, 5*time.Second)
			continue
		}
		slog.Info("the database server answers again")
		wait = 0
	}
}

// ready waits until the server takes connections.
func (c *Cluster) ready(ctx context.Context, port int, patience time.Duration) error {
	ctx, cancel := context.WithTimeout(ctx, patience)
	defer cancel()
	for {
		conn, err := pgx.Connect(ctx, address(c.password, port))
		if err == nil {
			return conn.Close(ctx)
		}
		if refused(err) {
			return errPassword
		}
		select {
		case <-c.ended:
			return errEnded
		case <-ctx.Done():
			return err
		case <-time.After(50 * time.Millisecond):
		}
	}
}

// refused tells whether the server answered that the password is not its own.
func refused(err error) bool {
	var pg *pgconn.PgError
	return errors.As(err, &pg) && (pg.Code == pgerrcode.InvalidPassword ||
		pg.Code == pgerrcode.InvalidAuthorizationSpecification)
}
