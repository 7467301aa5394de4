package kit

import (
	"ojime/internal/bench"
	"ojime/internal/core/machine"
	"ojime/internal/store"
	"ojime/internal/work/task"
)

// Lookup reads each machine, resin, bottle, sitting, profile and piece once, however many runs
// refer to it.
type Lookup struct {
	Machine  func(string) (bench.Machine, error)
	Resin    func(string) (bench.Resin, error)
	Bottle   func(string) (bench.Bottle, error)
	Sitting  func(string) (bench.Sitting, error)
	Profile  func(string) (bench.Profile, error)
	Piece    func(string) (bench.Piece, error)
	Features func(string) ([]bench.Feature, error)
	History  func(machineID string) (machine.History, error)
}

// NewLookup makes one for a transaction.
func NewLookup(t *store.Tx) Lookup {
	return Lookup{task.Memoise(t.Machine), task.Memoise(t.Resin), task.Memoise(t.Bottle), task.Memoise(t.Sitting), task.Memoise(t.Profile), task.Memoise(t.Piece), task.Memoise(t.FeaturesOfPiece),
		task.Memoise(func(id string) (machine.History, error) { return HistoryOf(t, id) })}
}
