package inspect

import (
	"context"
	"errors"
	"fmt"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/printing"
	"ojime/internal/work/task"
)

// ErrQuestioned says that a value is so far from its nominal that it must be
// confirmed before it is kept.
var ErrQuestioned = errors.New("questioned")

// RecordReadings appends readings to a run, all or none. A size far from its
// nominal is questioned unless confirmed; a second reading of the same rung or
// checkpoint must say which one it corrects.
func (w *Tasks) RecordReadings(ctx context.Context, runID string, readings []bench.Reading, confirmed bool) (out printing.RunSheet, err error) {
	err = w.Write(ctx, &out, func(t *store.Tx) error {
		sheet, err := printing.ReadRunSheet(t, runID)
		if err != nil {
			return err
		}
		for i, r := range readings {
			at := fmt.Sprintf("readings[%d].", i)
			if err := accepts(sheet, at, r, confirmed); err != nil {
				return err
			}
			if r.ID, err = w.NewID(); err != nil {
				return err
			}
			r.RecordedMS = w.NowMS()
			if err := t.SaveReading(r); err != nil {
				return err
			}
		}
		out, err = printing.ReadRunSheet(t, runID)
		return err
	})
	return out, err
}

func accepts(s printing.RunSheet, at string, r bench.Reading, confirmed bool) error {
	feature, known := task.ByID(s.Features, func(f bench.Feature) string { return f.ID })[r.FeatureID]
	if !known {
		return quantity.Errorf(at+"feature_id", "is no feature of %s", s.Piece.Name)
	}
	specimen, known := task.ByID(s.Specimens, func(p bench.Specimen) string { return p.ID })[r.SpecimenID]
	if !known {
		return quantity.Errorf(at+"specimen_id", "is no specimen of %s", s.Run.Code)
	}
	if feature.PieceID != quantity.Or(specimen.PieceID, s.Run.PieceID) {
		return quantity.Errorf(at+"feature_id", "belongs to another piece than %s", specimen.Code)
	}
	switch feature.Kind {
	case "dimension":
		if r.ValueMM == nil || r.RungMM != nil || r.State != nil {
			return quantity.Errorf(at+"value_mm", "is missing; %s is measured in millimetres", feature.Name)
		}
		if r.InstrumentID == nil {
			return quantity.Errorf(at+"instrument_id", "is missing; without the instrument a size has no uncertainty")
		}
		if !confirmed && bench.Questionable(*feature.NominalMM, *r.ValueMM) {
			return fmt.Errorf("%w: %w", ErrQuestioned, quantity.Errorf(at+"value_mm", "%g for a nominal of %.2f?", *r.ValueMM, *feature.NominalMM))
		}
	case "pins", "gaps":
		if r.RungMM == nil || r.Intact == nil || r.ValueMM != nil || r.State != nil {
			return quantity.Errorf(at+"rung_mm", "and intact are needed; %s is a ladder", feature.Name)
		}
	case "checkpoint":
		if r.State == nil || r.ValueMM != nil || r.RungMM != nil {
			return quantity.Errorf(at+"state", "is missing; say present, damaged or missing for %s", feature.Name)
		}
	}
	return noDouble(s, at, feature, r)
}

func noDouble(s printing.RunSheet, at string, feature bench.Feature, r bench.Reading) error {
	found := r.CorrectsID == nil
	for _, old := range s.Readings {
		if r.CorrectsID != nil && old.ID == *r.CorrectsID {
			found = old.SpecimenID == r.SpecimenID && old.FeatureID == r.FeatureID
		}
		same := old.SpecimenID == r.SpecimenID && old.FeatureID == r.FeatureID && quantity.Or(old.RungMM, 0) == quantity.Or(r.RungMM, 0)
		if feature.Kind != "dimension" && same && (r.CorrectsID == nil || *r.CorrectsID != old.ID) {
			return quantity.Errorf(at+"corrects_id", "is missing; %s was read already, say that this corrects it", feature.Name)
		}
	}
	if !found {
		return quantity.Errorf(at+"corrects_id", "is no reading of this specimen and feature that still counts")
	}
	return nil
}
