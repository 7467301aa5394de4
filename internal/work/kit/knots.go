package kit

import (
	"context"
	"encoding/json"
	"fmt"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/task"
)

// AddEvent ties a knot on a machine's cord: one or several things that happened to it
// at once, whenever that was.
func (w *Tasks) AddEvent(ctx context.Context, e bench.MachineEvent) (bench.MachineEvent, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (bench.MachineEvent, error) { return w.AddEventIn(t, e) })
}

// AddEventIn is AddEvent within a transaction.
func (w *Tasks) AddEventIn(t *store.Tx, e bench.MachineEvent) (bench.MachineEvent, error) {
	id, err := w.NewID()
	if err != nil {
		return e, err
	}
	if err := e.Check(); err != nil {
		return e, err
	}
	if err := bench.HasBeen("at_ms", e.AtMS, w.NowMS()); err != nil {
		return e, err
	}
	if beyond := bench.Beyond(e); len(beyond) > 0 {
		return e, beyond[0]
	}
	if _, err := t.Machine(e.MachineID); err != nil {
		return e, err
	}
	e.ID, e.CreatedMS, e.Version, e.RetiredMS, e.RetiredWhy = id, w.NowMS(), 1, nil, ""
	return e, t.SaveMachineEvent(e)
}

// correctable are the fields of a knot that a correction may change.
var correctable = []string{"at_ms", "kinds", "note", "changes", "film_layers", "light_h", "unknown_before", "resin_id", "claimed_time_pct"}

// CorrectEvent changes what a knot says; what it said before stays in its history.
func (w *Tasks) CorrectEvent(ctx context.Context, id string, version int64, change json.RawMessage, why string) (bench.MachineEvent, error) {
	return w.changeEvent(ctx, id, version, "correct a knot", why, func(e bench.MachineEvent) (bench.MachineEvent, error) {
		if e.RetiredMS != nil {
			return e, fmt.Errorf("the knot was retired; tie another one: %w", bench.ErrConflict)
		}
		e, err := task.Merge(e, change, correctable...)
		if err != nil {
			return e, err
		}
		return e, bench.HasBeen("at_ms", e.AtMS, w.NowMS())
	})
}

// RetireEvent takes a knot off its cord, with the reason: it stays on record, and
// nothing counts from it any more.
func (w *Tasks) RetireEvent(ctx context.Context, id string, version int64, why string) (bench.MachineEvent, error) {
	if why == "" {
		return bench.MachineEvent{}, quantity.Errorf("why", "is missing; say why the knot is retired")
	}
	return w.changeEvent(ctx, id, version, "retire a knot", why, func(e bench.MachineEvent) (bench.MachineEvent, error) {
		if e.RetiredMS != nil {
			return e, fmt.Errorf("the knot was retired already: %w", bench.ErrConflict)
		}
		e.RetiredMS, e.RetiredWhy = quantity.Ptr(w.NowMS()), why
		return e, nil
	})
}

func (w *Tasks) changeEvent(ctx context.Context, id string, version int64, command, why string, change func(bench.MachineEvent) (bench.MachineEvent, error)) (bench.MachineEvent, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (bench.MachineEvent, error) {
		old, err := t.MachineEvent(id)
		if err != nil {
			return old, err
		}
		if err := task.Stale(old.Version, version); err != nil {
			return old, err
		}
		e, err := change(old)
		if err != nil {
			return old, err
		}
		if err := e.Check(); err != nil {
			return old, err
		}
		if beyond := bench.Beyond(e); len(beyond) > 0 {
			return old, beyond[0]
		}
		e.Version = old.Version + 1
		if err := w.Note(t, "machine_event", id, command, why, old, e); err != nil {
			return old, err
		}
		return e, t.SaveMachineEvent(e)
	})
}

// CorrectBottle changes the days of a bottle, its lot or what it weighs empty; what
// stood before stays in its history.
func (w *Tasks) CorrectBottle(ctx context.Context, id string, version int64, change json.RawMessage, why string) (bench.Bottle, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (bench.Bottle, error) {
		old, err := t.Bottle(id)
		if err != nil {
			return old, err
		}
		if err := task.Stale(old.Version, version); err != nil {
			return old, err
		}
		b, err := task.Merge(old, change, "lot", "opened_on", "expires_on", "tare_g")
		if err != nil {
			return old, err
		}
		if err := b.Check(); err != nil {
			return old, err
		}
		if beyond := bench.Beyond(b); len(beyond) > 0 {
			return old, beyond[0]
		}
		b.Version = old.Version + 1
		if err := w.Note(t, "bottle", id, "correct a bottle", why, old, b); err != nil {
			return old, err
		}
		return b, t.SaveBottle(b)
	})
}
