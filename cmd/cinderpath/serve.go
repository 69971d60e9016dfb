package main

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"net/http"
	"os"
	"path/filepath"
	"runtime/debug"
	"strconv"
	"strings"
	"syscall"
	"time"

	"cinderpath/core/document"
	"cinderpath/core/measure"
	"cinderpath/core/path"
	"cinderpath/core/plan"
	"cinderpath/samples"
	"cinderpath/server"
	"cinderpath/store"
	"cinderpath/store/cluster"
	"cinderpath/ui"
)

// where says which database and data folder a command works with.
type where struct {
	Data        string `help:"Data folder (else XDG's; for root /var/lib/cinderpath)." env:"CINDERPATH_DATA" type:"path"`
	DatabaseURL string `help:"Use this PostgreSQL instead of a private one." env:"CINDERPATH_DATABASE_URL"`
}

func (w where) dir() (string, error) {
	if w.Data != "" {
		return w.Data, nil
	}
	return cluster.DefaultDir()
}

// open gives the store; done stops what was started for it.
func (w where) open(ctx context.Context) (s *store.Store, done func(), err error) {
	url, stop := w.DatabaseURL, func() {}
	if url == "" {
		dir, err := w.dir()
		if err != nil {
			return nil, nil, err
		}
		c, err := cluster.Start(ctx, dir)
		if err != nil {
			return nil, nil, err
		}
		url = c.URL
		stop = func() {
			if err := c.Stop(); err != nil {
				slog.Error("the database did not stop in good order", "error", err)
			}
		}
	}
	s, err = store.Open(ctx, url)
	if err != nil {
		stop()
		return nil, nil, err
	}
	return s, func() { s.Close(); stop() }, setUp(ctx, s)
}

// setUp keeps a first workshop: ordinary evenings, in the machine's zone.
func setUp(ctx context.Context, s *store.Store) error {
	_, _, ok, err := s.Workshop(ctx)
	if err != nil || ok {
		return err
	}
	w := document.Workshop{
		Name:     "My bench",
		Zone:     zone(),
		Calendar: path.Calendar{Temperature: 20, Humidity: 0.5},
		Printers: []measure.Printer{
			{ID: "filament", Name: "Filament printer", Kind: measure.Filament, Bed: [3]float64{220, 220, 250}, Feature: 0.4},
			{ID: "resin", Name: "Resin printer", Kind: measure.Resin, Bed: [3]float64{130, 80, 160}, Feature: 0.05}},
	}
	for day := 1; day <= 5; day++ {
		w.Calendar.Weekly = append(w.Calendar.Weekly, path.Window{Day: day, From: "20:00", To: "22:30"})
	}
	w.Calendar.Weekly = append(
		w.Calendar.Weekly,
		path.Window{Day: 6, From: "14:00", To: "18:00"},
		path.Window{Day: 0, From: "20:00", To: "22:00"},
	)
	_, err = s.KeepWorkshop(ctx, w, 0)
	return err
}

// zone is the machine's IANA zone where it can be told, else UTC.
func zone() string {
	candidates := []string{os.Getenv("TZ")}
	if data, err := os.ReadFile("/etc/timezone"); err == nil {
		candidates = append(candidates, strings.TrimSpace(string(data)))
	}
	if link, err := os.Readlink("/etc/localtime"); err == nil {
		if _, name, ok := strings.Cut(link, "zoneinfo/"); ok {
			candidates = append(candidates, name)
		}
	}
	for _, name := range candidates {
		if _, err := time.LoadLocation(name); err == nil && name != "" && name != "Local" {
			return name
		}
	}
	return "UTC"
}

type serveCmd struct {
	where
	Listen string `help:"Address to listen on; 0.0.0.0:8417 lets others in, by a code." default:"127.0.0.1:8417"`
}

func (c serveCmd) Run(ctx context.Context) error {
	return c.run(ctx, 1, func(*store.Store) error { return nil })
}

type demoCmd struct{ serveCmd }

// demoPorts is how many ports the demo tries: whoever wants to see it has not chosen one.
const demoPorts = 20

func (c demoCmd) Run(ctx context.Context) error {
	return c.run(ctx, demoPorts, func(s *store.Store) error { return loadSamples(ctx, s) })
}

// loadSamples adds the demo builds that are not there yet, with their files, and
// puts the demo's stock on an empty shelf. A build that was removed stays removed.
func loadSamples(ctx context.Context, s *store.Store) error {
	documents, err := samples.Documents()
	if err != nil {
		return err
	}
	files, err := samples.Files()
	if err != nil {
		return err
	}
	for _, d := range documents {
		there, err := s.Has(ctx, d.Focus)
		if err != nil {
			return err
		}
		if there {
			continue
		}
		if _, err := server.Import(ctx, s, new(plan.Deriver), d, time.Now(), newID); err != nil {
			return err
		}
		if err := keepFiles(ctx, s, d.Items, files); err != nil {
			return err
		}
	}
	w, revision, _, err := s.Workshop(ctx)
	if err != nil || revision > 1 || len(documents) == 0 {
		return err
	}
	demo := documents[0].Resolve(time.Now()).Workshop
	w.Stock, w.Airbrushes, w.Calendar.Places, w.Paint = demo.Stock, demo.Airbrushes, demo.Calendar.Places, demo.Paint
	_, err = s.KeepWorkshop(ctx, w, revision)
	return err
}

// keepFiles stores what builds and their logs name.
func keepFiles(ctx context.Context, s *store.Store, items []document.Item, files map[string][]byte) error {
	for _, item := range items {
		for _, hash := range item.Files() {
			data, ok := files[hash]
			if !ok {
				return fmt.Errorf("%s: a file it names does not ship", item.Build.Name)
			}
			media := http.DetectContentType(data)
			if !strings.HasPrefix(media, "image/") {
				media = "model/stl"
			}
			if _, err := s.KeepFile(ctx, item.Build.ID, media, bytes.NewReader(data)); err != nil {
				return err
			}
		}
	}
	return nil
}

// running is what a running app writes beside its data, for stop and doctor.
type running struct {
	PID     int    `json:"pid"`
	Address string `json:"address"`
}

const runningName = "running.json"

// listen takes the address, or one of the ports after it where it is taken.
func listen(ctx context.Context, address string, ports int) (net.Listener, error) {
	var config net.ListenConfig
	l, err := config.Listen(ctx, "tcp", address)
	host, first, errSplit := net.SplitHostPort(address)
	from, errPort := strconv.Atoi(first)
	for i := 1; i < ports && errors.Is(err, syscall.EADDRINUSE) && errSplit == nil && errPort == nil; i++ {
		l, err = config.Listen(ctx, "tcp", net.JoinHostPort(host, strconv.Itoa(from+i)))
	}
	if err != nil {
		return nil, fmt.Errorf("cannot listen on %s: %w; give another --listen", address, err)
	}
	return l, nil
}

// memory is what the program takes at most where it can help it, bytes; GOMEMLIMIT says
// otherwise.
const memory = 300 << 20

func (c serveCmd) run(ctx context.Context, ports int, fill func(*store.Store) error) error {
	if os.Getenv("GOMEMLIMIT") == "" {
		debug.SetMemoryLimit(memory)
	}
	l, err := listen(ctx, c.Listen, ports)
	if err != nil {
		return err
	}
	defer l.Close()
	s, done, err := c.open(ctx)
	if err != nil {
		return err
	}
	defer done()
	if err := fill(s); err != nil {
		return err
	}
	host, _, err := net.SplitHostPort(c.Listen)
	if err != nil {
		return err
	}
	//nolint:contextcheck // each request brings its own
	h, err := server.New(
		server.Config{Store: s, UI: ui.Files(), Hosts: named(host), Shared: shared(l.Addr()), NewID: newID},
	)
	if err != nil {
		return err
	}
	note, err := c.note(l.Addr().String())
	if err != nil {
		return err
	}
	defer os.Remove(note)
	fmt.Printf("Cinder Path is at http://%s (Ctrl-C stops it)\n", local(l.Addr()))
	for _, at := range shared(l.Addr()) {
		fmt.Printf("Other devices find it at %s, and are let in by the code on its first page here.\n", at)
	}
	return server.Serve(ctx, l, h)
}

// named is the name that an address is listened to by, where it is one: not the sign for all of them.
func named(host string) []string {
	if ip := net.ParseIP(host); host == "" || ip != nil {
		return nil
	}
	return []string{host}
}

// local is where the machine itself finds the program.
func local(at net.Addr) string {
	if tcp, ok := at.(*net.TCPAddr); ok && tcp.IP.IsUnspecified() {
		return net.JoinHostPort("127.0.0.1", strconv.Itoa(tcp.Port))
	}
	return at.String()
}

// shared are the addresses at which other devices find the program; none where it listens to its own
// machine only.
func shared(at net.Addr) (out []string) {
	tcp, ok := at.(*net.TCPAddr)
	if !ok || tcp.IP.IsLoopback() {
		return nil
	}
	port := strconv.Itoa(tcp.Port)
	if !tcp.IP.IsUnspecified() {
		return []string{"http://" + net.JoinHostPort(tcp.IP.String(), port)}
	}
	all, err := net.InterfaceAddrs()
	if err != nil {
		all = nil
	}
	for _, a := range all {
		if n, ok := a.(*net.IPNet); ok && !n.IP.IsLoopback() && n.IP.To4() != nil {
			out = append(out, "http://"+net.JoinHostPort(n.IP.String(), port))
		}
	}
	if len(out) == 0 {
		out = []string{"http://" + at.String()}
	}
	return out
}

func (c serveCmd) note(address string) (file string, err error) {
	dir, err := c.dir()
	if err != nil {
		return "", err
	}
	data, err := json.Marshal(running{os.Getpid(), address})
	if err != nil {
		return "", err
	}
	if err := os.MkdirAll(dir, 0o755); err != nil {
		return "", err
	}
	file = filepath.Join(dir, runningName)
	return file, os.WriteFile(file, data, 0o600)
}

type stopCmd struct{ where }

func (c stopCmd) Run() error {
	dir, err := c.dir()
	if err != nil {
		return err
	}
	r, ok := readRunning(dir)
	if !ok {
		fmt.Println("Nothing is running.")
		return nil
	}
	if err := syscall.Kill(r.PID, syscall.SIGTERM); err != nil && !errors.Is(err, syscall.ESRCH) {
		return err
	}
	for range 450 {
		if _, still := readRunning(dir); !still {
			fmt.Println("Stopped.")
			return nil
		}
		time.Sleep(100 * time.Millisecond)
	}
	return fmt.Errorf("process %d did not stop within 45 s", r.PID)
}

// readRunning reads the note of a running app; a note left by a killed one does
// not count.
func readRunning(dir string) (running, bool) {
	var r running
	data, err := os.ReadFile(filepath.Join(dir, runningName))
	if err != nil || json.Unmarshal(data, &r) != nil || r.PID <= 0 {
		return r, false
	}
	name, err := os.ReadFile(fmt.Sprintf("/proc/%d/comm", r.PID))
	return r, err == nil && strings.HasPrefix(strings.TrimSpace(string(name)), "cinderpath")
}
