package store

import (
	"strings"

	"ojime/internal/bench"
	"ojime/internal/store/db"
)

// SaveForm writes a form of a piece, or that it is retired.
func (t *Tx) SaveForm(v bench.Form) error {
	return saved("form", t.q.SaveForm(t.ctx, db.SaveFormParams(v)))
}

// Form reads one form, or bench.ErrNotFound.
func (t *Tx) Form(id string) (bench.Form, error) {
	row, err := t.q.FormByID(t.ctx, id)
	return bench.Form(row), read("form", id, err)
}

// Forms lists the forms of all pieces.
func (t *Tx) Forms() ([]bench.Form, error) {
	rows, err := t.q.Forms(t.ctx)
	return list("forms", rows, err, func(r db.Form) bench.Form { return bench.Form(r) })
}

// FormsOfPiece lists the forms of one piece in their order, also those retired.
func (t *Tx) FormsOfPiece(pieceID string) ([]bench.Form, error) {
	rows, err := t.q.FormsOfPiece(t.ctx, pieceID)
	return list("forms of piece", rows, err, func(r db.Form) bench.Form { return bench.Form(r) })
}

// SaveFormReading appends a reading of a form, or takes it back.
func (t *Tx) SaveFormReading(v bench.FormReading) error {
	return saved("reading of a form", t.q.SaveFormReading(t.ctx, db.SaveFormReadingParams(v)))
}

// FormReadings lists the readings of all forms in their order, also those taken back.
func (t *Tx) FormReadings() ([]bench.FormReading, error) {
	rows, err := t.q.FormReadings(t.ctx)
	return list("readings of forms", rows, err, func(r db.FormReading) bench.FormReading { return bench.FormReading(r) })
}

// FormReadingsOfRuns lists the readings of forms of the specimens of runs, by run and in
// their order, also those taken back.
func (t *Tx) FormReadingsOfRuns(runIDs []string) (map[string][]bench.FormReading, error) {
	return askLists(t, formReadingsKey{strings.Join(runIDs, " ")}, []string{"form_reading"}, func() (map[string][]bench.FormReading, error) { return t.formReadingsOfRuns(runIDs) })
}

type formReadingsKey struct{ runs string }

func (t *Tx) formReadingsOfRuns(runIDs []string) (map[string][]bench.FormReading, error) {
	rows, err := t.q.FormReadingsOfRuns(t.ctx, runIDs)
	out := map[string][]bench.FormReading{}
	for _, r := range rows {
		out[r.RunID] = append(out[r.RunID], bench.FormReading(r.FormReading))
	}
	return out, read("readings of forms", "of runs", err)
}
