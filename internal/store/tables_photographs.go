package store

import (
	"strings"

	"ojime/internal/bench"
	"ojime/internal/store/db"
)

// SavePhotograph writes a photograph, or that it was taken back or erased.
func (t *Tx) SavePhotograph(v bench.Photograph) error {
	return saved("photograph", t.q.SavePhotograph(t.ctx, db.SavePhotographParams(v)))
}

// Photograph reads one photograph, or bench.ErrNotFound.
func (t *Tx) Photograph(id string) (bench.Photograph, error) {
	row, err := t.q.PhotographByID(t.ctx, id)
	return bench.Photograph(row), read("photograph", id, err)
}

// Photographs lists every photograph in its order.
func (t *Tx) Photographs() ([]bench.Photograph, error) {
	rows, err := t.q.Photographs(t.ctx)
	return list("photographs", rows, err, func(r db.Photograph) bench.Photograph { return bench.Photograph(r) })
}

// PhotographsOfRuns lists the photographs of the specimens of runs, by run and in their
// order.
func (t *Tx) PhotographsOfRuns(runIDs []string) (map[string][]bench.Photograph, error) {
	return askLists(t, photographsKey{strings.Join(runIDs, " ")}, []string{"photograph"}, func() (map[string][]bench.Photograph, error) { return t.photographsOfRuns(runIDs) })
}

type photographsKey struct{ runs string }

func (t *Tx) photographsOfRuns(runIDs []string) (map[string][]bench.Photograph, error) {
	rows, err := t.q.PhotographsOfRuns(t.ctx, runIDs)
	out := map[string][]bench.Photograph{}
	for _, r := range rows {
		out[r.RunID] = append(out[r.RunID], bench.Photograph(r.Photograph))
	}
	return out, read("photographs", "of runs", err)
}

// PhotographsOfReference lists the photographs of a reference in their order.
func (t *Tx) PhotographsOfReference(referenceID string) ([]bench.Photograph, error) {
	rows, err := t.q.PhotographsOfReference(t.ctx, &referenceID)
	return list("photographs of reference", rows, err, func(r db.Photograph) bench.Photograph { return bench.Photograph(r) })
}

// SavePhotoMeasure appends what was measured on a photograph, or takes it back.
func (t *Tx) SavePhotoMeasure(v bench.PhotoMeasure) error {
	return saved("measure of a photograph", t.q.SavePhotoMeasure(t.ctx, db.SavePhotoMeasureParams(v)))
}

// PhotoMeasure reads one measure, or bench.ErrNotFound.
func (t *Tx) PhotoMeasure(id string) (bench.PhotoMeasure, error) {
	row, err := t.q.PhotoMeasureByID(t.ctx, id)
	return bench.PhotoMeasure(row), read("measure of a photograph", id, err)
}

// PhotoMeasures lists every measure in its order.
func (t *Tx) PhotoMeasures() ([]bench.PhotoMeasure, error) {
	rows, err := t.q.PhotoMeasures(t.ctx)
	return list("measures of photographs", rows, err, func(r db.PhotoMeasure) bench.PhotoMeasure { return bench.PhotoMeasure(r) })
}

// MeasuresOf lists what was measured on photographs, in its order.
func (t *Tx) MeasuresOf(photographIDs []string) ([]bench.PhotoMeasure, error) {
	rows, err := t.q.MeasuresOfPhotographs(t.ctx, photographIDs)
	return list("measures of photographs", rows, err, func(r db.PhotoMeasure) bench.PhotoMeasure { return bench.PhotoMeasure(r) })
}

// PhotographsOfFile lists the photographs that were received as one file.
func (t *Tx) PhotographsOfFile(originalSHA256 string) ([]bench.Photograph, error) {
	rows, err := t.q.PhotographsOfFile(t.ctx, originalSHA256)
	return list("photographs of file", rows, err, func(r db.Photograph) bench.Photograph { return bench.Photograph(r) })
}
