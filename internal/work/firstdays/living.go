package firstdays

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/core/rating"
	"ojime/internal/store"
	"ojime/internal/work/task"
)

// Living is what living with a machine is like: every rating of it, also those taken back,
// the last first, and what they come to by scale.
type Living struct {
	Ratings []bench.MachineRating `json:"ratings"`
	Scales  []LivedOn             `json:"scales"`
}

// LivedOn is a scale with what the ratings of one machine on it come to; nil where nobody
// rated it.
type LivedOn struct {
	Scale rating.MachineScale `json:"scale"`
	Lived *rating.Lived       `json:"lived"`
}

// LivingWith is what living with a machine is like.
func (w *Tasks) LivingWith(ctx context.Context, machineID string) (out Living, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		out, err = LivingOf(t, machineID)
		return err
	})
	return out, err
}

// LivingOf is LivingWith within a transaction.
func LivingOf(t *store.Tx, machineID string) (Living, error) {
	out := Living{Ratings: []bench.MachineRating{}}
	if _, err := t.Machine(machineID); err != nil {
		return out, err
	}
	all, err := t.MachineRatings()
	if err != nil {
		return out, err
	}
	for _, r := range all {
		if r.MachineID == machineID {
			out.Ratings = append([]bench.MachineRating{r}, out.Ratings...)
		}
	}
	scales, err := machineScales(t)
	if err != nil {
		return out, err
	}
	for _, scale := range scales {
		var scores []int64
		var raters []string
		for _, r := range out.Ratings {
			if r.Scale == scale.Key && r.TakenBackMS == nil {
				scores, raters = append(scores, r.Score), append(raters, r.Rater)
			}
		}
		out.Scales = append(out.Scales, LivedOn{scale, scale.Live(scores, raters)})
	}
	return out, nil
}

// machineScales are those of the program, then the reviewer's own.
func machineScales(t *store.Tx) ([]rating.MachineScale, error) {
	own, err := t.RatingScales()
	out := slices.Clone(rating.OfMachines)
	for _, s := range own {
		if s.About == bench.ScaleOfMachines {
			out = append(out, s.OfMachines())
		}
	}
	return out, err
}

// DefineMachineScale keeps a scale of machines of the reviewer's own. It cannot be changed
// after: a rating means what its anchor said.
func (w *Tasks) DefineMachineScale(ctx context.Context, s bench.OwnScale) (rating.MachineScale, error) {
	s.About, s.Name, s.Conditions = bench.ScaleOfMachines, strings.TrimSpace(s.Name), strings.TrimSpace(s.Conditions)
	return task.Keep(ctx, w.Base, func(t *store.Tx) (rating.MachineScale, error) {
		if err := s.Check(); err != nil {
			return rating.MachineScale{}, err
		}
		all, err := machineScales(t)
		if err != nil {
			return rating.MachineScale{}, err
		}
		if slices.ContainsFunc(all, func(o rating.MachineScale) bool { return strings.EqualFold(o.Name, s.Name) }) {
			return rating.MachineScale{}, quantity.Errorf("name", "is %q, which is a scale of machines already; give it another name", s.Name)
		}
		if s.ID, err = w.NewID(); err != nil {
			return rating.MachineScale{}, err
		}
		s.CreatedMS = w.NowMS()
		return s.OfMachines(), t.SaveRatingScale(s)
	})
}

// RateMachine appends a rating of a machine.
func (w *Tasks) RateMachine(ctx context.Context, machineID string, r bench.MachineRating) (Living, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (Living, error) {
		if _, err := t.Machine(machineID); err != nil {
			return Living{}, err
		}
		scales, err := machineScales(t)
		if err != nil {
			return Living{}, err
		}
		if err := r.Check(scales); err != nil {
			return Living{}, err
		}
		if r.ID, err = w.NewID(); err != nil {
			return Living{}, err
		}
		r.MachineID, r.AtMS, r.TakenBackMS, r.TakenBackWhy = machineID, w.NowMS(), nil, ""
		if err := t.SaveMachineRating(r); err != nil {
			return Living{}, err
		}
		return LivingOf(t, machineID)
	})
}

// TakeMachineRatingBack takes a rating back with the reason; it stays on record, and counts
// no more.
func (w *Tasks) TakeMachineRatingBack(ctx context.Context, machineID, ratingID, why string) (Living, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (Living, error) {
		if strings.TrimSpace(why) == "" {
			return Living{}, quantity.Errorf("why", "is missing; say why it is taken back")
		}
		known, err := LivingOf(t, machineID)
		if err != nil {
			return known, err
		}
		for _, r := range known.Ratings {
			if r.ID != ratingID || r.TakenBackMS != nil {
				continue
			}
			r.TakenBackMS, r.TakenBackWhy = quantity.Ptr(w.NowMS()), why
			if err := t.SaveMachineRating(r); err != nil {
				return known, err
			}
			return LivingOf(t, machineID)
		}
		return known, fmt.Errorf("rating %s of this machine: %w", ratingID, bench.ErrNotFound)
	})
}
