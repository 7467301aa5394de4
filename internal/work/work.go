// Package work is what a user does: plan a series, record a print, read a
// specimen, compare, write up. Each task is one function that loads, asks the
// core and saves in one transaction. The interface, the demo and the command
// line all call the same ones.
package work

import (
	"context"
	"errors"
	"io"
	"strings"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
)

// Work does tasks on one record. Its clock and source of chance are arguments,
// so that the demo can live through two months and tests repeat exactly.
type Work struct {
	store  *store.Store
	now    func() time.Time
	random io.Reader
	shapes shapes
	memory memory
	heavy  *lane
}

// New makes a Work on an open record.
func New(s *store.Store, now func() time.Time, random io.Reader) *Work {
	return &Work{store: s, now: now, random: random, heavy: newLane()}
}

// ReadOnly reports a record that can only be looked at.
func (w *Work) ReadOnly() bool { return w.store.ReadOnly() }

func (w *Work) nowMS() int64 { return w.now().UnixMilli() }

func (w *Work) newID() (string, error) { return bench.NewID(w.nowMS(), w.random) }

// head is what every numbered entry has: who it is and which version.
type head struct {
	id, code  *string
	version   *int64
	createdMS *int64
}

// entry says how one kind of numbered entry is loaded and saved.
type entry[E any] struct {
	table string
	head  func(*E) head
	get   func(*store.Tx, string) (E, error)
	put   func(*store.Tx, E) error
}

// save creates an entry (empty id) or changes it, refusing a version that is
// not the current one.
func save[E any](ctx context.Context, w *Work, kind entry[E], v E, rules ...func(*store.Tx, *E) error) (E, error) {
	return keep(ctx, w, func(t *store.Tx) (E, error) { return put(w, t, kind, v, rules...) })
}

// put is save within a transaction.
func put[E any](w *Work, t *store.Tx, kind entry[E], v E, rules ...func(*store.Tx, *E) error) (E, error) {
	for _, rule := range rules {
		if err := rule(t, &v); err != nil {
			return v, err
		}
	}
	if err := w.identify(t, kind.table, kind.head(&v), func(id string) (head, error) {
		old, err := kind.get(t, id)
		return kind.head(&old), err
	}); err != nil {
		return v, err
	}
	if beyond := bench.Beyond(v); len(beyond) > 0 { // also what came by no request: a form's file, a demo
		return v, beyond[0]
	}
	return v, kind.put(t, v)
}

func (w *Work) identify(t *store.Tx, table string, h head, current func(string) (head, error)) error {
	if *h.id != "" {
		old, err := current(*h.id)
		if err != nil {
			return err
		}
		if *old.version != *h.version {
			return bench.ErrStale
		}
		*h.code, *h.createdMS, *h.version = *old.code, *old.createdMS, *old.version+1
		return nil
	}
	id, err := w.newID()
	if err != nil {
		return err
	}
	number, err := t.NextNumber(table)
	if err != nil {
		return err
	}
	*h.id, *h.code, *h.createdMS, *h.version = id, bench.Code(table, number), w.nowMS(), 1
	return nil
}

// readList runs one list query in its own transaction.
func readList[E any](ctx context.Context, w *Work, list func(*store.Tx) ([]E, error)) (out []E, err error) {
	err = w.store.Read(ctx, func(t *store.Tx) error {
		out, err = list(t)
		return err
	})
	return out, err
}

// readOne runs one lookup in its own transaction.
func readOne[E any](ctx context.Context, w *Work, id string, get func(*store.Tx, string) (E, error)) (out E, err error) {
	err = w.store.Read(ctx, func(t *store.Tx) error {
		out, err = get(t, id)
		return err
	})
	return out, err
}

// byID indexes a list.
func byID[E any](list []E, id func(E) string) map[string]E {
	out := make(map[string]E, len(list))
	for _, e := range list {
		out[id(e)] = e
	}
	return out
}

// withoutPrefix shortens the path of a field error, where a task checked one
// row by a calculator that takes a list.
func withoutPrefix(prefix string, err error) error {
	var field *quantity.FieldError
	if errors.As(err, &field) {
		return quantity.Errorf(strings.TrimPrefix(field.Path, prefix), "%s", field.Message)
	}
	return err
}

// withPrefix puts a row in front of the path of a field error.
func withPrefix(prefix string, err error) error {
	var field *quantity.FieldError
	if errors.As(err, &field) {
		return quantity.Errorf(prefix+field.Path, "%s", field.Message)
	}
	return err
}
