package kit

import (
	"context"
	"fmt"

	"ojime/internal/bench"
	"ojime/internal/core/metrology"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/task"
)

// FormKinds are the kinds of form that can be measured.
func (w *Tasks) FormKinds() []metrology.FormKind { return metrology.Forms }

// Forms lists the forms of a piece that are measured.
func (w *Tasks) Forms(ctx context.Context, pieceID string) (out []bench.Form, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		out, err = formsOf(t, pieceID)
		return err
	})
	return out, err
}

func formsOf(t *store.Tx, pieceID string) ([]bench.Form, error) {
	if _, err := t.Piece(pieceID); err != nil {
		return nil, err
	}
	all, err := t.FormsOfPiece(pieceID)
	out := []bench.Form{}
	for _, f := range all {
		if f.RetiredMS == nil {
			out = append(out, f)
		}
	}
	return out, err
}

// AddForm says that a form is measured on a piece from now on.
func (w *Tasks) AddForm(ctx context.Context, pieceID string, f bench.Form) ([]bench.Form, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) ([]bench.Form, error) {
		known, err := formsOf(t, pieceID)
		if err != nil {
			return nil, err
		}
		if err := f.Check(); err != nil {
			return nil, err
		}
		for _, o := range known {
			if o.Name == f.Name && o.Kind == f.Kind {
				return nil, quantity.Errorf("name", "is %q, which is measured already; give it another name", f.Name)
			}
		}
		if f.ID, err = w.NewID(); err != nil {
			return nil, err
		}
		f.PieceID, f.CreatedMS, f.RetiredMS = pieceID, w.NowMS(), nil
		if err := t.SaveForm(f); err != nil {
			return nil, err
		}
		return formsOf(t, pieceID)
	})
}

// RetireForm says that a form is measured no more; what was read of it stays.
func (w *Tasks) RetireForm(ctx context.Context, pieceID, formID string) ([]bench.Form, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) ([]bench.Form, error) {
		f, err := t.Form(formID)
		if err != nil {
			return nil, err
		}
		if f.PieceID != pieceID || f.RetiredMS != nil {
			return nil, fmt.Errorf("form %s is not measured on this piece: %w", f.Name, bench.ErrConflict)
		}
		f.RetiredMS = quantity.Ptr(w.NowMS())
		if err := t.SaveForm(f); err != nil {
			return nil, err
		}
		return formsOf(t, pieceID)
	})
}
