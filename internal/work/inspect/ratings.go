package inspect

import (
	"context"
	"fmt"
	"slices"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/core/rating"
	"ojime/internal/store"
	"ojime/internal/work/printing"
	"ojime/internal/work/task"
)

// Scales are those of the program, then the reviewer's own.
func (w *Tasks) Scales(ctx context.Context) (out []rating.Scale, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		out, err = AllScales(t)
		return err
	})
	return out, err
}

// AllScales is Scales within a transaction.
func AllScales(t *store.Tx) ([]rating.Scale, error) {
	own, err := t.RatingScales()
	out := slices.Clone(rating.Usual)
	for _, s := range own {
		if s.About == bench.ScaleOfMachines {
			continue
		}
		out = append(out, s.AsScale())
	}
	return out, err
}

// DefineScale keeps a scale of the reviewer's own. It cannot be changed after: a rating means
// what its anchor said.
func (w *Tasks) DefineScale(ctx context.Context, s bench.OwnScale) (rating.Scale, error) {
	s.About = bench.ScaleOfSpecimens
	return task.Keep(ctx, w.Base, func(t *store.Tx) (rating.Scale, error) {
		if err := s.Check(); err != nil {
			return rating.Scale{}, err
		}
		all, err := AllScales(t)
		if err != nil {
			return rating.Scale{}, err
		}
		if slices.ContainsFunc(all, func(o rating.Scale) bool { return o.Name == s.Name }) {
			return rating.Scale{}, quantity.Errorf("name", "is %q, which is a scale already; give it another name", s.Name)
		}
		if s.ID, err = w.NewID(); err != nil {
			return rating.Scale{}, err
		}
		s.CreatedMS = w.NowMS()
		return s.AsScale(), t.SaveRatingScale(s)
	})
}

// BeginSitting says by whom, from where, in which stage and light things are judged now.
func (w *Tasks) BeginSitting(ctx context.Context, s bench.Sitting) (bench.Sitting, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (bench.Sitting, error) {
		if err := s.Check(); err != nil {
			return s, err
		}
		all, err := AllScales(t)
		if err != nil {
			return s, err
		}
		if len(s.Scales) == 0 {
			return s, quantity.Errorf("scales", "are none; choose what is judged")
		}
		for i, key := range s.Scales {
			if !known(all, key) {
				return s, quantity.Errorf(fmt.Sprintf("scales[%d]", i), "is %.40q, which is no scale on record", key)
			}
		}
		if s.ID, err = w.NewID(); err != nil {
			return s, err
		}
		s.CreatedMS = w.NowMS()
		return s, t.SaveSitting(s)
	})
}

func known(scales []rating.Scale, key string) bool {
	return slices.ContainsFunc(scales, func(s rating.Scale) bool { return s.Key == key })
}

// CurrentSitting is the one begun last; nil before the first.
type CurrentSitting struct {
	Sitting *bench.Sitting `json:"sitting"`
}

// Sitting is the one begun last.
func (w *Tasks) Sitting(ctx context.Context) (out CurrentSitting, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		s, err := t.LatestSitting()
		if task.IsMissing(err) {
			return nil
		}
		out.Sitting = &s
		return err
	})
	return out, err
}

// Score is a step of a scale for one specimen of a print, or one copy of a reference: OfID is
// the print or the reference.
type Score struct {
	SittingID  string `json:"sitting_id" minLength:"1"`
	OfID       string `json:"of_id" minLength:"1"`
	SpecimenID string `json:"specimen_id" minLength:"1"`
	Scale      string `json:"scale" minLength:"1"`
	Score      int64  `json:"score" minimum:"0" maximum:"4"`
}

// Rate appends a rating. A second one of the same thing on the same scale in the same
// sitting corrects the first; a second round is a sitting of its own. It answers with what
// is rated of that print or reference now.
func (w *Tasks) Rate(ctx context.Context, s Score) ([]bench.Rated, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) ([]bench.Rated, error) {
		sitting, err := t.Sitting(s.SittingID)
		if err != nil {
			return nil, quantity.Errorf("sitting_id", "names no sitting on record: say from where, in which stage and light it is judged (%v)", err)
		}
		all, err := AllScales(t)
		if err != nil {
			return nil, err
		}
		if !known(all, s.Scale) {
			return nil, quantity.Errorf("scale", "is %.40q, which is no scale on record", s.Scale)
		}
		sheet, err := ratedSheet(t, s.OfID)
		if err != nil {
			return nil, err
		}
		specimen, there := task.ByID(sheet.Specimens, func(p bench.Specimen) string { return p.ID })[s.SpecimenID]
		if !there {
			return nil, quantity.Errorf("specimen_id", "is no specimen of %s", sheet.Run.Code)
		}
		v := bench.Rating{SittingID: s.SittingID, Scale: s.Scale, Score: s.Score, AtMS: w.NowMS()}
		if sheet.Reference != nil {
			v.ReferenceID, v.Copy = &sheet.Reference.ID, &specimen.Copy
		} else {
			v.SpecimenID = &specimen.ID
			if why := sheet.GoneBy(specimen.ID, sitting.Stage); why != "" {
				return nil, quantity.Errorf("stage", "%s; begin a sitting in another stage", why)
			}
		}
		for _, old := range sheet.Ratings {
			if old.SittingID == s.SittingID && old.Scale == s.Scale && old.Specimen() == specimen.ID {
				v.CorrectsID = &old.ID
			}
		}
		if v.ID, err = w.NewID(); err != nil {
			return nil, err
		}
		if err := v.Check(); err != nil {
			return nil, err
		}
		if err := t.SaveRating(v); err != nil {
			return nil, err
		}
		return ratingsOf(t, s.OfID)
	})
}

func ratedSheet(t *store.Tx, id string) (*printing.RunSheet, error) {
	sheets, err := printing.NewReader(t).Sheets(id)
	if err != nil {
		return nil, err
	}
	return sheets[0], nil
}

func ratingsOf(t *store.Tx, id string) ([]bench.Rated, error) {
	sheet, err := ratedSheet(t, id)
	if err != nil {
		return nil, err
	}
	return sheet.Ratings, nil
}

// TakeRatingBack takes a rating back with its reason: it stays on record, and what it
// corrected counts again.
func (w *Tasks) TakeRatingBack(ctx context.Context, id, why string) ([]bench.Rated, error) {
	if why == "" {
		return nil, quantity.Errorf("why", "is missing; say why it is taken back")
	}
	return task.Keep(ctx, w.Base, func(t *store.Tx) ([]bench.Rated, error) {
		v, err := t.Rating(id)
		if err != nil {
			return nil, err
		}
		if v.TakenBackMS != nil {
			return nil, fmt.Errorf("the rating was taken back already: %w", bench.ErrConflict)
		}
		before := v
		v.TakenBackMS, v.TakenBackWhy = quantity.Ptr(w.NowMS()), why
		if err := w.Note(t, "rating", v.ID, "take a rating back", why, before, v); err != nil {
			return nil, err
		}
		if err := t.SaveRating(v); err != nil {
			return nil, err
		}
		if v.ReferenceID != nil {
			return ratingsOf(t, *v.ReferenceID)
		}
		run, err := t.RunOfSpecimen(*v.SpecimenID)
		if err != nil {
			return nil, err
		}
		return ratingsOf(t, run)
	})
}
