package server

import (
	"bytes"
	"encoding/json"
	"errors"
	"io"
	"sync"
	"sync/atomic"
	"time"

	"cinderpath/core/plan"
	"cinderpath/server/api"
	"cinderpath/sheets"
	"cinderpath/store"

	"github.com/klauspost/compress/gzip" // twice as fast as the standard library's
)

// snapshot is all that there is, as it was read at once, with what follows from it.
type snapshot struct {
	sheets.Document
	revisions map[string]int64
	*plan.Outlook

	stands store.Standing
	asOf   time.Time // whole minute

	outdone bool // a better plan was found since: the workbench's lock guards it

	mu      sync.Mutex
	answers map[string]*answered // by what was asked
}

// answered is an answer, packed; who asks while it is made waits for it.
type answered struct {
	once sync.Once
	made atomic.Bool // without a fault
	data []byte
	err  error
}

// plan is the plan of one build.
func (s *snapshot) plan(id string) (plan.Plan, error) {
	at := itemAt(s.Items, id)
	if at < 0 {
		return plan.Plan{}, store.ErrNotFound
	}
	return s.Outlook.Plan(at)
}

// state is one build with its plan and log.
func (s *snapshot) state(id string) (api.BuildState, error) {
	at := itemAt(s.Items, id)
	if at < 0 {
		return api.BuildState{}, store.ErrNotFound
	}
	item := s.Items[at]
	p, err := s.plan(id)
	return api.BuildState{Build: item.Build, Revision: s.revisions[id], Plan: p, Log: item.Log}, err
}

// packed is the state of a build as packed JSON; its plan is written already.
func (s *snapshot) packed(state api.BuildState) ([]byte, error) {
	plan, err := s.Written(itemAt(s.Items, state.Build.ID))
	if err != nil {
		return nil, err
	}
	rest, err := json.Marshal(struct {
		api.BuildState
		Plan *struct{} `json:"plan,omitempty"` // instead of the state's own
	}{BuildState: state})
	if err != nil {
		return nil, err
	}
	return zipped(func(w io.Writer) error {
		for _, part := range [][]byte{[]byte(`{"plan":`), plan, []byte(","), rest[1:]} {
			if _, err := w.Write(part); err != nil {
				return err
			}
		}
		return nil
	})
}

// answer gives an answer as packed JSON, made once; other answers do not wait for it. One that fails is not kept.
func (s *snapshot) answer(what string, pack func() ([]byte, error)) ([]byte, error) {
	s.mu.Lock()
	a := s.answers[what]
	if a == nil {
		a = &answered{}
		if s.answers == nil {
			s.answers = map[string]*answered{}
		}
		s.answers[what] = a
	}
	s.mu.Unlock()
	a.once.Do(func() {
		defer func() {
			if a.err != nil {
				s.mu.Lock()
				defer s.mu.Unlock()
				delete(s.answers, what)
			}
		}()
		a.err = errors.New("the answer could not be made") // stays where making it panics
		a.data, a.err = pack()
		a.made.Store(a.err == nil)
	})
	return a.data, a.err
}

// carry takes over the longest answer of an earlier snapshot, where what decides it is the same.
func (s *snapshot) carry(earlier *snapshot) {
	if earlier.Outlook == nil || s.Key != earlier.Key {
		return
	}
	earlier.mu.Lock()
	defer earlier.mu.Unlock()
	if a := earlier.answers[evenings]; a != nil && a.made.Load() {
		s.answers = map[string]*answered{evenings: a}
	}
}

// evenings names the answer about the evenings.
const evenings = "evenings"

// of is the answer about one build.
func (s *snapshot) of(id string) ([]byte, error) {
	return s.answer("build "+id, func() ([]byte, error) {
		now, err := s.state(id)
		if err != nil {
			return nil, err
		}
		return s.packed(now)
	})
}

func zippedJSON(v any) ([]byte, error) {
	return zipped(func(w io.Writer) error { return json.NewEncoder(w).Encode(v) })
}

func zipped(write func(io.Writer) error) ([]byte, error) {
	var out bytes.Buffer
	zip, err := gzip.NewWriterLevel(&out, gzip.BestSpeed)
	if err != nil {
		return nil, err
	}
	err = errors.Join(write(zip), zip.Close())
	return out.Bytes(), err
}
