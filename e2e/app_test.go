package e2e

import (
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"sync"
	"syscall"
	"testing"
	"time"

	"cinderpath/store/storetest"

	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/cdproto/log"
	"github.com/chromedp/cdproto/page"
	"github.com/chromedp/cdproto/runtime"
	"github.com/chromedp/cdproto/target"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// binary is the program under test, built once.
var binary string

// chrome is the browser that the tests share; each has a profile of its own in it.
var chrome context.Context

func TestMain(m *testing.M) { os.Exit(run(m)) }

func run(m *testing.M) int {
	dir, err := os.MkdirTemp("", "cinderpath-e2e-*")
	if err == nil {
		defer os.RemoveAll(dir)
		binary = filepath.Join(dir, "cinderpath")
		build := exec.Command("go", "build", "-o", binary, "../cmd/cinderpath")
		build.Stderr = os.Stderr
		err = build.Run()
	}
	if err != nil {
		fmt.Fprintln(os.Stderr, "the program does not build:", err)
		return 1
	}
	options := append(
		chromedp.DefaultExecAllocatorOptions[:],
		chromedp.NoSandbox,
		chromedp.DisableGPU,
		chromedp.WindowSize(1280, 800),
		chromedp.Flag(
			"disable-quic",
			true,
		),
		chromedp.Flag("disable-component-update", true),
		chromedp.UserDataDir(filepath.Join(dir, "profile")),
	)
	allocator, cancelAllocator := chromedp.NewExecAllocator(context.Background(), options...)
	defer cancelAllocator()
	var cancelChrome context.CancelFunc
	chrome, cancelChrome = chromedp.NewContext(allocator)
	defer cancelChrome()
	if err := chromedp.Run(chrome); err != nil {
		fmt.Fprintln(os.Stderr, "the browser does not start:", err)
		return 1
	}
	return storetest.Run(m)
}

// app is a running program.
type app struct {
	url, data string
	cmd       *exec.Cmd
}

// dataDir is a folder that the unprivileged database server can reach.
func dataDir(t testing.TB) string {
	dir, err := os.MkdirTemp("", "cinderpath-data-*")
	require.NoError(t, err)
	require.NoError(t, os.Chmod(dir, 0o755))
	t.Cleanup(func() { os.RemoveAll(dir) })
	return dir
}

// demo runs the demo on a database of its own, on the server that all tests share, and lets
// the test run beside others.
func demo(t testing.TB) *app {
	if t, ok := t.(*testing.T); ok {
		t.Parallel()
	}
	return startApp(t, dataDir(t), "--database-url", samplesIn(t))
}

var (
	loading sync.Mutex
	loaded  string
)

// samplesIn is a database of its own that holds the samples: they are loaded once and copied, since
// each is planned before it is stored.
func samplesIn(t testing.TB) string {
	loading.Lock()
	defer loading.Unlock()
	if loaded == "" {
		address := storetest.Database(t)
		startApp(t, dataDir(t), "--database-url", address).stop(t)
		loaded = address
	}
	return storetest.Like(t, loaded)
}

// shared lets other devices on the network in.
const shared = "shared"

// startApp runs the demo on a data folder, with a database server of its own, and waits until
// it serves.
func startApp(t testing.TB, data string, more ...string) *app {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	address := l.Addr().String()
	require.NoError(t, l.Close())
	listen := address
	if len(more) > 0 && more[0] == shared {
		_, port, err := net.SplitHostPort(address)
		require.NoError(t, err)
		listen, more = "0.0.0.0:"+port, more[1:]
	}
	a := &app{
		url:  "http://" + address,
		data: data,
		cmd:  exec.Command(binary, append([]string{"demo", "--data", data, "--listen", listen}, more...)...),
	}
	var said strings.Builder
	a.cmd.Stderr = &said
	require.NoError(t, a.cmd.Start())
	t.Cleanup(func() { a.stop(t) })
	for range 1800 {
		if r, err := http.Get(a.url + "/healthz"); err == nil {
			r.Body.Close()
			if r.StatusCode == http.StatusOK {
				return a
			}
		}
		time.Sleep(100 * time.Millisecond)
	}
	t.Fatalf("the app does not answer: %s", said.String())
	return nil
}

// stop ends the app in good order; it is no error when it is gone already.
func (a *app) stop(t testing.TB) {
	if a.cmd.ProcessState != nil {
		return
	}
	_ = a.cmd.Process.Signal(syscall.SIGTERM)
	if err := a.cmd.Wait(); err != nil {
		t.Logf("the app ended with %v", err)
	}
}

// varrow is the id of the main demo build.
const varrow = "01997a00-0000-7000-8000-0000c1de0001"

// get reads an address of the app as JSON.
func (a *app) get(t testing.TB, path string, into any) {
	r, err := http.Get(a.url + path)
	require.NoError(t, err)
	defer r.Body.Close()
	data, err := io.ReadAll(r.Body)
	require.NoError(t, err)
	require.Equal(t, http.StatusOK, r.StatusCode, "%s", data)
	require.NoError(t, json.Unmarshal(data, into))
}

// browser opens a window of 1280 × 800, with a profile of its own, that asks pages to spare data: most tests look
// at one step, and what is painted ahead of the next ones would take as long again.
func browser(t testing.TB) context.Context {
	window := eager(t)
	do(t, window, chromedp.ActionFunc(func(ctx context.Context) error {
		_, err := page.AddScriptToEvaluateOnNewDocument(
			"Object.defineProperty(navigator, 'connection', { value: { saveData: true } })",
		).Do(ctx)
		return err
	}))
	return window
}

// eager opens one that fetches pictures ahead, as browsers do that are not asked to spare data.
func eager(t testing.TB) context.Context {
	var of cdp.BrowserContextID
	var tab target.ID
	require.NoError(t, chromedp.Run(chrome, chromedp.ActionFunc(func(ctx context.Context) (err error) {
		ctx = cdp.WithExecutor(ctx, chromedp.FromContext(ctx).Browser)
		if of, err = target.CreateBrowserContext().WithDisposeOnDetach(true).Do(ctx); err != nil {
			return err
		}
		tab, err = target.CreateTarget("about:blank").WithBrowserContextID(of).WithNewWindow(true).Do(ctx)
		return err
	})))
	window, cancelWindow := chromedp.NewContext(chrome, chromedp.WithTargetID(tab))
	window, cancelTime := context.WithTimeout(window, 8*time.Minute)
	t.Cleanup(func() { cancelTime(); cancelWindow() })
	do(t, window, emulation.SetDeviceMetricsOverride(1280, 800, 1, false))
	complain(t, window)
	return window
}

// complain fails the test on whatever the page's console calls an error. What the browser
// itself writes of an answer that refuses something is none: the page tells it in words.
func complain(t testing.TB, window context.Context) {
	var mu sync.Mutex
	var said []string
	chromedp.ListenTarget(window, func(e any) {
		words := ""
		switch e := e.(type) {
		case *runtime.EventExceptionThrown:
			words = e.ExceptionDetails.Error()
		case *runtime.EventConsoleAPICalled:
			if e.Type == runtime.APITypeError {
				for _, a := range e.Args {
					words += string(a.Value) + a.Description
				}
			}
		case *log.EventEntryAdded:
			fetched := e.Entry.Source == log.SourceNetwork &&
				!regexp.MustCompile(`/(pictures|drawings|solids|grips|assets)/`).MatchString(e.Entry.URL)
			if e.Entry.Level == log.LevelError && !fetched {
				words = e.Entry.Text + " " + e.Entry.URL
			}
		}
		if words != "" {
			mu.Lock()
			said = append(said, words)
			mu.Unlock()
		}
	})
	do(t, window, log.Enable())
	t.Cleanup(func() {
		mu.Lock()
		defer mu.Unlock()
		assert.Empty(t, said, "the console tells of errors")
	})
}

// another opens a second window of the same browser.
func another(t testing.TB, window context.Context) context.Context {
	second, cancel := chromedp.NewContext(window)
	t.Cleanup(cancel)
	do(t, second, emulation.SetDeviceMetricsOverride(1280, 800, 1, false))
	complain(t, second)
	return second
}

// do runs actions; each must come to an end within a patience that a user has.
func do(t testing.TB, window context.Context, actions ...chromedp.Action) {
	t.Helper()
	for i, action := range actions {
		patient, cancel := context.WithTimeout(window, 90*time.Second)
		if i == 0 && chromedp.FromContext(window).Target == nil {
			cancel()
			patient, cancel = window, func() {} // the first action opens the window: its context must live on
		}
		err := chromedp.Run(patient, action)
		cancel()
		if err != nil {
			picture(window)
		}
		require.NoError(t, err, "action %d of this call", i+1)
	}
}

// picture keeps what is on the screen when a test fails, for whoever looks.
func picture(window context.Context) {
	dir := os.Getenv("CINDERPATH_FAILURES")
	if dir == "" {
		return
	}
	var png []byte
	if chromedp.Run(window, chromedp.CaptureScreenshot(&png)) == nil {
		_ = os.WriteFile(filepath.Join(dir, "failure.png"), png, 0o600)
	}
}

// text finds the element whose own words contain these.
func text(tag, words string) string {
	return fmt.Sprintf(`//%s[contains(normalize-space(.), %q)]`, tag, words)
}

// field finds the input of a label.
func field(label string) string {
	return fmt.Sprintf(`//input[@id=//label[contains(normalize-space(.), %q)]/@for]`, label)
}

// cell finds a cell of a sheet by its name.
func cell(name string) string { return fmt.Sprintf(`//input[@aria-label=%q]`, name) }

// rooms tells at which stage a room of the tray is gone to.
var rooms = map[string]string{
	"Sizes":     "Measure",
	"Kit check": "Measure",
	"Stock":     "Measure",
	"Cables":    "Measure",
	"Photos":    "Measure",
	"Own parts": "Measure",
	"Body":      "Form",
	"Gear":      "Form",
	"Sheets":    "Form",
	"Version":   "Build",
	"Parts":     "Build",
	"Steps":     "Build",
	"Markings":  "Paint",
	"Scheme":    "Paint",
	"Layers":    "Paint",
	"Evenings":  "Evenings",
	"What if":   "Evenings",
	"Hours":     "Evenings",
	"Schools":   "Evenings",
	"Base":      "Finish",
}

// stage is the link to a stage of the work.
func stage(name string) string { return fmt.Sprintf(`//nav[@aria-label="Stages"]/a[.=%q]`, name) }

// tab goes to a room: to its stage, then to the room.
func tab(name string) chromedp.Action {
	return chromedp.Tasks{
		click(stage(rooms[name])),
		see(stage(rooms[name]) + `[@aria-current="true"]`),
		click(fmt.Sprintf(`//a[@role="tab"][.=%q]`, name)),
		see(fmt.Sprintf(`//a[@role="tab"][.=%q][@aria-selected="true"]`, name)),
	}
}

// opened opens the line of the step one stands on.
var opened = click(`//section[@aria-label="The step you stand on"]//button[@aria-expanded="false"]`)

// found opens what would go wrong.
var found = click(`//section[@aria-label="What would go wrong"]/button[@aria-expanded="false"]`)

// click waits for an element that is seen, and clicks it.
func click(xpath string) chromedp.Action {
	return chromedp.Tasks{chromedp.WaitVisible(xpath, chromedp.BySearch), chromedp.Click(xpath, chromedp.BySearch)}
}

// see waits until an element is seen.
func see(xpath string) chromedp.Action { return chromedp.WaitVisible(xpath, chromedp.BySearch) }

// press strikes one key as a keyboard does: the letter comes only when the page
// does not take the key for itself.
func press(key string) chromedp.Action {
	return chromedp.Tasks{
		input.DispatchKeyEvent(input.KeyDown).WithKey(key).WithText(key),
		input.DispatchKeyEvent(input.KeyUp).WithKey(key),
	}
}

// retype empties a field and types into it.
func retype(xpath, value string) chromedp.Action {
	return chromedp.Tasks{
		see(xpath),
		chromedp.Click(xpath, chromedp.BySearch),
		chromedp.KeyEvent("a", chromedp.KeyModifiers(2)),
		chromedp.KeyEvent(value),
	}
}
