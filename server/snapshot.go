package server

import (
	"bytes"
	"compress/gzip"
	"encoding/json"
	"errors"
	"sync"
	"time"

	"cinderpath/core/plan"
	"cinderpath/server/api"
	"cinderpath/sheets"
	"cinderpath/store"
)

// snapshot is all that there is, as it was read at once, with what follows from it.
type snapshot struct {
	sheets.Document
	revisions map[string]int64
	plan.All

	shop  int64            // revision of the workshop
	stand []store.Standing // oldest build first
	asOf  time.Time        // whole minute

	outdone bool // a better plan was found since: the workbench's lock guards it

	mu      sync.Mutex
	answers map[string]*answered // by what was asked
}

// answered is an answer, packed; who asks while it is made waits for it.
type answered struct {
	once sync.Once
	data []byte
	err  error
}

// state is one build with its plan and log.
func (s *snapshot) state(id string) (api.BuildState, error) {
	at := itemAt(s.Items, id)
	if at < 0 {
		return api.BuildState{}, store.ErrNotFound
	}
	item := s.Items[at]
	return api.BuildState{Build: item.Build, Revision: s.revisions[id], Plan: s.Plans[at], Log: item.Log}, nil
}

// answer gives an answer as packed JSON, made once; other answers do not wait for it. One that fails is not kept.
func (s *snapshot) answer(what string, value func() (any, error)) ([]byte, error) {
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
		v, err := value()
		if err == nil {
			a.data, err = zipped(v)
		}
		a.err = err
	})
	return a.data, a.err
}

// of is the answer about one build.
func (s *snapshot) of(id string) ([]byte, error) {
	return s.answer("build "+id, func() (any, error) { return s.state(id) })
}

func zipped(v any) ([]byte, error) {
	var out bytes.Buffer
	zip, err := gzip.NewWriterLevel(&out, gzip.BestSpeed)
	if err != nil {
		return nil, err
	}
	err = errors.Join(json.NewEncoder(zip).Encode(v), zip.Close())
	return out.Bytes(), err
}
