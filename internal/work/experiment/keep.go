package experiment

import (
	"context"
	"fmt"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/planning"
	"ojime/internal/work/task"
)

// KeepPlan draws the prints that a review lacks and keeps them: new settings, a plate each,
// in their order. What is kept is what DraftPlan showed for the same request and seed.
func (w *Tasks) KeepPlan(ctx context.Context, reviewID string, req PlanRequest) (PlanSheet, error) {
	if req.Seed == nil {
		return PlanSheet{}, quantity.Errorf("seed", "is missing; draw the plan first and keep the one that was shown")
	}
	// What slicing may take long for is worked out before the record is held for writing.
	if _, err := w.DraftPlan(ctx, reviewID, req); err != nil {
		return PlanSheet{}, err
	}
	return task.Keep(ctx, w.Base, func(t *store.Tx) (PlanSheet, error) {
		d, err := w.draft(t, reviewID, req)
		if err != nil {
			return PlanSheet{}, err
		}
		if len(d.Prints) == 0 {
			return PlanSheet{}, fmt.Errorf("nothing is missing, so nothing was planned: %w", bench.ErrConflict)
		}
		p := bench.ReviewPlan{CreatedMS: w.NowMS(), ReviewID: reviewID, Seed: d.Seed, Prints: req.Prints, Says: d.Says}
		if p.ID, err = w.NewID(); err != nil {
			return PlanSheet{}, err
		}
		if err := t.SaveReviewPlan(p); err != nil {
			return PlanSheet{}, err
		}
		settings := map[int]string{}
		for i, one := range d.plates {
			at := d.Prints[i].Combination
			if settings[at] == "" {
				if settings[at], err = w.settingsOf(t, d.Combinations[at]); err != nil {
					return PlanSheet{}, err
				}
			}
			if err := w.keepPlate(t, p.ID, settings[at], one); err != nil {
				return PlanSheet{}, err
			}
		}
		return PlanOf(t, reviewID)
	})
}

// settingsOf are the settings of a combination, kept where they are new.
func (w *Tasks) settingsOf(t *store.Tx, c Combination) (string, error) {
	p := c.making.profile
	if c.isNew {
		if err := w.Kit.KeepProfile(t, &p); err != nil {
			return "", err
		}
	}
	return p.ID, nil
}

func (w *Tasks) keepPlate(t *store.Tx, planID, profileID string, d draftPlate) error {
	plate := d.plate
	plate.ProfileID, plate.ReviewPlanID = &profileID, &planID
	plate, err := task.Put(w.Base, t, planning.PlateEntry, plate)
	if err != nil {
		return err
	}
	return w.Planning.Lay(t, plate.ID, d.placements)
}

// Plan reads what is planned for a review.
func (w *Tasks) Plan(ctx context.Context, reviewID string) (out PlanSheet, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		out, err = PlanOf(t, reviewID)
		return err
	})
	return out, err
}

// WithdrawPlan withdraws what is planned for a review and not printed yet, for a reason.
func (w *Tasks) WithdrawPlan(ctx context.Context, reviewID, why string) (PlanSheet, error) {
	if why = strings.TrimSpace(why); why == "" {
		return PlanSheet{}, quantity.Errorf("why", "is missing; say why these prints are not made")
	}
	return task.Keep(ctx, w.Base, func(t *store.Tx) (PlanSheet, error) {
		sheet, err := PlanOf(t, reviewID)
		if err != nil {
			return sheet, err
		}
		if sheet.Left == 0 {
			return sheet, fmt.Errorf("no print of this review is planned that could be withdrawn: %w", bench.ErrConflict)
		}
		for _, p := range sheet.Plans {
			for _, one := range p.Prints {
				if one.State != "planned" {
					continue
				}
				if err := w.Planning.Withdraw(t, one.PlateID, why); err != nil {
					return sheet, err
				}
			}
		}
		return PlanOf(t, reviewID)
	})
}
