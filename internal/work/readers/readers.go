// Package readers weighs the set-ups of a review for those whom it is for.
package readers

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/core/verdict"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/findings"
	"ojime/internal/work/ledger"
	"ojime/internal/work/printing"
	"ojime/internal/work/reviews"
	"ojime/internal/work/task"
)

// Tasks are the tasks of this step on one record.
type Tasks struct {
	*task.Base
}

// New makes them.
func New(base *task.Base) *Tasks { return &Tasks{base} }

// ReadersSheet is the readers of a review, each with what the record says for them; what can be weighed, examples to begin
// with, and where what is published and what is weighed do not fit.
type ReadersSheet struct {
	Readers  []ReaderSheet   `json:"readers"`
	Measures []ReaderMeasure `json:"measures"`
	Pieces   []PieceNamed    `json:"pieces"`
	Examples []ReaderExample `json:"examples"`
	Says     []string        `json:"says"`
}

// PieceNamed is a piece of the review by its name.
type PieceNamed struct {
	ID   string `json:"id"`
	Name string `json:"name"`
}

// ReaderExample is a reader to begin with.
type ReaderExample struct {
	Key   string `json:"key"`
	Name  string `json:"name"`
	About string `json:"about"`
}

type sheetKey struct{ review, day string }

// Sheet reads the readers of a review.
func (w *Tasks) Sheet(ctx context.Context, reviewID string) (out ReadersSheet, err error) {
	return task.Recall(&w.Memory, w.Store.Changes(), sheetKey{reviewID, say.Day(w.NowMS())}, func() (ReadersSheet, error) {
		err = w.Store.Read(ctx, func(t *store.Tx) error {
			out, err = w.sheetOf(t, reviewID)
			return err
		})
		return out, err
	})
}

func (w *Tasks) sheetOf(t *store.Tx, reviewID string) (ReadersSheet, error) {
	review, err := t.Review(reviewID)
	if err != nil {
		return ReadersSheet{}, err
	}
	setups, err := reviews.SetUps(t, review)
	if err != nil {
		return ReadersSheet{}, err
	}
	reader := printing.NewReader(t)
	contests, err := reviews.Contests(t, reader, review, setups)
	if err != nil {
		return ReadersSheet{}, err
	}
	claimed, err := ledger.Of(t, reader, review, setups, contests, w.NowMS())
	if err != nil {
		return ReadersSheet{}, err
	}
	found, err := findings.Of(t, review, setups, contests, nil)
	if err != nil {
		return ReadersSheet{}, err
	}
	return Of(t, reviewID, setups, contests, claimed, found, w.NowMS())
}

// Of is the sheet of a review whose contests, claims and findings are known already.
func Of(t *store.Tx, reviewID string, setups []reviews.SetUp, contests []reviews.Contest, claimed ledger.LedgerSheet, found findings.FindingsSheet, nowMS int64) (ReadersSheet, error) {
	out := ReadersSheet{Readers: []ReaderSheet{}, Pieces: []PieceNamed{}, Examples: []ReaderExample{}, Says: []string{}}
	f, err := fieldOf(t, setups, contests, nowMS)
	if err != nil {
		return out, err
	}
	out.Measures = f.measures
	for _, c := range contests {
		out.Pieces = append(out.Pieces, PieceNamed{c.PieceID, c.Piece})
	}
	for _, e := range verdict.Examples {
		out.Examples = append(out.Examples, ReaderExample{e.Key, e.Name, e.About})
	}
	kept, err := t.ReadersOfReview(reviewID)
	if err != nil {
		return out, err
	}
	for _, r := range kept {
		s, err := f.weigh(r, claimed)
		if why, left := quantity.WhyNot(err); left {
			s.Whole, s.Quality, s.Says = nil, nil, append(s.Says, why)
		} else if err != nil {
			return out, err
		}
		out.Readers = append(out.Readers, s)
	}
	out.Says = f.inconsistent(kept, found)
	return out, nil
}

// inconsistent says what is published and weighs nothing for any reader, and what weighs much and has nothing published.
func (f field) inconsistent(readers []bench.Reader, found findings.FindingsSheet) []string {
	out := []string{}
	if len(readers) == 0 {
		return out
	}
	weighs := map[string]bool{}
	for _, r := range readers {
		for _, k := range r.Criteria {
			weighs[k.Measure] = weighs[k.Measure] || k.Weight > 0
		}
	}
	published := map[string]bool{}
	for _, p := range found.Picked {
		key := p.Finding.Measure
		if key == "" {
			continue
		}
		published[key] = true
		if m, known := f.measure(key); known && !weighs[key] && !strings.HasPrefix(key, "time ") {
			out = append(out, fmt.Sprintf("“%s” is published as found (%s), and weighs nothing for any reader: weigh it, or leave it out.", m.Label, p.Finding.Code))
		}
	}
	for _, r := range readers {
		weights := make([]float64, len(r.Criteria))
		for i, k := range r.Criteria {
			weights[i] = k.Weight
		}
		for _, i := range verdict.Heavy(weights) {
			if k := r.Criteria[i]; !published[k.Measure] && k.Measure != ofPrice && !slices.ContainsFunc([]string{ofPiece, livedOf}, func(s string) bool { return strings.HasPrefix(k.Measure, s) }) {
				out = append(out, fmt.Sprintf("“%s” weighs much for %s, and nothing is published about it.", k.Name, r.Name))
			}
		}
	}
	return out
}

var entry = task.Entry[bench.Reader]{
	Table: "reader",
	Head: func(r *bench.Reader) task.Head {
		return task.Head{ID: &r.ID, Code: &r.Code, Version: &r.Version, CreatedMS: &r.CreatedMS}
	},
	Get: (*store.Tx).Reader,
	Put: (*store.Tx).SaveReader,
}

// Begin adds a reader to a review from an example, with the review's own measures where it has them.
func (w *Tasks) Begin(ctx context.Context, reviewID, example string) (bench.Reader, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (bench.Reader, error) {
		at := slices.IndexFunc(verdict.Examples, func(e verdict.Example) bool { return e.Key == example })
		if at < 0 {
			return bench.Reader{}, quantity.Errorf("example", "is %.40q; choose one that is listed", example)
		}
		review, err := t.Review(reviewID)
		if err != nil {
			return bench.Reader{}, err
		}
		setups, err := reviews.SetUps(t, review)
		if err != nil {
			return bench.Reader{}, err
		}
		contests, err := reviews.Contests(t, printing.NewReader(t), review, setups)
		if err != nil {
			return bench.Reader{}, err
		}
		f, err := fieldOf(t, setups, contests, w.NowMS())
		if err != nil {
			return bench.Reader{}, err
		}
		e := verdict.Examples[at]
		r := bench.Reader{ReviewID: reviewID, Name: e.Name, About: e.About, Criteria: bench.ReaderCriteria{}, Limits: bench.ReaderLimits{}}
		for _, wish := range e.Wishes {
			r.Criteria = append(r.Criteria, f.wanted(wish))
		}
		for _, must := range e.Musts {
			r.Limits = append(r.Limits, bench.ReaderLimit{Measure: f.family(must.Family), Name: must.Name, Bound: must.Bound, Value: must.Value})
		}
		return task.Put(w.Base, t, entry, r)
	})
}

// Keep changes a reader: what it weighs, between which anchors, and what it must have.
func (w *Tasks) Keep(ctx context.Context, r bench.Reader) (bench.Reader, error) {
	return task.Save(ctx, w.Base, entry, r, func(t *store.Tx, r *bench.Reader) error {
		old, err := t.Reader(r.ID)
		if err != nil {
			return err
		}
		if old.TakenBackMS != nil {
			return fmt.Errorf("reader %s was taken back: %w", old.Code, bench.ErrConflict)
		}
		r.ReviewID, r.TakenBackMS, r.TakenBackWhy = old.ReviewID, nil, ""
		if r.Limits == nil {
			r.Limits = bench.ReaderLimits{}
		}
		return r.Check()
	})
}

// TakeBack takes a reader out of its review; it stays on record.
func (w *Tasks) TakeBack(ctx context.Context, id, why string) (bench.Reader, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (bench.Reader, error) {
		before, err := t.Reader(id)
		if err != nil {
			return before, err
		}
		if before.TakenBackMS != nil {
			return before, fmt.Errorf("reader %s was taken back before: %w", before.Code, bench.ErrConflict)
		}
		after := before
		after.TakenBackMS, after.TakenBackWhy, after.Version = quantity.Ptr(w.NowMS()), why, before.Version+1
		if err := w.Note(t, "reader", id, "take a reader back", why, before, after); err != nil {
			return before, err
		}
		return after, t.SaveReader(after)
	})
}
