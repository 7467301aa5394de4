package store

import (
	"ojime/internal/bench"
	"ojime/internal/store/db"
)

// SaveUnitFile writes the unit file of a machine.
func (t *Tx) SaveUnitFile(u bench.UnitFile) error {
	return saved("unit file", t.q.SaveUnitFile(t.ctx, db.SaveUnitFileParams(u)))
}

// UnitFiles lists those of all machines.
func (t *Tx) UnitFiles() ([]bench.UnitFile, error) {
	rows, err := t.q.UnitFiles(t.ctx)
	return list("unit files", rows, err, func(r db.UnitFile) bench.UnitFile { return bench.UnitFile(r) })
}

// UnitFileOfMachine is that of one machine; bench.ErrNotFound where it has none.
func (t *Tx) UnitFileOfMachine(machineID string) (bench.UnitFile, error) {
	row, err := t.q.UnitFileOfMachine(t.ctx, machineID)
	return bench.UnitFile(row), read("unit file of machine", machineID, err)
}
