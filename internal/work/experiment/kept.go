package experiment

import (
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/kit"
	"ojime/internal/work/reviews"
)

// PlanSheet is what was planned for a review, plan by plan, and how many prints of it are
// still to be made. Factors are those under test with all that a plan may set, machines and
// resins with those that the review names as their levels; UsualCopies
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

// Turns are the runs that printed what was planned, each with its turn on its machine.
func (s PlanSheet) Turns() map[string]int64 {
	out := map[string]int64{}
	for _, p := range s.Plans {
		for _, one := range p.Prints {
			if one.RunID != "" {
				out[one.RunID] = one.Turn
			}
		}
	}
	return out
}

// Words are how the prints of a review were planned, plan by plan, as it is published.
func (s PlanSheet) Words() (out []string) {
	for _, p := range s.Plans {
		var printed, early, withdrawn []string
		var why []string
		for _, one := range p.Prints {
			switch {
			case one.State == "withdrawn":
				withdrawn = append(withdrawn, one.Plate)
				if !slices.Contains(why, one.Why) {
					why = append(why, one.Why)
				}
			case one.Run != "":
				printed = append(printed, one.Run)
			}
			if one.Early {
				early = append(early, one.Run)
			}
		}
		words := fmt.Sprintf("On %s, %s were planned, so that there would be %d of each combination: %d printed", say.Day(p.Plan.CreatedMS), say.Counted(int64(len(p.Prints)), "print"), p.Plan.Prints, len(printed))
		if len(early) > 0 {
			words += fmt.Sprintf(", of these %s before its turn", say.List(early))
		}
		if len(withdrawn) > 0 {
			words += fmt.Sprintf(", %d withdrawn (%s)", len(withdrawn), strings.Join(why, "; "))
		}
		if p.Left > 0 {
			words += fmt.Sprintf(", %d not printed yet", p.Left)
		}
		out = append(out, words+".")
		out = append(out, p.Plan.Says...)
	}
	return out
}

// PlanOf reads what is planned for a review within a transaction.
func PlanOf(t *store.Tx, reviewID string) (PlanSheet, error) {
	out := PlanSheet{Plans: []KeptPlan{}, Factors: []MatrixFactor{}}
	review, err := t.Review(reviewID)
	if err != nil {
		return out, err
	}
	out.Factors = append(out.Factors, factorsOf(review)...)
	if err := nameMembers(t, review, out.Factors); err != nil {
		return out, err
	}
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

// nameMembers gives machine and resin, where they are under test, the names of the review's
// members as levels, printed with or not.
func nameMembers(t *store.Tx, review bench.Review, factors []MatrixFactor) error {
	names, err := kit.KitNames(t)
	if err != nil {
		return err
	}
	members := map[string]bench.IDs{machineFactor: review.MachineIDs, resinFactor: review.ResinIDs}
	for i, f := range factors {
		for _, id := range members[f.Key] {
			factors[i].Levels = append(factors[i].Levels, names[id])
		}
	}
	return nil
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
	// A print was early where one before it, on its machine, waited still.
	for i, one := range out.Prints {
		for k, before := range out.Prints[:i] {
			waited := started[k] > started[i] || before.State == "planned" || before.State == "withdrawn" && quantity.Or(plates[k].ArchivedMS, 0) > started[i]
			if before.Machine == one.Machine && started[i] > 0 && waited {
				out.Prints[i].Early = true
			}
		}
	}
	return out, nil
}

// usualCopies is how many copies of a piece the prints of a review held most often.
func usualCopies(t *store.Tx, review bench.Review) (usual int64, err error) {
	runs, err := reviews.ReviewMembers(t, review)
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
