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
	"errors"
	"fmt"
	"net"
	"net/url"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"syscall"
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
		return nil, errors.Join(err, c.freeLock())
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

// freeLock lets the folder go. Closing the file is not enough: a program that another
// goroutine is just starting holds a copy of it until its exec, and with it the lock.
func (c *Cluster) freeLock() error {
	return errors.Join(syscall.Flock(int(c.lock.Fd()), syscall.LOCK_UN), c.lock.Close())
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
