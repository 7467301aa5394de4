package kit

import (
	"ojime/internal/bench"
	"ojime/internal/core/machine"
	"ojime/internal/core/metrology"
	"ojime/internal/store"
	"ojime/internal/work/task"
)

// doubtsOf reads the checks of all instruments once.
func doubtsOf(t *store.Tx) func(string) ([]metrology.Doubt, error) {
	var of map[string][]bench.InstrumentCheck
	return task.Memoise(func(id string) ([]metrology.Doubt, error) {
		if of == nil {
			checks, err := t.InstrumentChecks()
			if err != nil {
				return nil, err
			}
			of = map[string][]bench.InstrumentCheck{}
			for _, c := range checks {
				of[c.InstrumentID] = append(of[c.InstrumentID], c)
			}
		}
		return bench.DoubtsOf(of[id]), nil
	})
}

// Lookup reads each machine, resin, bottle, sitting, profile, piece and instrument once, however many runs
// refer to it.
type Lookup struct {
	Machine func(string) (bench.Machine, error)
	Resin   func(string) (bench.Resin, error)
	Bottle  func(string) (bench.Bottle, error)
	Sitting func(string) (bench.Sitting, error)
	Profile func(string) (bench.Profile, error)
	// Motion is how settings move, in words.
	Motion   func(profileID string) (string, error)
	Piece    func(string) (bench.Piece, error)
	Features func(string) ([]bench.Feature, error)
	Forms    func(string) ([]bench.Form, error)
	History  func(machineID string) (machine.History, error)
	// Unit is the unit file of a machine, nil where it has none.
	Unit func(machineID string) (*bench.UnitFile, error)
	// Light is what is known of a machine's light over its plate.
	Light func(machineID string) (Lights, error)
	// Doubts are the times in which an instrument cannot be relied on.
	Doubts func(instrumentID string) ([]metrology.Doubt, error)
}

// NewLookup makes one for a transaction.
func NewLookup(t *store.Tx) Lookup {
	profile := task.Memoise(t.Profile)
	motion := func(id string) (string, error) {
		p, err := profile(id)
		return MotionWords(p), err
	}
	return Lookup{task.Memoise(t.Machine), task.Memoise(t.Resin), task.Memoise(t.Bottle), task.Memoise(t.Sitting), profile, task.Memoise(motion), task.Memoise(t.Piece), task.Memoise(t.FeaturesOfPiece), task.Memoise(t.FormsOfPiece),
		task.Memoise(func(id string) (machine.History, error) { return HistoryOf(t, id) }),
		task.Memoise(func(id string) (*bench.UnitFile, error) { return UnitOf(t, id) }),
		task.Memoise(func(id string) (Lights, error) { return LightsOf(t, id) }), doubtsOf(t)}
}
