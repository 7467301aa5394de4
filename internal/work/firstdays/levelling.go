package firstdays

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/machine"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/kit"
	"ojime/internal/work/task"
)

// Levellings are how a machine was levelled, the last first, and where that leaves it: Level is
// its level now, Says that in a sentence. Usual are the ends that a new one begins with, of Ends, all that there are.
type Levellings struct {
	Says       string          `json:"says"`
	Level      machine.Level   `json:"level"`
	Usual      bench.IDs       `json:"usual"`
	Ends       bench.IDs       `json:"ends"`
	Levellings []SaidLevelling `json:"levellings"`
}

// SaidLevelling is a levelling with its words.
type SaidLevelling struct {
	bench.Levelling
	Says string `json:"says"`
}

// LevellingsOf reads how a machine was levelled.
func LevellingsOf(t *store.Tx, machineID string, nowMS int64) (Levellings, error) {
	out := Levellings{Usual: slices.Clone(bench.LevelEnds), Ends: slices.Clone(bench.LevelEnds), Levellings: []SaidLevelling{}}
	if _, err := t.Machine(machineID); err != nil {
		return out, err
	}
	list, err := t.LevellingsOfMachine(machineID)
	if err != nil {
		return out, err
	}
	for _, l := range slices.Backward(list) {
		out.Levellings = append(out.Levellings, SaidLevelling{l, l.Words()})
		if l.TakenBackMS == nil && len(out.Usual) == len(bench.LevelEnds) && len(l.Ends) > 0 {
			out.Usual = l.Ends
		}
	}
	history, err := kit.HistoryOf(t, machineID)
	if err != nil {
		return out, err
	}
	out.Level = history.LevelAt(nowMS)
	out.Says = LevelWords(out.Level)
	return out, nil
}

// LevelWords are a level in a sentence.
func LevelWords(l machine.Level) string {
	switch {
	case l.VerifiedMS != nil && l.EndedBy == "":
		return "Verified on " + say.Day(*l.VerifiedMS) + " by an even first layer, and nothing happened since that ends that."
	case l.VerifiedMS != nil:
		return fmt.Sprintf("Verified on %s, and ended since by: %s.", say.Day(*l.VerifiedMS), say.Words(l.EndedBy))
	case l.Days != nil:
		return fmt.Sprintf("Levelled %s ago, and not verified by a first layer.", say.Counted(int64(*l.Days), "day"))
	}
	return "When it was levelled is not on record."
}

// Levellings reads how a machine was levelled.
func (w *Tasks) Levellings(ctx context.Context, machineID string) (out Levellings, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		out, err = LevellingsOf(t, machineID, w.NowMS())
		return err
	})
	return out, err
}

// LevelMachine appends how a machine was levelled, now or when it says, and ties the knot for it.
func (w *Tasks) LevelMachine(ctx context.Context, machineID string, l bench.Levelling) (Levellings, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (out Levellings, err error) {
		if err := l.Check(); err != nil {
			return out, err
		}
		if beyond := bench.Beyond(l); len(beyond) > 0 {
			return out, beyond[0]
		}
		if l.AtMS == 0 {
			l.AtMS = w.NowMS()
		}
		knot := bench.MachineEvent{MachineID: machineID, AtMS: l.AtMS, Kinds: bench.IDs{machine.Relevel}, Note: l.How}
		if l.ZeroMM != nil {
			knot.Kinds = append(knot.Kinds, "zero")
		}
		if knot, err = w.kit.AddEventIn(t, knot); err != nil {
			return out, err
		}
		if l.ID, err = w.NewID(); err != nil {
			return out, err
		}
		l.MachineID, l.MachineEventID, l.Version, l.TakenBackMS, l.TakenBackWhy = machineID, knot.ID, 1, nil, ""
		if err := t.SaveLevelling(l); err != nil {
			return out, err
		}
		return LevellingsOf(t, machineID, w.NowMS())
	})
}

// levelling is one of a machine that was not taken back.
func levelling(t *store.Tx, machineID, id string) (bench.Levelling, error) {
	list, err := t.LevellingsOfMachine(machineID)
	if err != nil {
		return bench.Levelling{}, err
	}
	i := slices.IndexFunc(list, func(l bench.Levelling) bool { return l.ID == id && l.TakenBackMS == nil })
	if i < 0 {
		return bench.Levelling{}, fmt.Errorf("levelling %s of this machine: %w", id, bench.ErrNotFound)
	}
	return list[i], nil
}

// SeeFirstLayer says what the first layer looked like after a levelling; what was said before
// stays in its history.
func (w *Tasks) SeeFirstLayer(ctx context.Context, machineID, id, layer, note string) (Levellings, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (Levellings, error) {
		old, err := levelling(t, machineID, id)
		if err != nil {
			return Levellings{}, err
		}
		l := old
		l.FirstLayer, l.FirstLayerNote, l.Version = layer, note, old.Version+1
		if beyond := bench.Beyond(l); len(beyond) > 0 {
			return Levellings{}, beyond[0]
		}
		if err := w.Note(t, "levelling", id, "say what the first layer looked like", "", old, l); err != nil {
			return Levellings{}, err
		}
		if err := t.SaveLevelling(l); err != nil {
			return Levellings{}, err
		}
		return LevellingsOf(t, machineID, w.NowMS())
	})
}

// TakeLevellingBack takes a levelling back with the reason, and retires its knot.
func (w *Tasks) TakeLevellingBack(ctx context.Context, machineID, id, why string) (Levellings, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (Levellings, error) {
		if strings.TrimSpace(why) == "" {
			return Levellings{}, quantity.Errorf("why", "is missing; say why it is taken back")
		}
		l, err := levelling(t, machineID, id)
		if err != nil {
			return Levellings{}, err
		}
		knot, err := t.MachineEvent(l.MachineEventID)
		if err != nil {
			return Levellings{}, err
		}
		if knot.RetiredMS == nil {
			before := knot
			knot.RetiredMS, knot.RetiredWhy, knot.Version = quantity.Ptr(w.NowMS()), why, knot.Version+1
			if err := w.Note(t, "machine_event", knot.ID, "retire a knot", why, before, knot); err != nil {
				return Levellings{}, err
			}
			if err := t.SaveMachineEvent(knot); err != nil {
				return Levellings{}, err
			}
		}
		l.TakenBackMS, l.TakenBackWhy = quantity.Ptr(w.NowMS()), why
		if err := t.SaveLevelling(l); err != nil {
			return Levellings{}, err
		}
		return LevellingsOf(t, machineID, w.NowMS())
	})
}
