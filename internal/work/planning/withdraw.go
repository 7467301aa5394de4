package planning

import (
	"context"
	"fmt"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/task"
)

// WithdrawPlate withdraws a plate with a reason, or brings it back with an empty one. A
// plate that was printed stays.
func (w *Tasks) WithdrawPlate(ctx context.Context, id string, version int64, why string) (PlateSheet, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (PlateSheet, error) {
		p, err := t.Plate(id)
		if err != nil {
			return PlateSheet{}, err
		}
		if err := task.Stale(p.Version, version); err != nil {
			return PlateSheet{}, err
		}
		if err := w.Withdraw(t, id, strings.TrimSpace(why)); err != nil {
			return PlateSheet{}, err
		}
		return w.ReadPlate(t, id)
	})
}

// Withdraw is WithdrawPlate within a transaction.
func (w *Tasks) Withdraw(t *store.Tx, id, why string) error {
	p, err := t.Plate(id)
	if err != nil {
		return err
	}
	runs, err := t.RunsOfPlate(id)
	if err != nil {
		return err
	}
	if len(runs) > 0 {
		return fmt.Errorf("%s was printed as %s and stays: %w", p.Code, runs[0].Code, bench.ErrConflict)
	}
	before := p
	p.ArchivedMS, p.ArchivedWhy, p.Version = nil, why, p.Version+1
	if why != "" {
		p.ArchivedMS = quantity.Ptr(w.NowMS())
	}
	if err := w.Note(t, "plate", id, "withdraw a plate", why, before, p); err != nil {
		return err
	}
	return t.SavePlate(p)
}

// keepPlan keeps what a plate belongs to, and whether it was withdrawn, as it is: those
// have commands of their own.
func keepPlan(t *store.Tx, p *bench.Plate) error {
	p.ReviewPlanID, p.PlanTurn, p.ArchivedMS, p.ArchivedWhy = nil, nil, nil, ""
	if p.ID == "" {
		return nil
	}
	old, err := t.Plate(p.ID)
	if err != nil {
		return err
	}
	p.ReviewPlanID, p.PlanTurn, p.ArchivedMS, p.ArchivedWhy = old.ReviewPlanID, old.PlanTurn, old.ArchivedMS, old.ArchivedWhy
	return nil
}
