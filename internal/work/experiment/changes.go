package experiment

import (
	"context"

	"ojime/internal/bench"
	"ojime/internal/core/plan"
	"ojime/internal/store"
)

// ChangeSet is a knot with all that changed, the runs on both sides of it, and
// the set-ups that would tell its changes apart.
type ChangeSet struct {
	Event   bench.MachineEvent  `json:"event"`
	Machine string              `json:"machine"`
	Plan    *plan.ChangesResult `json:"plan"`
	Pairs   []BeforeAfter       `json:"pairs"`
	// Effect is what the knot did, nil with the reason where no prints tell.
	Effect       *Effect `json:"effect"`
	EffectReason string  `json:"effect_reason"`
}

// BeforeAfter is one piece in one resin printed on both sides of a knot, up to
// its neighbours of the same kind: two set-ups to compare.
type BeforeAfter struct {
	Piece        string   `json:"piece"`
	Resin        string   `json:"resin"`
	PieceID      string   `json:"piece_id"`
	BeforeRunIDs []string `json:"before_run_ids"`
	AfterRunIDs  []string `json:"after_run_ids"`
}

// ChangeSet reads a knot and what may be learned from it.
func (w *Tasks) ChangeSet(ctx context.Context, eventID string) (out ChangeSet, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		if out.Event, err = t.MachineEvent(eventID); err != nil {
			return err
		}
		m, err := t.Machine(out.Event.MachineID)
		if err != nil {
			return err
		}
		out.Machine = m.Name
		if len(out.Event.Changes) > 0 {
			var in plan.ChangesInput
			for _, c := range out.Event.Changes {
				in.Names, in.Undoable = append(in.Names, c.What), append(in.Undoable, c.Undoable)
			}
			p, err := plan.Changes(in)
			if err != nil {
				return err
			}
			out.Plan = &p
		}
		if out.Pairs, err = beforeAfter(t, out.Event); err != nil {
			return err
		}
		out.Effect, out.EffectReason, err = effectOf(t, out.Event, out.Pairs)
		return err
	})
	return out, err
}

func beforeAfter(t *store.Tx, e bench.MachineEvent) ([]BeforeAfter, error) {
	events, err := t.EventsOfMachine(e.MachineID)
	if err != nil {
		return nil, err
	}
	var from, to int64
	for _, other := range events {
		if other.RetiredMS != nil || !other.Knot().Parts() || other.ID == e.ID {
			continue
		}
		if other.AtMS <= e.AtMS {
			from = max(from, other.AtMS)
		} else if to == 0 {
			to = other.AtMS
		}
	}
	runs, err := t.RunsOfMachine(e.MachineID)
	if err != nil {
		return nil, err
	}
	position, out := map[[2]string]int{}, []BeforeAfter{}
	for _, r := range runs {
		if r.StartedMS < from || (to > 0 && r.StartedMS >= to) || r.EndedMS == nil {
			continue
		}
		tallies, err := t.TalliesOfRun(r.ID)
		if err != nil {
			return nil, err
		}
		for _, printed := range tallies {
			key := [2]string{printed.PieceID, r.ResinID}
			at, seen := position[key]
			if !seen {
				piece, err := t.Piece(printed.PieceID)
				if err != nil {
					return nil, err
				}
				resin, err := t.Resin(r.ResinID)
				if err != nil {
					return nil, err
				}
				at = len(out)
				position[key], out = at, append(out, BeforeAfter{PieceID: piece.ID, Piece: piece.Name, Resin: resin.Name, BeforeRunIDs: []string{}, AfterRunIDs: []string{}})
			}
			if r.StartedMS < e.AtMS {
				out[at].BeforeRunIDs = append(out[at].BeforeRunIDs, r.ID)
			} else {
				out[at].AfterRunIDs = append(out[at].AfterRunIDs, r.ID)
			}
		}
	}
	return out, nil
}
