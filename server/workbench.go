package server

import (
	"bytes"
	"compress/gzip"
	"context"
	"errors"
	"fmt"
	"log/slog"
	"net/http"
	"slices"
	"strings"
	"sync"
	"time"

	"cinderpath/core/document"
	"cinderpath/core/plan"
	"cinderpath/store"

	"github.com/gin-gonic/gin"
)

// workbench holds the newest snapshot. All who find it out of date wait for the next one together.
type workbench struct {
	store     *store.Store
	deriver   *plan.Deriver
	now       func() time.Time
	standings relay[store.Standing]
	snapshots relay[*snapshot]

	mu     sync.Mutex
	newest *snapshot

	hush    hush
	seeking context.CancelFunc // ends the search for a better plan, of which nobody wants to know any more
	wanted  string             // what it is for
}

func newWorkbench(s *store.Store, d *plan.Deriver, now func() time.Time) *workbench {
	w := &workbench{store: s, deriver: d, now: now}
	w.standings.make, w.snapshots.make = s.Standing, w.make
	return w
}

// look gives a snapshot that holds all that was written before it was asked for.
func (w *workbench) look(ctx context.Context) (*snapshot, error) {
	stands, err := w.standings.next(ctx)
	if err != nil {
		return nil, err
	}
	asOf := w.now().Truncate(time.Minute)
	w.mu.Lock()
	n := w.newest
	current := n != nil && n.stands.Equal(stands) && n.asOf.Equal(asOf) && !n.outdone
	w.mu.Unlock()
	if current {
		return n, nil
	}
	return w.afresh(ctx)
}

// recent gives the newest snapshot there is, which may not hold what was written just now: what
// a change is told beside.
func (w *workbench) recent(ctx context.Context) (*snapshot, error) {
	w.mu.Lock()
	n := w.newest
	w.mu.Unlock()
	if n != nil && w.now().Sub(n.asOf) < recently && n.asOf.Sub(w.now()) < recently {
		return n, nil
	}
	return w.look(ctx)
}

// recently is how old a snapshot may be that a change is told beside.
const recently = 2 * time.Minute

// afresh makes a snapshot though nothing may have changed: what the deriver forgot is
// derived again.
func (w *workbench) afresh(ctx context.Context) (*snapshot, error) { return w.snapshots.next(ctx) }

// seek looks for the better plan of a provisional snapshot, which the next look finds. The search goes on under
// snapshots that want the same; one that wants another ends it.
func (w *workbench) seek(ctx context.Context, s *snapshot) {
	w.mu.Lock()
	defer w.mu.Unlock()
	if w.seeking != nil && s.Provisional && s.Wanted == w.wanted {
		return
	}
	if w.seeking != nil {
		w.seeking()
		w.seeking = nil
	}
	if !s.Provisional {
		return
	}
	ctx, w.seeking = context.WithCancel(context.WithoutCancel(ctx))
	stop := w.seeking
	w.wanted = s.Wanted
	go func() {
		defer stop()
		err := w.better(ctx, s)
		w.mu.Lock()
		defer w.mu.Unlock()
		if ctx.Err() != nil {
			return // another one is on
		}
		w.seeking = nil
		if err == nil && w.newest.Wanted == s.Wanted { // else what stands stays; whoever asks next is told why
			w.newest.outdone = true
		}
	}()
}

// better finds the better plan, for the deriver to know.
func (w *workbench) better(ctx context.Context, s *snapshot) (err error) {
	defer func() {
		if r := recover(); r != nil {
			err = fmt.Errorf("looking for a better plan: %v", r)
			slog.Error(err.Error())
		}
	}()
	rest := w.hush.resting(mostRests)
	return w.deriver.Better(ctx, s.Workshop, s.Items, s.AsOf, func() { rest() })
}

// log is a build's as it stands: what is known of it, and what was added since.
func (w *workbench) log(ctx context.Context, id string) ([]document.Entry, error) {
	s, err := w.recent(ctx)
	if err != nil {
		return nil, err
	}
	var known []document.Entry
	if at := itemAt(s.Items, id); at >= 0 {
		known = s.Items[at].Log
	}
	added, err := w.store.LogsAfter(ctx, map[string]int{id: len(known)})
	return slices.Concat(known, added[id]), err
}

// make makes the newest snapshot.
func (w *workbench) make(ctx context.Context) (*snapshot, error) {
	defer w.hush.begin()()
	w.mu.Lock()
	last := w.newest
	w.mu.Unlock()
	s, err := w.derive(ctx, last)
	if err != nil {
		return nil, err
	}
	w.mu.Lock()
	w.newest = s
	w.mu.Unlock()
	w.seek(ctx, s)
	return s, nil
}

// derive reads what has changed and derives the plans as of now.
func (w *workbench) derive(ctx context.Context, last *snapshot) (*snapshot, error) {
	s := &snapshot{revisions: map[string]int64{}}
	// Before what it names: at worst it is older, and the next look reads again.
	var err error
	if s.stands, err = w.standings.next(ctx); err != nil {
		return nil, err
	}
	if last == nil {
		last = &snapshot{}
	}
	shop := last.Workshop
	if last.Outlook == nil || last.stands.Workshop != s.stands.Workshop {
		var ok bool
		shop, _, ok, err = w.store.Workshop(ctx)
		if err := errors.Join(err, missing(ok || err != nil)); err != nil {
			return nil, err
		}
	}
	if err := s.read(ctx, w.store, last); err != nil {
		return nil, err
	}
	zone, err := time.LoadLocation(shop.Zone)
	if err != nil {
		return nil, fmt.Errorf("workshop zone: %w", err)
	}
	s.asOf = w.now().Truncate(time.Minute)
	s.AsOf, s.Workshop = s.asOf.In(zone), shop
	if s.Outlook, err = w.deriver.Soon(ctx, shop, s.Items, s.AsOf); err != nil {
		return nil, err
	}
	s.carry(last)
	return s, nil
}

// read takes from the last snapshot what stands as it stood, and reads the rest.
func (s *snapshot) read(ctx context.Context, from *store.Store, last *snapshot) error {
	known := map[string]document.Item{}
	for _, item := range last.Items {
		known[item.Build.ID] = item
	}
	var changed []string
	longer := map[string]int{} // logs, by how much of them is known
	for _, b := range s.stands.Builds {
		s.revisions[b.ID] = b.Revision
		if last.revisions[b.ID] != b.Revision {
			changed = append(changed, b.ID)
		}
		if item := known[b.ID]; int64(len(item.Log)) > b.Entries { // the database lost some: all is read again
			item.Log = nil
			known[b.ID] = item
		}
		if n := len(known[b.ID].Log); int64(n) != b.Entries {
			longer[b.ID] = n
		}
	}
	if len(changed) > 0 {
		builds, err := from.Builds(ctx, changed...)
		if err != nil {
			return err
		}
		for _, id := range changed {
			at := slices.IndexFunc(builds, func(k store.Kept) bool { return k.Build.ID == id })
			if at < 0 {
				delete(known, id) // it was removed meanwhile
				continue
			}
			item := known[id]
			if item.Log == nil {
				item.Log = []document.Entry{}
			}
			item.Build = builds[at].Build
			known[id], s.revisions[id] = item, builds[at].Revision
		}
	}
	if len(longer) > 0 {
		added, err := from.LogsAfter(ctx, longer)
		if err != nil {
			return err
		}
		for id, entries := range added {
			if item, ok := known[id]; ok {
				item.Log = slices.Concat(item.Log, entries) // others still read the old one
				known[id] = item
				if slices.ContainsFunc(entries, plan.Tells) {
					changed = append(changed, id)
				}
			}
		}
	}
	for _, id := range changed {
		if item, ok := known[id]; ok {
			var err error
			if item.Key, err = plan.ItemKey(item); err != nil {
				return err
			}
			known[id] = item
		}
	}
	for _, b := range s.stands.Builds {
		if item, ok := known[b.ID]; ok {
			s.Items = append(s.Items, item)
		}
	}
	slices.SortStableFunc(s.Items, func(a, b document.Item) int { return a.Build.Priority - b.Build.Priority })
	return nil
}

func missing(ok bool) error {
	if ok {
		return nil
	}
	return errors.New("the workshop was never set up")
}

// packed is an answer that is packed already; it is unpacked for whoever cannot.
type packed struct {
	data  []byte
	plain bool
}

func pack(ctx context.Context, data []byte) packed {
	g, ok := ctx.(*gin.Context)
	return packed{data, !ok || !strings.Contains(g.GetHeader("Accept-Encoding"), "gzip")}
}

func (p packed) write(w http.ResponseWriter) error {
	w.Header().Set("Content-Type", "application/json")
	w.Header().Set("Vary", "Accept-Encoding")
	if p.plain {
		zip, err := gzip.NewReader(bytes.NewReader(p.data))
		if err != nil {
			return err
		}
		var out bytes.Buffer
		if _, err := out.ReadFrom(zip); err != nil {
			return err
		}
		_, err = out.WriteTo(w)
		return err
	}
	w.Header().Set("Content-Encoding", "gzip")
	_, err := w.Write(p.data)
	return err
}

// VisitHomeResponse writes the answer.
func (p packed) VisitHomeResponse(w http.ResponseWriter) error { return p.write(w) }

// VisitGetBuildResponse writes the answer.
func (p packed) VisitGetBuildResponse(w http.ResponseWriter) error { return p.write(w) }

// VisitEditBuildResponse writes the answer.
func (p packed) VisitEditBuildResponse(w http.ResponseWriter) error { return p.write(w) }

// VisitAppendLogResponse writes the answer.
func (p packed) VisitAppendLogResponse(w http.ResponseWriter) error { return p.write(w) }

// VisitEveningsResponse writes the answer.
func (p packed) VisitEveningsResponse(w http.ResponseWriter) error { return p.write(w) }
