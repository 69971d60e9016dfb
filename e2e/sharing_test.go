package e2e

import (
	"net"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"
)

// A device elsewhere on the network is asked for the code that the workshop's own machine shows.
func TestAnotherDeviceIsLetIn(t *testing.T) {
	t.Parallel()
	elsewhere := ""
	all, err := net.InterfaceAddrs()
	require.NoError(t, err)
	for _, a := range all {
		if n, ok := a.(*net.IPNet); ok && !n.IP.IsLoopback() && n.IP.To4() != nil {
			elsewhere = n.IP.String()
		}
	}
	if elsewhere == "" {
		t.Skip("this machine is on no network")
	}
	a := startApp(t, dataDir(t), shared, "--database-url", samplesIn(t))
	desk := browser(t)
	code := ""
	do(
		t, desk,
		chromedp.Navigate(a.url),
		see(`//section[@aria-label="Other devices"]`),
		chromedp.Text(`strong[data-code]`, &code, chromedp.ByQuery),
	)
	phone := browser(t)
	do(
		t, phone,
		chromedp.Navigate(strings.Replace(a.url, "127.0.0.1", elsewhere, 1)),
		see(text("p", "This device is not part of the workshop yet")),
		chromedp.SendKeys(field("Code"), "WRONGONE", chromedp.BySearch),
		click(text("button", "Let this device in")),
		see(text("p", "not the code that is shown")),
		retype(field("Code"), code),
		click(text("button", "Let this device in")),
		see(text("h2", "Varrow II medium tank")),
	)
}
