package store

import (
	"ojime/internal/bench"
	"ojime/internal/store/db"
)

func toRemark(r db.Remark) bench.Remark { return bench.Remark(r) }

// SaveRemark appends a remark on a machine, or takes it back.
func (t *Tx) SaveRemark(v bench.Remark) error {
	return saved("remark", t.q.SaveRemark(t.ctx, db.SaveRemarkParams(v)))
}

// Remarks lists those on all machines in their order, also those taken back.
func (t *Tx) Remarks() ([]bench.Remark, error) {
	rows, err := t.q.Remarks(t.ctx)
	return list("remarks", rows, err, toRemark)
}

// RemarksOfMachine lists those on a machine in their order, also those taken back.
func (t *Tx) RemarksOfMachine(machineID string) ([]bench.Remark, error) {
	rows, err := t.q.RemarksOfMachine(t.ctx, machineID)
	return list("remarks of "+machineID, rows, err, toRemark)
}

// RunsToFirstWhole lists the ended prints of a machine up to the first that came out whole, all
// where none did.
func (t *Tx) RunsToFirstWhole(machineID string) ([]bench.Run, error) {
	rows, err := t.q.RunsToFirstWhole(t.ctx, machineID)
	return list("runs to the first whole of "+machineID, rows, err, func(r db.Run) bench.Run { return bench.Run(r) })
}
