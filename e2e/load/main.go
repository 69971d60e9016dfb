// Command load puts the program under load and prints the table that docs/trust.md quotes:
// what one request takes, how many a second there are, and how much memory it holds, with
// the demo builds and with twenty. It measures; it asserts nothing.
package main

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"sync"
	"sync/atomic"
	"syscall"
	"time"

	"github.com/google/uuid"
)

const varrow = "01997a00-0000-7000-8000-0000c1de0001"

func main() {
	if err := run(); err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
}

type app struct {
	url string
	cmd *exec.Cmd
}

func run() error {
	dir, err := os.MkdirTemp("", "cinderpath-load-*")
	if err != nil {
		return err
	}
	defer os.RemoveAll(dir)
	if err := os.Chmod(dir, 0o755); err != nil {
		return err
	}
	binary := filepath.Join(dir, "cinderpath")
	if out, err := exec.Command("go", "build", "-o", binary, "./cmd/cinderpath").CombinedOutput(); err != nil {
		return fmt.Errorf("%w: %s", err, out)
	}
	a, err := start(binary, filepath.Join(dir, "data"))
	if err != nil {
		return err
	}
	defer func() { _ = a.cmd.Process.Signal(syscall.SIGTERM); _ = a.cmd.Wait() }()
	fmt.Println("| what | builds | median | p99 | a second |")
	fmt.Println("| --- | --- | --- | --- | --- |")
	fmt.Printf("| the first plan of all, nothing remembered | 3 | %v | | |\n", a.timed(a.get("/api/home")))
	fmt.Printf("| the first page with its pictures | 3 | %v | | |\n", a.timed(a.page))
	for _, builds := range []int{3, 20} {
		for a.builds() < builds {
			if err := a.send(http.MethodPost, "/api/builds/"+varrow+"/duplicate", "", nil)(); err != nil {
				return err
			}
		}
		a.measure(builds)
	}
	return nil
}

func start(binary, data string) (*app, error) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return nil, err
	}
	address := l.Addr().String()
	if err := l.Close(); err != nil {
		return nil, err
	}
	a := &app{"http://" + address, exec.Command(binary, "demo", "--data", data, "--listen", address)}
	a.cmd.Stderr = os.Stderr
	if err := a.cmd.Start(); err != nil {
		return nil, err
	}
	http.DefaultTransport.(*http.Transport).MaxIdleConnsPerHost = 200
	for range 600 {
		if a.get("/healthz")() == nil {
			return a, nil
		}
		time.Sleep(100 * time.Millisecond)
	}
	return nil, errors.New("the program does not answer")
}

// client keeps a connection for each that asks, as browsers do.
var client = &http.Client{Transport: &http.Transport{MaxIdleConnsPerHost: 100}}

// send sends a request and reads the answer into a value.
func (a *app) send(method, path, body string, into any, headers ...string) func() error {
	return func() error {
		r, err := http.NewRequest(method, a.url+path, strings.NewReader(body))
		if err != nil {
			return err
		}
		r.Header.Set("Content-Type", "application/json")
		if into == nil { // what unpacks and reads it is another machine, as a rule
			r.Header.Set("Accept-Encoding", "gzip")
		}
		for i := 0; i+1 < len(headers); i += 2 {
			r.Header.Set(headers[i], headers[i+1])
		}
		answer, err := client.Do(r)
		if err != nil {
			return err
		}
		defer answer.Body.Close()
		data, err := io.ReadAll(answer.Body)
		if err != nil {
			return err
		}
		if answer.StatusCode >= 300 && answer.StatusCode != http.StatusPreconditionFailed {
			return fmt.Errorf("%s: %d %.200s", path, answer.StatusCode, data)
		}
		if into != nil && answer.StatusCode < 300 {
			return json.Unmarshal(data, into)
		}
		return nil
	}
}

func (a *app) get(path string) func() error { return a.send(http.MethodGet, path, "", nil) }

func (a *app) timed(f func() error) time.Duration {
	began := time.Now()
	if err := f(); err != nil {
		fmt.Fprintln(os.Stderr, err)
	}
	return time.Since(began).Round(100 * time.Microsecond)
}

type home struct {
	Builds []struct {
		Revision int64
		Glance   struct{ Build, Look string }
	}
}

func (a *app) builds() int {
	var h home
	if err := a.send(http.MethodGet, "/api/home", "", &h)(); err != nil {
		fmt.Fprintln(os.Stderr, err)
	}
	return len(h.Builds)
}

// page is what the browser asks for at home: the page, its builds, and a picture of each.
func (a *app) page() error {
	var h home
	if err := errors.Join(a.get("/")(), a.send(http.MethodGet, "/api/home", "", &h)()); err != nil {
		return err
	}
	var all sync.WaitGroup
	for _, b := range h.Builds {
		all.Go(func() {
			if err := a.get("/api/builds/" + b.Glance.Build + "/pictures/" + b.Glance.Look + "/left?px=3")(); err != nil {
				fmt.Fprintln(os.Stderr, err)
			}
		})
	}
	all.Wait()
	return nil
}

// times are how long each of many requests took.
type times struct {
	mu  sync.Mutex
	all []time.Duration
}

func (t *times) add(d time.Duration) {
	t.mu.Lock()
	defer t.mu.Unlock()
	t.all = append(t.all, d)
}

func (t *times) row(what string, builds int, took time.Duration) {
	slices.Sort(t.all)
	at := func(share float64) time.Duration {
		if len(t.all) == 0 {
			return 0
		}
		return t.all[min(int(share*float64(len(t.all))), len(t.all)-1)].Round(100 * time.Microsecond)
	}
	fmt.Printf("| %s | %d | %v | %v | %.0f |\n", what, builds, at(0.5), at(0.99), float64(len(t.all))/took.Seconds())
}

// again repeats a request for some seconds; what it takes to make it up does not count.
func (a *app) again(what string, builds int, next func() func() error) {
	var t times
	var took time.Duration
	for began := time.Now(); time.Since(began) < 4*time.Second; {
		one := next()
		from := time.Now()
		if err := one(); err != nil {
			fmt.Fprintln(os.Stderr, what, err)
			return
		}
		t.add(time.Since(from))
		took += time.Since(from)
	}
	t.row(what, builds, took)
}

// same is one request again and again.
func same(one func() error) func() func() error { return func() func() error { return one } }

func (a *app) note() func() error {
	return func() error {
		return a.send(http.MethodPost, "/api/builds/"+varrow+"/log", fmt.Sprintf(
			`{"key":%q,"kind":"note","task":"fit:gear:1","title":"Note","note":"seen"}`, uuid.NewString()), nil)()
	}
}

func (a *app) edit(revision *atomic.Int64, id, edit string) func() error {
	return func() error {
		return a.send(http.MethodPost, "/api/builds/"+id+"/edits", `{"edits":[`+edit+`]}`, nil,
			"If-Match", fmt.Sprintf(`"%d"`, revision.Add(1)-1))()
	}
}

// drilled is an edit that no plan knows yet: one more hole is to be drilled than ever before.
func (a *app) drilled(n int) string {
	var s struct{ Build struct{ Kit map[string]any } }
	if err := a.send(http.MethodGet, "/api/builds/"+varrow, "", &s)(); err != nil {
		fmt.Fprintln(os.Stderr, err)
	}
	kit := s.Build.Kit
	features, _ := kit["features"].([]any)
	kit["features"] = append(features, map[string]any{
		"id": fmt.Sprint("hole-", n), "name": fmt.Sprint("hole ", n), "kind": "hole", "assembly": "hull", "mm": 0.5,
		"inside": true, "versions": []string{"line"},
	})
	data, err := json.Marshal(map[string]any{"op": "kit", "kit": kit})
	if err != nil {
		fmt.Fprintln(os.Stderr, err)
	}
	return string(data)
}

func (a *app) revision() *atomic.Int64 {
	var h home // which is short
	if err := a.send(http.MethodGet, "/api/home", "", &h)(); err != nil {
		fmt.Fprintln(os.Stderr, err)
	}
	var r atomic.Int64
	for _, b := range h.Builds {
		if b.Glance.Build == varrow {
			r.Store(b.Revision)
		}
	}
	return &r
}

func (a *app) measure(builds int) {
	a.again("a request that asks nothing", builds, same(a.get("/healthz")))
	a.again("the plan, nothing changed", builds, same(a.get("/api/builds/"+varrow)))
	revision, n := a.revision(), 1000*builds // no hole twice
	a.again("an edit that touches no task", builds, func() func() error {
		n++
		return a.edit(revision, varrow, fmt.Sprintf(`{"op":"story","text":"round %d"}`, n))
	})
	a.again("an edit that moves the plan", builds, func() func() error {
		n++
		return a.edit(revision, varrow, a.drilled(n))
	})
	a.again("a note at the bench", builds, same(a.note()))
	n = 0
	a.again("a step begun or taken back", builds, func() func() error {
		n++
		return a.send(http.MethodPost, "/api/builds/"+varrow+"/log", fmt.Sprintf(
			`{"key":%q,"kind":%q,"task":"chips:01997a00-0000-7000-8000-0000c1de0008:1","title":"Chips"}`,
			uuid.NewString(), []string{"started", "undone"}[n%2]), nil)
	})
	a.together(builds)
	a.crowd(builds)
	fmt.Printf("| memory of the program, MB | %d | %d | | |\n", builds, memory(a.cmd.Process.Pid))
}

// together lets twenty write notes at once.
func (a *app) together(builds int) {
	var writes times
	var all sync.WaitGroup
	began := time.Now()
	for range 20 {
		all.Go(func() {
			for time.Since(began) < 4*time.Second {
				from := time.Now()
				if err := a.note()(); err != nil {
					fmt.Fprintln(os.Stderr, err)
				}
				writes.add(time.Since(from))
			}
		})
	}
	all.Wait()
	writes.row("notes of twenty at once", builds, time.Since(began))
}

// crowd lets fifty read and ten write at the same time.
func (a *app) crowd(builds int) {
	var reads, writes times
	var all sync.WaitGroup
	began := time.Now()
	for i := range 60 {
		all.Go(func() {
			for n := 0; time.Since(began) < 10*time.Second; n++ {
				from := time.Now()
				into, one := &reads, a.get([]string{"/api/home", "/api/builds/" + varrow, "/api/evenings"}[n%3])
				if i >= 50 {
					into, one = &writes, a.note()
					if i%2 == 0 {
						one = a.edit(a.revision(), varrow, fmt.Sprintf(`{"op":"story","text":"%d at %d"}`, i, n))
						from = time.Now()
					}
				}
				if err := one(); err != nil {
					fmt.Fprintln(os.Stderr, err)
				}
				into.add(time.Since(from))
			}
		})
	}
	all.Wait()
	took := time.Since(began)
	reads.row("fifty readers beside ten writers: reads", builds, took)
	writes.row("fifty readers beside ten writers: writes", builds, took)
}

// memory is what a process holds, MB.
func memory(pid int) int {
	data, err := os.ReadFile(fmt.Sprintf("/proc/%d/status", pid))
	if err != nil {
		return 0
	}
	for line := range bytes.Lines(data) {
		if f := strings.Fields(string(line)); len(f) > 1 && f[0] == "VmHWM:" {
			kb, err := strconv.Atoi(f[1])
			if err != nil {
				return 0
			}
			return kb >> 10
		}
	}
	return 0
}
