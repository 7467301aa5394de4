package kit

import (
	"errors"

	"ojime/internal/bench"
	"ojime/internal/store"
)

// UnitOf is the unit file of a machine, nil where it has none.
func UnitOf(t *store.Tx, machineID string) (*bench.UnitFile, error) {
	u, err := t.UnitFileOfMachine(machineID)
	if errors.Is(err, bench.ErrNotFound) {
		return nil, nil
	}
	if err != nil {
		return nil, err
	}
	return &u, nil
}

// ProvenanceOf is how the unit of a machine came and who has an interest in it, in words.
func ProvenanceOf(u *bench.UnitFile, m bench.Machine) string {
	if u == nil {
		return m.SuppliedBy
	}
	return u.Provenance(m.SuppliedBy)
}
