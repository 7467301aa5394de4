// Package history shows what was changed of any entry, and puts it back.
package history

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"

	"ojime/internal/bench"
	"ojime/internal/store"
	"ojime/internal/work/firstdays"
	"ojime/internal/work/inspect"
	"ojime/internal/work/instruments"
	"ojime/internal/work/kit"
	"ojime/internal/work/printing"
	"ojime/internal/work/reviews"
	"ojime/internal/work/tally"
	"ojime/internal/work/task"
	"ojime/internal/work/templates"
	"ojime/internal/work/upkeep"
)

// Tasks are the tasks of this step on one record.
type Tasks struct {
	*task.Base
	putBack map[string]putter
}

// New makes them.
func New(base *task.Base, kit *kit.Tasks, instruments *instruments.Tasks, templates *templates.Tasks, firstDays *firstdays.Tasks, upkeep *upkeep.Tasks, printing *printing.Tasks, inspect *inspect.Tasks, reviews *reviews.Tasks, tally *tally.Tasks) *Tasks {
	return &Tasks{Base: base, putBack: putters(kit, instruments, templates, firstDays, upkeep, printing, inspect, reviews, tally)}
}

// EntryChange is a change of an entry with the entry's code, and where it is looked at. PutBack says
// that what it was before can be put back.
type EntryChange struct {
	bench.Amendment
	Code    string `json:"code"`
	Link    string `json:"link"`
	PutBack bool   `json:"put_back"`
}

// mostChanges is how many changes are shown at a time.
const mostChanges = 100

// pages are where entries of a kind are looked at.
var pages = map[string]string{
	"machine": "/kit/machines/", "resin": "/kit/resins/", "piece": "/kit/pieces/", "instrument": "/kit/instruments/", "run": "/runs/", "series": "/dial-in/", "plate": "/plan/",
	"review": "/verdict/", "panel": "/verdict/panels/", "reference": "/inspect/references/", "machine_event": "/knots/",
}

// All lists the changes of all entries, or of those of a kind, the newest first, from after the
// first skip.
func (w *Tasks) All(ctx context.Context, kind string, skip int64) (out []EntryChange, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		list, err := t.NewestAmendments(kind, mostChanges, skip)
		if err != nil {
			return err
		}
		out, err = w.shown(t, list)
		return err
	})
	return out, err
}

// Of lists the changes of one entry, the oldest first.
func (w *Tasks) Of(ctx context.Context, kind, id string) (out []EntryChange, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		list, err := t.AmendmentsOf(kind, id)
		if err != nil {
			return err
		}
		out, err = w.shown(t, list)
		return err
	})
	return out, err
}

func (w *Tasks) shown(t *store.Tx, list []bench.Amendment) ([]EntryChange, error) {
	code := task.Memoise(func(of string) (string, error) {
		var a bench.Amendment
		if err := json.Unmarshal([]byte(of), &a); err != nil {
			return "", err
		}
		return t.CodeOfEntry(a.Kind, a.Entry)
	})
	out := make([]EntryChange, len(list))
	for i, a := range list {
		key, err := json.Marshal(bench.Amendment{Kind: a.Kind, Entry: a.Entry})
		if err != nil {
			return nil, err
		}
		out[i] = EntryChange{Amendment: a}
		if out[i].Code, err = code(string(key)); err != nil {
			return nil, err
		}
		if page, there := pages[a.Kind]; there && out[i].Code != "" {
			out[i].Link = page + a.Entry
		}
		_, can := w.putBack[a.Kind]
		out[i].PutBack = can && out[i].Code != "" && a.Before != "{}" && a.After != "{}" || takesBack(a)
	}
	return out, nil
}

// PutBack puts what a change changed back as it was before, by the command that changes such an
// entry: its rules hold. It is refused where one of its fields was changed again since.
func (w *Tasks) PutBack(ctx context.Context, amendmentID, why string) ([]EntryChange, error) {
	var a bench.Amendment
	if err := w.Store.Read(ctx, func(t *store.Tx) (err error) {
		a, err = t.Amendment(amendmentID)
		return err
	}); err != nil {
		return nil, err
	}
	if takesBack(a) {
		return w.Restore(ctx, a.Kind, a.Entry, why)
	}
	put, can := w.putBack[a.Kind]
	if !can {
		return nil, fmt.Errorf("a %s is not put back from its history; put it right on its own page: %w", a.Kind, bench.ErrConflict)
	}
	if why == "" {
		why = "put back as it was before"
	}
	if err := put(ctx, a, why); err != nil {
		return nil, err
	}
	return w.Of(ctx, a.Kind, a.Entry)
}

// fieldsOf are the fields of a change that are put back: those that the entry's command may
// change. One that is not any more as the change left it is a conflict.
func fieldsOf(a bench.Amendment, current any, may func(string) bool) (json.RawMessage, error) {
	var before, after, now map[string]json.RawMessage
	text, err := json.Marshal(current)
	if err != nil {
		return nil, err
	}
	for _, p := range []struct {
		text []byte
		into any
	}{{[]byte(a.Before), &before}, {[]byte(a.After), &after}, {text, &now}} {
		if err := json.Unmarshal(p.text, p.into); err != nil {
			return nil, fmt.Errorf("read a change: %w", err)
		}
	}
	change := map[string]json.RawMessage{}
	names := make([]string, 0, len(before))
	for name := range before {
		names = append(names, name)
	}
	slices.Sort(names)
	for _, name := range names {
		if !may(name) {
			continue
		}
		if !task.SameValue(now[name], after[name]) {
			return nil, fmt.Errorf("its %s was changed again since; put the later change back first: %w", name, bench.ErrConflict)
		}
		change[name] = before[name]
	}
	if len(change) == 0 {
		return nil, fmt.Errorf("nothing of it is put back from the history; put it right on its own page: %w", bench.ErrConflict)
	}
	return json.Marshal(change)
}
