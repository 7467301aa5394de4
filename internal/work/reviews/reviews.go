package reviews

import (
	"context"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/task"
)

var reviewEntry = task.Entry[bench.Review]{Table: "review",
	Head: func(r *bench.Review) task.Head {
		return task.Head{ID: &r.ID, Code: &r.Code, Version: &r.Version, CreatedMS: &r.CreatedMS}
	},
	Get: (*store.Tx).Review, Put: (*store.Tx).SaveReview}

// SaveReview creates or changes a review; its members must exist.
func (w *Tasks) SaveReview(ctx context.Context, r bench.Review) (bench.Review, error) {
	return task.Save(ctx, w.Base, reviewEntry, r, func(t *store.Tx, r *bench.Review) error {
		if r.ReferenceIDs == nil {
			r.ReferenceIDs = bench.IDs{}
		}
		if err := keepCommanded(t, r); err != nil {
			return err
		}
		if err := membersExist("machine_ids", r.MachineIDs, t.Machine); err != nil {
			return err
		}
		if err := membersExist("resin_ids", r.ResinIDs, t.Resin); err != nil {
			return err
		}
		if err := membersExist("reference_ids", r.ReferenceIDs, t.Reference); err != nil {
			return err
		}
		return membersExist("piece_ids", r.PieceIDs, t.Piece)
	})
}

// keepCommanded keeps what a review leaves out, declares, calls its set-ups and writes up as it is: that
// has commands of its own, and a form sent back says nothing of it.
func keepCommanded(t *store.Tx, r *bench.Review) error {
	if r.LeftOut, r.Deciding, r.SetUps, r.Blocks = (bench.LeftOutList{}), (bench.Declarations{}), (bench.SetUpNames{}), (bench.Blocks{}); r.ID == "" {
		return nil
	}
	old, err := t.Review(r.ID)
	if err != nil {
		return err
	}
	r.LeftOut, r.Deciding, r.SetUps, r.Blocks = old.LeftOut, old.Deciding, old.SetUps, old.Blocks
	return nil
}

func membersExist[E any](field string, ids bench.IDs, get func(string) (E, error)) error {
	for _, id := range ids {
		if _, err := get(id); err != nil {
			return quantity.Errorf(field, "names %q, which cannot be found (%v)", id, err)
		}
	}
	return nil
}

// Reviews lists the reviews.
func (w *Tasks) Reviews(ctx context.Context) ([]bench.Review, error) {
	return task.ReadList(ctx, w.Base, (*store.Tx).Reviews)
}

// Review reads one review.
func (w *Tasks) Review(ctx context.Context, id string) (bench.Review, error) {
	return task.ReadOne(ctx, w.Base, id, (*store.Tx).Review)
}
