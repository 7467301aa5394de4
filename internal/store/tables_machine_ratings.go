package store

import (
	"ojime/internal/bench"
	"ojime/internal/store/db"
)

// SaveMachineRating appends a rating of a machine, or takes it back.
func (t *Tx) SaveMachineRating(r bench.MachineRating) error {
	return saved("rating of a machine", t.q.SaveMachineRating(t.ctx, db.SaveMachineRatingParams(r)))
}

// MachineRatings lists the ratings of all machines in their order, also those taken back.
func (t *Tx) MachineRatings() ([]bench.MachineRating, error) {
	rows, err := t.q.MachineRatings(t.ctx)
	return list("ratings of machines", rows, err, func(r db.MachineRating) bench.MachineRating { return bench.MachineRating(r) })
}
