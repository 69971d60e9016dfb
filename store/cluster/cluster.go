// Package cluster runs a private PostgreSQL for the program: it finds Debian's
// binaries, makes a cluster in a data folder, starts it on loopback and stops it.
//
// One folder belongs to one running program; a lock tells a second one so. When
// the program was killed its server may still run: the next start takes it over.
// A half-made cluster, or a stale pid file, is repaired with a word in the log.
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

	"github.com/jackc/pgx/v5"
)

// Cluster is a running private server.
type Cluster struct {
	URL  string // with password; for pgx, not for people
	Dir  string
	bin  string
	lock *os.File
	exit chan error // of the server; nil when it was taken over
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
	c := &Cluster{Dir: dir, bin: bin}
	if err := c.takeLock(); err != nil {
		return nil, err
	}
	password, err := c.password()
	if err == nil {
		err = c.make(ctx, who, password)
	}
	if err == nil {
		err = c.run(ctx, who, password)
	}
	if err != nil {
		c.lock.Close()
		return nil, err
	}
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

func (c *Cluster) password() (string, error) {
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
func (c *Cluster) make(ctx context.Context, who *syscall.Credential, password string) error {
	data, making := c.path(dataName), c.path(makingName)
	version, err := os.ReadFile(filepath.Join(data, "PG_VERSION"))
	if err == nil {
		return c.matchVersion(strings.TrimSpace(string(version)))
	}
	if _, there := os.Stat(data); there == nil {
		aside := fmt.Sprintf("%s.broken-%d", data, time.Now().Unix())
		if err := os.Rename(data, aside); err != nil {
			return err
		}
		slog.Warn("the database folder was half made; it was moved aside and a new one is made", "aside", aside)
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
	_, err = given.WriteString(password + "\n")
	if err := errors.Join(err, given.Close()); err != nil {
		return err
	}
	if who != nil {
		for _, name := range []string{making, given.Name()} {
			if err := os.Chown(name, int(who.Uid), int(who.Gid)); err != nil {
				return err
			}
		}
	}
	cmd := command(
		ctx,
		who,
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
func (c *Cluster) matchVersion(version string) error {
	out, err := exec.Command(filepath.Join(c.bin, "postgres"), "--version").Output()
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

func (c *Cluster) run(ctx context.Context, who *syscall.Credential, password string) error {
	if pid, port, ok := c.running(); ok {
		c.URL = address(password, port)
		if err := c.ready(ctx, 20*time.Second); err == nil {
			slog.Info("took over the database server that an earlier run left", "pid", pid)
			return nil
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
		return err
	}
	defer logFile.Close()
	// After a kill the old server's children may live a moment longer and hold its
	// shared memory; a new server then ends at once, and a little later does not.
	for attempt := 1; ; attempt++ {
		err := c.launch(ctx, who, password, logFile)
		if err == nil {
			return nil
		}
		if attempt == 8 || !errors.Is(err, errEnded) || ctx.Err() != nil {
			tail, readErr := os.ReadFile(c.path("postgres.log"))
			return errors.Join(fmt.Errorf("the database server did not answer: %w: %s", err, lastLines(string(tail))), readErr)
		}
		time.Sleep(300 * time.Millisecond)
	}
}

var errEnded = errors.New("it ended at once")

// launch starts the server on a free port and waits until it answers.
func (c *Cluster) launch(ctx context.Context, who *syscall.Credential, password string, log *os.File) error {
	port, err := freePort()
	if err != nil {
		return err
	}
	cmd := command(
		context.WithoutCancel(ctx),
		who,
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
	c.exit = make(chan error, 1)
	go func() { c.exit <- cmd.Wait() }()
	c.URL = address(password, port)
	if err := c.ready(ctx, 30*time.Second); err != nil {
		if !errors.Is(err, errEnded) {
			err = errors.Join(err, cmd.Process.Signal(syscall.SIGQUIT))
		}
		return err
	}
	return nil
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
func (c *Cluster) ready(ctx context.Context, patience time.Duration) error {
	ctx, cancel := context.WithTimeout(ctx, patience)
	defer cancel()
	for {
		conn, err := pgx.Connect(ctx, c.URL)
		if err == nil {
			return conn.Close(ctx)
		}
		select {
		case exit := <-c.exit:
			c.exit <- exit
			return errors.Join(errEnded, exit)
		case <-ctx.Done():
			return err
		case <-time.After(50 * time.Millisecond):
		}
	}
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
