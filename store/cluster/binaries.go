package cluster

import (
	"errors"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strconv"
)

// FindBinaries looks for the server's programs on the PATH and in Debian's version
// folders, newest first.
func FindBinaries() (dir string, err error) {
	var dirs []string
	if found, err := filepath.Glob("/usr/lib/postgresql/*/bin"); err == nil {
		slices.SortFunc(found, func(a, b string) int { return versionOf(b) - versionOf(a) })
		dirs = append(dirs, found...)
	}
	if p, err := exec.LookPath("postgres"); err == nil {
		dirs = append([]string{filepath.Dir(p)}, dirs...)
	}
	for _, d := range dirs {
		if whole(d) {
			return d, nil
		}
	}
	return "", errors.New("PostgreSQL's server is not installed; on Debian: apt-get install postgresql")
}

func versionOf(bin string) int {
	n, err := strconv.Atoi(filepath.Base(filepath.Dir(bin)))
	if err != nil {
		return 0
	}
	return n
}

func whole(dir string) bool {
	for _, name := range []string{"postgres", "initdb"} {
		if info, err := os.Stat(filepath.Join(dir, name)); err != nil || info.IsDir() {
			return false
		}
	}
	return true
}
