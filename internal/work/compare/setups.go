package compare

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/store"
	"ojime/internal/work/kit"
	"ojime/internal/work/task"
)

// SetUp is machine, resin and settings that printed one piece of a review, between
// two knots that make the machine another, and the runs that did: one side of a
// comparison.
type SetUp struct {
	Label     string   `json:"label"`
	MachineID string   `json:"machine_id"`
	Machine   string   `json:"machine"`
	Resin     string   `json:"resin"`
	Profile   string   `json:"profile"`
	Basis     string   `json:"basis"`
	Since     string   `json:"since"`
	PieceID   string   `json:"piece_id"`
	Piece     string   `json:"piece"`
	RunIDs    []string `json:"run_ids"`
	Runs      []string `json:"runs"`
	Specimens int64    `json:"specimens"`
}

// SetUps lists the set-ups of a review, by piece and machine.
func (w *Tasks) SetUps(ctx context.Context, reviewID string) (out []SetUp, err error) {
	return task.Recall(&w.Memory, w.Store.Changes(), "set-ups "+reviewID, func() ([]SetUp, error) {
		err = w.Store.Read(ctx, func(t *store.Tx) error {
			r, err := t.Review(reviewID)
			if err != nil {
				return err
			}
			out, err = SetUps(t, r)
			return err
		})
		return out, err
	})
}

// SetUps finds the set-ups of a review in its runs.
func SetUps(t *store.Tx, r bench.Review) ([]SetUp, error) {
	runs, err := reviewMembers(t, r)
	if err != nil {
		return nil, err
	}
	out, lookup, epochs := []SetUp{}, kit.NewLookup(t), epochs{knots: task.Memoise(t.EventsOfMachine)}
	place := map[[3]string]int{}
	for _, run := range runs {
		since, err := epochs.of(run)
		if err != nil {
			return nil, err
		}
		key := [3]string{run.PieceID, run.ProfileID, since}
		if _, seen := place[key]; !seen {
			s, err := newSetUp(lookup, run)
			if err != nil {
				return nil, err
			}
			if s.Since = since; since != "" {
				s.Label += ", " + since
			}
			place[key] = len(out)
			out = append(out, s)
		}
		s := &out[place[key]]
		s.RunIDs, s.Runs = append(s.RunIDs, run.ID), append(s.Runs, run.Code)
		s.Specimens += run.Copies
	}
	slices.SortStableFunc(out, func(a, b SetUp) int {
		return 2*cmpIndex(r.PieceIDs, a.PieceID, b.PieceID) + cmpIndex(r.MachineIDs, a.MachineID, b.MachineID)
	})
	return out, nil
}

// reviewMembers lists the runs of a review's machines, resins and pieces, by
// their start.
func reviewMembers(t *store.Tx, r bench.Review) ([]bench.Run, error) {
	var out []bench.Run
	for _, machine := range r.MachineIDs {
		for _, resin := range r.ResinIDs {
			for _, piece := range r.PieceIDs {
				runs, err := t.RunsOf(machine, resin, piece)
				if err != nil {
					return nil, err
				}
				out = append(out, runs...)
			}
		}
	}
	slices.SortStableFunc(out, func(a, b bench.Run) int { return cmp.Compare(a.StartedMS, b.StartedMS) })
	return out, nil
}

// cmpIndex compares by place in a list: −1, 0 or 1.
func cmpIndex(order bench.IDs, a, b string) int {
	x, y := slices.Index(order, a), slices.Index(order, b)
	switch {
	case x < y:
		return -1
	case x > y:
		return 1
	}
	return 0
}

// epochs tells the times of a machine between the knots that make another set-up
// of it: what was printed before a new panel is not pooled with what came after.
type epochs struct {
	knots func(machineID string) ([]bench.MachineEvent, error)
}

// of names the epoch of a run, "after upgrade of 2026-11-14"; empty before the
// first such knot.
func (e epochs) of(r bench.Run) (string, error) {
	events, err := e.knots(r.MachineID)
	since := ""
	for _, k := range events {
		if splits[k.Kind] && k.AtMS <= r.StartedMS {
			since = fmt.Sprintf("after %s of %s", strings.ReplaceAll(k.Kind, "_", " "), task.DayOf(k.AtMS))
		}
	}
	return since, err
}

func newSetUp(lookup kit.Lookup, run bench.Run) (SetUp, error) {
	m, err := lookup.Machine(run.MachineID)
	if err != nil {
		return SetUp{}, err
	}
	resin, err := lookup.Resin(run.ResinID)
	if err != nil {
		return SetUp{}, err
	}
	p, err := lookup.Profile(run.ProfileID)
	if err != nil {
		return SetUp{}, err
	}
	piece, err := lookup.Piece(run.PieceID)
	if err != nil {
		return SetUp{}, err
	}
	return SetUp{
		Label:     fmt.Sprintf("%s, %s, %s (%s)", m.Name, resin.Name, p.Code, p.Basis),
		MachineID: m.ID, Machine: m.Name, Resin: resin.Name, Profile: p.Code, Basis: p.Basis, PieceID: piece.ID, Piece: piece.Name,
	}, nil
}
