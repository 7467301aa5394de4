package reviews

import (
	"cmp"
	"context"
	"fmt"
	"slices"

	"ojime/internal/bench"
	"ojime/internal/core/machine"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/kit"
	"ojime/internal/work/side"
	"ojime/internal/work/task"
)

// SetUp is machine, resin and settings that printed one piece of a review, between
// two knots that make the machine another, and the runs that did: one side of a
// comparison. About is what tells it apart, Label the name that the review gave it, or that.
type SetUp struct {
	Label     string `json:"label"`
	Name      string `json:"name"`
	About     string `json:"about"`
	ProfileID string `json:"profile_id"`
	MachineID string `json:"machine_id"`
	Machine   string `json:"machine"`
	ResinID   string `json:"resin_id"`
	Resin     string `json:"resin"`
	Profile   string `json:"profile"`
	Basis     string `json:"basis"`
	Since     string `json:"since"`
	PieceID   string `json:"piece_id"`
	Piece     string `json:"piece"`
	// PieceKind is what sort of model it is, empty where that is not on record.
	PieceKind string   `json:"piece_kind"`
	Settings  string   `json:"settings"`
	RunIDs    []string `json:"run_ids"`
	Runs      []string `json:"runs"`
	Specimens int64    `json:"specimens"`
	// LeftOutIDs are prints of it that the review leaves out.
	LeftOutIDs []string `json:"left_out_ids"`
	// ReferenceID is set where it is a reference, which no print made.
	ReferenceID string `json:"reference_id"`
}

// SetUps lists the set-ups of a review, by piece, machine, resin and settings.
func (w *Tasks) SetUps(ctx context.Context, reviewID string) (out []SetUp, err error) {
	return task.Recall(&w.Memory, w.Store.Changes(), setUpsKey{reviewID}, func() ([]SetUp, error) {
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

// Ref names the set-up in its review.
func (s SetUp) Ref() bench.SetUpRef { return bench.SetUpRef{ProfileID: s.ProfileID, Since: s.Since} }

// AcrossPieces are set-ups with the prints of all their pieces together, in their order;
// references, which are of one piece, are left aside.
func AcrossPieces(setups []SetUp) []SetUp {
	out := []SetUp{}
	for _, s := range printed(setups) {
		at := slices.IndexFunc(out, func(o SetUp) bool { return o.Ref() == s.Ref() })
		if at < 0 {
			s.RunIDs, s.Runs, s.PieceID, s.Piece = slices.Clone(s.RunIDs), slices.Clone(s.Runs), "", "all pieces"
			out = append(out, s)
			continue
		}
		o := &out[at]
		o.Specimens += s.Specimens
		for i, id := range s.RunIDs {
			if !slices.Contains(o.RunIDs, id) { // a print of several pieces is one
				o.RunIDs, o.Runs = append(o.RunIDs, id), append(o.Runs, s.Runs[i])
			}
		}
	}
	return out
}

// call gives a set-up the name that its review has for it.
func (s *SetUp) call(r bench.Review) {
	s.About = s.Label
	if _, s.Name = r.SetUps.At(s.Ref()); s.Name != "" {
		s.Label = s.Name
	}
}

type setUpsKey struct{ review string }

// SetUps finds the set-ups of a review in its runs, without those of which every print is
// left out, and its references after them.
func SetUps(t *store.Tx, r bench.Review) ([]SetUp, error) {
	all, err := setUpsOf(t, r)
	if err != nil {
		return nil, err
	}
	references, err := referenceSetUps(t, r)
	all = slices.DeleteFunc(all, func(s SetUp) bool { return len(s.RunIDs) == 0 })
	return append(all, references...), err
}

func setUpsOf(t *store.Tx, r bench.Review) ([]SetUp, error) {
	runs, err := ReviewMembers(t, r)
	if err != nil {
		return nil, err
	}
	out, lookup := []SetUp{}, kit.NewLookup(t)
	position := map[[3]string]int{}
	wanted := map[string]bool{}
	for _, id := range r.PieceIDs {
		wanted[id] = true
	}
	ids := make([]string, len(runs))
	for i, run := range runs {
		ids[i] = run.ID
	}
	tallies, err := t.TalliesOfRuns(ids)
	if err != nil {
		return nil, err
	}
	for _, run := range runs {
		history, err := lookup.History(run.MachineID)
		if err != nil {
			return nil, err
		}
		epoch := since(history.PartedAt(run.StartedMS))
		for _, printed := range tallies[run.ID] {
			if !wanted[printed.PieceID] {
				continue
			}
			key := [3]string{printed.PieceID, run.ProfileID, epoch}
			if _, seen := position[key]; !seen {
				s, err := newSetUp(lookup, run, printed.PieceID)
				if err != nil {
					return nil, err
				}
				if s.Since = epoch; epoch != "" {
					s.Label += ", " + epoch
				}
				s.call(r)
				position[key] = len(out)
				out = append(out, s)
			}
			s := &out[position[key]]
			if _, left := r.LeftOut.Reason(run.ID); left {
				s.LeftOutIDs = append(s.LeftOutIDs, run.ID)
				continue
			}
			s.RunIDs, s.Runs = append(s.RunIDs, run.ID), append(s.Runs, run.Code)
			s.Specimens += printed.Specimens
		}
	}
	slices.SortStableFunc(out, func(a, b SetUp) int {
		placeA, _ := r.SetUps.At(a.Ref())
		placeB, _ := r.SetUps.At(b.Ref())
		return cmp.Or(cmpIndex(r.PieceIDs, a.PieceID, b.PieceID), cmp.Compare(placeA, placeB), cmpIndex(r.MachineIDs, a.MachineID, b.MachineID), cmpIndex(r.ResinIDs, a.ResinID, b.ResinID), cmp.Compare(a.Profile, b.Profile))
	})
	return out, nil
}

// ReviewMembers lists the runs of a review's machines, resins and pieces, by
// their start.
func ReviewMembers(t *store.Tx, r bench.Review) ([]bench.Run, error) {
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
	// A print of several pieces of the review was found once for each.
	slices.SortStableFunc(out, func(a, b bench.Run) int {
		return cmp.Or(cmp.Compare(a.StartedMS, b.StartedMS), cmp.Compare(a.ID, b.ID))
	})
	return slices.CompactFunc(out, func(a, b bench.Run) bool { return a.ID == b.ID }), nil
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

func newSetUp(lookup kit.Lookup, run bench.Run, pieceID string) (SetUp, error) {
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
	piece, err := lookup.Piece(pieceID)
	if err != nil {
		return SetUp{}, err
	}
	return SetUp{
		RunIDs: []string{}, Runs: []string{}, LeftOutIDs: []string{},
		Label:     fmt.Sprintf("%s, %s, %s", m.Name, resin.Name, kit.SettingsName(p)),
		ProfileID: p.ID, MachineID: m.ID, Machine: m.Name, ResinID: resin.ID, Resin: resin.Name, Profile: p.Code, Settings: kit.SettingsName(p), Basis: p.Basis, PieceID: piece.ID, Piece: piece.Name, PieceKind: piece.Kind,
	}, nil
}

// since is a knot in a set-up's name: after upgrade of 2026-11-14.
func since(k *machine.Knot) string {
	if k == nil {
		return ""
	}
	return fmt.Sprintf("after %s of %s", say.Words(say.List(k.Kinds)), say.Day(k.AtMS))
}

// referenceSetUps are the references of a review as sides of their pieces.
func referenceSetUps(t *store.Tx, r bench.Review) ([]SetUp, error) {
	var out []SetUp
	for _, id := range r.ReferenceIDs {
		ref, err := t.Reference(id)
		if err != nil {
			return nil, err
		}
		if !slices.Contains(r.PieceIDs, ref.PieceID) {
			continue // there is nothing that it could be set against
		}
		piece, err := t.Piece(ref.PieceID)
		if err != nil {
			return nil, err
		}
		out = append(out, SetUp{ReferenceID: ref.ID, Label: side.ReferenceLabel(ref), About: ref.Provenance, PieceID: piece.ID, Piece: piece.Name, PieceKind: piece.Kind, RunIDs: []string{ref.ID}, Runs: []string{ref.Code}, Specimens: ref.Copies, LeftOutIDs: []string{}})
	}
	return out, nil
}

// printed are the sides that prints made.
func printed(setups []SetUp) (out []SetUp) {
	for _, s := range setups {
		if s.ReferenceID == "" {
			out = append(out, s)
		}
	}
	return out
}
