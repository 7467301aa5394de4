package inspect

import (
	"context"
	"fmt"
	"math"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/core/viewing"
	"ojime/internal/store"
	"ojime/internal/work/printing"
	"ojime/internal/work/task"
)

// Stage is a stage that copies of a print came to together, with the minutes of rework that
// each took; the stage that they are in already is rework alone.
type Stage struct {
	SpecimenIDs []string `json:"specimen_ids" minItems:"1"`
	Stage       string   `json:"stage" enum:"raw,washed,cured,varnished,primed,painted"`
	ReworkMin   *float64 `json:"rework_min" required:"false" exclusiveMinimum:"0"`
	Note        string   `json:"note" required:"false"`
}

// Reach notes a stage of copies. Stages follow each other: none goes back to an earlier one.
func (w *Tasks) Reach(ctx context.Context, runID string, in Stage) (printing.RunSheet, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (printing.RunSheet, error) {
		sheet, err := printing.ReadRunSheet(t, runID)
		if err != nil {
			return sheet, err
		}
		for i, id := range in.SpecimenIDs {
			at := slices.IndexFunc(sheet.Specimens, func(p bench.Specimen) bool { return p.ID == id })
			if at < 0 || sheet.Specimens[at].SetAside() {
				return sheet, quantity.Errorf(fmt.Sprintf("specimen_ids[%d]", i), "is no copy of %s that can be worked on", sheet.Run.Code)
			}
			now := sheet.StageAt(id, math.MaxInt64)
			if viewing.CompareStages(in.Stage, now) < 0 {
				return sheet, quantity.Errorf("stage", "is %s, and %s is %s already; take that back where it was wrong", in.Stage, sheet.Specimens[at].Code, now)
			}
			if in.Stage == now && in.ReworkMin == nil && strings.TrimSpace(in.Note) == "" {
				return sheet, quantity.Errorf("rework_min", "is missing, and %s is %s already; say how long it was worked on, or choose the next stage", sheet.Specimens[at].Code, now)
			}
			v := bench.SpecimenStage{SpecimenID: id, Stage: in.Stage, AtMS: w.NowMS(), ReworkMin: in.ReworkMin, Note: strings.TrimSpace(in.Note)}
			if v.ID, err = w.NewID(); err != nil {
				return sheet, err
			}
			if err := v.Check(); err != nil {
				return sheet, err
			}
			if err := t.SaveSpecimenStage(v); err != nil {
				return sheet, err
			}
		}
		return printing.ReadRunSheet(t, runID)
	})
}

// TakeStageBack takes a stage of a copy back; it stays on record.
func (w *Tasks) TakeStageBack(ctx context.Context, runID, stageID string) (printing.RunSheet, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (printing.RunSheet, error) {
		sheet, err := printing.ReadRunSheet(t, runID)
		if err != nil {
			return sheet, err
		}
		for _, v := range sheet.Stages {
			if v.ID != stageID {
				continue
			}
			if v.TakenBackMS != nil {
				return sheet, fmt.Errorf("it was taken back already: %w", bench.ErrConflict)
			}
			v.TakenBackMS = quantity.Ptr(w.NowMS())
			if err := t.SaveSpecimenStage(v); err != nil {
				return sheet, err
			}
			return printing.ReadRunSheet(t, runID)
		}
		return sheet, fmt.Errorf("stage %s of %s: %w", stageID, sheet.Run.Code, bench.ErrNotFound)
	})
}
