package store

import (
	"ojime/internal/bench"
	"ojime/internal/store/db"
)

// SaveLightGrid appends what a meter read over a plate, or takes it back.
func (t *Tx) SaveLightGrid(g bench.LightGrid) error {
	return saved("light grid", t.q.SaveLightGrid(t.ctx, db.SaveLightGridParams(g)))
}

// LightGrids lists the grids of all machines in their order, also those taken back.
func (t *Tx) LightGrids() ([]bench.LightGrid, error) {
	rows, err := t.q.LightGrids(t.ctx)
	return list("light grids", rows, err, func(r db.LightGrid) bench.LightGrid { return bench.LightGrid(r) })
}

// LightGridsOfMachine lists the grids of one machine in their order, also those taken back.
func (t *Tx) LightGridsOfMachine(machineID string) ([]bench.LightGrid, error) {
	rows, err := t.q.LightGridsOfMachine(t.ctx, machineID)
	return list("light grids of machine", rows, err, func(r db.LightGrid) bench.LightGrid { return bench.LightGrid(r) })
}
