package store

import (
	"ojime/internal/bench"
	"ojime/internal/store/db"
)

func toPanel(r db.Panel) bench.Panel { return bench.Panel(r) }

func toBallot(r db.Ballot) bench.Ballot { return bench.Ballot(r) }

// Panel reads one panel, or bench.ErrNotFound.
func (t *Tx) Panel(id string) (bench.Panel, error) {
	row, err := t.q.PanelByID(t.ctx, id)
	return toPanel(row), read("panel", id, err)
}

// PanelByCode reads the panel of a code, or bench.ErrNotFound.
func (t *Tx) PanelByCode(code string) (bench.Panel, error) {
	row, err := t.q.PanelByCode(t.ctx, code)
	return toPanel(row), read("panel", code, err)
}

// SavePanel writes a panel; what it asks, of what, and its hash stay as they were first written.
func (t *Tx) SavePanel(v bench.Panel) error {
	return saved("panel", t.q.SavePanel(t.ctx, db.SavePanelParams(v)))
}

// Panels lists every panel, also those taken back.
func (t *Tx) Panels() ([]bench.Panel, error) {
	rows, err := t.q.Panels(t.ctx)
	return list("panels", rows, err, toPanel)
}

// PanelsOfReview lists those of a review, also those taken back.
func (t *Tx) PanelsOfReview(reviewID string) ([]bench.Panel, error) {
	rows, err := t.q.PanelsOfReview(t.ctx, reviewID)
	return list("panels of "+reviewID, rows, err, toPanel)
}

// PanelSeal reads what stands behind the codes of a panel.
func (t *Tx) PanelSeal(panelID string) (bench.PanelSeal, error) {
	row, err := t.q.PanelSealByID(t.ctx, panelID)
	return bench.PanelSeal(row), read("seal of panel", panelID, err)
}

// SavePanelSeal keeps what stands behind the codes of a panel.
func (t *Tx) SavePanelSeal(v bench.PanelSeal) error {
	return saved("seal of panel", t.q.SavePanelSeal(t.ctx, db.SavePanelSealParams(v)))
}

// SaveBallot writes a ballot.
func (t *Tx) SaveBallot(v bench.Ballot) error {
	return saved("ballot", t.q.SaveBallot(t.ctx, db.SaveBallotParams(v)))
}

// BallotByToken reads the ballot that a link opens, or bench.ErrNotFound.
func (t *Tx) BallotByToken(token string) (bench.Ballot, error) {
	row, err := t.q.BallotByToken(t.ctx, token)
	return toBallot(row), read("ballot", "of this link", err)
}

// BallotsOfPanel lists the ballots of a panel by their judges, also those replaced.
func (t *Tx) BallotsOfPanel(panelID string) ([]bench.Ballot, error) {
	rows, err := t.q.BallotsOfPanel(t.ctx, panelID)
	return list("ballots of "+panelID, rows, err, toBallot)
}

// Ballots lists those of all panels, also those replaced.
func (t *Tx) Ballots() ([]bench.Ballot, error) {
	rows, err := t.q.AllBallots(t.ctx)
	return list("ballots", rows, err, toBallot)
}
