package ledger

import (
	"context"
	"fmt"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/task"
)

var entry = task.Entry[bench.LedgerClaim]{
	Table: "claim",
	Head: func(c *bench.LedgerClaim) task.Head {
		return task.Head{ID: &c.ID, Code: &c.Code, Version: &c.Version, CreatedMS: &c.CreatedMS}
	},
	Get: (*store.Tx).Claim,
	Put: (*store.Tx).SaveClaim,
}

// Keep writes a claim down, or changes what was written down of it.
func (w *Tasks) Keep(ctx context.Context, c bench.LedgerClaim) (bench.LedgerClaim, error) {
	return task.Save(ctx, w.Base, entry, c, func(t *store.Tx, c *bench.LedgerClaim) error {
		c.Words, c.Source, c.Why = strings.TrimSpace(c.Words), strings.TrimSpace(c.Source), strings.TrimSpace(c.Why)
		c.TakenBackMS, c.TakenBackWhy = nil, ""
		if c.ReviewID == nil && c.MachineID == nil && c.ResinID == nil {
			return quantity.Errorf("machine_id", "is missing, and so are resin and review; say of what it is claimed")
		}
		if err := c.Check(); err != nil {
			return err
		}
		if c.ID != "" {
			if old, err := t.Claim(c.ID); err != nil {
				return err
			} else if old.TakenBackMS != nil {
				return fmt.Errorf("claim %s was taken back: %w", old.Code, bench.ErrConflict)
			}
		}
		return there(t, *c)
	})
}

// there reports what a claim names that is not on record.
func there(t *store.Tx, c bench.LedgerClaim) error {
	return task.OnRecord(
		task.Named{Field: "review_id", ID: c.ReviewID, Read: func(id string) error { _, err := t.Review(id); return err }},
		task.Named{Field: "machine_id", ID: c.MachineID, Read: func(id string) error { _, err := t.Machine(id); return err }},
		task.Named{Field: "against_id", ID: c.AgainstID, Read: func(id string) error { _, err := t.Machine(id); return err }},
		task.Named{Field: "resin_id", ID: c.ResinID, Read: func(id string) error { _, err := t.Resin(id); return err }},
	)
}

// TakeBack takes a claim out of the ledger; it stays on record.
func (w *Tasks) TakeBack(ctx context.Context, id, why string) (bench.LedgerClaim, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (bench.LedgerClaim, error) {
		before, err := t.Claim(id)
		if err != nil {
			return before, err
		}
		if before.TakenBackMS != nil {
			return before, fmt.Errorf("claim %s was taken back before: %w", before.Code, bench.ErrConflict)
		}
		after := before
		after.TakenBackMS, after.TakenBackWhy, after.Version = quantity.Ptr(w.NowMS()), why, before.Version+1
		if err := w.Note(t, "claim", id, "take a claim back", why, before, after); err != nil {
			return before, err
		}
		return after, t.SaveClaim(after)
	})
}
