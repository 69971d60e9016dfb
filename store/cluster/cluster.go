// Package cluster runs a private PostgreSQL for the program: it finds Debian's
// binaries, makes a cluster in a data folder, starts it on loopback and stops it.
//
// One folder belongs to one running program; a lock tells a second one so. When
// the program was killed its server may still run: the next start takes it over.
// A half-made cluster, or a stale pid file, is repaired with a word in the log. A
// server that ends while the program runs is started again at the same address.
package cluster

import (
	"context"
	"crypto/rand"
	"encoding/hex"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"net/url"
	"os"
	"os/exec"
	"os/user"
	"path/filepath"
	"strconv"
	"strings"
	"syscall"
	"time"

	"github.com/jackc/pgerrcode"
	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"
)

// Cluster is a running private server.
type Cluster struct {
	URL      string // with password; for pgx, not for people. It stays the same
	Dir      string
	bin      string
	who      *syscall.Credential // whom the server runs as; nil for ourselves
	password string
	port     int // 0 before the first start
	lock     *os.File
	ended    chan struct{} // closed when the server has ended
	stopping chan struct{} // closed when we end it
	watched  chan struct{} // closed when nobody starts it again any more
}

const (
	dataName     = "postgres"     // the cluster within the data folder
	makingName   = "postgres.new" // where it is made; renamed when whole
	passwordName = "password"
	lockName     = "lock"
	role         = "cinderpath"
)

// DefaultDir is where data lies when nothing else is said: the XDG data folder, or
// for root a folder that the unprivileged server can reach.
func DefaultDir() (string, error) {
	if dir := os.Getenv("XDG_DATA_HOME"); dir != "" {
		return filepath.Join(dir, "cinderpath"), nil
	}
	if os.Geteuid() == 0 {
		return "/var/lib/cinderpath", nil
	}
	home, err := os.UserHomeDir()
	if err != nil {
		return "", fmt.Errorf("no home folder: %w; give --data", err)
	}
	return filepath.Join(home, ".local", "share", "cinderpath"), nil
}

// Start runs the cluster in dir, making it first when needed.
func Start(ctx context.Context, dir string) (*Cluster, error) {
	bin, err := FindBinaries()
	if err != nil {
		return nil, err
	}
	who, err := serverUser()
	if err != nil {
		return nil, err
	}
	if err := os.MkdirAll(dir, 0o755); err != nil {
		return nil, fmt.Errorf("data folder: %w", err)
	}
	c := &Cluster{
		Dir: dir, bin: bin, who: who,
		stopping: make(chan struct{}), watched: make(chan struct{}),
	}
	if err := c.takeLock(); err != nil {
		return nil, err
	}
	c.password, err = c.readPassword()
	if err == nil {
		err = c.make(ctx)
	}
	if err == nil {
		err = c.run(ctx)
	}
	if err != nil {
		c.lock.Close()
		return nil, err
	}
	go c.watch(context.WithoutCancel(ctx))
	return c, nil
}

func (c *Cluster) path(name string) string { return filepath.Join(c.Dir, name) }

func (c *Cluster) takeLock() error {
	f, err := os.OpenFile(c.path(lockName), os.O_CREATE|os.O_RDWR, 0o600)
	if err != nil {
		return fmt.Errorf("data folder: %w", err)
	}
	if err := syscall.Flock(int(f.Fd()), syscall.LOCK_EX|syscall.LOCK_NB); err != nil {
		f.Close()
		return fmt.Errorf("another Cinder Path already works with %s; stop it (make stop) or give another --data", c.Dir)
	}
	c.lock = f
	return nil
}

// serverUser is the unprivileged user that the server runs as when we are root,
// since PostgreSQL refuses root; nil otherwise.
func serverUser() (*syscall.Credential, error) {
	if os.Geteuid() != 0 {
		return nil, nil
	}
	for _, name := range []string{"postgres", "nobody"} {
		u, err := user.Lookup(name)
		if err != nil {
			continue
		}
		uid, errU := strconv.ParseUint(u.Uid, 10, 32)
		gid, errG := strconv.ParseUint(u.Gid, 10, 32)
		if errU == nil && errG == nil && uid != 0 {
			return &syscall.Credential{Uid: uint32(uid), Gid: uint32(gid)}, nil
		}
	}
	return nil, errors.New(
		"PostgreSQL refuses to run as root and there is no user postgres or nobody to run it as; start as an ordinary user",
	)
}

func (c *Cluster) readPassword() (string, error) {
	data, err := os.ReadFile(c.path(passwordName))
	if err == nil && len(data) >= 32 {
		return strings.TrimSpace(string(data)), nil
	}
	if err == nil || errors.Is(err, os.ErrNotExist) {
		if _, there := os.Stat(c.path(dataName)); there == nil {
			return "", fmt.Errorf(
				"the password file %s is gone or cut short, so the data cannot be opened; restore it from a backup",
				c.path(passwordName),
			)
		}
		raw := make([]byte, 24)
		if _, err := rand.Read(raw); err != nil {
			return "", err
		}
		password := hex.EncodeToString(raw)
		return password, os.WriteFile(c.path(passwordName), []byte(password+"\n"), 0o600)
	}
	return "", fmt.Errorf("password file: %w", err)
}

// make initialises the cluster beside its place and renames it when it is whole,
// so that a kill in between leaves nothing that looks finished.
func (c *Cluster) make(ctx context.Context) error {
	data, making := c.path(dataName), c.path(makingName)
	version, err := os.ReadFile(filepath.Join(data, "PG_VERSION"))
	if err == nil {
		return c.matchVersion(ctx, strings.TrimSpace(string(version)))
	}
	// It is renamed to this only when it is whole, so what is here was somebody's data.
	if left, err := os.ReadDir(data); err == nil && len(left) > 0 {
		return fmt.Errorf(
			"the database in %s has lost its version file (PG_VERSION), so it is not touched; restore the folder "+
				"from a copy, or move it away to begin anew with cinderpath restore",
			data,
		)
	}
	if err := os.Remove(data); err != nil && !errors.Is(err, os.ErrNotExist) {
		return err
	}
	if _, there := os.Stat(making); there == nil {
		slog.Warn("an earlier start was cut off while making the database; making it anew")
		if err := os.RemoveAll(making); err != nil {
			return err
		}
	}
	if err := os.Mkdir(making, 0o700); err != nil {
		return err
	}
	// initdb reads the password from a file that its own user can read.
	given, err := os.CreateTemp("", "cinderpath-*")
	if err != nil {
		return err
	}
	defer os.Remove(given.Name())
	_, err = given.WriteString(c.password + "\n")
	if err := errors.Join(err, given.Close()); err != nil {
		return err
	}
	if c.who != nil {
		for _, name := range []string{making, given.Name()} {
			if err := os.Chown(name, int(c.who.Uid), int(c.who.Gid)); err != nil {
				return err
			}
		}
	}
	cmd := command(
		ctx,
		c.who,
		filepath.Join(c.bin, "initdb"),
		"-D",
		making,
		"-U",
		role,
		"--auth=scram-sha-256",
		"--pwfile="+given.Name(),
		"-E",
		"UTF8",
		"--locale=C.UTF-8",
	)
	if out, err := cmd.CombinedOutput(); err != nil {
		return fmt.Errorf("initdb failed: %w: %s", err, lastLines(string(out)))
	}
	return os.Rename(making, data)
}

// matchVersion finds the binaries that made the cluster: a newer server refuses it.
func (c *Cluster) matchVersion(ctx context.Context, version string) error {
	out, err := exec.CommandContext(ctx, filepath.Join(c.bin, "postgres"), "--version").Output()
	if err == nil && strings.Contains(string(out), " "+version+".") {
		return nil
	}
	if dir := filepath.Join("/usr/lib/postgresql", version, "bin"); whole(dir) {
		c.bin = dir
		return nil
	}
	return fmt.Errorf(
		"the data in %s was made by PostgreSQL %s, which is not installed; on Debian: apt-get install postgresql-%s",
		c.Dir,
		version,
		version,
	)
}

// command runs a program as the server's user, in a group of its own so that a
// Ctrl-C at the terminal reaches this program first.
func command(ctx context.Context, who *syscall.Credential, name string, args ...string) *exec.Cmd {
	cmd := exec.CommandContext(ctx, name, args...)
	cmd.Dir = "/"
	cmd.Env = append(os.Environ(), "LC_ALL=C.UTF-8")
	cmd.SysProcAttr = &syscall.SysProcAttr{Setpgid: true, Credential: who}
	return cmd
}

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

func address(password string, port int) string {
	u := url.URL{
		Scheme:   "postgres",
		User:     url.UserPassword(role, password),
		Host:     net.JoinHostPort("127.0.0.1", strconv.Itoa(port)),
		Path:     "postgres",
		RawQuery: "sslmode=disable",
	}
	return u.String()
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

// Beside gives the address of a server that already runs for a data folder.
func Beside(dir string) (url string, ok bool) {
	c := &Cluster{Dir: dir}
	_, port, ok := c.running()
	if !ok {
		return "", false
	}
	password, err := os.ReadFile(c.path(passwordName))
	if err != nil {
		return "", false
	}
	return address(strings.TrimSpace(string(password)), port), true
}

// Made tells whether a data folder holds a database.
func Made(dir string) bool {
	_, err := os.Stat(filepath.Join(dir, dataName))
	return err == nil
}
