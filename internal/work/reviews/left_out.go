package reviews

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/contest"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/compare"
	"ojime/internal/work/printing"
	"ojime/internal/work/task"
)

// LeftOutPrint is a print that a review leaves out, with what that did to its figures.
type LeftOutPrint struct {
	RunID   string   `json:"run_id"`
	Run     string   `json:"run"`
	SetUp   string   `json:"set_up"`
	Reason  string   `json:"reason"`
	Effects []string `json:"effects"`
}

// LeaveOut leaves a print of a review out of its comparisons, for a reason that is
// published; a print left out already gets the new reason.
func (w *Tasks) LeaveOut(ctx context.Context, reviewID string, o bench.LeftOut) (bench.Review, error) {
	o.Reason = strings.TrimSpace(o.Reason)
	return w.changeLeftOut(ctx, reviewID, "leave a print out", o.Reason, func(t *store.Tx, r bench.Review) (bench.LeftOutList, error) {
		if o.Reason == "" {
			return nil, quantity.Errorf("reason", "is empty; say why the print does not count: it is published")
		}
		members, err := ReviewMembers(t, r)
		if err != nil {
			return nil, err
		}
		if !slices.ContainsFunc(members, func(m bench.Run) bool { return m.ID == o.RunID }) {
			return nil, quantity.Errorf("run_id", "names %q, which is no print of this review; choose one of its machines, resins and pieces", o.RunID)
		}
		return append(r.LeftOut.Without(o.RunID), o), nil
	})
}

// TakeBack lets a print count again.
func (w *Tasks) TakeBack(ctx context.Context, reviewID, runID string) (bench.Review, error) {
	return w.changeLeftOut(ctx, reviewID, "take a print back", "", func(_ *store.Tx, r bench.Review) (bench.LeftOutList, error) {
		return r.LeftOut.Without(runID), nil
	})
}

func (w *Tasks) changeLeftOut(ctx context.Context, reviewID, command, why string, change func(*store.Tx, bench.Review) (bench.LeftOutList, error)) (bench.Review, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (bench.Review, error) {
		before, err := t.Review(reviewID)
		if err != nil {
			return before, err
		}
		after := before
		if after.LeftOut, err = change(t, before); err != nil {
			return before, err
		}
		return w.keepReview(t, before, after, command, why)
	})
}

type leftOutKey struct{ review string }

// LeftOut lists the prints that a review leaves out, each with what its figures would be
// with it.
func (w *Tasks) LeftOut(ctx context.Context, reviewID string) (out []LeftOutPrint, err error) {
	return task.Recall(&w.Memory, w.Store.Changes(), leftOutKey{reviewID}, func() ([]LeftOutPrint, error) {
		err = w.Store.Read(ctx, func(t *store.Tx) error {
			review, err := t.Review(reviewID)
			if err != nil {
				return err
			}
			out, err = LeftOut(t, printing.NewReader(t), review)
			return err
		})
		return out, err
	})
}

// LeftOut lists the prints that a review leaves out, as they were left out.
func LeftOut(t *store.Tx, reader *printing.Reader, review bench.Review) ([]LeftOutPrint, error) {
	out := []LeftOutPrint{}
	if len(review.LeftOut) == 0 {
		return out, nil
	}
	setups, err := setUpsOf(t, review)
	if err != nil {
		return nil, err
	}
	for _, o := range review.LeftOut {
		run, err := t.Run(o.RunID)
		if err != nil {
			return nil, err
		}
		p := LeftOutPrint{RunID: o.RunID, Run: run.Code, Reason: o.Reason, Effects: []string{}}
		i := slices.IndexFunc(setups, func(s SetUp) bool { return slices.Contains(s.LeftOutIDs, o.RunID) })
		if i < 0 {
			continue // of a machine, resin or piece that the review no longer names
		}
		p.SetUp = setups[i].Label
		for _, pieceID := range review.PieceIDs {
			effects, err := leavingOut(t, reader, review, ofPiece(setups, pieceID), o.RunID)
			if err != nil {
				return nil, err
			}
			p.Effects = append(p.Effects, effects...)
		}
		out = append(out, p)
	}
	return out, nil
}

// leavingOut is what one print does to the comparison of a piece's set-ups: the others
// that are left out stay so.
func leavingOut(t *store.Tx, reader *printing.Reader, review bench.Review, setups []SetUp, runID string) ([]string, error) {
	of := slices.IndexFunc(setups, func(s SetUp) bool { return slices.Contains(s.LeftOutIDs, runID) })
	if of < 0 {
		return nil, nil
	}
	if len(setups[of].RunIDs) == 0 {
		return []string{fmt.Sprintf("No print of %s is left: it is not compared.", setups[of].Label)}, nil
	}
	without := compare.ComparisonRequest{PieceID: setups[of].PieceID, UnderTest: review.UnderTest, Policy: review.Policy}
	with, side := without, 0
	for i, s := range setups {
		if len(s.RunIDs) == 0 || len(with.Sides) == compare.MostSides {
			continue
		}
		without.Sides = append(without.Sides, s.RunIDs)
		if i == of {
			side = len(with.Sides)
			with.Sides = append(with.Sides, append(slices.Clone(s.RunIDs), runID))
		} else {
			with.Sides = append(with.Sides, s.RunIDs)
		}
	}
	if len(with.Sides) < 2 {
		return nil, nil
	}
	a, err := compare.Match(t, reader, with)
	if err != nil {
		return nil, err
	}
	b, err := compare.Match(t, reader, without)
	if err != nil {
		return nil, err
	}
	names := make([]string, len(b.Unasked().Sides))
	for i, s := range b.Unasked().Sides {
		names[i] = s.Label
	}
	return contest.Changed(a.Unasked().Measures, b.Unasked().Measures, side, names), nil
}

// ofPiece are the set-ups of one piece.
func ofPiece(setups []SetUp, pieceID string) (out []SetUp) {
	for _, s := range setups {
		if s.PieceID == pieceID {
			out = append(out, s)
		}
	}
	return out
}
