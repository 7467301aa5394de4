package store

import (
	"ojime/internal/bench"
	"ojime/internal/store/db"
)

// SaveSoftwareStep appends a step of a piece on a computer, or takes it back.
func (t *Tx) SaveSoftwareStep(s bench.SoftwareStep) error {
	return saved("software step", t.q.SaveSoftwareStep(t.ctx, db.SaveSoftwareStepParams(s)))
}

// SoftwareSteps lists those of all pieces in their order, also those taken back.
func (t *Tx) SoftwareSteps() ([]bench.SoftwareStep, error) {
	rows, err := t.q.SoftwareSteps(t.ctx)
	return list("software steps", rows, err, func(r db.SoftwareStep) bench.SoftwareStep { return bench.SoftwareStep(r) })
}
