package firstdays

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/core/timing"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/task"
)

// Software is what was done with pieces on a computer: every step, the last first, and what each
// version of each program comes to.
type Software struct {
	Steps    []SaidStep    `json:"steps"`
	Programs []SaidProgram `json:"programs"`
	// Next is the step that follows the last one that was done.
	Next string `json:"next"`
}

// SaidStep is a step with its piece; Again says of one that failed whether the same was tried with
// another version.
type SaidStep struct {
	bench.SoftwareStep
	Piece string `json:"piece"`
	Again string `json:"again"`
}

// SaidProgram is what a version of a program comes to, with a sentence.
type SaidProgram struct {
	timing.Program
	Says string `json:"says"`
}

// SoftwareOf is what was done with one piece, or with all where none is named.
func SoftwareOf(t *store.Tx, pieceIDs ...string) (Software, error) {
	out := Software{Steps: []SaidStep{}, Programs: []SaidProgram{}}
	all, err := t.SoftwareSteps()
	if err != nil {
		return out, err
	}
	piece := task.Memoise(t.Piece)
	var counting []timing.ProgramStep
	var at []int
	for _, s := range all {
		if len(pieceIDs) > 0 && !slices.Contains(pieceIDs, s.PieceID) {
			continue
		}
		p, err := piece(s.PieceID)
		if err != nil {
			return out, err
		}
		out.Steps = append(out.Steps, SaidStep{SoftwareStep: s, Piece: p.Name})
		if s.TakenBackMS == nil {
			counting, at = append(counting, s.Clocked()), append(at, len(out.Steps)-1)
		}
	}
	done := ""
	for i, s := range counting {
		if !s.Failed() {
			done = s.Stage
			continue
		}
		again, tried := timing.TriedAgain(counting, i)
		switch {
		case !tried:
			out.Steps[at[i]].Again = "To be tried again with the next version."
		case again.Failed():
			out.Steps[at[i]].Again = fmt.Sprintf("Tried again with %s: it failed again.", again.Version)
		default:
			out.Steps[at[i]].Again = fmt.Sprintf("Tried again with %s: done.", again.Version)
		}
	}
	for _, p := range timing.ByProgram(counting) {
		out.Programs = append(out.Programs, SaidProgram{p, programWords(p)})
	}
	out.Next = timing.NextStage(done)
	slices.Reverse(out.Steps)
	return out, nil
}

// programWords are what a version of a program comes to, in a sentence.
func programWords(p timing.Program) string {
	var times []string
	for _, s := range p.Stages {
		words := fmt.Sprintf("%s %s (n = %d", s.Stage, say.Duration(s.MedianS), s.N)
		if s.N > 1 {
			words += fmt.Sprintf(", %s to %s", say.Duration(s.LeastS), say.Duration(s.MostS))
		}
		times = append(times, words+")")
	}
	out := strings.Join(times, "; ")
	if out == "" {
		out = "no step was timed"
	}
	out += fmt.Sprintf(". %d of %s failed (95 %%: %s to %s)", p.Failed, say.Counted(int64(p.Steps), "step"), say.Percent(p.CI[0]), say.Percent(p.CI[1]))
	if p.Crashed > 0 {
		out += ", " + say.Counted(int64(p.Crashed), "crash", "crashes") + " among them"
	}
	return out + "."
}

// Software reads what was done on a computer with one piece, or with all.
func (w *Tasks) Software(ctx context.Context, pieceIDs ...string) (out Software, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		for _, id := range pieceIDs {
			if _, err := t.Piece(id); err != nil {
				return err
			}
		}
		out, err = SoftwareOf(t, pieceIDs...)
		return err
	})
	return out, err
}

// ClockStep appends a step of a piece on a computer, now or when it says.
func (w *Tasks) ClockStep(ctx context.Context, pieceID string, s bench.SoftwareStep) (Software, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (out Software, err error) {
		if _, err := t.Piece(pieceID); err != nil {
			return out, err
		}
		if err := s.Check(); err != nil {
			return out, err
		}
		if beyond := bench.Beyond(s); len(beyond) > 0 {
			return out, beyond[0]
		}
		if s.AtMS == 0 {
			s.AtMS = w.NowMS()
		}
		if err := bench.HasBeen("at_ms", s.AtMS, w.NowMS()); err != nil {
			return out, err
		}
		if s.ID, err = w.NewID(); err != nil {
			return out, err
		}
		s.PieceID, s.TakenBackMS, s.TakenBackWhy = pieceID, nil, ""
		if err := t.SaveSoftwareStep(s); err != nil {
			return out, err
		}
		return SoftwareOf(t, pieceID)
	})
}

// TakeStepBack takes a step back with the reason.
func (w *Tasks) TakeStepBack(ctx context.Context, pieceID, stepID, why string) (Software, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (Software, error) {
		if strings.TrimSpace(why) == "" {
			return Software{}, quantity.Errorf("why", "is missing; say why it is taken back")
		}
		all, err := t.SoftwareSteps()
		if err != nil {
			return Software{}, err
		}
		i := slices.IndexFunc(all, func(s bench.SoftwareStep) bool { return s.ID == stepID && s.PieceID == pieceID && s.TakenBackMS == nil })
		if i < 0 {
			return Software{}, fmt.Errorf("step %s of this piece: %w", stepID, bench.ErrNotFound)
		}
		s := all[i]
		s.TakenBackMS, s.TakenBackWhy = quantity.Ptr(w.NowMS()), why
		if err := t.SaveSoftwareStep(s); err != nil {
			return Software{}, err
		}
		return SoftwareOf(t, pieceID)
	})
}
