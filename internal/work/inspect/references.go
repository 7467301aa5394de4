package inspect

import (
	"context"
	"fmt"

	"ojime/internal/bench"
	"ojime/internal/core/metrology"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/printing"
	"ojime/internal/work/task"
)

// ReferenceSheet is a reference with what was read of its copies: sizes and ladders as of a
// print. Corrected are readings that were corrected or taken back.
type ReferenceSheet struct {
	Reference bench.Reference  `json:"reference"`
	Piece     bench.Piece      `json:"piece"`
	Features  []bench.Feature  `json:"features"`
	Specimens []bench.Specimen `json:"specimens"`
	Readings  []bench.Reading  `json:"readings"`
	Corrected []bench.Reading  `json:"corrected"`
	// Doubtful are readings taken while their instrument could not be relied on, by their ids.
	Doubtful    []string                 `json:"doubtful"`
	Ratings     []bench.Rated            `json:"ratings"`
	Rerated     []bench.Rated            `json:"rerated"`
	Photographs []bench.Pictured         `json:"photographs"`
	Dimensions  *metrology.SummaryResult `json:"dimensions"`
	Ladders     []printing.LadderResult  `json:"ladders"`
}

var referenceEntry = task.Entry[bench.Reference]{Table: "reference",
	Head: func(r *bench.Reference) task.Head {
		return task.Head{ID: &r.ID, Code: &r.Code, Version: &r.Version, CreatedMS: &r.CreatedMS}
	},
	Get: (*store.Tx).Reference, Put: (*store.Tx).SaveReference}

// SaveReference puts a reference on record, or changes what is said of it. What was read of
// a copy, or of a piece, is not lost by saying otherwise.
func (w *Tasks) SaveReference(ctx context.Context, r bench.Reference) (ReferenceSheet, error) {
	if err := r.Check(); err != nil {
		return ReferenceSheet{}, err
	}
	return task.Keep(ctx, w.Base, func(t *store.Tx) (ReferenceSheet, error) {
		if _, err := t.Piece(r.PieceID); err != nil {
			return ReferenceSheet{}, quantity.Errorf("piece_id", "names a piece that cannot be found (%v)", err)
		}
		if r.ID != "" {
			if err := keepsItsReadings(t, r); err != nil {
				return ReferenceSheet{}, err
			}
		}
		kept, err := task.Put(w.Base, t, referenceEntry, r)
		if err != nil {
			return ReferenceSheet{}, err
		}
		return referenceSheet(t, kept.ID)
	})
}

func keepsItsReadings(t *store.Tx, r bench.Reference) error {
	old, err := t.Reference(r.ID)
	if err != nil {
		return err
	}
	readings, err := t.ReadingsOfReference(r.ID)
	if err != nil {
		return err
	}
	ratings, err := t.RatingsOfReference(r.ID)
	if err != nil {
		return err
	}
	photographs, err := t.PhotographsOfReference(r.ID)
	if err != nil {
		return err
	}
	for _, p := range photographs {
		switch {
		case *p.Copy > r.Copies:
			return quantity.Errorf("copies", "is %d, and copy %d of %s was photographed; say how many there are at least", r.Copies, *p.Copy, old.Code)
		case p.FeatureID != nil && r.PieceID != old.PieceID:
			return quantity.Errorf("piece_id", "cannot be changed: %s has photographs of features of the piece it was; enter another reference", old.Code)
		}
	}
	for _, v := range ratings {
		if *v.Copy > r.Copies {
			return quantity.Errorf("copies", "is %d, and copy %d of %s was rated; say how many there are at least", r.Copies, *v.Copy, old.Code)
		}
	}
	for _, reading := range readings {
		switch {
		case r.PieceID != old.PieceID:
			return quantity.Errorf("piece_id", "cannot be changed: %s has readings of the piece it was; enter another reference", old.Code)
		case reading.Copy > r.Copies:
			return quantity.Errorf("copies", "is %d, and copy %d of %s was read; say how many there are at least", r.Copies, reading.Copy, old.Code)
		}
	}
	return nil
}

// References lists the references with what was read of each.
func (w *Tasks) References(ctx context.Context) (out []ReferenceSheet, err error) {
	out = []ReferenceSheet{}
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		all, err := t.References()
		if err != nil {
			return err
		}
		for _, r := range all {
			sheet, err := referenceSheet(t, r.ID)
			if err != nil {
				return err
			}
			out = append(out, sheet)
		}
		return nil
	})
	return out, err
}

// Reference reads one reference.
func (w *Tasks) Reference(ctx context.Context, id string) (out ReferenceSheet, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		out, err = referenceSheet(t, id)
		return err
	})
	return out, err
}

func referenceSheet(t *store.Tx, id string) (out ReferenceSheet, err error) {
	sheets, err := printing.NewReader(t).Sheets(id)
	if err != nil {
		return out, err
	}
	s := sheets[0]
	if s.Reference == nil {
		return out, fmt.Errorf("reference %s: %w", id, bench.ErrNotFound)
	}
	err = s.Evaluate(t)
	return ReferenceSheet{Reference: *s.Reference, Piece: s.Pieces[0], Features: s.Features, Specimens: s.Specimens, Readings: s.Readings, Corrected: s.Corrected, Doubtful: s.Doubtful, Ratings: s.Ratings, Rerated: s.Rerated, Photographs: s.Photographs, Dimensions: s.Dimensions, Ladders: s.Ladders}, err
}

// ReadReference appends readings to a reference, all or none, by the rules of RecordReadings.
func (w *Tasks) ReadReference(ctx context.Context, id string, readings []bench.ReferenceReading, confirmed bool) (ReferenceSheet, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (ReferenceSheet, error) {
		for i, r := range readings {
			sheets, err := printing.NewReader(t).Sheets(id)
			if err != nil {
				return ReferenceSheet{}, err
			}
			s, at := sheets[0], fmt.Sprintf("readings[%d].", i)
			if s.Reference == nil {
				return ReferenceSheet{}, fmt.Errorf("reference %s: %w", id, bench.ErrNotFound)
			}
			if r.Copy > s.Reference.Copies {
				return ReferenceSheet{}, quantity.Errorf(at+"copy", "is %d; %s has %d", r.Copy, s.Reference.Code, s.Reference.Copies)
			}
			if err := accepts(s, at, r.Of(*s.Reference), confirmed); err != nil {
				return ReferenceSheet{}, err
			}
			if r.ID, err = w.NewID(); err != nil {
				return ReferenceSheet{}, err
			}
			r.ReferenceID, r.RecordedMS, r.TakenBackMS, r.TakenBackWhy = id, w.NowMS(), nil, ""
			if err := t.SaveReferenceReading(r); err != nil {
				return ReferenceSheet{}, err
			}
		}
		return referenceSheet(t, id)
	})
}

// TakeBackOfReference takes a reading of a reference back, with the reason.
func (w *Tasks) TakeBackOfReference(ctx context.Context, id, readingID, why string) (ReferenceSheet, error) {
	if why == "" {
		return ReferenceSheet{}, quantity.Errorf("why", "is missing; say why it is taken back")
	}
	return task.Keep(ctx, w.Base, func(t *store.Tx) (ReferenceSheet, error) {
		readings, err := t.ReadingsOfReference(id)
		if err != nil {
			return ReferenceSheet{}, err
		}
		r, there := task.ByID(readings, func(r bench.ReferenceReading) string { return r.ID })[readingID]
		switch {
		case !there:
			return ReferenceSheet{}, quantity.Errorf("reading_id", "is no reading of this reference")
		case r.TakenBackMS != nil:
			return ReferenceSheet{}, fmt.Errorf("the reading was taken back already: %w", bench.ErrConflict)
		}
		before := r
		r.TakenBackMS, r.TakenBackWhy = quantity.Ptr(w.NowMS()), why
		if err := w.Note(t, "reference_reading", r.ID, "take a reading back", why, before, r); err != nil {
			return ReferenceSheet{}, err
		}
		if err := t.SaveReferenceReading(r); err != nil {
			return ReferenceSheet{}, err
		}
		return referenceSheet(t, id)
	})
}
