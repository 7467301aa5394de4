package store

import (
	"ojime/internal/bench"
	"ojime/internal/store/db"
)

func toFinding(r db.Finding) bench.Finding { return bench.Finding(r) }

// Finding reads one finding, or bench.ErrNotFound.
func (t *Tx) Finding(id string) (bench.Finding, error) {
	row, err := t.q.FindingByID(t.ctx, id)
	return toFinding(row), read("finding", id, err)
}

// SaveFinding writes a finding; what it rests on and its original sentence stay as they were first written.
func (t *Tx) SaveFinding(v bench.Finding) error {
	return saved("finding", t.q.SaveFinding(t.ctx, db.SaveFindingParams(v)))
}

// Findings lists every finding, also those taken back.
func (t *Tx) Findings() ([]bench.Finding, error) {
	rows, err := t.q.Findings(t.ctx)
	return list("findings", rows, err, toFinding)
}

// FindingsOfReview lists those of a review that stand, in its order.
func (t *Tx) FindingsOfReview(reviewID string) ([]bench.Finding, error) {
	rows, err := t.q.FindingsOfReview(t.ctx, reviewID)
	return list("findings of "+reviewID, rows, err, toFinding)
}
