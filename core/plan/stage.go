package plan

import (
	"container/list"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"reflect"
	"sync"
	"sync/atomic"

	"cinderpath/core/landing"
	"cinderpath/core/look"

	"golang.org/x/sync/singleflight"
)

// Deriver computes plans and remembers the stages it computed, by the hash of their
// inputs. The zero value is ready; it may be used from several goroutines.
type Deriver struct {
	Most int64 // bytes that are remembered; mostKept when 0

	siting   sync.Mutex
	stood    *landing.Site // the last vehicle on which layers landed
	stoodKey string

	mu     sync.Mutex
	kept   map[string]*list.Element // by key, of *kept
	recent list.List                // the last used first
	bytes  int64
	held   int64        // of them, of what nothing brings back
	gone   float64      // the highest rank at which something was forgotten
	made   atomic.Int64 // bytes that were ever remembered
	flight singleflight.Group

	last laid // the last schedule

	computed map[string]int // how often each stage was

	developing sync.Mutex  // one surface is painted at a time: each uses all processors
	live       *look.State // the one painted last, with what it is named by
	liveKey    string
}

// kept is what a stage gave.
type kept struct {
	key   string
	value any
	bytes int64
	worth float64 // how much work remembering it saves, by its bytes
	rank  float64 // worth above what the last one to go was ranked at when this was used
	held  bool    // nothing brings it back
}

// mostKept bounds what a Deriver remembers: some dozen builds with the pictures of one or two.
const mostKept = 128 << 20

// work is what a stage is worth besides what was made on its way, which may have been there already, in bytes: what
// is small is cheap to keep.
const work = 256 << 10

// fetched is what it is worth to keep what a stage came by on its way.
const fetched = 100

// heldShare is the part of what is remembered that belongs to what nothing brings back: who asks for it has
// to ask for the plan again. It stays, whatever else is worth, until there is more of it than that; then
// what was used longest ago goes.
const heldShare = 8

// keyOf names a stage with its inputs: by these alone, so that what it does not look at
// does not compute it anew. Stages that build on another take its key for an input.
func keyOf(name string, inputs any) (string, error) {
	data, err := json.Marshal(inputs)
	if err != nil {
		return "", fmt.Errorf("stage %s: %w", name, err)
	}
	sum := sha256.Sum256(append([]byte(name+"\x00"), data...))
	return name + " " + hex.EncodeToString(sum[:16]), nil
}

// keptAs is the key under which a stage is remembered: what is one name already is not named anew.
func keptAs(name string, inputs any) (string, error) {
	if one, ok := inputs.(string); ok {
		return name + "\x00" + one, nil
	}
	return keyOf(name, inputs)
}

// stage runs f, or gives what it gave for the same inputs before. Who asks while another
// is computing the same waits for that one's answer. What f gives must stand for itself:
// it meets other stages by ids and indices, since any of them may be forgotten and
// computed anew at any time.
func stage[T any](d *Deriver, name string, inputs any, f func() (T, error)) (T, error) {
	var none T
	key, err := keptAs(name, inputs)
	if err != nil {
		return none, err
	}
	out, err, _ := d.flight.Do(key, func() (any, error) {
		if got, ok := d.recall(key); ok {
			return got, nil
		}
		before := d.made.Load()
		out, err := f()
		if err != nil {
			return nil, err
		}
		d.count(name)
		d.keep(key, out, func(bytes int64) float64 {
			return 1 + float64(work+d.made.Load()-before)/float64(bytes)
		})
		return out, nil
	})
	if err != nil {
		return none, err
	}
	return out.(T), nil
}

// put keeps what a stage came by on its way; got finds it, or says that it is gone.
func (d *Deriver) put(name string, inputs, value any) error {
	return d.remember(name, inputs, value, func(int64) float64 { return fetched })
}

// hold keeps what nothing brings back.
func (d *Deriver) hold(name string, inputs, value any) error {
	return d.remember(name, inputs, value, nil)
}

func (d *Deriver) remember(name string, inputs, value any, worth func(bytes int64) float64) error {
	key, err := keptAs(name, inputs)
	if err == nil {
		d.keep(key, value, worth)
	}
	return err
}

func got[T any](d *Deriver, name string, inputs any) (out T, ok bool) {
	key, err := keptAs(name, inputs)
	if err != nil {
		return out, false
	}
	value, ok := d.recall(key)
	if ok {
		out, ok = value.(T)
	}
	return out, ok
}

func (d *Deriver) recall(key string) (any, bool) {
	d.mu.Lock()
	defer d.mu.Unlock()
	e, ok := d.kept[key]
	if !ok {
		return nil, false
	}
	d.recent.MoveToFront(e)
	k := e.Value.(*kept)
	k.rank = d.gone + k.worth
	return k.value, true
}

// count tells tests which stages an edit reached.
func (d *Deriver) count(name string) {
	d.mu.Lock()
	defer d.mu.Unlock()
	if d.computed == nil {
		d.computed = map[string]int{}
	}
	d.computed[name]++
}

// keep remembers a value. What it is worth to do so is reckoned by what was made on the way to it:
// of a stage on which large ones went that are forgotten since, little may be left that took long. Without
// a worth it is held.
func (d *Deriver) keep(key string, value any, worth func(bytes int64) float64) {
	if _, there := d.recall(key); there {
		return // measuring what is kept already would cost more than finding it
	}
	bytes := int64(len(key)) + sizeOf(reflect.ValueOf(value), map[uintptr]bool{})
	k := &kept{key: key, value: value, bytes: bytes, held: worth == nil}
	if worth != nil {
		k.worth = worth(bytes)
	}
	d.made.Add(bytes)
	d.mu.Lock()
	defer d.mu.Unlock()
	if d.kept == nil {
		d.kept = map[string]*list.Element{}
	}
	if _, there := d.kept[key]; there {
		return
	}
	most := d.Most
	if most == 0 {
		most = mostKept
	}
	k.rank = d.gone + k.worth
	d.kept[key] = d.recent.PushFront(k)
	d.bytes += k.bytes
	if k.held {
		d.held += k.bytes
	}
	for e := d.recent.Back(); d.held > most/heldShare && e != d.recent.Front(); {
		before := e.Prev()
		if e.Value.(*kept).held {
			d.forget(e)
		}
		e = before
	}
	for d.bytes > most && d.recent.Len() > 1 {
		d.forget(d.least(most / 2))
	}
}

// least is what is missed least: of what lies beyond the bytes that were used last, since the
// stages of one build are asked for close together, that of the lowest rank. Ranks rise with
// what was forgotten, so that what cost much goes too when nobody asks for it any more.
// Twenty builds go round through less memory than they fill: were the oldest to go, each would
// have gone when its turn comes.
func (d *Deriver) least(last int64) *list.Element {
	var out *list.Element
	for e := d.recent.Front(); e != nil; e = e.Next() {
		k := e.Value.(*kept)
		last -= k.bytes
		if last < 0 && e != d.recent.Front() && !k.held && (out == nil || k.rank <= out.Value.(*kept).rank) {
			out = e
		}
	}
	if out == nil {
		return d.recent.Back()
	}
	return out
}

func (d *Deriver) forget(e *list.Element) {
	k := d.recent.Remove(e).(*kept)
	delete(d.kept, k.key)
	d.bytes -= k.bytes
	if k.held {
		d.held -= k.bytes
	}
	d.gone = max(d.gone, k.rank)
}

// sizeOf is the memory a value takes with all it refers to, bytes; what it refers to
// twice counts once.
func sizeOf(v reflect.Value, seen map[uintptr]bool) int64 {
	if !v.IsValid() {
		return 0
	}
	return int64(v.Type().Size()) + beyond(v, seen)
}

// beyond is what a value refers to, outside of itself.
func beyond(v reflect.Value, seen map[uintptr]bool) (n int64) {
	if plain(v.Type()) {
		return 0
	}
	switch v.Kind() {
	case reflect.String:
		return int64(v.Len())
	case reflect.Pointer, reflect.Interface:
		if v.IsNil() || v.Kind() == reflect.Pointer && again(v.Pointer(), seen) {
			return 0
		}
		return sizeOf(v.Elem(), seen)
	case reflect.Slice:
		if v.IsNil() || again(v.Pointer(), seen) {
			return 0
		}
		n = int64(v.Cap()) * int64(v.Type().Elem().Size())
		fallthrough
	case reflect.Array:
		for i := 0; i < v.Len() && !plain(v.Type().Elem()); i++ {
			n += beyond(v.Index(i), seen)
		}
	case reflect.Struct:
		for _, i := range referring(v.Type()) {
			n += beyond(v.Field(i), seen)
		}
	case reflect.Map:
		for it := v.MapRange(); it.Next(); {
			n += 16 + sizeOf(it.Key(), seen) + sizeOf(it.Value(), seen)
		}
	}
	return n
}

func again(p uintptr, seen map[uintptr]bool) bool {
	was := seen[p]
	seen[p] = true
	return was
}

// plain tells of a type whose values refer to nothing.
func plain(t reflect.Type) bool {
	switch t.Kind() {
	case reflect.String,
		reflect.Pointer,
		reflect.Interface,
		reflect.Slice,
		reflect.Map,
		reflect.Chan,
		reflect.Func,
		reflect.UnsafePointer:
		return false
	case reflect.Array:
		return plain(t.Elem())
	case reflect.Struct:
		return len(referring(t)) == 0
	}
	return true
}

// fields remembers by struct type which of its fields refer to something.
var fields sync.Map

func referring(t reflect.Type) []int {
	if out, ok := fields.Load(t); ok {
		return out.([]int)
	}
	var out []int
	for i := range t.NumField() {
		if !plain(t.Field(i).Type) {
			out = append(out, i)
		}
	}
	fields.Store(t, out)
	return out
}
