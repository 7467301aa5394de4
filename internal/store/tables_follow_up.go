package store

import (
	"ojime/internal/bench"
	"ojime/internal/store/db"
)

func toFollowUp(r db.FollowUp) bench.FollowUp { return bench.FollowUp(r) }

// FollowUp reads one follow-up, or bench.ErrNotFound.
func (t *Tx) FollowUp(id string) (bench.FollowUp, error) {
	row, err := t.q.FollowUpByID(t.ctx, id)
	return toFollowUp(row), read("follow-up", id, err)
}

// SaveFollowUp writes a follow-up.
func (t *Tx) SaveFollowUp(v bench.FollowUp) error {
	return saved("follow-up", t.q.SaveFollowUp(t.ctx, db.SaveFollowUpParams(v)))
}

// FollowUps lists every follow-up, the first due first.
func (t *Tx) FollowUps() ([]bench.FollowUp, error) {
	rows, err := t.q.FollowUps(t.ctx)
	return list("follow-ups", rows, err, toFollowUp)
}

// FollowUpsOfReview lists those of a review, the first due first.
func (t *Tx) FollowUpsOfReview(reviewID string) ([]bench.FollowUp, error) {
	rows, err := t.q.FollowUpsOfReview(t.ctx, reviewID)
	return list("follow-ups of "+reviewID, rows, err, toFollowUp)
}
