package cluster

import (
	"context"
	"errors"
	"fmt"
	"net"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"syscall"
	"time"
)

// running reads the pid file: its first line is the pid, its fourth the port.
func (c *Cluster) running() (pid, port int, ok bool) {
	data, err := os.ReadFile(filepath.Join(c.path(dataName), "postmaster.pid"))
	if err != nil {
		return 0, 0, false
	}
	lines := strings.Split(string(data), "\n")
	if len(lines) < 4 {
		return 0, 0, false
	}
	pid, _ = strconv.Atoi(strings.TrimSpace(lines[0]))
	port, _ = strconv.Atoi(strings.TrimSpace(lines[3]))
	return pid, port, port > 0 && isPostgres(pid)
}

func pidIn(file string) int {
	data, err := os.ReadFile(file)
	if err != nil {
		return 0
	}
	first, _, _ := strings.Cut(string(data), "\n")
	pid, _ := strconv.Atoi(strings.TrimSpace(first))
	return pid
}

// isPostgres tells whether a process is a living PostgreSQL server: a pid may have
// been given to another program since, and a killed server that nobody waited for
// still has an entry.
func isPostgres(pid int) bool {
	if pid <= 0 {
		return false
	}
	stat, err := os.ReadFile(fmt.Sprintf("/proc/%d/stat", pid))
	return err == nil && strings.Contains(string(stat), " (postgres) ") && !strings.Contains(string(stat), " (postgres) Z")
}

func freePort(ctx context.Context) (int, error) {
	l, err := new(net.ListenConfig).Listen(ctx, "tcp", "127.0.0.1:0")
	if err != nil {
		return 0, fmt.Errorf("no free port on loopback: %w", err)
	}
	defer l.Close()
	return l.Addr().(*net.TCPAddr).Port, nil
}

// gone is closed when a process that is not our child has ended.
func gone(pid int) chan struct{} {
	ended := make(chan struct{})
	go func() {
		for isPostgres(pid) {
			time.Sleep(100 * time.Millisecond)
		}
		close(ended)
	}()
	return ended
}

// Stop ends the server in good order (a fast shutdown) and frees the folder.
func (c *Cluster) Stop() error {
	return errors.Join(c.end(), c.freeLock())
}

func (c *Cluster) end() error {
	close(c.stopping)
	<-c.watched
	pid, _, ok := c.running()
	if !ok {
		return nil
	}
	// It writes all to its files first, which takes its time on a busy disk; then it is ended as by a power cut,
	// after which it writes them at its next start: what was acknowledged stands in its log.
	for _, how := range [2]syscall.Signal{syscall.SIGINT, syscall.SIGQUIT} {
		if err := syscall.Kill(pid, how); err != nil && !errors.Is(err, syscall.ESRCH) {
			return err
		}
		select {
		case <-c.ended:
			return nil
		case <-time.After(stopping):
		}
	}
	return fmt.Errorf("the database server (pid %d) did not stop within %v", pid, 2*stopping)
}

// stopping is how long the server has to end in either way.
const stopping = 15 * time.Second

func lastLines(s string) string {
	lines := strings.Split(strings.TrimSpace(s), "\n")
	return strings.Join(lines[max(0, len(lines)-4):], " / ")
}
