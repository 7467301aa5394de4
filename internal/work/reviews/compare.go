package reviews

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/compare"
	"ojime/internal/work/printing"
	"ojime/internal/work/task"
)

// Compare audits and compares groups of runs.
func (w *Tasks) Compare(ctx context.Context, req compare.ComparisonRequest) (out compare.Comparison, err error) {
	return task.Recall(&w.Memory, w.Store.Changes(), keyOf(req), func() (compare.Comparison, error) {
		err = w.Store.Read(ctx, func(t *store.Tx) error {
			req, err := named(t, req)
			if err != nil {
				return err
			}
			m, err := compare.Match(t, printing.NewReader(t), req)
			if err != nil {
				return err
			}
			out, err = m.Ask(req.Question)
			return err
		})
		return out, err
	})
}

// comparisonKey is a request as a key: every value of it, each in its place.
type comparisonKey struct {
	sides, question, underTest, policy, piece string
	baseline                                  int
	each                                      bool
	deciding, review                          string
}

func keyOf(r compare.ComparisonRequest) comparisonKey {
	list := func(l []string) string { return strings.Join(l, "\x00") }
	sides := make([]string, len(r.Sides))
	for i, s := range r.Sides {
		sides[i] = list(s)
	}
	deciding := ""
	if d := r.Deciding; d != nil {
		deciding = fmt.Sprintf("%s\x00%d\x00%d", d.Measure, d.Against, quantity.Or(d.Of, -1))
	}
	return comparisonKey{strings.Join(sides, "\x01"), r.Question, list(r.UnderTest), r.Policy, r.PieceID, r.Baseline, r.Each, deciding, r.ReviewID}
}

// named puts the names of a review's set-ups, and what it declared, to a request of it.
func named(t *store.Tx, req compare.ComparisonRequest) (compare.ComparisonRequest, error) {
	if req.ReviewID == "" {
		req.Baseline = max(0, req.Baseline)
		return req, nil
	}
	review, err := t.Review(req.ReviewID)
	if err != nil {
		return req, err
	}
	setups, err := setUpsOf(t, review)
	if err != nil {
		return req, err
	}
	sides := make([]SetUp, len(req.Sides))
	for i, runs := range req.Sides {
		at := slices.IndexFunc(setups, func(s SetUp) bool {
			return (s.PieceID == req.PieceID || req.PieceID == "") && len(runs) > 0 && (slices.Contains(s.RunIDs, runs[0]) || slices.Contains(s.LeftOutIDs, runs[0]))
		})
		if at >= 0 {
			sides[i] = setups[at]
		}
	}
	return Of(req, review, sides), nil
}

// Of is a request whose sides are set-ups of a review: with their names, what the review
// declared, and the baseline that it declared where none was asked for.
func Of(req compare.ComparisonRequest, review bench.Review, sides []SetUp) compare.ComparisonRequest {
	req.Names = make([]string, len(sides))
	for i, s := range sides {
		req.Names[i] = s.Name
	}
	if req.Deciding = decidingAmong(review, sides); req.Baseline < 0 && req.Deciding != nil {
		req.Baseline = req.Deciding.Against
	}
	req.Baseline = max(0, req.Baseline)
	return req
}

// decidingAmong is what a review declared, as it concerns the sides of a comparison; nil
// where nothing stands, or the set-up that the others are set against is none of them.
func decidingAmong(review bench.Review, sides []SetUp) *compare.Deciding {
	d := review.Deciding.Stands()
	if d == nil {
		return nil
	}
	at := func(ref *bench.SetUpRef) int {
		return slices.IndexFunc(sides, func(s SetUp) bool { return ref != nil && s.Ref() == *ref })
	}
	out := &compare.Deciding{Measure: d.Measure, Against: at(d.Against)}
	if out.Against < 0 {
		return nil
	}
	if d.Of != nil {
		of := at(d.Of)
		if of < 0 {
			return nil
		}
		out.Of = &of
	}
	return out
}
