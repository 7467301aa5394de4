package experiment

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/compare"
	"ojime/internal/work/kit"
	"ojime/internal/work/planning"
	"ojime/internal/work/task"
)

// PlanSheet is what was planned for a review, plan by plan, and how many prints of it are
// still to be made. Factors are those under test with all that a plan may set; UsualCopies
// is how many copies of a piece its plates held most often, 0 where none is on record.
type PlanSheet struct {
	Plans       []KeptPlan     `json:"plans"`
	Left        int64          `json:"left"`
	Factors     []MatrixFactor `json:"factors"`
	UsualCopies int64          `json:"usual_copies"`
}

// KeptPlan is a plan with its prints in their order, machine by machine.
type KeptPlan struct {
	Plan   bench.ReviewPlan `json:"plan"`
	Prints []KeptPrint      `json:"prints"`
	Left   int64            `json:"left"`
}

// KeptPrint is one print of a plan. Early says that it was printed before its turn.
type KeptPrint struct {
	PlateID  string `json:"plate_id"`
	Plate    string `json:"plate"`
	Name     string `json:"name"`
	Machine  string `json:"machine"`
	Settings string `json:"settings"`
	Turn     int64  `json:"turn"`
	State    string `json:"state" enum:"planned,under_way,printed,withdrawn"`
	RunID    string `json:"run_id"`
	Run      string `json:"run"`
	Why      string `json:"why"`
	Early    bool   `json:"early"`
}

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
		return sheetOf(t, reviewID)
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
		out, err = sheetOf(t, reviewID)
		return err
	})
	return out, err
}

func sheetOf(t *store.Tx, reviewID string) (PlanSheet, error) {
	out := PlanSheet{Plans: []KeptPlan{}, Factors: []MatrixFactor{}}
	review, err := t.Review(reviewID)
	if err != nil {
		return out, err
	}
	out.Factors = append(out.Factors, factorsOf(review)...)
	if out.UsualCopies, err = usualCopies(t, review); err != nil {
		return out, err
	}
	plans, err := t.PlansOfReview(reviewID)
	if err != nil {
		return out, err
	}
	lookup := kit.NewLookup(t)
	for _, p := range plans {
		kept, err := keptPlan(t, lookup, p)
		if err != nil {
			return out, err
		}
		out.Plans, out.Left = append(out.Plans, kept), out.Left+kept.Left
	}
	return out, nil
}

// usualCopies is how many copies of a piece the prints of a review held most often.
func usualCopies(t *store.Tx, review bench.Review) (usual int64, err error) {
	runs, err := compare.ReviewMembers(t, review)
	if err != nil {
		return 0, err
	}
	ids := make([]string, len(runs))
	for i, r := range runs {
		ids[i] = r.ID
	}
	tallies, err := t.TalliesOfRuns(ids)
	prints := map[int64]int64{}
	for _, of := range tallies {
		for _, tally := range of {
			if !slices.Contains(review.PieceIDs, tally.PieceID) {
				continue
			}
			n := tally.Specimens
			if prints[n]++; prints[n] > prints[usual] || prints[n] == prints[usual] && n > usual {
				usual = n
			}
		}
	}
	return usual, err
}

func keptPlan(t *store.Tx, lookup kit.Lookup, p bench.ReviewPlan) (KeptPlan, error) {
	out := KeptPlan{Plan: p, Prints: []KeptPrint{}}
	plates, err := t.PlatesOfReviewPlan(p.ID)
	if err != nil {
		return out, err
	}
	started := make([]int64, len(plates)) // 0 where it has not
	for i, plate := range plates {
		m, err := lookup.Machine(plate.MachineID)
		if err != nil {
			return out, err
		}
		profile, err := lookup.Profile(quantity.Or(plate.ProfileID, ""))
		if err != nil {
			return out, err
		}
		one := KeptPrint{PlateID: plate.ID, Plate: plate.Code, Name: plate.Name, Machine: m.Name, Settings: kit.SettingsName(profile), Turn: quantity.Or(plate.PlanTurn, 0), State: "planned", Why: plate.ArchivedWhy}
		runs, err := t.RunsOfPlate(plate.ID)
		if err != nil {
			return out, err
		}
		switch {
		case len(runs) > 0:
			one.RunID, one.Run, one.State, started[i] = runs[0].ID, runs[0].Code, "under_way", runs[0].StartedMS
			if runs[0].EndedMS != nil {
				one.State = "printed"
			}
		case !plate.Open():
			one.State = "withdrawn"
		default:
			out.Left++
		}
		out.Prints = append(out.Prints, one)
	}
	for i, one := range out.Prints {
		for k, before := range out.Prints[:i] {
			if before.Machine == one.Machine && started[i] > 0 && (started[k] > started[i] || before.State == "planned") {
				out.Prints[i].Early = true
			}
		}
	}
	return out, nil
}

// WithdrawPlan withdraws what is planned for a review and not printed yet, for a reason.
func (w *Tasks) WithdrawPlan(ctx context.Context, reviewID, why string) (PlanSheet, error) {
	if why = strings.TrimSpace(why); why == "" {
		return PlanSheet{}, quantity.Errorf("why", "is missing; say why these prints are not made")
	}
	return task.Keep(ctx, w.Base, func(t *store.Tx) (PlanSheet, error) {
		sheet, err := sheetOf(t, reviewID)
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
		return sheetOf(t, reviewID)
	})
}
