package inspect

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/outcome"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/printing"
	"ojime/internal/work/task"
)

// JudgeSpecimens says what became of specimens of a run, all in one, each with its
// defects as they are now. Defects are appended: one that was changed or left out is
// taken back and stays on record.
func (w *Tasks) JudgeSpecimens(ctx context.Context, runID string, judged []bench.Specimen) (out printing.RunSheet, err error) {
	err = w.Write(ctx, &out, func(t *store.Tx) error {
		if err := w.JudgeIn(t, runID, judged); err != nil {
			return err
		}
		out, err = printing.ReadRunSheet(t, runID)
		return err
	})
	return out, err
}

// JudgeIn is JudgeSpecimens within a transaction.
func (w *Tasks) JudgeIn(t *store.Tx, runID string, judged []bench.Specimen) error {
	specimens, err := t.SpecimensOfRun(runID)
	if err != nil {
		return err
	}
	known := task.ByID(specimens, func(s bench.Specimen) string { return s.ID })
	if err := judgedMeanwhile(known, judged); err != nil {
		return err
	}
	for i, s := range judged {
		old, ok := known[s.ID]
		if !ok {
			return quantity.Errorf(fmt.Sprintf("outcomes[%d].id", i), "is no specimen of this run")
		}
		if err := w.judge(t, old, s); err != nil {
			return task.WithPrefix(fmt.Sprintf("outcomes[%d].", i), err)
		}
	}
	return printing.Count(t, runID)
}

// WouldJudge says what is wrong with a judgement of a specimen, which is not kept.
func (w *Tasks) WouldJudge(t *store.Tx, s bench.Specimen) error {
	s.Defects = slices.Clone(s.Defects)
	if err := began(t, s.RunID, s.Defects); err != nil {
		return err
	}
	if err := s.Check(); err != nil {
		return err
	}
	if beyond := bench.Beyond(s); len(beyond) > 0 {
		return beyond[0]
	}
	return nil
}

// judge puts one judgement in the place of the one before.
func (w *Tasks) judge(t *store.Tx, old, now bench.Specimen) error {
	s := old
	s.Outcome, s.Note = now.Outcome, now.Note
	wanted := now.Defects
	if s.Outcome == outcome.Whole || s.Outcome == outcome.Pending {
		wanted = nil
	}
	if err := began(t, old.RunID, wanted); err != nil {
		return err
	}
	changed, err := w.rewrite(&s, wanted)
	if err != nil {
		return err
	}
	if err := s.Check(); err != nil {
		return err
	}
	s.Weigh()
	if !changed && s.Outcome == old.Outcome && s.Note == old.Note {
		return nil
	}
	s.Version++
	if beyond := bench.Beyond(s); len(beyond) > 0 {
		return beyond[0]
	}
	if err := w.Note(t, "specimen", s.ID, "judge", "", old, s); err != nil {
		return err
	}
	return t.SaveSpecimen(s)
}

// rewrite brings a specimen's defects to what is wanted: what is the same stays, what
// was changed or left out is taken back, what is new is appended.
func (w *Tasks) rewrite(s *bench.Specimen, wanted []bench.Defect) (changed bool, err error) {
	at := w.NowMS()
	by := task.ByID(wanted, func(d bench.Defect) string { return d.ID })
	same := map[string]bool{}
	defects := make([]bench.Defect, len(s.Defects))
	for i, d := range s.Defects {
		want, there := by[d.ID]
		switch {
		case d.TakenBackMS != nil:
		case there && want.TakenBackWhy == "" && saysTheSame(d, want):
			same[d.ID] = true
		default:
			d.TakenBackMS, d.TakenBackWhy, changed = &at, "left out", true
			if there && want.TakenBackWhy != "" {
				d.TakenBackWhy, same[d.ID] = want.TakenBackWhy, true
			} else if there {
				d.TakenBackWhy = "changed"
			}
		}
		defects[i] = d
	}
	for _, d := range wanted {
		if same[d.ID] && d.ID != "" {
			continue
		}
		if d.ID, err = w.NewID(); err != nil {
			return changed, err
		}
		d.SpecimenID, d.AtMS, d.TakenBackMS, d.TakenBackWhy, changed = s.ID, at, nil, "", true
		defects = append(defects, d)
	}
	s.Defects = defects
	return changed, nil
}

func saysTheSame(a, b bench.Defect) bool {
	return a.Symptom == b.Symptom && a.Severity == b.Severity && a.Origin == b.Origin && a.Fault == b.Fault && a.Note == b.Note &&
		quantity.Or(a.BeganLayer, -1) == quantity.Or(b.BeganLayer, -1) && quantity.Or(a.BeganMM, -1) == quantity.Or(b.BeganMM, -1)
}

// judgedMeanwhile refuses judgements of specimens that were judged by someone
// else since they were read, and says how.
func judgedMeanwhile(known map[string]bench.Specimen, outcomes []bench.Specimen) error {
	var changed []string
	for _, s := range outcomes {
		if old, ok := known[s.ID]; ok && s.Version != old.Version {
			changed = append(changed, strings.TrimSpace(fmt.Sprintf("%s is now %s %s", old.Code, say.Words(old.Outcome), old.Symptoms())))
		}
	}
	if len(changed) == 0 {
		return nil
	}
	return &bench.StaleError{Changed: changed}
}

// began tells layer and height where defects began from each other; the height
// counts where both are given.
func began(t *store.Tx, runID string, defects []bench.Defect) error {
	r, err := t.Run(runID)
	if err != nil {
		return err
	}
	p, err := t.Profile(r.ProfileID)
	if err != nil {
		return err
	}
	for i := range defects {
		d := &defects[i]
		switch {
		case d.BeganMM != nil:
			d.BeganLayer = quantity.Ptr(max(1, int64(quantity.Ceil(*d.BeganMM*1000/p.LayerUM))))
		case d.BeganLayer != nil:
			d.BeganMM = quantity.Ptr(float64(*d.BeganLayer) * p.LayerUM / 1000)
		default:
			continue
		}
		if *d.BeganLayer > r.Layers {
			return quantity.Errorf(fmt.Sprintf("defects[%d].began_layer", i), "is %d; %s has %s of %s µm", *d.BeganLayer, r.Code, say.Counted(r.Layers, "layer"), say.Figure(p.LayerUM))
		}
	}
	return nil
}
