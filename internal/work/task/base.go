// Package work is what a user does: plan a series, record a print, read a
// specimen, compare, write up. Each task is one function that loads, asks the
// core and saves in one transaction. The interface, the demo and the command
// line all call the same ones.
package task

import (
	"context"
	"encoding/binary"
	"errors"
	"fmt"
	"io"
	"strings"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
)

// Work does tasks on one record. Its clock and source of chance are arguments,
// so that the demo can live through two months and tests repeat exactly.
type Base struct {
	Store  *store.Store
	now    func() time.Time
	Random io.Reader
	Memory Memory
	Heavy  *lane
	done   ledger
}

// New makes a Work on an open record.
func New(s *store.Store, now func() time.Time, random io.Reader) *Base {
	return &Base{Store: s, now: now, Random: random, Heavy: newLane()}
}

// ReadOnly reports a record that can only be looked at.
func (w *Base) ReadOnly() bool { return w.Store.ReadOnly() }

// NowMS is the clock, in UTC milliseconds.
func (w *Base) NowMS() int64 { return w.now().UnixMilli() }

// NewID makes an id that sorts by its time.
func (w *Base) NewID() (string, error) { return bench.NewID(w.NowMS(), w.Random) }

// mostSeed bounds a seed that is drawn: six digits are easily written down.
const mostSeed = 1_000_000

// NewSeed draws the seed of an order, which is kept with what is ordered by it.
func (w *Base) NewSeed() (int64, error) {
	var b [8]byte
	if _, err := io.ReadFull(w.Random, b[:]); err != nil {
		return 0, fmt.Errorf("draw a seed: %w", err)
	}
	return int64(binary.LittleEndian.Uint64(b[:]) % mostSeed), nil
}

// Head is what every numbered entry has: who it is and which version.
type Head struct {
	ID, Code  *string
	Version   *int64
	CreatedMS *int64
}

// Entry says how one kind of numbered entry is loaded and saved.
type Entry[E any] struct {
	Table string
	Head  func(*E) Head
	Get   func(*store.Tx, string) (E, error)
	Put   func(*store.Tx, E) error
}

// Save creates an entry (empty id) or changes it, refusing a version that is
// not the current one.
func Save[E any](ctx context.Context, w *Base, kind Entry[E], v E, rules ...func(*store.Tx, *E) error) (E, error) {
	return Keep(ctx, w, func(t *store.Tx) (E, error) { return Put(w, t, kind, v, rules...) })
}

// Put is save within a transaction. What a change changed is kept in the entry's
// history.
func Put[E any](w *Base, t *store.Tx, kind Entry[E], v E, rules ...func(*store.Tx, *E) error) (E, error) {
	for _, rule := range rules {
		if err := rule(t, &v); err != nil {
			return v, err
		}
	}
	var before *E
	if err := w.Identify(t, kind.Table, kind.Head(&v), func(id string) (Head, error) {
		old, err := kind.Get(t, id)
		before = &old
		return kind.Head(&old), err
	}); err != nil {
		return v, err
	}
	if beyond := bench.Beyond(v); len(beyond) > 0 { // also what came by no request: a form's file, a demo
		return v, beyond[0]
	}
	if before != nil {
		if err := w.Note(t, kind.Table, *kind.Head(&v).ID, "change "+kind.Table, "", *before, v); err != nil {
			return v, err
		}
	}
	return v, kind.Put(t, v)
}

// Identify gives a new entry its id and code, and an old one its next version;
// bench.ErrStale where it was changed since it was read.
func (w *Base) Identify(t *store.Tx, table string, h Head, current func(string) (Head, error)) error {
	if *h.ID != "" {
		old, err := current(*h.ID)
		if err != nil {
			return err
		}
		if *old.Version != *h.Version {
			return bench.ErrStale
		}
		*h.Code, *h.CreatedMS, *h.Version = *old.Code, *old.CreatedMS, *old.Version+1
		return nil
	}
	id, err := w.NewID()
	if err != nil {
		return err
	}
	number, err := t.NextNumber(table)
	if err != nil {
		return err
	}
	*h.ID, *h.Code, *h.CreatedMS, *h.Version = id, bench.Code(table, number), w.NowMS(), 1
	return nil
}

// ReadList runs one list query in its own transaction.
func ReadList[E any](ctx context.Context, w *Base, list func(*store.Tx) ([]E, error)) (out []E, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		out, err = list(t)
		return err
	})
	return out, err
}

// ReadOne runs one lookup in its own transaction.
func ReadOne[E any](ctx context.Context, w *Base, id string, get func(*store.Tx, string) (E, error)) (out E, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		out, err = get(t, id)
		return err
	})
	return out, err
}

// ByID indexes a list.
func ByID[E any](list []E, id func(E) string) map[string]E {
	out := make(map[string]E, len(list))
	for _, e := range list {
		out[id(e)] = e
	}
	return out
}

// WithoutPrefix shortens the path of a field error, where a task checked one
// row by a calculator that takes a list.
func WithoutPrefix(prefix string, err error) error {
	var field *quantity.FieldError
	if errors.As(err, &field) {
		return quantity.Errorf(strings.TrimPrefix(field.Path, prefix), "%s", field.Message)
	}
	return err
}

// WithPrefix puts a row in front of the path of a field error.
func WithPrefix(prefix string, err error) error {
	var field *quantity.FieldError
	if errors.As(err, &field) {
		return quantity.Errorf(prefix+field.Path, "%s", field.Message)
	}
	return err
}
