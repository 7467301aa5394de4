package inspect

import (
	"context"
	"fmt"
	"reflect"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/printing"
	"ojime/internal/work/task"
)

// SaveOutcomes says what became of the specimens of a run, all in one.
func (w *Tasks) SaveOutcomes(ctx context.Context, runID string, outcomes []bench.Specimen) (out printing.RunSheet, err error) {
	err = w.Write(ctx, &out, func(t *store.Tx) error {
		specimens, err := t.SpecimensOfRun(runID)
		if err != nil {
			return err
		}
		known := task.ByID(specimens, func(s bench.Specimen) string { return s.ID })
		if err := judgedMeanwhile(known, outcomes); err != nil {
			return err
		}
		for i, s := range outcomes {
			old, ok := known[s.ID]
			if !ok {
				return quantity.Errorf(fmt.Sprintf("outcomes[%d].id", i), "is no specimen of this run")
			}
			s.RunID, s.Copy, s.Code, s.Version = old.RunID, old.Copy, old.Code, old.Version
			s.PieceID, s.XMM, s.YMM, s.TurnDeg, s.ExposureS = old.PieceID, old.XMM, old.YMM, old.TurnDeg, old.ExposureS
			s.SwappedWith = old.SwappedWith
			if s.Outcome == "whole" || s.Outcome == "pending" {
				s.Symptom, s.Fault, s.Origin = "", "none", "printed"
				s.Severity, s.BeganLayer, s.BeganMM = "", nil, nil
			}
			if err := began(t, runID, &s); err != nil {
				return task.WithPrefix(fmt.Sprintf("outcomes[%d].", i), err)
			}
			if err := s.Check(); err != nil {
				return task.WithPrefix(fmt.Sprintf("outcomes[%d].", i), err)
			}
			if reflect.DeepEqual(s, old) {
				continue
			}
			s.Version++
			if err := t.SaveSpecimen(s); err != nil {
				return err
			}
		}
		out, err = printing.ReadRunSheet(t, runID)
		return err
	})
	return out, err
}

// judgedMeanwhile refuses judgements of specimens that were judged by someone
// else since they were read, and says how.
func judgedMeanwhile(known map[string]bench.Specimen, outcomes []bench.Specimen) error {
	var changed []string
	for _, s := range outcomes {
		if old, ok := known[s.ID]; ok && s.Version != old.Version {
			changed = append(changed, strings.TrimSpace(fmt.Sprintf("%s is now %s %s", old.Code, strings.ReplaceAll(old.Outcome, "_", " "), old.Symptom)))
		}
	}
	if len(changed) == 0 {
		return nil
	}
	return &bench.StaleError{Changed: changed}
}

// began tells layer and height where a defect began from each other; the height
// counts where both are given.
func began(t *store.Tx, runID string, s *bench.Specimen) error {
	if s.BeganLayer == nil && s.BeganMM == nil {
		return nil
	}
	r, err := t.Run(runID)
	if err != nil {
		return err
	}
	p, err := t.Profile(r.ProfileID)
	if err != nil {
		return err
	}
	if s.BeganMM != nil {
		s.BeganLayer = quantity.Ptr(max(1, int64(quantity.Ceil(*s.BeganMM*1000/p.LayerUM))))
	} else {
		s.BeganMM = quantity.Ptr(float64(*s.BeganLayer) * p.LayerUM / 1000)
	}
	if *s.BeganLayer > r.Layers {
		return quantity.Errorf("began_layer", "is %d; %s has %d layers of %g µm", *s.BeganLayer, r.Code, r.Layers, p.LayerUM)
	}
	return nil
}
