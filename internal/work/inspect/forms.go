package inspect

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/metrology"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/printing"
	"ojime/internal/work/task"
)

// ReadForm keeps one reading of a form of a copy; one whose values are far apart is questioned
// unless confirmed.
func (w *Tasks) ReadForm(ctx context.Context, runID string, r bench.FormReading, confirmed bool) (printing.RunSheet, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (printing.RunSheet, error) {
		sheet, err := printing.ReadRunSheet(t, runID)
		if err != nil {
			return sheet, err
		}
		form, err := formOf(&sheet, r)
		if err != nil {
			return sheet, err
		}
		r.Mate = strings.TrimSpace(r.Mate)
		if err := r.Read().Check(form.Kind); err != nil {
			return sheet, err
		}
		if err := tried(form, r); err != nil {
			return sheet, err
		}
		if question := metrology.FormSlip(form.Kind, r.Measured); question != "" && !confirmed {
			return sheet, bench.Questioned("measured", "%s of one %s?", question, form.Name)
		}
		if r.ID, err = w.NewID(); err != nil {
			return sheet, err
		}
		r.RecordedMS, r.TakenBackMS, r.TakenBackWhy = w.NowMS(), nil, ""
		if err := t.SaveFormReading(r); err != nil {
			return sheet, err
		}
		return printing.ReadRunSheet(t, runID)
	})
}

// formOf is the form that is read, of a copy that can be.
func formOf(sheet *printing.RunSheet, r bench.FormReading) (bench.Form, error) {
	p, there := task.ByID(sheet.Specimens, func(p bench.Specimen) string { return p.ID })[r.SpecimenID]
	if !there || p.SetAside() {
		return bench.Form{}, quantity.Errorf("specimen_id", "is no copy of %s that can be measured", sheet.Run.Code)
	}
	form, there := task.ByID(sheet.Forms, func(f bench.Form) string { return f.ID })[r.FormID]
	if !there || form.PieceID != p.PieceID || form.RetiredMS != nil {
		return bench.Form{}, quantity.Errorf("form_id", "is measured on no copy of its piece")
	}
	return form, nil
}

// tried refuses outcomes of clearances that the fit does not have, or has twice.
func tried(form bench.Form, r bench.FormReading) error {
	for i, g := range r.Rungs {
		if !slices.Contains(form.RungsMM, g.RungMM) || slices.ContainsFunc(r.Rungs[:i], func(o metrology.FitRung) bool { return o.RungMM == g.RungMM }) {
			return quantity.Errorf(fmt.Sprintf("rungs[%d].rung_mm", i), "is %v, which is no clearance of %s, or stands twice", g.RungMM, form.Name)
		}
	}
	return nil
}

// TakeFormBack takes a reading of a form back with its reason.
func (w *Tasks) TakeFormBack(ctx context.Context, runID, readingID, why string) (printing.RunSheet, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (printing.RunSheet, error) {
		sheet, err := printing.ReadRunSheet(t, runID)
		if err != nil {
			return sheet, err
		}
		i := slices.IndexFunc(sheet.FormReadings, func(r bench.FormReading) bool { return r.ID == readingID })
		switch {
		case i < 0:
			return sheet, fmt.Errorf("reading %s of %s: %w", readingID, sheet.Run.Code, bench.ErrNotFound)
		case sheet.FormReadings[i].TakenBackMS != nil:
			return sheet, fmt.Errorf("it was taken back already: %w", bench.ErrConflict)
		case strings.TrimSpace(why) == "":
			return sheet, quantity.Errorf("why", "is missing; say why it is taken back")
		}
		r := sheet.FormReadings[i]
		r.TakenBackMS, r.TakenBackWhy = quantity.Ptr(w.NowMS()), strings.TrimSpace(why)
		if err := t.SaveFormReading(r); err != nil {
			return sheet, err
		}
		return printing.ReadRunSheet(t, runID)
	})
}
