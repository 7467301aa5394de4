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

func toClaim(r db.Claim) bench.LedgerClaim { return bench.LedgerClaim(r) }

// Claim reads one claim, or bench.ErrNotFound.
func (t *Tx) Claim(id string) (bench.LedgerClaim, error) {
	row, err := t.q.ClaimByID(t.ctx, id)
	return toClaim(row), read("claim", id, err)
}

// SaveClaim writes a claim.
func (t *Tx) SaveClaim(v bench.LedgerClaim) error {
	return saved("claim", t.q.SaveClaim(t.ctx, db.SaveClaimParams(v)))
}

// Claims lists every claim, also those taken back.
func (t *Tx) Claims() ([]bench.LedgerClaim, error) {
	rows, err := t.q.Claims(t.ctx)
	return list("claims", rows, err, toClaim)
}

func toInterest(r db.Interest) bench.Interest { return bench.Interest(r) }

// SaveInterest appends an interest, or takes it back.
func (t *Tx) SaveInterest(v bench.Interest) error {
	return saved("interest", t.q.SaveInterest(t.ctx, db.SaveInterestParams(v)))
}

// Interests lists every interest in its order, also those taken back.
func (t *Tx) Interests() ([]bench.Interest, error) {
	rows, err := t.q.Interests(t.ctx)
	return list("interests", rows, err, toInterest)
}

func toReader(r db.Reader) bench.Reader { return bench.Reader(r) }

// Reader reads one reader, or bench.ErrNotFound.
func (t *Tx) Reader(id string) (bench.Reader, error) {
	row, err := t.q.ReaderByID(t.ctx, id)
	return toReader(row), read("reader", id, err)
}

// SaveReader writes a reader.
func (t *Tx) SaveReader(v bench.Reader) error {
	return saved("reader", t.q.SaveReader(t.ctx, db.SaveReaderParams(v)))
}

// Readers lists every reader, also those taken back.
func (t *Tx) Readers() ([]bench.Reader, error) {
	rows, err := t.q.Readers(t.ctx)
	return list("readers", rows, err, toReader)
}

// ReadersOfReview lists those of a review that stand.
func (t *Tx) ReadersOfReview(reviewID string) ([]bench.Reader, error) {
	rows, err := t.q.ReadersOfReview(t.ctx, reviewID)
	return list("readers of "+reviewID, rows, err, toReader)
}

func toPublication(r db.Publication) bench.Publication { return bench.Publication(r) }

// Publication reads one version of a review, or bench.ErrNotFound.
func (t *Tx) Publication(id string) (bench.Publication, error) {
	row, err := t.q.PublicationByID(t.ctx, id)
	return toPublication(row), read("publication", id, err)
}

// SavePublication writes a version of a review; only its errata change afterwards.
func (t *Tx) SavePublication(v bench.Publication) error {
	return saved("publication", t.q.SavePublication(t.ctx, db.SavePublicationParams(v)))
}

// Publications lists the versions of all reviews in their order.
func (t *Tx) Publications() ([]bench.Publication, error) {
	rows, err := t.q.Publications(t.ctx)
	return list("publications", rows, err, toPublication)
}

// PublicationsOfReview lists the versions of a review, the first first.
func (t *Tx) PublicationsOfReview(reviewID string) ([]bench.Publication, error) {
	rows, err := t.q.PublicationsOfReview(t.ctx, reviewID)
	return list("publications of "+reviewID, rows, err, toPublication)
}
