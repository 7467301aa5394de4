package publish

import (
	"context"
	"slices"

	"ojime/internal/core/contest"
	"ojime/internal/core/edition"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/compare"
	"ojime/internal/work/reviews"
	"ojime/internal/work/side"
	"ojime/internal/work/task"
)

// Contest is the set-ups of one piece against each other: one comparison for each
// question.
type Contest struct {
	PieceID string
	Piece   string
	Results []compare.Comparison
	Filled  *reviews.Filled
}

type writeUpKey struct{ reviewID string }

// WriteUp is a review as Markdown, its numbers computed anew from the record when that
// has changed.
func (w *Tasks) WriteUp(ctx context.Context, reviewID string) ([]byte, error) {
	a, err := w.article(ctx, reviewID)
	return a.text, err
}

// article is a write-up as Markdown, with what a page draws beside.
type article struct {
	text     []byte
	title    string
	plots    []string
	pictures []shot
	prints   int
	// figures are those of the review as they read, questioned how many places in its text are.
	figures    []edition.Figure
	questioned int64
	// gaps are the parts that can't be worked out.
	gaps quantity.Gaps
}

func (w *Tasks) article(ctx context.Context, reviewID string) (article, error) {
	return task.Recall(&w.Memory, w.Store.Changes(), writeUpKey{reviewID}, func() (article, error) {
		return w.writeUp(ctx, reviewID)
	})
}

func (w *Tasks) writeUp(ctx context.Context, reviewID string) (out article, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		of, err := w.sheetOf(t, reviewID)
		if err != nil {
			return err
		}
		out, err = written(of)
		return err
	})
	return out, err
}

// Matched is what all pieces of a review show together.
type Matched struct {
	Sides     []side.Side
	Sentences []string
	Counted   int
}

// matchedOf is what all pieces of a review show together; nil where there is one piece.
func matchedOf(together *reviews.Contest) *Matched {
	if together == nil {
		return nil
	}
	c := together.Results[0]
	out := &Matched{Sides: c.Sides, Counted: c.Counted.Table}
	names := make([]string, len(c.Sides))
	for i, s := range c.Sides {
		names[i] = s.Letter
	}
	for _, measure := range c.Measures {
		if slices.ContainsFunc(measure.Pairs, func(p contest.Pair) bool { return p.Kinds > 0 }) {
			out.Sentences = append(out.Sentences, contest.Sentences(measure, names, c.Counted)...)
		}
	}
	return out
}
