package cluster

import (
	"context"
	"crypto/rand"
	"encoding/hex"
	"errors"
	"fmt"
	"log/slog"
	"os"
	"os/exec"
	"os/user"
	"path/filepath"
	"strconv"
	"strings"
	"syscall"
)

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
