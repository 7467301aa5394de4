package reviews

import (
	"context"
	"fmt"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/task"
)

// WriteUpAs keeps the parts of a review's write-up in the reviewer's order, with what the reviewer put between.
func (w *Tasks) WriteUpAs(ctx context.Context, reviewID string, version int64, blocks bench.Blocks) (bench.Review, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (bench.Review, error) {
		review, err := t.Review(reviewID)
		if err != nil {
			return review, err
		}
		if err := task.Stale(review.Version, version); err != nil {
			return review, err
		}
		kept := bench.Blocks{}
		for i, b := range blocks {
			b.Title, b.Text = strings.TrimSpace(b.Title), strings.TrimSpace(b.Text)
			for j, p := range b.Pictures {
				if _, err := t.Photograph(p.PhotographID); err != nil {
					return review, quantity.Errorf(fmt.Sprintf("blocks[%d].pictures[%d].photograph_id", i, j), "names a photograph that cannot be found (%v)", err)
				}
			}
			kept = append(kept, b)
		}
		if err := kept.Check(); err != nil {
			return review, err
		}
		after := review
		after.Blocks = kept
		return w.keepReview(t, review, after, "put the write-up in order", "")
	})
}
