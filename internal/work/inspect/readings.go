package inspect

import (
	"context"
	"fmt"
	"slices"

	"ojime/internal/bench"
	"ojime/internal/core/metrology"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/printing"
	"ojime/internal/work/task"
)

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
			if err := accepts(&sheet, at, r, confirmed); err != nil {
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

func accepts(s *printing.RunSheet, at string, r bench.Reading, confirmed bool) error {
	feature, known := task.ByID(s.Features, func(f bench.Feature) string { return f.ID })[r.FeatureID]
	if !known {
		return quantity.Errorf(at+"feature_id", "is no feature of %s", s.Printed)
	}
	specimen, known := task.ByID(s.Specimens, func(p bench.Specimen) string { return p.ID })[r.SpecimenID]
	if !known {
		return quantity.Errorf(at+"specimen_id", "is no specimen of %s", s.Run.Code)
	}
	if feature.PieceID != specimen.PieceID {
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
		if why := metrology.Slip(*r.ValueMM, *feature.NominalMM*specimen.ScalePct/100, othersOf(s, specimen, r)); why != "" && !confirmed {
			return bench.Questioned(at+"value_mm", "%s", why)
		}
	case "pins", "gaps":
		if r.RungMM == nil || r.Intact == nil || r.ValueMM != nil || r.State != nil {
			return quantity.Errorf(at+"rung_mm", "and intact are needed; %s is a ladder", feature.Name)
		}
		if !slices.Contains(feature.RungsMM, *r.RungMM) {
			return quantity.Errorf(at+"rung_mm", "is %s, which %s has not; it has %s", say.Figure(*r.RungMM), feature.Name, rungsOf(feature))
		}
	case "checkpoint":
		if r.State == nil || r.ValueMM != nil || r.RungMM != nil {
			return quantity.Errorf(at+"state", "is missing; say present, damaged or missing for %s", feature.Name)
		}
	}
	return noDouble(s, at, feature, r)
}

// rungsOf are the sizes of a ladder, in words.
func rungsOf(f bench.Feature) string {
	words := make([]string, len(f.RungsMM))
	for i, mm := range f.RungsMM {
		words[i] = say.Figure(mm)
	}
	return say.List(words) + " mm"
}

// othersOf are the sizes of a feature on copies of the same scale of the print, or reference,
// but for the one that a reading corrects.
func othersOf(s *printing.RunSheet, specimen bench.Specimen, r bench.Reading) (out []float64) {
	scale := map[string]float64{}
	for _, p := range s.Specimens {
		scale[p.ID] = p.ScalePct
	}
	for _, old := range s.Readings {
		if old.FeatureID == r.FeatureID && old.ValueMM != nil && scale[old.SpecimenID] == specimen.ScalePct && old.ID != quantity.Or(r.CorrectsID, "") {
			out = append(out, *old.ValueMM)
		}
	}
	return out
}

func noDouble(s *printing.RunSheet, at string, feature bench.Feature, r bench.Reading) error {
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

// TakeBack takes a reading back: it stays on record with the reason, and counts no
// more. What it corrected counts again.
func (w *Tasks) TakeBack(ctx context.Context, runID, readingID, why string) (out printing.RunSheet, err error) {
	if why == "" {
		return out, quantity.Errorf("why", "is missing; say why it is taken back")
	}
	err = w.Write(ctx, &out, func(t *store.Tx) error {
		readings, err := t.ReadingsOfRun(runID)
		if err != nil {
			return err
		}
		r, there := task.ByID(readings, func(r bench.Reading) string { return r.ID })[readingID]
		if !there {
			return quantity.Errorf("reading_id", "is no reading of this print")
		}
		if r.TakenBackMS != nil {
			return fmt.Errorf("the reading was taken back already: %w", bench.ErrConflict)
		}
		before := r
		r.TakenBackMS, r.TakenBackWhy = quantity.Ptr(w.NowMS()), why
		if err := w.Note(t, "reading", r.ID, "take a reading back", why, before, r); err != nil {
			return err
		}
		if err := t.SaveReading(r); err != nil {
			return err
		}
		out, err = printing.ReadRunSheet(t, runID)
		return err
	})
	return out, err
}
