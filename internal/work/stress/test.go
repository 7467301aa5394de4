package stress

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/core/stress"
	"ojime/internal/store"
	"ojime/internal/work/task"
)

// Seen is what the test that is next showed: a class of damage and which part it was, or the
// deflection of a bar.
type Seen struct {
	SpecimenID   string   `json:"specimen_id"`
	Level        float64  `json:"level" exclusiveMinimum:"0"`
	Damage       *int64   `json:"damage" required:"false" minimum:"0" maximum:"4"`
	DeflectionMM *float64 `json:"deflection_mm" required:"false" minimum:"0"`
	Part         string   `json:"part" required:"false"`
	Note         string   `json:"note" required:"false"`
}

// Test appends what the next test showed. It names the specimen and level, so that what was
// seen of one never counts for another.
func (w *Tasks) Test(ctx context.Context, seriesID string, seen Seen) (StressSheet, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (StressSheet, error) {
		s, err := t.StressSeries(seriesID)
		if err != nil {
			return StressSheet{}, err
		}
		sheet, err := sheetOf(t, s)
		if err != nil {
			return sheet, err
		}
		if s.EndedMS != nil {
			return sheet, fmt.Errorf("%s was ended: %s; go on with it before more is tested: %w", s.Code, s.EndedWhy, bench.ErrConflict)
		}
		if sheet.Next == nil {
			return sheet, fmt.Errorf("%s has all its tests; take the last one back to correct it: %w", s.Code, bench.ErrConflict)
		}
		if next := sheet.Steps[*sheet.Next]; next.Specimen != seen.SpecimenID || next.Level != seen.Level {
			return sheet, fmt.Errorf("next is %s at %s; load the page again: %w", next.Code, next.Says, bench.ErrConflict)
		}
		if err := stillFresh(t, s, seen.SpecimenID); err != nil {
			return sheet, err
		}
		v := bench.StressTest{StressSeriesID: s.ID, SpecimenID: seen.SpecimenID, Level: seen.Level, Damage: seen.Damage, DeflectionMM: seen.DeflectionMM,
			Part: strings.TrimSpace(seen.Part), Note: strings.TrimSpace(seen.Note), AtMS: w.NowMS()}
		if err := s.Takes(v); err != nil {
			return sheet, err
		}
		if err := rises(sheet, v); err != nil {
			return sheet, err
		}
		if v.ID, err = w.NewID(); err != nil {
			return sheet, err
		}
		if err := t.SaveStressTest(v); err != nil {
			return sheet, err
		}
		return sheetOf(t, s)
	})
}

// stillFresh refuses a specimen of a fresh series that was stressed elsewhere meanwhile.
func stillFresh(t *store.Tx, s bench.StressSeries, specimenID string) error {
	if s.Mode != stress.Fresh {
		return nil
	}
	run, err := t.RunOfSpecimen(specimenID)
	if err != nil {
		return err
	}
	stressed, err := t.StressedOfRuns([]string{run})
	if err != nil {
		return err
	}
	for _, other := range stressed[run] {
		kind, _ := stress.KindOf(other.Series.Kind)
		if other.SpecimenID == specimenID && other.Series.ID != s.ID && !kind.Measured && len(bench.ShownTests(other.Tests)) > 0 {
			return quantity.Errorf("specimen_id", "was stressed in %s meanwhile and is fresh no more", other.Series.Code)
		}
	}
	return nil
}

// rises refuses a deflection that is not above that of a lighter load.
func rises(sheet StressSheet, v bench.StressTest) error {
	for _, step := range sheet.Steps {
		if step.Specimen == v.SpecimenID && step.Test != nil && v.DeflectionMM != nil && step.Level < v.Level && *v.DeflectionMM <= *step.Test.DeflectionMM {
			return quantity.Errorf("deflection_mm", "is %v mm, and under the lighter %s it was %v mm; read it again, or take the last reading back", *v.DeflectionMM, step.Says, *step.Test.DeflectionMM)
		}
	}
	return nil
}

// Undo takes the last test of a series back; it stays on record.
func (w *Tasks) Undo(ctx context.Context, seriesID string) (StressSheet, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (StressSheet, error) {
		s, err := t.StressSeries(seriesID)
		if err != nil {
			return StressSheet{}, err
		}
		tests, err := t.StressTestsOf(seriesID)
		if err != nil {
			return StressSheet{}, err
		}
		for _, last := range slices.Backward(tests) {
			if last.TakenBackMS == nil {
				last.TakenBackMS = quantity.Ptr(w.NowMS())
				if err := t.SaveStressTest(last); err != nil {
					return StressSheet{}, err
				}
				return sheetOf(t, s)
			}
		}
		return StressSheet{}, fmt.Errorf("nothing was tested yet: %w", bench.ErrConflict)
	})
}

// End ends a series before all of it is tested, with the reason. What was tested counts; its
// other specimens stay fresh.
func (w *Tasks) End(ctx context.Context, seriesID, why string) (StressSheet, error) {
	if why = strings.TrimSpace(why); why == "" {
		return StressSheet{}, quantity.Errorf("why", "is missing; say why the series ends before all of it is tested")
	}
	return w.ending(ctx, seriesID, quantity.Ptr(w.NowMS()), why)
}

// GoOn takes the end of a series back.
func (w *Tasks) GoOn(ctx context.Context, seriesID string) (StressSheet, error) {
	return w.ending(ctx, seriesID, nil, "")
}

func (w *Tasks) ending(ctx context.Context, seriesID string, at *int64, why string) (StressSheet, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (StressSheet, error) {
		s, err := t.StressSeries(seriesID)
		if err != nil {
			return StressSheet{}, err
		}
		sheet, err := sheetOf(t, s)
		switch {
		case err != nil:
			return sheet, err
		case (at == nil) == (s.EndedMS == nil):
			return sheet, fmt.Errorf("%s %s: %w", s.Code, map[bool]string{true: "was not ended", false: "was ended already"}[at == nil], bench.ErrConflict)
		case at != nil && sheet.Next == nil:
			return sheet, fmt.Errorf("%s has all its tests: %w", s.Code, bench.ErrConflict)
		}
		s.EndedMS, s.EndedWhy = at, why
		if err := t.SaveStressSeries(s); err != nil {
			return sheet, err
		}
		return sheetOf(t, s)
	})
}

// Weighed is what is measured of a specimen for its series.
type Weighed struct {
	MassG       *float64 `json:"mass_g" required:"false" exclusiveMinimum:"0"`
	WidthMM     *float64 `json:"width_mm" required:"false" exclusiveMinimum:"0"`
	ThicknessMM *float64 `json:"thickness_mm" required:"false" exclusiveMinimum:"0"`
}

// Weigh keeps what was measured of a specimen; what is not given stays.
func (w *Tasks) Weigh(ctx context.Context, seriesID, memberID string, in Weighed) (StressSheet, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (StressSheet, error) {
		s, err := t.StressSeries(seriesID)
		if err != nil {
			return StressSheet{}, err
		}
		members, err := t.StressSpecimensOf(seriesID)
		if err != nil {
			return StressSheet{}, err
		}
		for _, m := range members {
			if m.ID != memberID {
				continue
			}
			m.MassG, m.WidthMM, m.ThicknessMM = or(in.MassG, m.MassG), or(in.WidthMM, m.WidthMM), or(in.ThicknessMM, m.ThicknessMM)
			if err := m.Check(); err != nil {
				return StressSheet{}, err
			}
			if err := t.SaveStressSpecimen(m); err != nil {
				return StressSheet{}, err
			}
			return sheetOf(t, s)
		}
		return StressSheet{}, fmt.Errorf("specimen %s of %s: %w", memberID, s.Code, bench.ErrNotFound)
	})
}

func or(given, known *float64) *float64 {
	if given != nil {
		return given
	}
	return known
}
