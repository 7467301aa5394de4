package store

import (
	"strings"

	"ojime/internal/bench"
	"ojime/internal/store/db"
)

// SaveRatingScale writes a scale of the reviewer's own.
func (t *Tx) SaveRatingScale(v bench.OwnScale) error {
	return saved("scale", t.q.SaveRatingScale(t.ctx, db.SaveRatingScaleParams(v)))
}

// RatingScales lists the reviewer's own scales in their order.
func (t *Tx) RatingScales() ([]bench.OwnScale, error) {
	rows, err := t.q.RatingScales(t.ctx)
	return list("scales", rows, err, func(r db.RatingScale) bench.OwnScale { return bench.OwnScale(r) })
}

// SaveSitting writes a sitting.
func (t *Tx) SaveSitting(v bench.Sitting) error {
	return saved("sitting", t.q.SaveSitting(t.ctx, db.SaveSittingParams(v)))
}

// Sitting reads one sitting, or bench.ErrNotFound.
func (t *Tx) Sitting(id string) (bench.Sitting, error) {
	row, err := t.q.SittingByID(t.ctx, id)
	return bench.Sitting(row), read("sitting", id, err)
}

// LatestSitting is the one begun last, or bench.ErrNotFound.
func (t *Tx) LatestSitting() (bench.Sitting, error) {
	row, err := t.q.LatestSitting(t.ctx)
	return bench.Sitting(row), read("sitting", "latest", err)
}

// Sittings lists every sitting in its order.
func (t *Tx) Sittings() ([]bench.Sitting, error) {
	rows, err := t.q.Sittings(t.ctx)
	return list("sittings", rows, err, func(r db.Sitting) bench.Sitting { return bench.Sitting(r) })
}

// SaveRating appends a rating, or takes one back.
func (t *Tx) SaveRating(v bench.Rating) error {
	return saved("rating", t.q.SaveRating(t.ctx, db.SaveRatingParams(v)))
}

// Rating reads one rating, or bench.ErrNotFound.
func (t *Tx) Rating(id string) (bench.Rating, error) {
	row, err := t.q.RatingByID(t.ctx, id)
	return bench.Rating(row), read("rating", id, err)
}

// Ratings lists every rating in its order.
func (t *Tx) Ratings() ([]bench.Rating, error) {
	rows, err := t.q.Ratings(t.ctx)
	return list("ratings", rows, err, func(r db.Rating) bench.Rating { return bench.Rating(r) })
}

// RatingsOfRuns lists the ratings of the specimens of runs, by run and in their order.
func (t *Tx) RatingsOfRuns(runIDs []string) (map[string][]bench.Rating, error) {
	return askLists(t, ratingsKey{strings.Join(runIDs, " ")}, []string{"rating"}, func() (map[string][]bench.Rating, error) { return t.ratingsOfRuns(runIDs) })
}

type ratingsKey struct{ runs string }

func (t *Tx) ratingsOfRuns(runIDs []string) (map[string][]bench.Rating, error) {
	rows, err := t.q.RatingsOfRuns(t.ctx, runIDs)
	out := map[string][]bench.Rating{}
	for _, r := range rows {
		out[r.RunID] = append(out[r.RunID], bench.Rating{ID: r.ID, SittingID: r.SittingID, SpecimenID: r.SpecimenID, ReferenceID: r.ReferenceID, Copy: r.Copy, Scale: r.Scale, Score: r.Score,
			AtMS: r.AtMS, CorrectsID: r.CorrectsID, TakenBackMS: r.TakenBackMS, TakenBackWhy: r.TakenBackWhy})
	}
	return out, read("ratings", "of runs", err)
}

// RatingsOfReference lists the ratings of a reference in their order.
func (t *Tx) RatingsOfReference(referenceID string) ([]bench.Rating, error) {
	rows, err := t.q.RatingsOfReference(t.ctx, &referenceID)
	return list("ratings of reference", rows, err, func(r db.Rating) bench.Rating { return bench.Rating(r) })
}
