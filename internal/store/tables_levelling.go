package store

import (
	"ojime/internal/bench"
	"ojime/internal/store/db"
)

// SaveLevelling appends how a machine was levelled, says what its first layer looked like, or
// takes it back.
func (t *Tx) SaveLevelling(l bench.Levelling) error {
	return saved("levelling", t.q.SaveLevelling(t.ctx, db.SaveLevellingParams(l)))
}

// Levellings lists those of all machines in their order, also those taken back.
func (t *Tx) Levellings() ([]bench.Levelling, error) {
	rows, err := t.q.Levellings(t.ctx)
	return list("levellings", rows, err, func(r db.Levelling) bench.Levelling { return bench.Levelling(r) })
}

// LevellingsOfMachine lists those of one machine in their order, also those taken back.
func (t *Tx) LevellingsOfMachine(machineID string) ([]bench.Levelling, error) {
	rows, err := t.q.LevellingsOfMachine(t.ctx, machineID)
	return list("levellings of machine", rows, err, func(r db.Levelling) bench.Levelling { return bench.Levelling(r) })
}
