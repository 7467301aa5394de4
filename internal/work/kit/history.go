package kit

import (
	"ojime/internal/bench"
	"ojime/internal/core/machine"
	"ojime/internal/store"
)

// HistoryOf reads what a machine's condition at any instant is computed from: its
// knots that were not retired, and what its ended, real prints took.
func HistoryOf(t *store.Tx, machineID string) (machine.History, error) {
	return store.Once(t, historyKey{machineID}, func() (machine.History, error) { return historyOf(t, machineID) })
}

type historyKey struct{ machine string }

func historyOf(t *store.Tx, machineID string) (machine.History, error) {
	events, err := t.EventsOfMachine(machineID)
	if err != nil {
		return machine.History{}, err
	}
	prints, err := t.WearOfMachine(machineID)
	if err != nil {
		return machine.History{}, err
	}
	levellings, err := t.LevellingsOfMachine(machineID)
	var verified []machine.Verified
	for _, l := range levellings {
		if l.Verified() {
			verified = append(verified, machine.Verified{AtMS: l.AtMS, Ends: l.Ends})
		}
	}
	return machine.New(KnotsOf(events), prints).WithVerified(verified), err
}

// KnotsOf are the events that count, as the rules take them.
func KnotsOf(events []bench.MachineEvent) []machine.Knot {
	var out []machine.Knot
	for _, e := range events {
		if e.RetiredMS == nil {
			out = append(out, e.Knot())
		}
	}
	return out
}
