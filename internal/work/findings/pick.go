package findings

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/finding"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/task"
)

var entry = task.Entry[bench.Finding]{
	Table: "finding",
	Head: func(f *bench.Finding) task.Head {
		return task.Head{ID: &f.ID, Code: &f.Code, Version: &f.Version, CreatedMS: &f.CreatedMS}
	},
	Get: (*store.Tx).Finding,
	Put: (*store.Tx).SaveFinding,
}

// Pick makes a row that is offered a finding of its review, at the end of those picked before; without a key it is the
// reviewer's own word, said in words. What the record gives at the time is kept with it.
func (w *Tasks) Pick(ctx context.Context, reviewID, key, own string) (FindingsSheet, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (FindingsSheet, error) {
		rows, err := offeredBy(t, reviewID)
		if err != nil {
			return FindingsSheet{}, err
		}
		sheet, err := arrange(t, reviewID, rows)
		if err != nil {
			return sheet, err
		}
		f := bench.Finding{Sides: bench.SetUpRefs{}, Words: strings.TrimSpace(own), Grade: finding.Grade(finding.Evidence{How: finding.Said}).Grade}
		if f.Original = f.Words; key != "" {
			at := slices.IndexFunc(sheet.Offered, func(r FoundRow) bool { return r.Key == key })
			if at < 0 {
				return sheet, quantity.Errorf("key", "is %.80q, which is not offered: it was picked already, or the comparison has changed; load the findings again", key)
			}
			row := sheet.Offered[at]
			f = row.of
			if f.Sides == nil {
				f.Sides = bench.SetUpRefs{}
			}
			f.Original, f.Grade = row.Sentence, row.Grade
		}
		f.ReviewID = reviewID
		for _, p := range sheet.Picked {
			f.Position = max(f.Position, p.Finding.Position+1)
		}
		if err := f.Check(); err != nil {
			return sheet, err
		}
		if _, err := task.Put(w.Base, t, entry, f); err != nil {
			return sheet, err
		}
		return arrange(t, reviewID, rows)
	})
}

// Reword puts a finding in the reviewer's words; empty words give the sentence of the record back, which the reviewer's own
// finding does not have.
func (w *Tasks) Reword(ctx context.Context, id string, version int64, text string) (FindingsSheet, error) {
	return w.change(ctx, id, "put a finding in other words", "", func(f *bench.Finding) error {
		if err := task.Stale(f.Version, version); err != nil {
			return err
		}
		f.Words = strings.TrimSpace(text)
		return f.Check()
	})
}

// TakeBack takes a finding out of its review; it stays on record.
func (w *Tasks) TakeBack(ctx context.Context, id, why string) (FindingsSheet, error) {
	return w.change(ctx, id, "take a finding back", why, func(f *bench.Finding) error {
		f.TakenBackMS, f.TakenBackWhy = quantity.Ptr(w.NowMS()), why
		return nil
	})
}

func (w *Tasks) change(ctx context.Context, id, command, why string, how func(*bench.Finding) error) (FindingsSheet, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (FindingsSheet, error) {
		before, err := t.Finding(id)
		if err != nil {
			return FindingsSheet{}, err
		}
		if before.TakenBackMS != nil {
			return FindingsSheet{}, fmt.Errorf("finding %s was taken back; pick it again: %w", before.Code, bench.ErrConflict)
		}
		after := before
		if err := how(&after); err != nil {
			return FindingsSheet{}, err
		}
		if err := w.keep(t, before, after, command, why); err != nil {
			return FindingsSheet{}, err
		}
		return SheetOf(t, before.ReviewID)
	})
}

func (w *Tasks) keep(t *store.Tx, before, after bench.Finding, command, why string) error {
	after.Version = before.Version + 1
	if err := w.Note(t, "finding", after.ID, command, why, before, after); err != nil {
		return err
	}
	return t.SaveFinding(after)
}

// Order puts the findings of a review in an order: all that stand, each once.
func (w *Tasks) Order(ctx context.Context, reviewID string, ids []string) (FindingsSheet, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (FindingsSheet, error) {
		list, err := t.FindingsOfReview(reviewID)
		if err != nil {
			return FindingsSheet{}, err
		}
		if len(ids) != len(list) {
			return FindingsSheet{}, quantity.Errorf("ids", "are %d, and %d findings stand; name each of them once", len(ids), len(list))
		}
		for _, f := range list {
			at := slices.Index(ids, f.ID)
			if at < 0 {
				return FindingsSheet{}, quantity.Errorf("ids", "leave %s out; name each finding once", f.Code)
			}
			if int64(at) == f.Position {
				continue
			}
			after := f
			after.Position = int64(at)
			if err := w.keep(t, f, after, "put findings in another order", ""); err != nil {
				return FindingsSheet{}, err
			}
		}
		return SheetOf(t, reviewID)
	})
}
