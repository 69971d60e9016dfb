package server

import (
	"context"
	"crypto/rand"
	"crypto/sha256"
	"crypto/subtle"
	"encoding/base64"
	"math/big"
	"net"
	"net/http"
	"slices"
	"strings"
	"sync"
	"time"

	"cinderpath/server/api"

	"github.com/gin-gonic/gin"
)

// Whoever is at the machine itself is let in. A device elsewhere on the network is let in once the
// code that the machine shows was typed on it; it keeps a cookie until the program ends, or until
// the machine forgets all devices.
const (
	pairCookie = "cinder-pair"
	pairPath   = "/api/pair"
	codeLength = 8
	// Letters and digits that nobody mistakes for each other.
	codeLetters = "ABCDEFGHJKLMNPQRSTUVWXYZ23456789"
	// After so many wrong codes there is a new one: guessing goes nowhere.
	mostGuesses = 5
	mostDevices = 20
	pairedFor   = 30 * 24 * time.Hour
)

// pairing is who is let in besides the machine itself. Nobody is where it is off.
type pairing struct {
	on        bool
	addresses []string

	mu      sync.Mutex
	code    string
	wrong   int
	devices map[[32]byte]bool
}

func newPairing(addresses []string) *pairing {
	p := &pairing{on: len(addresses) > 0, addresses: addresses, devices: map[[32]byte]bool{}}
	p.renew()
	return p
}

// renew makes another code.
func (p *pairing) renew() {
	var b strings.Builder
	for range codeLength {
		n, err := rand.Int(rand.Reader, big.NewInt(int64(len(codeLetters))))
		if err != nil {
			panic(err) // without chance there is no code
		}
		b.WriteByte(codeLetters[n.Int64()])
	}
	p.code, p.wrong = b.String(), 0
}

// here tells of requests from the machine itself.
func here(r *http.Request) bool {
	host, _, err := net.SplitHostPort(r.RemoteAddr)
	if err != nil {
		return false
	}
	ip := net.ParseIP(host)
	return ip != nil && ip.IsLoopback()
}

// own tells whether a name is the address at which a connection came in: a page elsewhere cannot
// point a name of its own at it.
func (p *pairing) own(r *http.Request, host string) bool {
	local, ok := r.Context().Value(http.LocalAddrContextKey).(net.Addr)
	if !p.on || !ok {
		return false
	}
	at, _, err := net.SplitHostPort(local.String())
	ip := net.ParseIP(host)
	return err == nil && ip != nil && ip.Equal(net.ParseIP(at))
}

// known tells whether a request comes from a device that was let in.
func (p *pairing) known(r *http.Request) bool {
	c, err := r.Cookie(pairCookie)
	if err != nil {
		return false
	}
	p.mu.Lock()
	defer p.mu.Unlock()
	return p.devices[sha256.Sum256([]byte(c.Value))]
}

// admit lets in who is here or known; the page itself and its code are for all.
func (p *pairing) admit(ctx *gin.Context) {
	path := ctx.Request.URL.Path
	if !p.on || here(ctx.Request) || path == pairPath || !strings.HasPrefix(path, "/api/") || p.known(ctx.Request) {
		ctx.Next()
		return
	}
	problem(ctx, api.Problem{
		Status: http.StatusUnauthorized,
		Title:  "Not let in yet",
		Detail: "This device was not paired with the workshop.",
		Remedy: ptr("type the code that the workshop's own machine shows on its first page"),
	})
}

// pair gives a token to who knows the code.
func (p *pairing) pair(code string) (token string, ok bool, err error) {
	p.mu.Lock()
	defer p.mu.Unlock()
	given := strings.ToUpper(strings.Join(strings.FieldsFunc(code, func(r rune) bool { return r == ' ' || r == '-' }), ""))
	if subtle.ConstantTimeCompare([]byte(given), []byte(p.code)) != 1 {
		if p.wrong++; p.wrong >= mostGuesses {
			p.renew()
		}
		return "", false, nil
	}
	raw := make([]byte, 32)
	if _, err := rand.Read(raw); err != nil {
		return "", false, err
	}
	token = base64.RawURLEncoding.EncodeToString(raw)
	if len(p.devices) >= mostDevices {
		clear(p.devices)
	}
	p.devices[sha256.Sum256([]byte(token))] = true
	p.renew() // a code is good once
	return token, true, nil
}

// Pair lets a device in.
func (h *handlers) Pair(_ context.Context, r api.PairRequestObject) (api.PairResponseObject, error) {
	token, ok, err := h.pairing.pair(r.Body.Code)
	if err != nil {
		return nil, err
	}
	if !ok {
		return api.PairdefaultApplicationProblemPlusJSONResponse{StatusCode: http.StatusForbidden, Body: api.Problem{
			Status: http.StatusForbidden,
			Title:  "Not that code",
			Detail: "That is not the code that is shown.",
			Field:  ptr("code"),
			Remedy: ptr("look at it again; after five wrong ones there is a new one"),
		}}, nil
	}
	cookie := http.Cookie{ //nolint:gosec // a home network has no certificate: Secure would keep it from ever being sent
		Name: pairCookie, Value: token, Path: "/", HttpOnly: true, SameSite: http.SameSiteStrictMode,
		MaxAge: int(pairedFor.Seconds()),
	}
	return api.Pair204Response{Headers: api.Pair204ResponseHeaders{SetCookie: ptr(cookie.String())}}, nil
}

type fromHere struct{}

// whence notes whether a request comes from the machine itself, for those that ask.
func whence(ctx *gin.Context) {
	ctx.Request = ctx.Request.WithContext(context.WithValue(ctx.Request.Context(), fromHere{}, here(ctx.Request)))
	ctx.Next()
}

// Sharing tells how other devices are let in; the code is shown here only.
func (h *handlers) Sharing(ctx context.Context, _ api.SharingRequestObject) (api.SharingResponseObject, error) {
	p := h.pairing
	p.mu.Lock()
	defer p.mu.Unlock()
	out := api.Sharing{On: p.on, Addresses: slices.Clone(p.addresses), Devices: len(p.devices)}
	if out.Addresses == nil {
		out.Addresses = []string{}
	}
	if at, _ := ctx.Value(fromHere{}).(bool); at && p.on {
		code := p.code
		out.Code = &code
	}
	return api.Sharing200JSONResponse(out), nil
}

// Unpair forgets all devices.
func (h *handlers) Unpair(context.Context, api.UnpairRequestObject) (api.UnpairResponseObject, error) {
	h.pairing.mu.Lock()
	defer h.pairing.mu.Unlock()
	clear(h.pairing.devices)
	h.pairing.renew()
	return api.Unpair204Response{}, nil
}
