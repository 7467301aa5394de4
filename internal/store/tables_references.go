package store

import (
	"ojime/internal/bench"
	"ojime/internal/store/db"
)

// Reference reads one reference, or bench.ErrNotFound.
func (t *Tx) Reference(id string) (bench.Reference, error) {
	row, err := t.q.ReferenceByID(t.ctx, id)
	return bench.Reference(row), read("reference", id, err)
}

// SaveReference writes a reference.
func (t *Tx) SaveReference(v bench.Reference) error {
	return saved("reference", t.q.SaveReference(t.ctx, db.SaveReferenceParams(v)))
}

// References lists every reference in its order.
func (t *Tx) References() ([]bench.Reference, error) {
	rows, err := t.q.References(t.ctx)
	return list("reference", rows, err, func(r db.Reference) bench.Reference { return bench.Reference(r) })
}

// SaveReferenceReading appends a reading of a reference, or takes one back.
func (t *Tx) SaveReferenceReading(v bench.ReferenceReading) error {
	return saved("reference reading", t.q.SaveReferenceReading(t.ctx, db.SaveReferenceReadingParams(v)))
}

// ReadingsOfReference lists the readings of a reference in their order.
func (t *Tx) ReadingsOfReference(referenceID string) ([]bench.ReferenceReading, error) {
	rows, err := t.q.ReadingsOfReference(t.ctx, referenceID)
	return list("readings of reference", rows, err, func(r db.ReferenceReading) bench.ReferenceReading { return bench.ReferenceReading(r) })
}

// ReferenceReadings lists every reading of references in its order.
func (t *Tx) ReferenceReadings() ([]bench.ReferenceReading, error) {
	rows, err := t.q.ReferenceReadings(t.ctx)
	return list("reference reading", rows, err, func(r db.ReferenceReading) bench.ReferenceReading { return bench.ReferenceReading(r) })
}
